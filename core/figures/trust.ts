import type { Caveat, Confidence } from '../vocabulary';

/** Measures that a caveat touches: pace with evenness and stamina, warmth, drain. */
export const TRUSTED = ['pace', 'warmth', 'drain'] as const;
export type Trusted = (typeof TRUSTED)[number];
/** How far each measure may be trusted; null where it has no figure. */
export type Confidences = Record<Trusted, Confidence | null>;

/** What a run's confidence rests on beside its caveats. */
export interface Trust {
  /** Measures that have a figure. */
  has: Trusted[];
  /** Points of caveats that weigh more than usual. */
  points: Partial<Record<Caveat, number>>;
  /** What doubtful values were of; a caveat of sensors weighs on nothing else. */
  doubted: Trusted[];
}
