import { BreakJoiner, HALF_WINDOW, SHORTEST_BREAK_US, type Break } from './breaks';
import { TAIL_FRAMES } from './lows';
import { averagePace } from './pace';
import { median } from './quantile';
import type { SplitMinutes } from './splits';

/** Counts of values in steps, so that quantiles are had at once, to half a step. */
class Histogram {
  private readonly counts: Uint32Array;
  total = 0;

  constructor(
    private readonly step: number,
    steps: number,
  ) {
    this.counts = new Uint32Array(steps + 1);
  }

  add(value: number): void {
    this.counts[Math.min(this.counts.length - 1, Math.floor(value / this.step))]!++;
    this.total++;
  }

  /** The value that the share p of all values lies below; the middle of its step. */
  quantile(p: number): number {
    const place = p * (this.total - 1);
    let below = 0;
    for (let i = 0; i < this.counts.length; i++) {
      below += this.counts[i]!;
      if (below > place) return (i + 0.5) * this.step;
    }
    return this.counts.length * this.step;
  }

  /** Share of the values between two. */
  share(low: number, high: number): number {
    let inside = 0;
    const last = Math.min(this.counts.length - 1, Math.floor(high / this.step));
    for (let i = Math.max(0, Math.ceil(low / this.step - 0.5)); i <= last; i++) inside += this.counts[i]!;
    return inside / this.total;
  }

  clear(): void {
    this.counts.fill(0);
    this.total = 0;
  }
}

export interface LiveSplit {
  fromS: number;
  toS: number;
  average: number | null;
  onePercentLow: number | null;
}

/** Figures of a run that is still going on. */
export interface LiveFigures {
  seconds: number;
  frames: number;
  /** Exact. */
  average: number | null;
  /** To a tenth of a frame per second. */
  median: number | null;
  /** To about a hundredth. */
  hold: number | null;
  /** By quantile, to 10 µs of frame time up to 200 ms; null with fewer than ten frames in the tail. */
  onePercentLow: number | null;
  tenthPercentLow: number | null;
  /** Exact, thirty frames behind. */
  breaks: Break[];
  /** The last one is still open; averages are exact, lows as above. */
  splits: LiveSplit[];
  /** What of this is not exact until the run is analysed at its end. */
  approximate: ('median' | 'hold' | 'onePercentLow' | 'tenthPercentLow')[];
}

const FRAME_STEP_US = 10;
const FRAME_STEPS = 20_000;
const PACE_STEP = 0.1;
const PACE_STEPS = 5000;

/**
 * Figures of splits, pace, lows and breaks while frames come in, in constant
 * time a batch however long the run is. At its end `analyse` gives all figures
 * exactly.
 *
 * @source docs/method.md, the same definitions; quantiles from counts in fine steps
 * @example
 * const live = new LiveRun(5);
 * live.push(new Int32Array(80).fill(25_000));
 * live.figures().average; // 40
 */
export class LiveRun {
  private frames = 0;
  private clockUs = 0;
  private readonly frameTimes = new Histogram(FRAME_STEP_US, FRAME_STEPS);
  private readonly paces = new Histogram(PACE_STEP, PACE_STEPS);
  private second = 0;
  private secondShare = 0;
  private readonly joiner = new BreakJoiner();
  /** The frames whose local medians are not settled yet, after those that they still need. */
  private readonly window: number[] = [];
  private readonly done: LiveSplit[] = [];
  private split = { frames: 0, us: 0, frameTimes: new Histogram(FRAME_STEP_US, FRAME_STEPS) };
  private readonly splitUs: number;
  private settled = 0;
  private settledUs = 0;

  constructor(splitMinutes: SplitMinutes) {
    this.splitUs = splitMinutes * 60e6;
  }

  /** @param us frame times in µs that follow the ones before */
  push(us: ArrayLike<number>): void {
    for (let i = 0; i < us.length; i++) this.frame(us[i]!);
  }

  private frame(us: number): void {
    // the split in which the frame starts
    while (this.clockUs >= (this.done.length + 1) * this.splitUs) this.closeSplit();
    this.split.frames++;
    this.split.us += us;
    this.split.frameTimes.add(us);
    this.frameTimes.add(us);
    this.frames++;
    this.share(us);
    this.clockUs += us;
    this.settle(us);
  }

  /** Shares a frame out over the seconds that it lies in. */
  private share(us: number): void {
    let at = this.clockUs;
    const end = at + us;
    for (let secondEnd = (this.second + 1) * 1e6; end >= secondEnd; secondEnd += 1e6) {
      this.paces.add(this.secondShare + (secondEnd - at) / us);
      this.secondShare = 0;
      this.second++;
      at = secondEnd;
    }
    this.secondShare += (end - at) / us;
  }

  /** Judges the frame that now has enough frames behind it. */
  private settle(us: number): void {
    this.window.push(us);
    if (this.window.length > 2 * HALF_WINDOW + 1) this.window.shift();
    if (this.frames <= HALF_WINDOW) return;
    const index = Math.min(this.settled, HALF_WINDOW);
    const length = this.window[index]!;
    if (length < SHORTEST_BREAK_US) this.joiner.ordinary();
    else this.joiner.long(length, this.settledUs, median(this.window)!);
    this.settledUs += length;
    this.settled++;
  }

  private closeSplit(): void {
    this.done.push(this.openSplit((this.done.length + 1) * (this.splitUs / 1e6)));
    this.split.frameTimes.clear();
    this.split = { frames: 0, us: 0, frameTimes: this.split.frameTimes };
  }

  private openSplit(toS: number): LiveSplit {
    const { frames, us, frameTimes } = this.split;
    return { fromS: this.done.length * (this.splitUs / 1e6), toS, average: averagePace(frames, us), onePercentLow: lowOf(frameTimes, 100) };
  }

  figures(): LiveFigures {
    const middle = this.paces.total === 0 ? null : this.paces.quantile(0.5);
    return {
      seconds: this.clockUs / 1e6,
      frames: this.frames,
      average: averagePace(this.frames, this.clockUs),
      median: middle,
      hold: middle === null ? null : this.paces.share(0.8 * middle, 1.2 * middle),
      onePercentLow: lowOf(this.frameTimes, 100),
      tenthPercentLow: lowOf(this.frameTimes, 1000),
      breaks: this.joiner.breaks,
      splits: [...this.done, ...(this.split.frames > 0 ? [this.openSplit(this.clockUs / 1e6)] : [])],
      approximate: ['median', 'hold', 'onePercentLow', 'tenthPercentLow'],
    };
  }
}

function lowOf(frameTimes: Histogram, oneIn: number): number | null {
  return Math.ceil(frameTimes.total / oneIn) < TAIL_FRAMES ? null : 1e6 / frameTimes.quantile(1 - 1 / oneIn);
}
