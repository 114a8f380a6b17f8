import { findBreaks, type Break } from './breaks';
import { evenness, type Evenness } from './evenness';
import type { FrameTrack } from './frames/track';
import { lows, sortedFrames, type Low } from './lows';
import { METHOD_VERSION } from './methodVersion';
import { averagePace, onTarget, perSecondPace, steadiness } from './pace';
import { spotSeries, type BatteryReading, type PowerReading, type RateReading, type SkinReading, type SpotSeries } from './readings';
import { prepareSession, type SpanUs } from './session';
import { defaultSplitMinutes, splitTable, type Split, type SplitMinutes } from './splits';

/** How a run came to its end; null where nothing says so. */
export type EndReason = 'planned' | 'crash' | 'stopped' | 'would-not-start';

/** A run as the analysis needs it; everything on the run's clock. */
export interface RunInput {
  track: FrameTrack;
  /** Rows of the log that were dropped. */
  droppedRows: number;
  excluded: SpanUs[];
  charging: SpanUs[];
  skin: SkinReading[];
  battery: BatteryReading[];
  power: PowerReading[];
  rates: RateReading[];
  /** Frames per second that the run should reach. */
  target: number | null;
  batteryWh: number | null;
  end: { atMs: number; reason: EndReason } | null;
  /** Time of the last line of the run file, for a run without frames. */
  lastLineMs: number;
  /** Length of a split that the reviewer chose; null for the usual. */
  splitMinutes: SplitMinutes | null;
}

export interface PaceFigures {
  /** Whether frames were logged, or rates read off a counter or by eye. */
  source: 'frames' | 'read' | 'eye' | null;
  average: number | null;
  median: number | null;
  hold: number | null;
  slow: number | null;
  /** Share of seconds at 95 % of the target or more. */
  onTarget: number | null;
}

/** Everything that is computed for a run, in SI units. */
export interface Figures {
  methodVersion: number;
  frames: { count: number; seconds: number; dropped: number };
  pace: PaceFigures;
  lows: { onePercent: Low; tenthPercent: Low };
  evenness: Evenness;
  breaks: Break[];
  splitMinutes: SplitMinutes;
  splits: Split[];
  spots: SpotSeries[];
  battery: BatteryReading[];
  end: { atMs: number; reason: EndReason } | null;
}

/** The figures and the per-second pace that they rest on. */
export interface Analysis {
  figures: Figures;
  /** NaN where a second is void. */
  perSecond: Float64Array;
}

/**
 * Computes every figure of a run.
 *
 * @param run frames and readings on the run's clock
 * @returns figures; null where a figure cannot be had, never 0 and never NaN
 * @source docs/method.md
 * @example
 * // a run of one minute at 40 frames per second
 * const still = { droppedRows: 0, excluded: [], charging: [], skin: [], battery: [], power: [], rates: [], target: 40, batteryWh: null, end: null, lastLineMs: 0, splitMinutes: null };
 * analyse({ ...still, track: { frameUs: new Int32Array(2400).fill(25_000), gaps: [] } }).figures.pace.average; // 40
 */
export function analyse(run: RunInput): Analysis {
  const session = prepareSession(run.track, run.excluded);
  const perSecond = perSecondPace(session);
  const breaks = findBreaks(session);
  const sorted = sortedFrames(session.leftUs);
  const hasFrames = run.track.frameUs.length > 0;
  const seconds = hasFrames ? session.endUs / 1e6 : (run.end?.atMs ?? run.lastLineMs) / 1000;
  const splitMinutes = run.splitMinutes ?? defaultSplitMinutes(seconds);
  const spots = spotSeries(run.skin);
  const battery = withCharging(run.battery, run.charging);
  const power = [...run.power].sort((a, b) => a.atMs - b.atMs);
  return {
    perSecond,
    figures: {
      methodVersion: METHOD_VERSION,
      frames: { count: session.leftUs.length, seconds, dropped: run.droppedRows },
      pace: hasFrames
        ? { source: 'frames', average: averagePace(session.leftUs.length, session.leftTotalUs), ...steadiness(perSecond), onTarget: onTarget(perSecond, run.target) }
        : readOff(run.rates),
      lows: { onePercent: lows(sorted, 100), tenthPercent: lows(sorted, 1000) },
      evenness: evenness(session, breaks, run.target),
      breaks,
      splitMinutes,
      splits: splitTable(session, perSecond, { minutes: splitMinutes, target: run.target, breaks, spots, battery, power, batteryWh: run.batteryWh }),
      spots,
      battery,
      end: run.end,
    },
  };
}

function readOff(rates: RateReading[]): PaceFigures {
  const nothing = { median: null, hold: null, slow: null, onTarget: null };
  if (rates.length === 0) return { source: null, average: null, ...nothing };
  const average = rates.reduce((sum, rate) => sum + rate.fps, 0) / rates.length;
  return { source: rates.some((rate) => rate.by === 'eye') ? 'eye' : 'read', average, ...nothing };
}

/** Battery readings in order, each charging if it says so or lies in a charging span. */
function withCharging(battery: BatteryReading[], charging: SpanUs[]): BatteryReading[] {
  const inSpan = (atMs: number): boolean => charging.some((span) => atMs * 1000 >= span.fromUs && atMs * 1000 < span.toUs);
  return [...battery].sort((a, b) => a.atMs - b.atMs).map((reading) => ({ ...reading, charging: reading.charging || inSpan(reading.atMs) }));
}
