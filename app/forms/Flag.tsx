import { CheckBox } from '@rneui/themed';
import type { ReactNode } from 'react';
import { usePalette } from '../ui/Look';
import { FONTS } from '../ui/theme';
import { Body } from '../ui/words';
import { Stack } from '../ui/parts';

/** Yes or no. */
export function Flag({
  label,
  value,
  onChange,
}: {
  label: string;
  value: boolean;
  onChange: (value: boolean) => void;
}): ReactNode {
  const { action, quiet, ink } = usePalette();
  return (
    <CheckBox
      title={label}
      checked={value}
      role="checkbox"
      aria-checked={value}
      aria-label={label}
      onPress={() => onChange(!value)}
      checkedIcon={<Box filled color={action} />}
      uncheckedIcon={<Box filled={false} color={quiet} />}
      containerStyle={{
        backgroundColor: 'transparent',
        borderWidth: 0,
        paddingHorizontal: 0,
        marginLeft: 0,
        minHeight: 44,
        justifyContent: 'center',
      }}
      textStyle={{ fontFamily: FONTS.text, fontWeight: 'normal', fontSize: 16, color: ink }}
    />
  );
}

function Box({ filled, color }: { filled: boolean; color: string }): ReactNode {
  const { onAction } = usePalette();
  return (
    <Stack
      align="center"
      style={{
        width: 24,
        height: 24,
        borderRadius: 4,
        borderWidth: 2,
        borderColor: color,
        backgroundColor: filled ? color : 'transparent',
        justifyContent: 'center',
      }}
    >
      {filled ? <Body style={{ color: onAction, fontSize: 16, lineHeight: 19 }}>✓</Body> : null}
    </Stack>
  );
}
