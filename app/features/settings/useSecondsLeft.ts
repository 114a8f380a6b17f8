import { useEffect, useState } from 'react';

/** Whole seconds that are left of so many, from when `of` was first seen; by a clock that nobody sets. */
export function useSecondsLeft(seconds: number, of: string): number {
  const [left, setLeft] = useState(seconds);
  useEffect(() => {
    const until = performance.now() + seconds * 1000;
    const tick = (): void => setLeft(Math.max(0, Math.ceil((until - performance.now()) / 1000)));
    tick();
    const timer = setInterval(tick, TICK_MS);
    return () => clearInterval(timer);
  }, [seconds, of]);
  return left;
}

/** Twice a second: no second is left out. */
const TICK_MS = 500;
