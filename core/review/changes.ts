import { RUN_MEASURES } from '../vocabulary';
import { MEASURE_WORDS, sayMeasure } from '../words/compareWords';
import type { Voice } from '../words/headline';
import type { ReviewRun } from './model';

/**
 * What has changed in the runs since a review was published, in words: a line for each figure that is said differently now.
 *
 * @param then runs as they were published
 * @param now the same runs as they are; one that is missing was deleted
 * @source docs/method.md, "Reviews"
 */
export function runChangesSince(
  then: readonly ReviewRun[],
  now: readonly ReviewRun[],
  { unit }: Pick<Voice, 'unit'>,
): string[] {
  const gone = then.filter((run) => !now.some((one) => one.id === run.id));
  const come = now.filter((run) => !then.some((one) => one.id === run.id));
  return [
    ...then.flatMap((before) => {
      const after = now.find((one) => one.id === before.id);
      return after ? changesOf(before, after, unit) : [];
    }),
    ...gone.map((run) => `${run.name}: removed`),
    ...come.map((run) => `${run.name}: added`),
  ];
}

function changesOf(before: ReviewRun, after: ReviewRun, unit: Voice['unit']): string[] {
  const said = (was: string | null, is: string | null, what: string): string[] =>
    was === is ? [] : [`${before.name}, ${what}: ${was ?? 'not known'} → ${is ?? 'not known'}`];
  const value = ({ figures }: ReviewRun, measure: (typeof RUN_MEASURES)[number]): string | null => {
    const found = figures.values[measure]?.value;
    return found === undefined ? null : sayMeasure(measure, found, unit);
  };
  return [
    ...RUN_MEASURES.flatMap((measure) =>
      said(value(before, measure), value(after, measure), MEASURE_WORDS[measure]),
    ),
    ...said(before.figures.word, after.figures.word, 'stamina'),
    ...said(before.figures.playable, after.figures.playable, 'playable'),
  ];
}
