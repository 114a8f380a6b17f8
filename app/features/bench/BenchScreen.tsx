import { IfMay, useMay } from '../../ui/Role';
import { ROUTES } from '@pace-check/contract';
import { plannedEndMs, type EntryLine } from '@pace-check/core';
import { plannedEndId, type Recording } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { v4 as uuid, v5 as uuidOf } from 'uuid';
import { outbox, steadyClock, toCard, useNow } from '../../outbox';
import { BackTo } from '../../ui/BackTo';
import { Choices } from '../../ui/Choices';
import { useKeys } from '../../ui/Keys';
import { usePalette, useWide } from '../../ui/Look';
import { Failed, Loading, Notice } from '../../ui/states';
import { useVoice } from '../../ui/Voice';
import { Body, Heading, Quiet } from '../../ui/words';
import { AlertChoices } from './AlertChoices';
import { isListed, Log } from './Log';
import { Marks } from './Marks';
import type { ShownEntry } from './merge';
import { Pad } from './Pad';
import { PaceNow } from './PaceNow';
import { sayEntry, sayStatus } from './say';
import { Sources } from './Sources';
import { Due, Latest, Warnings } from './Latest';
import { useAlert, useAlertChoice } from './useAlerts';
import { runClock, useBench, usePace, writer, type BenchOf } from './useBench';
import { useWakeLock } from './useWakeLock';
import { benchView, slowsAtS, tellOf, type BenchView, type Told } from './view';
import { Row, Stack } from '../../ui/parts';
import { Before, EndRun, After, endRun, tellCard, DeleteRun } from './BeforeAndAfter';

type Tab = 'read' | 'mark' | 'log' | 'run';

/** One run at the bench: before, during and after. */
export function BenchScreen({ runId }: { runId: string }): ReactNode {
  const bench = useBench(runId);
  if (bench.recording) return <BenchPage bench={bench} recording={bench.recording} />;
  if (bench.missing)
    return (
      <Notice title="Recording not found" action={<BackTo href="/bench" title="Bench" />}>
        The recording may have been deleted.
      </Notice>
    );
  if (bench.connection === 'lost')
    return (
      <Failed
        error={
          new Error(
            'The server does not answer, and no data of this run is saved on this device. Trying again automatically.',
          )
        }
        retry={() => window.location.reload()}
      />
    );
  return <Loading rows={4} height={110} label="Loading recording" />;
}

/** What the lines of a run tell; told anew when one comes, or when the pace steps down. */
function useTold(recording: Recording, entries: ShownEntry[]): Told {
  const pace = usePace(recording.runId);
  const slowsS = pace ? slowsAtS(pace.figures) : null;
  return useMemo(
    () =>
      tellOf(
        entries
          .filter((entry) => entry.kept !== 'refused')
          .map(({ line, open }) => (open && line.type === 'span' ? { ...line, toMs: Infinity } : line)),
        recording.roomC,
        slowsS,
      ),
    [entries, recording.roomC, slowsS],
  );
}

