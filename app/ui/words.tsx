import { Text } from '@rneui/themed';
import type { ReactNode } from 'react';
import type { TextProps } from 'react-native';
import { usePalette } from './Look';
import { FONTS } from './theme';

type Props = TextProps & { children: ReactNode };

/** The name of a screen or a section. */
export function Heading({ level = 2, style, ...props }: Props & { level?: 1 | 2 | 3 }): ReactNode {
  const { ink } = usePalette();
  const size = { 1: 28, 2: 21, 3: 17 }[level];
  return (
    <Text
      role="heading"
      aria-level={level}
      style={[{ fontFamily: FONTS.head, fontSize: size, lineHeight: size * 1.2, color: ink }, style]}
      {...props}
    />
  );
}

/** Running text. */
export function Body({
  small = false,
  head = false,
  style,
  ...props
}: Props & {
  /** Where much stands together. */
  small?: boolean;
  /** In the letters of headings: names and what is tapped. */
  head?: boolean;
}): ReactNode {
  const { ink } = usePalette();
  const size = head ? HEAD : small ? SMALL : USUAL;
  return <Text style={[{ color: ink }, size, style]} {...props} />;
}

const USUAL = { fontFamily: FONTS.text, fontSize: 16, lineHeight: 23 };
const SMALL = { fontFamily: FONTS.text, fontSize: 15, lineHeight: 21 };
const HEAD = { fontFamily: FONTS.head, fontSize: 17, lineHeight: 21 };

/** What stands beside: units, definitions, file names. */
export function Quiet({ style, ...props }: Props): ReactNode {
  const { quiet } = usePalette();
  return (
    <Text
      style={[{ fontFamily: FONTS.text, fontSize: 14, lineHeight: 19, color: quiet }, style]}
      {...props}
    />
  );
}

/** A number: tabular, so that columns of them line up. */
export function FigureText({ size = 17, style, ...props }: Props & { size?: number }): ReactNode {
  const { ink } = usePalette();
  return (
    <Text
      style={[
        {
          fontFamily: FONTS.figure,
          fontSize: size,
          lineHeight: size * 1.2,
          color: ink,
          fontVariant: ['tabular-nums'],
        },
        style,
      ]}
      {...props}
    />
  );
}
