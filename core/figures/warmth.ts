import { fitApproach, fitSwitched, judgeFit, timeToReach, tWidth, type SwitchedFit } from '../fit/fit';
import { joinStretches, type Stretch } from '../fit/switches';
import { spotSeries, type SkinReading } from './readings';
import { greatest } from '../numbers/thin';
import { CAUTION_C } from './touch';

/** Room temperature to which peaks are normalised, °C. */
const REFERENCE_ROOM_C = 25;

/** Where a spot would settle if a stretch went on. */
export interface Level {
  fromS: number;
  settlesC: number;
  seC: number;
  /** What holds in the stretch, as `warmStretches` names it. */
  state: string;
  /** How much higher than the level before, with its 95 % interval; null for the first. */
  change: { c: number; low: number; high: number } | null;
}

export interface WarmUp {
  /** Of the last stretch. */
  finalC: number;
  startC: number;
  tauS: number;
  settled: boolean;
  forecast: boolean;
  /** Half the width of the final temperature's 95 % interval, °C. */
  finalHalfC: number;
  /** When the line of caution is reached on the run's clock, seconds; null where it is not. */
  cautionAtS: number | null;
  /** One a stretch, in order. */
  levels: Level[];
}

export interface SpotWarmth {
  spot: string;
  by: string;
  peakC: number;
  /** Its peak was written as "about"; left out where it was not. */
  about?: boolean;
  /** Over the room; null where the room is unknown. */
  riseC: number | null;
  fit: WarmUp | null;
  readings: SkinReading[];
}

export interface Warmth {
  spots: SpotWarmth[];
  hottest: string | null;
  peakC: number | null;
  /** That was written as "about"; left out where it was not. */
  about?: boolean;
  /** Between the hottest and the coolest spot's peak. */
  spreadC: number | null;
  /** Peak in a room of 25 °C. */
  normalisedPeakC: number | null;
}

/**
 * Warmth of a run by spot.
 *
 * @param readings plausible skin readings
 * @param roomC room temperature, or null
 * @param stretches in which nothing that warms the device was changed, the last to Infinity
 * @shown Warmth: peak, over the room, spread, in a room of 25 °C
 * @source docs/method.md, "Warmth"
 * @example
 * warmthOf([{ atMs: 0, spot: 'back', c: 38, by: 'infrared' }], 20).normalisedPeakC; // 43
 */
export function warmthOf(
  readings: SkinReading[],
  roomC: number | null,
  stretches: Stretch[] = [{ to: Infinity, state: '' }],
): Warmth {
  const spots = spotSeries(readings).map(({ spot, by, readings: series }): SpotWarmth => {
    const peakC = greatest(series.map((reading) => reading.c));
    const about = series.every((reading) => reading.c < peakC || reading.about === true);
    return {
      spot,
      by,
      peakC,
      ...(about ? { about } : {}),
      riseC: roomC === null ? null : peakC - roomC,
      fit: warmUp(
        series.filter((reading) => !reading.peak),
        stretches,
      ),
      readings: series,
    };
  });
  if (spots.length === 0) return { spots, hottest: null, peakC: null, spreadC: null, normalisedPeakC: null };
  const hottest = spots.reduce((most, spot) => (spot.peakC > most.peakC ? spot : most));
  return {
    spots,
    hottest: hottest.spot,
    peakC: hottest.peakC,
    ...(hottest.about ? { about: true } : {}),
    spreadC: hottest.peakC - Math.min(...spots.map((spot) => spot.peakC)),
    normalisedPeakC: roomC === null ? null : hottest.peakC + (REFERENCE_ROOM_C - roomC),
  };
}

/** Levels that are fitted at once: more of them take minutes, and no readings tell them apart. */
const MOST_LEVELS = 20;

function warmUp(series: SkinReading[], stretches: Stretch[]): WarmUp | null {
  const t = series.map((reading) => reading.atMs / 1000);
  const y = series.map((reading) => reading.c);
  const seen = joinStretches(t, stretches);
  if (seen.length === 0 || seen.length > MOST_LEVELS) return null;
  const at = seen.slice(0, -1).map((stretch) => stretch.to);
  const fit =
    at.length === 0
      ? // without a switch the readings have to rise
        fitApproach(t, y, null)
      : fitSwitched(t, y, { at }, null);
  if (!fit) return null;
  const width = tWidth(fit.degreesOfFreedom);
  const beganS = at.at(-1) ?? 0;
  // the curve of the last stretch, seen from its beginning
  const levels = fit.levels.map(({ settles }, k) => ({ fromS: k === 0 ? 0 : at[k - 1]!, settlesC: settles }));
  const began = { ...fit, start: warmthAt({ startC: fit.start, tauS: fit.tau, levels }, beganS) };
  const caution = began.start < CAUTION_C ? timeToReach(began, CAUTION_C) : null;
  return {
    finalC: fit.final,
    startC: fit.start,
    tauS: fit.tau,
    ...judgeFit(fit, t.at(-1)! - beganS),
    finalHalfC: width * fit.se.final,
    cautionAtS: caution === null ? null : beganS + caution,
    levels: levels.map((level, k) => ({
      ...level,
      seC: fit.levels[k]!.se,
      state: seen[k]!.state,
      change: k === 0 ? null : changeOf(fit, k, width),
    })),
  };
}

function changeOf({ levels, covariance }: SwitchedFit, k: number, width: number): Level['change'] {
  const c = levels[k]!.settles - levels[k - 1]!.settles;
  const variance = covariance(k, k) + covariance(k - 1, k - 1) - 2 * covariance(k, k - 1);
  const half = width * Math.sqrt(Math.max(0, variance));
  return { c, low: c - half, high: c + half };
}

/**
 * Temperature of a spot by its fit, one level after the other.
 *
 * @param second on the run's clock
 * @returns °C
 * @shown the dashed curve of the skin
 * @source docs/method.md, "Warm-up fit"
 * @example
 * const levels = [{ fromS: 0, settlesC: 46 }, { fromS: 900, settlesC: 38 }];
 * warmthAt({ startC: 20, tauS: 400, levels }, 1e6); // 38
 */
export function warmthAt(
  { startC, tauS, levels }: { startC: number; tauS: number; levels: { fromS: number; settlesC: number }[] },
  second: number,
): number {
  return levels.reduce((from, { fromS, settlesC }, k) => {
    // the first stretch's curve goes on backwards
    const begins = k === 0 ? 0 : fromS;
    const ends = Math.min(second, levels[k + 1]?.fromS ?? Infinity);
    return k > 0 && ends <= begins ? from : settlesC - (settlesC - from) * Math.exp(-(ends - begins) / tauS);
  }, startC);
}
