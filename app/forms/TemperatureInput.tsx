import { roomQuestion, skinQuestion, toCelsius, toFahrenheit, type TemperatureUnit } from '@pace-check/core';
import type { ReactNode } from 'react';
import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { NumberInput } from '../ui/Field';
import { useVoice } from '../ui/Voice';
import { Quiet } from '../ui/words';

interface Props {
  /** Without its unit: that is as the reader's setting says. */
  label: string;
  /** °C; null where nothing stands, or the text that is no number. */
  value: unknown;
  onChange: (celsius: unknown) => void;
  onBlur?: (() => void) | undefined;
  /** Words, or a temperature in °C that stands for what is usual. */
  placeholder?: string | number | undefined;
  error?: string | undefined;
  /** A difference of two temperatures: a degree is a degree, whatever the zero. */
  difference?: boolean;
  /** What it is of: what can hardly be is asked about at once. */
  of?: 'skin' | 'room';
}

/** What is typed stays as it is: beyond this the scales' factor leaves only noise. */
const DECIMALS = 3;

const shownOf = (celsius: number, unit: TemperatureUnit, difference: boolean): number => {
  const degrees = unit === 'C' ? celsius : difference ? celsius * 1.8 : toFahrenheit(celsius);
  return Number(degrees.toFixed(DECIMALS));
};
const celsiusOf = (degrees: number, unit: TemperatureUnit, difference: boolean): number =>
  unit === 'C' ? degrees : difference ? degrees / 1.8 : toCelsius(degrees);

/** A temperature: °C to its form, shown and typed in the scale that the reader has chosen. */
export function TemperatureInput({
  label,
  value,
  onChange,
  onBlur,
  placeholder,
  error,
  difference = false,
  of,
}: Props): ReactNode {
  const { unit } = useVoice();
  const shown = (celsius: unknown): unknown =>
    typeof celsius === 'number' ? shownOf(celsius, unit, difference) : celsius;
  const asked =
    of === undefined || typeof value !== 'number'
      ? null
      : (of === 'room' ? roomQuestion : skinQuestion)(value, unit);
  const input = (
    <NumberInput
      // another scale is another text
      key={unit}
      label={`${label}, °${unit}`}
      placeholder={placeholder === undefined ? undefined : String(shown(placeholder))}
      value={shown(value)}
      onChange={(typed) => onChange(typeof typed === 'number' ? celsiusOf(typed, unit, difference) : typed)}
      onBlur={onBlur}
      error={error}
    />
  );
  return (
    <>
      {input}
      {asked === null ? null : <Quiet role="status">{asked}</Quiet>}
    </>
  );
}

/** The same in a form. */
export function TemperatureField<T extends FieldValues>({
  control,
  name,
  ...props
}: Pick<Props, 'label' | 'placeholder' | 'difference' | 'of'> & {
  control: Control<T>;
  name: FieldPath<T>;
}): ReactNode {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <TemperatureInput
          {...props}
          value={field.value}
          onChange={field.onChange}
          onBlur={field.onBlur}
          error={fieldState.error?.message}
        />
      )}
    />
  );
}
