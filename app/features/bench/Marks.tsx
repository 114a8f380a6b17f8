import { clock, CONDITION_SPANS, FEEL_WORDS, SMOOTH_WORDS, type EntryLine } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { Choices } from '../../ui/Choices';
import { useKeys } from '../../ui/Keys';
import { usePalette } from '../../ui/Look';
import { Body, Quiet } from '../../ui/words';
import type { ShownEntry } from './merge';
import { BIG } from '../../forms/KeyPad';
import { CoolerAt, coolerLine, type CoolerFacts } from '../../forms/CoolerAt';
import { KitName } from '../../forms/KitName';
import { Icon, type IconName } from '../../ui/Icon';
import { Row, Stack } from '../../ui/parts';

const MARKS: { kind: string; text: string; icon: IconName; key: string }[] = [
  { kind: 'stutter', text: 'Stutter', icon: 'activity', key: 't' },
  { kind: 'freeze', text: 'Freeze', icon: 'pause', key: 'f' },
  { kind: 'glitch', text: 'Glitch', icon: 'zap', key: 'g' },
  { kind: 'dim', text: 'Dimmed', icon: 'sun', key: 'd' },
  { kind: 'crash', text: 'Crash', icon: 'stop', key: 'x' },
  { kind: 'moment', text: 'Marker', icon: 'film', key: 'm' },
];
const SPANS: { kind: string; text: string; icon: IconName; key: string }[] = [
  { kind: 'menu', text: 'Menu', icon: 'grip', key: 'e' },
  { kind: 'loading', text: 'Loading', icon: 'loader', key: 'o' },
  { kind: 'charging', text: 'Charging', icon: 'charging', key: 'h' },
];

interface Props {
  entries: ShownEntry[];
  /** The run's clock. */
  nowMs: () => number;
  onLine: (line: (atMs: number) => EntryLine, open?: boolean) => void;
  /** Ends a span that is going on. */
  onClose: (entry: ShownEntry) => void;
  /** Puts more into a line that is there. */
  onChange: (entry: ShownEntry, line: EntryLine) => void;
  /** What is recorded, and the room, where they are known. */
  of: { device: string; roomC: number | null };
}

/** What one notes, each a tap; spans are on until they are tapped again. */
export function Marks({ entries, nowMs, onLine, onClose, onChange, of }: Props): ReactNode {
  const [note, setNote] = useState<{ text: string; atMs: number } | null>(null);
  // a note is of the moment at which one began to write
  const begin = (): void => setNote({ text: '', atMs: nowMs() });
  const open = (kind: string): ShownEntry | undefined =>
    entries.find((entry) => entry.open && entry.line.type === 'span' && entry.line.kind === kind);
  const toggle = (kind: string): void => {
    const going = open(kind);
    if (going) onClose(going);
    else onLine((atMs) => ({ type: 'span', fromMs: atMs, toMs: atMs, kind }), true);
  };
  const mark = (kind: string): void => onLine((atMs) => ({ type: 'mark', atMs, kind }));
  const keepNote = (): void => {
    const text = note?.text.trim();
    if (note && text) onLine(() => ({ type: 'mark', atMs: note.atMs, kind: 'note', note: text }));
    setNote(null);
  };
  const last = entries.findLast((entry) => entry.line.type === 'smooth' && entry.kept !== 'refused')?.line;
  const said = last?.type === 'smooth' ? last.word : null;
  const felt = entries.findLast((entry) => entry.line.type === 'feel' && entry.kept !== 'refused')?.line;
  useKeysOf(mark, toggle, begin);
  return (
    <Stack gap={8}>
      <Row gap={8} wrap>
        {MARKS.map(({ kind, text, icon }) => (
          <Big key={kind} text={text} icon={icon} onPress={() => mark(kind)} />
        ))}
      </Row>
      <Row gap={8} wrap>
        {SPANS.map(({ kind, text, icon }) => {
          const going = open(kind);
          return (
            <Big
              key={kind}
              text={text}
              under={going?.line.type === 'span' ? `on since ${clock(going.line.fromMs / 1000)}` : 'off'}
              icon={icon}
              on={going !== undefined}
              toggle
              label={text}
              onPress={() => toggle(kind)}
            />
          );
        })}
      </Row>
      <Switches toggle={toggle} open={open} onLine={onLine} onChange={onChange} of={of} entries={entries} />
      <Stack gap={2}>
        <Quiet>Stutter seen, by eye</Quiet>
        <Choices
          label="Stutter seen"
          options={SMOOTH_WORDS.map((value) => ({ value, text: value }))}
          selected={said}
          onSelect={(word) => onLine((atMs) => ({ type: 'smooth', atMs, word, by: 'eye' }))}
        />
      </Stack>
      <Stack gap={2}>
        <Quiet>How it plays, as you say</Quiet>
        <Choices
          label="How it plays, as you say"
          options={FEEL_WORDS.map((value) => ({ value, text: value }))}
          selected={felt?.type === 'feel' ? felt.word : null}
          onSelect={(word) => onLine((atMs) => ({ type: 'feel', atMs, word }))}
        />
      </Stack>
      {note === null ? (
        <Row>
          <Big text="Add note" icon="note" onPress={begin} />
        </Row>
      ) : (
        <Input
          aria-label="Note"
          placeholder="What happened?"
          value={note.text}
          onChangeText={(text) => setNote({ ...note, text })}
          onSubmitEditing={keepNote}
          onBlur={keepNote}
          autoFocus
          renderErrorMessage={false}
        />
      )}
      <Quiet>Menu and loading time is excluded from the figures; charging is excluded from drain.</Quiet>
    </Stack>
  );
}

