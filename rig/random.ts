/**
 * Seeded random numbers: the same seed gives the same run on every machine.
 * Generator: mulberry32, a public-domain mixing of a 32-bit counter.
 */
export class Random {
  constructor(private state: number) {}

  /** Uniform in [0, 1). */
  uniform(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.uniform();
  }

  /** Standard normal, by the Box–Muller transform. */
  normal(): number {
    return Math.sqrt(-2 * Math.log(1 - this.uniform())) * Math.cos(2 * Math.PI * this.uniform());
  }

  /** Whether an event of a Poisson process with this rate falls into a stretch of this length. */
  happens(perMinute: number, seconds: number): boolean {
    return this.uniform() < 1 - Math.exp((-perMinute * seconds) / 60);
  }
}
