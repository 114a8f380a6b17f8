import { isNumber, type TextLayout } from './sniff';
import type { TimeUnit } from './micros';

/** What a column of a log holds: frame times, or the moments at which frames were shown. */
export type ColumnKind = 'frame-time' | 'timestamp';

/** Which column is read, and how. */
export interface ColumnChoice {
  column: number;
  kind: ColumnKind;
  unit: TimeUnit;
}

/** A choice with how sure it is (0 to 1) and the reason, for the person who confirms it. */
export interface ColumnGuess extends ColumnChoice {
  sureness: number;
  why: string;
}

/** Seconds in each unit, the coarsest first. */
export const UNIT_SECONDS: Record<TimeUnit, number> = { s: 1, ms: 1e-3, us: 1e-6, ns: 1e-9 };
const UNITS = Object.keys(UNIT_SECONDS) as TimeUnit[];

const WORDS: { kind: ColumnKind; pattern: RegExp }[] = [
  {
    kind: 'frame-time',
    pattern:
      /frame[\s_-]*(time(?!\s*stamp)|duration|length|interval)|between|delta|\bdt\b|interval|duration/i,
  },
  { kind: 'timestamp', pattern: /stamp|present|clock|elapsed|since|\btime\b|^time|moment|\bat\b/i },
];
const UNIT_WORDS: { unit: TimeUnit; pattern: RegExp }[] = [
  { unit: 'ns', pattern: /(^|[^a-z])ns([^a-z]|$)|nano/i },
  { unit: 'us', pattern: /(^|[^a-z])[uµμ]s([^a-z]|$)|micro/i },
  { unit: 'ms', pattern: /(^|[^a-z])ms([^a-z]|$)|milli/i },
  { unit: 's', pattern: /(^|[^a-z])s(ec(onds?)?)?([^a-z]|$)|second/i },
];
const NOT_A_TIME = /fps|rate|temp|percent|%|load|power|clock.?speed|mhz|watt|memory/i;

/** Frame times that a screen can show and a person would log: 2 ms (500 Hz) to 1 s. */
const SHORTEST_S = 0.002;
const LONGEST_S = 1;
const TYPICAL_S = 1 / 60;

/**
 * Guesses which column holds the frames, from headings and values.
 *
 * @returns guesses, best first; empty where no column can hold frame times or timestamps
 * @source common practice: a heading's words first, then whether the values rise, then the unit in which the typical frame is nearest to 1/60 s
 */
export function guessColumns(layout: TextLayout): ColumnGuess[] {
  const guesses: ColumnGuess[] = [];
  layout.headings.forEach((heading, column) => {
    const values: number[] = [];
    for (const row of layout.rows) {
      const field = row[column] ?? '';
      if (isNumber(field, layout.decimalMark)) values.push(Number(field.replace(',', '.')));
    }
    const guess = values.length * 2 >= layout.rows.length ? guessColumn(heading, column, values) : null;
    if (guess) guesses.push(guess);
  });
  return guesses.sort((a, b) => b.sureness - a.sureness);
}

function guessColumn(heading: string, column: number, values: number[]): ColumnGuess | null {
  const steps = values.slice(1).map((value, i) => value - values[i]!);
  const rises = steps.length > 0 && steps.filter((step) => step > 0).length >= 0.98 * steps.length;
  const counts = rises && steps.every((step) => step === 1);
  const named = NOT_A_TIME.test(heading)
    ? null
    : (WORDS.find((word) => word.pattern.test(heading))?.kind ?? null);
  if (NOT_A_TIME.test(heading) || (counts && named === null)) return null;
  // frame times may rise for a while; what is called so is so
  const kind: ColumnKind = rises && named !== 'frame-time' ? 'timestamp' : 'frame-time';
  const typical = middle(kind === 'timestamp' ? steps : values.filter((value) => value > 0));
  if (typical === null) return null;
  const namedUnit = UNIT_WORDS.find((word) => word.pattern.test(heading))?.unit ?? null;
  const fits = UNITS.filter((unit) => plausible(typical * UNIT_SECONDS[unit]));
  const unit = namedUnit && fits.includes(namedUnit) ? namedUnit : nearestToTypical(typical, fits);
  if (unit === null) return null;
  const reasons: string[] = [];
  let sureness = 0.2;
  if (named === kind) {
    sureness += 0.4;
    reasons.push(`the heading “${heading}” suggests ${kind === 'timestamp' ? 'moments' : 'frame times'}`);
  } else
    reasons.push(
      kind === 'timestamp' ? 'the values increase from row to row' : 'the values vary like frame times',
    );
  if (namedUnit === unit) {
    sureness += 0.3;
    reasons.push(`the heading names ${UNIT_NAMES[unit]}`);
  } else if (namedUnit) {
    sureness -= 0.1;
    reasons.push(`the heading names ${UNIT_NAMES[namedUnit]}, but the values fit ${UNIT_NAMES[unit]}`);
  } else
    reasons.push(
      `in ${UNIT_NAMES[unit]}, a typical frame takes ${(typical * UNIT_SECONDS[unit] * 1000).toPrecision(3)} ms`,
    );
  if (kind === 'frame-time') sureness += 0.05;
  return { column, kind, unit, sureness, why: reasons.join('; ') };
}

/** Names of the units, in words. */
export const UNIT_NAMES: Record<TimeUnit, string> = {
  s: 'seconds',
  ms: 'milliseconds',
  us: 'microseconds',
  ns: 'nanoseconds',
};

const plausible = (seconds: number): boolean => seconds >= SHORTEST_S && seconds <= LONGEST_S;

function nearestToTypical(typical: number, units: TimeUnit[]): TimeUnit | null {
  const distance = (unit: TimeUnit): number => Math.abs(Math.log((typical * UNIT_SECONDS[unit]) / TYPICAL_S));
  return units.reduce<TimeUnit | null>(
    (best, unit) => (best === null || distance(unit) < distance(best) ? unit : best),
    null,
  );
}

function middle(values: number[]): number | null {
  return values.length === 0 ? null : [...values].sort((a, b) => a - b)[values.length >> 1]!;
}
