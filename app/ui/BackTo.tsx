import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable } from 'react-native';
import { usePalette } from './Look';
import { TARGET } from './theme';
import { Quiet } from './words';
import { Icon } from './Icon';

/** The way back to the list that a page belongs to. */
export function BackTo({
  href,
  title,
}: {
  href:
    | '/'
    | '/kit'
    | '/cards'
    | '/bench'
    | '/compare'
    | '/reviews'
    | `/reviews/${string}`
    | `/runs/${string}`
    | '/ladders'
    | '/outcomes'
    | '/devices'
    | '/titles';
  title: string;
}): ReactNode {
  const { quiet } = usePalette();
  return (
    <Link href={href} asChild>
      <Pressable
        style={{
          flexDirection: 'row',
          alignItems: 'center',
          gap: 6,
          minHeight: TARGET,
          alignSelf: 'flex-start',
          paddingRight: 12,
        }}
      >
        <Icon name="back" size={18} color={quiet} />
        <Quiet style={{ fontSize: 16 }}>{title}</Quiet>
      </Pressable>
    </Link>
  );
}
