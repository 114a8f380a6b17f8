import { SeededRandom } from '../numbers/random';
import { RATING_PARTS, type RatingPart } from '../vocabulary';

export type RatingParts = Record<RatingPart, number | null>;
export type RatingWeights = Record<RatingPart, number>;

/** Weights until the reader changes them. */
export const USUAL_WEIGHTS: RatingWeights = { pace: 25, evenness: 20, stamina: 30, warmth: 15, drain: 10 };

/** A device by its parts. */
export interface RatedDevice {
  name: string;
  /** 0–100 each; null where it is missing. */
  parts: RatingParts;
  /** Standard deviation of each part; 0 where it is not told. */
  sd: Partial<Record<RatingPart, number>>;
}

/** What a device comes to under some weights. */
export interface Overall {
  /** 0–100 over the parts that are there; null where none is. */
  overall: number | null;
  /** With the missing parts at 0, and at 100. */
  low: number;
  high: number;
  /** A part that counts is missing. */
  partial: boolean;
}

/** Parts that count: one of weight 0 is left out altogether. */
export const countingParts = (weights: RatingWeights): RatingPart[] =>
  RATING_PARTS.filter((part) => weights[part] > 0);

/**
 * A device's overall figure: the weighted mean of its parts.
 *
 * @param weights at least 0 each, in any unit
 * @throws RangeError where no part has a weight, or one is negative
 * @shown Rating: overall, with low and high where a part is missing
 * @source docs/method.md, "Rating"; common practice
 * @example
 * overallOf({ pace: 80, evenness: null, stamina: 60, warmth: 50, drain: 50 }, { pace: 1, evenness: 2, stamina: 1, warmth: 0, drain: 0 }).low; // 35
 */
export function overallOf(parts: RatingParts, weights: RatingWeights): Overall {
  const counting = countingParts(weights);
  if (counting.length === 0 || RATING_PARTS.some((part) => !(weights[part] >= 0)))
    throw new RangeError('weights must be 0 or more, and at least one above 0');
  let [sum, there, all] = [0, 0, 0];
  for (const part of counting) {
    const value = parts[part];
    all += weights[part];
    if (value === null) continue;
    sum += weights[part] * value;
    there += weights[part];
  }
  return {
    overall: there === 0 ? null : sum / there,
    low: sum / all,
    high: (sum + 100 * (all - there)) / all,
    partial: counting.some((part) => parts[part] === null),
  };
}

export const RATING_DRAWS = 10_000;
const PARTS = RATING_PARTS.length;

/**
 * Draws of what the devices might be: each part normal about its value, held
 * within 0–100; a missing one anything within it. They are made once; weights
 * may change as often as a finger moves.
 *
 * @source docs/method.md, "Rating"; uniform on the simplex as normalised exponentials (Devroye 1986)
 */
export class RatingDraws {
  /** Part p of device d in draw i, at (i · devices + d) · parts + p. */
  private readonly values: Float64Array;
  /** Exponentials that make a weighting drawn evenly from all there are. */
  private readonly weightings: Float64Array;

  constructor(
    private readonly devices: number,
    rated: readonly RatedDevice[],
    seed = 1,
  ) {
    const random = new SeededRandom(seed);
    this.values = new Float64Array(RATING_DRAWS * devices * PARTS);
    this.weightings = new Float64Array(RATING_DRAWS * PARTS);
    let at = 0;
    for (let i = 0; i < RATING_DRAWS; i++) {
      for (let p = 0; p < PARTS; p++) this.weightings[i * PARTS + p] = random.exponential();
      for (const { parts, sd } of rated)
        for (const part of RATING_PARTS) this.values[at++] = drawn(random, parts[part], sd[part] ?? 0);
    }
  }

  /**
   * Share of the draws in which each device has the highest overall figure, under weights drawn with them.
   *
   * @param weights only which of them are above 0 counts
   * @returns in the order of the devices; a tie is shared
   * @shown Rating: how sure is the order
   */
  leads(weights: RatingWeights): number[] {
    const wins = new Float64Array(this.devices);
    this.eachDraw(
      (i, part) => (weights[RATING_PARTS[part]!] > 0 ? this.weightings[i * PARTS + part]! : 0),
      (scores) => shareOfBest(scores, wins),
    );
    return Array.from(wins, (won) => won / RATING_DRAWS);
  }

  /**
   * Share of the draws in which each device comes first, second and so on under these weights.
   *
   * @returns by device, then by place
   * @shown Rating: places under the chosen weights
   */
  places(weights: RatingWeights): number[][] {
    const counts = Array.from({ length: this.devices }, () => new Array<number>(this.devices).fill(0));
    this.eachDraw(
      (_, part) => weights[RATING_PARTS[part]!],
      (scores) => {
        for (let d = 0; d < this.devices; d++) {
          let place = 0;
          // the earlier of two that are equal comes first
          for (let other = 0; other < this.devices; other++)
            if (scores[other]! > scores[d]! || (scores[other] === scores[d] && other < d)) place++;
          counts[d]![place]! += 1;
        }
      },
    );
    return counts.map((places) => places.map((count) => count / RATING_DRAWS));
  }

  /** Weighted sums of a draw's devices; their order is that of the means. */
  private eachDraw(
    weight: (draw: number, part: number) => number,
    see: (scores: Float64Array) => void,
  ): void {
    const scores = new Float64Array(this.devices);
    const now = new Float64Array(PARTS);
    for (let i = 0; i < RATING_DRAWS; i++) {
      for (let p = 0; p < PARTS; p++) now[p] = weight(i, p);
      for (let d = 0; d < this.devices; d++) {
        const at = (i * this.devices + d) * PARTS;
        let sum = 0;
        for (let p = 0; p < PARTS; p++) sum += now[p]! * this.values[at + p]!;
        scores[d] = sum;
      }
      see(scores);
    }
  }
}

const drawn = (random: SeededRandom, value: number | null, sd: number): number =>
  value === null
    ? 100 * random.uniform()
    : sd === 0
      ? value
      : Math.min(100, Math.max(0, value + sd * random.normal()));

function shareOfBest(scores: Float64Array, wins: Float64Array): void {
  let [best, leaders] = [-Infinity, 0];
  for (const score of scores) {
    if (score > best) [best, leaders] = [score, 1];
    else if (score === best) leaders++;
  }
  scores.forEach((score, d) => {
    if (score === best) wins[d]! += 1 / leaders;
  });
}

/** A device as it is rated. */
export interface DeviceRating extends Overall {
  name: string;
  /** Share of the draws in which it leads. */
  leads: number;
}

/**
 * Rates devices: overall figure, what missing parts leave open, and how often each leads.
 *
 * @returns in the order that was given
 * @source docs/method.md, "Rating"
 * @example
 * rateDevices([{ name: 'a', parts: { pace: 90, evenness: 90, stamina: 90, warmth: 90, drain: 90 }, sd: {} }])[0].leads; // 1
 */
export function rateDevices(
  devices: readonly RatedDevice[],
  weights: RatingWeights = USUAL_WEIGHTS,
  seed = 1,
): DeviceRating[] {
  const leads = new RatingDraws(devices.length, devices, seed).leads(weights);
  return devices.map((device, d) => ({
    name: device.name,
    ...overallOf(device.parts, weights),
    leads: leads[d]!,
  }));
}
