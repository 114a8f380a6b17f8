/** When a chip slows down and when it dares again. */
export interface GovernorRules {
  /** Skin temperature from which it slows, °C. */
  tripC: number;
  /** Skin temperature below which it speeds up; the distance to `tripC` is the hysteresis. */
  clearC: number;
  /** Levels at a time, down and up. */
  down: number;
  up: number;
  /** Seconds between two changes. */
  restS: number;
  /** Share of the fastest speed below which it never goes. */
  lowest: number;
}

/** Speed of each level as a share of the fastest. */
export const LEVELS = [1, 0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6, 0.55, 0.5, 0.45];

/** Power grows faster than speed: voltage rises with frequency. */
const POWER_EXPONENT = 2.4;

/** Steps the chip's level by skin temperature, with hysteresis. */
export class Governor {
  private level = 0;
  private restedS = Infinity;

  private readonly slowest: number;

  constructor(private readonly rules: GovernorRules) {
    this.slowest = LEVELS.findLastIndex((speed) => speed >= rules.lowest);
  }

  step(skinC: number, seconds: number): void {
    this.restedS += seconds;
    if (this.restedS < this.rules.restS) return;
    const before = this.level;
    if (skinC >= this.rules.tripC) this.level = Math.min(this.slowest, this.level + this.rules.down);
    else if (skinC < this.rules.clearC) this.level = Math.max(0, this.level - this.rules.up);
    if (this.level !== before) this.restedS = 0;
  }

  get speed(): number {
    return LEVELS[this.level]!;
  }

  /** Power at this level as a share of the fastest level's. */
  get powerShare(): number {
    return this.speed ** POWER_EXPONENT;
  }
}
