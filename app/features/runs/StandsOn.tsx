import type { RunDetail } from '@pace-check/contract';
import { BY_HAND, clock, sayRead, type Covered, type SourceUse } from '@pace-check/core';
import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { count, fps } from '../../ui/figures';
import { Notice } from '../../ui/states';
import { Body, Quiet } from '../../ui/words';
import { Stack } from '../../ui/parts';

const MEASURES: Record<SourceUse['measure'], string> = {
  frames: 'Frames',
  battery: 'Battery',
  power: 'Power',
  load: 'Load',
  refresh: 'Panel',
  link: 'Network',
};

/** Which sources the figures stand on, where there is more to say than one file. */
export function StandsOn({ run }: { run: RunDetail }): ReactNode {
  const { recorded } = run;
  const { coverage } = run.figures;
  if (run.recording) {
    return (
      <Notice
        title="Still recording"
        action={
          <Link href={`/bench/${run.id}`}>
            <Body style={{ textDecorationLine: 'underline' }}>Open at the bench</Body>
          </Link>
        }
      >
        Figures appear when the recording has ended.
      </Notice>
    );
  }
  const parts = coverage.length > 1 ? coverage : [];
  const uses = recorded?.used ?? [];
  if (parts.length === 0 && uses.length === 0) return null;
  const nameOf = (source: string): string =>
    source === BY_HAND
      ? 'typed by hand'
      : (recorded?.sources.find((one) => one.id === source)?.name ?? 'a logger');
  return (
    <Stack role="region" aria-label="What the figures are based on" gap={2}>
      {parts.map((part) => (
        <Body
          key={part.fromS}
          small
        >{`${clock(part.fromS)} to ${clock(part.toS)}: ${sayCovered(part)}`}</Body>
      ))}
      {uses.length > 0 ? <Quiet>{saySources(uses, nameOf)}</Quiet> : null}
    </Stack>
  );
}

function sayCovered({ from, average, readings, said }: Covered): string {
  if (from === 'frames') return `frames, ${fps(average)} fps.`;
  if (from === 'none') return 'no data.';
  return `no frames; ${said ? sayRead(said) : `${fps(average)} fps`} ${from === 'eye' ? 'by eye' : 'from a counter'}, ${count(readings, 'reading')}. Not counted in the figures below.`;
}

/** "Frames: logger, capture. Battery: typed by hand." */
function saySources(uses: SourceUse[], nameOf: (source: string) => string): string {
  const byMeasure = new Map<SourceUse['measure'], string[]>();
  for (const { measure, source } of uses)
    byMeasure.set(measure, [...new Set([...(byMeasure.get(measure) ?? []), nameOf(source)])]);
  return [...byMeasure]
    .map(([measure, names]) => `${MEASURES[measure]}: ${names.join(', then ')}.`)
    .join(' ');
}
