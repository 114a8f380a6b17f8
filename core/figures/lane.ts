import { LONGEST_RUN_S } from '../limits';
import { greatest } from '../numbers/thin';
import type { EndReason } from '../vocabulary';
import type { Figures } from './model';
import type { Split } from './splits';

/** One cell of a run’s lane. */
export interface LaneCell {
  fromS: number;
  toS: number;
  /** 0–1: average pace as a share of the target; without a target, hold. Null where neither is known. */
  height: number | null;
  /** Starts of the breaks, seconds on the run’s clock. */
  breaks: { atS: number; freeze: boolean }[];
  hottestC: number | null;
  /** Percent of the battery at the cell's end. */
  percentAtEnd: number | null;
}

export interface Lane {
  seconds: number;
  measures: 'target' | 'hold';
  target: number | null;
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
  return {
    seconds: Math.min(LONGEST_RUN_S, figures.frames.seconds),
    measures: target === null ? 'hold' : 'target',
    target,
    cells: figures.splits.map((split) => cell(split, figures, target)),
    end: figures.end?.reason ?? null,
  };
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
