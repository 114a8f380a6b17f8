import betaQuantile from '@stdlib/stats-base-dists-beta-quantile';
import type { CompareVerdict } from '../vocabulary';
import { verdictOf } from './difference';

/** Breaks of a side's runs, and the minutes in which they were counted. */
export interface BreakCount {
  count: number;
  minutes: number;
}

/** How often a side breaks, against the other. */
export interface BreakDifference {
  first: BreakCount;
  second: BreakCount;
  /** Rate of the second side over that of the first; null where the first has none. */
  by: number | null;
  /** 95 % interval; its upper end null where the first side has none. */
  interval: [number, number | null];
  verdict: CompareVerdict;
}

/**
 * Exact 95 % interval of a share.
 *
 * @param found of `all`, both whole, `all` at least 1
 * @source Clopper and Pearson (1934), by quantiles of the beta distribution
 * @example
 * clopperPearson(0, 10)[0]; // 0
 */
export function clopperPearson(found: number, all: number): [number, number] {
  return [
    found === 0 ? 0 : betaQuantile(TAIL, found, all - found + 1),
    found === all ? 1 : betaQuantile(1 - TAIL, found + 1, all - found),
  ];
}
const TAIL = 0.025;

/**
 * How often two sides break: the ratio of their rates, by the share of the breaks that fell on the second.
 *
 * @param sides null for a side without frames
 * @returns null where a side has no frames, or neither broke
 * @shown Compare: breaks
 * @source docs/method.md, "Difference between two sides"
 */
export function breakRates(sides: [BreakCount | null, BreakCount | null]): BreakDifference | null {
  const [first, second] = sides;
  if (!first || !second || first.minutes <= 0 || second.minutes <= 0) return null;
  if (first.count + second.count === 0) return null;
  const [a, b] = clopperPearson(second.count, first.count + second.count);
  const time = first.minutes / second.minutes;
  const interval: [number, number | null] = [
    (a / (1 - a)) * time,
    first.count === 0 ? null : (b / (1 - b)) * time,
  ];
  return {
    first,
    second,
    by: first.count === 0 ? null : second.count / second.minutes / (first.count / first.minutes),
    interval,
    verdict: verdictOf(
      [Math.log(interval[0]), interval[1] === null ? Infinity : Math.log(interval[1])],
      null,
      true,
    ),
  };
}
