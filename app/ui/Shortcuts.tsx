import { Button, Overlay } from '@rneui/themed';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { usePalette } from './Look';
import { Body, FigureText, Heading } from './words';

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
      <Heading>Keys</Heading>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 24, rowGap: 8 }}>
        {shortcuts.map(({ key, does }) => (
          <View key={key} style={{ flexDirection: 'row', gap: 16, alignItems: 'center', width: 240 }}>
            <View
              style={{ borderWidth: 1, borderColor: line, borderRadius: 4, width: 32, alignItems: 'center' }}
            >
              <FigureText>{key}</FigureText>
            </View>
            <Body>{does}</Body>
          </View>
        ))}
      </View>
      <Button title="Close" onPress={onClose} />
    </Overlay>
  );
}
