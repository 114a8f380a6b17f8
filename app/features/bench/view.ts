import type { Recording } from '@pace-check/contract';
import {
  CAUTION_C,
  decimalsOf,
  nextReading,
  siftSkin,
  STOP_C,
  CONDITION_SPANS,
  warmStretches,
  warmthOf,
  type EntryLine,
  type LiveFigures,
  type ReadingDue,
  type SpotWarmth,
  LEAST_SKIN_C,
  MOST_SKIN_C,
} from '@pace-check/core';

type Of<T extends EntryLine['type']> = Extract<EntryLine, { type: T }>;
const ofType = <T extends EntryLine['type']>(lines: EntryLine[], type: T): Of<T>[] =>
  lines.filter((line): line is Of<T> => line.type === type);

/** What a tired reviewer must not miss, the gravest first. */
export interface Warning {
  grave: boolean;
  what: 'stop' | 'caution' | 'crash-noted' | 'floor' | 'planned-end' | 'source-ended';
  /** Temperature, percent or time that it is about. */
  value: number;
  spot?: string;
}

export interface LatestSkin {
  spot: string;
  c: number;
  atMs: number;
  by: string;
}

/** What a spot's curve foretells; null where METHOD allows no forecast. */
export interface Forecast {
  spot: string;
  finalC: number;
  finalHalfC: number;
  settlesInS: number;
  /** When the line of caution is reached, s on the run's clock; null where it is not. */
  cautionAtS: number | null;
}

export interface BenchView {
  skin: LatestSkin[];
  percent: Of<'battery'> | null;
  watts: Of<'power'> | null;
  rate: Of<'rate'> | null;
  forecasts: Forecast[];
  due: ReadingDue | null;
  warnings: Warning[];
}

/** A warm-up has settled after three time constants. */
const SETTLED_TAUS = 3;
/** The spot that stands for the battery in a round. */
export const PERCENT = 'battery percent';

/** What the lines of a run tell, whatever the time. */
export interface Told extends Pick<BenchView, 'skin' | 'percent' | 'watts' | 'rate'> {
  /** With their curves: to fit them takes its time. */
  spots: SpotWarmth[];
  /** What was read, and when. */
  readings: { spot: string; atMs: number }[];
  crashMs: number | null;
}

/** A split below this share of the opening has slowed down: the same line as in “Stamina”. */
const SLOWED = 0.95;

/** When the pace went down for good so far, by whole splits; null where it did not. */
export function slowsAtS({ splits, opening }: LiveFigures): number | null {
  if (opening === null) return null;
  const slow = (average: number | null): boolean => average !== null && average <= SLOWED * opening;
  // the last split is still going on
  const first = splits.findLastIndex((split) => !slow(split.average)) + 1;
  return first > 0 && first < splits.length ? splits[first]!.fromS : null;
}

/**
 * Reads the lines of a run.
 *
 * @param slowsS when its pace went down: from then on it warms towards another temperature
 */
export function tellOf(lines: EntryLine[], roomC: number | null, slowsS: number | null = null): Told {
  const skin = ofType(lines, 'skin');
  const battery = ofType(lines, 'battery');
  return {
    skin: latestBySpot(skin),
    percent: battery.at(-1) ?? null,
    watts: ofType(lines, 'power').at(-1) ?? null,
    rate: ofType(lines, 'rate').at(-1) ?? null,
    spots: warmthOf(siftSkin(skin).kept, roomC, stretchesOf(lines, slowsS)).spots,
    readings: [...skin, ...battery.map(({ atMs }) => ({ spot: PERCENT, atMs }))],
    crashMs: ofType(lines, 'mark').findLast((mark) => mark.kind === 'crash')?.atMs ?? null,
  };
}

const stretchesOf = (lines: EntryLine[], onsetS: number | null): ReturnType<typeof warmStretches> => {
  const spans = ofType(lines, 'span').map(({ kind, fromMs, toMs }) => ({
    kind,
    fromUs: fromMs * 1000,
    toUs: toMs * 1000,
  }));
  return warmStretches({
    onsetS,
    conditions: spans.filter((span) => CONDITION_SPANS.includes(span.kind)),
    charging: spans.filter((span) => span.kind === 'charging'),
    titles: ofType(lines, 'title').map(({ atMs, title }) => ({ atS: atMs / 1000, name: title })),
  });
};

/**
 * What the lines of a run say at a moment.
 *
 * @param nowMs on the run's clock
 */
export function benchView(recording: Recording, told: Told, nowMs: number): BenchView {
  const { skin, percent, watts, rate, spots, readings, crashMs } = told;
  const { plan, status } = recording;
  return {
    skin,
    percent,
    watts,
    rate,
    forecasts: spots.flatMap((spot) => forecastOf(spot, nowMs / 1000)),
    due:
      plan.everyMin === null || status === 'ended'
        ? null
        : nextReading(roundOf(recording), readings, plan.everyMin * 60_000, nowMs),
    warnings: warningsOf(recording, skin, percent, crashMs, nowMs),
  };
}

