import { drainOf, GAUGE_SD, newPercents } from '../figures/drain';
import type { Discharge } from '../figures/plausible';
import type { BatteryReading } from '../figures/readings';
import { tWidth } from '../fit/fit';
import { leastSquares } from '../numbers/leastSquares';
import type { DrainByTitle, TitleDrain, TitleStretch } from './model';

const HOUR_MS = 3_600_000;

/**
 * Drain of each title of a session, from the one curve of its battery: an
 * intercept for each stretch of discharge, a slope for each title. Where the
 * readings do not tell the titles apart, one common rate.
 *
 * @returns null where the battery says nothing
 * @shown (command line) drain by title
 * @source analysis of covariance; docs/method.md, "Several titles on one clock"
 */
export function drainByTitle(discharge: Discharge, stretches: readonly TitleStretch[]): DrainByTitle | null {
  const titles = [...new Set(stretches.map((stretch) => stretch.title))];
  const points = discharge.stretches.flatMap((readings, group) =>
    newPercents(readings).map((point) => ({
      percent: point.percent,
      group,
      hours: titles.map((title) => hoursIn(title, stretches, readings[0]!, point)),
    })),
  );
  const common = drainOf(discharge, [], [], [], null, null)?.percentPerHour ?? null;
  if (common === null) return null;
  const played = titles.flatMap((title, t) => (hoursOfDischarge(title, stretches, discharge) > 0 ? [t] : []));
  const solved = apart(points, played);
  const commonly = solved ? null : slopeOfAll(points);
  return {
    separable: solved !== null,
    rates: titles.map((title, t) => {
      const place = played.indexOf(t);
      if (place < 0) return { title, percentPerHour: null, interval: null };
      return solved
        ? { title, ...solved[place]! }
        : { title, percentPerHour: commonly?.percentPerHour ?? common, interval: commonly?.interval ?? null };
    }),
  };
}

interface Point {
  percent: number;
  group: number;
  /** In each title since the stretch of discharge began. */
  hours: number[];
}
type Rate = Pick<TitleDrain, 'percentPerHour' | 'interval'>;

/** Hours that a title was played between two readings of one stretch of discharge. */
const hoursIn = (
  title: string | null,
  stretches: readonly TitleStretch[],
  from: BatteryReading,
  to: BatteryReading,
): number =>
  stretches
    .filter((stretch) => stretch.title === title)
    .reduce(
      (sum, { fromS, toS }) =>
        sum + Math.max(0, Math.min(to.atMs, toS * 1000) - Math.max(from.atMs, fromS * 1000)),
      0,
    ) / HOUR_MS;

const hoursOfDischarge = (
  title: string | null,
  stretches: readonly TitleStretch[],
  { stretches: discharge }: Discharge,
): number =>
  discharge.reduce((sum, readings) => sum + hoursIn(title, stretches, readings[0]!, readings.at(-1)!), 0);

/** A rate for each title; null where the readings do not tell them apart. */
function apart(points: Point[], played: number[]): Rate[] | null {
  const groups = [...new Set(points.map((point) => point.group))];
  if (points.length < played.length + groups.length + 1) return null;
  const columns = [
    ...groups.map((group) => points.map((point) => (point.group === group ? 1 : 0))),
    ...played.map((t) => points.map((point) => -point.hours[t]!)),
  ];
  return ratesOf(points, columns, groups.length);
}

/** One slope for all of it. */
function slopeOfAll(points: Point[]): Rate | null {
  const groups = [...new Set(points.map((point) => point.group))];
  if (points.length < 3) return null;
  const columns = [
    ...groups.map((group) => points.map((point) => (point.group === group ? 1 : 0))),
    points.map((point) => -point.hours.reduce((sum, hours) => sum + hours, 0)),
  ];
  return ratesOf(points, columns, groups.length)?.[0] ?? null;
}

/** @returns null where a column is none of its own */
function ratesOf(points: Point[], columns: number[][], first: number): Rate[] | null {
  const solved = leastSquares(
    columns,
    points.map((point) => point.percent),
  );
  if (!solved) return null;
  const freedom = points.length - columns.length;
  return solved.x.slice(first).map((percentPerHour, i) => {
    const half =
      freedom < 1
        ? null
        : tWidth(freedom) *
          Math.max(GAUGE_SD, Math.sqrt(solved.rss / freedom)) *
          Math.sqrt(solved.inverse[first + i]![first + i]!);
    return {
      percentPerHour,
      interval: half === null ? null : [percentPerHour - half, percentPerHour + half],
    };
  });
}
