import { fitApproach, timeToReach, type ApproachFit } from './fit';

/** A cool-down, fitted. Times in seconds on the readings' clock. */
export interface CoolDown {
  fit: ApproachFit;
  /** When the skin comes down to a line; null where it settles above, or was below from the start. */
  downToS: (lineC: number) => number | null;
}

/**
 * Fits the cool-down of one spot.
 *
 * @param readings of one spot by one instrument, in time; needs at least 4
 * @returns null where the readings carry no fit
 * @shown Cooling down: ready at
 * @source docs/method.md, "Warm-up fit": the same form, downwards
 * @example
 * Math.round(coolDown([{ atS: 0, c: 40 }, { atS: 300, c: 33.1 }, { atS: 600, c: 28.9 }, { atS: 900, c: 26.3 }]).downToS(25)); // 1136
 */
export function coolDown(readings: { atS: number; c: number }[]): CoolDown | null {
  const fit = fitApproach(
    readings.map((reading) => reading.atS),
    readings.map((reading) => reading.c),
    null,
    'down',
  );
  return fit && { fit, downToS: (lineC) => timeToReach(fit, lineC) };
}
