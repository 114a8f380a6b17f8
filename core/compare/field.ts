import { RUN_MEASURES, type MismatchKind, type RunMeasure } from '../vocabulary';
import type { RunOfSide } from './comparable';
import { compareSides, type CompareOptions, type Comparison } from './compare';
import { isBetter, lessIsBetter, type MeasureDifference } from './difference';
import { otherWork } from './mismatches';
import { byLogarithm, onScale } from './spread';

/** Where a side stands in one measure among several. */
export interface FieldPlace {
  /** Mean of its runs, as two sides are compared by. */
  value: number;
  runs: number;
  /** How it differs from the best, which is the first side of it; null for the best itself. */
  against: Pick<MeasureDifference, 'by' | 'interval' | 'verdict' | 'small'> | null;
  /** What makes it other work than the best's. */
  otherWork: MismatchKind[];
}

/** Several sides in one measure. */
export interface FieldMeasure {
  /** By side; null where a side lacks the measure. */
  places: (FieldPlace | null)[];
  /** Sides that have it, the best first. */
  order: number[];
  /** The best is better than every other, clearly, in the same work. */
  clear: boolean;
}

/**
 * Several sides of one title, measure by measure, each held against the best.
 *
 * @param sides of which one may have no run
 * @shown Compare: a field, a row of the matrix
 * @source docs/method.md, "Difference between two sides"
 */
export function rankField(
  sides: readonly (readonly RunOfSide[])[],
  options: CompareOptions,
): Record<RunMeasure, FieldMeasure> {
  // a pair is asked for by several measures
  const pairs = new Map<string, Comparison>();
  const pair = (first: number, second: number): Comparison => {
    const key = `${first} ${second}`;
    const known = pairs.get(key) ?? compareSides(sides[first]!, sides[second]!, options);
    pairs.set(key, known);
    return known;
  };
  return Object.fromEntries(RUN_MEASURES.map((measure) => [measure, rank(measure, sides, pair)])) as Record<
    RunMeasure,
    FieldMeasure
  >;
}

function rank(
  measure: RunMeasure,
  sides: readonly (readonly RunOfSide[])[],
  pair: (first: number, second: number) => Comparison,
): FieldMeasure {
  const means = sides.map((runs) => meanOf(measure, runs));
  const order = means
    .flatMap((mean, side) => (mean === null ? [] : [{ side, value: mean.value }]))
    .sort((a, b) => (lessIsBetter(measure) ? a.value - b.value : b.value - a.value))
    .map(({ side }) => side);
  const best = order[0];
  const places = means.map((mean, side): FieldPlace | null => {
    if (mean === null) return null;
    if (side === best || best === undefined) return { ...mean, against: null, otherWork: [] };
    const { measures, mismatches } = pair(best, side);
    const found = measures[measure]!;
    return {
      ...mean,
      against: { by: found.by, interval: found.interval, verdict: found.verdict, small: found.small },
      otherWork: otherWork(mismatches).map(({ kind }) => kind),
    };
  });
  const others = places.filter((place, side) => place !== null && side !== best);
  return {
    places,
    order,
    clear:
      others.length > 0 &&
      others.every((place) => place!.otherWork.length === 0 && isBetter(place!.against!.verdict)),
  };
}

/** Mean of a side's runs on the measure's scale. */
function meanOf(measure: RunMeasure, runs: readonly RunOfSide[]): { value: number; runs: number } | null {
  const values = onScale(
    measure,
    runs.map((run) => run.figures.values[measure]?.value),
  );
  if (values.length === 0) return null;
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return { value: byLogarithm(measure) ? Math.exp(mean) : mean, runs: values.length };
}
