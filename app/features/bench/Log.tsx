import type { BenchSource } from '@pace-check/contract';
import { clock, lineTimeMs, readTime, type EntryLine } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { usePalette } from '../../ui/Look';
import { TARGET } from '../../ui/theme';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Quiet } from '../../ui/words';

import type { ShownEntry } from './merge';
import { sayEntry } from './say';
import { writer } from './useBench';
import { Icon } from '../../ui/Icon';
import { Row, Stack } from '../../ui/parts';

/** Readings that come every second are not listed one by one. */
const LISTED = new Set<EntryLine['type']>([
  'skin',
  'battery',
  'rate',
  'summary',
  'speed',
  'smooth',
  'feel',
  'mark',
  'scene',
  'title',
  'span',
  'end',
]);
const FIRST_SHOWN = 40;

export const isListed = ({ line, source }: ShownEntry): boolean =>
  LISTED.has(line.type) && !(source !== null && line.type === 'battery');

interface Props {
  entries: ShownEntry[];
  sources: BenchSource[];
  onChange: (entry: ShownEntry, line: EntryLine) => void;
  onTakeBack: (entry: ShownEntry) => void;
  onDrop: (entry: ShownEntry) => void;
}

/** All that was noted, the latest first, with how far each has come. */
export function Log({ entries, sources, onChange, onTakeBack, onDrop }: Props): ReactNode {
  const [all, setAll] = useState(false);
  const listed = entries.filter(isListed).toReversed();
  if (listed.length === 0) return <Quiet>No entries yet.</Quiet>;
  return (
    <View>
      <View role="list" aria-label="Entries">
        {listed.slice(0, all ? undefined : FIRST_SHOWN).map((entry) => (
          <EntryRow
            key={entry.id}
            entry={entry}
            source={sources.find((source) => source.id === entry.source)}
            onChange={onChange}
            onTakeBack={onTakeBack}
            onDrop={onDrop}
          />
        ))}
      </View>
      {!all && listed.length > FIRST_SHOWN ? (
        <Button type="clear" title={`Show all ${listed.length}`} onPress={() => setAll(true)} />
      ) : null}
    </View>
  );
}

function EntryRow({
  entry,
  source,
  onChange,
  onTakeBack,
  onDrop,
}: { entry: ShownEntry; source: BenchSource | undefined } & Omit<Props, 'entries' | 'sources'>): ReactNode {
  const { line: border, action } = usePalette();
  const { unit } = useVoice();
  const [editing, setEditing] = useState(false);
  const { line, open, kept, refused } = entry;
  const says = sayEntry(line, unit, open);
  const own = entry.source === null && line.type !== 'end';
  return (
    <View role="listitem" style={{ borderBottomWidth: 1, borderColor: border, paddingVertical: 2 }}>
      <Row gap={8} align="center">
        <FigureText style={{ minWidth: 52 }}>{clock(lineTimeMs(line) / 1000)}</FigureText>
        <Pressable
          role="button"
          aria-label={`Edit ${says}`}
          disabled={!own}
          onPress={() => setEditing(!editing)}
          style={{ flex: 1, minHeight: TARGET, justifyContent: 'center' }}
        >
          <Body style={{ fontSize: 16, lineHeight: 20 }}>{says}</Body>
          <Quiet style={{ fontSize: 13, lineHeight: 16 }}>
            {source?.name ??
              (entry.writer === writer || entry.writer === null ? 'this screen' : 'another screen')}
          </Quiet>
        </Pressable>
        <KeptSign entry={entry} />
        {own && kept !== 'refused' ? (
          <Pressable
            role="button"
            aria-label={`Delete ${says}`}
            onPress={() => onTakeBack(entry)}
            style={{ width: TARGET, height: TARGET, alignItems: 'center', justifyContent: 'center' }}
          >
            <Icon name="x" size={20} color={action} />
          </Pressable>
        ) : null}
      </Row>
      {refused !== null ? (
        <Row role="alert" gap={8} align="center">
          <Quiet style={{ flex: 1, color: action }}>{`Not accepted: ${refused}`}</Quiet>
          <Button type="clear" title="Discard" onPress={() => onDrop(entry)} />
        </Row>
      ) : null}
      {editing ? (
        <Edit
          line={line}
          onDone={(changed) => {
            setEditing(false);
            if (changed) onChange(entry, changed);
          }}
        />
      ) : null}
    </View>
  );
}

