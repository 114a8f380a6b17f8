import { Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Controller, type Control, type FieldValues } from 'react-hook-form';
import { View } from 'react-native';
import { Flag } from '../../forms/Flag';
import { Choices } from '../../ui/Choices';
import { NumberField, TextField } from '../../ui/Field';
import { FONTS } from '../../ui/theme';
import { Heading, Quiet } from '../../ui/words';
import type { FieldGroup, FieldSpec } from './fields';
import { Row, Stack } from '../../ui/parts';

/** Facts of a record, group by group; short ones side by side. */
export function FactGroups({
  control,
  groups,
  prefix = 'facts',
}: {
  control: Control<FieldValues>;
  groups: FieldGroup[];
  prefix?: string;
}): ReactNode {
  return groups.map((group) => (
    <Stack key={group.title} gap={6} style={{ marginBottom: 12 }}>
      {group.fields.length > 1 || groups.length > 1 ? <Heading level={3}>{group.title}</Heading> : null}
      <Row wrap style={{ columnGap: 12 }}>
        {group.fields.map((spec) => (
          <View
            key={spec.field}
            style={{ flexGrow: 1, flexBasis: spec.as === 'number' ? 104 : spec.as === 'text' ? 160 : '100%' }}
          >
            <Fact control={control} name={`${prefix}.${spec.field}`} spec={spec} />
          </View>
        ))}
      </Row>
    </Stack>
  ));
}

function Fact({
  control,
  name,
  spec,
}: {
  control: Control<FieldValues>;
  name: string;
  spec: FieldSpec;
}): ReactNode {
  switch (spec.as) {
    case 'number':
      return <NumberField control={control} name={name} label={spec.label} />;
    case 'text':
    case 'long':
      return <TextField control={control} name={name} label={spec.label} />;
    case 'choice':
      return <ChoiceFact control={control} name={name} spec={spec} />;
    case 'flag':
      return <FlagFact control={control} name={name} label={spec.label} />;
    case 'numbers':
    case 'names':
      return <ListFact control={control} name={name} label={spec.label} numbers={spec.as === 'numbers'} />;
  }
}

function ChoiceFact({
  control,
  name,
  spec,
}: {
  control: Control<FieldValues>;
  name: string;
  spec: Extract<FieldSpec, { as: 'choice' }>;
}): ReactNode {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field }) => (
        <Stack gap={2} style={{ marginBottom: 14 }}>
          <Quiet style={{ fontFamily: FONTS.head, fontSize: 15 }}>{spec.label}</Quiet>
          {/* a second tap takes the answer back: nobody should have to know */}
          <Choices
            label={spec.label}
            options={spec.options.map((value) => ({ value, text: spec.words?.[value] ?? value }))}
            selected={field.value ?? null}
            onSelect={(value) => field.onChange(value === field.value ? null : value)}
          />
        </Stack>
      )}
    />
  );
}

function FlagFact({
  control,
  name,
  label,
}: {
  control: Control<FieldValues>;
  name: string;
  label: string;
}): ReactNode {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field }) => <Flag label={label} value={field.value ?? false} onChange={field.onChange} />}
    />
  );
}

function ListFact({
  control,
  name,
  label,
  numbers,
}: {
  control: Control<FieldValues>;
  name: string;
  label: string;
  numbers: boolean;
}): ReactNode {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <ListInput
          label={label}
          numbers={numbers}
          value={field.value ?? []}
          onChange={field.onChange}
          error={
            fieldState.error?.message ??
            (Array.isArray(fieldState.error) ? fieldState.error.find(Boolean)?.message : undefined)
          }
        />
      )}
    />
  );
}

/** Several values in one line, with commas between. */
export function ListInput({
  label,
  numbers,
  value,
  onChange,
  error,
}: {
  label: string;
  numbers: boolean;
  value: unknown[];
  onChange: (value: unknown[]) => void;
  error?: string | undefined;
}): ReactNode {
  const [text, setText] = useState(value.join(', '));
  const read = (typed: string): unknown[] =>
    typed
      .split(',')
      .map((part) => part.trim())
      .filter((part) => part !== '')
      .map((part) => (numbers && Number.isFinite(Number(part)) ? Number(part) : part));
  const shown = JSON.stringify(read(text)) === JSON.stringify(value) ? text : value.join(', ');
  return (
    <Input
      label={label}
      aria-label={label}
      value={shown}
      onChangeText={(typed) => {
        setText(typed);
        onChange(read(typed));
      }}
      errorMessage={error}
    />
  );
}
