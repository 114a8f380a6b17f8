import type { PaceFigures } from '../figures/pace';
import type { Emulation } from '../figures/playable';
import type { RateReading, SmoothReading, SpeedReading, Summary } from '../figures/readings';
import { SUSTAINED_S } from '../figures/splits';
import { retentionWord } from '../figures/stamina';
import { atLeast, below } from '../numbers/threshold';
import {
  SMOOTH_WORDS,
  STAMINA_WORDS,
  type EndReason,
  type RateSource,
  type SmoothWord,
  type StaminaVerdict,
} from '../vocabulary';
import { halfDigit, meanEnds, middleOf, scaled, type Ends } from './ends';

/** All that was read off in a run, with its doubt. */
export interface ReadFigures {
  /** Mean pace, frames per second: of end pages where there are any, else of all rates. */
  average: Ends | null;
  median: Ends | null;
  hold: Ends | null;
  onePercentLow: Ends | null;
  lowest: number | null;
  highest: number | null;
  opening: Ends | null;
  closing: Ends | null;
  retention: Ends | null;
  word: StaminaVerdict | null;
  /** Speed of an emulator as a share of the original's. */
  speed: Ends | null;
  /** The worst that was said of how it stumbles. */
  smooth: SmoothWord | null;
  /** What it was read off. */
  from: RateSource[];
}

/** What there is to go by. */
export interface ReadEvidence {
  /** Those that are not the panel's. */
  rates: RateReading[];
  summaries: Summary[];
  speeds: SpeedReading[];
  smooth: SmoothReading[];
  seconds: number;
  native: number | null;
  end: EndReason | null;
}

const OPENING_MS = 300_000;

/**
 * What the readings of a run say, each as the interval that it is.
 *
 * @returns null where nothing was read off
 * @shown Pace, Stamina and speed of a run without frames
 * @source docs/method.md, "Read off, not logged"
 */
export function readFigures(evidence: ReadEvidence): ReadFigures | null {
  const { rates, summaries, speeds, smooth, native } = evidence;
  const from = [...new Set([...rates, ...summaries, ...speeds].map((reading) => reading.by))];
  if (from.length === 0 && smooth.length === 0) return null;
  const pages = summaries.flatMap((summary) => summary.average ?? []);
  const average = meanEnds(pages.length > 0 ? pages : rates.map((rate) => rate.ends));
  const first = <K extends 'median' | 'hold' | 'onePercent' | 'lowest' | 'highest'>(
    fact: K,
  ): NonNullable<Summary[K]> | null => summaries.find((summary) => summary[fact] !== null)?.[fact] ?? null;
  return {
    average,
    median: first('median'),
    hold: first('hold'),
    onePercentLow: first('onePercent'),
    lowest: first('lowest'),
    highest: first('highest'),
    ...lasting(evidence),
    speed:
      speeds.length > 0
        ? scaled(meanEnds(speeds.map((speed) => speed.ends))!, 0.01)
        : average === null || native === null
          ? null
          : scaled(average, 1 / native),
    smooth: worst(smooth.map((said) => said.word)),
    from,
  };
}

/** Opening, closing and what is left, by the rates that have a time. */
function lasting({
  rates,
  seconds,
  end,
}: ReadEvidence): Pick<ReadFigures, 'opening' | 'closing' | 'retention' | 'word'> {
  const timed = (fromMs: number, within: (atMs: number) => boolean): Ends | null =>
    widened(rates.filter((rate) => rate.atMs !== null && rate.atMs >= fromMs && within(rate.atMs)));
  const endMs = seconds * 1000;
  const opening = timed(0, (atMs) => atMs < OPENING_MS);
  const closing = atLeast(seconds, SUSTAINED_S)
    ? timed(endMs - OPENING_MS - SLACK_MS, (atMs) => atMs <= endMs + SLACK_MS)
    : null;
  const retention = opening && closing ? quotient(closing, opening) : null;
  return { opening, closing, retention, word: wordBetween(retention, end) };
}

/** What rounding may do to a time, ms. */
const SLACK_MS = 1e-6;

/** The mean of the ends, and the standard error of the middles more on both sides. */
function widened(rates: RateReading[]): Ends | null {
  const ends = meanEnds(rates.map((rate) => rate.ends));
  const middles = rates.flatMap((rate) => middleOf(rate.ends) ?? []);
  if (ends === null || middles.length < 2) return ends;
  const mean = middles.reduce((sum, value) => sum + value, 0) / middles.length;
  const squares = middles.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  const error = Math.sqrt(squares / (middles.length - 1) / middles.length);
  return { low: Math.max(0, ends.low - error), high: ends.high === null ? null : ends.high + error };
}

/** The least and the most that one interval over another can be. */
function quotient(above: Ends, under: Ends): Ends {
  return {
    low: under.high === null || under.high === 0 ? 0 : above.low / under.high,
    high: above.high === null || under.low === 0 ? null : above.high / under.low,
  };
}

/** The words that an interval of retention meets: one, or two neighbours, the better first. */
function wordBetween(retention: Ends | null, end: EndReason | null): StaminaVerdict | null {
  if (end === 'would-not-start') return 'DNS';
  if (end === 'crash') return 'DNF';
  if (retention === null) return null;
  const best = retentionWord(retention.high ?? Infinity);
  const least = retentionWord(retention.low);
  if (best === least) return best;
  const apart = STAMINA_WORDS.indexOf(least) - STAMINA_WORDS.indexOf(best);
  return apart === 1 ? `${best} or ${least}` : null;
}

const worst = (words: SmoothWord[]): SmoothWord | null =>
  words.reduce<SmoothWord | null>(
    (found, word) =>
      found === null || SMOOTH_WORDS.indexOf(word) > SMOOTH_WORDS.indexOf(found) ? word : found,
    null,
  );

/**
 * Pace of a run without frames, by what was read off.
 *
 * @shown Pace, with its ends and what it was read off
 * @source docs/method.md, "Read off, not logged"
 */
export function readPace(read: ReadFigures | null): PaceFigures {
  return {
    source: read === null || read.from.length === 0 ? null : read.from.includes('eye') ? 'eye' : 'read',
    average: middleOf(read?.average ?? null),
    interval: read?.average ?? null,
    median: middleOf(read?.median ?? null),
    hold: middleOf(read?.hold ?? null),
    slow: null,
  };
}

/** A counter of whole percents that shows 99 may stand for 98.5. */
const FULL_MIDDLE = 0.99;
const FULL_LOW = 0.98;

/**
 * Whether what was read of an emulator's speed is full speed: true or false
 * where the interval settles it, else null.
 *
 * @source docs/method.md, "Read off, not logged"
 * @example
 * readSpeed({ low: 0.985, high: 0.995 }); // { speed: 0.99, fullSpeed: true }
 */
export function readSpeed(ends: Ends | null): Emulation | null {
  if (ends === null) return null;
  const speed = middleOf(ends);
  if (speed !== null && atLeast(speed, FULL_MIDDLE) && atLeast(ends.low, FULL_LOW))
    return { speed, fullSpeed: true };
  return { speed, fullSpeed: ends.high !== null && below(ends.high, FULL_MIDDLE) ? false : null };
}

/** The ends of a fact of an end page, by the digits that were written. */
export const factEnds = (value: number, decimals?: number): Ends => {
  const half = halfDigit(value, decimals);
  return { low: Math.max(0, value - half), high: value + half, value };
};
