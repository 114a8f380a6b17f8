import type { ReactNode } from 'react';
import { View, type ViewProps } from 'react-native';
import { usePalette } from './Look';

/** Distances between things, px. */
export type Space = 0 | 2 | 4 | 6 | 8 | 10 | 12 | 14 | 16 | 18 | 20 | 24 | 28 | 32;

interface Box extends ViewProps {
  gap?: Space | undefined;
  /** Its share of the room. */
  flex?: number | undefined;
  align?: 'flex-start' | 'center' | 'flex-end' | 'stretch' | 'baseline' | undefined;
  padding?: Space | undefined;
}

/** Things under one another. */
export function Stack({ gap, flex, align, padding, style, ...props }: Box): ReactNode {
  return <View style={[{ gap, flex, alignItems: align, padding }, style]} {...props} />;
}

/** Things side by side. */
export function Row({
  gap,
  flex,
  align,
  padding,
  apart = false,
  wrap = false,
  style,
  ...props
}: Box & {
  /** The first at the left, the last at the right. */
  apart?: boolean;
  /** What has no room goes on in the next line. */
  wrap?: boolean;
}): ReactNode {
  return (
    <View
      style={[
        {
          flexDirection: 'row',
          gap,
          flex,
          alignItems: align,
          padding,
          justifyContent: apart ? 'space-between' : undefined,
          flexWrap: wrap ? 'wrap' : undefined,
        },
        style,
      ]}
      {...props}
    />
  );
}

/** A sheet of paper on the table: what belongs together. */
export function Sheet({
  gap,
  flex,
  align,
  padding = 12,
  marked = false,
  style,
  ...props
}: Box & {
  /** The one that asks for something. */
  marked?: boolean;
}): ReactNode {
  const { sheet, line, action } = usePalette();
  return (
    <View
      style={[
        {
          backgroundColor: sheet,
          borderWidth: marked ? 2 : 1,
          borderColor: marked ? action : line,
          borderRadius: 8,
          gap,
          flex,
          alignItems: align,
          padding,
        },
        style,
      ]}
      {...props}
    />
  );
}
