import type { Summary } from '../figures/readings';
import { atLeast, below } from '../numbers/threshold';
import { cutAt, hullOf, meanEnds, middleOf, scaled, type Ends } from './ends';
import { atTimes, isRange, type ReadKind, type TimedRate } from './leading';

/** What an average is judged by beside the readings. */
export interface AverageContext {
  /** Length of the run, s. */
  seconds: number;
  /** The highest rate that the panel may have shown, Hz. */
  panelHz: number | null;
  native: number | null;
}

/** Glances that span less than this share of the run say less of the rest of it. */
const SHORT = 1 / 3;
/** So much wider is what one glance, or a short look, says of a run. */
const WIDER = 0.1;

/**
 * The average of what one kind read, as the interval that it is; its value is
 * what it is computed with.
 *
 * Of end pages theirs. Else of two or more timed rates the area under straight
 * lines from each to the next, widened by how much neighbours differ (scatter
 * about a drift, after von Neumann 1941), never past what was read. One rate, or
 * rates that span less than a third of the run, are a tenth wider. Of floors,
 * ceilings and rates without a time the least and the most. Else an emulator's
 * speed times the native rate.
 *
 * @source docs/method.md, "Read off, not logged"; von Neumann (1941), mean square of successive differences
 * @example
 * readAverage({ by: 'read', rates: [], pages: [], speeds: [] }, { seconds: 60, panelHz: null, native: null }); // null
 */
export function readAverage(kind: ReadKind, context: AverageContext): Ends | null {
  const timed = atTimes(kind.rates);
  const paged = ofPages(pagesThatCount(kind.pages, timed.length, context.seconds));
  if (paged !== null) return paged;
  const untimed = kind.rates.filter(({ atMs }) => atMs === null);
  if (timed.length >= 2 && timed.every(({ ends }) => ends.open === undefined)) {
    const spanMs = timed.at(-1)!.atMs - timed[0]!.atMs;
    const curve = underCurve(timed, spanMs);
    return below(spanMs / 1000, context.seconds * SHORT) ? wider(curve, context.panelHz) : curve;
  }
  const counted = timed.length >= 2 ? timed : [...timed, ...untimed];
  const [alone] = counted;
  if (alone && counted.length === 1 && alone.ends.open === undefined)
    return isRange(alone) ? alone.ends : wider(alone.ends, context.panelHz);
  if (counted.length > 0) return hullOf(counted.map(({ ends }) => ends));
  return kind.speeds.length > 0 && context.native !== null
    ? scaled(meanEnds(kind.speeds.map(({ ends }) => ends))!, context.native / 100)
    : null;
}

/** End pages with an average; one of less than half the run gives way to rates that were read on the way. */
const pagesThatCount = (pages: Summary[], timed: number, seconds: number): Summary[] =>
  pages.filter(
    ({ average, minutes }) =>
      average !== null && !(timed >= 2 && minutes !== null && below(minutes * 60, seconds / 2)),
  );

function ofPages(pages: Summary[]): Ends | null {
  const ends = pages.map(({ average }) => average!);
  if (ends.length < 2) return ends[0] ?? null;
  const minutes = pages.reduce<number | null>(
    (sum, page) => (sum === null || page.minutes === null ? null : sum + page.minutes),
    0,
  );
  if (minutes === null || minutes === 0) return hullOf(ends);
  const weighted = (of: (one: Ends) => number): number =>
    ends.reduce((sum, one, i) => sum + (of(one) * pages[i]!.minutes!) / minutes, 0);
  return {
    low: weighted(({ low }) => low),
    high: ends.some(({ high }) => high === null) ? null : weighted(({ high }) => high!),
    value: weighted((one) => middleOf(one)!),
  };
}

/** Mean of straight lines from each to the next, for both ends and the middles. */
function underCurve(rates: readonly TimedRate[], spanMs: number): Ends {
  const steps = rates.slice(1).map((next, i) => ({ before: rates[i]!, next }));
  const mean = (of: (rate: TimedRate) => number): number =>
    steps.reduce(
      (sum, { before, next }) => sum + ((next.atMs - before.atMs) / spanMs) * ((of(before) + of(next)) / 2),
      0,
    );
  const middle = ({ ends }: TimedRate): number => middleOf(ends)!;
  const doubt = Math.sqrt(
    steps.reduce(
      (sum, { before, next }) =>
        sum + (((next.atMs - before.atMs) / spanMs) * (middle(next) - middle(before))) ** 2 / 2,
      0,
    ),
  );
  const hull = hullOf(rates.map(({ ends }) => ends))!;
  return {
    low: Math.max(hull.low, mean(({ ends }) => ends.low) - doubt),
    high: Math.min(hull.high!, mean(({ ends }) => ends.high!) + doubt),
    value: mean(middle),
  };
}

/** A tenth of the middle more on both sides, as far as the panel goes. */
function wider(ends: Ends, panelHz: number | null): Ends {
  const value = middleOf(ends)!;
  const by = WIDER * value;
  return {
    low: Math.max(0, ends.low - by),
    high: cutAt(ends.high! + by, panelHz, ends.high!),
    value,
  };
}

/** Whether so many rates were read that every split has one. */
export const inEverySplit = (rates: readonly { atMs: number | null }[], ends: readonly number[]): boolean =>
  ends.every((toS, i) => {
    const fromMs = (ends[i - 1] ?? 0) * 1000;
    const last = i === ends.length - 1;
    return rates.some(({ atMs }) => atMs !== null && atLeast(atMs, fromMs) && (last || atMs < toS * 1000));
  });
