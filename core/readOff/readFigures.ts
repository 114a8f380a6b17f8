import type { PaceFigures } from '../figures/pace';
import type { Emulation } from '../figures/playable';
import type { FeelReading, RateReading, SmoothReading, SpeedReading, Summary } from '../figures/readings';
import { above } from '../numbers/threshold';
import {
  FEEL_WORDS,
  SMOOTH_WORDS,
  type EndReason,
  type Feel,
  type RateSource,
  type SmoothWord,
  type StaminaVerdict,
} from '../vocabulary';
import { meanEnds, middleOf, scaled, type Ends } from './ends';
import { kindsOf, leadingKind, type ReadKind, type ReadValues } from './leading';
import { readAverage, type AverageContext } from './readAverage';
import { readLasting, type ReadLasting } from './readLasting';
import { saidOf, type ReadSaid } from './readSaid';
import { readFullSpeed } from './readSpeed';

/** All that was read off in a run, with its doubt. Figures come from one kind, counters or the eye. */
export interface ReadFigures extends ReadLasting {
  /** The kind that they come from; null where no rate, page or speed was read. */
  leads: 'read' | 'eye' | null;
  /** Mean pace, frames per second. */
  average: Ends | null;
  /** The least and the most that were read; an end that nobody wrote is null. */
  seen: { low: number | null; high: number | null } | null;
  median: Ends | null;
  hold: Ends | null;
  onePercentLow: Ends | null;
  lowest: Ends | null;
  highest: Ends | null;
  word: StaminaVerdict | null;
  /** Speed of an emulator as a share of the original's. */
  speed: Ends | null;
  fullSpeed: boolean | null;
  /** The worst that was said of how it stumbles. */
  smooth: SmoothWord | null;
  /** How it plays, as the player says: the worst and the best. */
  feel: Feel | null;
  /** What it was read off. */
  from: RateSource[];
  /** What was written, for words. */
  said: ReadSaid | null;
  /** The same of the kind that does not lead. */
  beside: { by: 'read' | 'eye'; said: ReadSaid } | null;
}

/** What there is to go by. */
export interface ReadEvidence {
  /** Those that are not the panel's, and lie in no menu. */
  rates: RateReading[];
  summaries: Summary[];
  speeds: SpeedReading[];
  smooth: SmoothReading[];
  feel: FeelReading[];
  seconds: number;
  panelHz: number | null;
  target: number | null;
  native: number | null;
  end: EndReason | null;
}

/**
 * What the readings of a run say, each as the interval that it is.
 *
 * @returns null where nothing was read off
 * @shown Pace, Stamina and speed of a run without frames
 * @source docs/method.md, "Read off, not logged"
 */
export function readFigures(evidence: ReadEvidence): ReadFigures | null {
  const { rates, summaries, speeds, smooth, feel, native, seconds, end } = evidence;
  const from = [...new Set([...rates, ...summaries, ...speeds].map((reading) => reading.by))];
  if (from.length === 0 && smooth.length === 0 && feel.length === 0) return null;
  const kinds = kindsOf(evidence);
  const kind = leadingKind(kinds);
  const average = kind && readAverage(kind, evidence);
  const first = (fact: 'median' | 'hold' | 'onePercent' | 'lowest' | 'highest'): Ends | null =>
    kind?.pages.find((page) => page[fact] !== null)?.[fact] ?? null;
  const speed = kind && speedOf(kind, average, native);
  const other = kind && (kind.by === 'read' ? kinds.eye : kinds.read);
  const beside = other && saidOf(other, seconds);
  return {
    leads: kind?.by ?? null,
    average,
    seen: kind && seenOf(kind),
    median: first('median'),
    hold: first('hold'),
    onePercentLow: first('onePercent'),
    lowest: first('lowest'),
    highest: first('highest'),
    ...readLasting(kind?.rates ?? [], evidence),
    ...(end === 'would-not-start' ? { word: 'DNS' } : end === 'crash' ? { word: 'DNF' } : {}),
    speed,
    fullSpeed: kind && readFullSpeed(speed, kind.speeds),
    smooth: ofWorst(smooth, SMOOTH_WORDS),
    feel: feltAs(feel),
    from,
    said: kind && saidOf(kind, seconds),
    beside: beside && { by: other.by, said: beside },
  };
}

