import type { Break, BreakKind } from './breaks';
import type { Session } from './session';

/** How evenly the frames came. */
export interface Evenness {
  /** Standard deviation of the frame times (n − 1), ms. */
  sdMs: number | null;
  /** Mean difference between neighbours, ms. */
  successiveMs: number | null;
  /** Share (0–1) of the frames that took more than one and a half target frames. */
  late: number | null;
  stutters: number | null;
  stalls: number | null;
  freezes: number | null;
  /** Time lost in breaks, ms. */
  lostMs: number | null;
}

const NOTHING: Evenness = {
  sdMs: null,
  successiveMs: null,
  late: null,
  stutters: null,
  stalls: null,
  freezes: null,
  lostMs: null,
};

/**
 * Spread of the frame times and the breaks among them.
 *
 * @param session prepared frames
 * @param breaks of the same session, from `findBreaks`
 * @param target frames per second, or null where none is set
 * @returns all null without frames; the deviation is null for a single frame
 * @shown Evenness: deviation, frame to frame, late, stutters, stalls, freezes, time lost
 * @source docs/method.md, "Evenness"; deviation about the mean in two passes
 * @example
 * evenness(prepareSession({ frameUs: Int32Array.of(10_000, 20_000), gaps: [] }), [], 60).successiveMs; // 10
 */
export function evenness(session: Session, breaks: Break[], target: number | null): Evenness {
  const { leftUs, partings, leftTotalUs } = session;
  const n = leftUs.length;
  if (n === 0) return NOTHING;
  const mean = leftTotalUs / n;
  let squares = 0;
  let change = 0;
  let pairs = 0;
  let late = 0;
  let parting = 0;
  let nextParting = partings[0] ?? Infinity;
  const lateBeyondUs = target === null ? Infinity : 1.5e6 / target;
  for (let j = 0; j < n; j++) {
    const length = leftUs[j]!;
    squares += (length - mean) * (length - mean);
    // a whole number of µs beyond the line by no more than rounding is on it
    if (length > lateBeyondUs + 1e-9) late++;
    if (j === nextParting) nextParting = partings[++parting] ?? Infinity;
    else if (j > 0) {
      change += Math.abs(length - leftUs[j - 1]!);
      pairs++;
    }
  }
  const count = (kind: BreakKind): number => breaks.filter((found) => found.kind === kind).length;
  return {
    sdMs: n < 2 ? null : Math.sqrt(squares / (n - 1)) / 1000,
    successiveMs: pairs === 0 ? null : change / pairs / 1000,
    late: target === null ? null : late / n,
    stutters: count('stutter'),
    stalls: count('stall'),
    freezes: count('freeze'),
    lostMs: breaks.reduce((total, found) => total + found.lostUs, 0) / 1000,
  };
}
