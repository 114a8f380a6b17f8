import { zodResolver } from '@hookform/resolvers/zod';
import { name, runFacts, type RunDetail } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import type * as z from 'zod';
import { useCorrectRun } from '../../api/queries';
import { TextField } from '../../ui/Field';
import { usePalette } from '../../ui/Look';
import { Body, Heading } from '../../ui/words';
import { FactsFields } from './FactsFields';

const correction = runFacts.extend({ name });
type Correction = z.infer<typeof correction>;

/** Rename a run, or correct what it was run on and held against. */
export function CorrectRun({ run, onDone }: { run: RunDetail; onDone: () => void }): ReactNode {
  const { sheet, line } = usePalette();
  const save = useCorrectRun(run.id);
  const form = useForm<Correction>({
    resolver: zodResolver(correction),
    defaultValues: { name: run.name, device: run.device, title: run.title, setup: run.setup, target: run.target, refresh: run.refresh },
  });
  return (
    <View style={{ backgroundColor: sheet, borderWidth: 1, borderColor: line, borderRadius: 8, padding: 16, maxWidth: 620 }}>
      <Heading style={{ marginBottom: 10 }}>Rename or correct</Heading>
      <TextField control={form.control} name="name" label="Name of the run" />
      <FactsFields form={form} />
      {save.error ? <Body role="alert">{`Not saved: ${save.error.message}`}</Body> : null}
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Button title="Save" loading={save.isPending} onPress={form.handleSubmit((values) => save.mutate(values, { onSuccess: onDone }))} />
        <Button type="clear" title="Leave as it was" onPress={onDone} />
      </View>
    </View>
  );
}
