import type { RateReading, SpeedReading, Summary } from '../figures/readings';
import { atLeast } from '../numbers/threshold';
import { meanEnds, scaled, type Ends } from './ends';
import { hullWritten } from './written';

/** What was read off by counters, or by eye: the two are never mixed. */
export interface ReadKind {
  by: 'read' | 'eye';
  /** Speeds of an emulator among them where no rate was read. */
  rates: RateReading[];
  pages: Summary[];
  speeds: SpeedReading[];
}

/** All that was read, without what is the panel's and what lies in a menu. */
export interface ReadValues {
  rates: RateReading[];
  summaries: Summary[];
  speeds: SpeedReading[];
  /** Native rate of an emulated title. */
  native: number | null;
}

/**
 * What counters say, and what the eye does.
 *
 * Two or more timed speeds of an emulated run count as timed rates where no
 * rate of that kind was read.
 *
 * @source docs/method.md, "Read off, not logged"
 */
export function kindsOf(values: ReadValues): Record<'read' | 'eye', ReadKind> {
  const kind = (by: 'read' | 'eye'): ReadKind => {
    const own = <R extends { by: string }>(readings: R[]): R[] =>
      readings.filter((reading) => (reading.by === 'eye') === (by === 'eye'));
    const rates = own(values.rates);
    const speeds = own(values.speeds);
    const timed = speeds.filter(({ atMs }) => atMs !== null);
    const { native } = values;
    return {
      by,
      rates:
        rates.length === 0 && native !== null && timed.length >= 2
          ? timed.map((speed) => ({ ...speed, fps: null, ends: scaled(speed.ends, native / 100) }))
          : rates,
      pages: own(values.summaries),
      speeds,
    };
  };
  return { read: kind('read'), eye: kind('eye') };
}

/** How long timed rates span, ms; null without one. */
export function spanOf(rates: readonly RateReading[]): number | null {
  const times = rates.flatMap(({ atMs }) => atMs ?? []);
  return times.length === 0 ? null : Math.max(...times) - Math.min(...times);
}

/**
 * The kind that figures come from: the counters with an end page, a speed,
 * timed rates over half the time of the eye's, or an untimed rate where the eye
 * has no timed one; else the eye.
 *
 * @returns null where nothing was read
 * @source docs/method.md, "Read off, not logged"
 */
export function leadingKind({ read, eye }: Record<'read' | 'eye', ReadKind>): ReadKind | null {
  const [spanned, looked] = [spanOf(read.rates), spanOf(eye.rates)];
  const leads =
    read.pages.length > 0 ||
    read.speeds.length > 0 ||
    (spanned !== null && atLeast(spanned, (looked ?? 0) / 2)) ||
    (read.rates.length > 0 && looked === null);
  if (leads) return read;
  return eye.rates.length + eye.pages.length + eye.speeds.length > 0 ? eye : null;
}

/** A rate that has a time. */
export interface TimedRate extends RateReading {
  atMs: number;
}

/** Rates in order of their time; those at one time count once, by the means of their ends. */
export function atTimes(rates: readonly RateReading[]): TimedRate[] {
  const byTime = new Map<number, RateReading[]>();
  for (const rate of rates)
    if (rate.atMs !== null) byTime.set(rate.atMs, [...(byTime.get(rate.atMs) ?? []), rate]);
  return [...byTime]
    .sort(([a], [b]) => a - b)
    .map(([atMs, together]): TimedRate => {
      const [first, ...others] = together as [RateReading, ...RateReading[]];
      if (others.length === 0) return { ...first, atMs };
      return {
        ...first,
        atMs,
        fps: null,
        ends: togetherEnds(together),
        ...(first.written ? { written: hullWritten(together.flatMap(({ written }) => written ?? [])) } : {}),
        scene: others.every(({ scene }) => scene === first.scene) ? first.scene : null,
      };
    });
}

/** The means of their ends; a range only where all of them are. */
function togetherEnds(rates: readonly RateReading[]): Ends {
  const { value, ...ends } = meanEnds(rates.map((rate) => rate.ends))!;
  return value === undefined || rates.every(isRange) ? ends : { ...ends, value };
}

/** Written as two ends, with no value between them. */
export const isRange = ({ ends }: RateReading): boolean =>
  ends.value === undefined && ends.open === undefined;
