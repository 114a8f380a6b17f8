import { atMost } from '../numbers/threshold';
import type { MismatchKind, RunMeasure } from '../vocabulary';
import type { RunOfSide } from './comparable';
import { compareSides } from './compare';
import { isBetter, lessIsBetter } from './difference';
import { mismatchesOf } from './mismatches';

/** Among which runs one is looked at: of its title and setup, of its title, or of titles that ask as much. */
export const STANDING_SCOPES = ['setup', 'title', 'demand'] as const;
export type StandingScope = (typeof STANDING_SCOPES)[number];

/** Where a run stands in one measure among others. */
export interface MeasureStanding {
  measure: RunMeasure;
  own: number;
  /** Place of the run, 1 for the best. */
  place: number;
  /** How many runs have it, this one too. */
  of: number;
  /** Whether it is told apart from the next one: a first or last place alone says it. */
  apart: boolean;
  /** The others, by their place among those that were given. */
  others: { index: number; value: number }[];
}

export interface Standing {
  measures: MeasureStanding[];
  /** Runs that count, this one too. */
  counted: number;
  /** Why others do not, and how many for each reason. */
  leftOut: { why: MismatchKind; count: number }[];
}

/** What makes another run no measure for this one. */
const TELLING: readonly MismatchKind[] = [
  'title',
  'scene',
  'cap',
  'target',
  'outcome',
  'room',
  'length',
  'power',
  'mode',
  'cooler',
];
/** What may differ between titles that ask as much. */
const OF_THE_TITLE: readonly MismatchKind[] = ['title', 'scene', 'cap', 'target'];
/** Rates of different titles are not compared. */
const ACROSS_TITLES: readonly RunMeasure[] = ['peakRise', 'watts', 'hoursFromFull'];
const WITHIN_A_TITLE: readonly RunMeasure[] = ['average', 'closing', 'onePercentLow', ...ACROSS_TITLES];

/**
 * Where a run stands among the library's own runs of its kind. Only those count that did comparable work.
 *
 * @param others without the run itself
 * @shown Where it stands
 * @source common practice; what is comparable: docs/method.md, "Difference between two sides"
 */
export function standingOf(own: RunOfSide, others: readonly RunOfSide[], scope: StandingScope): Standing {
  const telling = scope === 'demand' ? TELLING.filter((kind) => !OF_THE_TITLE.includes(kind)) : TELLING;
  const why = others.map(
    (other) =>
      mismatchesOf([own], [other]).find(({ kind, known }) => known === 'both' && telling.includes(kind))
        ?.kind ?? null,
  );
  const measures = (scope === 'demand' ? ACROSS_TITLES : WITHIN_A_TITLE).flatMap((measure) => {
    const value = own.figures.values[measure]?.value;
    if (value === undefined) return [];
    const there = others.flatMap((other, index) => {
      const its = other.figures.values[measure]?.value;
      return why[index] === null && its !== undefined ? [{ index, value: its }] : [];
    });
    const better = there.filter(({ value: its }) =>
      lessIsBetter(measure) ? !atMost(value, its) : !atMost(its, value),
    ).length;
    // of the first the next one, of the last the one before: the nearest
    const nearest = there.reduce<{ index: number; off: number } | null>((least, { index, value: its }) => {
      const off = Math.abs(its - value);
      return least !== null && least.off <= off ? least : { index, off };
    }, null);
    const against = nearest && compareSides([own], [others[nearest.index]!]).measures[measure];
    return [
      {
        measure,
        own: value,
        place: better + 1,
        of: there.length + 1,
        apart: against !== null && against !== undefined && isBetter(against.verdict),
        others: there,
      },
    ];
  });
  const reasons = [...new Set(why)].filter((reason) => reason !== null);
  return {
    measures,
    counted: 1 + why.filter((reason) => reason === null).length,
    leftOut: reasons
      .map((reason) => ({ why: reason, count: why.filter((one) => one === reason).length }))
      .sort((a, b) => b.count - a.count),
  };
}
