import { ROUTES, type RunDetail, type StoredEntry } from '@pace-check/contract';
import { atWholeSeconds, clock, EXCLUDING_SPANS, readNotebook, readTime, sayLine } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { useAddEntries, useCorrectEntry, useDeleteEntry } from '../../api/queries';
import { Choices } from '../../ui/Choices';
import { IfMay, useMay } from '../../ui/Role';
import { TARGET } from '../../ui/theme';
import { useToast } from '../../ui/Toast';
import { useVoice } from '../../ui/Voice';
import { Body, Heading, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';
import { NoteSwitch } from './NoteSwitch';
import { RunTime } from './RunTime';
import type { Stretch } from './useStretch';

const KINDS = EXCLUDING_SPANS.map((kind) => ({ value: kind, text: kind }));

/**
 * Stretches that are left out of the figures, and other lines that were added
 * by hand; each may be taken back.
 *
 * @param drawn what was dragged over on the chart, if anything
 */
export function Spans({ run, drawn }: { run: RunDetail; drawn: Stretch | null }): ReactNode {
  return (
    <Stack gap={10}>
      <IfMay route={ROUTES.addEntries}>
        {run.figures.frames.count > 0 || run.series.length > 0 ? (
          <LeaveOut key={drawn ? `${drawn.fromS} ${drawn.toS}` : 'typed'} run={run} drawn={drawn} />
        ) : null}
        <NoteSwitch run={run} />
      </IfMay>
      {run.entries.length > 0 ? (
        <View role="list" aria-label="Entries and excluded parts">
          {run.entries.map((entry) => (
            <OwnLine key={entry.id} run={run} entry={entry} />
          ))}
        </View>
      ) : null}
    </Stack>
  );
}

function LeaveOut({ run, drawn }: { run: RunDetail; drawn: Stretch | null }): ReactNode {
  const add = useAddEntries(run.id);
  const [from, setFrom] = useState(drawn ? clock(drawn.fromS) : '');
  const [to, setTo] = useState(drawn ? clock(drawn.toS) : '');
  const [kind, setKind] = useState('menu');
  const [fromS, toS] = [readTime(from), readTime(to)];
  const problem =
    fromS !== null && toS !== null && toS <= fromS
      ? 'The end must be later than the start.'
      : fromS !== null && fromS >= run.figures.frames.seconds
        ? 'This is after the end of the run.'
        : null;
  const ready = fromS !== null && toS !== null && problem === null;
  return (
    <Stack gap={6}>
      <Heading level={3}>Exclude part of the run</Heading>
      <Quiet>
        Drag over the chart or type the times. The frames stay stored but do not count in the figures.
      </Quiet>
      <Row gap={10} align="flex-end" wrap>
        <RunTime label="From" value={from} onChange={setFrom} />
        <RunTime label="To" value={to} onChange={setTo} />
        <Choices label="Reason" options={KINDS} selected={kind} onSelect={setKind} />
        <Button
          title="Exclude"
          disabled={!ready}
          loading={add.isPending}
          onPress={() =>
            ready &&
            add.mutate([{ type: 'span', fromMs: fromS * 1000, toMs: toS * 1000, kind }], {
              onSuccess: () => [setFrom, setTo].forEach((set) => set('')),
            })
          }
        />
      </Row>
      {problem || add.error ? (
        <Body role="alert">{problem ?? `Not excluded: ${add.error!.message}`}</Body>
      ) : null}
    </Stack>
  );
}

function OwnLine({ run, entry }: { run: RunDetail; entry: StoredEntry }): ReactNode {
  const remove = useDeleteEntry(run.id);
  const add = useAddEntries(run.id);
  const toast = useToast();
  const { unit } = useVoice();
  const { line } = entry;
  const text = `${sayLine(atWholeSeconds(line), unit)}${line.type === 'span' && EXCLUDING_SPANS.includes(line.kind) ? ', excluded' : ''}`;
  const onRemove = (): void =>
    remove.mutate(entry.id, {
      onSuccess: () => toast({ text: `Removed: ${text}.`, undo: () => add.mutate([entry.line]) }),
      onError: (error) => toast({ text: `Not removed: ${error.message}` }),
    });
  const [editing, setEditing] = useState(false);
  const may = useMay(ROUTES.correctEntry);
  if (!may)
    return (
      <Row role="listitem" style={{ paddingVertical: 8 }}>
        <Body small>{text}</Body>
      </Row>
    );
  if (editing) return <CorrectLine run={run} entry={entry} onDone={() => setEditing(false)} />;
  return (
    <Row role="listitem" gap={8} align="center">
      <Pressable
        role="button"
        aria-label={`Edit ${text}`}
        onPress={() => setEditing(true)}
        style={{ flex: 1, minHeight: TARGET, justifyContent: 'center' }}
      >
        <Body small>{text}</Body>
      </Pressable>
      <Button
        type="clear"
        title="Remove"
        aria-label={`Remove ${text}`}
        loading={remove.isPending}
        onPress={onRemove}
      />
    </Row>
  );
}

/** A line in words, to be written anew: it is read as a line of the notebook is. */
function CorrectLine({
  run,
  entry,
  onDone,
}: {
  run: RunDetail;
  entry: StoredEntry;
  onDone: () => void;
}): ReactNode {
  const { unit } = useVoice();
  const correct = useCorrectEntry(run.id);
  const [text, setText] = useState(sayLine(entry.line, unit));
  const [read] = readNotebook(text, { unit, lengthMs: run.figures.frames.seconds * 1000 || null });
  const line = read?.entries.length === 1 ? read.entries[0]! : null;
  const problem =
    read?.problem ??
    (line === null
      ? 'Enter a single line.'
      : line.type !== entry.line.type
        ? 'This line is of another type. Remove this entry and add a new one.'
        : null);
  return (
    <Stack role="listitem" gap={4}>
      <Input
        aria-label="Entry as text"
        value={text}
        onChangeText={setText}
        errorMessage={problem ?? correct.error?.message ?? ''}
      />
      <Row gap={8}>
        <Button
          title="Save entry"
          disabled={problem !== null}
          loading={correct.isPending}
          onPress={() => line && correct.mutate({ entry: entry.id, line }, { onSuccess: onDone })}
        />
        <Button type="clear" title="Cancel" onPress={onDone} />
      </Row>
    </Stack>
  );
}
