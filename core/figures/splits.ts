import type { Break } from './breaks';
import { lows, sortedFrames } from './lows';
import { averagePace, onTarget, steadiness } from './pace';
import { meanEnds, middleOf, type Ends } from '../readOff/ends';
import {
  meanWatts,
  percentUsed,
  type BatteryReading,
  type PowerReading,
  type RateReading,
  type SpotSeries,
} from './readings';
import { firstAtLeast, type Session } from './session';
import { LONGEST_RUN_S } from '../limits';
import { greatest } from '../numbers/thin';
import { atLeast, below } from '../numbers/threshold';
import type { SplitMinutes } from '../vocabulary';

/** One row of the split table. */
export interface Split {
  fromS: number;
  toS: number;
  /** Frames per second; of what was read off the middle. */
  average: number | null;
  /** Ends of a pace that was read off; null where frames were logged. */
  interval: Ends | null;
  /** Median of the split's seconds, frames per second. */
  median: number | null;
  /** 1 % low by quantile, frames per second. */
  onePercentLow: number | null;
  /** Share of seconds near the split's own median. */
  hold: number | null;
  /** Share of seconds at 95 % of the target or more. */
  onTarget: number | null;
  stutters: number;
  stalls: number;
  freezes: number;
  /** Hottest reading per spot, °C. */
  hottestC: Record<string, number>;
  percentUsed: number | null;
  watts: number | null;
}

/** From this length a run counts as sustained: a quarter of an hour, less what a logger clips. */
export const SUSTAINED_S = 895;

/** Five minutes, or one where the run is too short to be sustained. */
export const defaultSplitMinutes = (runS: number): SplitMinutes => (atLeast(runS, SUSTAINED_S) ? 5 : 1);

/**
 * Ends of the splits of a run.
 *
 * A last window shorter than a fifth of one joins the one before; the last
 * split ends where the run does.
 *
 * @param runS length of the run in seconds
 * @returns ends in seconds, ascending; empty for a run of no length
 * @source docs/method.md, "Splits"
 * @example
 * splitEnds(610, 5); // [300, 610]
 */
export function splitEnds(runS: number, minutes: SplitMinutes): number[] {
  const window = minutes * 60;
  const ends: number[] = [];
  for (let end = window; end < runS; end += window) ends.push(end);
  const last = runS - (ends.at(-1) ?? 0);
  if (ends.length > 0 && below(last, window / 5)) ends.pop();
  if (runS > 0) ends.push(runS);
  return ends;
}

/** What the split table draws on beside the frames. */
export interface SplitInputs {
  minutes: SplitMinutes;
  target: number | null;
  breaks: Break[];
  spots: SpotSeries[];
  /** Stretches of discharge. */
  stretches: BatteryReading[][];
  power: PowerReading[];
  /** Energy of the full battery, Wh. */
  batteryWh: number | null;
}

/**
 * The split table of a run.
 *
 * A frame belongs to the split in which it starts, a second and a break too.
 * Watts come from power samples in the split; where there are none, from the
 * percent used and the battery's energy.
 *
 * @param session prepared frames
 * @param pace per-second pace of the same session
 * @shown Splits
 * @source docs/method.md, "Splits"
 * @example
 * // 400 s at 50 frames per second, in splits of five minutes
 * const session = prepareSession({ frameUs: new Int32Array(20_000).fill(20_000), gaps: [] });
 * splitTable(session, perSecondPace(session), { minutes: 5, target: 60, breaks: [], spots: [], stretches: [], power: [], batteryWh: null })[1].toS; // 400
 */
export function splitTable(session: Session, pace: Float64Array, inputs: SplitInputs): Split[] {
  const runS = session.endUs / 1e6;
  let fromS = 0;
  return splitEnds(runS, inputs.minutes).map((toS, index, ends) => {
    const lastSplit = index === ends.length - 1;
    const split = oneSplit(session, pace, inputs, fromS, toS, lastSplit);
    fromS = toS;
    return split;
  });
}

