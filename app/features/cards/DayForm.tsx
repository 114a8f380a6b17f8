import { ASSUMED_ROOM_C } from '@pace-check/core';
import { useVoice } from '../../ui/Voice';
import { TemperatureField } from '../../forms/TemperatureInput';
import { zodResolver } from '@hookform/resolvers/zod';
import { cardDay, cardRules, type Card, type CardDay, type CardRules } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Controller, useForm, useWatch, type Control, type FieldValues } from 'react-hook-form';
import { View } from 'react-native';
import * as z from 'zod';
import { Choices } from '../../ui/Choices';
import { NumberField, TextField, TimeInput } from '../../ui/Field';
import { FONTS } from '../../ui/theme';
import { Body, Heading, Quiet } from '../../ui/words';
import { Flag } from '../../forms/Flag';
import { Row, Stack } from '../../ui/parts';

const form = z.object({ day: cardDay, rules: cardRules });
export interface DayInput {
  day: CardDay;
  rules: CardRules;
}

/** When the day is, who is there, and how the devices stand at its start. */
export function DayForm({
  card,
  busy,
  onLay,
}: {
  card: Card;
  busy: boolean;
  onLay: (input: DayInput) => void;
}): ReactNode {
  const devices = [...new Set(card.steps.flatMap((step) => step.device ?? []))];
  const [rules, setRules] = useState(false);
  const {
    control: typed,
    handleSubmit,
    formState,
  } = useForm<DayInput>({
    resolver: zodResolver(form),
    defaultValues: {
      rules: card.rules,
      day: {
        ...card.day,
        devices: devices.map(
          (device) =>
            card.day.devices.find((one) => one.device === device) ?? { device, skinC: null, percent: null },
        ),
      },
    },
  });
  const { temperature } = useVoice();
  const roomC = useWatch({ control: typed, name: 'day.roomC' });
  const control = typed as unknown as Control<FieldValues>;
  return (
    <Stack gap={4}>
      <Row gap={12}>
        <Part>
          <TextField control={control} name="day.date" label="Date" placeholder="2026-05-16" />
        </Part>
        <Part>
          <Controller
            control={control}
            name="day.startMin"
            render={({ field, fieldState }) => (
              <TimeInput
                label="Start"
                value={field.value}
                onChange={field.onChange}
                error={fieldState.error?.message}
              />
            )}
          />
        </Part>
        <Part>
          <Controller
            control={control}
            name="day.finishByMin"
            render={({ field, fieldState }) => (
              <TimeInput
                label="Finish by"
                placeholder="open"
                value={field.value}
                onChange={field.onChange}
                error={fieldState.error?.message}
              />
            )}
          />
        </Part>
      </Row>
      <Ask label="People">
        <Controller
          control={control}
          name="day.hands"
          render={({ field }) => (
            <Choices label="People" options={HANDS} selected={field.value} onSelect={field.onChange} />
          )}
        />
      </Ask>
      <Ask label="Order on each device">
        <Controller
          control={control}
          name="day.order"
          render={({ field }) => (
            <Choices
              label="Order on each device"
              options={ORDERS}
              selected={field.value}
              onSelect={field.onChange}
            />
          )}
        />
      </Ask>
      <Controller
        control={control}
        name="day.parallel"
        render={({ field }) => (
          <Flag label="Two devices may run at the same time" value={field.value} onChange={field.onChange} />
        )}
      />
      <Row gap={12}>
        <Part>
          <TemperatureField
            control={control}
            name="day.roomC"
            label="Room temperature"
            placeholder="unknown"
          />
        </Part>
        <Stack flex={2} style={{ justifyContent: 'center' }}>
          <Quiet>{roomC === null ? `Unknown: planned with ${temperature(ASSUMED_ROOM_C)}.` : ''}</Quiet>
        </Stack>
      </Row>
      {devices.map((device, i) => (
        <Row key={device} gap={12}>
          <Stack flex={1.2} style={{ paddingTop: 26 }}>
            <Body style={{ fontFamily: FONTS.head }}>{device}</Body>
          </Stack>
          <Part>
            <TemperatureField
              control={control}
              name={`day.devices.${i}.skinC`}
              label="Skin"
              placeholder="as the room"
            />
          </Part>
          <Part>
            <NumberField
              control={control}
              name={`day.devices.${i}.percent`}
              label="Battery, %"
              placeholder="100"
            />
          </Part>
        </Row>
      ))}
      <Row gap={12}>
        <Button
          type="clear"
          title={rules ? 'Hide limits' : 'Limits and breaks'}
          aria-expanded={rules}
          onPress={() => setRules(!rules)}
          buttonStyle={{ paddingHorizontal: 0 }}
        />
      </Row>
      {rules ? (
        <View>
          <Heading level={3}>Limits and breaks</Heading>
          <Row gap={12}>
            <Part>
              <TemperatureField
                control={control}
                name="rules.startOverRoomC"
                label="Start at most … above room"
                difference
              />
            </Part>
            <Part>
              <NumberField control={control} name="rules.startPercent" label="Battery at start, at least %" />
            </Part>
            <Part>
              <NumberField control={control} name="rules.floorPercent" label="Battery at end, at least %" />
            </Part>
          </Row>
          <Row gap={12}>
            <Part>
              <TemperatureField control={control} name="rules.chargeBelowC" label="Charge only below" />
            </Part>
            <Part>
              <NumberField control={control} name="rules.prepareMin" label="Setup time, min" />
            </Part>
          </Row>
          <Controller
            control={control}
            name="rules.handsRest"
            render={({ field }) => <Flag label="Plan breaks" value={field.value} onChange={field.onChange} />}
          />
          <Row gap={12}>
            <Part>
              <NumberField control={control} name="rules.restMin" label="Break length, min" />
            </Part>
            <Part>
              <NumberField control={control} name="rules.stretchMin" label="Break every, min" />
            </Part>
          </Row>
        </View>
      ) : null}
      {Object.keys(formState.errors).length > 0 ? (
        <Body role="alert">Correct the marked fields above.</Body>
      ) : null}
      <Row gap={12}>
        <Button
          title="Plan the day"
          loading={busy}
          onPress={() =>
            void handleSubmit((input) =>
              onLay({ rules: input.rules, day: { ...input.day, date: input.day.date || null } }),
            )()
          }
        />
      </Row>
    </Stack>
  );
}

const HANDS: { value: 1 | 2; text: string }[] = [
  { value: 1, text: 'one person' },
  { value: 2, text: 'two people' },
];
const ORDERS: { value: CardDay['order']; text: string }[] = [
  { value: 'light-to-heavy', text: 'light titles first' },
  { value: 'as-listed', text: 'as listed' },
];

const Part = ({ children }: { children: ReactNode }): ReactNode => (
  <Stack flex={1} style={{ minWidth: 0 }}>
    {children}
  </Stack>
);

function Ask({ label, children }: { label: string; children: ReactNode }): ReactNode {
  return (
    <Stack gap={2} style={{ marginBottom: 10 }}>
      <Quiet style={{ fontFamily: FONTS.head, fontSize: 15 }}>{label}</Quiet>
      {children}
    </Stack>
  );
}
