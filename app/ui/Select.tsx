import { Picker } from '@react-native-picker/picker';
import type { ReactNode } from 'react';
import { usePalette } from './Look';
import { FONTS, TARGET } from './theme';
import { Quiet } from './words';
import { Stack } from './parts';

/** One of many, by the platform’s own list: keys, thumbs and screen readers know it. */
export function Select<T extends string>({
  label,
  options,
  value,
  onChange,
  none,
}: {
  label: string;
  options: { value: T; text: string }[];
  value: T | null;
  onChange: (value: T | null) => void;
  /** What stands for none of them; left out where one must be chosen. */
  none?: string;
}): ReactNode {
  const { sheet, ink, quiet } = usePalette();
  return (
    <Stack gap={4}>
      <Quiet aria-hidden>{label}</Quiet>
      <Picker
        aria-label={label}
        selectedValue={value ?? ''}
        onValueChange={(chosen) => onChange(chosen === '' ? null : (chosen as T))}
        style={{
          minHeight: TARGET,
          minWidth: 150,
          maxWidth: 240,
          paddingHorizontal: 10,
          borderWidth: 1,
          borderColor: quiet,
          borderRadius: 6,
          backgroundColor: sheet,
          color: ink,
          fontFamily: FONTS.text,
          fontSize: 16,
        }}
      >
        {none === undefined ? null : <Picker.Item label={none} value="" />}
        {options.map((option) => (
          <Picker.Item key={option.value} label={option.text} value={option.value} />
        ))}
      </Picker>
    </Stack>
  );
}
