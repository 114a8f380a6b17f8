import type { ReactNode } from 'react';
import { Pressable } from 'react-native';
import { ARROWS } from './arrows';
import { usePalette } from './Look';
import { FONTS, TARGET } from './theme';
import { Body } from './words';
import { Row } from './parts';

interface Props<T> {
  label: string;
  options: {
    value: T;
    text: string;
    /** What it is called where the text is an abbreviation. */ spoken?: string;
  }[];
  selected: T | null;
  onSelect: (value: T) => void;
  disabled?: boolean;
  maxWidth?: number;
}

/** One of a few, side by side. (A radio group: React Native Elements' own has no roles.) */
export function Choices<T extends string | number>({
  label,
  options,
  selected,
  onSelect,
  disabled = false,
  maxWidth,
}: Props<T>): ReactNode {
  const { sheet, ink, quiet, action, onAction } = usePalette();
  // one stop for the Tab key: the chosen one, or the first
  const stop = Math.max(
    0,
    options.findIndex(({ value }) => value === selected),
  );
  return (
    <Row
      role="radiogroup"
      aria-label={label}
      style={{
        borderWidth: 1,
        borderColor: quiet,
        borderRadius: 6,
        overflow: 'hidden',
        backgroundColor: sheet,
        maxWidth: maxWidth,
      }}
    >
      {options.map(({ value, text, spoken }, i) => {
        const chosen = value === selected;
        return (
          <Pressable
            key={value}
            role="radio"
            aria-checked={chosen}
            aria-label={spoken ?? text}
            aria-disabled={disabled}
            disabled={disabled}
            tabIndex={i === stop ? 0 : -1}
            {...ARROWS}
            onPress={() => onSelect(value)}
            style={{
              flexGrow: 1,
              minWidth: TARGET,
              minHeight: TARGET - 2,
              alignItems: 'center',
              justifyContent: 'center',
              paddingHorizontal: 8,
              borderLeftWidth: i === 0 ? 0 : 1,
              borderColor: quiet,
              backgroundColor: chosen ? action : 'transparent',
            }}
          >
            <Body style={{ fontFamily: FONTS.head, fontSize: 16, color: chosen ? onAction : ink }}>
              {text}
            </Body>
          </Pressable>
        );
      })}
    </Row>
  );
}
