import { sitsAtCap } from '../figures/cap';
import { RUN_MEASURES, type RunMeasure } from '../vocabulary';
import { breakRates, type BreakCount, type BreakDifference } from './breakRate';
import type { Measured, RunOfSide } from './comparable';
import { differenceOf, USUAL_MARGIN, type MeasureDifference } from './difference';
import { energyRatio, type EnergyRatio } from './energy';
import { mismatchesOf, type Mismatch } from './mismatches';
import { peaksOf } from './peaks';
import { Archive, groupKey, HABIT, HABIT_PEAK_IN_ROOM, spreadBetweenRuns } from './spread';

/** Two sides compared: each measure that both have, and what was not the same. */
export interface Comparison {
  measures: Record<RunMeasure, MeasureDifference | null> & { breaks: BreakDifference | null };
  mismatches: Mismatch[];
  /** Where both were used equally long, and nobody knows exactly how long. */
  energy: EnergyRatio | null;
  /** By what warmth is judged: the rise where the room is known in every run, else the peak. */
  warmthBy: 'peakRise' | 'peak';
  /** Cap that every run of both sides sits at; null where they do not. */
  cap: number | null;
}

export interface CompareOptions {
  /** Runs of the library; the sides' own groups are left out. */
  archive?: Archive;
  /** Share below which nobody feels a difference, above 0. */
  margin?: number;
}

/**
 * Compares two sides of one run or more each.
 *
 * @shown Compare
 * @source docs/method.md, "Difference between two sides"
 * @throws RangeError for a side without a run or a margin that is not above 0
 */
export function compareSides(
  first: readonly RunOfSide[],
  second: readonly RunOfSide[],
  { archive = new Archive(), margin = USUAL_MARGIN }: CompareOptions = {},
): Comparison {
  if (first.length === 0 || second.length === 0) throw new RangeError('one side has no runs');
  if (!(margin > 0)) throw new RangeError('the smallest noticeable difference must be above 0');
  const sides = [first, second];
  const cap = commonCap(sides.flat());
  const own = sides.flat().map((run) => groupKey(run.stated));
  const everyRoom = sides.flat().every(({ stated }) => stated.roomC !== null);
  const peaks = peaksOf(sides.flat().map(({ figures }) => figures)).map((peak) =>
    peak === null ? [] : [{ value: peak.c, ends: null }],
  );
  const values = (side: 0 | 1, name: RunMeasure): Measured[] =>
    name === 'peak'
      ? (side === 0 ? peaks.slice(0, first.length) : peaks.slice(first.length)).flat()
      : measured(sides[side]!, name);
  const habitOf = (name: RunMeasure): number =>
    name === 'peak' && everyRoom ? HABIT_PEAK_IN_ROOM : HABIT[name];
  const measure = (name: RunMeasure): MeasureDifference | null =>
    differenceOf(
      name,
      [values(0, name), values(1, name)],
      (onScale) => spreadBetweenRuns(name, onScale, archive, own, habitOf(name)),
      CAPPED.includes(name) ? cap : null,
      margin,
    );
  return {
    measures: {
      ...(Object.fromEntries(RUN_MEASURES.map((name) => [name, measure(name)])) as Record<
        RunMeasure,
        MeasureDifference | null
      >),
      breaks: breakRates([breaksOf(first), breaksOf(second)]),
    },
    mismatches: mismatchesOf(first, second),
    energy: energyRatio(first, second),
    warmthBy: everyRoom ? 'peakRise' : 'peak',
    cap,
  };
}

/** What a cap makes equal. */
const CAPPED: readonly RunMeasure[] = ['average', 'median', 'closing'];

const measured = (side: readonly RunOfSide[], name: RunMeasure): Measured[] =>
  side.flatMap((run) => run.figures.values[name] ?? []);

/** The cap that every run sits at. */
function commonCap(runs: readonly RunOfSide[]): number | null {
  const { cap } = runs[0]!.figures;
  return runs.every(({ figures }) => figures.cap === cap && sitsAtCap(figures.capShare)) ? cap : null;
}

/** Breaks of a side's runs taken together; null where none has frames. */
function breaksOf(side: readonly RunOfSide[]): BreakCount | null {
  const counted = side.flatMap((run) => run.figures.breaks ?? []);
  return counted.length === 0
    ? null
    : {
        count: counted.reduce((sum, { count }) => sum + count, 0),
        minutes: counted.reduce((sum, { minutes }) => sum + minutes, 0),
      };
}
