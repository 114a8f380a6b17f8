import { MOST_SITTING_ROWS, RATE_SOURCES, readSitting } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { useKit } from '../../../api/queries';
import { LastRoom } from '../../../forms/LastRoom';
import { TemperatureInput } from '../../../forms/TemperatureInput';
import { Choices } from '../../../ui/Choices';
import { LongText } from '../../../ui/LongText';
import { useWide } from '../../../ui/Look';
import { NamePicker } from '../../../ui/PickOrAdd';
import { useToast } from '../../../ui/Toast';
import { useVoice } from '../../../ui/Voice';
import { Body, Quiet } from '../../../ui/words';
import { Row, Stack } from '../../../ui/parts';
import { SOURCES } from '../results/fields';
import { keepResults, runOf } from '../results/keep';
import { Heads, ResultCard, ResultLine, RowProblems } from './ResultRows';
import { emptyRow, isEmpty, nextId, readRow, withPasted, type Table, type TableRow } from './tableState';

/** Several titles at once: one a row, what was read of each across; typed, or pasted. */
export function TableOfResults({
  table,
  onTable,
  onKept,
}: {
  table: Table;
  onTable: (next: (now: Table) => Table) => void;
  onKept: () => void;
}): ReactNode {
  const wide = useWide();
  const router = useRouter();
  const toast = useToast();
  const { unit } = useVoice();
  const kit = useKit().data;
  const { device, roomC, by, rows } = table;
  const set = (changed: Partial<Table>): void => onTable((now) => ({ ...now, ...changed }));
  const [pasted, setPasted] = useState('');
  const [note, setNote] = useState<string | null>(null);
  // a table that was pasted while there are results: what becomes of these is asked
  const [waiting, setWaiting] = useState<string | null>(null);
  const change = (id: number, changed: Partial<TableRow>): void =>
    onTable((now) => ({
      ...now,
      rows: now.rows.map((row) => (row.id === id ? { ...row, ...changed } : row)),
    }));
  const remove = (id: number): void =>
    onTable((now) => ({ ...now, rows: now.rows.filter((row) => row.id !== id) }));
  const read = rows.map((row) => readRow(row, unit, by));
  const filled = rows.flatMap((row, i) => (isEmpty(row) ? [] : [{ row, read: read[i]! }]));
  const take = (text: string, how: 'add' | 'replace'): void => {
    const { rows: taken, unknown } = readSitting(text);
    onTable((now) => withPasted(now, text, how));
    setPasted('');
    setWaiting(null);
    setNote(
      unknown.length === 0
        ? `${taken.length} rows added to the table.`
        : `${taken.length} rows added to the table. Skipped columns with unknown headings: ${unknown.join(', ')}.`,
    );
  };
  const paste = (text: string): void => {
    setPasted(text);
    const { problem, rows: found } = readSitting(text);
    if (problem !== null || found.length === 0) return setNote(problem);
    if (filled.length > 0) setWaiting(text);
    else take(text, 'add');
  };
  const unclear = filled.filter(
    ({ row, read: { entries, problems } }) =>
      row.title.trim() === '' || entries.length === 0 || Object.keys(problems).length > 0,
  ).length;
  const ready = filled.length > 0 && unclear === 0 && device.trim() !== '';
  const keep = async (): Promise<void> => {
    await keepResults(
      filled.map(({ row, read: { entries, asked } }) => ({
        run: runOf(
          {
            device: device.trim(),
            title: row.title.trim(),
            setup: row.setup.trim() || null,
            scene: null,
            roomC,
            screen: null,
            asked,
          },
          entries,
        ),
        pictures: [],
      })),
    );
    onKept();
    router.navigate('/');
    toast({ text: `Saved: ${filled.length} results on ${device.trim()}.` });
  };
  const line = { unit, onChange: change, onRemove: remove };
  return (
    <Stack gap={14}>
      <View style={{ flexDirection: wide ? 'row' : 'column', gap: wide ? 20 : 0 }}>
        <View style={{ flexGrow: 1, flexBasis: wide ? 260 : 'auto' }}>
          <NamePicker
            label="Device"
            what="device"
            known={kit?.devices.map((one) => one.name) ?? []}
            value={device}
            onChange={(name) => set({ device: name })}
          />
        </View>
        <View style={{ width: wide ? 140 : '100%' }}>
          <TemperatureInput
            label="Room temperature"
            of="room"
            value={roomC}
            onChange={(value) => set({ roomC: typeof value === 'number' ? value : null })}
            placeholder="unknown"
          />
        </View>
        <Stack gap={4} style={{ marginBottom: 12 }}>
          <Quiet>Read from</Quiet>
          <Choices
            label="Read from"
            options={RATE_SOURCES.map((value) => ({ value, text: SOURCES[value] }))}
            selected={by}
            onSelect={(source) => set({ by: source })}
          />
        </Stack>
      </View>
      <LastRoom roomC={roomC} onRoom={(room) => set({ roomC: room })} />
      <Stack gap={4}>
        <Quiet>
          Paste a table from a spreadsheet, including its header row. Tabs, commas, semicolons or several
          spaces separate the cells.
        </Quiet>
        <LongText
          label="Table from a spreadsheet"
          value={pasted}
          onChange={paste}
          placeholder={'title, fps, 1 % low, peak\nAurelune, 50–55, 38, 42.8'}
        />
        {waiting === null ? null : (
          <Row gap={8} wrap align="center" role="alert">
            <Body>{`There are ${filled.length} results already.`}</Body>
            <Button title="Add to them" onPress={() => take(waiting, 'add')} />
            <Button type="outline" title="Replace them" onPress={() => take(waiting, 'replace')} />
          </Row>
        )}
        {note ? <Body role="status">{note}</Body> : null}
      </Stack>
      {wide ? (
        <ScrollView
          horizontal
          tabIndex={0}
          aria-label="Table of results"
          contentContainerStyle={{ flexGrow: 1 }}
        >
          <View role="table" aria-label="Results">
            <Heads unit={unit} />
            {rows.map((row, i) => (
              <ResultLine key={row.id} row={row} number={i + 1} read={read[i]!} {...line} />
            ))}
          </View>
        </ScrollView>
      ) : (
        <Stack role="list" aria-label="Results" gap={10}>
          {rows.map((row, i) => (
            <ResultCard key={row.id} row={row} number={i + 1} read={read[i]!} {...line} />
          ))}
        </Stack>
      )}
      <RowProblems rows={rows} read={read} unit={unit} />
      <Row gap={10} wrap align="center">
        <Button
          type="outline"
          title="Add row"
          disabled={rows.length >= MOST_SITTING_ROWS}
          onPress={() => onTable((now) => ({ ...now, rows: [...now.rows, emptyRow(nextId(now.rows))] }))}
        />
        <Button
          title={filled.length > 1 ? `Save ${filled.length} results` : 'Save result'}
          disabled={!ready}
          onPress={() => void keep()}
        />
        {filled.length > 0 && device.trim() === '' ? <Quiet>Choose the device first.</Quiet> : null}
      </Row>
    </Stack>
  );
}
