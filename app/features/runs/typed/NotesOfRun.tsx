import { zodResolver } from '@hookform/resolvers/zod';
import { newRun } from '@pace-check/contract';
import { readSitting, type EntryLine } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import type * as z from 'zod';
import { useCreateRun } from '../../../api/queries';
import { CoolerAt, coolerLine, type CoolerFacts } from '../../../forms/CoolerAt';
import { FactsFields } from '../../../forms/FactsFields';
import { LastRoom } from '../../../forms/LastRoom';
import { askedOf, NOT_ASKED, TargetNeed } from '../../../forms/TargetNeed';
import { TemperatureField } from '../../../forms/TemperatureInput';
import { useForStep } from '../../../forms/useForStep';
import { useWide } from '../../../ui/Look';
import { useKept } from '../../../forms/useKept';
import { Body, Heading } from '../../../ui/words';
import { Row, Stack } from '../../../ui/parts';
import { linesKept, PaperCount, PaperNotes, roomOf } from '../PaperNotes';
import { usePaper } from '../usePaper';

const facts = newRun.shape.facts;
type Facts = z.infer<typeof facts>;

/** What stands on the page, and what was played. */
interface Draft {
  text: string;
  device: string;
  title: string;
  setup: string | null;
}
const NO_DRAFT: Draft = { text: '', device: '', title: '', setup: null };

function readDraft(stored: unknown): Draft | null {
  const { text, device, title, setup } = Object(stored) as Record<keyof Draft, unknown>;
  return typeof text === 'string' && typeof device === 'string' && typeof title === 'string'
    ? { text, device, title, setup: typeof setup === 'string' ? setup : null }
    : null;
}

/** A run that no logger saw: what was played, and what stands in the notebook. */
export function NotesOfRun({ onTable }: { onTable: (text: string) => void }): ReactNode {
  const wide = useWide();
  const router = useRouter();
  const [draft, setDraft, forget] = useKept('notes', NO_DRAFT, readDraft);
  const paper = usePaper(draft.text);
  const { lines } = paper;
  const create = useCreateRun();
  const [asked, setAsked] = useState(NOT_ASKED);
  const form = useForm<Facts>({
    resolver: zodResolver(facts),
    defaultValues: { device: '', title: '', setup: null, target: null, refresh: null, roomC: null },
  });
  const { step, link } = useForStep();
  const { device, title, setup } = draft;
  useEffect(() => form.reset({ ...form.getValues(), device, title, setup }), [form, device, title, setup]);
  useEffect(() => {
    if (step)
      setDraft((now) => ({ ...now, device: step.device ?? '', title: step.title, setup: step.setup }));
  }, [setDraft, step]);
  const [deviceNow, titleNow, setupNow] = useWatch({
    control: form.control,
    name: ['device', 'title', 'setup'],
  });
  useEffect(
    () => setDraft((now) => ({ ...now, device: deviceNow, title: titleNow, setup: setupNow })),
    [setDraft, deviceNow, titleNow, setupNow],
  );
  const write = (text: string): void => {
    const table = readSitting(text);
    if (table.problem === null && table.rows.length > 0) onTable(text);
    else setDraft((now) => ({ ...now, text }));
  };
  const [cooler, setCooler] = useState<CoolerFacts>({});
  const isCooler = (line: EntryLine): boolean => line.type === 'span' && line.kind === 'cooler';
  const kept = linesKept(lines);
  const cooled = kept.some(isCooler);
  const entries = kept.map((line) => (isCooler(line) ? { ...line, ...coolerLine(cooler) } : line));
  const room = useWatch({ control: form.control, name: 'roomC' }) ?? roomOf(lines);
  const save = form.handleSubmit((known) => {
    const { target, need, none } = askedOf(asked);
    create.mutate(
      { name: null, facts: { ...known, target, roomC: room }, need, none, fromKit: true, entries },
      {
        onSuccess: (run) => {
          forget();
          void link(run.id)
            .catch(() => undefined)
            .then(() => router.navigate(`/runs/${run.id}`));
        },
      },
    );
  });
  return (
    <View
      style={{
        flexDirection: wide ? 'row' : 'column',
        gap: wide ? 32 : 18,
        alignItems: wide ? 'flex-start' : 'stretch',
      }}
    >
      <Stack gap={10} flex={wide ? 1.2 : undefined} style={{ minWidth: 0 }}>
        <Heading>Your notes</Heading>
        <PaperNotes text={draft.text} onText={write} paper={paper} />
        <PaperCount lines={lines} />
      </Stack>
      <Stack flex={wide ? 1 : undefined} gap={10} style={{ minWidth: 0 }}>
        <Heading>Title and device</Heading>
        <View>
          <FactsFields form={form} isNew withTarget={false} />
          <TargetNeed title={title} setup={setup} asked={asked} onAsked={setAsked} />
        </View>
        <View>
          <TemperatureField
            control={form.control}
            name="roomC"
            of="room"
            label="Room temperature"
            placeholder={room === null ? 'unknown' : String(room)}
          />
          <LastRoom roomC={room} onRoom={(roomC) => form.setValue('roomC', roomC)} />
        </View>
        {cooled ? <CoolerAt device={device} roomC={room} value={cooler} onChange={setCooler} /> : null}
        {create.error ? (
          <Body role="alert">{`Not saved: ${create.error.message} Your text is still here.`}</Body>
        ) : null}
        <Row>
          <Button
            title="Save run"
            disabled={entries.length === 0}
            loading={create.isPending}
            onPress={() => void save()}
          />
        </Row>
      </Stack>
    </View>
  );
}
