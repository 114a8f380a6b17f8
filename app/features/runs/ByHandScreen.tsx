import { TemperatureField } from '../../forms/TemperatureInput';
import { zodResolver } from '@hookform/resolvers/zod';
import { newRun } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { useForm } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import type * as z from 'zod';
import { useCreateRun } from '../../api/queries';
import { useWide } from '../../ui/Look';
import { Body, Heading } from '../../ui/words';
import { useForStep } from '../../forms/useForStep';
import { FactsFields } from '../../forms/FactsFields';
import { linesKept, PaperCount, PaperNotes, roomOf } from './PaperNotes';
import { usePaper } from './usePaper';
import { Row, Stack } from '../../ui/parts';

const facts = newRun.shape.facts;
type Facts = z.infer<typeof facts>;

/** A run that no logger saw: what was played, and what stands in the notebook. */
export function ByHandScreen(): ReactNode {
  const wide = useWide();
  const router = useRouter();
  const [text, setText] = useState('');
  const paper = usePaper(text);
  const { lines } = paper;
  const create = useCreateRun();
  const form = useForm<Facts>({
    resolver: zodResolver(facts),
    defaultValues: { device: '', title: '', setup: null, target: null, refresh: null, roomC: null },
  });
  const { step, link } = useForStep();
  useEffect(() => {
    if (!step) return;
    form.reset({ ...form.getValues(), device: step.device ?? '', title: step.title, setup: step.setup });
  }, [form, step]);
  const entries = linesKept(lines);
  const room = roomOf(lines);
  const save = form.handleSubmit((known) =>
    create.mutate(
      { name: null, facts: { ...known, roomC: known.roomC ?? room }, entries },
      {
        onSuccess: (run) =>
          void link(run.id)
            .catch(() => undefined)
            .then(() => router.navigate(`/runs/${run.id}`)),
      },
    ),
  );
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 16, maxWidth: 1100, width: '100%' }}
    >
      <Heading level={1}>A run from the notebook</Heading>
      <View
        style={{
          flexDirection: wide ? 'row' : 'column',
          gap: wide ? 32 : 18,
          alignItems: wide ? 'flex-start' : 'stretch',
        }}
      >
        <Stack gap={10} flex={wide ? 1.2 : undefined} style={{ minWidth: 0 }}>
          <Heading>What was read</Heading>
          <PaperNotes text={text} onText={setText} paper={paper} />
          <PaperCount lines={lines} />
        </Stack>
        <Stack flex={wide ? 1 : undefined} style={{ minWidth: 0 }}>
          <Heading style={{ marginBottom: 10 }}>What was played</Heading>
          <FactsFields form={form} isNew />
          <TemperatureField
            control={form.control}
            name="roomC"
            of="room"
            label="Room"
            placeholder="unknown"
          />
          {create.error ? (
            <Body role="alert">{`Not kept: ${create.error.message} What you typed stays.`}</Body>
          ) : null}
          <Row>
            <Button
              title="Keep this run"
              disabled={entries.length === 0}
              loading={create.isPending}
              onPress={() => void save()}
            />
          </Row>
        </Stack>
      </View>
    </ScrollView>
  );
}
