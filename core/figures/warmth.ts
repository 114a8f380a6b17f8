import { fitApproach, judgeFit, timeToReach, tWidth, type ApproachFit } from '../fit/fit';
import { spotSeries, type SkinReading } from './readings';
import { greatest } from '../numbers/thin';
import { CAUTION_C } from './touch';

/** Room temperature to which peaks are normalised, °C. */
const REFERENCE_ROOM_C = 25;

export interface WarmUp {
  finalC: number;
  startC: number;
  tauS: number;
  settled: boolean;
  forecast: boolean;
  /** Half the width of the final temperature's 95 % interval, °C. */
  finalHalfC: number;
  /** When the line of caution is reached on the run's clock, seconds; null where it is not. */
  cautionAtS: number | null;
}

export interface SpotWarmth {
  spot: string;
  by: string;
  peakC: number;
  /** Over the room; null where the room is unknown. */
  riseC: number | null;
  fit: WarmUp | null;
  readings: SkinReading[];
}

export interface Warmth {
  spots: SpotWarmth[];
  hottest: string | null;
  peakC: number | null;
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
 * @shown Warmth: peak, over the room, spread, in a room of 25 °C
 * @source docs/method.md, "Warmth"
 * @example
 * warmthOf([{ atMs: 0, spot: 'back', c: 38, by: 'infrared' }], 20).normalisedPeakC; // 43
 */
export function warmthOf(readings: SkinReading[], roomC: number | null): Warmth {
  const spots = spotSeries(readings).map(({ spot, by, readings: series }): SpotWarmth => {
    const peakC = greatest(series.map((reading) => reading.c));
    return {
      spot,
      by,
      peakC,
      riseC: roomC === null ? null : peakC - roomC,
      fit: warmUp(series),
      readings: series,
    };
  });
  if (spots.length === 0) return { spots, hottest: null, peakC: null, spreadC: null, normalisedPeakC: null };
  const hottest = spots.reduce((most, spot) => (spot.peakC > most.peakC ? spot : most));
  return {
    spots,
    hottest: hottest.spot,
    peakC: hottest.peakC,
    spreadC: hottest.peakC - Math.min(...spots.map((spot) => spot.peakC)),
    normalisedPeakC: roomC === null ? null : hottest.peakC + (REFERENCE_ROOM_C - roomC),
  };
}

function warmUp(series: SkinReading[]): WarmUp | null {
  const t = series.map((reading) => reading.atMs / 1000);
  const fit: ApproachFit | null = fitApproach(
    t,
    series.map((reading) => reading.c),
    null,
  );
  if (!fit) return null;
  return {
    finalC: fit.final,
    startC: fit.start,
    tauS: fit.tau,
    ...judgeFit(fit, t.at(-1)!),
    finalHalfC: tWidth(fit.degreesOfFreedom) * fit.se.final,
    cautionAtS: timeToReach(fit, CAUTION_C),
  };
}
