import type { Break } from './breaks';
import { lows, sortedFrames } from './lows';
import { averagePace, usable } from './pace';
import { median } from '../numbers/quantile';
import { firstAtLeast, type Session } from './session';
import { SUSTAINED_S } from './splits';
import { atLeast, atMost } from '../numbers/threshold';
import type { Need } from '../vocabulary';

export type Playable = 'plays well' | 'plays' | 'rough' | 'not playable';

/** Average and 1 % low that each need asks for, frames per second. */
export const NEEDS: Record<Need, { average: number; low: number }> = {
  reaction: { average: 57, low: 45 },
  action: { average: 45, low: 30 },
  story: { average: 29, low: 22 },
};

const CLOSING_US = 300e6;
const LONG_FREEZE_US = 10e6;

/**
 * Whether a run is playable for a need: by its last five minutes where it is
 * long enough to be sustained, else by all of it; freezes and stalls count over
 * the whole run.
 *
 * @returns null without a need or without frames
 * @shown plays well, plays, rough, not playable
 * @source docs/method.md, "Playable"; common practice, no published source
 * @example
 * playable(prepareSession({ frameUs: new Int32Array(6000).fill(16_667), gaps: [] }), [], 'reaction'); // 'plays well'
 */
export function playable(session: Session, breaks: Break[], need: Need | null): Playable | null {
  if (need === null || session.leftUs.length === 0) return null;
  const frames = closingFrames(session);
  const average = averagePace(
    frames.length,
    frames.reduce((sum, us) => sum + us, 0),
  );
  if (average === null) return null;
  const bar = NEEDS[need];
  const low = lows(sortedFrames(frames), 100).quantile;
  const per10Minutes = (kind: Break['kind']): number =>
    (breaks.filter((found) => found.kind === kind).length * 600e6) / session.leftTotalUs;
  const freezes = breaks.filter((found) => found.kind === 'freeze');
  const averageHolds = atLeast(average, bar.average);
  if (
    averageHolds &&
    low !== null &&
    atLeast(low, bar.low) &&
    freezes.length === 0 &&
    atMost(per10Minutes('stall'), 2)
  )
    return 'plays well';
  if (
    averageHolds &&
    atMost(per10Minutes('freeze'), 1) &&
    freezes.every((freeze) => freeze.lengthUs < LONG_FREEZE_US)
  )
    return 'plays';
  return atLeast(average, 0.8 * bar.average) ? 'rough' : 'not playable';
}

/** The frames that start in the last 300 whole seconds, or all of a run that is not sustained. */
function closingFrames({ endUs, leftUs, leftStartsUs }: Session): Int32Array {
  if (!atLeast(endUs / 1e6, SUSTAINED_S)) return leftUs;
  const toUs = Math.floor(endUs / 1e6) * 1e6;
  return leftUs.subarray(firstAtLeast(leftStartsUs, toUs - CLOSING_US), firstAtLeast(leftStartsUs, toUs));
}

export interface Emulation {
  /** Median pace over the native rate. */
  speed: number;
  fullSpeed: boolean;
}

/**
 * How fast an emulated title runs.
 *
 * @param pace per-second pace, NaN where a second is void
 * @param native rate of the original, frames per second, or null where nothing is emulated
 * @returns null without a native rate or without usable seconds
 * @shown emulated: speed, full speed
 * @source docs/method.md, "Playable", emulated
 * @example
 * emulation(new Float64Array(60).fill(30), 30); // { speed: 1, fullSpeed: true }
 */
export function emulation(pace: Float64Array, native: number | null): Emulation | null {
  const seconds = usable(pace);
  const middle = median(seconds);
  if (native === null || middle === null) return null;
  const speed = middle / native;
  const full = seconds.filter((value) => atLeast(value, 0.95 * native)).length / seconds.length;
  return { speed, fullSpeed: atLeast(speed, 0.99) && atLeast(full, 0.95) };
}
