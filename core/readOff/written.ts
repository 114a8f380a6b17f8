import { decimalsOf } from '../runFile/parseLine';

/** What somebody wrote down: a value, a range, or one end of it; words and numbers of it, never what is computed of it. */
export interface WrittenValue {
  /** Without its unit: "52", "50 to 55", "30 or more", "up to 60", "about 58". */
  bare: string;
  /** The least and the most that was written; null where that end was not. */
  low: number | null;
  high: number | null;
  unit: 'fps' | '% speed';
}

interface Numbers {
  value?: number | undefined;
  low?: number | undefined;
  high?: number | undefined;
}

/** @param decimals that were written; by the number itself where that is not told */
export function writtenValue(
  { value, low, high }: Numbers,
  decimals: number | undefined,
  unit: WrittenValue['unit'],
): WrittenValue {
  if (value === undefined)
    return { bare: sayRange(low ?? null, high ?? null), low: low ?? null, high: high ?? null, unit };
  const plain = value.toFixed(Math.min(20, Math.max(0, decimals ?? decimalsOf(String(value)))));
  const about = low !== undefined && high !== undefined;
  return { bare: about ? `about ${plain}` : plain, low: value, high: value, unit };
}

/** "22 to 55", "30 or more", "up to 60", "52". */
export function sayRange(low: number | null, high: number | null): string {
  if (low === null) return high === null ? '' : `up to ${high}`;
  if (high === null) return `${low} or more`;
  return low === high ? String(low) : `${low} to ${high}`;
}

/** With its unit: "30 fps or more", "about 58 fps", "98 % speed". */
export function sayWritten({ bare, unit }: Pick<WrittenValue, 'bare' | 'unit'>): string {
  const named = unit === 'fps' ? '\u00a0fps' : '\u00a0% speed';
  return bare.endsWith(' or more') ? `${bare.slice(0, -8)}${named} or more` : `${bare}${named}`;
}

/** The least and the most that was written of several; an end that one of them lacks is none. */
export function hullWritten(values: readonly WrittenValue[]): WrittenValue {
  const [first, ...others] = values as [WrittenValue, ...WrittenValue[]];
  if (others.length === 0) return first;
  const low = values.some((one) => one.low === null) ? null : Math.min(...values.map((one) => one.low!));
  const high = values.some((one) => one.high === null) ? null : Math.max(...values.map((one) => one.high!));
  return { bare: sayRange(low, high), low, high, unit: first.unit };
}
