import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { Controller, useFieldArray, type Control, type FieldValues } from 'react-hook-form';
import { View } from 'react-native';
import { Choices } from '../../ui/Choices';
import { TextField } from '../../ui/Field';
import { Heading, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

const WEIGHTS = [
  { value: 'light', text: 'light' },
  { value: 'hard', text: 'hard' },
];

/** Named places or loads of a title, each light or hard. */
export function Scenes({ control }: { control: Control<FieldValues> }): ReactNode {
  const { fields, append, remove } = useFieldArray({ control, name: 'facts.scenes' });
  return (
    <Stack gap={6} style={{ marginBottom: 14 }}>
      <Heading level={3}>Scenes</Heading>
      <Quiet>
        Places or loads in the title, such as start area, hard track, big match or late save. A run without a
        hard scene shows a caveat.
      </Quiet>
      {fields.map((scene, i) => (
        <Row key={scene.id} role="group" aria-label={`Scene ${i + 1}`} gap={10} align="center" wrap>
          <View style={{ flexGrow: 1, flexBasis: 150 }}>
            <TextField control={control} name={`facts.scenes.${i}.name`} label="Name" />
          </View>
          <Controller
            control={control}
            name={`facts.scenes.${i}.weight`}
            render={({ field }) => (
              <Choices
                label={`Load of scene ${i + 1}`}
                options={WEIGHTS}
                selected={field.value ?? null}
                onSelect={(value) => field.onChange(value === field.value ? null : value)}
              />
            )}
          />
          <Button
            type="clear"
            title="Remove"
            aria-label={`Remove scene ${i + 1}`}
            onPress={() => remove(i)}
          />
        </Row>
      ))}
      <Row>
        <Button type="outline" title="Add scene" onPress={() => append({ name: '' })} />
      </Row>
    </Stack>
  );
}
