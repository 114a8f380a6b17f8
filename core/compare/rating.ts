import type { Figures } from '../figures/model';
import { SeededRandom } from '../numbers/random';

/** The parts of a rating, in the order of the five measures. */
export const RATING_PARTS = ['pace', 'evenness', 'stamina', 'warmth', 'drain'] as const;
export type RatingPart = (typeof RATING_PARTS)[number];
export type RatingParts = Record<RatingPart, number | null>;
export type RatingWeights = Record<RatingPart, number>;

/** Weights until the reviewer changes them. */
export const USUAL_WEIGHTS: RatingWeights = { pace: 25, evenness: 20, stamina: 30, warmth: 15, drain: 10 };

export interface Rating {
  parts: RatingParts;
  /** 0–100 over the parts that are there. */
  overall: number | null;
  /** A part is missing: the overall figure leaves it out. */
  partial: boolean;
}

/** 0 at `from`, 100 at `to`, straight between, held at the ends. */
const scale = (value: number, from: number, to: number): number =>
  Math.min(100, Math.max(0, ((value - from) / (to - from)) * 100));

/**
 * Rating of a run, always with its parts.
 *
 * @param target frames per second, or null: then pace and evenness are missing
 * @param weights at least 0 each
 * @source docs/method.md, "Rating"; common practice
 */
export function rateRun(
  figures: Figures,
  target: number | null,
  weights: RatingWeights = USUAL_WEIGHTS,
): Rating {
  const { pace, stamina, warmth } = figures;
  const hoursFromFull = figures.drain?.hoursFromFull ?? null;
  const parts: RatingParts = {
    pace: target === null || pace.average === null ? null : scale(pace.average / target, 0.5, 1),
    evenness: evennessPart(figures),
    stamina: stamina.retention === null ? null : scale(stamina.retention, 0.5, 1),
    warmth: warmth.normalisedPeakC === null ? null : scale(warmth.normalisedPeakC, 48, 36),
    drain: hoursFromFull === null ? null : scale(hoursFromFull, 1.5, 8),
  };
  const there = RATING_PARTS.filter((part) => parts[part] !== null && weights[part] > 0);
  const weight = there.reduce((sum, part) => sum + weights[part], 0);
  return {
    parts,
    overall:
      weight === 0 ? null : there.reduce((sum, part) => sum + weights[part] * parts[part]!, 0) / weight,
    partial: RATING_PARTS.some((part) => parts[part] === null),
  };
}

function evennessPart({ evenness, pace, frames }: Figures): number | null {
  const { late, stutters, stalls, freezes } = evenness;
  if (late === null || stutters === null || stalls === null || freezes === null || pace.average === null)
    return null;
  const tenMinutes = frames.count / pace.average / 600;
  const breaks = (2 * stutters + 10 * stalls + 20 * freezes) / tenMinutes;
  return Math.max(0, 100 - 60 * Math.min(1, late / 0.1) - Math.min(40, breaks));
}

const DRAWS = 10_000;

/**
 * How sure the order is: the share of weightings, drawn evenly from all there
 * are, in which each device leads. A tie is shared.
 *
 * @param devices parts of each; a missing part is left out of that device's mean
 * @returns shares in the same order, adding up to 1; all 0 where no device has a part
 * @shown (not on a screen yet) rating: how sure is the order
 * @source uniform draws from the simplex as normalised exponentials (Devroye, 1986); docs/method.md, "Rating"
 * @example
 * orderCertainty([{ pace: 90, evenness: 90, stamina: 90, warmth: 90, drain: 90 }, { pace: 80, evenness: 80, stamina: 80, warmth: 80, drain: 80 }], 1); // [1, 0]
 */
export function orderCertainty(devices: RatingParts[], seed: number): number[] {
  const random = new SeededRandom(seed);
  const wins = devices.map(() => 0);
  for (let draw = 0; draw < DRAWS; draw++) {
    const weights = RATING_PARTS.map(() => random.exponential());
    const scores = devices.map((parts) => {
      let sum = 0;
      let weight = 0;
      RATING_PARTS.forEach((part, i) => {
        const value = parts[part];
        if (value === null) return;
        sum += weights[i]! * value;
        weight += weights[i]!;
      });
      return weight === 0 ? -Infinity : sum / weight;
    });
    const best = Math.max(...scores);
    if (best === -Infinity) continue;
    const leaders = scores.filter((score) => score === best).length;
    scores.forEach((score, i) => {
      if (score === best) wins[i]! += 1 / leaders;
    });
  }
  return wins.map((count) => count / DRAWS);
}
