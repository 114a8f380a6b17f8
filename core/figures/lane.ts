import { LONGEST_RUN_S } from '../limits';
import { greatest } from '../numbers/thin';
import { middleOf } from '../readOff/ends';
import type { EndReason } from '../vocabulary';
import type { Figures } from './model';
import type { Split } from './splits';

/** One cell of a run’s lane. */
export interface LaneCell {
  fromS: number;
  toS: number;
  /** 0–1: average pace as a share of the target; without a target, hold. Null where neither is known. */
  height: number | null;
  /** Ends of the height where it was read off; null where frames were logged. */
  ends: { low: number; high: number } | null;
  /** Starts of the breaks, seconds on the run’s clock. */
  breaks: { atS: number; freeze: boolean }[];
  hottestC: number | null;
  /** Percent of the battery at the cell's end. */
  percentAtEnd: number | null;
}

export interface Lane {
  seconds: number;
  /** What a height is a share of: the target, all seconds (hold), or the highest rate that was read, or full speed. */
  measures: 'target' | 'hold' | 'highest' | 'speed';
  target: number | null;
  /** Frames per second that the full height stands for; null where a height is no share of a rate. */
  top: number | null;
  /** No frames were logged: what is drawn was read off. */
  readOff: boolean;
  cells: LaneCell[];
  end: EndReason | null;
}

/**
 * A run as one band: a cell per split, with what its picture needs.
 *
 * @param target frames per second, or null where none is set: then a cell is as high as its hold
 * @shown the lane
 * @source docs/method.md, "Lane"
 * @example
 * laneOf(analyse(runInput({ frameUs: new Int32Array(2400).fill(25_000), gaps: [] }, { dropped: 0, cutOff: false, entries: [] }, factsOf(null))).figures, 50).cells[0].height; // 0.8
 */
export function laneOf(figures: Figures, target: number | null): Lane {
  const readOff = figures.frames.count === 0 && figures.pace.source !== null;
  const cells = readOff
    ? readCells(figures, target)
    : figures.splits.map((split) => cell(split, figures, target));
  const measures = bySpeed(figures) ? 'speed' : target !== null ? 'target' : readOff ? 'highest' : 'hold';
  return {
    seconds: Math.min(LONGEST_RUN_S, figures.frames.seconds),
    measures,
    target,
    top: measures === 'target' ? target : measures === 'highest' ? highestOf(figures) : null,
    readOff,
    cells,
    end: figures.end?.reason ?? null,
  };
}

/** Whether only the speed of an emulator was read. */
const bySpeed = ({ pace, frames, read }: Figures): boolean =>
  frames.count === 0 && pace.interval === null && read !== null && read.speed !== null;

/** The highest rate that was read; null where none was. */
function highestOf({ splits, pace }: Figures): number | null {
  const ends = [...splits.map((split) => split.interval), pace.interval];
  const highest = Math.max(...ends.map((one) => one?.high ?? one?.low ?? 0));
  return highest > 0 ? highest : null;
}

/**
 * Lanes that are drawn together, on one scale for each title: its target (the
 * highest among them), else the highest rate of their cells. What is a share of
 * something else than a rate stays as it is.
 *
 * @shown lanes drawn together
 * @source docs/method.md, "Lane"
 */
export function onOneScale<T extends { title: string; lane: Lane }>(runs: readonly T[]): T[] {
  const tops = new Map<string, { target: number; highest: number }>();
  for (const { title, lane } of runs) {
    const before = tops.get(title) ?? { target: 0, highest: 0 };
    tops.set(title, {
      target: Math.max(before.target, lane.target ?? 0),
      highest: Math.max(before.highest, lane.measures === 'highest' ? (lane.top ?? 0) : 0),
    });
  }
  return runs.map((run) => {
    const { lane } = run;
    const { target, highest } = tops.get(run.title)!;
    const top = target > 0 ? target : highest;
    // figures of an earlier version know no top
    if (!lane.top || top === 0 || top === lane.top) return run;
    const scaled = (share: number): number => Math.min(1, (share * lane.top!) / top);
    const cells = lane.cells.map((cell) => ({
      ...cell,
      height: cell.height === null ? null : scaled(cell.height),
      ends: cell.ends && { low: scaled(cell.ends.low), high: scaled(cell.ends.high) },
    }));
    return { ...run, lane: { ...lane, top, cells } };
  });
}

/** A cell per split; one over the whole run where nothing that was read has a time. */
function readCells(figures: Figures, target: number | null): LaneCell[] {
  const { splits, frames, read } = figures;
  // speeds are shares already
  const pace = bySpeed(figures) ? { interval: read!.speed, average: middleOf(read!.speed) } : figures.pace;
  const timed = splits.some((split) => split.interval !== null);
  const seconds = Math.min(LONGEST_RUN_S, frames.seconds);
  const whole = { fromS: 0, toS: seconds, interval: pace.interval, average: pace.average };
  const scale = bySpeed(figures) ? 1 : (target ?? highestOf(figures));
  const share = (fps: number): number => (scale === null ? 0 : Math.min(1, fps / scale));
  const made = splits.map((split) => cell(split, figures, null));
  const drawn = timed || pace.interval === null ? splits : [whole];
  return drawn.map((one, i): LaneCell => {
    const beside =
      timed || pace.interval === null
        ? made[i]!
        : {
            fromS: 0,
            toS: seconds,
            breaks: [],
            hottestC: figures.warmth.peakC,
            percentAtEnd: figures.battery.at(-1)?.percent ?? null,
          };
    const { interval } = one;
    const middle = one.average ?? interval?.low ?? null;
    return {
      ...beside,
      height: middle === null ? null : share(middle),
      ends: interval && { low: share(interval.low), high: share(interval.high ?? interval.low) },
    };
  });
}

function cell(split: Split, figures: Figures, target: number | null): LaneCell {
  const height =
    target === null ? split.hold : split.average === null ? null : Math.min(1, split.average / target);
  const percentAtEnd =
    figures.battery.filter((reading) => reading.atMs <= split.toS * 1000).at(-1)?.percent ?? null;
  return {
    fromS: split.fromS,
    toS: split.toS,
    height,
    ends: null,
    breaks: breaksWithin(split, figures),
    hottestC: hottestOf(Object.values(split.hottestC)),
    percentAtEnd,
  };
}

function breaksWithin(split: Split, figures: Figures): LaneCell['breaks'] {
  const last = split === figures.splits.at(-1);
  return figures.breaks
    .map((found) => ({ atS: found.atUs / 1e6, freeze: found.kind === 'freeze' }))
    .filter(({ atS }) => atS >= split.fromS && (last || atS < split.toS));
}

const hottestOf = (values: number[]): number | null => (values.length === 0 ? null : greatest(values));
