import type { Comparison } from '../compare/compare';
import { RUN_MEASURES } from '../vocabulary';
import { sayDifference } from '../words/compareWords';
import type { TemperatureUnit } from '../words/temperature';
import type { ReviewComparison } from './model';

/**
 * A comparison of two sides as a picture needs it.
 *
 * @param sides names of both
 */
export function chartedPair(
  { measures }: Comparison,
  sides: [string, string],
  runs: [number, number],
  unit: TemperatureUnit,
): NonNullable<ReviewComparison['pair']> {
  return {
    sides,
    runs,
    differences: RUN_MEASURES.flatMap((measure) => {
      const found = measures[measure];
      return found === null
        ? []
        : [
            {
              measure,
              by: found.by,
              interval: found.interval,
              verdict: found.verdict,
              says: sayDifference(measure, found, unit),
            },
          ];
    }),
  };
}
