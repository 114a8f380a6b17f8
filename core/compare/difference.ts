import tCdf from '@stdlib/stats-base-dists-t-cdf';
import { tWidth } from '../fit/fit';
import { atLeast, atMost } from '../numbers/threshold';
import type { CompareMeasure, CompareVerdict, RunMeasure } from '../vocabulary';
import type { Measured } from './comparable';
import { byLogarithm, HABIT_FREEDOM, onScale, type Spread } from './spread';

/** How one measure differs between two sides. */
export interface MeasureDifference {
  /** Geometric mean of the side's runs; for the rise their mean, °C. */
  first: number;
  second: number;
  /** Runs of the side that have the measure. */
  runs: [number, number];
  /** Second over first; for the rise second less first, °C. */
  by: number;
  /** 95 % interval of `by`; no ends where what was read off reaches down to 0. */
  interval: [number, number] | [null, null];
  verdict: CompareVerdict;
  /** The difference is clear, and less than anyone would feel. */
  small: boolean;
  /** Runs a side at which a difference as large would be clear with 80 % power; null where it is not asked or cannot be told. */
  runsPerSide: number | null;
  spread: Spread;
  /** What the values' own doubt adds to both ends, on the scale of the measure. */
  widened: number;
}

/** A difference of less is nothing that anyone would feel, unless chosen: 3 %. */
export const USUAL_MARGIN = 0.03;
/** The same for warmth, °C. */
export const MARGIN_C = 1;
const POWER = 0.8;
const MOST_RUNS = 1000;

/** More of these is worse. */
const LESS_IS_BETTER: readonly string[] = ['watts', 'peakRise', 'peak', 'breaks'];
export const lessIsBetter = (measure: CompareMeasure): boolean => LESS_IS_BETTER.includes(measure);

/**
 * How a measure differs between two sides.
 *
 * @param sides values of each side's runs that have the measure
 * @param spread how much runs of this kind differ, given both sides' values on the measure's scale
 * @param cap both sides sit at this cap throughout; null where they do not
 * @param margin share below which nobody feels a difference, above 0
 * @returns null where a side has no value above 0
 * @shown Compare: difference, interval, verdict, runs a side
 * @source Student's t with a moderated variance (Smyth 2004); two one-sided tests (Schuirmann 1987); docs/method.md, "Difference between two sides"
 */
export function differenceOf(
  measure: RunMeasure,
  sides: [Measured[], Measured[]],
  spread: (onScale: [number[], number[]]) => Spread,
  cap: number | null,
  margin: number,
): MeasureDifference | null {
  const usable = sides.map((side) => side.filter(({ value }) => value > 0));
  const [a, b] = usable.map((side) =>
    onScale(
      measure,
      side.map(({ value }) => value),
    ),
  ) as [number[], number[]];
  if (a.length === 0 || b.length === 0) return null;
  const between = spread([a, b]);
  const d = mean(b) - mean(a);
  const widened = usable.reduce((sum, side) => sum + meanHalfWidth(measure, side), 0);
  const half = tWidth(between.freedom) * between.sd * Math.sqrt(1 / a.length + 1 / b.length) + widened;
  const interval: Interval = [d - half, d + half];
  const back = byLogarithm(measure) ? Math.exp : (value: number): number => value;
  const [first, second] = [back(mean(a)), back(mean(b))];
  const verdict = underCap([first, second], cap)
    ? 'equal under the cap'
    : verdictOf(interval, marginOf(measure, margin), lessIsBetter(measure));
  return {
    first,
    second,
    runs: [a.length, b.length],
    by: back(d),
    interval: Number.isFinite(half) ? [back(interval[0]), back(interval[1])] : [null, null],
    verdict,
    small: isBetter(verdict) && within(interval, marginOf(measure, margin)),
    runsPerSide: verdict === 'no clear difference' ? runsPerSide(Math.abs(d), between, widened) : null,
    spread: between,
    widened,
  };
}

type Interval = [number, number];
const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

const marginOf = (measure: RunMeasure, margin: number): number =>
  byLogarithm(measure) ? Math.log(1 + margin) : MARGIN_C;

/** Mean of half the width of what a side's values may be, on the measure's scale; runs with frames count 0. */
function meanHalfWidth(measure: RunMeasure, side: Measured[]): number {
  return mean(
    side.map(({ ends }) => {
      if (ends === null) return 0;
      if (ends.high === null || (byLogarithm(measure) && ends.low <= 0)) return Infinity;
      return byLogarithm(measure) ? Math.log(ends.high / ends.low) / 2 : (ends.high - ends.low) / 2;
    }),
  );
}

const underCap = (means: number[], cap: number | null): boolean =>
  cap !== null && means.every((one) => atMost(Math.abs(one - cap), UNDER_CAP * cap));
const UNDER_CAP = 0.02;

const within = ([low, high]: Interval, margin: number): boolean =>
  atLeast(low, -margin) && atMost(high, margin);

/**
 * What an interval of the difference, second less first, comes to.
 *
 * @param margin what nobody feels, on the same scale; null where there is no such thing
 * @example
 * verdictOf([0.1, 0.2], 0.03, false); // 'second better'
 */
export function verdictOf(interval: Interval, margin: number | null, lessIsBetter: boolean): CompareVerdict {
  const [low, high] = interval;
  // an end that rounding has moved onto 0 is 0
  if (!atMost(low, 0)) return lessIsBetter ? 'first better' : 'second better';
  if (!atLeast(high, 0)) return lessIsBetter ? 'second better' : 'first better';
  return margin !== null && within(interval, margin) ? 'the same in practice' : 'no clear difference';
}

export const isBetter = (verdict: CompareVerdict): boolean =>
  verdict === 'second better' || verdict === 'first better';

/**
 * Runs a side, the same for both, at which a two-sided test at 5 % finds a
 * difference with 80 % power.
 *
 * @param difference its size on the measure's scale
 * @param widened what the values' own doubt takes away from it
 * @returns at least 2; null for no difference, or where it takes more than a thousand
 * @source power of the two-sample t-test with Student's t in the place of the noncentral one; docs/method.md, "Difference between two sides"
 * @example
 * runsPerSide(0.1, { sd: 0.02, freedom: 4, fromSides: 0, fromArchive: 0 }, 0); // 2
 */
export function runsPerSide(difference: number, spread: Spread, widened: number): number | null {
  const left = difference - widened;
  if (!(left > 0)) return null;
  const found = (n: number): boolean => {
    const freedom = spread.fromArchive + HABIT_FREEDOM + 2 * n - 2;
    const shift = left / (spread.sd * Math.sqrt(2 / n));
    return atLeast(tCdf(shift - tWidth(freedom), freedom), POWER);
  };
  if (!found(MOST_RUNS)) return null;
  // power grows with n
  let [low, high] = [1, MOST_RUNS];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (found(middle)) high = middle;
    else low = middle;
  }
  return high;
}
