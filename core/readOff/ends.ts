import { decimalsOf } from '../runFile/parseLine';
import type { RateSource } from '../vocabulary';

/** What is known of a value that was read off: it lies between two ends. */
export interface Ends {
  low: number;
  /** Null where there is no upper end. */
  high: number | null;
  /** What was written, where it is not to be the middle. */
  value?: number;
}

/** A value as somebody wrote it down. */
export interface Written {
  value?: number | undefined;
  low?: number | undefined;
  high?: number | undefined;
  by: RateSource;
  /** Decimals that were written; by the number itself where that is not told. */
  decimals?: number | undefined;
}

/** What an eye may be off, at least: frames per second, and as a share. */
const EYE_LEAST = 5;
const EYE_SHARE = 0.2;

/**
 * The ends of a value that was read off.
 *
 * Two ends count as they were written, "up to" reaches down to 0, "at least" up
 * to what the panel can show. A value by itself is half a unit of its last
 * digit wide on both sides; by eye it is a fifth, or 5 where that is more.
 *
 * @param panel the highest that can be shown, or null where nobody knows
 * @returns null where there is neither a value nor an end
 * @source docs/method.md, "Read off, not logged"; the eye's width is common practice
 * @example
 * endsOf({ value: 58, by: 'overlay' }, null); // { low: 57.5, high: 58.5 }
 * endsOf({ value: 40, by: 'eye' }, null); // { low: 32, high: 48 }
 */
export function endsOf({ value, low, high, by, decimals }: Written, panel: number | null): Ends | null {
  if (low !== undefined && high !== undefined) return { low: Math.max(0, low), high };
  if (high !== undefined) return { low: 0, high };
  if (low !== undefined) return { low: Math.max(0, low), high: panel === null ? null : Math.max(low, panel) };
  if (value === undefined) return null;
  const half = by === 'eye' ? Math.max(EYE_LEAST, EYE_SHARE * value) : halfDigit(value, decimals);
  return { low: Math.max(0, value - half), high: value + half };
}

/**
 * Half a unit of a value's last written digit.
 *
 * @example
 * halfDigit(0.97); // 0.005
 */
export const halfDigit = (value: number, decimals = decimalsOf(String(value))): number =>
  0.5 * 10 ** -decimals;

/**
 * The ends of a mean: the mean of the ends.
 *
 * @returns null for nothing; without an upper end where one of them has none
 * @source docs/method.md, "Read off, not logged"
 * @example
 * meanEnds([{ low: 50, high: 55 }, { low: 40, high: 45 }]); // { low: 45, high: 50 }
 */
export function meanEnds(ends: Ends[]): Ends | null {
  if (ends.length === 0) return null;
  const low = ends.reduce((sum, one) => sum + one.low, 0) / ends.length;
  const high = ends.reduce<number | null>(
    (sum, one) => (sum === null || one.high === null ? null : sum + one.high),
    0,
  );
  return { low, high: high === null ? null : high / ends.length };
}

/** The middle; null without an upper end. */
export const middleOf = (ends: Ends | null): number | null =>
  ends === null ? null : (ends.value ?? (ends.high === null ? null : (ends.low + ends.high) / 2));

/** Both ends times a factor. */
export const scaled = ({ low, high }: Ends, by: number): Ends => ({
  low: low * by,
  high: high === null ? null : high * by,
});
