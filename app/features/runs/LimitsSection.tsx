import type { RunDetail } from '@pace-check/contract';
import { limitName, sayLimits, saySign, type LimitCandidate, type LimitSign } from '@pace-check/core';
import type { ReactNode } from 'react';
import { useLimits } from '../../api/compare';
import { Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { useVoice } from '../../ui/Voice';
import { Body, Quiet } from '../../ui/words';

const SIDES: [side: 'for' | 'against' | 'open', word: string][] = [
  ['for', 'for'],
  ['against', 'against'],
  ['open', 'no evidence'],
];

/** What limits a run: each candidate with what was seen for and against it. */
export function LimitsSection({
  run,
  of,
}: {
  run: Pick<RunDetail, 'id'>;
  /** Its name, where several stand under one another. */
  of?: string;
}): ReactNode {
  const limits = useLimits(run.id).data;
  const { unit } = useVoice();
  if (!limits) return null;
  const seen = limits.candidates.filter((one) => SIDES.some(([side]) => one[side].length > 0));
  if (seen.length === 0) return null;
  const says = (signs: LimitSign[]): string => signs.map((sign) => saySign(sign, unit)).join('; ');
  return (
    <Section title={of === undefined ? 'What limits performance?' : `What limits performance in ${of}?`}>
      <Body>{sayLimits(limits)}</Body>
      <Stack
        role="list"
        aria-label={`Evidence for and against each limit${of === undefined ? '' : `, ${of}`}`}
        gap={6}
      >
        {seen.map((one: LimitCandidate) => (
          <Stack key={one.limit} role="listitem">
            <Body small head>
              {limitName(one.limit)}
            </Body>
            {SIDES.map(([side, word]) =>
              one[side].length === 0 ? null : <Quiet key={side}>{`${word}: ${says(one[side])}`}</Quiet>,
            )}
          </Stack>
        ))}
      </Stack>
    </Section>
  );
}
