import { findBreaks, type Break } from './breaks';
import { cadence, frameCap, type Cadence } from './cadence';
import { caveatsOf, confidenceOf, type Caveat, type Confidence } from './caveats';
import { coverage, type Covered } from './coverage';
import { distributionOf, type Distribution } from './distribution';
import { drainOf, type Drain } from './drain';
import { evenness, type Evenness } from './evenness';
import type { FrameTrack } from './frames/track';
import { lows, sortedFrames, type Low } from './lows';
import { METHOD_VERSION } from './methodVersion';
import { averagePace, perSecondPace, steadiness } from './pace';
import { chargesAt, dischargeStretches, siftPower, siftRates, siftSkin } from './plausible';
import { emulation, playable, type Emulation, type Need, type Playable } from './playable';
import {
  type BatteryReading,
  type LoadReading,
  type PowerReading,
  type RateReading,
  type SkinReading,
} from './readings';
import { prepareSession, type SpanUs } from './session';
import { defaultSplitMinutes, splitTable, type Split, type SplitMinutes } from './splits';
import { stamina, type Stamina } from './stamina';
import { thin } from './thin';
import { warmthOf, type Warmth } from './warmth';

/** How a run came to its end; null where nothing says so. */
export type EndReason = 'planned' | 'crash' | 'stopped' | 'would-not-start';

/** What is known of a run beside its lines. */
export interface RunFacts {
  /** Frames per second that the run should reach. */
  target: number | null;
  /** Refresh rate of the panel, Hz; null to go by the run's own lines. */
  refreshHz: number | null;
  /** Native rate of an emulated title. */
  native: number | null;
  need: Need | null;
  roomC: number | null;
  /** Energy of the full battery, Wh. */
  batteryWh: number | null;
  /** Caveats that someone states. */
  conditions: string[];
  /** Length of a split that the reviewer chose; null for the usual. */
  splitMinutes: SplitMinutes | null;
}

/** A run as the analysis needs it; everything on the run's clock. */
export interface RunInput extends RunFacts {
  track: FrameTrack;
  /** Rows of the log that were dropped. */
  droppedRows: number;
  /** The last line of the file was cut off. */
  cutOff: boolean;
  excluded: SpanUs[];
  charging: SpanUs[];
  skin: SkinReading[];
  battery: BatteryReading[];
  power: PowerReading[];
  loads: LoadReading[];
  rates: RateReading[];
  marks: { atMs: number; kind: string }[];
  end: { atMs: number; reason: EndReason } | null;
  /** Time of the last line of the run file, for a run without frames. */
  lastLineMs: number;
}

export interface PaceFigures {
  /** Whether frames were logged, or rates read off a counter or by eye. */
  source: 'frames' | 'read' | 'eye' | null;
  average: number | null;
  median: number | null;
  hold: number | null;
  slow: number | null;
}

