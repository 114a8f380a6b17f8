/** A reading that is due. */
export interface ReadingDue {
  spot: string;
  dueMs: number;
}

/**
 * The next reading of a round: spots are read in their order every so many
 * minutes, first at the start. A reading belongs to the round that it is
 * nearest to; a round that was missed by half the time between two is let go.
 *
 * @param spots in the order in which they are read
 * @param readings of this run, in any order
 * @returns null without spots
 * @shown the reading that is due
 * @source common practice: the same spots at set times
 * @example
 * nextReading(['back', 'front'], [{ spot: 'back', atMs: 301_000 }], 300_000, 305_000); // { spot: 'front', dueMs: 300_000 }
 */
export function nextReading(
  spots: string[],
  readings: { spot: string; atMs: number }[],
  everyMs: number,
  nowMs: number,
): ReadingDue | null {
  const roundOf = (ms: number): number => Math.round(ms / everyMs);
  const first = spots[0];
  if (first === undefined) return null;
  const round = roundOf(nowMs);
  const open = spots.find(
    (spot) => !readings.some((reading) => reading.spot === spot && roundOf(reading.atMs) === round),
  );
  return open === undefined
    ? { spot: first, dueMs: (round + 1) * everyMs }
    : { spot: open, dueMs: round * everyMs };
}
