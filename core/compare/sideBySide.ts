import type { SpotWarmth } from '../figures/warmth';

/** A temperature of one side: read then, or between two readings. */
export interface SideReading {
  c: number;
  how: 'read' | 'between';
}

/** One spot of two runs at the same minutes. */
export interface SpotSideBySide {
  spot: string;
  /** Instruments of the two sides. */
  by: [string, string];
  rows: { atS: number; first: SideReading | null; second: SideReading | null }[];
}

/** A reading counts for a time that it is so near to. */
const NEAR_S = 45;
/** Nothing is said between readings that lie further apart. */
const APART_S = 900;
const MOST_ROWS = 8;

/**
 * Skin of two runs at the same spot and minute: at the times at which either
 * was read. Between two readings the line through them counts; before the first and after the last nothing does.
 *
 * @shown Compare: warmth side by side
 * @source linear interpolation between neighbouring readings
 */
export function warmthSideBySide(
  first: readonly SpotWarmth[],
  second: readonly SpotWarmth[],
): SpotSideBySide[] {
  return first.flatMap((one) => {
    const other = second.find(({ spot }) => spot === one.spot);
    if (!other) return [];
    const rows = timesOf(one, other)
      .map((atS) => ({ atS, first: at(one, atS), second: at(other, atS) }))
      .filter((row) => row.first !== null && row.second !== null);
    return [{ spot: one.spot, by: [one.by, other.by] satisfies [string, string], rows }];
  });
}

const timed = ({ readings }: SpotWarmth) => readings.filter((reading) => !reading.peak);

/** Times at which either was read, those that are near each other once; of very many some. */
function timesOf(one: SpotWarmth, other: SpotWarmth): number[] {
  const all = [...timed(one), ...timed(other)].map((reading) => reading.atMs / 1000).sort((a, b) => a - b);
  const apart: number[] = [];
  for (const time of all) if (apart.length === 0 || time - apart.at(-1)! > NEAR_S) apart.push(time);
  const step = Math.max(1, Math.ceil(apart.length / MOST_ROWS));
  return apart.filter((_, i) => i % step === 0 || i === apart.length - 1);
}

function at(spot: SpotWarmth, atS: number): SideReading | null {
  const readings = timed(spot);
  const near = readings.find((reading) => Math.abs(reading.atMs / 1000 - atS) <= NEAR_S);
  if (near) return { c: near.c, how: 'read' };
  const after = readings.findIndex((reading) => reading.atMs / 1000 > atS);
  const [left, right] = [readings[after - 1], readings[after]];
  if (!left || !right) return null;
  const span = (right.atMs - left.atMs) / 1000;
  if (span > APART_S) return null;
  return { c: left.c + ((right.c - left.c) * (atS - left.atMs / 1000)) / span, how: 'between' };
}
