import tCdf from '@stdlib/stats-base-dists-t-cdf';
import tQuantile from '@stdlib/stats-base-dists-t-quantile';
import { usable } from '../figures/pace';
import { quantile } from '../numbers/quantile';
import { SeededRandom } from '../numbers/random';
import { atLeast, atMost } from '../numbers/threshold';

/** One side of a comparison: its runs' averages, and the per-second pace of a lone run. */
export interface Side {
  /** Average of each run, frames per second; at least one. */
  averages: number[];
  /** Per-second pace of the run where there is only one; NaN where a second is void. */
  pace: Float64Array | null;
}

export interface Difference {
  /** Second side less first, frames per second. */
  difference: number;
  /** 95 % interval. */
  interval: [number, number];
  /** The interval does not hold 0. */
  clear: boolean;
  /** A side had one run: the interval tells nothing of how runs differ. */
  withinOneRun: boolean;
  /** Runs per side at which a difference as large as this would be clear with 80 % power; null where it cannot be told. */
  runsPerSide: number | null;
}

const BLOCK_SECONDS = 30;
const RESAMPLES = 2000;
const LEVEL = 0.95;
const POWER = 0.8;
const MOST_RUNS = 1000;

/**
 * Difference between two sides.
 *
 * With two runs or more on each side: Welch's t on the runs' averages. With one
 * run on a side, that side's spread comes from a moving-block bootstrap of its
 * per-second pace, and the result is marked.
 *
 * @param seed of the bootstrap
 * @returns null where a side has no run, or a lone run no usable seconds
 * @shown (not on a screen yet) difference between two sides
 * @source Welch (1947); Künsch (1989), moving-block bootstrap; docs/method.md, "Difference"
 * @example
 * differenceOf({ averages: [50, 52, 54], pace: null }, { averages: [50, 52, 54], pace: null }, 1)?.difference; // 0
 */
export function differenceOf(first: Side, second: Side, seed: number): Difference | null {
  if (first.averages.length === 0 || second.averages.length === 0) return null;
  if (first.averages.length > 1 && second.averages.length > 1) return welch(first.averages, second.averages);
  const random = new SeededRandom(seed);
  const resampled = [first, second].map((side) => resample(side, random));
  if (!resampled[0] || !resampled[1]) return null;
  const [a, b] = [resampled[0], resampled[1]];
  const differences = Float64Array.from(a.draws, (draw, i) => b.draws[i]! - draw).sort();
  const interval: [number, number] = [
    quantile(differences, (1 - LEVEL) / 2)!,
    quantile(differences, (1 + LEVEL) / 2)!,
  ];
  const difference = b.centre - a.centre;
  return {
    difference,
    interval,
    clear: isClear(interval),
    withinOneRun: true,
    runsPerSide: isClear(interval) ? null : runsNeeded(difference, (sd(a.draws) ** 2 + sd(b.draws) ** 2) / 2),
  };
}

function welch(a: number[], b: number[]): Difference {
  const [va, vb] = [sd(a) ** 2 / a.length, sd(b) ** 2 / b.length];
  const difference = mean(b) - mean(a);
  const error = Math.sqrt(va + vb);
  const freedom = (va + vb) ** 2 / (va ** 2 / (a.length - 1) + vb ** 2 / (b.length - 1));
  const half = error === 0 ? 0 : tQuantile((1 + LEVEL) / 2, freedom) * error;
  const interval: [number, number] = [difference - half, difference + half];
  const clear = isClear(interval);
  return {
    difference,
    interval,
    clear,
    withinOneRun: false,
    runsPerSide: clear ? null : runsNeeded(difference, (sd(a) ** 2 + sd(b) ** 2) / 2),
  };
}

const isClear = ([low, high]: [number, number]): boolean => !(atMost(low, 0) && atLeast(high, 0));

/** Averages of a side, drawn again and again: from its runs, or from blocks of its one run. */
function resample(side: Side, random: SeededRandom): { centre: number; draws: number[] } | null {
  if (side.averages.length > 1) {
    const { averages } = side;
    const draws = Array.from({ length: RESAMPLES }, () =>
      mean(averages.map(() => averages[random.below(averages.length)]!)),
    );
    return { centre: mean(averages), draws };
  }
  const pace = side.pace ? usable(side.pace) : new Float64Array(0);
  if (pace.length === 0) return null;
  const block = Math.min(BLOCK_SECONDS, pace.length);
  const sums = new Float64Array(pace.length + 1);
  for (let i = 0; i < pace.length; i++) sums[i + 1] = sums[i]! + pace[i]!;
  const blocks = Math.ceil(pace.length / block);
  const draws = Array.from({ length: RESAMPLES }, () => {
    let total = 0;
    for (let i = 0; i < blocks; i++) {
      const from = random.below(pace.length - block + 1);
      total += sums[from + block]! - sums[from]!;
    }
    return total / (blocks * block);
  });
  return { centre: side.averages[0]!, draws };
}

/**
 * Runs per side at which a two-sided t-test at 5 % finds a difference with 80 % power.
 *
 * @param variance of one run's average, pooled over the sides
 * @returns null for no difference, or where it takes more than a thousand
 * @source power of the two-sample t-test, with the t quantile of the power added to that of the level (normal approximation of the noncentral t, exact enough from 3 runs on)
 * @example
 * runsNeeded(1, 1); // 17
 */
export function runsNeeded(difference: number, variance: number): number | null {
  if (difference === 0) return null;
  const found = (n: number): boolean => {
    const freedom = 2 * n - 2;
    const shift = Math.abs(difference) / Math.sqrt((2 * variance) / n);
    return tCdf(shift - tQuantile((1 + LEVEL) / 2, freedom), freedom) >= POWER;
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

const mean = (values: number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

function sd(values: number[]): number {
  const middle = mean(values);
  return Math.sqrt(values.reduce((sum, value) => sum + (value - middle) ** 2, 0) / (values.length - 1));
}
