import { quantile } from '../numbers/quantile';

/** How often each frame time came, for a picture. */
export interface Distribution {
  /** Width of a step, ms. */
  stepMs: number;
  /** Frames in [i · stepMs, (i + 1) · stepMs). */
  counts: number[];
  /** Frames longer than all steps. */
  beyond: number;
}

const STEPS = 60;
const FINEST_MS = 0.25;

/**
 * Distribution of frame times up to a little beyond their 99.9 % quantile.
 *
 * @param sortedUs frame times in µs, ascending
 * @returns null without frames
 * @shown Frame times: the histogram
 * @source a histogram of equal steps
 * @example
 * distributionOf(Int32Array.of(10_000, 10_000, 20_000))?.counts.reduce((sum, count) => sum + count, 0); // 3
 */
export function distributionOf(sortedUs: Int32Array): Distribution | null {
  const high = quantile(sortedUs, 0.999);
  if (high === null) return null;
  const stepMs = Math.max(FINEST_MS, Math.ceil((high * 1.15) / 1000 / STEPS / FINEST_MS) * FINEST_MS);
  const steps = Math.ceil((high * 1.15) / 1000 / stepMs) + 1;
  const counts = new Array<number>(steps).fill(0);
  let beyond = 0;
  for (let i = 0; i < sortedUs.length; i++) {
    const step = Math.floor(sortedUs[i]! / 1000 / stepMs);
    if (step < steps) counts[step]!++;
    else beyond++;
  }
  return { stepMs, counts, beyond };
}