function KeptSign({ entry }: { entry: ShownEntry }): ReactNode {
  const { quiet, action } = usePalette();
  const [icon, says, color] = (
    {
      here: ['upload', 'saved here, waiting to send', action],
      sent: ['check', 'saved on the server', quiet],
      refused: ['alert', 'not accepted', action],
    } as const
  )[entry.kept];
  return (
    <Stack role="img" aria-label={says} align="center" style={{ width: 24 }}>
      <Icon name={icon} size={18} color={color} />
    </Stack>
  );
}

/** Corrects a line: its time, and its value or words. */
function Edit({ line, onDone }: { line: EntryLine; onDone: (line: EntryLine | null) => void }): ReactNode {
  const { unit, degrees } = useVoice();
  const [at, setAt] = useState(clock(lineTimeMs(line) / 1000));
  const [value, setValue] = useState(valueOf(line, degrees));
  const atS = readTime(at);
  const changed = atS === null ? null : withValue(withTime(line, atS * 1000), value, unit);
  return (
    <Row gap={8} align="flex-start" style={{ paddingBottom: 6 }}>
      <View style={{ width: 92 }}>
        <Input
          aria-label="Time, minutes and seconds"
          value={at}
          onChangeText={setAt}
          renderErrorMessage={false}
        />
      </View>
      <Stack flex={1}>
        <Input
          aria-label={
            line.type === 'span' ? 'End, minutes and seconds' : line.type === 'mark' ? 'Text' : 'Value'
          }
          value={value}
          onChangeText={setValue}
          renderErrorMessage={false}
        />
      </Stack>
      <Button title="Save" disabled={changed === null} onPress={() => onDone(changed)} />
    </Row>
  );
}

function valueOf(line: EntryLine, degrees: (celsius: number) => number): string {
  if (line.type === 'skin') return degrees(line.c).toFixed(1);
  if (line.type === 'battery') return String(line.percent);
  if (line.type === 'rate') return line.fps === undefined ? '' : String(line.fps);
  if (line.type === 'span') return clock(line.toMs / 1000);
  return line.type === 'mark' ? (line.note ?? '') : '';
}

function withTime(line: EntryLine, atMs: number): EntryLine {
  // a time that was not touched keeps its fractions
  const before = lineTimeMs(line);
  const at = Math.floor(before / 1000) * 1000 === atMs ? before : atMs;
  return line.type === 'span' ? { ...line, fromMs: at } : { ...line, atMs: at };
}

function withValue(line: EntryLine, text: string, unit: 'C' | 'F'): EntryLine | null {
  if (line.type === 'mark')
    return text.trim() === ''
      ? { type: 'mark', atMs: line.atMs, kind: line.kind }
      : { ...line, note: text.trim() };
  if (line.type === 'span') {
    const toS = readTime(text);
    return toS === null || toS * 1000 < Math.floor(line.fromMs / 1000) * 1000
      ? null
      : {
          ...line,
          toMs:
            Math.floor(line.toMs / 1000) === toS
              ? Math.max(line.fromMs, line.toMs)
              : Math.max(line.fromMs, toS * 1000),
        };
  }
  const number = Number(text.replace(',', '.'));
  if (text.trim() === '' || !Number.isFinite(number)) return null;
  if (line.type === 'skin') return { ...line, c: unit === 'F' ? (number - 32) / 1.8 : number };
  if (line.type === 'battery') return number < 0 || number > 100 ? null : { ...line, percent: number };
  // another value has other ends
  return line.type === 'rate' && number >= 0
    ? { type: 'rate', atMs: line.atMs, fps: number, by: line.by, scene: line.scene }
    : null;
}
