import { frameStartsUs, type FrameTrack } from '../frames/track';

/** A stretch [fromUs, toUs) of the run's clock. */
export interface SpanUs {
  fromUs: number;
  toUs: number;
}

/**
 * A run's frames made ready for every figure: starts on the clock, the frames
 * that excluded spans leave, and where neighbours are parted.
 */
export interface Session {
  track: FrameTrack;
  /** N + 1 times: start of each frame, then the end of the last. */
  startsUs: Float64Array;
  /** End of the last frame, or of the run where a logger stopped before it; 0 without frames. */
  endUs: number;
  /** Excluded spans, joined where they touch and in order. */
  excluded: SpanUs[];
  /** Gaps as spans of the clock. */
  gaps: SpanUs[];
  /** Frame times of the frames left, in order. */
  leftUs: Int32Array;
  /** Starts of the frames left. */
  leftStartsUs: Float64Array;
  /** Positions j in `leftUs`, ascending, where a gap or an excluded frame lies between j − 1 and j. */
  partings: number[];
  /** Sum of `leftUs`. */
  leftTotalUs: number;
}

/**
 * Prepares a run's frames for the figures.
 *
 * @param track frames in order
 * @param excludedSpans stretches [from, to) of the clock that hold menus, loading, adverts or pauses, in any order
 * @param endedUs when the run ended, if somebody says so: where that is more than a minute after the last frame, the rest is a gap
 * @source docs/method.md, "Frames": a frame that overlaps an excluded span is left out of every figure except the per-second pace
 * @example
 * prepareSession({ frameUs: Int32Array.of(10, 10, 10), gaps: [] }, [{ fromUs: 12, toUs: 13 }]).leftUs; // Int32Array [10, 10]
 */
export function prepareSession(
  track: FrameTrack,
  excludedSpans: SpanUs[] = [],
  endedUs: number | null = null,
): Session {
  const startsUs = frameStartsUs(track);
  const n = track.frameUs.length;
  const excluded = joinSpans(excludedSpans);
  const lastUs = n === 0 ? 0 : startsUs[n]!;
  const stopped = n > 0 && endedUs !== null && endedUs - lastUs > STOPPED_US;
  const endUs = stopped ? endedUs : lastUs;
  const gaps = [...gapSpans(track, startsUs), ...(stopped ? [{ fromUs: lastUs, toUs: endUs }] : [])];
  const gapBefore = new Set(track.gaps.map((gap) => gap.beforeFrame));
  const base = { track, startsUs, endUs, excluded, gaps };

  if (excluded.length === 0) {
    const partings = [...gapBefore].filter((i) => i > 0 && i < n).sort((a, b) => a - b);
    return {
      ...base,
      leftUs: track.frameUs,
      leftStartsUs: startsUs.subarray(0, n),
      partings,
      leftTotalUs: sum(track.frameUs),
    };
  }

  const leftUs = new Int32Array(n);
  const leftStartsUs = new Float64Array(n);
  const partings: number[] = [];
  let left = 0;
  let span = 0;
  let parted = false;
  for (let i = 0; i < n; i++) {
    const start = startsUs[i]!;
    const end = start + track.frameUs[i]!;
    while (span < excluded.length && excluded[span]!.toUs <= start) span++;
    if (gapBefore.has(i)) parted = true;
    if (span < excluded.length && excluded[span]!.fromUs < end) {
      parted = true;
      continue;
    }
    if (parted && left > 0) partings.push(left);
    parted = false;
    leftStartsUs[left] = start;
    leftUs[left++] = track.frameUs[i]!;
  }
  const kept = leftUs.slice(0, left);
  return {
    ...base,
    leftUs: kept,
    leftStartsUs: leftStartsUs.slice(0, left),
    partings,
    leftTotalUs: sum(kept),
  };
}

/** A logger that is silent for so long before the end has stopped. */
const STOPPED_US = 60e6;

/** Spans in order, joined where they touch. */
export function joinSpans(spans: SpanUs[]): SpanUs[] {
  const joined: SpanUs[] = [];
  for (const span of [...spans].filter((s) => s.toUs > s.fromUs).sort((a, b) => a.fromUs - b.fromUs)) {
    const last = joined.at(-1);
    if (last && span.fromUs <= last.toUs) last.toUs = Math.max(last.toUs, span.toUs);
    else joined.push({ ...span });
  }
  return joined;
}

function gapSpans(track: FrameTrack, startsUs: Float64Array): SpanUs[] {
  return track.gaps
    .filter((gap) => gap.beforeFrame < track.frameUs.length)
    .map((gap) => ({ fromUs: startsUs[gap.beforeFrame]! - gap.lengthUs, toUs: startsUs[gap.beforeFrame]! }));
}

function sum(values: Int32Array): number {
  let total = 0;
  for (let i = 0; i < values.length; i++) total += values[i]!;
  return total;
}

/** First index whose value is above `limit` in an ascending array. */
export function firstAbove(ascending: ArrayLike<number>, limit: number): number {
  let low = 0;
  let high = ascending.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ascending[middle]! <= limit) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** First index whose value is at least `target` in an ascending array. */
export function firstAtLeast(ascending: ArrayLike<number>, target: number): number {
  let low = 0;
  let high = ascending.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ascending[middle]! < target) low = middle + 1;
    else high = middle;
  }
  return low;
}
