import {
  ROUTES,
  NO_FILTER,
  type ComparedRun,
  type ComparisonDetail,
  type RunSummary,
} from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { Link } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { useChangeComparison } from '../../api/compare';
import { useRuns } from '../../api/queries';
import { Flag } from '../../forms/Flag';
import { day } from '../../ui/figures';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Failed, Loading } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { useVoice } from '../../ui/Voice';
import { Body, Heading, Quiet } from '../../ui/words';
import { IfMay } from '../../ui/Role';

/** What stands on each side, and other runs in its place. */
export function Sides({ comparison }: { comparison: ComparisonDetail }): ReactNode {
  const [open, setOpen] = useState<number | null>(null);
  return (
    <Section title="Runs of each side">
      {comparison.side.map((side, i) => (
        <Stack key={i} gap={4} role="group" aria-label={side.name}>
          <Row apart align="center" gap={8}>
            <Heading level={3} style={{ flexShrink: 1 }}>
              {side.name}
            </Heading>
            <IfMay route={ROUTES.changeComparison}>
              <Button
                type="clear"
                title={open === i ? 'Close' : 'Change'}
                aria-label={`Change the runs of ${side.name}`}
                onPress={() => setOpen(open === i ? null : i)}
              />
            </IfMay>
          </Row>
          {side.runs.map((run) => (
            <Link key={run.id} href={`/runs/${run.id}`}>
              <Body small style={{ textDecorationLine: 'underline' }}>
                {sayRun(run)}
              </Body>
            </Link>
          ))}
          {side.runs.length === 0 ? <Quiet>No runs left on this side.</Quiet> : null}
          {open === i ? <ChangeSide comparison={comparison} place={i} onDone={() => setOpen(null)} /> : null}
        </Stack>
      ))}
    </Section>
  );
}

const sayRun = (run: Pick<ComparedRun, 'title' | 'setup' | 'startedAt' | 'word'>): string =>
  [run.title, run.setup, run.startedAt ? day(run.startedAt) : null, run.word].filter(Boolean).join(' · ');

/** Runs that may stand on a side: of its device and title, to be ticked. */
function ChangeSide({
  comparison,
  place,
  onDone,
}: {
  comparison: ComparisonDetail;
  place: number;
  onDone: () => void;
}): ReactNode {
  const side = comparison.side[place]!;
  const model = side.runs[0] ?? comparison.side.flatMap((one) => one.runs)[0];
  const oneTitle = comparison.kind !== 'matrix';
  const runs = useRuns({
    ...NO_FILTER,
    device: model && side.runs.length > 0 ? model.device : null,
    title: model && oneTitle ? model.title : null,
  });
  const [chosen, setChosen] = useState(() => new Set(side.runs.map((run) => run.id)));
  // what another screen does to the sides meanwhile is not written over
  const [seen] = useState(() => comparison.side.map((one) => one.runs.map((run) => run.id)));
  const change = useChangeComparison(comparison.id);
  const toast = useToast();
  const elsewhere = new Set(
    comparison.side.flatMap((one, i) => (i === place ? [] : one.runs.map((run) => run.id))),
  );
  if (runs.isPending) return <Loading rows={2} height={60} label="Looking for runs" />;
  if (runs.error) return <Failed error={runs.error} retry={() => void runs.refetch()} />;
  const found = runs.data.pages.flat().filter((run) => !elsewhere.has(run.id) && !run.recording);
  const keep = (): void =>
    change.mutate(
      {
        seen,
        sides: comparison.side.map((one, i) => ({
          name: one.given,
          runs: i === place ? [...chosen] : one.runs.map((run) => run.id),
        })),
      },
      {
        onSuccess: onDone,
        onError: (error) => toast({ text: `Sides not changed: ${error.message}` }),
      },
    );
  return (
    <Sheet gap={4}>
      {found.map((run) => (
        <RunToTick
          key={run.id}
          run={run}
          ticked={chosen.has(run.id)}
          onTick={() =>
            setChosen((before) => {
              const next = new Set(before);
              if (!next.delete(run.id)) next.add(run.id);
              return next;
            })
          }
        />
      ))}
      {runs.hasNextPage ? (
        <Button type="clear" title="Show more runs" onPress={() => void runs.fetchNextPage()} />
      ) : null}
      <Row>
        <Button
          title="Use selected runs"
          disabled={chosen.size === 0}
          loading={change.isPending}
          onPress={keep}
        />
      </Row>
    </Sheet>
  );
}

function RunToTick({
  run,
  ticked,
  onTick,
}: {
  run: RunSummary;
  ticked: boolean;
  onTick: () => void;
}): ReactNode {
  const voice = useVoice();
  const says = [
    run.device,
    run.title,
    run.setup,
    run.startedAt ? day(run.startedAt) : null,
    run.roomC === null ? 'room unknown' : `room ${voice.temperature(run.roomC)}`,
    run.headline?.stamina.word,
  ]
    .filter(Boolean)
    .join(' · ');
  return <Flag label={says} value={ticked} onChange={onTick} />;
}
