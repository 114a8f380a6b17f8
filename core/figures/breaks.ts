import type { Session } from './session';
import { atLeast } from '../numbers/threshold';

export type BreakKind = 'stutter' | 'stall' | 'freeze';

/** A moment at which the picture hung. */
export interface Break {
  kind: BreakKind;
  /** Start of its first frame on the run's clock, µs. */
  atUs: number;
  /** End of its last frame on the run's clock, µs. */
  endUs: number;
  /** Sum of its frame times, µs. */
  lengthUs: number;
  /** Time beyond what frames around it took, µs. */
  lostUs: number;
}

/** Frames to either side of one that its local median takes in. */
export const HALF_WINDOW = 30;
const JOINING_US = 100_000;
const STALL_US = 250_000;
const FREEZE_US = 1_000_000;
const ORDINARY_BETWEEN = 3;

/**
 * Breaks: frames that took at least 2.5 times what the frames around them took,
 * and at least 40 ms.
 *
 * Breaking frames of 100 ms or more with fewer than three ordinary frames, no
 * gap and no excluded frame between them are one break.
 *
 * @param session prepared frames; only the frames left count
 * @returns breaks in order of their start
 * @shown breaks: ticks of the lane, marks of the chart
 * @source docs/method.md, "Breaks"; local median of 61 frames as a robust baseline is common practice in signal work
 * @example
 * findBreaks(prepareSession({ frameUs: Int32Array.of(...Array(50).fill(16_667), 2_000_000, ...Array(50).fill(16_667)), gaps: [] })).length; // 1
 */
export function findBreaks(session: Session): Break[] {
  const { leftUs, leftStartsUs, partings } = session;
  const median = new LocalMedian(leftUs);
  const joiner = new BreakJoiner();
  let parting = 0;
  let nextParting = partings[0] ?? Infinity;
  for (let j = 0; j < leftUs.length; j++) {
    if (j === nextParting) {
      joiner.part();
      nextParting = partings[++parting] ?? Infinity;
    }
    const length = leftUs[j]!;
    // the median is needed only where the frame is long enough to break at all
    if (length < SHORTEST_BREAK_US) joiner.ordinary();
    else joiner.long(length, leftStartsUs[j]!, median.around(j));
  }
  return joiner.breaks;
}

/** Frames shorter than this never break. */
export const SHORTEST_BREAK_US = 40_000;

/** Takes frames in order and makes breaks of those that break. */
export class BreakJoiner {
  readonly breaks: Break[] = [];
  private open: Break | null = null;
  private ordinarySince = 0;

  /** A gap or an excluded frame lies before the next frame. */
  part(): void {
    this.open = null;
  }

  /** A frame that breaks nothing. */
  ordinary(): void {
    this.ordinarySince++;
  }

  /** A frame of {@link SHORTEST_BREAK_US} or more, and the median of the frames around it. */
  long(lengthUs: number, atUs: number, medianUs: number): void {
    if (!atLeast(lengthUs, 2.5 * medianUs)) return this.ordinary();
    const joins = lengthUs >= JOINING_US;
    if (this.open && joins && this.ordinarySince < ORDINARY_BETWEEN) {
      this.open.endUs = atUs + lengthUs;
      this.open.lengthUs += lengthUs;
      this.open.lostUs += lengthUs - medianUs;
      this.open.kind = kindOf(this.open.lengthUs);
    } else {
      const found: Break = {
        kind: kindOf(lengthUs),
        atUs,
        endUs: atUs + lengthUs,
        lengthUs,
        lostUs: lengthUs - medianUs,
      };
      this.breaks.push(found);
      if (joins) this.open = found;
    }
    if (joins) this.ordinarySince = 0;
  }
}

const kindOf = (lengthUs: number): BreakKind =>
  lengthUs < STALL_US ? 'stutter' : lengthUs < FREEZE_US ? 'stall' : 'freeze';

/** Median of the frames i − 30 … i + 30, cut at the ends; at most 61 values a look-up, so the whole stays linear. */
class LocalMedian {
  private readonly window = new Int32Array(2 * HALF_WINDOW + 1);

  constructor(private readonly frameUs: Int32Array) {}

  around(i: number): number {
    const from = Math.max(0, i - HALF_WINDOW);
    const to = Math.min(this.frameUs.length, i + HALF_WINDOW + 1);
    const size = to - from;
    const view = this.window.subarray(0, size);
    view.set(this.frameUs.subarray(from, to));
    view.sort();
    const upper = view[size >> 1]!;
    return size % 2 === 1 ? upper : (view[(size >> 1) - 1]! + upper) / 2;
  }
}
