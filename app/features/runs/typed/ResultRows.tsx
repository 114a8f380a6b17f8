import { type ResultField, type TemperatureUnit } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { memo, useState, type ReactNode } from 'react';
import { TextInput, View, type DimensionValue } from 'react-native';
import { useKit } from '../../../api/queries';
import { usualOf } from '../../../forms/usualOf';
import { usePalette } from '../../../ui/Look';
import { FONTS, TARGET } from '../../../ui/theme';
import { Body, Quiet } from '../../../ui/words';
import { Row, Sheet, Stack } from '../../../ui/parts';
import { fieldWords } from '../results/fields';
import { isEmpty, type RowRead, type TableRow } from './tableState';

const WIDTHS = { number: 28, title: 150, setup: 110, cell: 84 };
/** Values that a card shows before more are asked for. */
const FIRST: readonly ResultField[] = ['average', 'low', 'peak', 'length'];

interface Columns {
  field: ResultField;
  label: string;
}
const columnsOf = (unit: TemperatureUnit): Columns[] => [
  ...fieldWords(unit).map(({ field, label, unit: counted }) => ({
    field,
    label: `${label.toLowerCase()}, ${counted}`,
  })),
  { field: 'smooth', label: 'stutter' },
  { field: 'feel', label: 'plays' },
];

interface LineProps {
  row: TableRow;
  number: number;
  read: RowRead;
  unit: TemperatureUnit;
  onChange: (id: number, changed: Partial<TableRow>) => void;
  onRemove: (id: number) => void;
}

/** What the columns are. */
export function Heads({ unit }: { unit: TemperatureUnit }): ReactNode {
  const heads = [
    { label: 'title', width: WIDTHS.title },
    { label: 'setup', width: WIDTHS.setup },
    { label: 'target, fps', width: WIDTHS.cell },
    { label: 'title type', width: WIDTHS.cell },
    ...columnsOf(unit).map(({ label }) => ({ label, width: WIDTHS.cell })),
  ];
  return (
    <Row role="row" gap={4}>
      <View style={{ width: WIDTHS.number }} />
      {heads.map(({ label, width }) => (
        <Quiet key={label} role="columnheader" style={{ width }}>
          {label}
        </Quiet>
      ))}
    </Row>
  );
}

/** Cells for what was played; where nothing is typed they show what is known of it. */
function WhatCells({ row, number, read, onChange, wide }: LineProps & { wide: boolean }): ReactNode {
  const usual = usualOf(useKit().data, row.title, row.setup.trim() === '' ? null : row.setup);
  const width = (own: number): DimensionValue => (wide ? own : '100%');
  const half = wide ? WIDTHS.cell : '48%';
  return (
    <>
      <Cell
        label={`Title, row ${number}`}
        shown={wide ? null : 'title'}
        width={width(WIDTHS.title)}
        value={row.title}
        wrong={!isEmpty(row) && row.title.trim() === ''}
        onChange={(title) => onChange(row.id, { title })}
      />
      <Cell
        label={`Setup, row ${number}`}
        shown={wide ? null : 'setup'}
        width={width(WIDTHS.setup)}
        value={row.setup}
        onChange={(setup) => onChange(row.id, { setup })}
      />
      <Cell
        label={`Target, row ${number}`}
        shown={wide ? null : 'target, fps'}
        width={half}
        value={row.target}
        hint={usual.target ? String(usual.target.value) : ''}
        wrong={read.problems.target !== undefined}
        onChange={(target) => onChange(row.id, { target })}
      />
      <Cell
        label={`Title type, row ${number}`}
        shown={wide ? null : 'title type'}
        width={half}
        value={row.need}
        hint={usual.need?.value ?? ''}
        wrong={read.problems.need !== undefined}
        onChange={(need) => onChange(row.id, { need })}
      />
    </>
  );
}

/** A result as a row of a table. */
export const ResultLine = memo(function ResultLine(props: LineProps): ReactNode {
  const { row, number, read, unit, onChange, onRemove } = props;
  return (
    <Row role="row" gap={4} align="center" style={{ marginTop: 4 }}>
      <Quiet style={{ width: WIDTHS.number, textAlign: 'right' }}>{String(number)}</Quiet>
      <WhatCells {...props} wide />
      {columnsOf(unit).map(({ field }) => (
        <Cell
          key={field}
          label={`${field}, row ${number}`}
          width={WIDTHS.cell}
          value={row.texts[field]}
          wrong={read.problems[field] !== undefined}
          onChange={(text) => onChange(row.id, { texts: { ...row.texts, [field]: text } })}
        />
      ))}
      <Button type="clear" title="✕" aria-label={`Remove row ${number}`} onPress={() => onRemove(row.id)} />
    </Row>
  );
});

