import { ROUTES, type LadderDetail, type LadderDoc, type TriedRun } from '@pace-check/contract';
import { FULL_SPEED, SUSTAINED_S, type SearchState } from '@pace-check/core';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import type { Writing } from '../../api/useDocument';
import { Row } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Body, Quiet } from '../../ui/words';
import { probeOfRun } from './probeOfRun';
import { GetRun, TakeRuns } from './TakeRuns';
import { IfMay } from '../../ui/Role';

/** One sustained run confirms what was found; where it throttles, that is a probe that did not hold. */
export function Confirm({
  ladder,
  doc,
  change,
  state,
  onProbe,
}: {
  ladder: LadderDetail;
  state: SearchState;
  onProbe: (probe: LadderDoc['probes'][number]) => void;
} & Pick<Writing<LadderDoc>, 'doc' | 'change'>): ReactNode {
  if (state.best === 0) return null;
  const rung = doc.rungs[state.best - 1]!.name;
  if (doc.confirmed)
    return (
      <Section title="Confirmed">
        <Body small>{`${doc.confirmed.rung}: ${doc.confirmed.says}.`}</Body>
        <IfMay route={ROUTES.changeLadder}>
          <Row>
            <Button
              type="clear"
              title="Undo confirmation"
              aria-label="Undo the confirmation"
              onPress={() => change((before) => ({ ...before, confirmed: null }))}
            />
          </Row>
        </IfMay>
      </Section>
    );
  const take = (run: TriedRun): void => {
    if (run.holds ?? (run.speed !== null && run.speed >= FULL_SPEED))
      change((before) => ({
        ...before,
        confirmed: {
          runId: run.id,
          rung,
          says: [run.name, run.setup].filter(Boolean).join(' · ') + `, ${run.says}`,
        },
      }));
    else onProbe({ ...probeOfRun(run, rung), holds: false, note: `throttles: ${run.name}` });
  };
  return (
    <Section title={`Confirm ${rung}`}>
      <Quiet>{`Play ${rung} for at least 15 minutes. Short tests do not show the effect of heat.`}</Quiet>
      <IfMay route={ROUTES.changeLadder}>
        <TakeRuns
          label="Runs of 15 minutes or more"
          runs={ladder.runs.filter((run) => run.sustained)}
          word="Use as confirmation"
          canTake={(run) => run.speed !== null}
          onTake={take}
        />
        <GetRun device={doc.device} title={doc.title} minutes={Math.ceil(SUSTAINED_S / 60)} />
      </IfMay>
    </Section>
  );
}
