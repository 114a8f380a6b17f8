import { above } from '../numbers/threshold';

/** So far above its target a title seldom is: it may have been a menu. */
export const WELL_OVER = 1.25;

/** A stretch that runs well above the target. */
export interface OverTarget {
  fromS: number;
  toS: number;
  /** Mean of its seconds, frames per second. */
  mean: number;
}

/**
 * The longest stretch of seconds well above the target: a menu that nobody marked?
 *
 * @param pace per-second pace, NaN where a second is void
 * @returns null without a target or without such a second
 * @shown Verdict: a menu?
 * @source docs/method.md, "Caveats", over-target; common practice
 * @example
 * longestOver(Float64Array.of(240, 240, 45, 45), 60); // { fromS: 0, toS: 2, mean: 240 }
 */
export function longestOver(pace: Float64Array, target: number | null): OverTarget | null {
  if (target === null) return null;
  let longest: OverTarget | null = null;
  let fromS: number | null = null;
  let sum = 0;
  for (let second = 0; second <= pace.length; second++) {
    const value = second < pace.length ? pace[second]! : NaN;
    if (!Number.isNaN(value) && above(value, WELL_OVER * target)) {
      fromS ??= second;
      sum += value;
      continue;
    }
    if (fromS !== null && (longest === null || second - fromS > longest.toS - longest.fromS))
      longest = { fromS, toS: second, mean: sum / (second - fromS) };
    fromS = null;
    sum = 0;
  }
  return longest;
}
