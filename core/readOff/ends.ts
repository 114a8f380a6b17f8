import { decimalsOf } from '../runFile/parseLine';
import type { RateSource } from '../vocabulary';

/** What is known of a value that was read off: it lies between two ends. */
export interface Ends {
  low: number;
  /** Null where there is no upper end. */
  high: number | null;
  /** What was written, where it is not to be the middle. */
  value?: number;
  /** An end that nobody wrote, of a floor ("at least 40") or a ceiling ("up to 60"): there is no middle. */
  open?: 'low' | 'high';
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
 * Two ends count as they were written, and a value beside them is their middle;
 * "up to" reaches down to 0, "at least" up to what the panel can show. A value
 * by itself is half a unit of its last digit wide on both sides; by eye it is a
 * fifth, or 5 where that is more, as far as the panel goes.
 *
 * @param panel the highest that can be shown, or null where nobody knows
 * @returns null where there is neither a value nor an end
 * @source docs/method.md, "Read off, not logged"; the eye's width is common practice
 * @example
 * endsOf({ value: 58, by: 'overlay' }, null); // { low: 57.5, high: 58.5, value: 58 }
 * endsOf({ value: 40, by: 'eye' }, null); // { low: 32, high: 48, value: 40 }
 */
export function endsOf({ value, low, high, by, decimals }: Written, panel: number | null): Ends | null {
  const written = value === undefined ? {} : { value };
  if (low !== undefined && high !== undefined) return { low: Math.max(0, low), high, ...written };
  if (high !== undefined) return { low: 0, high, open: 'low' };
  if (low !== undefined)
    return { low: Math.max(0, low), high: panel === null ? null : Math.max(low, panel), open: 'high' };
  if (value === undefined) return null;
  if (by !== 'eye') {
    const half = halfDigit(value, decimals);
    return { low: Math.max(0, value - half), high: value + half, value };
  }
  const spread = Math.max(EYE_LEAST, EYE_SHARE * value);
  return { low: Math.max(0, value - spread), high: cutAt(value + spread, panel, value), value };
}

/** An upper end that nobody wrote, as far as the panel goes, or what was written. */
export const cutAt = (high: number, panel: number | null, written: number): number =>
  panel === null ? high : Math.min(high, Math.max(panel, written));

/**
 * Half a unit of a value's last written digit.
 *
 * @example
 * halfDigit(0.97); // 0.005
 */
export const halfDigit = (value: number, decimals = decimalsOf(String(value))): number =>
  0.5 * 10 ** -decimals;

/**
 * The ends of a mean: the mean of the ends, about the mean of the middles.
 *
 * @returns null for nothing; without an upper end where one of them has none
 * @source docs/method.md, "Read off, not logged"
 * @example
 * meanEnds([{ low: 50, high: 55 }, { low: 40, high: 45 }]); // { low: 45, high: 50, value: 47.5 }
 */
export function meanEnds(ends: readonly Ends[]): Ends | null {
  if (ends.length === 0) return null;
  const mean = (values: readonly (number | null)[]): number | null =>
    values.reduce<number | null>(
      (sum, one) => (sum === null || one === null ? null : sum + one / values.length),
      0,
    );
  const value = mean(ends.map(middleOf));
  const open = ends.find((one) => one.open !== undefined)?.open;
  return {
    low: mean(ends.map(({ low }) => low))!,
    high: mean(ends.map(({ high }) => high)),
    ...(open === undefined ? (value === null ? {} : { value }) : { open }),
  };
}

/**
 * The least and the most that any of them may be. What lies between has a
 * middle for computing, unless an end of it is one that nobody wrote.
 *
 * @source docs/method.md, "Read off, not logged"
 * @example
 * hullOf([{ low: 57.5, high: 58.5 }, { low: 37.5, high: 38.5 }]); // { low: 37.5, high: 58.5 }
 */
export function hullOf(ends: readonly Ends[]): Ends | null {
  if (ends.length === 0) return null;
  const low = Math.min(...ends.map((one) => one.low));
  const high = ends.some((one) => one.high === null) ? null : Math.max(...ends.map((one) => one.high!));
  const open = ends.find(
    (one) => (one.open === 'low' && one.low === low) || (one.open === 'high' && one.high === high),
  )?.open;
  return { low, high, ...(open === undefined ? {} : { open }) };
}

/** The middle; null without an upper end, and where nobody wrote one of the ends. */
export const middleOf = (ends: Ends | null): number | null =>
  ends === null || ends.open !== undefined
    ? null
    : (ends.value ?? (ends.high === null ? null : (ends.low + ends.high) / 2));

/** Both ends, and what was written between them, times a factor. */
export const scaled = ({ low, high, value, open }: Ends, by: number): Ends => ({
  low: low * by,
  high: high === null ? null : high * by,
  ...(value === undefined ? {} : { value: value * by }),
  ...(open === undefined ? {} : { open }),
});

/** The ends of a fact of an end page, by the digits that were written. */
export const factEnds = (value: number, decimals?: number): Ends => {
  const half = halfDigit(value, decimals);
  return { low: Math.max(0, value - half), high: value + half, value };
};

/** What "about" leaves open of a tool's value: frames per second or percent, and as a share. */
export const ABOUT_LEAST = 2;
export const ABOUT_SHARE = 0.05;

/**
 * The ends of a tool's fact that was written as "about".
 *
 * @param share it is a share of 0 to 1: two percent on both sides
 * @source docs/method.md, "Read off, not logged"
 * @returns of 60 frames per second 57 to 63
 */
export const aboutEnds = (value: number, share: boolean): Ends => {
  const spread = share ? ABOUT_LEAST / 100 : Math.max(ABOUT_LEAST, ABOUT_SHARE * value);
  return {
    low: Math.max(0, value - spread),
    high: share ? Math.min(1, value + spread) : value + spread,
    value,
  };
};
