import type { Comparable } from './comparable';

/** The hottest reading of a run, and what it was read with. */
export interface Peak {
  c: number;
  by: string;
}

/**
 * Each run's hottest peak over the spots that all of them have that were read
 * at all; over all of its own where there is no such spot.
 *
 * @returns null for a run without readings
 * @source docs/method.md, "Difference between two sides"
 */
export function peaksOf(runs: readonly Pick<Comparable, 'spots'>[]): (Peak | null)[] {
  const read = runs.filter(({ spots }) => spots.length > 0);
  const common = (read[0]?.spots ?? [])
    .map(({ spot }) => spot)
    .filter((spot) => read.every(({ spots }) => spots.some((one) => one.spot === spot)));
  return runs.map(({ spots }) => {
    const counted = common.length === 0 ? spots : spots.filter(({ spot }) => common.includes(spot));
    const hottest = counted.reduce<(typeof counted)[number] | null>(
      (most, one) => (most !== null && most.peakC >= one.peakC ? most : one),
      null,
    );
    return hottest && { c: hottest.peakC, by: hottest.by };
  });
}
