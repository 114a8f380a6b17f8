import { NEED_WORDS, type Need } from '@pace-check/core';
import type { ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { useKit } from '../api/queries';
import { Choices } from '../ui/Choices';
import { Quiet } from '../ui/words';
import { Stack } from '../ui/parts';
import { usualOf, type Known } from './usualOf';

/** What somebody chose for a run: null where it follows the kit. */
export interface Asked {
  target: number | 'none' | null;
  need: Need | 'none' | null;
}
export const NOT_ASKED: Asked = { target: null, need: null };

const TARGETS = [30, 40, 45, 60, 90, 120];

/** Target and need as two rows of taps, filled in from what is known, and marked where from. */
export function TargetNeed({
  title,
  setup,
  asked,
  onAsked,
}: {
  title: string;
  setup: string | null;
  asked: Asked;
  onAsked: (asked: Asked) => void;
}): ReactNode {
  const { target, need } = usualOf(useKit().data, title, setup);
  const rates = [...new Set([...TARGETS, ...(target ? [target.value] : [])])].sort((a, b) => a - b);
  const from = (own: unknown, known: Known<unknown> | null): string =>
    own !== null
      ? 'for this run'
      : known
        ? `from the kit: ${known.from}`
        : 'not set; your choice is saved with the title';
  return (
    <Stack gap={6}>
      <Quiet>{`Target rate, fps: ${from(asked.target, target)}`}</Quiet>
      <ScrollView horizontal showsHorizontalScrollIndicator={false}>
        <Choices
          label="Target rate, fps"
          options={[
            ...rates.map((value) => ({ value: String(value), text: String(value) })),
            { value: 'none', text: 'none' },
          ]}
          selected={asked.target === null ? (target ? String(target.value) : null) : String(asked.target)}
          onSelect={(value) => onAsked({ ...asked, target: value === 'none' ? 'none' : Number(value) })}
        />
      </ScrollView>
      <Quiet>{`Title type: ${from(asked.need, need)}`}</Quiet>
      <Choices
        label="Title type"
        options={NEED_WORDS.map((value) => ({ value, text: value }))}
        selected={asked.need === null ? (need?.value ?? null) : asked.need === 'none' ? null : asked.need}
        onSelect={(value) => onAsked({ ...asked, need: value === asked.need ? null : value })}
      />
    </Stack>
  );
}

/** The same as a request for a new run has it. */
export const askedOf = ({
  target,
  need,
}: Asked): { target: number | null; need: Need | null; none: ('target' | 'need')[] } => ({
  target: target === 'none' ? null : target,
  need: need === 'none' ? null : need,
  none: [...(target === 'none' ? ['target' as const] : []), ...(need === 'none' ? ['need' as const] : [])],
});
