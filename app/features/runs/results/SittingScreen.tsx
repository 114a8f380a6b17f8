import {
  MOST_SITTING_ROWS,
  NO_RESULT,
  RATE_SOURCES,
  readResult,
  readSitting,
  RESULT_FIELDS,
  type RateSource,
  type ResultField,
  type ResultRead,
  type ResultTexts,
  type SittingRow,
  type TemperatureUnit,
} from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { memo, useCallback, useState, type ReactNode } from 'react';
import { ScrollView, TextInput, View } from 'react-native';
import { useKit } from '../../../api/queries';
import { TemperatureInput } from '../../../forms/TemperatureInput';
import { Choices } from '../../../ui/Choices';
import { LongText } from '../../../ui/LongText';
import { usePalette, useWide } from '../../../ui/Look';
import { NamePicker } from '../../../ui/PickOrAdd';
import { FONTS, TARGET } from '../../../ui/theme';
import { useToast } from '../../../ui/Toast';
import { useVoice } from '../../../ui/Voice';
import { Body, Heading, Quiet } from '../../../ui/words';
import { Row, Stack } from '../../../ui/parts';
import { fieldWords, SOURCES } from './fields';
import { keepResults, runOf } from './keep';

/** A row of the table, with a name of its own. */
interface TableRow extends SittingRow {
  id: number;
}

/** Rows that stand ready. */
const FIRST_ROWS = 3;
const emptyRow = (id: number): TableRow => ({ id, title: '', setup: '', texts: NO_RESULT });
const isEmpty = ({ title, texts }: SittingRow): boolean =>
  title.trim() === '' && RESULT_FIELDS.every((field) => texts[field].trim() === '');

