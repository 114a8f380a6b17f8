import type { RatingPart } from '../vocabulary';
import { countingParts, type RatedDevice, type RatingWeights } from './rating';

/** Who leads while one part's share of all weight lies in a range. */
export interface LeadRange {
  /** Share of all weight, 0–1. */
  from: number;
  to: number;
  /** Place of the leader among the devices. */
  leader: number;
}

/** Along one weight, the others kept in proportion: who leads from where on. */
export interface TurningPoints {
  part: RatingPart;
  /** Share of all weight that it has now. */
  now: number;
  /** In order, from 0 to 1. */
  ranges: LeadRange[];
}

/**
 * Where the lead changes while one part's weight goes from nothing to all and
 * the others keep their proportions. Two devices are level where their overall
 * figures, quotients of straight lines in the share, are equal: a quadratic,
 * solved exactly.
 *
 * @param weights of which at least two are above 0
 * @returns for each part that counts; empty ranges where no device has a figure
 * @shown Rating: turning points
 * @source the order changes on hyperplanes of the weights; docs/method.md, "Rating"
 */
export function turningPoints(devices: readonly RatedDevice[], weights: RatingWeights): TurningPoints[] {
  const counting = countingParts(weights);
  if (counting.length < 2) return [];
  const total = counting.reduce((sum, part) => sum + weights[part], 0);
  return counting.map((part) => {
    const lines = devices.map((device) => lineOf(device, part, counting, weights));
    const ends = [0, ...crossings(lines), 1];
    const ranges: LeadRange[] = [];
    for (let i = 0; i + 1 < ends.length; i++) {
      const [from, to] = [ends[i]!, ends[i + 1]!];
      const leader = leaderAt(lines, (from + to) / 2);
      if (leader === null) continue;
      const before = ranges.at(-1);
      if (before?.leader === leader) before.to = to;
      else ranges.push({ from, to, leader });
    }
    return { part, now: weights[part] / total, ranges };
  });
}

/** Overall figure at a share x: (a + x·b) / (c + x·d). */
interface Line {
  a: number;
  b: number;
  c: number;
  d: number;
}

function lineOf(
  { parts }: RatedDevice,
  part: RatingPart,
  counting: RatingPart[],
  weights: RatingWeights,
): Line {
  const others = counting.filter((other) => other !== part);
  const all = others.reduce((sum, other) => sum + weights[other], 0);
  let [a, c] = [0, 0];
  for (const other of others) {
    const value = parts[other];
    if (value === null) continue;
    a += (weights[other] / all) * value;
    c += weights[other] / all;
  }
  const own = parts[part];
  // one that is missing counts neither above nor below the line
  return { a, b: (own ?? 0) - a, c, d: (own === null ? 0 : 1) - c };
}

const valueAt = ({ a, b, c, d }: Line, x: number): number | null => {
  const below = c + x * d;
  return below <= TINY ? null : (a + x * b) / below;
};
const TINY = 1e-12;

function leaderAt(lines: Line[], x: number): number | null {
  let [leader, best]: [number | null, number] = [null, -Infinity];
  lines.forEach((line, i) => {
    const value = valueAt(line, x);
    if (value !== null && value > best + TINY) [leader, best] = [i, value];
  });
  return leader;
}

/** Shares strictly between 0 and 1 at which two devices are level, in order. */
function crossings(lines: Line[]): number[] {
  const found: number[] = [];
  lines.forEach((one, i) => {
    for (const other of lines.slice(i + 1))
      found.push(
        ...roots(
          one.b * other.d - other.b * one.d,
          one.a * other.d + one.b * other.c - other.a * one.d - other.b * one.c,
          one.a * other.c - other.a * one.c,
        ),
      );
  });
  return found.filter((x) => x > TINY && x < 1 - TINY).sort((x, y) => x - y);
}

/** Real roots of p·x² + q·x + r, without the loss of digits that the school's formula has. */
function roots(p: number, q: number, r: number): number[] {
  if (Math.abs(p) < TINY) return Math.abs(q) < TINY ? [] : [-r / q];
  const under = q * q - 4 * p * r;
  if (under < 0) return [];
  const half = -(q + Math.sign(q || 1) * Math.sqrt(under)) / 2;
  return half === 0 ? [0] : [half / p, r / half];
}
