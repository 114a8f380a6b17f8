const FIRST_S = 1;
const LONGEST_S = 30;
/** What ran so long had not failed at its start. */
const STEADY_MS = 60_000;

/** Pauses before something that ended is started again. */
export interface Pauses {
  /** The next one, s. */
  readonly nextS: number;
  pause: () => Promise<void>;
}

/** Pauses before something that ended is started again: each twice as long as the one before, the first one short again when it ran well. */
export class Backoff implements Pauses {
  private seconds = FIRST_S;
  private lastAt = 0;

  get nextS(): number {
    return performance.now() - this.lastAt > STEADY_MS + this.seconds * 1000 ? FIRST_S : this.seconds;
  }

  async pause(): Promise<void> {
    const seconds = this.nextS;
    this.seconds = Math.min(LONGEST_S, seconds * 2);
    await new Promise((resolve) => setTimeout(resolve, seconds * 1000));
    this.lastAt = performance.now();
  }
}
