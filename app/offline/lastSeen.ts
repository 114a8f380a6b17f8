import { useSyncExternalStore } from 'react';
import { LAST_SEEN } from './lastSeenHeader';

let lastSeen = false;
const listeners = new Set<() => void>();

/** Notes whether the server answered; nobody did where what was kept from before came, or nothing. */
export function noteAnswer(headers: Headers | null): void {
  const now = headers === null || headers.has(LAST_SEEN);
  if (now === lastSeen) return;
  lastSeen = now;
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** Whether what is shown is what was last seen, because the server does not answer. */
export const useLastSeen = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => lastSeen,
    () => false,
  );
