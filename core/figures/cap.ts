import { quantile } from '../numbers/quantile';
import { atLeast, atMost, below } from '../numbers/threshold';
import type { Break } from './breaks';
import { usable } from './pace';
import { SUSTAINED_S } from './splits';
import { withoutFreezes } from './stamina';

/** Rates at which titles cap themselves. */
export const CAPS = [24, 25, 30, 40, 45, 48, 50, 60, 72, 75, 90, 100, 120, 144, 165];
/** How near a second's pace is to a cap that it sits at. */
const nearness = (cap: number): number => Math.max(0.5, 0.01 * cap);

/**
 * The frame cap that a run sits at.
 *
 * @param pace per-second pace, NaN where a second is void
 * @returns the cap in frames per second, or null where the run is not at one
 * @shown Pace: frame cap
 * @source docs/method.md, "Cap"; common practice
 * @example
 * frameCap(new Float64Array(60).fill(59.9)); // 60
 */
export function frameCap(pace: Float64Array): number | null {
  const sorted = usable(pace).sort();
  const high = quantile(sorted, 0.9);
  if (high === null) return null;
  const cap = CAPS.reduce((nearest, next) =>
    below(Math.abs(high - next), Math.abs(high - nearest)) ? next : nearest,
  );
  const near = atMost(Math.abs(high - cap), nearness(cap));
  return near && atMost(quantile(sorted, 0.98)!, 1.02 * cap) ? cap : null;
}

/** From this share on a run sits at its cap rather than having left it. */
const AT_THE_CAP = 0.5;

/**
 * Share (0–1) of the seconds that sit at a cap.
 *
 * @param pace per-second pace, NaN where a second is void
 * @returns null without a cap
 * @shown Pace: at the cap
 * @source docs/method.md, "Cap"
 * @example
 * capShare(Float64Array.of(60, 60, 60, 45), 60); // 0.75
 */
export function capShare(pace: Float64Array, cap: number | null): number | null {
  if (cap === null) return null;
  const seconds = usable(pace);
  return seconds.filter((value) => atMost(Math.abs(value - cap), nearness(cap))).length / seconds.length;
}

/** Whether a cap hides what the device could do. */
export const sitsAtCap = (share: number | null): boolean => share !== null && atLeast(share, AT_THE_CAP);

const CLOSING_SECONDS = 300;
/** A cap is held where so much of it is. */
const HELD = 0.97;

/**
 * The highest cap that a run would have held and that its panel shows evenly.
 *
 * It goes by seconds, not by frames: with 2 % of jitter the frames' own 1 % low
 * lies under a cap that is held.
 *
 * @param pace per-second pace, NaN where a second is void
 * @param breaks seconds that a freeze overlaps are left out
 * @param run its length in seconds, and the panel's rate in Hz
 * @returns null without a panel, and where none is held
 * @shown Pace: cap that would hold
 * @source docs/method.md, "Cap advice"; common practice
 * @example
 * capAdvice(new Float64Array(900).fill(37), [], { seconds: 900, refreshHz: 60 }); // 30
 */
export function capAdvice(
  pace: Float64Array,
  breaks: Break[],
  { seconds, refreshHz }: { seconds: number; refreshHz: number | null },
): number | null {
  if (refreshHz === null) return null;
  const low = quantile(lastSeconds(pace, breaks, seconds).sort(), 0.01);
  if (low === null) return null;
  return CAPS.findLast((cap) => isWhole(refreshHz, cap) && atLeast(low, HELD * cap)) ?? null;
}

/** Usable seconds that a cap is judged by: the last five minutes of a sustained run, else all. */
function lastSeconds(pace: Float64Array, breaks: Break[], seconds: number): Float64Array {
  const steady = withoutFreezes(pace, breaks);
  const from = atLeast(seconds, SUSTAINED_S) ? Math.max(0, steady.length - CLOSING_SECONDS) : 0;
  return usable(steady.subarray(from));
}

/** Whether a frame of a cap lasts a whole number of the panel's. */
function isWhole(refreshHz: number, cap: number): boolean {
  const refreshes = refreshHz / cap;
  const whole = Math.round(refreshes);
  return whole >= 1 && atMost(Math.abs(refreshes - whole), 0.01);
}

/** What a usual cap would have held. */
export interface HeldCap {
  cap: number;
  /** Share (0–1) of the last seconds that reached it. */
  held: number;
  /** Each frame would last a whole number of the panel's; null where that is not known. */
  even: boolean | null;
}

/** Of a cap that so little reaches nothing is told. */
const NEVER = 0.02;

/**
 * What each usual cap would have held in a run: the share of its last five
 * minutes (of a shorter one: of all) that came within 3 % of it.
 *
 * A run that was capped shows nothing above its cap.
 *
 * @param pace per-second pace, NaN where a second is void
 * @param breaks seconds that a freeze overlaps are left out
 * @param run its length in seconds, and the panel's rate in Hz
 * @returns the lowest first, as far as any second reaches; none without frames
 * @shown Pace: what each cap would hold
 * @source docs/method.md, "Cap advice"; common practice
 * @example
 * heldCaps(Float64Array.of(30, 30, 61, 61), [], { seconds: 4, refreshHz: 60 }).find((one) => one.cap === 60); // { cap: 60, held: 0.5, even: true }
 */
export function heldCaps(
  pace: Float64Array,
  breaks: Break[],
  { seconds, refreshHz }: { seconds: number; refreshHz: number | null },
): HeldCap[] {
  const last = lastSeconds(pace, breaks, seconds);
  if (last.length === 0) return [];
  return CAPS.map((cap) => ({
    cap,
    held: last.filter((value) => atLeast(value, HELD * cap)).length / last.length,
    even: refreshHz === null ? null : isWhole(refreshHz, cap),
  })).filter(({ cap, held }) => held >= NEVER && (refreshHz === null || atMost(cap, refreshHz)));
}
