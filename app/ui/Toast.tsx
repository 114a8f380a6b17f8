import { Button } from '@rneui/themed';
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { usePalette } from './Look';
import { Body } from './words';
import { Row, Stack } from './parts';

interface Message {
  text: string;
  undo?: () => void;
}

const ToastContext = createContext<(message: Message) => void>(() => undefined);

/** What only says that something was done goes away by itself, ms. */
const GOES_AFTER_MS = 6000;

/**
 * Says that something was done, in a line below the screen that covers nothing.
 * With a way back it stays until it is used or closed: nobody should have to be quick.
 */
export function ToastProvider({ children }: { children: ReactNode }): ReactNode {
  const [message, setMessage] = useState<Message | null>(null);
  const { ink, sheet } = usePalette();
  const close = useCallback(() => setMessage(null), []);
  useEffect(() => {
    if (!message || message.undo) return;
    const timer = setTimeout(close, GOES_AFTER_MS);
    return () => clearTimeout(timer);
  }, [message, close]);
  const show = useMemo(() => (next: Message) => setMessage(next), []);
  return (
    <ToastContext.Provider value={show}>
      <View style={{ flex: 1, minHeight: 0 }}>{children}</View>
      {message ? (
        <Stack align="center" style={{ paddingVertical: 4 }}>
          <Row
            role="status"
            gap={8}
            align="center"
            style={{
              backgroundColor: ink,
              borderRadius: 8,
              paddingLeft: 16,
              paddingRight: 4,
              marginHorizontal: 12,
              maxWidth: 560,
            }}
          >
            <Body style={{ color: sheet, flexShrink: 1 }}>{message.text}</Body>
            {message.undo ? (
              <Button
                type="clear"
                title="Undo"
                titleStyle={{ color: sheet, textDecorationLine: 'underline' }}
                onPress={() => {
                  message.undo?.();
                  close();
                }}
              />
            ) : null}
            <Button type="clear" title="Close" titleStyle={{ color: sheet }} onPress={close} />
          </Row>
        </Stack>
      ) : null}
    </ToastContext.Provider>
  );
}

export const useToast = (): ((message: Message) => void) => useContext(ToastContext);
