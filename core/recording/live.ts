import { BreakJoiner, HALF_WINDOW, SHORTEST_BREAK_US, type Break, type BreakKind } from '../figures/breaks';
import { TAIL_FRAMES } from '../figures/lows';
import { averagePace } from '../figures/pace';
import { median } from '../numbers/quantile';
import type { SpanUs } from '../figures/session';
import type { SplitMinutes } from '../vocabulary';
import { OPENING_FROM_S, OPENING_SECONDS } from '../figures/stamina';

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
  /** Exact counts, thirty frames behind: a message is as long after five hours as after five minutes. */
  breaks: Record<BreakKind, number>;
  /** The last one is still open; averages are exact, lows as above. */
  splits: LiveSplit[];
  /** Mean of the usable seconds of the opening so far; seconds that a freeze overlaps count until the run is analysed. */
  opening: number | null;
  /** Per-second pace of the last minute, the latest last; null for a second without data or excluded. */
  recent: (number | null)[];
  /** What of this is not exact until the run is analysed at its end. */
  approximate: ('median' | 'hold' | 'onePercentLow' | 'tenthPercentLow' | 'opening')[];
}

const FRAME_STEP_US = 10;
const FRAME_STEPS = 20_000;
const PACE_STEP = 0.1;
const PACE_STEPS = 5000;
const RECENT_SECONDS = 60;

/**
 * Figures of splits, pace, lows and breaks while frames come in, in constant
 * time a batch however long the run is. At its end `analyse` gives all figures
 * exactly. Frames that overlap an excluded span are left out as there; where a
 * span becomes known later, the frames are pushed into a new one.
 *
 * @source docs/method.md, the same definitions; quantiles from counts in fine steps
 * @example
 * const live = new LiveRun(5);
 * live.push(new Int32Array(80).fill(25_000));
 * live.figures().average; // 40
 */
export class LiveRun {
  private frames = 0;
  private leftUs = 0;
  private clockUs = 0;
  private readonly frameTimes = new Histogram(FRAME_STEP_US, FRAME_STEPS);
  private readonly paces = new Histogram(PACE_STEP, PACE_STEPS);
  private second = 0;
  private secondShare = 0;
  private secondUsable = true;
  private readonly recent: (number | null)[] = [];
  private readonly opening = { seconds: 0, sum: 0 };
  private readonly joiner = new BreakJoiner();
  /** The frames left whose local medians are not settled yet, after those that they still need. */
  private readonly window: number[] = [];
  private readonly waiting: { atUs: number; parted: boolean }[] = [];
  private parted = false;
  private readonly done: LiveSplit[] = [];
  private split = { frames: 0, us: 0, frameTimes: new Histogram(FRAME_STEP_US, FRAME_STEPS) };
  private readonly splitUs: number;
  private settled = 0;
  private nextSpan = 0;

  /** @param excluded joined and in order; one that is not over ends at Infinity */
  constructor(
    splitMinutes: SplitMinutes,
    private readonly excluded: SpanUs[] = [],
  ) {
    this.splitUs = splitMinutes * 60e6;
  }

  /** @param us frame times in µs that follow the ones before */
  push(us: ArrayLike<number>): void {
    for (let i = 0; i < us.length; i++) this.frame(us[i]!);
  }

  /** Time without data follows. @param us its length */
  gap(us: number): void {
    this.parted = true;
    this.secondUsable = false;
    this.advance(us, 0, true);
    this.closeSplits();
  }

  private frame(us: number): void {
    this.closeSplits();
    while (this.nextSpan < this.excluded.length && this.excluded[this.nextSpan]!.toUs <= this.clockUs)
      this.nextSpan++;
    const span = this.excluded[this.nextSpan];
    const out = span !== undefined && span.fromUs < this.clockUs + us;
    const atUs = this.clockUs;
    this.advance(us, 1 / us, false);
    if (out) {
      this.parted = true;
      return;
    }
    this.split.frames++;
    this.split.us += us;
    this.split.frameTimes.add(us);
    this.frameTimes.add(us);
    this.frames++;
    this.leftUs += us;
    this.settle(us, atUs);
  }

