import { GrowingInts } from '../frames/growingInts';
import { LONGEST_FRAME_US, type FrameTrack, type Gap } from '../frames/track';
import { RowTally } from '../frames/unreadable';
import { LONGEST_RUN_US, MOST_FRAMES } from '../limits';
import { LogRefused } from '../log/refused';
import type { FramesLine } from './lines';

const CLOCK_SLACK_US = 5000;

/**
 * Joins batches of frame times to one track.
 *
 * A batch that comes later than the one before it says (by more than 5 ms and
 * 1 µs for each of that one's frames) leaves a gap of the difference; one that
 * comes earlier overlaps and is refused; any other continues.
 *
 * @source docs/formats.md, "frames"
 * @example
 * const batches = new FrameBatches();
 * batches.add({ type: 'frames', atMs: 0, us: [10_000] }, 1);
 * batches.add({ type: 'frames', atMs: 1000, us: [10_000] }, 2);
 * batches.track().gaps; // [{ beforeFrame: 1, lengthUs: 990_000 }]
 */
export class FrameBatches {
  readonly tally = new RowTally();
  private readonly frames = new GrowingInts();
  private readonly gaps: Gap[] = [];
  private expectedUs = 0;
  private lastFrames = 0;

  /**
   * @returns the gap before the batch, µs (0 for none), and its readable frame times
   * @throws LogRefused('overlap') when the batch starts before the last one ended; 'too-long' or 'too-many' when the run would hold more than a run may, and then nothing of the batch is taken
   */
  add(batch: FramesLine, line: number): { gapUs: number; us: number[] } {
    const atUs = Math.round(batch.atMs * 1000);
    const offUs = atUs - this.expectedUs;
    const slackUs = CLOCK_SLACK_US + this.lastFrames;
    if (offUs < -slackUs) {
      throw new LogRefused(
        'overlap',
        `Line ${line}: the frames start at ${batch.atMs} ms, but the frames before end at ${this.expectedUs / 1000} ms.`,
        'Two loggers may have written to one file. Split the file, or correct atMs.',
        line,
      );
    }
    if (
      atUs +
        batch.us.reduce<number>(
          (sum, us) => sum + (us !== null && us > 0 && us <= LONGEST_FRAME_US ? us : 0),
          0,
        ) >
      LONGEST_RUN_US
    ) {
      throw new LogRefused(
        'too-long',
        `Line ${line}: the frames go beyond 48 hours, the limit for a run.`,
        'atMs is milliseconds from the start of the run; frame times are microseconds. Check the units the logger writes.',
        line,
      );
    }
    if (this.frames.length + batch.us.length > MOST_FRAMES) throw tooManyFrames(line);
    const gapUs = offUs > slackUs ? offUs : 0;
    if (gapUs > 0) this.gaps.push({ beforeFrame: this.frames.length, lengthUs: gapUs });
    let lengthUs = 0;
    const readable: number[] = [];
    for (const value of batch.us) {
      this.tally.row();
      const us = value === null ? NaN : Math.floor(value + 0.5);
      if (us > 0 && us <= LONGEST_FRAME_US) {
        this.frames.push(us);
        readable.push(us);
        lengthUs += us;
      } else
        this.tally.refuse(
          line,
          value === null
            ? 'a frame time is missing'
            : `the frame time ${value} µs is ${us <= 0 ? 'not above zero' : 'longer than 600 s'}`,
        );
    }
    this.lastFrames = readable.length;
    this.expectedUs = atUs + lengthUs;
    return { gapUs, us: readable };
  }

  track(): FrameTrack {
    const frameUs = this.frames.view();
    return { frameUs, gaps: joinGaps(this.gaps).filter((gap) => gap.beforeFrame < frameUs.length) };
  }
}

/** More frames than a run may have. */
export const tooManyFrames = (line: number): LogRefused =>
  new LogRefused(
    'too-many',
    `Line ${line}: the run has more than ${MOST_FRAMES.toLocaleString('en-GB')} frames.`,
    'Split the log into parts, and import each as its own run.',
    line,
  );

/** Batches without a readable frame may leave several gaps at one place: they are one. */
function joinGaps(gaps: Gap[]): Gap[] {
  const joined: Gap[] = [];
  for (const gap of gaps) {
    const last = joined.at(-1);
    if (last && last.beforeFrame === gap.beforeFrame) last.lengthUs += gap.lengthUs;
    else joined.push({ ...gap });
  }
  return joined;
}
