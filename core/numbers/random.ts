/**
 * Seeded random numbers: the same seed gives the same figures on every machine.
 *
 * @source mulberry32, a public-domain mixing of a 32-bit counter
 * @example
 * new SeededRandom(1).uniform() === new SeededRandom(1).uniform(); // true
 */
export class SeededRandom {
  constructor(private state: number) {}

  /** Uniform in [0, 1). */
  uniform(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  /** A whole number from 0 to below `end`. */
  below(end: number): number {
    return Math.floor(this.uniform() * end);
  }

  /** Exponential with mean 1. */
  exponential(): number {
    return -Math.log(1 - this.uniform());
  }

  /**
   * Normal with mean 0 and standard deviation 1.
   *
   * @source Box and Muller (1958)
   */
  normal(): number {
    return Math.sqrt(2 * this.exponential()) * Math.cos(2 * Math.PI * this.uniform());
  }
}
