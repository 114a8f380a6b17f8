import {
  comparableOf,
  headlineFacts,
  laneOf,
  reduceSeries,
  type Analysis,
  type Figures,
} from '@pace-check/core';
import type { KeptAnalysis } from '../sql/analyses';
import type { StoredSummary } from '../sql/runs';

/** Points of a run's chart at most. */
const SERIES_POINTS = 600;

/** What is stored of an analysis. */
export function toStored({ figures, perSecond }: Analysis, target: number | null): KeptAnalysis {
  return {
    figures,
    summary: summary(figures, target),
    series: reduceSeries(perSecond, SERIES_POINTS),
    comparing: comparableOf(figures),
  };
}

function summary(figures: Figures, target: number | null): StoredSummary {
  return {
    headline: headlineFacts(figures),
    caveats: figures.caveats,
    trust: figures.trust,
    scenes: figures.scenes.map((one) => one.scene),
    lane: laneOf(figures, target),
  };
}
