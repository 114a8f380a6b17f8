import type { RunDetail } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useMemo, useState, type ReactNode } from 'react';
import { useAddEntries, useCorrectRun } from '../../api/queries';
import { usePalette } from '../../ui/Look';
import { Body, Heading } from '../../ui/words';
import { linesKept, PaperCount, PaperNotes, roomOf } from './PaperNotes';
import { usePaper } from './usePaper';
import { Row, Sheet } from '../../ui/parts';

/** Adds readings from paper to a run that is there. */
export function AddReadings({ run, onDone }: { run: RunDetail; onDone: () => void }): ReactNode {
  usePalette();
  const [text, setText] = useState('');
  const spots = useMemo(
    () => [...run.places.map((place) => place.spot), ...run.figures.warmth.spots.map((spot) => spot.spot)],
    [run],
  );
  const paper = usePaper(text, { spots, lengthMs: run.figures.frames.seconds * 1000 || null });
  const { lines } = paper;
  const add = useAddEntries(run.id);
  const entries = linesKept(lines);
  const correct = useCorrectRun(run.id);
  const room = roomOf(lines);
  const save = async (): Promise<void> => {
    if (entries.length > 0) await add.mutateAsync(entries);
    if (room !== null) await correct.mutateAsync({ roomC: room });
    onDone();
  };
  const failed = add.error ?? correct.error;
  return (
    <Sheet padding={16} gap={10} style={{ maxWidth: 620 }}>
      <Heading>Add readings</Heading>
      <PaperNotes text={text} onText={setText} paper={paper} panelHz={run.refresh} />
      <PaperCount lines={lines} />
      {failed ? <Body role="alert">{`Not added: ${failed.message} What you typed stays.`}</Body> : null}
      <Row gap={8}>
        <Button
          title="Add readings"
          disabled={entries.length === 0 && room === null}
          loading={add.isPending || correct.isPending}
          onPress={() => void save().catch(() => undefined)}
        />
        <Button type="clear" title="Cancel" onPress={onDone} />
      </Row>
    </Sheet>
  );
}
