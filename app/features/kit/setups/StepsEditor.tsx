import { STEP_NEEDS, type StepNeed } from '@pace-check/core';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { Controller, useFieldArray, type Control, type FieldValues } from 'react-hook-form';
import { Flag } from '../../../forms/Flag';
import { TextField } from '../../../ui/Field';
import { Row, Sheet, Stack } from '../../../ui/parts';
import { Heading, Quiet } from '../../../ui/words';

const WORDS: Record<StepNeed, string> = {
  'outside-store': 'a package from outside the official store',
  root: 'root or administrator rights',
  account: 'an account with another service',
  'patched-driver': 'a driver that is not from the maker',
};

/** How a setup is made, step by step, each with its way back. */
export function StepsEditor({ control }: { control: Control<FieldValues> }): ReactNode {
  const { fields, append, remove, move } = useFieldArray({ control, name: 'facts.steps' });
  return (
    <Stack gap={8} role="group" aria-label="Steps">
      <Heading level={3}>Steps</Heading>
      <Quiet>
        List the steps in order so that others can follow. Mark any step that needs more than a setting; the
        recipe then shows a caution.
      </Quiet>
      {fields.map((step, i) => (
        <Sheet key={step.id} gap={2} role="group" aria-label={`Step ${i + 1}`}>
          <TextField control={control} name={`facts.steps.${i}.says`} label={`${i + 1}. Action`} />
          <TextField control={control} name={`facts.steps.${i}.undo`} label="How to undo it" />
          <Row wrap style={{ columnGap: 12 }}>
            <Stack style={{ flexGrow: 2, flexBasis: 170 }}>
              <TextField control={control} name={`facts.steps.${i}.source`} label="Source" />
            </Stack>
            <Stack style={{ flexGrow: 1, flexBasis: 120 }}>
              <TextField
                control={control}
                name={`facts.steps.${i}.dated`}
                label="Tried on"
                placeholder="2026-05-02"
              />
            </Stack>
          </Row>
          <Controller
            control={control}
            name={`facts.steps.${i}.needs`}
            render={({ field }) => <Needs value={field.value ?? []} onChange={field.onChange} />}
          />
          <Row>
            <Button
              type="clear"
              title="Up"
              aria-label={`Move step ${i + 1} up`}
              disabled={i === 0}
              onPress={() => move(i, i - 1)}
            />
            <Button
              type="clear"
              title="Remove"
              aria-label={`Remove step ${i + 1}`}
              onPress={() => remove(i)}
            />
          </Row>
        </Sheet>
      ))}
      <Row>
        <Button
          type="outline"
          title="Add step"
          onPress={() => append({ says: '', undo: '', source: '', dated: null, needs: [] })}
        />
      </Row>
    </Stack>
  );
}

function Needs({
  value,
  onChange,
}: {
  value: readonly StepNeed[];
  onChange: (needs: StepNeed[]) => void;
}): ReactNode {
  return (
    <Stack role="group" aria-label="Special requirements">
      <Quiet>Requires</Quiet>
      {STEP_NEEDS.map((need) => (
        <Flag
          key={need}
          label={WORDS[need]}
          value={value.includes(need)}
          onChange={(takes) => onChange(takes ? [...value, need] : value.filter((one) => one !== need))}
        />
      ))}
    </Stack>
  );
}
