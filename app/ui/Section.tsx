import type { ReactNode } from 'react';
import { View } from 'react-native';
import { usePalette } from './Look';
import { Heading } from './words';

/** A part of the run's page. */
export function Section({
  title,
  children,
  aside,
}: {
  title: string;
  children: ReactNode;
  aside?: ReactNode;
}): ReactNode {
  const { line } = usePalette();
  return (
    <View style={{ borderTopWidth: 1, borderColor: line, paddingTop: 12, gap: 8 }}>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center', gap: 12 }}>
        <Heading>{title}</Heading>
        {aside}
      </View>
      {children}
    </View>
  );
}