/** Several titles at once: one a row, what was read of each across; typed, or pasted from a spreadsheet. */
export function SittingScreen(): ReactNode {
  const wide = useWide();
  const router = useRouter();
  const toast = useToast();
  const { unit } = useVoice();
  const kit = useKit().data;
  const [device, setDevice] = useState('');
  const [roomC, setRoomC] = useState<number | null>(null);
  const [by, setBy] = useState<RateSource>('overlay');
  const [rows, setRows] = useState<TableRow[]>(() =>
    Array.from({ length: FIRST_ROWS }, (_, i) => emptyRow(i)),
  );
  const [pasted, setPasted] = useState('');
  const [note, setNote] = useState<string | null>(null);
  const change = useCallback(
    (id: number, changed: Partial<SittingRow>) =>
      setRows((all) => all.map((row) => (row.id === id ? { ...row, ...changed } : row))),
    [],
  );
  const remove = useCallback((id: number) => setRows((all) => all.filter((row) => row.id !== id)), []);
  const paste = (text: string): void => {
    setPasted(text);
    const table = readSitting(text);
    if (table.problem !== null) return setNote(table.problem);
    if (table.rows.length === 0) return setNote(null);
    setRows((all) => {
      const kept = all.filter((row) => !isEmpty(row));
      const from = Math.max(0, ...all.map((row) => row.id)) + 1;
      return [...kept, ...table.rows.map((row, i) => ({ ...row, id: from + i }))].slice(0, MOST_SITTING_ROWS);
    });
    setPasted('');
    setNote(
      table.unknown.length === 0
        ? `${table.rows.length} rows are in the table.`
        : `${table.rows.length} rows are in the table. Left out, as no such heading is known: ${table.unknown.join(', ')}.`,
    );
  };
  const read = rows.map((row) => readOnce(row.texts, unit, by));
  const filled = rows.flatMap((row, i) => (isEmpty(row) ? [] : [{ row, read: read[i]! }]));
  const unclear = filled.filter(
    ({ row, read: { entries, problems } }) =>
      row.title.trim() === '' || entries.length === 0 || Object.keys(problems).length > 0,
  ).length;
  const ready = filled.length > 0 && unclear === 0 && device.trim() !== '';
  const keep = async (): Promise<void> => {
    await keepResults(
      filled.map(({ row, read: { entries } }) => ({
        run: runOf(
          {
            device: device.trim(),
            title: row.title.trim(),
            setup: row.setup.trim() || null,
            scene: null,
            roomC,
            screen: null,
          },
          entries,
        ),
        pictures: [],
      })),
    );
    router.navigate('/');
    toast({ text: `Kept: ${filled.length} results on ${device.trim()}.` });
  };
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 14, maxWidth: 1240, width: '100%' }}
    >
      <Heading level={1}>Several results</Heading>
      <View style={{ flexDirection: wide ? 'row' : 'column', gap: wide ? 20 : 0 }}>
        <View style={{ flexGrow: 1, flexBasis: wide ? 260 : 'auto' }}>
          <NamePicker
            label="Device"
            what="device"
            known={kit?.devices.map((one) => one.name) ?? []}
            value={device}
            onChange={setDevice}
          />
        </View>
        <View style={{ width: wide ? 140 : '100%' }}>
          <TemperatureInput
            label="Room"
            of="room"
            value={roomC}
            onChange={(value) => setRoomC(typeof value === 'number' ? value : null)}
            placeholder="unknown"
          />
        </View>
        <Stack gap={4} style={{ marginBottom: 12 }}>
          <Quiet>Read off</Quiet>
          <Choices
            label="Read off"
            options={RATE_SOURCES.map((value) => ({ value, text: SOURCES[value] }))}
            selected={by}
            onSelect={setBy}
          />
        </Stack>
      </View>
      <Stack gap={4}>
        <Quiet>Paste a table from a spreadsheet here, headings and all:</Quiet>
        <LongText
          label="Table from a spreadsheet"
          value={pasted}
          onChange={paste}
          placeholder={'title\tfps\t1 % low\tpeak\nAurelune\t50–55\t38\t42.8'}
        />
        {note ? <Body role="status">{note}</Body> : null}
      </Stack>
      <ScrollView
        horizontal
        tabIndex={0}
        aria-label="Table of results"
        contentContainerStyle={{ flexGrow: 1 }}
      >
        <View role="table" aria-label="Results">
          <Heads unit={unit} />
          {rows.map((row, i) => (
            <SittingLine
              key={row.id}
              row={row}
              number={i + 1}
              read={read[i]!}
              onChange={change}
              onRemove={remove}
            />
          ))}
        </View>
      </ScrollView>
      <Problems rows={rows} read={read} unit={unit} />
      <Row gap={10} wrap align="center">
        <Button
          type="outline"
          title="Another row"
          disabled={rows.length >= MOST_SITTING_ROWS}
          onPress={() => setRows((all) => [...all, emptyRow(Math.max(0, ...all.map((row) => row.id)) + 1)])}
        />
        <Button
          title={filled.length > 1 ? `Keep ${filled.length} results` : 'Keep'}
          disabled={!ready}
          onPress={() => void keep()}
        />
        {filled.length > 0 && device.trim() === '' ? <Quiet>Choose the device first.</Quiet> : null}
      </Row>
    </ScrollView>
  );
}

/** What texts say, by unit and source: a row that did not change is not read anew. */
const readBefore = new WeakMap<ResultTexts, Map<string, ResultRead>>();

function readOnce(texts: ResultTexts, unit: TemperatureUnit, by: RateSource): ResultRead {
  const known = readBefore.get(texts) ?? new Map<string, ResultRead>();
  readBefore.set(texts, known);
  const key = `${unit} ${by}`;
  const read = known.get(key) ?? readResult(texts, { unit, by, spot: null, ended: null });
  known.set(key, read);
  return read;
}

const WIDTHS = { number: 28, title: 150, setup: 110, cell: 84 };

