import type { ReactNode } from 'react';
import { Pressable } from 'react-native';
import { Icon } from '../ui/Icon';
import { usePalette } from '../ui/Look';
import { Row, Stack } from '../ui/parts';
import { FigureText } from '../ui/words';

/** Smallest side of what is tapped with a hot device in the other hand. */
export const BIG = 56;

const NAMES: Record<string, string> = {
  '<': 'Delete a digit',
  '.': 'Decimal point',
  '–': 'To (range)',
  '±': 'Plus or minus',
  '~': 'Estimate by eye',
  h: 'Hours',
};

/** Large keys for a number; a row is a string of them, `<` deletes. */
export function KeyPad({
  rows,
  onKey,
  height = BIG,
}: {
  rows: readonly string[];
  onKey: (key: string) => void;
  height?: number;
}): ReactNode {
  const { ink, quiet, sheet, line } = usePalette();
  return (
    <Stack gap={6} flex={1}>
      {rows.map((row) => (
        <Row key={row} gap={6}>
          {[...row].map((key) => (
            <Pressable
              key={key}
              role="button"
              aria-label={NAMES[key] ?? key}
              onPress={() => onKey(key)}
              style={({ pressed }) => ({
                flex: 1,
                minHeight: height,
                alignItems: 'center',
                justifyContent: 'center',
                borderRadius: 8,
                borderWidth: 1,
                borderColor: quiet,
                backgroundColor: pressed ? line : sheet,
              })}
            >
              {key === '<' ? (
                <Icon name="delete" size={24} color={ink} />
              ) : (
                <FigureText size={28}>{key}</FigureText>
              )}
            </Pressable>
          ))}
        </Row>
      ))}
    </Stack>
  );
}
