import { RUN_MEASURES, type RunMeasure } from '../vocabulary';
import type { RunOfSide } from './comparable';
import { peaksOf } from './peaks';

/** Sum of squares about the mean of a group's values, and how many they are. */
export interface GroupSpread {
  n: number;
  squares: number;
}

/** Runs of one device, title and setup, and how far they lie apart. */
export interface ArchiveGroup {
  /** {@link groupKey} of its runs. */
  key: string;
  spread: Partial<Record<RunMeasure, GroupSpread>>;
}

/** How much runs of one kind differ, and where that is known from. */
export interface Spread {
  /** Standard deviation of one run: of the logarithm, or in °C for the rise. */
  sd: number;
  /** Degrees of freedom that it has. */
  freedom: number;
  /** Degrees of freedom from the sides themselves, and from other runs of the library; from habit it is always {@link HABIT_FREEDOM}. */
  fromSides: number;
  fromArchive: number;
}

/** What runs of one kind differ by where nobody has repeated any: of the logarithm; in °C for the rise. Common practice. */
export const HABIT: Record<RunMeasure, number> = {
  average: 0.02,
  median: 0.02,
  closing: 0.03,
  onePercentLow: 0.06,
  watts: 0.05,
  hoursFromFull: 0.06,
  peakRise: 1,
  peak: 1.5,
};
/** Where every room is known, a peak differs no more than a rise. */
export const HABIT_PEAK_IN_ROOM = 1;
export const HABIT_FREEDOM = 4;
/** So much an archive counts at most: a calm one does not drown what the sides show. */
const MOST_FROM_ARCHIVE = 8;

/** Temperatures are compared as they are, all else by its logarithm. */
export const byLogarithm = (measure: string): boolean => measure !== 'peakRise' && measure !== 'peak';

/**
 * Values of a measure on the scale on which they are compared; those of 0 or less are left out.
 */
export const onScale = (measure: RunMeasure, values: readonly (number | null | undefined)[]): number[] =>
  values.flatMap((value) =>
    value === null || value === undefined || value <= 0 ? [] : byLogarithm(measure) ? Math.log(value) : value,
  );

/**
 * Sum of squares about the mean.
 */
export function spreadOf(values: readonly number[]): GroupSpread {
  const n = values.length;
  const mean = values.reduce((sum, value) => sum + value, 0) / n;
  return { n, squares: values.reduce((sum, value) => sum + (value - mean) ** 2, 0) };
}

/**
 * By what runs are alike: device, title and setup.
 *
 * @returns null where device or title is not known
 */
export const groupKey = (run: {
  device: string | null;
  title: string | null;
  setup: string | null;
}): string | null =>
  run.device === null || run.title === null ? null : JSON.stringify([run.device, run.title, run.setup]);

/**
 * Runs grouped by device, title and setup, each group with its spread.
 *
 * @source docs/method.md, "Difference between two sides"
 */
export function archiveOf(runs: readonly RunOfSide[]): ArchiveGroup[] {
  const groups = new Map<string, RunOfSide[]>();
  for (const run of runs) {
    const key = groupKey(run.stated);
    if (key !== null) groups.set(key, [...(groups.get(key) ?? []), run]);
  }
  return [...groups].map(([key, members]) => {
    const peaks = peaksOf(members.map(({ figures }) => figures)).map((peak) => peak?.c);
    return {
      key,
      spread: Object.fromEntries(
        RUN_MEASURES.map((measure) => [
          measure,
          spreadOf(
            onScale(
              measure,
              measure === 'peak' ? peaks : members.map((run) => run.figures.values[measure]?.value),
            ),
          ),
        ]),
      ),
    };
  });
}

/** How far runs lie apart, all groups taken together. */
export interface Pooled {
  variance: number;
  freedom: number;
}

/** Sums of several groups: squares about the means, and degrees of freedom. */
interface Sums {
  squares: number;
  freedom: number;
}

const NOTHING: Sums = { squares: 0, freedom: 0 };
const added = (sums: Sums, group: GroupSpread | undefined): Sums =>
  !group || group.n < 2
    ? sums
    : { squares: sums.squares + group.squares, freedom: sums.freedom + group.n - 1 };
const toPooled = ({ squares, freedom }: Sums): Pooled => ({
  variance: freedom <= 0 ? 0 : Math.max(0, squares) / freedom,
  freedom,
});

/**
 * Groups of runs of the library, added up once: what they say without some of
 * them is asked for again and again.
 */
export class Archive {
  /** By group. */
  private readonly groups = new Map<string, ArchiveGroup[]>();
  private readonly sums: Record<string, Sums> = {};

  constructor(groups: readonly ArchiveGroup[] = []) {
    for (const group of groups) {
      this.groups.set(group.key, [...(this.groups.get(group.key) ?? []), group]);
      for (const measure of RUN_MEASURES)
        this.sums[measure] = added(this.sums[measure] ?? NOTHING, group.spread[measure]);
    }
  }

  /** How far runs of a measure lie apart in all groups but these. */
  without(own: readonly (string | null)[], measure: RunMeasure): Pooled {
    const left = { ...(this.sums[measure] ?? NOTHING) };
    for (const key of new Set(own)) {
      for (const group of key === null ? [] : (this.groups.get(key) ?? [])) {
        const taken = added(NOTHING, group.spread[measure]);
        left.squares -= taken.squares;
        left.freedom -= taken.freedom;
      }
    }
    return toPooled(left);
  }
}

/**
 * Spread between runs of one kind: of the sides, of the archive, and from habit, each with the weight of its degrees of freedom.
 *
 * @param sides values of each side on the scale of the measure (`onScale`)
 * @param archive of which the groups with a key among `own` are left out
 * @param habit what runs differ by where nobody has repeated any
 * @shown What runs of one kind differ by
 * @source a conjugate prior for the variance; Smyth (2004), moderated t; docs/method.md, "Difference between two sides"
 * @example
 * spreadBetweenRuns('average', [[4.1], [4.2]], new Archive(), []).sd.toFixed(6); // '0.020000'
 */
export function spreadBetweenRuns(
  measure: RunMeasure,
  sides: readonly number[][],
  archive: Archive,
  own: readonly (string | null)[],
  habit = HABIT[measure],
): Spread {
  const within = toPooled(sides.map(spreadOf).reduce(added, NOTHING));
  const others = archive.without(own, measure);
  const fromArchive = Math.min(MOST_FROM_ARCHIVE, others.freedom);
  const freedom = HABIT_FREEDOM + fromArchive + within.freedom;
  const squares =
    HABIT_FREEDOM * habit ** 2 + fromArchive * others.variance + within.freedom * within.variance;
  return { sd: Math.sqrt(squares / freedom), freedom, fromSides: within.freedom, fromArchive };
}