function oneSplit(
  session: Session,
  pace: Float64Array,
  inputs: SplitInputs,
  fromS: number,
  toS: number,
  lastSplit: boolean,
): Split {
  const fromUs = fromS * 1e6;
  const toUs = lastSplit ? Infinity : toS * 1e6;
  const frames = session.leftUs.subarray(
    firstAtLeast(session.leftStartsUs, fromUs),
    firstAtLeast(session.leftStartsUs, toUs),
  );
  const seconds = pace.subarray(fromS, lastSplit ? pace.length : toS);
  const steady = steadiness(seconds);
  const breaks = inputs.breaks.slice(firstFrom(inputs.breaks, fromUs), firstFrom(inputs.breaks, toUs));
  return {
    fromS,
    toS,
    interval: null,
    average: averagePace(frames.length, total(frames)),
    onePercentLow: lows(sortedFrames(frames), 100).quantile,
    median: steady.median,
    hold: steady.hold,
    onTarget: onTarget(seconds, inputs.target),
    stutters: breaks.filter((found) => found.kind === 'stutter').length,
    stalls: breaks.filter((found) => found.kind === 'stall').length,
    freezes: breaks.filter((found) => found.kind === 'freeze').length,
    ...besideFrames(inputs, fromS, toS, lastSplit),
  };
}

/**
 * The split table of a run without frames: the mean ends of the rates that were
 * read in each, and all that was read beside them.
 *
 * @param seconds length of the run
 * @param rates those that are not the panel's; only those with a time are in a split
 * @returns nothing where no split has anything to say
 * @shown Splits of a run that was read off
 * @source docs/method.md, "Read off, not logged"
 */
export function readSplitTable(seconds: number, rates: RateReading[], inputs: SplitInputs): Split[] {
  let fromS = 0;
  const says = (split: Split): boolean =>
    split.interval !== null ||
    Object.keys(split.hottestC).length > 0 ||
    split.percentUsed !== null ||
    split.watts !== null;
  // what was stored before times were bounded may say anything
  const table = splitEnds(Math.min(LONGEST_RUN_S, seconds), inputs.minutes).map((toS, index, ends) => {
    const lastSplit = index === ends.length - 1;
    const split = readSplit(rates, inputs, fromS, toS, lastSplit);
    fromS = toS;
    return split;
  });
  return table.some(says) ? table : [];
}

function readSplit(
  rates: RateReading[],
  inputs: SplitInputs,
  fromS: number,
  toS: number,
  lastSplit: boolean,
): Split {
  const inside = rates.filter(
    ({ atMs }) => atMs !== null && atMs >= fromS * 1000 && (lastSplit || atMs < toS * 1000),
  );
  const interval = meanEnds(inside.map((rate) => rate.ends));
  return {
    fromS,
    toS,
    interval,
    average: middleOf(interval),
    median: null,
    onePercentLow: null,
    hold: null,
    onTarget: null,
    stutters: 0,
    stalls: 0,
    freezes: 0,
    ...besideFrames(inputs, fromS, toS, lastSplit),
  };
}

/** Warmth and drain of a split. */
function besideFrames(
  inputs: SplitInputs,
  fromS: number,
  toS: number,
  lastSplit: boolean,
): Pick<Split, 'hottestC' | 'percentUsed' | 'watts'> {
  const used = percentUsed(inputs.stretches, fromS * 1000, toS * 1000);
  const hours = (toS - fromS) / 3600;
  return {
    hottestC: hottest(inputs.spots, fromS * 1000, lastSplit ? Infinity : toS * 1000),
    percentUsed: used,
    watts:
      meanWatts(inputs.power, fromS * 1000, toS * 1000) ??
      (used === null || inputs.batteryWh === null ? null : (inputs.batteryWh * used) / 100 / hours),
  };
}

/** Index of the first break that starts at a time or later; they are in order. */
function firstFrom(breaks: Break[], fromUs: number): number {
  let low = 0;
  let high = breaks.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (breaks[middle]!.atUs < fromUs) low = middle + 1;
    else high = middle;
  }
  return low;
}

function hottest(spots: SpotSeries[], fromMs: number, toMs: number): Record<string, number> {
  const peaks: Record<string, number> = {};
  for (const { spot, readings } of spots) {
    // a peak at a time that nobody noted is of no split
    const inside = readings
      .filter((reading) => !reading.peak && reading.atMs >= fromMs && reading.atMs < toMs)
      .map((reading) => reading.c);
    if (inside.length > 0) peaks[spot] = greatest(inside);
  }
  return peaks;
}

function total(values: Int32Array): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i]!;
  return sum;
}
