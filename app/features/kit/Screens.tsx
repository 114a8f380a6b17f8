import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { Controller, useFieldArray, type Control, type FieldValues } from 'react-hook-form';
import { View } from 'react-native';
import { NumberField, TextField } from '../../ui/Field';
import { usePalette } from '../../ui/Look';
import { Heading } from '../../ui/words';
import { Flag } from '../../forms/Flag';
import { ListInput } from './FactFields';
import { Row, Stack } from '../../ui/parts';

/** A device's screens: one, or the two of a foldable. */
export function Screens({ control }: { control: Control<FieldValues> }): ReactNode {
  const { line } = usePalette();
  const { fields, append, remove } = useFieldArray({ control, name: 'facts.screens' });
  return (
    <Stack gap={8} style={{ marginBottom: 14 }}>
      <Heading level={3}>Screens</Heading>
      {fields.map((screen, i) => (
        <View
          key={screen.id}
          role="group"
          aria-label={`Screen ${i + 1}`}
          style={{ borderLeftWidth: 2, borderColor: line, paddingLeft: 12 }}
        >
          <Row wrap style={{ columnGap: 12 }}>
            <Cell>
              <TextField
                control={control}
                name={`facts.screens.${i}.name`}
                label="Screen name"
                placeholder={fields.length > 1 ? 'inner, outer' : ''}
              />
            </Cell>
            <Cell>
              <NumberField control={control} name={`facts.screens.${i}.inches`} label="Diagonal, inches" />
            </Cell>
            <Cell>
              <NumberField control={control} name={`facts.screens.${i}.widthPx`} label="Width, px" />
            </Cell>
            <Cell>
              <NumberField control={control} name={`facts.screens.${i}.heightPx`} label="Height, px" />
            </Cell>
          </Row>
          <Controller
            control={control}
            name={`facts.screens.${i}.refreshHz`}
            render={({ field }) => (
              <ListInput
                label="Refresh rates, Hz (separate with commas)"
                numbers
                value={field.value ?? []}
                onChange={field.onChange}
              />
            )}
          />
          <Row align="center" apart style={{ marginTop: -12 }}>
            <Controller
              control={control}
              name={`facts.screens.${i}.adaptive`}
              render={({ field }) => (
                <Flag label="Adaptive refresh rate" value={field.value ?? false} onChange={field.onChange} />
              )}
            />
            <Button
              type="clear"
              title="Remove"
              aria-label={`Remove screen ${i + 1}`}
              onPress={() => remove(i)}
            />
          </Row>
        </View>
      ))}
      <Row>
        <Button type="outline" title="Add screen" onPress={() => append({})} />
      </Row>
    </Stack>
  );
}

const Cell = ({ children }: { children: ReactNode }): ReactNode => (
  <View style={{ flexGrow: 1, flexBasis: 100 }}>{children}</View>
);
