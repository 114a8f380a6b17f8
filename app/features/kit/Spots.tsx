import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import {
  Controller,
  useFieldArray,
  type Control,
  type FieldValues,
  type UseFormReturn,
} from 'react-hook-form';
import { Choices } from '../../ui/Choices';
import { Body, Heading, Quiet } from '../../ui/words';
import { usualPlace } from '@pace-check/core';
import { Input } from '@rneui/themed';
import { Row, Stack } from '../../ui/parts';

const SIDES = [
  { value: 'front', text: 'front' },
  { value: 'back', text: 'back' },
];

/** Where a device's skin is read, and which spot lies over the chip. */
export function Spots({
  control,
  form,
}: {
  control: Control<FieldValues>;
  form: UseFormReturn<FieldValues>;
}): ReactNode {
  const { fields, append, remove } = useFieldArray({ control, name: 'spots' });
  const [name, setName] = useState('');
  const chip = form.watch('facts.chipSpot') as string | undefined;
  const add = (): void => {
    const spot = name.trim();
    if (spot === '') return;
    append({ spot, ...usualPlace(spot) });
    setName('');
  };
  return (
    <Stack gap={6} style={{ marginBottom: 14 }}>
      <Heading level={3}>Skin spots</Heading>
      <Quiet>Use the same spots every time. Drag them to their place on a run’s page.</Quiet>
      {fields.map((field, i) => {
        const spot = (field as unknown as { spot: string }).spot;
        return (
          <Row key={field.id} gap={8} align="center" wrap>
            <Body style={{ flexGrow: 1, flexBasis: 120 }}>{spot}</Body>
            <Controller
              control={control}
              name={`spots.${i}.side`}
              render={({ field: side }) => (
                <Choices
                  label={`Front or back: ${spot}`}
                  options={SIDES}
                  selected={side.value}
                  onSelect={side.onChange}
                />
              )}
            />
            <Button
              type={chip === spot ? 'solid' : 'outline'}
              title="chip"
              aria-label={`${spot} is over the chip`}
              aria-pressed={chip === spot}
              onPress={() =>
                form.setValue('facts.chipSpot', chip === spot ? null : spot, { shouldDirty: true })
              }
            />
            <Button type="clear" title="×" aria-label={`Remove ${spot}`} onPress={() => remove(i)} />
          </Row>
        );
      })}
      <Row gap={8} align="center">
        <Stack flex={1}>
          <Input
            aria-label="New skin spot"
            placeholder="back, near the camera"
            value={name}
            onChangeText={setName}
            onSubmitEditing={add}
            renderErrorMessage={false}
          />
        </Stack>
        <Button type="outline" title="Add spot" disabled={name.trim() === ''} onPress={add} />
      </Row>
    </Stack>
  );
}
