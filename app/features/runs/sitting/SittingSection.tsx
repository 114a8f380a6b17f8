import type { RunDetail } from '@pace-check/contract';
import { clock } from '@pace-check/core';
import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { Stack } from '../../../ui/parts';
import { Section } from '../../../ui/Section';
import { Body, Quiet } from '../../../ui/words';
import { DrainList, HoursOfPlay, SittingCautions, SwitchList, TitleBand, TitleList } from './told';

/** On a run's page: its titles, and what each switch did; the rest stands on a page of its own. */
export function SittingSection({ run }: { run: RunDetail }): ReactNode {
  const { sitting, longPlay } = run.figures;
  if (sitting === null && longPlay === null) return null;
  return (
    <Section title={sitting === null ? 'Long-play summary' : 'Titles and changes'}>
      {sitting !== null && sitting.titles.length > 1 ? (
        <Stack gap={8}>
          <TitleBand titles={sitting.titles} />
          <TitleList titles={sitting.titles} parts={run.parts} />
          <DrainList drain={sitting.drain} />
        </Stack>
      ) : null}
      {sitting === null ? null : <SwitchList sitting={sitting} />}
      <SittingCautions run={run} />
      {sitting === null ? (
        <HoursOfPlay play={longPlay!} />
      ) : (
        <Link href={`/runs/${run.id}/sitting`}>
          <Body style={{ textDecorationLine: 'underline' }}>Session timeline</Body>
          <Quiet>{' with the level each spot would reach'}</Quiet>
        </Link>
      )}
    </Section>
  );
}

/** Of a run that is a stretch of a sitting: which, and where in it. */
export function PartOf({ run: { part } }: { run: Pick<RunDetail, 'part'> }): ReactNode {
  if (part === null) return null;
  return (
    <Body small>
      {`${clock(part.fromMs / 1000)} to ${clock(part.toMs / 1000)} of `}
      <Link href={`/runs/${part.sittingId}/sitting`}>
        <Body small style={{ textDecorationLine: 'underline' }}>{`“${part.sittingName}”`}</Body>
      </Link>
      {part.fromMs > 0
        ? ': it started warm from the titles before. Edit its entries on the session’s page.'
        : ': edit its entries on the session’s page.'}
    </Body>
  );
}
