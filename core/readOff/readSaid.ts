import { below } from '../numbers/threshold';
import { atTimes, type ReadKind, type TimedRate } from './leading';
import { hullWritten, type WrittenValue } from './written';

/** A value as it was written, and when. */
export interface SaidValue {
  written: WrittenValue;
  atS: number;
}

/** What was written of the pace: never what was widened, and no middle. */
export interface ReadSaid {
  /** Averages of end pages. */
  pages: WrittenValue[];
  /** Of timed rates the first and the last, and the lowest and highest where they lie outside these. */
  timed: {
    first: SaidValue;
    last: SaidValue | null;
    lowest: SaidValue | null;
    highest: SaidValue | null;
  } | null;
  /** From when to when, s, where several span less than a third of the run. */
  part: [fromS: number, toS: number] | null;
  /** Of rates without a time: one as it was written, of several the least and the most. */
  untimed: WrittenValue | null;
  /** Of an emulator's speeds the same, where rates were read beside them or they have no time. */
  speeds: WrittenValue | null;
}

const SHORT = 1 / 3;

/**
 * What one kind says of a run, as it was written.
 *
 * @param seconds length of the run
 * @returns null where it says nothing of the pace
 * @source docs/method.md, "Read off, not logged": what is said
 */
export function saidOf(kind: ReadKind, seconds: number): ReadSaid | null {
  const timed = atTimes(kind.rates);
  const untimed = kind.rates.flatMap(({ atMs, written }) => (atMs === null && written ? written : []));
  const pages = kind.pages.flatMap(({ written }) => written ?? []);
  // those that stand for rates are told as such
  const speeds = kind.rates.some(({ written }) => written?.unit === '% speed')
    ? []
    : kind.speeds.flatMap(({ written }) => written ?? []);
  if (timed.length + untimed.length + pages.length + speeds.length === 0) return null;
  const [first, last] = [timed[0], timed.at(-1)];
  const several = first !== undefined && last !== undefined && last !== first;
  return {
    pages,
    timed: first
      ? {
          first: asSaid(first),
          last: several ? asSaid(last) : null,
          ...outside(timed, first, last!),
        }
      : null,
    part:
      several && below((last.atMs - first.atMs) / 1000, seconds * SHORT)
        ? [first.atMs / 1000, last.atMs / 1000]
        : null,
    untimed: untimed.length === 0 ? null : hullWritten(untimed),
    speeds: speeds.length === 0 ? null : hullWritten(speeds),
  };
}

const NOTHING: WrittenValue = { bare: '', low: null, high: null, unit: 'fps' };
const asSaid = ({ written, atMs }: TimedRate): SaidValue => ({
  written: written ?? NOTHING,
  atS: atMs / 1000,
});

/** The lowest and the highest that were written in between, where they lie outside the first and the last. */
function outside(
  timed: readonly TimedRate[],
  first: TimedRate,
  last: TimedRate,
): { lowest: SaidValue | null; highest: SaidValue | null } {
  const between = timed.filter((rate) => rate !== first && rate !== last && rate.written !== undefined);
  const least = ({ written }: TimedRate): number => written?.low ?? -Infinity;
  const most = ({ written }: TimedRate): number => written?.high ?? Infinity;
  const lowest = between.reduce<TimedRate | null>(
    (found, rate) =>
      rate.written!.low !== null && (found === null || least(rate) < least(found)) ? rate : found,
    null,
  );
  const highest = between.reduce<TimedRate | null>(
    (found, rate) =>
      rate.written!.high !== null && (found === null || most(rate) > most(found)) ? rate : found,
    null,
  );
  return {
    lowest: lowest && least(lowest) < Math.min(least(first), least(last)) ? asSaid(lowest) : null,
    highest: highest && most(highest) > Math.max(most(first), most(last)) ? asSaid(highest) : null,
  };
}

/** The least and the most of all that was written, over several runs too. */
export function writtenHull(said: readonly ReadSaid[]): WrittenValue | null {
  const values = said.flatMap(({ pages, timed, untimed, speeds }) => [
    ...pages,
    ...(timed
      ? [timed.first, timed.last, timed.lowest, timed.highest].flatMap((one) => one?.written ?? [])
      : []),
    ...[untimed, speeds].flatMap((one) => one ?? []),
  ]);
  return values.length === 0 ? null : hullWritten(values);
}
