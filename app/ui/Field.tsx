import { Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { timeOfDay } from './figures';

/** A line of text in a form, with its label and what is wrong with it. */
export function TextField<T extends FieldValues>({
  control,
  name,
  label,
  placeholder,
}: {
  control: Control<T>;
  name: FieldPath<T>;
  label: string;
  placeholder?: string;
}): ReactNode {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <Input
          label={label}
          aria-label={label}
          placeholder={placeholder}
          value={field.value ?? ''}
          onChangeText={field.onChange}
          onBlur={field.onBlur}
          errorMessage={fieldState.error?.message}
        />
      )}
    />
  );
}

/** A number in a form; empty means that none is set. */
export function NumberField<T extends FieldValues>({
  control,
  name,
  label,
  placeholder,
}: {
  control: Control<T>;
  name: FieldPath<T>;
  label: string;
  placeholder?: string;
}): ReactNode {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <NumberInput
          label={label}
          placeholder={placeholder}
          value={field.value}
          onChange={field.onChange}
          onBlur={field.onBlur}
          error={fieldState.error?.message}
        />
      )}
    />
  );
}

interface NumberInputProps {
  label: string;
  placeholder?: string | undefined;
  value: unknown;
  onChange: (value: unknown) => void;
  onBlur?: (() => void) | undefined;
  error?: string | undefined;
}

/** A number that no form holds: a number, null where nothing stands, or the text that is none. */
export function NumberInput({
  label,
  placeholder,
  value,
  onChange,
  onBlur,
  error,
}: NumberInputProps): ReactNode {
  // "60." is no number yet, and "60.0" must not become "60" under the fingers: the text is kept beside the value
  const [text, setText] = useState(value === null || value === undefined ? '' : String(value));
  const shown = numberOf(text) === value ? text : value === null || value === undefined ? '' : String(value);
  return (
    <Input
      label={label}
      aria-label={label}
      placeholder={placeholder}
      inputMode="decimal"
      value={shown}
      onChangeText={(typed) => {
        setText(typed);
        onChange(numberOf(typed));
      }}
      onBlur={onBlur}
      errorMessage={error}
    />
  );
}

/** What was typed as a number where it is one; else as it stands, for the schema to refuse. */
function numberOf(text: string): number | string | null {
  const plain = text.trim().replace(',', '.');
  if (plain === '') return null;
  const number = Number(plain);
  return Number.isFinite(number) ? number : text;
}

/** A time of day as minutes from midnight; what is no time stands as it was typed. */
export function TimeInput({
  label,
  value,
  onChange,
  error,
  placeholder = 'hh:mm',
}: {
  label: string;
  value: unknown;
  onChange: (value: unknown) => void;
  error?: string | undefined;
  placeholder?: string;
}): ReactNode {
  const shown = typeof value === 'number' ? timeOfDay(value) : '';
  const [text, setText] = useState(shown);
  const kept = minutesOf(text) === value ? text : shown;
  return (
    <Input
      label={label}
      aria-label={label}
      placeholder={placeholder}
      inputMode="numeric"
      value={typeof value === 'string' ? value : kept}
      onChangeText={(typed) => {
        setText(typed);
        onChange(minutesOf(typed));
      }}
      errorMessage={error}
    />
  );
}

/** "9:30", "0930" and "9" are times; anything else stays as typed. */
export function minutesOf(text: string): number | string | null {
  const plain = text.trim();
  if (plain === '') return null;
  const parts = /^(\d{1,2})(?:[:.h ]?([0-5]\d))?$/.exec(plain);
  if (!parts || Number(parts[1]) > 47) return text;
  return Number(parts[1]) * 60 + Number(parts[2] ?? 0);
}
