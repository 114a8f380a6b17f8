import type { SpeedReading } from '../figures/readings';
import { above, atLeast, below } from '../numbers/threshold';
import { middleOf, type Ends } from './ends';

/** A counter of whole percents that shows 99 may stand for 98.5. */
const FULL_MIDDLE = 0.99;
const FULL_LOW = 0.98;
/** Below this a moment is not at full speed, and so many moments are too many. */
const SLOW_PERCENT = 95;
const TOO_MANY = 1 / 20;

/**
 * Whether what was read of an emulator's speed is full speed: true or false
 * where the interval settles it, else null.
 *
 * @param speeds that it was read by: more than a twentieth of the timed ones below 95 % are no full speed
 * @source docs/method.md, "Read off, not logged"
 * @example
 * readFullSpeed({ low: 0.985, high: 0.995 }, []); // true
 */
export function readFullSpeed(ends: Ends | null, speeds: readonly SpeedReading[]): boolean | null {
  if (ends === null) return null;
  const timed = speeds.filter(({ atMs }) => atMs !== null);
  const slow = timed.filter((speed) => below(middleOf(speed.ends) ?? speed.ends.low, SLOW_PERCENT));
  if (ends.high !== null && ends.open !== 'high' && below(ends.high, FULL_MIDDLE)) return false;
  if (timed.length > 0 && above(slow.length / timed.length, TOO_MANY)) return false;
  const middle = middleOf(ends);
  return middle !== null && atLeast(middle, FULL_MIDDLE) && atLeast(ends.low, FULL_LOW) ? true : null;
}
