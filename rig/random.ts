import { SeededRandom } from '@pace-check/core';

/** Seeded random numbers of the stand-ins: the same seed gives the same run on every machine. */
export class Random extends SeededRandom {
  between(low: number, high: number): number {
    return low + (high - low) * this.uniform();
  }

  /** Whether an event of a Poisson process with this rate falls into a stretch of this length. */
  happens(perMinute: number, seconds: number): boolean {
    return this.uniform() < 1 - Math.exp((-perMinute * seconds) / 60);
  }
}
