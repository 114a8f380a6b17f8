import type { ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { useWide } from './Look';

/** A screen that is read from top to bottom, with room below the last line, so that a message does not lie on it. */
export function Page({ children }: { children: ReactNode }): ReactNode {
  const wide = useWide();
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{
        padding: wide ? 24 : 14,
        paddingBottom: 120,
        gap: 16,
        maxWidth: 980,
        width: '100%',
      }}
    >
      {children}
    </ScrollView>
  );
}
