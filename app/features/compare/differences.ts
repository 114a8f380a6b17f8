import {
  byLogarithm,
  MARGIN_C,
  MEASURE_WORDS,
  sayBreakRatio,
  sayDifference,
  valuesOf,
  type CompareMeasure,
  type Comparison,
  type MeasureDifference,
  type BreakDifference,
  type RatingPart,
  type School,
  type TemperatureUnit,
} from '@pace-check/core';

/** The five measures with what two sides are compared by in each. */
export const MEASURES_OF: Record<RatingPart, CompareMeasure[]> = {
  pace: ['average', 'median'],
  evenness: ['onePercentLow', 'breaks'],
  stamina: ['closing'],
  warmth: ['peakRise', 'peak'],
  drain: ['watts', 'hoursFromFull'],
};

/** The same, what the reader's school puts first at the top. */
export const measuresOf = (part: RatingPart, school: School): CompareMeasure[] =>
  part === 'pace' && school === 'median-and-hold' ? ['median', 'average'] : MEASURES_OF[part];

const LESS_IS_BETTER: readonly CompareMeasure[] = ['watts', 'peakRise', 'peak', 'breaks'];

/** A difference as it is drawn: better for the second side above 0. */
export interface Drawn {
  at: number | null;
  interval: [number | null, number | null];
  margin: number | null;
}

export function drawn(
  measure: CompareMeasure,
  { by, interval }: Pick<MeasureDifference | BreakDifference, 'by' | 'interval'>,
  margin: number,
): Drawn {
  const place = (value: number | null): number | null => {
    if (value === null) return null;
    const on = byLogarithm(measure) ? Math.log(value) : value;
    // none on one side has no logarithm: its end is the edge
    return Number.isFinite(on) ? on : null;
  };
  const ends: [number | null, number | null] = [place(interval[0]), place(interval[1])];
  const flip = LESS_IS_BETTER.includes(measure);
  const turn = (value: number | null): number | null => (value === null ? null : flip ? -value : value);
  return {
    at: turn(place(by)),
    interval: flip ? [turn(ends[1]), turn(ends[0])] : ends,
    margin: measure === 'breaks' ? null : byLogarithm(measure) ? Math.log(1 + margin) : MARGIN_C,
  };
}

/** A measure of a pair in words, as a row of it shows them. */
export interface SaidMeasure {
  name: string;
  first: string;
  second: string;
  difference: string;
  verdict: string;
  /** Where the spread between runs is known from. */
  spread: string | null;
}

export function sayMeasureOf(
  measure: CompareMeasure,
  { measures }: Comparison,
  names: readonly [string, string],
  unit: TemperatureUnit,
): SaidMeasure | null {
  const found = measures[measure];
  if (!found) return null;
  const [first, second] = valuesOf(measure, found, unit);
  return {
    name: MEASURE_WORDS[measure],
    first,
    second,
    difference:
      measure === 'breaks'
        ? sayBreakRatio(found as BreakDifference)
        : sayDifference(measure, found as MeasureDifference, unit),
    verdict: verdictWords(found, names),
    spread: measure === 'breaks' ? null : spreadWords(measure, found as MeasureDifference, unit),
  };
}

function verdictWords(
  { verdict, ...found }: MeasureDifference | BreakDifference,
  names: readonly [string, string],
): string {
  const small = 'small' in found && found.small ? ', too small to notice' : '';
  if (verdict === 'first better') return `${names[0]} better${small}`;
  if (verdict === 'second better') return `${names[1]} better${small}`;
  return verdict;
}

/** "A run differs from its like by 2.0 %: habit 4, library 8, these runs 0 degrees of freedom". */
function spreadWords(
  measure: CompareMeasure,
  { spread, widened }: MeasureDifference,
  unit: TemperatureUnit,
): string {
  const by = !byLogarithm(measure)
    ? `${(unit === 'C' ? spread.sd : spread.sd * 1.8).toFixed(1)} °${unit}`
    : `${(spread.sd * 100).toFixed(1)} %`;
  const from = [
    'habit',
    spread.fromArchive > 0 ? 'repeat runs in your library' : null,
    spread.fromSides > 0 ? 'these runs' : null,
  ].filter(Boolean);
  return `runs of the same kind differ by ${by} (from ${from.join(', ')})${widened > 0 ? '; wider because of manual readings' : ''}`;
}
