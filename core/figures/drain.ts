import { tWidth } from '../fit/fit';
import { chargesAt, chargesBetween, type Discharge } from './plausible';
import type { BatteryReading, PowerReading } from './readings';
import { firstAbove, type SpanUs } from './session';
import { atLeast } from '../numbers/threshold';

/** How fast the battery empties. */
export interface Drain {
  percentPerHour: number | null;
  /** 95 % interval of percent per hour where readings allow one; else the range of readings that are whole percents. */
  range: [number, number] | null;
  hoursFromFull: number | null;
  /** How many new percents it was computed from. */
  points?: number;
  watts: number | null;
  /** Where the watts come from; "percent" too where only percent per hour is known. */
  from: 'percent' | 'power';
  joulesPerFrame: number | null;
}

const HOUR_MS = 3_600_000;

/**
 * Drain of a run.
 *
 * Per stretch of discharge, the first reading that shows each new percent; one line
 * through all stretches with a common slope and an intercept each. Where there
 * are fewer than three such points, or no two in one stretch: what fell over the time it
 * took. Watts from power samples where there are two neighbours without
 * charging, else from percent and the battery's energy.
 *
 * @param battery as they were flagged: charging that a span tells is no flag
 * @param batteryWh energy of the full battery, or null
 * @param averagePace frames per second, for the energy of a frame
 * @param length where the run's length is only roughly known: the least and the most, in parts of the length that is taken
 * @returns null where neither percent nor power says anything
 * @shown Drain: percent per hour, hours from full, watts, a frame
 * @source docs/method.md, "Drain"; analysis of covariance with one slope; the trapezoid rule
 * @example
 * const falling = [100, 99, 98, 97].map((percent, i) => ({ atMs: i * 360_000, percent, charging: false }));
 * drainOf({ stretches: [falling], doubtful: [] }, [], falling, [], 18, null)?.percentPerHour?.toFixed(6); // '10.000000'
 */
export function drainOf(
  { stretches }: Discharge,
  power: PowerReading[],
  battery: BatteryReading[],
  charging: SpanUs[],
  batteryWh: number | null,
  averagePace: number | null,
  length: { least: number; most: number } = { least: 1, most: 1 },
): Drain | null {
  const groups = stretches.map(newPercents).filter((points) => points.length > 0);
  const slope = roughly(slopeOf(groups) ?? overall(stretches), length);
  const percentPerHour = slope?.percentPerHour ?? null;
  const measured = meanPower(power, battery, charging);
  const watts =
    measured ?? (percentPerHour === null || batteryWh === null ? null : (batteryWh * percentPerHour) / 100);
  if (percentPerHour === null && watts === null) return null;
  return {
    percentPerHour,
    range: slope?.range ?? null,
    hoursFromFull: percentPerHour === null || percentPerHour <= 0 ? null : 100 / percentPerHour,
    points: groups.reduce((sum, points) => sum + points.length, 0),
    watts,
    from: measured === null ? 'percent' : 'power',
    joulesPerFrame: watts === null || averagePace === null || averagePace === 0 ? null : watts / averagePace,
  };
}

interface Slope {
  percentPerHour: number;
  range: [number, number] | null;
}

/**
 * Readings of a stretch that show a percent for the first time. Nobody saw when
 * the percent of its first reading began, unless the next reading is lower by
 * two or more: then it fell faster than it was read.
 */
export const newPercents = (stretch: BatteryReading[]): BatteryReading[] =>
  stretch.filter((reading, i) =>
    i === 0
      ? stretch.length > 1 && atLeast(reading.percent - stretch[1]!.percent, 2)
      : reading.percent !== stretch[i - 1]!.percent,
  );

/** A gauge of whole percents is off by so much, whatever the scatter about its line: the standard deviation of what rounding takes. */
export const GAUGE_SD = 0.29;

