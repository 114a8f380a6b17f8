import type { Evenness } from '../figures/evenness';
import type { Figures } from '../figures/model';
import { hoursSaid } from '../figures/drain';
import { dischargeStretches } from '../figures/plausible';
import type { Playable } from '../figures/playable';
import type { Ends } from '../readOff/ends';
import type { ReadSaid } from '../readOff/readSaid';
import type { RunHeader, RunPreflight } from '../runFile/lines';
import type { EndReason, RunMeasure, StaminaVerdict } from '../vocabulary';

/** One value of a run; its ends where it was read off. */
export interface Measured {
  value: number;
  ends: Ends | null;
}

/** What comparing needs of a run's figures: small enough to be read for a whole library. */
export interface Comparable {
  values: Record<RunMeasure, Measured | null>;
  /** Breaks in the minutes of its frames; null without frames. */
  breaks: { count: number; minutes: number } | null;
  cap: number | null;
  capShare: number | null;
  seconds: number;
  source: 'frames' | 'read' | 'eye' | null;
  /** What was read off, as it was written; null where frames were logged. */
  said?: ReadSaid | null;
  /** First skin reading within the first minute. */
  startC: number | null;
  refreshHz: number | null;
  ended: EndReason | null;
  hold: number | null;
  word: StaminaVerdict | null;
  playable: Playable | null;
  retention: number | null;
  /** Share of late frames and the kinds of breaks, for the rating. */
  evenness: Pick<Evenness, 'late' | 'stutters' | 'stalls' | 'freezes'>;
  peakC: number | null;
  /** It was written as "about"; left out where it was not. */
  peakAbout?: boolean;
  normalisedPeakC: number | null;
  spots: { spot: string; by: string; peakC: number; riseC: number | null }[];
  /** Battery from and to where nothing was charged in between, and between which lengths the run may lie. */
  used: { fromPercent: number; toPercent: number; lowS: number; highS: number } | null;
  freezes: number;
  /** Hours from full as far as the readings allow to say it. */
  hours?: { low: number; high: number | null } | null;
  /** Kinds of the states that the device was in for a while. */
  spans?: string[];
}

/** What is stated of a run: by which it is told whether the same work was done in the same way. */
export interface StatedFacts {
  device: string | null;
  title: string | null;
  setup: string | null;
  /** Places of the title that were played. */
  scenes: string[];
  target: number | null;
  roomC: number | null;
  batteryWh: number | null;
  conditions: string[];
  /** A log alone states no conditions. */
  told: boolean;
  preflight: RunPreflight;
}

/** A run as one side of a comparison has it. */
export interface RunOfSide {
  stated: StatedFacts;
  figures: Comparable;
}

/** Hours from full as they may be said; of what was published before ranges were told, the value. */
export function hoursKnown({ hours, values }: Comparable): { low: number; high: number | null } | null {
  const value = hours === undefined ? values.hoursFromFull?.value : undefined;
  return hours ?? (value === undefined ? null : { low: value, high: value });
}

const FIRST_MINUTE_MS = 60_000;

/**
 * What comparing needs of a run's figures.
 *
 * @source docs/method.md, "Difference between two sides"
 */
export function comparableOf(figures: Figures): Comparable {
  const { pace, stamina, lows, drain, warmth, evenness, frames, read, end } = figures;
  const logged = frames.count > 0;
  const measured = (value: number | null, ends: Ends | null = null): Measured | null =>
    value === null ? null : { value, ends: logged ? null : ends };
  const rises = warmth.spots.flatMap(({ riseC }) => riseC ?? []);
  const broken = [evenness.stutters, evenness.stalls, evenness.freezes];
  return {
    values: {
      average: measured(pace.average, pace.interval),
      median: measured(pace.median, read?.median ?? null),
      closing: measured(stamina.closing, read?.closing ?? null),
      onePercentLow: measured(lows.onePercent.quantile, read?.onePercentLow ?? null),
      watts: measured(drain?.watts ?? null),
      hoursFromFull: measured(drain?.hoursFromFull ?? null),
      peakRise: measured(rises.length === 0 ? null : Math.max(...rises)),
      peak: measured(warmth.peakC),
    },
    breaks:
      logged && pace.average !== null && !broken.includes(null)
        ? {
            count: broken.reduce((sum: number, kind) => sum + kind!, 0),
            minutes: frames.count / pace.average / 60,
          }
        : null,
    cap: figures.cap,
    capShare: figures.capShare,
    seconds: frames.seconds,
    source: pace.source,
    said: logged ? null : (read?.said ?? null),
    startC: startOf(figures),
    refreshHz: figures.refreshHz,
    ended: end?.reason ?? null,
    hold: pace.hold,
    word: stamina.word,
    playable: figures.playable,
    retention: stamina.retention,
    evenness: {
      late: evenness.late,
      stutters: evenness.stutters,
      stalls: evenness.stalls,
      freezes: evenness.freezes,
    },
    peakC: warmth.peakC,
    ...(warmth.about ? { peakAbout: true } : {}),
    normalisedPeakC: warmth.normalisedPeakC,
    spots: warmth.spots.map(({ spot, by, peakC, riseC }) => ({ spot, by, peakC, riseC })),
    used: usedOf(figures),
    freezes: evenness.freezes ?? 0,
    hours: hoursSaid(drain),
    spans: figures.switched,
  };
}

/** The earliest skin reading of the first minute; a peak without a time is none. */
function startOf({ warmth }: Figures): number | null {
  const first = warmth.spots
    .flatMap((spot) => spot.readings.filter((reading) => !reading.peak))
    .reduce<{ atMs: number; c: number } | null>(
      (earliest, reading) => (earliest === null || reading.atMs < earliest.atMs ? reading : earliest),
      null,
    );
  return first !== null && first.atMs <= FIRST_MINUTE_MS ? first.c : null;
}

/** Percent from and to, where it was one stretch of discharge. */
function usedOf({ battery, charging, end, frames }: Figures): Comparable['used'] {
  if (charging.length > 0) return null;
  const { stretches } = dischargeStretches(battery, []);
  const [only] = stretches;
  if (stretches.length !== 1 || !only || only.length < 2) return null;
  const [from, to] = [only[0]!.percent, only.at(-1)!.percent];
  return to < from
    ? {
        fromPercent: from,
        toPercent: to,
        lowS: (end?.lowMs ?? frames.seconds * 1000) / 1000,
        highS: (end?.highMs ?? frames.seconds * 1000) / 1000,
      }
    : null;
}

/**
 * What a run file's header states, with the places that its lines name.
 *
 * @example
 * statedOf({ type: 'run', version: 1, title: 'Aurelune', room: 18 }, []).roomC; // 18
 */
export const statedOf = (header: RunHeader | null, scenes: string[]): StatedFacts => ({
  device: header?.device ?? null,
  title: header?.title ?? null,
  setup: header?.setup ?? null,
  scenes: [...new Set([...(header?.scene === undefined ? [] : [header.scene]), ...scenes])],
  target: header?.target ?? null,
  roomC: header?.room ?? null,
  batteryWh: header?.batteryWh ?? null,
  conditions: header?.conditions ?? [],
  told: header !== null,
  preflight: header?.preflight ?? {},
});
