import { useEffect, useState } from 'react';
import { steadyClock } from './steadyClock';

/**
 * The time by the server's clock, ms since 1970, anew every so often: what is
 * drawn from it is drawn again by itself.
 */
export function useNow(everyMs: number): number {
  const [now, setNow] = useState(() => steadyClock.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(steadyClock.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now;
}