function slopeOf(groups: BatteryReading[][]): Slope | null {
  const count = groups.reduce((sum, points) => sum + points.length, 0);
  if (count < 3 || !groups.some((points) => points.length > 1)) return null;
  let tt = 0;
  let ty = 0;
  let yy = 0;
  for (const points of groups) {
    const meanT = points.reduce((sum, point) => sum + point.atMs, 0) / points.length;
    const meanY = points.reduce((sum, point) => sum + point.percent, 0) / points.length;
    for (const point of points) {
      const hours = (point.atMs - meanT) / HOUR_MS;
      tt += hours * hours;
      ty += hours * (point.percent - meanY);
      yy += (point.percent - meanY) ** 2;
    }
  }
  if (tt === 0) return null;
  const percentPerHour = -ty / tt;
  const freedom = count - groups.length - 1;
  if (freedom < 1) return { percentPerHour, range: null };
  const scatter = Math.max(GAUGE_SD, Math.sqrt(Math.max(0, yy - (ty * ty) / tt) / freedom));
  const half = (tWidth(freedom) * scatter) / Math.sqrt(tt);
  return { percentPerHour, range: [percentPerHour - half, percentPerHour + half] };
}

/** A slope over a time that is only roughly known. */
function roughly(slope: Slope | null, { least, most }: { least: number; most: number }): Slope | null {
  if (!slope?.range || (least === 1 && most === 1)) return slope;
  return { ...slope, range: [slope.range[0] / most, slope.range[1] / least] };
}

/** Fewer points, or a wider interval, are told as the range that they are. */
const SURE_POINTS = 5;
const SURE_SHARE = 0.2;

/**
 * Hours from full as they may be said: one value, a range where the readings
 * allow no better, or nothing.
 *
 * @returns `low` and `high` alike for one value; `high` null where the battery may not have fallen at all
 * @shown Drain: hours from full
 * @source docs/method.md, "Drain"
 * @example
 * hoursSaid({ percentPerHour: 20, range: [10, 40], hoursFromFull: 5, points: 3, watts: null, from: 'percent', joulesPerFrame: null }); // { low: 2.5, high: 10 }
 */
export function hoursSaid(drain: Drain | null): { low: number; high: number | null } | null {
  if (drain === null || drain.percentPerHour === null || (drain.points ?? SURE_POINTS) < 2) return null;
  const { hoursFromFull, range, points = SURE_POINTS } = drain;
  const wide = range !== null && range[1] - range[0] > SURE_SHARE * ((range[0] + range[1]) / 2);
  if (points >= SURE_POINTS && !wide)
    return hoursFromFull === null ? null : { low: hoursFromFull, high: hoursFromFull };
  if (range === null || range[1] <= 0) return null;
  return { low: 100 / range[1], high: range[0] <= 0 ? null : 100 / range[0] };
}

/** A gauge of whole percents is off by half of one; what was written as "about", by two. */
const doubtOf = ({ about }: BatteryReading): number => (about ? ABOUT : 0.5);
const ABOUT = 2;

/** What fell over the time that it took, each stretch by its own ends, which are whole percents or less sure. */
function overall(stretches: BatteryReading[][]): Slope | null {
  let fell = 0;
  let hours = 0;
  let doubt = 0;
  for (const stretch of stretches) {
    const [first, last] = [stretch[0]!, stretch.at(-1)!];
    if (last.atMs <= first.atMs) continue;
    fell += first.percent - last.percent;
    hours += (last.atMs - first.atMs) / HOUR_MS;
    doubt += doubtOf(first) + doubtOf(last);
  }
  return hours === 0
    ? null
    : { percentPerHour: fell / hours, range: [(fell - doubt) / hours, (fell + doubt) / hours] };
}

/** Mean power over neighbouring samples with no charging at or between them, W. */
function meanPower(power: PowerReading[], battery: BatteryReading[], charging: SpanUs[]): number | null {
  const flags = [...battery].sort((a, b) => a.atMs - b.atMs);
  const times = flags.map((reading) => reading.atMs);
  const flaggedTimes = flags.flatMap((reading) => (reading.charging ? reading.atMs : []));
  const charges = ({ atMs }: PowerReading): boolean =>
    chargesAt(charging, atMs) || (flags[firstAbove(times, atMs) - 1]?.charging ?? false);
  let energy = 0;
  let time = 0;
  for (let i = 1; i < power.length; i++) {
    const [a, b] = [power[i - 1]!, power[i]!];
    const flagged = (flaggedTimes[firstAbove(flaggedTimes, a.atMs)] ?? Infinity) < b.atMs;
    if (flagged || charges(a) || charges(b) || chargesBetween(charging, a.atMs, b.atMs)) continue;
    energy += ((a.mw + b.mw) / 2) * (b.atMs - a.atMs);
    time += b.atMs - a.atMs;
  }
  return time > 0 ? energy / time / 1000 : null;
}
