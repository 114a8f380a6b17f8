import type { Lane, LaneCell } from '@pace-check/contract';
import {
  headlineFacts,
  LONGEST_RUN_S,
  reduceSeries,
  type Analysis,
  type Figures,
  type Split,
} from '@pace-check/core';
import type { StoredAnalysis } from '../sql/analyses';
import type { StoredSummary } from '../sql/runs';

/** Points of a run's chart at most. */
const SERIES_POINTS = 600;

/** What is stored of an analysis. */
export function toStored({ figures, perSecond }: Analysis, target: number | null): StoredAnalysis {
  return { figures, summary: summary(figures, target), series: reduceSeries(perSecond, SERIES_POINTS) };
}

function summary(figures: Figures, target: number | null): StoredSummary {
  return { headline: headlineFacts(figures), confidence: figures.confidence, lane: lane(figures, target) };
}

function lane(figures: Figures, target: number | null): Lane {
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

const hottestOf = (values: number[]): number | null => (values.length === 0 ? null : Math.max(...values));
