import type { Ends } from '../readOff/ends';
import type { WrittenValue } from '../readOff/written';
import type { ChipPart, FeelWord, PowerPlace, RateSource, SmoothWord } from '../vocabulary';

/** What was read beside the frames, on the run's clock. Names follow the open run file (docs/formats.md). */
export interface SkinReading {
  atMs: number;
  spot: string;
  /** Degrees Celsius. */
  c: number;
  /** Instrument, for instance "infrared". Readings of two instruments are never mixed in one series. */
  by: string;
  /** The highest that was seen, at a time until then that nobody noted. */
  peak?: boolean;
  /** Written as "about". */
  about?: boolean;
}

export interface BatteryReading {
  atMs: number;
  percent: number;
  charging: boolean;
  /** Written as "about". */
  about?: boolean;
}

/** Of a value that nobody timed: the highest that was seen, or of the whole run. */
interface Untimed {
  peak?: boolean;
  whole?: boolean;
}

export interface PowerReading extends Untimed {
  atMs: number;
  mw: number;
  /** Where it was measured; the device where nothing is said. */
  of?: PowerPlace;
}

/** A thermometer inside, never one series with the skin. */
export interface ChipReading extends Untimed {
  atMs: number;
  c: number;
  part: ChipPart;
}

export interface LoadReading extends Untimed {
  atMs: number;
  /** Percent. */
  cpu?: number;
  gpu?: number;
  memoryMb?: number;
}

/** How a streamed title's link was. */
export interface LinkReading {
  atMs: number;
  /** There and back. */
  latencyMs?: number;
  lossPercent?: number;
  /** Bit rate. */
  mbps?: number;
}

/** A rate that was read off something. */
export interface RateReading {
  /** Null where nobody noted the time. */
  atMs: number | null;
  /** Frames per second as it was written; null where only a range was. */
  fps: number | null;
  ends: Ends;
  by: RateSource;
  scene: string | null;
  /** As it was written. */
  written?: WrittenValue;
}

/** The end page of a tool: each fact may be missing. */
export interface Summary {
  by: RateSource;
  average: Ends | null;
  median: Ends | null;
  /** Share, 0 to 1. */
  hold: Ends | null;
  onePercent: Ends | null;
  lowest: Ends | null;
  highest: Ends | null;
  minutes: number | null;
  /** The average as it was written; null where there is none. */
  written?: WrittenValue | null;
  scene: string | null;
}

/** Speed of an emulator, in percent. */
export interface SpeedReading {
  atMs: number | null;
  ends: Ends;
  by: RateSource;
  scene: string | null;
  /** As it was written. */
  written?: WrittenValue;
}

export interface SmoothReading {
  atMs: number | null;
  word: SmoothWord;
  by: RateSource;
  scene: string | null;
}

/** How it plays, as the player says. */
export interface FeelReading {
  atMs: number | null;
  word: FeelWord;
  scene: string | null;
}

/** A remark at a time, or of the whole run. */
export interface Mark {
  atMs: number;
  /** Nobody noted when. */
  whole?: boolean;
  kind: string;
  note?: string;
}

/** Readings of one spot by one instrument, in the order in which they were taken. */
export interface SpotSeries {
  spot: string;
  by: string;
  readings: SkinReading[];
}

/**
 * Sorts skin readings into one series per spot.
 *
 * Where a spot was read with several instruments, the one with the most
 * readings is used, on a tie the one used first; the others are left out.
 *
 * @param readings in any order
 * @returns series in order of each spot's first reading
 * @source docs/method.md, "Warmth"
 * @example
 * spotSeries([{ atMs: 0, spot: 'back', c: 24, by: 'infrared' }])[0].by; // 'infrared'
 */
export function spotSeries(readings: SkinReading[]): SpotSeries[] {
  const inOrder = [...readings].sort((a, b) => a.atMs - b.atMs);
  const spots = new Map<string, Map<string, SkinReading[]>>();
  for (const reading of inOrder) {
    const instruments = spots.get(reading.spot) ?? new Map<string, SkinReading[]>();
    const series = instruments.get(reading.by);
    if (series) series.push(reading);
    else instruments.set(reading.by, [reading]);
    spots.set(reading.spot, instruments);
  }
  return [...spots].map(([spot, instruments]) => {
    const [by, chosen] = [...instruments].reduce((best, next) =>
      next[1].length > best[1].length ? next : best,
    );
    return { spot, by, readings: chosen };
  });
}

/**
 * Percent that left the battery between two moments, straight between
 * neighbouring readings of a stretch of discharge.
 *
 * @param stretches of discharge, each in order of time
 * @returns percent used, or null where no stretch has two neighbouring readings that reach into the time
 * @source docs/method.md, "Splits": straight-line share of each step between readings
 * @example
 * percentUsed([[{ atMs: 0, percent: 100, charging: false }, { atMs: 600_000, percent: 90, charging: false }]], 0, 300_000); // 5
 */
export function percentUsed(stretches: BatteryReading[][], fromMs: number, toMs: number): number | null {
  let used: number | null = null;
  for (const readings of stretches) {
    for (let i = 1; i < readings.length; i++) {
      const a = readings[i - 1]!;
      const b = readings[i]!;
      const overlap = Math.min(b.atMs, toMs) - Math.max(a.atMs, fromMs);
      if (overlap > 0) used = (used ?? 0) + ((a.percent - b.percent) * overlap) / (b.atMs - a.atMs);
    }
  }
  return used;
}

/**
 * Mean power between two moments: energy by the trapezoid rule over the time
 * between the samples.
 *
 * @param samples in order of time
 * @returns watts, or null where fewer than two samples lie in the stretch
 * @source docs/method.md, "Splits"; the trapezoid rule
 * @example
 * meanWatts([{ atMs: 0, mw: 4000 }, { atMs: 1000, mw: 6000 }], 0, 1000); // 5
 */
export function meanWatts(samples: PowerReading[], fromMs: number, toMs: number): number | null {
  const inside = samples.filter((sample) => sample.atMs >= fromMs && sample.atMs <= toMs);
  let energy = 0;
  for (let i = 1; i < inside.length; i++)
    energy += ((inside[i]!.mw + inside[i - 1]!.mw) / 2) * (inside[i]!.atMs - inside[i - 1]!.atMs);
  const time = (inside.at(-1)?.atMs ?? 0) - (inside[0]?.atMs ?? 0);
  return time > 0 ? energy / time / 1000 : null;
}
