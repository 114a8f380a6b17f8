import type { KitSetup, KitTitle, RecordChange } from '@pace-check/contract';
import { sayPair } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Controller, useForm, useWatch, type FieldError, type FieldValues } from 'react-hook-form';
import { useDeleteRecord, useReplaceRecord } from '../../../api/queries';
import { followText } from '../followText';
import { TextField } from '../../../ui/Field';
import { Row, Stack } from '../../../ui/parts';
import { Select } from '../../../ui/Select';
import { useToast } from '../../../ui/Toast';
import { Body, Quiet } from '../../../ui/words';
import { prunedResolver } from '../prunedResolver';
import { PairsEditor } from './PairsEditor';
import { StepsEditor } from './StepsEditor';

/** All of one setup: its name, what it is derived from, what is set, how it is made. */
export function SetupForm({
  setup,
  title,
  others,
  onDone,
}: {
  setup: KitSetup;
  title: KitTitle;
  /** Other setups of the title. */
  others: KitSetup[];
  onDone: () => void;
}): ReactNode {
  const save = useReplaceRecord();
  const remove = useDeleteRecord();
  const router = useRouter();
  const toast = useToast();
  const form = useForm<FieldValues>({
    resolver: prunedResolver('setup'),
    defaultValues: { name: setup.name, title: title.name, facts: setup.facts },
  });
  const [opened] = useState({ name: setup.name, title: title.name, facts: setup.facts });
  const { control } = form;
  const from = useWatch({ control, name: 'facts.from' }) as string | null | undefined;
  const base = others.find((one) => one.name.toLowerCase() === from?.toLowerCase())?.whole ?? [];
  const error = save.error ?? remove.error;
  const keep = form.handleSubmit((record) =>
    save.mutate(
      { kind: 'setup', id: setup.id, record: { ...record, base: opened } as RecordChange },
      {
        onSuccess: ({ followed }) => (
          toast({ text: `“${String(record['name'])}” saved${followText(followed)}.` }),
          onDone()
        ),
      },
    ),
  );
  return (
    <Stack padding={12} gap={8} role="form" aria-label={`Setup ${setup.name}`}>
      <TextField control={control} name="name" label="Setup name" />
      {others.length > 0 ? (
        <Controller
          control={control}
          name="facts.from"
          render={({ field }) => (
            <Select
              label="Based on"
              options={others.map(({ name }) => ({ value: name, text: name }))}
              value={field.value ?? null}
              onChange={field.onChange}
              none="none"
            />
          )}
        />
      ) : null}
      <Controller
        control={control}
        name="facts.pairs"
        render={({ field, fieldState }) => (
          <PairsEditor
            pairs={field.value ?? []}
            base={base}
            kind={title.facts.kind}
            problem={problemOf(fieldState.error)}
            onChange={field.onChange}
          />
        )}
      />
      <StepsEditor control={control} />
      <TextField control={control} name="facts.notes" label="Notes" />
      {Object.keys(form.formState.errors).length > 0 ? (
        <Body role="alert">Correct the marked fields above.</Body>
      ) : null}
      {error ? <Body role="alert">{`Not saved: ${error.message} Your text is still here.`}</Body> : null}
      <Row gap={8} wrap style={{ marginTop: 8 }}>
        <Button title="Save setup" loading={save.isPending} onPress={() => void keep()} />
        <Button
          type="outline"
          title="Recipe"
          aria-label={`Recipe of ${setup.name}`}
          onPress={() => router.navigate(`/kit/recipe/${setup.id}`)}
        />
        <Button
          type="clear"
          title="Delete setup"
          loading={remove.isPending}
          onPress={() => remove.mutate({ kind: 'setup', id: setup.id })}
        />
      </Row>
      {form.formState.isDirty ? <Quiet>The recipe shows the last saved version.</Quiet> : null}
    </Stack>
  );
}

/** The first thing that is wrong with the list of pairs. */
function problemOf(error: FieldError | undefined): string | null {
  if (!error) return null;
  if (error.message) return error.message;
  const one = Object.values(error as unknown as Record<string, Record<string, FieldError> | undefined>).find(
    (inner) => inner && typeof inner === 'object',
  );
  return Object.values(one ?? {}).find((field) => field.message)?.message ?? 'Correct the marked fields.';
}

/** What a setup says of itself in one line. */
export function saySetup({ facts, whole }: KitSetup): string {
  if (facts.from === undefined) return whole.map(sayPair).join(', ');
  const own = (facts.pairs ?? []).map((pair) =>
    pair.value === null ? `without ${pair.key}` : sayPair({ ...pair, value: pair.value }),
  );
  return own.length === 0 ? `same as ${facts.from}` : `same as ${facts.from}, except ${own.join(', ')}`;
}
