import { zodResolver } from '@hookform/resolvers/zod';
import { runCorrection, runFacts, type RunDetail } from '@pace-check/contract';
import { NEEDS, type Need } from '@pace-check/core';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { Controller, useForm } from 'react-hook-form';
import type * as z from 'zod';
import { useCorrectRun } from '../../api/queries';
import { Choices } from '../../ui/Choices';
import { NumberField, TextField } from '../../ui/Field';
import { TemperatureField } from '../../forms/TemperatureInput';
import { usePalette } from '../../ui/Look';
import { Body, Heading, Quiet } from '../../ui/words';
import { FactsFields } from '../../forms/FactsFields';
import { Row, Sheet, Stack } from '../../ui/parts';

const { name, roomC, native, need, batteryWh } = runCorrection.required().shape;
const correction = runFacts.extend({ name, roomC, native, need, batteryWh });
type Correction = z.infer<typeof correction>;

const NEED_OPTIONS: { value: Need | 'none'; text: string }[] = [
  ...(Object.keys(NEEDS) as Need[]).map((value) => ({ value, text: value })),
  { value: 'none', text: 'not said' },
];

/** Rename a run, or correct what it was run on and held against. */
export function CorrectRun({ run, onDone }: { run: RunDetail; onDone: () => void }): ReactNode {
  usePalette();
  const save = useCorrectRun(run.id);
  const form = useForm<Correction>({
    resolver: zodResolver(correction),
    defaultValues: {
      name: run.name,
      device: run.device,
      title: run.title,
      setup: run.setup,
      target: run.target,
      refresh: run.refresh,
      roomC: run.roomC,
      native: run.native,
      need: run.need,
      batteryWh: run.batteryWh,
    },
  });
  return (
    <Sheet padding={16} style={{ maxWidth: 620 }}>
      <Heading style={{ marginBottom: 10 }}>Rename or correct</Heading>
      <TextField control={form.control} name="name" label="Name of the run" />
      <FactsFields form={form} />
      <Row gap={12}>
        <Stack flex={1}>
          <TemperatureField control={form.control} name="roomC" label="Room" placeholder="unknown" />
        </Stack>
        <Stack flex={1}>
          <NumberField control={form.control} name="batteryWh" label="Battery, Wh" placeholder="unknown" />
        </Stack>
        <Stack flex={1}>
          <NumberField control={form.control} name="native" label="Native, fps" placeholder="not emulated" />
        </Stack>
      </Row>
      <Controller
        control={form.control}
        name="need"
        render={({ field }) => (
          <Stack gap={2} style={{ marginBottom: 14 }}>
            <Quiet>What the title asks for</Quiet>
            <Choices
              label="What the title asks for"
              options={NEED_OPTIONS}
              selected={field.value ?? 'none'}
              onSelect={(chosen) => field.onChange(chosen === 'none' ? null : chosen)}
            />
          </Stack>
        )}
      />
      {save.error ? <Body role="alert">{`Not saved: ${save.error.message}`}</Body> : null}
      <Row gap={8}>
        <Button
          title="Save"
          loading={save.isPending}
          onPress={form.handleSubmit((values) => save.mutate(values, { onSuccess: onDone }))}
        />
        <Button type="clear" title="Leave as it was" onPress={onDone} />
      </Row>
    </Sheet>
  );
}