/** Spots in their order, and the battery where nothing else tells its percent. */
export function roundOf({ plan, sources }: Recording): string[] {
  return plan.spots.length === 0
    ? []
    : [
        ...plan.spots,
        ...(sources.some((source) => source.kind === 'handset' && !source.revoked) ? [] : [PERCENT]),
      ];
}

function latestBySpot(readings: Of<'skin'>[]): LatestSkin[] {
  const latest = new Map<string, LatestSkin>();
  // what no skin can be warns of nothing; a sudden jump does, to be on the safe side
  for (const { spot, c, atMs, by } of readings)
    if (c > LEAST_SKIN_C && c < MOST_SKIN_C) latest.set(spot, { spot, c, atMs, by });
  return [...latest.values()].sort((a, b) => b.c - a.c);
}

function forecastOf({ spot, fit }: SpotWarmth, nowS: number): Forecast[] {
  if (!fit?.forecast) return [];
  return [
    {
      spot,
      finalC: fit.finalC,
      finalHalfC: fit.finalHalfC,
      // since the last switch
      settlesInS: Math.max(0, SETTLED_TAUS * fit.tauS - (nowS - fit.levels.at(-1)!.fromS)),
      cautionAtS: fit.cautionAtS,
    },
  ];
}

function warningsOf(
  { plan, status, sources, end }: Recording,
  skin: LatestSkin[],
  percent: Of<'battery'> | null,
  crashMs: number | null,
  nowMs: number,
): Warning[] {
  const warnings: Warning[] = [];
  const hottest = skin[0];
  if (hottest && hottest.c >= STOP_C)
    warnings.push({ grave: true, what: 'stop', value: hottest.c, spot: hottest.spot });
  else if (hottest && hottest.c >= CAUTION_C)
    warnings.push({ grave: false, what: 'caution', value: hottest.c, spot: hottest.spot });
  if (status !== 'running' || end) return warnings;
  const ended = sources.find((source) => source.ended !== null && source.kind === 'handset');
  if (crashMs !== null) warnings.push({ grave: false, what: 'crash-noted', value: crashMs });
  else if (ended)
    warnings.push({
      grave: false,
      what: 'source-ended',
      value: nowMs,
      spot: `${ended.name}: ${ended.ended}`,
    });
  if (plan.floorPercent !== null && percent && percent.percent <= plan.floorPercent)
    warnings.push({ grave: false, what: 'floor', value: percent.percent });
  if (plan.minutes !== null && nowMs >= plan.minutes * 60_000)
    warnings.push({ grave: false, what: 'planned-end', value: plan.minutes });
  return warnings;
}

/** The split that is going on beside the one before it and the opening. */
export interface SplitNow {
  number: number;
  average: number | null;
  before: number | null;
  opening: number | null;
}

export function splitNow({ splits, opening }: LiveFigures): SplitNow | null {
  const now = splits.at(-1);
  return now
    ? { number: splits.length, average: now.average, before: splits.at(-2)?.average ?? null, opening }
    : null;
}

/** Pace of the last whole second that has one. */
export const paceNow = ({ recent }: LiveFigures): number | null =>
  recent.findLast((pace) => pace !== null) ?? null;

export type Measured = 'skin' | 'percent' | 'rate' | 'eye' | 'speed' | 'watts';
/** What may be a range. */
export const RANGED: readonly Measured[] = ['rate', 'eye', 'speed'];

/** A value or a range as it was tapped, with the decimals that it was tapped with. */
export interface Tapped {
  value?: number;
  low?: number;
  high?: number;
  /** Decimals that the number does not show. */
  decimals?: number;
}

/**
 * A value or a range as it was tapped: "58", "58.0", "50–55".
 *
 * @returns null where it is none, or none that can be
 */
export function tapped(text: string, measured: Measured, unit: 'C' | 'F'): Tapped | null {
  const ends = RANGED.includes(measured) ? text.split('–') : [text];
  const [first, second] = ends.map((end) => numberOf(end, measured, unit));
  if (first === undefined || first === null || ends.length > 2) return null;
  if (ends.length === 2)
    return second === undefined || second === null || second < first ? null : { low: first, high: second };
  const decimals = decimalsOf(text.replace(',', '.'));
  return decimals === decimalsOf(String(Number(text.replace(',', '.')))) || measured === 'skin'
    ? { value: first }
    : { value: first, decimals };
}

/**
 * A number as it was tapped. Three digits without a point are tenths where
 * whole degrees make no sense: "412" is 41.2 °C, "1061" is 106.1 °F.
 *
 * @returns °C for a temperature; null where it is none, or none that can be
 */
export function numberOf(text: string, measured: Measured, unit: 'C' | 'F'): number | null {
  if (!/^\d+([.,]\d*)?$/.test(text)) return null;
  const value = Number(text.replace(',', '.'));
  if (measured === 'percent') return value <= 100 ? value : null;
  if (measured === 'watts') return value <= 500 ? value : null;
  if (measured !== 'skin') return value <= 1000 ? value : null;
  const degrees = /^\d+$/.test(text) && value > (unit === 'C' ? 120 : 250) ? value / 10 : value;
  const celsius = unit === 'F' ? (degrees - 32) / 1.8 : degrees;
  return celsius <= 120 ? celsius : null;
}
