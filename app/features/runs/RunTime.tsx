import { Input } from '@rneui/themed';
import type { ReactNode } from 'react';
import { View } from 'react-native';

/** A time on the run's clock, as it is typed. */
export function RunTime({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (text: string) => void;
}): ReactNode {
  return (
    <View style={{ width: 96 }}>
      <Input
        label={label}
        aria-label={`${label}, minutes and seconds`}
        value={value}
        onChangeText={onChange}
        placeholder="0:00"
        renderErrorMessage={false}
      />
    </View>
  );
}
