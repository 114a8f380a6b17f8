import { performance } from 'node:perf_hooks';

/** How much later than the machine's clock ours is, ms. */
let aheadMs = 0;
/** How much later than the machine's clock the database's is: several machines with one database go by that one. */
let databaseMs = 0;
/** Less than this is the way there and back, ms. */
const SAME_CLOCK_MS = 200;

/** Goes by the database's clock from now on. @param differenceMs how much it is ahead of the machine's */
export function followDatabase(differenceMs: number): void {
  databaseMs = Math.abs(differenceMs) < SAME_CLOCK_MS ? 0 : differenceMs;
}

/** A stored time that lies further ahead is not believed, ms. */
const MOST_BEHIND_MS = 24 * 3600 * 1000;

/** Time since 1970 by a clock that nobody sets while the server runs, and that does not go back where it starts anew. */
export const serverNow = (): number => machineNow() + aheadMs;

const machineNow = (): number => performance.timeOrigin + performance.now() + databaseMs;

/**
 * Begins where an earlier server's clock was, where the machine's has been set
 * back since: a run that goes on would lose what its sources tell in between.
 *
 * @param lastHeardMs the latest that an earlier server's clock showed while a run was recorded; null where none is
 * @returns by how much the machine's clock is behind it, ms; 0 where it is not
 */
export function continueClock(lastHeardMs: number | null): number {
  const behindMs = lastHeardMs === null ? 0 : lastHeardMs - machineNow();
  // no clock is set back by a day while a run is recorded: such a time was never shown by one
  aheadMs = behindMs > 0 && behindMs <= MOST_BEHIND_MS ? behindMs : 0;
  return aheadMs;
}

/** The time that the server was away is not in our clock then: sources whose clock went on are ahead of it. */
export const wasSetBack = (): boolean => aheadMs > 0;
