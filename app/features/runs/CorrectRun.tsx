import { zodResolver } from '@hookform/resolvers/zod';
import { runCorrection, runFacts, type Preflight, type RunDetail } from '@pace-check/contract';
import { NEEDS, type Need } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Controller, useForm } from 'react-hook-form';
import type * as z from 'zod';
import { useCorrectRun, useKit } from '../../api/queries';
import { Flag } from '../../forms/Flag';
import { PreflightForm } from '../../forms/Preflight';
import { screensOf } from '../../forms/screensOf';
import { Choices } from '../../ui/Choices';
import { NumberField, TextField } from '../../ui/Field';
import { PickOrAdd } from '../../ui/PickOrAdd';
import { usePalette } from '../../ui/Look';
import { Body, Heading, Quiet } from '../../ui/words';
import { FactsFields } from '../../forms/FactsFields';
import { Row, Sheet, Stack } from '../../ui/parts';

const { name, native, need, batteryWh, scene } = runCorrection.required().shape;
const correction = runFacts.extend({ name, native, need, batteryWh, scene });
type Correction = z.infer<typeof correction>;

const NEED_OPTIONS: { value: Need | 'none'; text: string }[] = [
  ...(Object.keys(NEEDS) as Need[]).map((value) => ({ value, text: value })),
  { value: 'none', text: 'not set' },
];

/** Conditions that no question of preflight asks for. */
const STATED = [
  { code: 'pre-release', says: 'pre-release device or firmware' },
  { code: 'title-not-updated', says: 'title not yet updated for this chip' },
  { code: 'aspect', says: 'aspect ratio differs from the other devices' },
  { code: 'streamed', says: 'streamed' },
];

/** Conditions that the answers themselves state. */
const spoken = (answers: Preflight): string[] => [
  ...(answers.charging === 'plugged in' ? ['plugged-in'] : []),
  ...(answers.performanceMode === 'boost' ? ['boosted'] : []),
  ...(answers.firstPlay ? ['first-play'] : []),
];

/** What is other than it was: a fact from the kit that nobody touched stays one. */
const changed = (values: Correction, run: RunDetail): Partial<Correction> =>
  Object.fromEntries(
    Object.entries(values).filter(([field, value]) => value !== run[field as keyof Correction]),
  );

/** Rename a run, or correct what it was run on and held against. */
export function CorrectRun({ run, onDone }: { run: RunDetail; onDone: () => void }): ReactNode {
  usePalette();
  const save = useCorrectRun(run.id);
  const kit = useKit().data;
  const scenes =
    kit?.titles.find((one) => one.name === run.title)?.facts.scenes?.map((one) => one.name) ?? [];
  const screens = screensOf(kit, run.device);
  const [began] = useState<Preflight>(() => ({
    ...run.preflight,
    ...(run.roomC === null ? {} : { roomC: run.roomC }),
  }));
  const [answers, setAnswers] = useState(began);
  const [conditions, setConditions] = useState(run.conditions);
  const form = useForm<Correction>({
    resolver: zodResolver(correction),
    defaultValues: {
      name: run.name,
      device: run.device,
      title: run.title,
      setup: run.setup,
      target: run.target,
      refresh: run.refresh,
      scene: run.scene,
      native: run.native,
      need: run.need,
      batteryWh: run.batteryWh,
    },
  });
  return (
    <Sheet padding={16} style={{ maxWidth: 620 }}>
      <Heading style={{ marginBottom: 10 }}>Edit run</Heading>
      <TextField control={form.control} name="name" label="Run name" />
      <FactsFields form={form} />
      <Row gap={12}>
        <Stack flex={1}>
          <NumberField
            control={form.control}
            name="batteryWh"
            label="Battery capacity, Wh"
            placeholder="unknown"
          />
        </Stack>
        <Stack flex={1}>
          <NumberField
            control={form.control}
            name="native"
            label="Native frame rate, fps"
            placeholder="not emulated"
          />
        </Stack>
      </Row>
      <PickOrAdd
        control={form.control}
        name="scene"
        label="Scene at the start (optional)"
        what="scene"
        known={scenes}
        optional
      />
      <Controller
        control={form.control}
        name="need"
        render={({ field }) => (
          <Stack gap={2} style={{ marginBottom: 14 }}>
            <Quiet>Title type</Quiet>
            <Choices
              label="Title type"
              options={NEED_OPTIONS}
              selected={field.value ?? 'none'}
              onSelect={(chosen) => field.onChange(chosen === 'none' ? null : chosen)}
            />
          </Stack>
        )}
      />
      <Stack gap={6} style={{ marginBottom: 14 }}>
        <Heading level={3}>Conditions</Heading>
        <PreflightForm
          known={began}
          from={null}
          answers={answers}
          onAnswers={setAnswers}
          screens={screens}
          afterwards
        />
      </Stack>
      <Stack gap={4} style={{ marginBottom: 14 }}>
        <Quiet>Also applies to this run</Quiet>
        <Stack role="group" aria-label="Also applies to this run">
          {STATED.map(({ code, says }) => (
            <Flag
              key={code}
              label={`${says}${run.fromKit.includes(`condition:${code}`) ? ' (from Kit)' : ''}`}
              value={conditions.includes(code)}
              onChange={(on) =>
                setConditions(on ? [...conditions, code] : conditions.filter((one) => one !== code))
              }
            />
          ))}
        </Stack>
      </Stack>
      {save.error ? <Body role="alert">{`Not saved: ${save.error.message}`}</Body> : null}
      <Row gap={8}>
        <Button
          title="Save"
          loading={save.isPending}
          onPress={form.handleSubmit((values) =>
            save.mutate(
              {
                ...changed(values, run),
                ...(answers === began ? {} : { preflight: answers }),
                ...(conditions === run.conditions
                  ? {}
                  : { conditions: [...new Set([...conditions, ...spoken(answers)])] }),
              },
              { onSuccess: onDone },
            ),
          )}
        />
        <Button type="clear" title="Discard changes" onPress={onDone} />
      </Row>
    </Sheet>
  );
}
