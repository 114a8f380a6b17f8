import { LONGEST_RUN_US } from '../limits';

/** Time without data on the run's clock; it parts the frames on its two sides. */
export interface Gap {
  /** Index of the first frame after the gap (N when no frame follows). */
  beforeFrame: number;
  lengthUs: number;
}

/**
 * Frames as they came, in order, on the run's clock.
 *
 * Frame i occupies [start, start + frameUs[i]); starts follow from the frame
 * times and the gaps, so they are not kept.
 */
export interface FrameTrack {
  /** Frame times in whole microseconds, each from 1 to 600,000,000. */
  frameUs: Int32Array;
  /** In order of `beforeFrame`. */
  gaps: Gap[];
}

/** The longest frame time that counts as one; from there on the row is unreadable. */
export const LONGEST_FRAME_US = 600_000_000;

export const EMPTY_TRACK: FrameTrack = { frameUs: new Int32Array(0), gaps: [] };

/**
 * The frames that end within the longest time that a run may take. Whoever
 * reads a file refuses one beyond it; this is for what was stored before.
 *
 * @source docs/method.md, "Limits"
 * @example
 * withinLongest({ frameUs: Int32Array.of(10, 10), gaps: [{ beforeFrame: 1, lengthUs: 1e15 }] }).frameUs; // Int32Array [10]
 */
export function withinLongest(track: FrameTrack): FrameTrack {
  let clock = 0;
  let i = 0;
  let next = 0;
  for (; i < track.frameUs.length; i++) {
    for (let gap = track.gaps[next]; gap && gap.beforeFrame === i; gap = track.gaps[++next])
      clock += gap.lengthUs;
    clock += track.frameUs[i]!;
    if (clock > LONGEST_RUN_US)
      return { frameUs: track.frameUs.subarray(0, i), gaps: track.gaps.filter((gap) => gap.beforeFrame < i) };
  }
  return track;
}

/**
 * Starts of all frames on the run's clock.
 *
 * @param track N frames
 * @returns N + 1 times in µs: the start of each frame, then the end of the last
 * @source docs/method.md, "Frames": frame i occupies [t(i−1), t(i)), t(i) = d(1) + … + d(i) + gaps before it
 * @example
 * frameStartsUs({ frameUs: Int32Array.of(10, 20), gaps: [{ beforeFrame: 1, lengthUs: 5 }] }); // Float64Array [0, 15, 35]
 */
export function frameStartsUs(track: FrameTrack): Float64Array {
  const n = track.frameUs.length;
  const starts = new Float64Array(n + 1);
  let clock = 0;
  let i = 0;
  for (const gap of [...track.gaps, { beforeFrame: n, lengthUs: 0 }]) {
    for (; i < gap.beforeFrame && i < n; i++) {
      starts[i] = clock;
      clock += track.frameUs[i]!;
    }
    if (gap.beforeFrame < n) clock += gap.lengthUs;
  }
  starts[n] = clock;
  return starts;
}
