import { quantile } from '../numbers/quantile';

/** The three definitions of a low that are in use, from the same frames, in frames per second. */
export interface Low {
  /** Pace of the frame time that only the share p of the frames exceeds. Leads. */
  quantile: number | null;
  /** Pace of the mean of the longest share p of the frames. */
  worstMean: number | null;
  /** Pace of the frame time at which the longest frames have filled the share p of the time. */
  timeShare: number | null;
}

const NO_LOW: Low = { quantile: null, worstMean: null, timeShare: null };
/** Fewer frames in the tail than this say nothing. */
export const TAIL_FRAMES = 10;

/**
 * One-in-`oneIn` low of frame times, in three definitions.
 *
 * @param sortedUs frame times in µs, ascending
 * @param oneIn 100 for the 1 % low, 1000 for the 0.1 % low
 * @returns frames per second; all null where the tail has fewer than ten frames
 * @shown 1 % low, 0.1 % low: quantile, worst mean, time share
 * @source docs/method.md, "Lows"; quantile: Hyndman and Fan (1996), type 7; the other two: common practice
 * @example
 * lows(new Int32Array(1000).fill(20_000), 100).quantile; // 50
 */
export function lows(sortedUs: Int32Array, oneIn: 100 | 1000): Low {
  const n = sortedUs.length;
  const tail = Math.ceil(n / oneIn);
  if (tail < TAIL_FRAMES) return NO_LOW;
  let total = 0;
  for (let i = 0; i < n; i++) total += sortedUs[i]!;
  let tailSum = 0;
  for (let i = n - tail; i < n; i++) tailSum += sortedUs[i]!;
  let reached = 0;
  let i = n;
  while (i > 0 && reached * oneIn < total) reached += sortedUs[--i]!;
  return {
    quantile: 1e6 / quantile(sortedUs, 1 - 1 / oneIn)!,
    worstMean: (1e6 * tail) / tailSum,
    timeShare: 1e6 / sortedUs[i]!,
  };
}

const DIGIT_BITS = 11;
const BUCKETS = 1 << DIGIT_BITS;

/**
 * Frame times in ascending order, in a new array.
 *
 * @param frameUs whole numbers from 0 to 2³¹ − 1
 * @source radix sort from the least significant digit (Knuth, The Art of Computer Programming 3, 5.2.5): linear, and two passes for all usual frame times
 * @example
 * sortedFrames(Int32Array.of(30, 10, 20)); // Int32Array [10, 20, 30]
 */
export function sortedFrames(frameUs: Int32Array): Int32Array {
  const n = frameUs.length;
  // below a few thousand the runtime's own sort is as quick
  if (n < 4096) return frameUs.slice().sort();
  let longest = 0;
  for (let i = 0; i < n; i++) if (frameUs[i]! > longest) longest = frameUs[i]!;
  // two arrays in turn; the given one is read in the first pass and never written
  const stores = [new Int32Array(n), new Int32Array(n)];
  let from = frameUs;
  for (let pass = 0; pass === 0 || longest >>> (pass * DIGIT_BITS) > 0; pass++) {
    const shift = pass * DIGIT_BITS;
    const to = stores[pass % 2]!;
    const starts = new Int32Array(BUCKETS + 1);
    for (let i = 0; i < n; i++) starts[((from[i]! >>> shift) & (BUCKETS - 1)) + 1]!++;
    for (let bucket = 1; bucket < BUCKETS; bucket++) starts[bucket]! += starts[bucket - 1]!;
    for (let i = 0; i < n; i++) to[starts[(from[i]! >>> shift) & (BUCKETS - 1)]!++] = from[i]!;
    from = to;
  }
  return from;
}
