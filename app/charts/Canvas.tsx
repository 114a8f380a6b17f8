import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Text } from 'react-native-svg';
import { usePalette } from '../ui/Look';
import { FONTS } from '../ui/theme';

/** A drawing as wide as there is room; `label` says in words what it shows. */
export function Canvas({
  height,
  label,
  children,
}: {
  height: number;
  label: string;
  children: (width: number) => ReactNode;
}): ReactNode {
  const [width, setWidth] = useState(0);
  return (
    <View
      role="img"
      aria-label={label}
      onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
      style={{ height, marginBottom: 6 }}
    >
      {width > 0 ? (
        <Svg width={width} height={height}>
          {children(width)}
        </Svg>
      ) : null}
    </View>
  );
}

/** A word or a figure in a drawing. */
export function Label({
  x,
  y,
  children,
  anchor = 'start',
  color,
}: {
  x: number;
  y: number;
  children: string;
  anchor?: 'start' | 'middle' | 'end';
  color?: string;
}): ReactNode {
  const { quiet } = usePalette();
  return (
    <Text x={x} y={y} textAnchor={anchor} fill={color ?? quiet} fontFamily={FONTS.figure} fontSize={13}>
      {children}
    </Text>
  );
}
