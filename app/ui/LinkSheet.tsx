import { Link, type Href } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, type ViewStyle } from 'react-native';
import { usePalette } from './Look';

/** A sheet of a list that leads to what it names. */
export function LinkSheet({
  href,
  style,
  children,
}: {
  href: Href;
  style?: ViewStyle;
  children: ReactNode;
}): ReactNode {
  const { sheet, line } = usePalette();
  return (
    <Link href={href} asChild>
      <Pressable
        style={[
          {
            backgroundColor: sheet,
            borderWidth: 1,
            borderColor: line,
            borderRadius: 8,
            padding: 12,
            gap: 2,
          },
          style,
        ]}
      >
        {children}
      </Pressable>
    </Link>
  );
}