/** Everything that is computed for a run, in SI units. */
export interface Figures {
  methodVersion: number;
  frames: { count: number; seconds: number; dropped: number };
  pace: PaceFigures;
  /** What the pace of each stretch is known from. */
  coverage: Covered[];
  lows: { onePercent: Low; tenthPercent: Low };
  /** Of the frame times left; null without frames. */
  distribution: Distribution | null;
  evenness: Evenness;
  /** In order of their start; where there are more than {@link LISTED_BREAKS}, the longest of them: `evenness` counts all. */
  breaks: Break[];
  cadence: Cadence;
  /** Panel's rate that the cadence was judged by, Hz. */
  refreshHz: number | null;
  cap: number | null;
  splitMinutes: SplitMinutes;
  splits: Split[];
  stamina: Stamina;
  playable: Playable | null;
  emulation: Emulation | null;
  warmth: Warmth;
  drain: Drain | null;
  /** When the battery was being charged, seconds. */
  charging: { fromS: number; toS: number }[];
  /** Battery readings in order, marked where they charge; of very many those that a picture needs. */
  battery: BatteryReading[];
  /** Readings that are shown as doubtful and entered no figure. */
  doubtful: { skin: SkinReading[]; battery: BatteryReading[]; power: PowerReading[]; rates: RateReading[] };
  caveats: Caveat[];
  confidence: Confidence;
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
 * const facts = { target: 40, refreshHz: null, native: null, need: null, roomC: null, batteryWh: null, conditions: [], splitMinutes: null };
 * analyse(runInput({ frameUs: new Int32Array(2400).fill(25_000), gaps: [] }, { dropped: 0, cutOff: false, entries: [] }, facts)).figures.pace.average; // 40
 */
export function analyse(run: RunInput): Analysis {
  const session = prepareSession(run.track, run.excluded);
  const perSecond = perSecondPace(session);
  const breaks = findBreaks(session);
  const sorted = sortedFrames(session.leftUs);
  const seconds =
    run.track.frameUs.length > 0 ? session.endUs / 1e6 : (run.end?.atMs ?? run.lastLineMs) / 1000;
  const splitMinutes = run.splitMinutes ?? defaultSplitMinutes(seconds);

  const skin = siftSkin(run.skin);
  const power = siftPower(run.power);
  const rates = siftRates(run.rates, session, run);
  const battery = [...run.battery]
    .sort((a, b) => a.atMs - b.atMs)
    .map((reading) => ({ ...reading, charging: reading.charging || chargesAt(run.charging, reading.atMs) }));
  const discharge = dischargeStretches(battery, run.charging);
  const warmth = warmthOf(skin.kept, run.roomC);

  const hasFrames = session.leftUs.length > 0;
  const pace: PaceFigures = hasFrames
    ? {
        source: 'frames',
        average: averagePace(session.leftUs.length, session.leftTotalUs),
        ...steadiness(perSecond),
      }
    : readOff(rates.kept);
  const cap = frameCap(perSecond);
  const split = {
    minutes: splitMinutes,
    target: run.target,
    breaks,
    spots: warmth.spots,
    stretches: discharge.stretches,
    power: power.kept,
    batteryWh: run.batteryWh,
  };
  const caveats = caveatsOf(run, {
    seconds,
    session,
    warmth,
    skin,
    powerDoubtful: power.doubtful.length,
    discharge,
    rates,
    cap,
  });
  return {
    perSecond,
    figures: {
      methodVersion: METHOD_VERSION,
      frames: { count: session.leftUs.length, seconds, dropped: run.droppedRows },
      pace,
      coverage: coverage(session, rates.kept, (run.end?.atMs ?? run.lastLineMs) * 1000),
      lows: { onePercent: lows(sorted, 100), tenthPercent: lows(sorted, 1000) },
      distribution: distributionOf(sorted),
      evenness: evenness(session, breaks, run.target),
      breaks: longestBreaks(breaks),
      cadence: cadence(session.leftUs, run.refreshHz),
      refreshHz: run.refreshHz,
      cap,
      splitMinutes,
      splits: hasFrames ? splitTable(session, perSecond, split) : [],
      stamina: stamina(perSecond, breaks, { seconds, target: run.target, end: run.end?.reason ?? null }),
      playable: playable(session, breaks, run.need),
      emulation: emulation(perSecond, run.native),
      warmth: {
        ...warmth,
        spots: warmth.spots.map((spot) => ({
          ...spot,
          readings: thin(spot.readings, SHOWN_READINGS, (reading) => reading.c),
        })),
      },
      drain: drainOf(discharge, power.kept, battery, run.charging, run.batteryWh, pace.average),
      charging: run.charging.map((span) => ({ fromS: span.fromUs / 1e6, toS: span.toUs / 1e6 })),
      battery: thin(battery, SHOWN_READINGS, (reading) => reading.percent),
      doubtful: {
        skin: thin(skin.doubtful, SHOWN_READINGS, (reading) => reading.c),
        battery: thin(discharge.doubtful, SHOWN_READINGS, (reading) => reading.percent),
        power: thin(power.doubtful, SHOWN_READINGS, (reading) => reading.mw),
        rates: thin(rates.doubtful, SHOWN_READINGS, (rate) => rate.fps),
      },
      caveats,
      confidence: confidenceOf(caveats),
      end: run.end,
    },
  };
}

/** Breaks that are told one by one. */
export const LISTED_BREAKS = 1000;
/** Readings of a kind that are kept to be drawn. */
const SHOWN_READINGS = 2000;

function longestBreaks(breaks: Break[]): Break[] {
  if (breaks.length <= LISTED_BREAKS) return breaks;
  const kept = new Set([...breaks].sort((a, b) => b.lengthUs - a.lengthUs).slice(0, LISTED_BREAKS));
  return breaks.filter((found) => kept.has(found));
}

function readOff(rates: RateReading[]): PaceFigures {
  const nothing = { median: null, hold: null, slow: null };
  if (rates.length === 0) return { source: null, average: null, ...nothing };
  const average = rates.reduce((sum, rate) => sum + rate.fps, 0) / rates.length;
  return { source: rates.some((rate) => rate.by === 'eye') ? 'eye' : 'read', average, ...nothing };
}
