import { Button, Overlay } from '@rneui/themed';
import type { ReactNode } from 'react';
import { usePalette } from './Look';
import { Body, FigureText, Heading } from './words';
import { Row, Stack } from './parts';

/** The keys that a wide screen knows. */
export function Shortcuts({
  visible,
  onClose,
  shortcuts,
}: {
  visible: boolean;
  onClose: () => void;
  shortcuts: { key: string; does: string }[];
}): ReactNode {
  const { sheet, line } = usePalette();
  return (
    <Overlay
      isVisible={visible}
      onBackdropPress={onClose}
      onRequestClose={onClose}
      overlayStyle={{
        backgroundColor: sheet,
        borderRadius: 8,
        padding: 20,
        width: shortcuts.length > 12 ? 560 : 320,
        gap: 8,
      }}
    >
      <Heading>Keyboard shortcuts</Heading>
      <Row wrap style={{ columnGap: 24, rowGap: 8 }}>
        {shortcuts.map(({ key, does }) => (
          <Row key={key} gap={16} align="center" style={{ width: 240 }}>
            <Stack align="center" style={{ borderWidth: 1, borderColor: line, borderRadius: 4, width: 32 }}>
              <FigureText>{key}</FigureText>
            </Stack>
            <Body>{does}</Body>
          </Row>
        ))}
      </Row>
      <Button title="Close" onPress={onClose} />
    </Overlay>
  );
}
