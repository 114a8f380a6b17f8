import { performance } from 'node:perf_hooks';

/** How much later than the machine's clock ours is, ms. */
let aheadMs = 0;

/** Time since 1970 by a clock that nobody sets while the server runs, and that does not go back where it starts anew. */
export const serverNow = (): number => performance.timeOrigin + performance.now() + aheadMs;

/**
 * Begins where an earlier server's clock was, where the machine's has been set
 * back since: a run that goes on would lose what its sources tell in between.
 *
 * @param lastHeardMs the latest that an earlier server's clock showed while a run was recorded; null where none is
 * @returns by how much the machine's clock is behind it, ms; 0 where it is not
 */
export function continueClock(lastHeardMs: number | null): number {
  aheadMs =
    lastHeardMs === null ? 0 : Math.max(0, lastHeardMs - (performance.timeOrigin + performance.now()));
  return aheadMs;
}

/** The time that the server was away is not in our clock then: sources whose clock went on are ahead of it. */
export const wasSetBack = (): boolean => aheadMs > 0;
