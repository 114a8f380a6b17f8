import {
  UNIT_NAMES,
  type ColumnChoice,
  type ColumnGuess,
  type TextLayout,
  type TimeUnit,
} from '@pace-check/core';
import type { ComponentProps, ReactNode } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { Choices } from '../../../ui/Choices';
import { ARROWS } from '../../../ui/arrows';
import { usePalette } from '../../../ui/Look';
import { FONTS, TARGET } from '../../../ui/theme';
import { Body, FigureText, Quiet } from '../../../ui/words';
import { Stack } from '../../../ui/parts';

const UNITS: { value: TimeUnit; text: string; spoken: string }[] = [
  { value: 's', text: 's', spoken: UNIT_NAMES.s },
  { value: 'ms', text: 'ms', spoken: UNIT_NAMES.ms },
  { value: 'us', text: 'µs', spoken: UNIT_NAMES.us },
  { value: 'ns', text: 'ns', spoken: UNIT_NAMES.ns },
];
const KINDS: { value: ColumnChoice['kind']; text: string }[] = [
  { value: 'frame-time', text: 'Frame times' },
  { value: 'timestamp', text: 'Timestamps' },
];
const DELIMITERS: { value: TextLayout['delimiter']; text: string }[] = [
  { value: ',', text: 'comma' },
  { value: ';', text: 'semicolon' },
  { value: '\t', text: 'tab' },
];
const MARKS: { value: TextLayout['decimalMark']; text: string }[] = [
  { value: '.', text: 'point' },
  { value: ',', text: 'comma' },
];
const PREVIEW_ROWS = 5;

interface Props {
  layout: TextLayout;
  guesses: ColumnGuess[];
  choice: ColumnChoice | null;
  why: string | null;
  onChoice: (choice: ColumnChoice) => void;
  onSplit: (given: Partial<Pick<TextLayout, 'delimiter' | 'decimalMark'>>) => void;
}

/** Which column holds the frames, and in which unit: guessed, shown, and the person's to correct. */
export function ColumnsForm({ layout, guesses, choice, why, onChoice, onSplit }: Props): ReactNode {
  const change = (part: Partial<ColumnChoice>): void => {
    const { column, kind, unit } = {
      column: 0,
      kind: 'frame-time' as const,
      unit: 'ms' as const,
      ...choice,
      ...part,
    };
    onChoice({ column, kind, unit });
  };
  return (
    <Stack gap={10}>
      <Body>
        {why
          ? `Suggested: ${why}. Tap another column to change it.`
          : 'Tap the column with the frame times or timestamps.'}
      </Body>
      <FirstRows
        layout={layout}
        column={choice?.column ?? null}
        onColumn={(column) => change(guesses.find((guess) => guess.column === column) ?? { column })}
      />
      <Labelled
        label="Content of the column"
        options={KINDS}
        selected={choice?.kind ?? null}
        onSelect={(kind) => change({ kind })}
      />
      <Labelled
        label="Unit"
        options={UNITS}
        selected={choice?.unit ?? null}
        onSelect={(unit) => change({ unit })}
      />
      <Labelled
        label="Column separator"
        options={DELIMITERS}
        selected={layout.delimiter}
        onSelect={(delimiter) => onSplit({ delimiter })}
      />
      <Labelled
        label="Decimal mark"
        options={MARKS}
        selected={layout.decimalMark}
        onSelect={(decimalMark) => onSplit({ delimiter: layout.delimiter, decimalMark })}
      />
    </Stack>
  );
}

function FirstRows({
  layout,
  column,
  onColumn,
}: {
  layout: TextLayout;
  column: number | null;
  onColumn: (column: number) => void;
}): ReactNode {
  const { line, action, onAction, sheet, track } = usePalette();
  return (
    <ScrollView
      horizontal
      tabIndex={0}
      role="radiogroup"
      aria-label="First rows of the file"
      style={{ borderWidth: 1, borderColor: line, borderRadius: 6, backgroundColor: sheet }}
      contentContainerStyle={{ flexGrow: 1 }}
    >
      {layout.headings.map((heading, i) => {
        const chosen = i === column;
        return (
          <Pressable
            key={i}
            role="radio"
            {...ARROWS}
            aria-checked={chosen}
            aria-label={`Column ${heading}`}
            onPress={() => onColumn(i)}
            style={{
              minWidth: 92,
              flexGrow: 1,
              maxWidth: 220,
              borderRightWidth: 1,
              borderColor: line,
              backgroundColor: chosen ? track : 'transparent',
            }}
          >
            <View
              style={{
                minHeight: TARGET,
                justifyContent: 'center',
                paddingHorizontal: 10,
                backgroundColor: chosen ? action : 'transparent',
              }}
            >
              <Body
                numberOfLines={2}
                style={{
                  fontFamily: FONTS.head,
                  fontSize: 15,
                  lineHeight: 19,
                  color: chosen ? onAction : undefined,
                }}
              >
                {heading}
              </Body>
            </View>
            {layout.rows.slice(0, PREVIEW_ROWS).map((row, r) => (
              <FigureText
                key={r}
                size={15}
                numberOfLines={1}
                style={{ paddingHorizontal: 10, paddingVertical: 2, textAlign: 'right' }}
              >
                {row[i] ?? ''}
              </FigureText>
            ))}
          </Pressable>
        );
      })}
    </ScrollView>
  );
}

function Labelled<T extends string>(props: ComponentProps<typeof Choices<T>>): ReactNode {
  return (
    <Stack gap={2}>
      <Quiet>{props.label}</Quiet>
      <Choices {...props} maxWidth={420} />
    </Stack>
  );
}
