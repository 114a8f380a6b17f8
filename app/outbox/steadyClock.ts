/** A clock further off than this was not merely heard late. */
const SLEPT_MS = 1500;

/** How far the server's clock was from this machine's, for a page that is loaded while nobody answers. */
const SKEW = 'pace-check-clock-skew';
/** Hearing varies by this much, ms. */
const SAME_SKEW_MS = 50;

function keptSkewMs(): number {
  const kept = Number(globalThis.localStorage?.getItem(SKEW) ?? 0);
  return Number.isFinite(kept) ? kept : 0;
}

/**
 * The server's clock as this page reckons it: what the server said, counted on
 * by the browser's steady clock. A wall clock that someone sets changes
 * nothing.
 */
export class SteadyClock {
  private skewMs = keptSkewMs();
  private offsetMs = Date.now() + this.skewMs - performance.now();
  private known = false;

  /** @param now what the server's clock showed when it spoke, ms since 1970 */
  heard(now: number): void {
    const offset = now - performance.now();
    // a word is always heard late: the earliest heard tells most. A page that slept has a steady clock that stood still
    if (!this.known || Math.abs(offset - this.offsetMs) > SLEPT_MS) this.offsetMs = offset;
    else this.offsetMs = Math.max(this.offsetMs, offset);
    this.known = true;
    this.keepSkew(this.now() - Date.now());
  }

  private keepSkew(skewMs: number): void {
    if (Math.abs(skewMs - this.skewMs) < SAME_SKEW_MS) return;
    this.skewMs = skewMs;
    globalThis.localStorage?.setItem(SKEW, String(Math.round(skewMs)));
  }

  /** ms since 1970. */
  now(): number {
    return performance.now() + this.offsetMs;
  }
}

export const steadyClock = new SteadyClock();