function BenchPage({ bench, recording }: { bench: BenchOf; recording: Recording }): ReactNode {
  const wide = useWide();
  const [tab, setTab] = useState<Tab>('read');
  const { entries, act, nowMs } = bench;
  const second = useSecond(recording);
  // the curves are fitted when a reading comes, not when the clock goes on
  const told = useTold(recording, entries);
  const view = useMemo(() => benchView(recording, told, second * 1000), [recording, told, second]);
  const [alerts, setAlerts] = useAlertChoice();
  const awake = useWakeLock(recording.status === 'running');
  useAlert(alertsOf(recording, view, second * 1000), alerts);
  // a reader follows along
  const may = useMay(ROUTES.benchChanges);
  useEndsItself(bench, recording, may ? second : -1);
  const charging = entries.some(
    (entry) => entry.open && entry.line.type === 'span' && entry.line.kind === 'charging',
  );

  const onLine = (write: (atMs: number) => EntryLine, open = false): void => {
    const entry = uuid();
    const line = write(Math.round(recording.status === 'ended' ? afterEnd(recording) : nowMs()));
    void act({ kind: 'put', entry, line, open, writer });
    // the day of the card hears of each title that comes on
    if (line.type === 'title')
      tellCard(recording, { kind: 'title', title: line.title }, line.atMs / 60_000, `title ${entry}`);
  };
  const onClose = (entry: ShownEntry): void => {
    if (entry.line.type === 'span')
      void act({
        kind: 'put',
        entry: entry.id,
        line: { ...entry.line, toMs: Math.max(entry.line.fromMs, Math.round(nowMs())) },
        open: false,
        writer,
      });
  };
  const onTakeBack = (entry: ShownEntry): void => {
    void act({ kind: 'take-back', entry: entry.id });
    if (entry.line.type === 'title' && recording.step)
      void outbox.add(
        toCard(recording.step.cardId, {
          id: uuid(),
          kind: 'take-back',
          event: uuidOf(`title ${entry.id}`, recording.runId),
        }),
      );
  };
  const last = entries.findLast(
    (entry) =>
      entry.writer === writer && isListed(entry) && entry.line.type !== 'end' && entry.kept !== 'refused',
  );
  useKeys([{ key: 'u', does: 'Undo last entry', press: () => last && onTakeBack(last) }]);

  const onChange = (entry: ShownEntry, line: EntryLine): void =>
    void act({ kind: 'put', entry: entry.id, line, open: entry.open, writer });
  const log = (
    <Log
      entries={entries}
      sources={recording.sources}
      onChange={onChange}
      onTakeBack={onTakeBack}
      onDrop={(entry) => entry.n !== null && void outbox.drop(entry.n)}
    />
  );
  const pad = may ? (
    <Pad recording={recording} view={view} charging={charging} onLine={onLine} />
  ) : (
    <Quiet>You are signed in as a viewer: you can watch, but not enter readings.</Quiet>
  );
  const marks = may && (
    <Marks
      entries={entries}
      nowMs={() => Math.round(nowMs())}
      onLine={onLine}
      onClose={onClose}
      onChange={onChange}
      of={recording}
    />
  );
  const sources = (
    <Stack gap={14}>
      <Sources recording={recording} />
      <AlertChoices choice={alerts} onChoice={setAlerts} awake={awake} />
      <IfMay route={ROUTES.deleteRun}>
        <DeleteRun recording={recording} />
      </IfMay>
    </Stack>
  );
  const end = may && recording.status === 'running' ? <EndRun recording={recording} bench={bench} /> : null;
  // what must be seen stays in view, however far one scrolls
  const top = (
    <Stack gap={6} style={{ paddingHorizontal: wide ? 20 : 12, paddingTop: wide ? 16 : 10 }}>
      <Head bench={bench} recording={recording} />
      <Warnings view={view} />
      {recording.status === 'running' ? <PaceNow recording={recording} view={view} /> : null}
    </Stack>
  );
  const state = (
    <>
      {recording.status === 'ready' ? (
        <IfMay route={ROUTES.benchChanges}>
          <Before recording={recording} bench={bench} />
        </IfMay>
      ) : recording.status === 'ended' ? (
        <After recording={recording} view={view} />
      ) : null}
      <Latest recording={recording} view={view} />
      <Due recording={recording} view={view} />
      {last ? <LastEntry entry={last} onUndo={() => onTakeBack(last)} /> : null}
    </>
  );
  if (wide) {
    return (
      <Row flex={1} style={{ maxWidth: 1320, width: '100%' }}>
        <Stack flex={1} style={{ minWidth: 0 }}>
          {top}
          <ScrollView contentContainerStyle={{ paddingHorizontal: 20, paddingVertical: 10, gap: 10 }}>
            {state}
            <Choices
              label="Sections of the bench"
              options={[
                { value: 'log', text: 'Entries' },
                { value: 'run', text: 'Loggers' },
              ]}
              selected={tab === 'run' ? 'run' : 'log'}
              onSelect={setTab}
              maxWidth={320}
            />
            {tab === 'run' ? sources : log}
          </ScrollView>
        </Stack>
        <ScrollView
          style={{ flexGrow: 0, width: 480 }}
          contentContainerStyle={{ paddingHorizontal: 20, paddingVertical: 16, gap: 14 }}
        >
          {pad}
          {recording.status === 'running' ? marks : null}
          {end}
        </ScrollView>
      </Row>
    );
  }
  const tabs: { value: Tab; text: string }[] = [
    { value: 'read', text: 'Readings' },
    ...(may && recording.status === 'running' ? [{ value: 'mark' as const, text: 'Markers' }] : []),
    { value: 'log', text: 'Entries' },
    { value: 'run', text: recording.status === 'ended' ? 'Loggers' : 'Run' },
  ];
  return (
    <Stack flex={1}>
      {top}
      <ScrollView
        keyboardShouldPersistTaps="handled"
        contentContainerStyle={{ padding: 12, paddingTop: 4, gap: 6 }}
      >
        {state}
        <Choices
          label="Sections of the bench"
          options={tabs}
          selected={tabs.some((one) => one.value === tab) ? tab : 'read'}
          onSelect={setTab}
        />
        {tab === 'log' ? (
          log
        ) : tab === 'run' ? (
          <>
            {end}
            {sources}
          </>
        ) : tab === 'mark' && recording.status === 'running' ? (
          marks
        ) : (
          pad
        )}
      </ScrollView>
    </Stack>
  );
}

