import { zodResolver } from '@hookform/resolvers/zod';
import { cardStep, preflight, type CardStep, type Kit } from '@pace-check/contract';
import { Button, Input } from '@rneui/themed';
import type * as z from 'zod';
import { useState, type ReactNode } from 'react';
import {
  Controller,
  useForm,
  useWatch,
  type Control,
  type FieldValues,
  type UseFormReturn,
} from 'react-hook-form';
import { useLadders } from '../../api/ladders';
import { count } from '../../ui/figures';
import { Select } from '../../ui/Select';
import { Chips } from '../../ui/Chips';
import { Choices } from '../../ui/Choices';
import { NumberField, TextField } from '../../ui/Field';
import { PickOrAdd } from '../../ui/PickOrAdd';
import { Quiet } from '../../ui/words';
import { Flag } from '../../forms/Flag';
import { copied } from './newCard';
import { Row, Stack } from '../../ui/parts';

/** A step as it is typed. */
type StepForm = z.input<typeof cardStep>;

interface Props {
  step: CardStep;
  steps: CardStep[];
  kit: Kit | undefined;
  onSteps: (steps: CardStep[]) => void;
  onDone: () => void;
}

/** One step, in full. Nothing of it is kept until it is right. */
export function StepEditor({ step, steps, kit, onSteps, onDone }: Props): ReactNode {
  const form = useForm<StepForm, unknown, CardStep>({ resolver: zodResolver(cardStep), defaultValues: step });
  const control = form.control as unknown as Control<FieldValues>;
  const titleName = useWatch({ control: form.control, name: 'title' });
  const title = kit?.titles.find((one) => one.name.toLowerCase() === titleName.trim().toLowerCase());
  const others = steps.filter((one) => one.id !== step.id);
  const label = (id: string): string => {
    const place = steps.findIndex((one) => one.id === id);
    return `${place + 1} ${steps[place]!.title}`;
  };
  return (
    <Stack gap={4} padding={12}>
      <PickOrAdd
        control={control}
        name="device"
        label="Device"
        what="device"
        known={kit?.devices.map((one) => one.name) ?? []}
        optional
      />
      <PickOrAdd
        control={control}
        name="title"
        label="Title"
        what="title"
        known={kit?.titles.map((one) => one.name) ?? []}
      />
      <PickOrAdd
        control={control}
        name="setup"
        label="Setup (optional)"
        what="setup"
        known={kit?.setups.filter((one) => one.titleId === title?.id).map((one) => one.name) ?? []}
        optional
      />
      <LadderOfStep form={form} />
      <Then form={form} />
      <Row gap={12}>
        <Third>
          <NumberField control={control} name="minutes" label="Minutes" />
        </Third>
        <Third>
          <NumberField control={control} name="repeats" label="Repeats" />
        </Third>
        <Third>
          <NumberField control={control} name="wanted" label="Priority, 0 or higher" />
        </Third>
      </Row>
      <Controller
        control={control}
        name="attended"
        render={({ field }) => (
          <Flag label="Needs a person all the time" value={field.value} onChange={field.onChange} />
        )}
      />
      <Condition control={control} field="charging" />
      <Condition control={control} field="cooler" />
      <Condition control={control} field="performanceMode" />
      {others.length > 0 ? (
        <Stack gap={4} style={{ marginBottom: 10 }}>
          <Quiet>Only after</Quiet>
          <Controller
            control={control}
            name="after"
            render={({ field }) => (
              <Chips
                label="Only after"
                options={others.map((one) => one.id)}
                words={label}
                selected={field.value}
                onChange={field.onChange}
              />
            )}
          />
        </Stack>
      ) : null}
      <TextField control={control} name="note" label="Note" />
      <Row gap={8} wrap>
        <Button
          title="Save step"
          onPress={form.handleSubmit(
            (kept) => (onSteps(steps.map((one) => (one.id === step.id ? kept : one))), onDone()),
          )}
        />
        <Button type="clear" title="Discard changes" onPress={onDone} />
        <Button
          type="clear"
          title="Remove"
          onPress={() =>
            onSteps(others.map((one) => ({ ...one, after: one.after.filter((id) => id !== step.id) })))
          }
        />
      </Row>
      <Duplicate step={step} steps={steps} kit={kit} onSteps={onSteps} onDone={onDone} />
    </Stack>
  );
}