function speedOf({ speeds }: ReadKind, average: Ends | null, native: number | null): Ends | null {
  if (speeds.length > 0) return scaled(meanEnds(speeds.map(({ ends }) => ends))!, 0.01);
  return average === null || native === null ? null : scaled(average, 1 / native);
}

/** The hull over what was read and over what end pages call lowest and highest. */
function seenOf({ rates, pages }: ReadKind): { low: number | null; high: number | null } {
  const ends = rates.map((rate) => rate.ends);
  const least = (values: number[], open: Ends['open'], of: (...values: number[]) => number): number | null =>
    values.length === 0 || ends.some((one) => one.open === open) ? null : of(...values);
  return {
    low: least(
      [...rates.map((rate) => rate.ends.low), ...pages.flatMap(({ lowest }) => lowest?.low ?? [])],
      'low',
      Math.min,
    ),
    high: least(
      [
        ...rates.flatMap((rate) => rate.ends.high ?? []),
        ...pages.flatMap(({ highest }) => highest?.high ?? []),
      ],
      'high',
      Math.max,
    ),
  };
}

/** The worst of what was said, by words that begin with the best. */
function ofWorst<W extends string>(said: readonly { word: W }[], words: readonly W[]): W | null {
  return words.findLast((word) => said.some((one) => one.word === word)) ?? null;
}

function feltAs(feel: readonly FeelReading[]): Feel | null {
  const worst = ofWorst(feel, FEEL_WORDS);
  const best = FEEL_WORDS.find((word) => feel.some((one) => one.word === word)) ?? null;
  return worst === null || best === null || worst === best ? worst : `${worst} or ${best}`;
}

/**
 * Pace of a run without frames, by what was read off.
 *
 * @shown Pace, with its ends and what it was read off
 * @source docs/method.md, "Read off, not logged"
 */
export function readPace(read: ReadFigures | null): PaceFigures {
  return {
    source: read?.leads ?? null,
    average: middleOf(read?.average ?? null),
    interval: read?.average ?? null,
    seen: read?.seen ?? null,
    median: middleOf(read?.median ?? null),
    hold: middleOf(read?.hold ?? null),
    slow: null,
    swings: false,
  };
}

/** Speed of an emulator without frames: what was read of it. */
export const readEmulation = (read: ReadFigures | null): Emulation | null =>
  read?.speed ? { speed: middleOf(read.speed), fullSpeed: read.fullSpeed } : null;

/** What was read in a stretch of a run, as of a run of its own. */
export interface ReadStretch {
  leads: 'read' | 'eye';
  average: Ends | null;
  said: ReadSaid | null;
  /** Values that it rests on. */
  readings: number;
}

/**
 * What was read in a stretch: its average as an interval, and what was written.
 *
 * @param values of the stretch alone
 * @returns null where nothing was read
 * @source docs/method.md, "Read off, not logged": as for a run of its own
 */
export function readStretch(values: ReadValues, context: AverageContext): ReadStretch | null {
  const kind = leadingKind(kindsOf(values));
  return (
    kind && {
      leads: kind.by,
      average: readAverage(kind, context),
      said: saidOf(kind, context.seconds),
      readings: kind.rates.length + kind.pages.length,
    }
  );
}

/** Rates whose ends both lie above a line. */
export const allAbove = (rates: readonly RateReading[], line: number): boolean =>
  rates.some(({ ends }) => above(ends.low, line) && (ends.high === null || above(ends.high, line)));