function Heads({ unit }: { unit: TemperatureUnit }): ReactNode {
  return (
    <Row role="row" gap={4}>
      <View style={{ width: WIDTHS.number }} />
      <Quiet role="columnheader" style={{ width: WIDTHS.title }}>
        title
      </Quiet>
      <Quiet role="columnheader" style={{ width: WIDTHS.setup }}>
        setup
      </Quiet>
      {fieldWords(unit).map(({ field, label, unit: counted }) => (
        <Quiet key={field} role="columnheader" style={{ width: WIDTHS.cell }}>
          {`${label.toLowerCase()}, ${counted}`}
        </Quiet>
      ))}
      <Quiet role="columnheader" style={{ width: WIDTHS.cell }}>
        stumbles
      </Quiet>
      <Quiet role="columnheader" style={{ width: WIDTHS.cell }}>
        plays
      </Quiet>
    </Row>
  );
}

const COLUMNS: ResultField[] = [...fieldWords('C').map((one) => one.field), 'smooth', 'feel'];

const SittingLine = memo(function SittingLine({
  row,
  number,
  read,
  onChange,
  onRemove,
}: {
  row: TableRow;
  number: number;
  read: ResultRead;
  onChange: (id: number, changed: Partial<SittingRow>) => void;
  onRemove: (id: number) => void;
}): ReactNode {
  const empty = isEmpty(row);
  return (
    <Row role="row" gap={4} align="center" style={{ marginTop: 4 }}>
      <Quiet style={{ width: WIDTHS.number, textAlign: 'right' }}>{String(number)}</Quiet>
      <Cell
        label={`Title, row ${number}`}
        width={WIDTHS.title}
        value={row.title}
        wrong={!empty && row.title.trim() === ''}
        onChange={(title) => onChange(row.id, { title })}
      />
      <Cell
        label={`Setup, row ${number}`}
        width={WIDTHS.setup}
        value={row.setup}
        wrong={false}
        onChange={(setup) => onChange(row.id, { setup })}
      />
      {COLUMNS.map((field) => (
        <Cell
          key={field}
          label={`${field}, row ${number}`}
          width={WIDTHS.cell}
          value={row.texts[field]}
          wrong={read.problems[field] !== undefined}
          onChange={(text) => onChange(row.id, { texts: { ...row.texts, [field]: text } })}
        />
      ))}
      <Button
        type="clear"
        title="✕"
        aria-label={`Take row ${number} away`}
        onPress={() => onRemove(row.id)}
      />
    </Row>
  );
});

function Cell({
  label,
  width,
  value,
  wrong,
  onChange,
}: {
  label: string;
  width: number;
  value: string;
  wrong: boolean;
  onChange: (text: string) => void;
}): ReactNode {
  const { ink, line, sheet, action } = usePalette();
  return (
    <TextInput
      aria-label={label}
      aria-invalid={wrong}
      value={value}
      onChangeText={onChange}
      style={{
        width,
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
  );
}

/** What is unclear, by row and column. */
function Problems({
  rows,
  read,
  unit,
}: {
  rows: TableRow[];
  read: ResultRead[];
  unit: TemperatureUnit;
}): ReactNode {
  const words = fieldWords(unit);
  const found = rows.flatMap((row, i) => {
    if (isEmpty(row)) return [];
    const { problems, entries } = read[i]!;
    const said = (Object.entries(problems) as [ResultField, string][]).map(
      ([field, problem]) =>
        `Row ${i + 1}, ${words.find((one) => one.field === field)?.label.toLowerCase() ?? 'stumbles'}: ${problem}`,
    );
    if (row.title.trim() === '') said.push(`Row ${i + 1} has no title.`);
    else if (entries.length === 0 && said.length === 0) said.push(`Row ${i + 1} has no value yet.`);
    return said;
  });
  if (found.length === 0) return null;
  return (
    <Stack role="alert" gap={2}>
      {found.slice(0, 20).map((problem) => (
        <Body key={problem} small>
          {problem}
        </Body>
      ))}
      {found.length > 20 ? <Quiet>{`… and ${found.length - 20} more.`}</Quiet> : null}
    </Stack>
  );
}