/** The ladder that is climbed in the step, of its device and title: its minutes follow what is still to be probed. */
function LadderOfStep({ form }: { form: UseFormReturn<StepForm, unknown, CardStep> }): ReactNode {
  const ladders = useLadders().data ?? [];
  const { control } = form;
  const [device, title] = useWatch({ control, name: ['device', 'title'] });
  const same = (a: string, b: string | null): boolean => a.toLowerCase() === b?.trim().toLowerCase();
  const fitting = ladders.filter((one) => same(one.device, device) && same(one.title, title));
  if (fitting.length === 0) return null;
  return (
    <Controller
      control={control}
      name="ladderId"
      render={({ field }) => {
        const chosen = fitting.find((one) => one.id === field.value);
        return (
          <Stack gap={4} style={{ marginBottom: 10 }}>
            <Select
              label="Ladder to work on"
              options={fitting.map(({ id, axis, scene }) => ({
                value: id,
                text: [axis, scene].filter(Boolean).join(', '),
              }))}
              value={chosen ? chosen.id : null}
              onChange={(id) => {
                field.onChange(id);
                const ladder = fitting.find((one) => one.id === id);
                if (ladder) form.setValue('minutes', ladder.minutesToGo);
              }}
              none="none"
            />
            {chosen ? (
              <Quiet>
                {`${chosen.probesToGo === null ? 'No test' : `About ${count(Math.max(1, Math.round(chosen.probesToGo)), 'test')}`} left${chosen.confirmed ? '' : ', and the confirming run'}: ${chosen.minutesToGo} min. The time follows the tests still needed.`}
              </Quiet>
            ) : null}
          </Stack>
        );
      }}
    />
  );
}

/** Titles that are played straight after it, one a line: one warm sitting, which is no warm start that somebody overlooked. */
function Then({ form }: { form: UseFormReturn<StepForm, unknown, CardStep> }): ReactNode {
  const [text, setText] = useState(() =>
    (form.getValues('then') ?? []).map((one) => `${one.title} ${one.minutes}`).join('\n'),
  );
  const problem = form.formState.errors.then;
  const message =
    problem &&
    ('message' in problem && problem.message ? problem.message : 'Enter one title and its minutes per line');
  return (
    <Stack gap={2} style={{ marginBottom: 6 }}>
      <Input
        multiline
        label="Then play, one title and its minutes per line"
        aria-label="Then play"
        placeholder={'Hexgarden 20'}
        value={text}
        onChangeText={(now) => {
          setText(now);
          form.setValue('then', readThen(now), { shouldValidate: true });
        }}
        numberOfLines={Math.min(8, text.split('\n').length + 1)}
        inputStyle={{ paddingVertical: 8 }}
        renderErrorMessage={false}
      />
      {message ? (
        <Quiet role="alert">{`Then play: ${message}`}</Quiet>
      ) : text.trim() === '' ? null : (
        <Quiet>Counts within the step’s minutes, as one session, without cooling down in between.</Quiet>
      )}
    </Stack>
  );
}

/** "Hexgarden 20" is twenty minutes of Hexgarden; a line without minutes is one that the form refuses. */
const readThen = (text: string): { title: string; minutes: number }[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => {
      const [, title = line, minutes = ''] = /^(.*?)[\s,]+(\d+)(?:\s*min)?$/.exec(line) ?? [];
      return { title: title.trim(), minutes: Number(minutes) };
    });

const Third = ({ children }: { children: ReactNode }): ReactNode => <Stack flex={1}>{children}</Stack>;

const CONDITION_WORDS = { charging: 'Power', cooler: 'Cooler', performanceMode: 'Mode' } as const;

/** A condition that belongs to the step; a second tap leaves it to the preflight. */
function Condition({
  control,
  field: name,
}: {
  control: Control<FieldValues>;
  field: keyof typeof CONDITION_WORDS;
}): ReactNode {
  const options = (preflight.shape[name].unwrap().options as string[]).map((value) => ({
    value,
    text: value,
  }));
  return (
    <Controller
      control={control}
      name="conditions"
      render={({ field }) => (
        <Stack gap={2} style={{ marginBottom: 10 }}>
          <Quiet>{`${CONDITION_WORDS[name]}: taken from the checks before the run unless you choose here`}</Quiet>
          <Choices
            label={CONDITION_WORDS[name]}
            options={options}
            selected={field.value[name] ?? null}
            onSelect={(value) => {
              const { [name]: before, ...rest } = field.value;
              field.onChange(before === value ? rest : { ...rest, [name]: value });
            }}
          />
        </Stack>
      )}
    />
  );
}

/** The same step on other devices. */
function Duplicate({ step, steps, kit, onSteps, onDone }: Props): ReactNode {
  const [chosen, setChosen] = useState<string[]>([]);
  const devices = kit?.devices.map((one) => one.name).filter((name) => name !== step.device) ?? [];
  if (devices.length === 0) return null;
  return (
    <Stack gap={6} style={{ marginTop: 10 }}>
      <Quiet>Copy step to</Quiet>
      <Chips label="Copy step to" options={devices} selected={chosen} onChange={setChosen} />
      <Row>
        <Button
          type="outline"
          title="Duplicate"
          disabled={chosen.length === 0}
          onPress={() => {
            const place = steps.indexOf(step) + 1;
            // a copy waits for what it waited for, not for other devices' steps
            const copies = chosen.flatMap((device) => copied([{ ...step, after: [] }], [device]));
            onSteps([...steps.slice(0, place), ...copies, ...steps.slice(place)]);
            onDone();
          }}
        />
      </Row>
    </Stack>
  );
}
