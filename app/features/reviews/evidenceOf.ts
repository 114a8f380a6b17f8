import type { ReviewDetail, ReviewDoc } from '@pace-check/contract';
import type { ReviewEvidence } from '@pace-check/core';

/** What the sections are made of: what the server gathered, and what is being written. */
export const evidenceOf = (
  review: ReviewDetail,
  doc: Pick<ReviewDoc, 'verdict' | 'handling'>,
): ReviewEvidence => ({
  verdict: doc.verdict,
  handling: doc.handling,
  runs: review.evidence,
  devices: review.devices,
  requests: review.requests,
  refusals: review.refusals,
  ...review.searched,
  comparisons: review.comparisons.map(({ name, answer, pair }) => ({
    name,
    answer: answer ?? 'not compared: test conditions differ',
    pair,
  })),
});