interface SwitchesProps extends Pick<Props, 'onLine' | 'onChange' | 'of' | 'entries'> {
  toggle: (kind: string) => void;
  open: (kind: string) => ShownEntry | undefined;
}

/** States that the device is put into, and the next title, without stopping the clock. */
function Switches(props: SwitchesProps): ReactNode {
  const [shown, setShown] = useState(false);
  const on = CONDITION_SPANS.filter((kind) => props.open(kind));
  return (
    <Stack gap={8}>
      <Row>
        <Button
          type="outline"
          title={on.length > 0 ? `On now: ${on.join(', ')}` : 'Changes and next title'}
          aria-expanded={shown}
          onPress={() => setShown(!shown)}
        />
      </Row>
      {shown ? <SwitchPanel {...props} /> : null}
    </Stack>
  );
}

function SwitchPanel({ toggle, open, onLine, onChange, of, entries }: SwitchesProps): ReactNode {
  const cooler = open('cooler');
  return (
    <>
      <Row gap={8} wrap role="group" aria-label="Changes during the run">
        {CONDITION_SPANS.map((kind) => {
          const going = open(kind);
          return (
            <Big
              key={kind}
              text={kind}
              under={going?.line.type === 'span' ? `on since ${clock(going.line.fromMs / 1000)}` : 'off'}
              icon="zap"
              on={going !== undefined}
              toggle
              label={`Turn ${kind} on or off`}
              onPress={() => toggle(kind)}
            />
          );
        })}
      </Row>
      {cooler?.line.type === 'span' ? (
        <BenchCooler key={cooler.id} entry={cooler} line={cooler.line} of={of} onChange={onChange} />
      ) : null}
      <NextTitle entries={entries} onLine={onLine} loading={open('loading') !== undefined} />
    </>
  );
}

/** The cooler that was just switched on: where it sits is kept with its line. */
function BenchCooler({
  entry,
  line,
  of: { device, roomC },
  onChange,
}: Pick<Props, 'of' | 'onChange'> & {
  entry: ShownEntry;
  line: Extract<EntryLine, { type: 'span' }>;
}): ReactNode {
  const [facts, setFacts] = useState<CoolerFacts>(() => coolerLine(line));
  const { fromMs, toMs, kind } = line;
  const said = coolerLine(facts);
  const kept = said.place === line.place && said.plateC === line.plateC;
  return (
    <Stack gap={6}>
      <CoolerAt device={device} roomC={roomC} value={facts} onChange={setFacts} />
      <Row>
        <Button
          type="outline"
          title={kept && Object.keys(said).length > 0 ? 'Place added' : 'Add cooler position'}
          disabled={kept}
          onPress={() => onChange(entry, { type: 'span', fromMs, toMs, kind, ...said })}
        />
      </Row>
    </Stack>
  );
}

