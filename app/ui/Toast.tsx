import { Button } from '@rneui/themed';
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';
import { usePalette } from './Look';
import { Body } from './words';
import { Row, Stack } from './parts';

interface Message {
  text: string;
  undo?: () => void;
}

const ToastContext = createContext<(message: Message) => void>(() => undefined);

/** Says that something was done, with a way back. It stays until it is used or closed: nobody should have to be quick. */
export function ToastProvider({ children }: { children: ReactNode }): ReactNode {
  const [message, setMessage] = useState<Message | null>(null);
  const { ink, sheet } = usePalette();
  const close = useCallback(() => setMessage(null), []);
  const show = useMemo(() => (next: Message) => setMessage(next), []);
  return (
    <ToastContext.Provider value={show}>
      {children}
      {message ? (
        <Stack
          align="center"
          style={{ position: 'absolute', left: 0, right: 0, bottom: 72, pointerEvents: 'box-none' }}
        >
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
