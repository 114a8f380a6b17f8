import AsyncStorage from '@react-native-async-storage/async-storage';
import { useCallback, useEffect, useRef, useState } from 'react';

/**
 * State that survives a reload: it is kept in the browser until it is forgotten.
 *
 * @param key what it is called there
 * @param read the value of what is stored; null where it is none
 */
export function useKept<T>(
  key: string,
  initial: T,
  read: (stored: unknown) => T | null,
): [value: T, change: (next: (now: T) => T) => void, forget: () => void] {
  const [value, setValue] = useState(initial);
  const touched = useRef(false);
  const name = `pace-check.typed.${key}`;
  const [known] = useState({ read, initial });
  useEffect(() => {
    void AsyncStorage.getItem(name)
      .then((stored) => {
        const before = stored === null ? null : known.read(JSON.parse(stored) as unknown);
        // what was typed meanwhile leads
        if (before !== null && !touched.current) setValue(before);
      })
      .catch(() => undefined);
  }, [name, known]);
  const change = useCallback(
    (next: (now: T) => T): void => {
      setValue((now) => {
        const then = next(now);
        if (JSON.stringify(then) === JSON.stringify(now)) return now;
        touched.current = true;
        void AsyncStorage.setItem(name, JSON.stringify(then)).catch(() => undefined);
        return then;
      });
    },
    [name],
  );
  const forget = useCallback((): void => {
    touched.current = true;
    setValue(known.initial);
    void AsyncStorage.removeItem(name).catch(() => undefined);
  }, [name, known]);
  return [value, change, forget];
}