/** The same as a card, for a phone: the usual values, those that are there, and the rest where it is asked for. */
export const ResultCard = memo(function ResultCard(props: LineProps): ReactNode {
  const { row, number, read, unit, onChange, onRemove } = props;
  const [more, setMore] = useState(false);
  const columns = columnsOf(unit).filter(
    ({ field }) =>
      more || FIRST.includes(field) || row.texts[field] !== '' || read.problems[field] !== undefined,
  );
  return (
    <Sheet role="listitem" aria-label={`Result ${number}`} padding={10} gap={8}>
      <Row wrap apart gap={8}>
        <WhatCells {...props} wide={false} />
        {columns.map(({ field, label }) => (
          <Cell
            key={field}
            label={`${field}, row ${number}`}
            shown={label}
            width="48%"
            value={row.texts[field]}
            wrong={read.problems[field] !== undefined}
            onChange={(text) => onChange(row.id, { texts: { ...row.texts, [field]: text } })}
          />
        ))}
      </Row>
      <Row apart>
        <Button type="clear" title={more ? 'Fewer values' : 'More values'} onPress={() => setMore(!more)} />
        <Button
          type="clear"
          title="Remove"
          aria-label={`Remove row ${number}`}
          onPress={() => onRemove(row.id)}
        />
      </Row>
    </Sheet>
  );
});

function Cell({
  label,
  shown = null,
  width,
  value,
  hint = '',
  wrong = false,
  onChange,
}: {
  label: string;
  /** Over it; null where a heading says it. */
  shown?: string | null;
  width: DimensionValue;
  value: string;
  /** What holds where nothing is typed. */
  hint?: string;
  wrong?: boolean;
  onChange: (text: string) => void;
}): ReactNode {
  const { ink, quiet, line, sheet, action } = usePalette();
  return (
    <Stack gap={2} style={{ width }}>
      {shown === null ? null : <Quiet style={{ fontSize: 14 }}>{shown}</Quiet>}
      <TextInput
        aria-label={label}
        aria-invalid={wrong}
        value={value}
        placeholder={hint}
        placeholderTextColor={quiet}
        onChangeText={onChange}
        style={{
          width: '100%',
          minHeight: TARGET,
          borderWidth: wrong ? 2 : 1,
          borderStyle: wrong ? 'dashed' : 'solid',
          borderColor: wrong ? action : line,
          borderRadius: 5,
          backgroundColor: sheet,
          color: ink,
          paddingHorizontal: 6,
          fontFamily: FONTS.figure,
          fontSize: 16,
        }}
      />
    </Stack>
  );
}

/** Problems that are said at once. */
const SHOWN = 20;

/** What is unclear, by row and column. */
export function RowProblems({
  rows,
  read,
  unit,
}: {
  rows: TableRow[];
  read: RowRead[];
  unit: TemperatureUnit;
}): ReactNode {
  const words = fieldWords(unit);
  const found = rows.flatMap((row, i) => {
    if (isEmpty(row)) return [];
    const { problems, entries } = read[i]!;
    const said = Object.entries(problems).map(
      ([field, problem]) =>
        `Row ${i + 1}, ${words.find((one) => one.field === field)?.label ?? OTHER[field] ?? field}: ${problem}`,
    );
    if (row.title.trim() === '') said.push(`Row ${i + 1} has no title.`);
    else if (entries.length === 0 && said.length === 0) said.push(`Row ${i + 1} has no value.`);
    return said;
  });
  if (found.length === 0) return null;
  return (
    <Stack role="alert" gap={2}>
      {found.slice(0, SHOWN).map((problem) => (
        <Body key={problem} small>
          {problem}
        </Body>
      ))}
      {found.length > SHOWN ? <Quiet>{`… and ${found.length - SHOWN} more.`}</Quiet> : null}
    </Stack>
  );
}
const OTHER: Record<string, string> = {
  smooth: 'stumbles',
  feel: 'plays',
  target: 'target',
  need: 'title type',
};
