import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';

/** A key that a screen knows while nothing is being typed. */
export interface Key {
  key: string;
  does: string;
  press: () => void;
}

interface Keys {
  keys: Key[];
  use: (keys: Key[]) => () => void;
}

const KeysContext = createContext<Keys>({ keys: [], use: () => () => undefined });

/** Whether a key event belongs to a field. */
export const isTyping = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement &&
  (event.target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName));

/** Lets screens have keys of their own, which the list of keys shows with the others. */
export function KeysProvider({ children }: { children: ReactNode }): ReactNode {
  const [sets, setSets] = useState<Key[][]>([]);
  const state = useMemo(
    () => ({
      keys: sets.flat(),
      use: (own: Key[]) => {
        setSets((before) => [...before, own]);
        return () => setSets((before) => before.filter((set) => set !== own));
      },
    }),
    [sets],
  );
  return <KeysContext.Provider value={state}>{children}</KeysContext.Provider>;
}

export const useScreenKeys = (): Key[] => useContext(KeysContext).keys;

/** Keys of this screen. What they do may change from render to render; which they are may not. */
export function useKeys(keys: Key[]): void {
  const { use } = useContext(KeysContext);
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  const names = keys.map(({ key, does }) => `${key} ${does}`).join('\n');
  const register = useRef(use);
  useEffect(() => {
    const leave = register.current(latest.current);
    const onKey = (event: KeyboardEvent): void => {
      if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      const pressed = latest.current.find((one) => one.key === event.key);
      if (!pressed) return;
      event.preventDefault();
      pressed.press();
    };
    document.addEventListener('keydown', onKey);
    return () => {
      leave();
      document.removeEventListener('keydown', onKey);
    };
  }, [names]);
}
