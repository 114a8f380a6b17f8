import type { ReactNode } from 'react';
import { Pressable } from 'react-native';
import { usePalette } from './Look';
import { FONTS, TARGET } from './theme';
import { Body } from './words';
import { Row } from './parts';

interface Props {
  label: string;
  options: string[];
  selected: string[];
  onChange: (selected: string[]) => void;
  /** Names that stand for the options. */
  words?: (option: string) => string;
}

/** Any number of a few, in the order in which they were tapped. */
export function Chips({ label, options, selected, onChange, words = (option) => option }: Props): ReactNode {
  const { sheet, ink, quiet, action, onAction } = usePalette();
  return (
    <Row role="group" aria-label={label} gap={8} wrap>
      {options.map((option) => {
        const chosen = selected.includes(option);
        return (
          <Pressable
            key={option}
            role="checkbox"
            aria-checked={chosen}
            aria-label={words(option)}
            onPress={() =>
              onChange(chosen ? selected.filter((one) => one !== option) : [...selected, option])
            }
            style={{
              minHeight: TARGET,
              borderRadius: 22,
              borderWidth: 1,
              borderColor: chosen ? action : quiet,
              paddingHorizontal: 14,
              justifyContent: 'center',
              backgroundColor: chosen ? action : sheet,
            }}
          >
            <Body
              style={{ fontFamily: FONTS.head, fontSize: 16, color: chosen ? onAction : ink }}
            >{`${chosen ? '✓ ' : ''}${words(option)}`}</Body>
          </Pressable>
        );
      })}
    </Row>
  );
}
