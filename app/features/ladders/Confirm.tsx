import type { LadderDetail, LadderDoc } from '@pace-check/contract';
import { FULL_SPEED, type SearchState } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import type { Writing } from '../../api/useDocument';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Body, Quiet } from '../../ui/words';

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
  const router = useRouter();
  if (state.best === 0) return null;
  const rung = doc.rungs[state.best - 1]!.name;
  if (doc.confirmed)
    return (
      <Section title="Confirmed">
        <Body small>{`${doc.confirmed.rung}: ${doc.confirmed.says}.`}</Body>
        <Row>
          <Button
            type="clear"
            title="Take it back"
            aria-label="Take the confirmation back"
            onPress={() => change((before) => ({ ...before, confirmed: null }))}
          />
        </Row>
      </Section>
    );
  const take = ({ id: runId, name, says, speed, holds }: LadderDetail['runs'][number]): void => {
    if (holds ?? (speed !== null && speed >= FULL_SPEED))
      change((before) => ({ ...before, confirmed: { runId, rung, says: `${name}, ${says}` } }));
    else
      onProbe({
        id: uuid(),
        rung,
        percent: Math.round(speed! * 1000) / 10,
        fps: null,
        holds: false,
        firstPlay: false,
        note: `it throttles: ${name}`,
        at: new Date().toISOString(),
        runId,
      });
  };
  return (
    <Section title={`Confirm ${rung}`}>
      <Quiet>{`A run of a quarter of an hour or more at ${rung}. A short probe knows nothing of the heat.`}</Quiet>
      <Stack role="list" aria-label="Sustained runs">
        {ladder.runs.map((run) => (
          <Row key={run.id} role="listitem" apart align="center" gap={8}>
            <Stack style={{ flexShrink: 1 }}>
              <Body small>{run.name}</Body>
              <Quiet>{run.says}</Quiet>
            </Stack>
            <Button
              type="clear"
              title="It was this"
              aria-label={`It was ${run.name}`}
              disabled={run.speed === null}
              onPress={() => take(run)}
            />
          </Row>
        ))}
      </Stack>
      <Row>
        <Button type="outline" title="Record one at the bench" onPress={() => router.navigate('/bench')} />
      </Row>
    </Section>
  );
}
