import type { ReviewDetail } from '@pace-check/contract';
import { comparableOf, reviewGaps, SECTION_KINDS, type ReviewRun } from '@pace-check/core';
import { at, runWith } from '../../testing/render';

function evidence(fps: number): ReviewRun {
  const run = runWith({ frames: at(fps, 1000), facts: { target: 60 } });
  return {
    id: 'run',
    name: 'Aurelune on Velm 5',
    startedAt: null,
    kind: null,
    demand: 'heavy',
    stated: {
      device: 'Velm 5',
      title: 'Aurelune',
      setup: null,
      scenes: [],
      target: 60,
      roomC: 18,
      batteryWh: null,
      conditions: [],
      told: true,
      preflight: {},
    },
    figures: comparableOf(run.figures),
    caveats: ['capped'],
    confidences: { pace: 'A', warmth: 'A', drain: 'A' },
    lane: run.lane,
  };
}

/** A review of one run of 50 frames a second. */
export const reviewOf = (more: Partial<ReviewDetail> = {}): ReviewDetail => {
  const runs = [evidence(50)];
  return {
    id: 'r',
    revision: 3,
    doc: {
      name: 'Small against large',
      template: 'quick look',
      runs: ['run'],
      comparisons: [],
      school: 'average-and-lows',
      unit: 'C',
      verdict: { state: 'withheld', until: '' },
      handling: [],
      video: null,
      sections: SECTION_KINDS.map((kind) => ({ kind, text: '', hidden: false, figures: [] })),
    },
    evidence: runs,
    gone: 0,
    devices: [],
    refusals: [],
    searched: {
      ladders: [],
      choices: [],
      sittings: [],
      limits: [],
      synthetic: [],
      power: [],
      setups: [],
      outcomes: [],
      claims: [],
      versions: [],
    },
    shownAt: null,
    comparisons: [],
    gaps: reviewGaps('quick look', runs, { comparisons: 0, openRequests: 0, verdictGiven: false }),
    requests: [],
    publications: [],
    changes: [],
    ...more,
  };
};
