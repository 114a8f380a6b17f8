import { useSyncExternalStore } from 'react';
import { steadyClock } from './steadyClock';

/**
 * The time by the server's clock, ms since 1970, anew every so often: what is
 * drawn from it is drawn again by itself.
 */
export function useNow(everyMs: number): number {
  return useSyncExternalStore(
    (tick) => {
      const timer = setInterval(tick, everyMs);
      return () => clearInterval(timer);
    },
    () => Math.floor(steadyClock.now() / everyMs) * everyMs,
    () => 0,
  );
}