/** Titles that are offered again: the last so many. */
const OFFERED = 4;

/** Another title without stopping the clock: it is on, or it loads first and is on when that is tapped off. */
function NextTitle({
  entries,
  onLine,
  loading,
}: Pick<Props, 'entries' | 'onLine'> & { loading: boolean }): ReactNode {
  const [title, setTitle] = useState('');
  const [firstPlay, setFirstPlay] = useState(false);
  const named = entries.flatMap(({ line, kept }) =>
    line.type === 'title' && kept !== 'refused' ? line.title : [],
  );
  const offered = [...new Set(named.reverse())].slice(0, OFFERED);
  const begin = (loads: boolean): void => {
    onLine((atMs) => ({
      type: 'title',
      atMs,
      title: title.trim(),
      ...(firstPlay ? { firstPlay } : {}),
    }));
    if (loads && !loading)
      onLine((atMs) => ({ type: 'span', fromMs: atMs, toMs: atMs, kind: 'loading' }), true);
    setTitle('');
    setFirstPlay(false);
  };
  return (
    <>
      <KitName label="Next title" what="title" value={title} onChange={setTitle} />
      {offered.length > 0 ? (
        <Row gap={6} wrap role="group" aria-label="Titles of this session">
          {offered.map((one) => (
            <Button key={one} type="outline" title={one} onPress={() => setTitle(one)} />
          ))}
        </Row>
      ) : null}
      <Row gap={8} wrap>
        <Button title="Starts now" disabled={title.trim() === ''} onPress={() => begin(false)} />
        <Button
          type="outline"
          title="Loads first"
          disabled={title.trim() === ''}
          onPress={() => begin(true)}
        />
        <Big
          text="First play"
          under={firstPlay ? 'shaders compiling' : 'no'}
          icon="loader"
          on={firstPlay}
          toggle
          onPress={() => setFirstPlay(!firstPlay)}
        />
      </Row>
      <Quiet>
        Tap “Loading” again when the title has loaded. The time counts as load time and is excluded from the
        figures.
      </Quiet>
    </>
  );
}

/** The keys of a wide screen. */
function useKeysOf(mark: (kind: string) => void, toggle: (kind: string) => void, onNote: () => void): void {
  useKeys([
    ...MARKS.map(({ kind, text, key }) => ({ key, does: text, press: () => mark(kind) })),
    ...SPANS.map(({ kind, text, key }) => ({ key, does: `${text}, on or off`, press: () => toggle(kind) })),
    { key: 'n', does: 'Add note', press: onNote },
  ]);
}

function Big({
  text,
  under,
  icon,
  on = false,
  toggle = false,
  label = text,
  onPress,
}: {
  text: string;
  under?: string;
  icon: IconName;
  on?: boolean;
  toggle?: boolean;
  label?: string;
  onPress: () => void;
}): ReactNode {
  const { ink, quiet, sheet, line, action, onAction } = usePalette();
  const color = on ? onAction : ink;
  return (
    <Pressable
      role={toggle ? 'switch' : 'button'}
      aria-label={label}
      aria-checked={toggle ? on : undefined}
      onPress={onPress}
      style={({ pressed }) => ({
        flexGrow: 1,
        flexBasis: '30%',
        minHeight: BIG + 8,
        flexDirection: 'row',
        alignItems: 'center',
        justifyContent: 'center',
        gap: 8,
        borderRadius: 8,
        borderWidth: 1,
        borderColor: on ? action : quiet,
        backgroundColor: on ? action : pressed ? line : sheet,
      })}
    >
      <Icon name={icon} size={20} color={color} />
      <View>
        <Body head style={{ color: color }}>
          {text}
        </Body>
        {under ? (
          <Quiet style={{ fontSize: 13, lineHeight: 16, color: on ? onAction : quiet }}>{under}</Quiet>
        ) : null}
      </View>
    </Pressable>
  );
}
