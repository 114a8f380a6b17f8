import { UNIT_NAMES, type ColumnChoice, type ColumnGuess, type TextLayout, type TimeUnit } from '@pace-check/core';
import { ButtonGroup } from '@rneui/themed';
import type { ReactNode } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { usePalette } from '../../ui/Look';
import { FONTS, TARGET } from '../../ui/theme';
import { Body, FigureText, Quiet } from '../../ui/words';

const UNITS = Object.keys(UNIT_NAMES) as TimeUnit[];
const KINDS: { kind: ColumnChoice['kind']; label: string }[] = [
  { kind: 'frame-time', label: 'Frame times' },
  { kind: 'timestamp', label: 'Timestamps' },
];
const DELIMITERS: { value: TextLayout['delimiter']; label: string }[] = [
  { value: ',', label: 'comma' },
  { value: ';', label: 'semicolon' },
  { value: '\t', label: 'tab' },
];
const MARKS: { value: TextLayout['decimalMark']; label: string }[] = [
  { value: '.', label: 'point' },
  { value: ',', label: 'comma' },
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
    const { column, kind, unit } = { column: 0, kind: 'frame-time' as const, unit: 'ms' as const, ...choice, ...part };
    onChoice({ column, kind, unit });
  };
  return (
    <View style={{ gap: 10 }}>
      <Body>{why ? `Guessed: ${why}. Tap another column to correct it.` : 'Tap the column that holds the frames.'}</Body>
      <FirstRows layout={layout} column={choice?.column ?? null} onColumn={(column) => change(guesses.find((guess) => guess.column === column) ?? { column })} />
      <Choice label="It holds" options={KINDS.map((one) => one.label)} selected={KINDS.findIndex((one) => one.kind === choice?.kind)} onSelect={(i) => change({ kind: KINDS[i]!.kind })} />
      <Choice label="Unit" options={['s', 'ms', 'µs', 'ns']} spoken={UNITS.map((unit) => UNIT_NAMES[unit])} selected={UNITS.findIndex((unit) => unit === choice?.unit)} onSelect={(i) => change({ unit: UNITS[i]! })} />
      <Choice label="Columns are parted by" options={DELIMITERS.map((one) => one.label)} selected={DELIMITERS.findIndex((one) => one.value === layout.delimiter)} onSelect={(i) => onSplit({ delimiter: DELIMITERS[i]!.value })} />
      <Choice label="Decimal mark" options={MARKS.map((one) => one.label)} selected={MARKS.findIndex((one) => one.value === layout.decimalMark)} onSelect={(i) => onSplit({ delimiter: layout.delimiter, decimalMark: MARKS[i]!.value })} />
    </View>
  );
}

function FirstRows({ layout, column, onColumn }: { layout: TextLayout; column: number | null; onColumn: (column: number) => void }): ReactNode {
  const { line, action, onAction, sheet, track } = usePalette();
  return (
    <ScrollView horizontal style={{ borderWidth: 1, borderColor: line, borderRadius: 6, backgroundColor: sheet }} contentContainerStyle={{ flexGrow: 1 }}>
      {layout.headings.map((heading, i) => {
        const chosen = i === column;
        return (
          <Pressable key={i} role="radio" aria-checked={chosen} aria-label={`Column ${heading}`} onPress={() => onColumn(i)} style={{ minWidth: 92, flexGrow: 1, maxWidth: 220, borderRightWidth: 1, borderColor: line, backgroundColor: chosen ? track : 'transparent' }}>
            <View style={{ minHeight: TARGET, justifyContent: 'center', paddingHorizontal: 10, backgroundColor: chosen ? action : 'transparent' }}>
              <Body numberOfLines={2} style={{ fontFamily: FONTS.head, fontSize: 15, lineHeight: 19, color: chosen ? onAction : undefined }}>
                {heading}
              </Body>
            </View>
            {layout.rows.slice(0, PREVIEW_ROWS).map((row, r) => (
              <FigureText key={r} size={15} numberOfLines={1} style={{ paddingHorizontal: 10, paddingVertical: 2, textAlign: 'right' }}>
                {row[i] ?? ''}
              </FigureText>
            ))}
          </Pressable>
        );
      })}
    </ScrollView>
  );
}

function Choice({ label, options, spoken, selected, onSelect }: { label: string; options: string[]; spoken?: string[]; selected: number; onSelect: (index: number) => void }): ReactNode {
  const { sheet, ink, quiet, action, onAction } = usePalette();
  return (
    <View role="group" aria-label={label}>
      <Quiet>{label}</Quiet>
      <ButtonGroup
        buttons={options.map((option, i) => (
          <Body key={option} aria-label={spoken?.[i]} style={{ fontFamily: FONTS.head, fontSize: 16, color: i === selected ? onAction : ink }}>
            {option}
          </Body>
        ))}
        selectedIndex={selected}
        onPress={onSelect}
        containerStyle={{ height: TARGET, borderRadius: 6, borderColor: quiet, backgroundColor: sheet, marginHorizontal: 0, marginVertical: 2, maxWidth: 420 }}
        selectedButtonStyle={{ backgroundColor: action }}
      />
    </View>
  );
}
