import type { ReviewEvidence, ReviewRun } from './model';

/** Helpers for the tests of reviews. */

/** Evidence of runs alone. */
export const evidenceOf = (runs: ReviewRun[]): ReviewEvidence => ({
  verdict: { state: 'withheld', until: '' },
  runs,
  devices: [],
  comparisons: [],
  handling: [],
  requests: [],
  refusals: [],
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
});
