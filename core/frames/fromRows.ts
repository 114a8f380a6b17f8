import { GrowingInts } from './growingInts';
import { LONGEST_FRAME_US, type FrameTrack, type Gap } from './track';
import { LONGEST_RUN_US, MOST_FRAMES } from '../limits';
import type { LogRefused } from '../log/refused';
import { RowTally } from './unreadable';

/**
 * Turns the rows of a log into frames, one row at a time.
 *
 * Each value is a whole number of microseconds, or NaN where the row had no
 * number; `describe` is called only for a row that cannot be used.
 */
export interface FrameRows {
  readonly tally: RowTally;
  add(us: number, line: number, describe: () => string): void;
  /** The frames so far. */
  track(): FrameTrack;
}

/** What a log holds beyond what a run may. */
export interface TooMuch {
  line: number;
  /** How long the run would be, µs; null where it has too many frames. */
  lengthUs: number | null;
  /** Mean frame time of the rows before, µs; NaN where there are none. */
  typicalUs: number;
}

/** Makes the refusal of it. */
export type RefuseTooMuch = (found: TooMuch) => LogRefused;

/**
 * Rows that hold frame times.
 *
 * An unreadable frame time takes no time and parts no neighbours.
 *
 * @source docs/method.md, "Frames"
 */
export class FrameTimeRows implements FrameRows {
  readonly tally = new RowTally();
  private readonly frames = new GrowingInts();
  private lengthUs = 0;

  constructor(private readonly tooMuch: RefuseTooMuch) {}

  add(us: number, line: number, describe: () => string): void {
    this.tally.row();
    if (us > 0 && us <= LONGEST_FRAME_US) {
      const typicalUs = this.lengthUs / this.frames.length;
      this.lengthUs += us;
      if (this.lengthUs > LONGEST_RUN_US) throw this.tooMuch({ line, lengthUs: this.lengthUs, typicalUs });
      if (this.frames.length >= MOST_FRAMES) throw this.tooMuch({ line, lengthUs: null, typicalUs });
      this.frames.push(us);
    } else this.tally.refuse(line, frameTimeReason(us, describe));
  }

  track(): FrameTrack {
    return { frameUs: this.frames.view(), gaps: [] };
  }
}

function frameTimeReason(us: number, describe: () => string): string {
  if (Number.isNaN(us)) return describe();
  if (us === 0) return `the frame time ${describe()} is zero`;
  if (us < 0) return `the frame time ${describe()} is negative`;
  return `the frame time ${describe()} is longer than 600 s`;
}

/**
 * Rows that hold presentation timestamps.
 *
 * The clock starts at the first readable stamp. For k unreadable stamps between
 * two readable ones the k + 1 frames between get equal times, the remainder on
 * the last (never a frame of no time: where fewer microseconds than frames are
 * left, there are as many frames as microseconds). Two readable stamps more
 * than 600 s apart leave a gap.
 *
 * @source docs/method.md, "Frames"
 */
export class TimestampRows implements FrameRows {
  readonly tally = new RowTally();
  private readonly frames = new GrowingInts();
  private readonly gaps: Gap[] = [];
  private firstUs = NaN;
  private lastUs = NaN;
  private unreadableSince = 0;

  constructor(private readonly tooMuch: RefuseTooMuch) {}

  add(us: number, line: number, describe: () => string): void {
    this.tally.row();
    if (Number.isNaN(us)) {
      this.tally.refuse(line, describe());
      this.unreadableSince++;
    } else if (Number.isNaN(this.lastUs)) {
      this.firstUs = this.lastUs = us;
      this.unreadableSince = 0;
    } else if (us <= this.lastUs) {
      this.tally.refuse(line, `the timestamp ${describe()} is not later than the previous one`);
      this.unreadableSince++;
    } else {
      // between the readable stamps before this one, gaps or not
      const steps = this.tally.total - this.tally.unreadable - 2;
      const typicalUs = (this.lastUs - this.firstUs) / steps;
      if (us - this.firstUs > LONGEST_RUN_US)
        throw this.tooMuch({ line, lengthUs: us - this.firstUs, typicalUs });
      if (this.frames.length + this.unreadableSince >= MOST_FRAMES)
        throw this.tooMuch({ line, lengthUs: null, typicalUs });
      this.between(us - this.lastUs, this.unreadableSince + 1);
      this.lastUs = us;
      this.unreadableSince = 0;
    }
  }

  private between(spanUs: number, frames: number): void {
    if (spanUs > LONGEST_FRAME_US) {
      this.gaps.push({ beforeFrame: this.frames.length, lengthUs: spanUs });
      return;
    }
    const count = Math.min(frames, spanUs);
    const each = Math.floor(spanUs / count);
    for (let i = 1; i < count; i++) this.frames.push(each);
    this.frames.push(spanUs - each * (count - 1));
  }

  track(): FrameTrack {
    // time after the last frame belongs to nobody: a gap needs a frame behind it
    const frameUs = this.frames.view();
    return { frameUs, gaps: this.gaps.filter((gap) => gap.beforeFrame < frameUs.length) };
  }
}
