import type { ComparisonSide } from '@pace-check/contract';
import { onOneScale } from '@pace-check/core';
import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { Lane } from '../../charts/Lane';
import { day } from '../../ui/figures';
import { useWide } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Body, Heading, Quiet } from '../../ui/words';

/** Runs of every side as lanes one over the other, on one clock. */
export function SideLanes({ side }: { side: ComparisonSide[] }): ReactNode {
  const wide = useWide();
  const runs = side.flatMap((one) => one.runs);
  const lanes = new Map(onOneScale(runs).map((run) => [run.id, run.lane]));
  const scaleS = runs.reduce((longest, run) => Math.max(longest, run.lane.seconds), 60);
  return (
    <Stack gap={10} role="list" aria-label="Lanes on one time axis">
      {side.map((one) => (
        <Stack key={one.name} gap={4} role="listitem">
          <Heading level={3}>{one.name}</Heading>
          {one.runs.map((run) => (
            <Stack key={run.id} gap={2}>
              <Row apart gap={8} wrap>
                <Link href={`/runs/${run.id}`}>
                  <Body small style={{ textDecorationLine: 'underline' }}>
                    {[run.title, run.setup].filter(Boolean).join(', ')}
                  </Body>
                </Link>
                <Quiet>
                  {[run.word, run.startedAt ? day(run.startedAt) : null].filter(Boolean).join(' · ')}
                </Quiet>
              </Row>
              <Lane lane={lanes.get(run.id)!} scaleS={scaleS} height={wide ? 54 : 48} />
            </Stack>
          ))}
        </Stack>
      ))}
    </Stack>
  );
}