/** The whole second that the run's clock shows, anew as it goes on. */
function useSecond(recording: Recording): number {
  return Math.floor(runClock(recording, useNow(500)) / 1000);
}

/** Readings after the end keep their distance to it. */
const afterEnd = (recording: Recording): number =>
  recording.startedAt === null
    ? 0
    : Math.max(recording.end!.atMs, (steadyClock.now() - recording.startedAt) * recording.speed);

/** What is worth a sound now, each by a name that changes with it. */
function alertsOf(recording: Recording, view: BenchView, nowMs: number): string[] {
  const due =
    recording.status === 'running' && view.due && view.due.dueMs <= nowMs
      ? [`due ${view.due.spot} ${view.due.dueMs}`]
      : [];
  // two spots that take turns at being the hottest are one warning
  return [
    ...view.warnings.map(({ what, spot }) => (what === 'source-ended' ? `${what} ${spot}` : what)),
    ...due,
  ];
}

/** Ends the run at its planned end, where that was asked for; the server does the same, with the same line. */
function useEndsItself(bench: BenchOf, recording: Recording, second: number): void {
  const done = useRef(false);
  const atMs = plannedEndMs(recording);
  const due = atMs !== null && second * 1000 >= atMs;
  useEffect(() => {
    if (!due || done.current) return;
    done.current = true;
    endRun(bench, recording, 'planned', plannedEndId(recording.runId), atMs);
  });
}

function Head({ bench, recording }: { bench: BenchOf; recording: Recording }): ReactNode {
  const { action } = usePalette();
  const { connection, waiting, durable } = bench;
  const says =
    connection === 'lost'
      ? `Server not reached${waiting > 0 ? `: ${waiting} waiting to send` : ''}`
      : waiting > 0
        ? `sending ${waiting}`
        : connection === 'live'
          ? 'All sent'
          : 'Connecting…';
  return (
    <Row gap={8} align="center" apart>
      <Stack flex={1} style={{ minWidth: 0 }}>
        <Heading level={1} style={{ fontSize: 19, lineHeight: 23 }} numberOfLines={1}>
          {recording.name}
        </Heading>
        <Quiet numberOfLines={1}>
          {[
            recording.setup,
            sayStatus(recording),
            recording.speed > 1 ? `practice, ${recording.speed} × speed` : null,
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Stack>
      <Stack align="flex-end">
        <Quiet
          role="status"
          aria-label="Connection"
          style={connection === 'lost' ? { color: action } : undefined}
        >
          {says}
        </Quiet>
        {durable ? null : (
          <Quiet style={{ color: action }}>This browser cannot save data offline. Keep this page open.</Quiet>
        )}
      </Stack>
    </Row>
  );
}

function LastEntry({ entry, onUndo }: { entry: ShownEntry; onUndo: () => void }): ReactNode {
  const { line } = usePalette();
  const { unit } = useVoice();
  return (
    <Row
      role="status"
      aria-label="Last entry"
      gap={8}
      align="center"
      style={{ borderTopWidth: 1, borderBottomWidth: 1, borderColor: line }}
    >
      <Body
        small
        style={{ flex: 1 }}
        numberOfLines={1}
      >{`${sayEntry(entry.line, unit, entry.open)} · ${entry.kept === 'sent' ? 'saved on the server' : 'saved on this device'}`}</Body>
      <Button type="clear" title="Undo" aria-label="Undo last entry" onPress={onUndo} />
    </Row>
  );
}
