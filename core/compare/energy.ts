import type { RunOfSide } from './comparable';

/** Energy that the second side took for each unit of the first. */
export interface EnergyRatio {
  ratio: number;
  /** By a battery that shows whole percents, each reading half a percent either way. */
  range: [number, number];
  /** Watt hours that each side took. */
  first: number;
  second: number;
}

/** What a reading in whole percents may be off. */
const HALF_PERCENT = 0.5;

/**
 * The ratio of the energy that two runs took in the same time, of which nobody
 * knows exactly how long it was: the time stands in both and cancels.
 *
 * @param first one run, with a battery of known energy
 * @returns null unless both sides are one run, the lengths are known equally roughly, more than one percent was taken, and both batteries' energies are known
 * @shown Compare: energy, where the length is only roughly known
 * @source energy is percent times what the battery holds; docs/method.md, "Difference between two sides"
 */
export function energyRatio(first: readonly RunOfSide[], second: readonly RunOfSide[]): EnergyRatio | null {
  const [a, b] = [first, second].map(takenBy);
  if (!a || !b || a.lowS !== b.lowS || a.highS !== b.highS || a.lowS >= a.highS) return null;
  if (a.lowWh <= 0) return null;
  return {
    ratio: b.wh / a.wh,
    range: [b.lowWh / a.highWh, b.highWh / a.lowWh],
    first: a.wh,
    second: b.wh,
  };
}

function takenBy(side: readonly RunOfSide[]): {
  wh: number;
  lowWh: number;
  highWh: number;
  lowS: number;
  highS: number;
} | null {
  const [run, ...others] = side;
  const used = run?.figures.used;
  if (!run || others.length > 0 || !used || run.stated.batteryWh === null) return null;
  const percent = used.fromPercent - used.toPercent;
  const whOf = (share: number): number => (share / 100) * run.stated.batteryWh!;
  return {
    wh: whOf(percent),
    lowWh: whOf(percent - 2 * HALF_PERCENT),
    highWh: whOf(percent + 2 * HALF_PERCENT),
    lowS: used.lowS,
    highS: used.highS,
  };
}