  /** Moves the clock on, sharing what happens out over the seconds that it lies in. */
  private advance(us: number, perUs: number, unusable: boolean): void {
    let at = this.clockUs;
    const end = at + us;
    for (let secondEnd = (this.second + 1) * 1e6; end >= secondEnd; secondEnd += 1e6) {
      this.secondShare += (secondEnd - at) * perUs;
      this.closeSecond();
      this.secondUsable = !unusable || end === secondEnd;
      at = secondEnd;
    }
    this.secondShare += (end - at) * perUs;
    this.clockUs = end;
  }

  private closeSecond(): void {
    const fromUs = this.second * 1e6;
    const usable =
      this.secondUsable && !this.excluded.some((span) => span.fromUs < fromUs + 1e6 && span.toUs > fromUs);
    if (usable) {
      this.paces.add(this.secondShare);
      if (this.second >= OPENING_FROM_S && this.opening.seconds < OPENING_SECONDS) {
        this.opening.seconds++;
        this.opening.sum += this.secondShare;
      }
    }
    this.recent.push(usable ? this.secondShare : null);
    if (this.recent.length > RECENT_SECONDS) this.recent.shift();
    this.secondShare = 0;
    this.second++;
  }

  /** Judges the frame that now has enough frames behind it. */
  private settle(us: number, atUs: number): void {
    this.window.push(us);
    this.waiting.push({ atUs, parted: this.parted });
    this.parted = false;
    if (this.window.length > 2 * HALF_WINDOW + 1) this.window.shift();
    if (this.frames <= HALF_WINDOW) return;
    const index = Math.min(this.settled, HALF_WINDOW);
    const length = this.window[index]!;
    const judged = this.waiting.shift()!;
    if (judged.parted) this.joiner.part();
    if (length < SHORTEST_BREAK_US) this.joiner.ordinary();
    else this.joiner.long(length, judged.atUs, median(this.window)!);
    this.settled++;
  }

  /** Closes the splits that end before the next frame starts. */
  private closeSplits(): void {
    while (this.clockUs >= (this.done.length + 1) * this.splitUs) {
      this.done.push(this.openSplit((this.done.length + 1) * (this.splitUs / 1e6)));
      this.split.frameTimes.clear();
      this.split = { frames: 0, us: 0, frameTimes: this.split.frameTimes };
    }
  }

  private openSplit(toS: number): LiveSplit {
    const { frames, us, frameTimes } = this.split;
    return {
      fromS: this.done.length * (this.splitUs / 1e6),
      toS,
      average: averagePace(frames, us),
      onePercentLow: lowOf(frameTimes, 100),
    };
  }

  /** All so far, in order of their start. */
  get breaks(): Break[] {
    return this.joiner.breaks;
  }

  private count(kind: BreakKind): number {
    return this.joiner.breaks.reduce((sum, found) => (found.kind === kind ? sum + 1 : sum), 0);
  }

  figures(): LiveFigures {
    const middle = this.paces.total === 0 ? null : this.paces.quantile(0.5);
    return {
      seconds: this.clockUs / 1e6,
      frames: this.frames,
      average: averagePace(this.frames, this.leftUs),
      median: middle,
      hold: middle === null ? null : this.paces.share(0.8 * middle, 1.2 * middle),
      onePercentLow: lowOf(this.frameTimes, 100),
      tenthPercentLow: lowOf(this.frameTimes, 1000),
      breaks: { stutter: this.count('stutter'), stall: this.count('stall'), freeze: this.count('freeze') },
      splits: [
        ...this.done,
        ...(this.clockUs > this.done.length * this.splitUs ? [this.openSplit(this.clockUs / 1e6)] : []),
      ],
      opening: this.opening.seconds === 0 ? null : this.opening.sum / this.opening.seconds,
      recent: [...this.recent],
      approximate: ['median', 'hold', 'onePercentLow', 'tenthPercentLow', 'opening'],
    };
  }
}

function lowOf(frameTimes: Histogram, oneIn: number): number | null {
  return Math.ceil(frameTimes.total / oneIn) < TAIL_FRAMES ? null : 1e6 / frameTimes.quantile(1 - 1 / oneIn);
}
