import { median, quantile } from '../numbers/quantile';
import type { Session, SpanUs } from './session';
import { atLeast, atMost, below } from '../numbers/threshold';
import type { Ends } from '../readOff/ends';

const SECOND_US = 1_000_000;

/**
 * Average pace: frames over the time they took, never a mean of rates.
 *
 * @param frames how many frames
 * @param totalUs sum of their frame times in µs
 * @returns frames per second, or null without frames
 * @shown Pace: average
 * @source docs/method.md, "Pace"
 * @example
 * averagePace(3, 75_000); // 40
 */
export function averagePace(frames: number, totalUs: number): number | null {
  return frames === 0 ? null : (frames * SECOND_US) / totalUs;
}

/**
 * Per-second pace: what share of each frame lies in second k, added up.
 *
 * @returns one value per whole second of the run in frames per second; NaN for a second that overlaps an excluded span or a gap
 * @shown the pace chart
 * @source docs/method.md, "Pace"; without gaps the values add up to the frames of the whole seconds
 * @example
 * perSecondPace(prepareSession({ frameUs: new Int32Array(40).fill(25_000), gaps: [] })); // Float64Array [40]
 */
export function perSecondPace(session: Session): Float64Array {
  const { startsUs, track, endUs } = session;
  const pace = new Float64Array(Math.floor(endUs / SECOND_US));
  const seconds = pace.length;
  const frames = track.frameUs;
  let second = 0;
  let secondEnd = SECOND_US;
  let whole = 0;
  for (let i = 0; i < frames.length; i++) {
    const length = frames[i]!;
    let at = startsUs[i]!;
    const end = at + length;
    while (at >= secondEnd) {
      if (second < seconds) pace[second]! += whole;
      whole = 0;
      second++;
      secondEnd += SECOND_US;
    }
    if (end <= secondEnd) {
      whole++;
      continue;
    }
    while (end > secondEnd) {
      if (second < seconds) pace[second]! += whole + (secondEnd - at) / length;
      whole = 0;
      at = secondEnd;
      second++;
      secondEnd += SECOND_US;
    }
    whole = (end - at) / length;
  }
  if (second < seconds) pace[second]! += whole;
  for (const span of session.excluded) voidSeconds(pace, span);
  for (const span of session.gaps) voidSeconds(pace, span);
  return pace;
}

function voidSeconds(pace: Float64Array, span: SpanUs): void {
  const from = Math.max(0, Math.floor(span.fromUs / SECOND_US));
  const to = Math.min(pace.length, Math.ceil(span.toUs / SECOND_US));
  pace.fill(NaN, from, Math.max(from, to));
}

/** The seconds that have a pace. */
export const usable = (pace: Float64Array): Float64Array => pace.filter((value) => !Number.isNaN(value));

/** Pace of a run or a split, as the school of median and hold states it. */
export interface Steadiness {
  /** Median of the per-second pace, frames per second. */
  median: number | null;
  /** Share (0–1) of the seconds within a fifth of the median. */
  hold: number | null;
  /** Seconds below half the median. */
  slow: number | null;
}

/**
 * Median pace, hold and slow seconds.
 *
 * @param pace per-second pace, NaN where a second is void
 * @shown Pace: median, hold, slow seconds
 * @source docs/method.md, "Pace"; common practice among reviewers who state a median with a stability share
 * @example
 * steadiness(Float64Array.of(60, 60, 60, 20)); // { median: 60, hold: 0.75, slow: 1 }
 */
export function steadiness(pace: Float64Array): Steadiness {
  const seconds = usable(pace);
  const middle = median(seconds);
  if (middle === null) return { median: null, hold: null, slow: null };
  let held = 0;
  let slow = 0;
  for (const value of seconds) {
    if (atMost(Math.abs(value - middle), 0.2 * middle)) held++;
    if (below(value, 0.5 * middle)) slow++;
  }
  return { median: middle, hold: held / seconds.length, slow };
}

/**
 * Share (0–1) of the seconds at 95 % of the target or more.
 *
 * @param pace per-second pace, NaN where a second is void
 * @param target frames per second, or null where none is set
 * @returns null without a target or without usable seconds
 * @shown Stamina: on target
 * @source docs/method.md, "Stamina", on target
 * @example
 * onTarget(Float64Array.of(60, 57, 50), 60); // 0.666…
 */
export function onTarget(pace: Float64Array, target: number | null): number | null {
  const seconds = usable(pace);
  if (target === null || seconds.length === 0) return null;
  return seconds.filter((value) => atLeast(value, 0.95 * target)).length / seconds.length;
}

/** Fewer seconds tell nothing of how a pace swings. */
const SWING_SECONDS = 10;
const NEAR_AVERAGE = 0.1;
const SELDOM = 0.2;

/**
 * Whether the pace swings: fewer than a fifth of the seconds are within a tenth
 * of the average, which nobody saw then.
 *
 * @param pace per-second pace, NaN where a second is void
 * @shown Pace: swings between
 * @source docs/method.md, "Pace"; common practice
 * @example
 * swings(Float64Array.of(...Array(30).fill(60), ...Array(30).fill(30)), 45); // true
 */
export function swings(pace: Float64Array, average: number | null): boolean {
  const seconds = usable(pace);
  if (average === null || seconds.length < SWING_SECONDS) return false;
  const near = seconds.filter((value) => atMost(Math.abs(value - average), NEAR_AVERAGE * average)).length;
  return below(near, SELDOM * seconds.length);
}

/**
 * Between which rates a pace swings: the tenth and the ninetieth percentile of
 * its seconds.
 *
 * @returns null without usable seconds
 * @shown Pace: swings between
 * @source docs/method.md, "Pace"; quantiles of Hyndman and Fan's type 7
 */
export function swingEnds(pace: Float64Array): [low: number, high: number] | null {
  const seconds = usable(pace).sort();
  return seconds.length === 0 ? null : [quantile(seconds, 0.1)!, quantile(seconds, 0.9)!];
}

/** Pace of a whole run. */
export interface PaceFigures {
  /** Whether frames were logged, or rates read off a counter or by eye. */
  source: 'frames' | 'read' | 'eye' | null;
  average: number | null;
  /** Ends of an average that was read off; null where frames were logged. */
  interval: Ends | null;
  /** The least and the most that was read off, null where nobody wrote that end; null where frames were logged. */
  seen: { low: number | null; high: number | null } | null;
  median: number | null;
  hold: number | null;
  slow: number | null;
  /** Hardly a second is near the average: nobody saw it. */
  swings: boolean;
  /** Between which rates it swings; null where it does not. */
  between?: [low: number, high: number] | null;
}
