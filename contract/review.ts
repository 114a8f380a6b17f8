import {
  REVIEW_TEMPLATES,
  RUN_MEASURES,
  SECTION_KINDS,
  VERDICT_STATES,
  type ReviewGap,
  type ReviewRun,
  type ReviewTemplate,
} from '@pace-check/core';
import * as z from 'zod';
import { name } from './names';
import { text, trimmed } from './text';

/** Reviews: which evidence they stand on, what is written of it, and what was published. */

/** Runs of a review at most. */
const MOST_REVIEWED = 200;

const keptFigure = z.strictObject({
  name: trimmed(400).min(1),
  runId: z.uuid('the id of a run'),
  measure: z.enum([...RUN_MEASURES, 'peak']),
  accepted: trimmed(80),
});

const section = z.strictObject({
  kind: z.enum(SECTION_KINDS),
  text: text(20_000),
  hidden: z.boolean().default(false),
  /** Figures that the text holds, as they were accepted. */
  figures: z.array(keptFigure).max(300, 'at most 300 figures').default([]),
});
export type ReviewSection = z.infer<typeof section>;

const runs = z.array(z.uuid('the id of a run')).max(MOST_REVIEWED, `at most ${MOST_REVIEWED} runs`);

/** All that somebody writes of a review. */
export const reviewDoc = z.strictObject({
  name,
  template: z.enum(REVIEW_TEMPLATES),
  runs,
  comparisons: z.array(z.uuid('the id of a comparison')).max(40, 'at most 40 comparisons').default([]),
  school: z.enum(['median-and-hold', 'average-and-lows']).default('average-and-lows'),
  unit: z.enum(['C', 'F']).default('C'),
  verdict: z
    .strictObject({ state: z.enum(VERDICT_STATES), until: trimmed(200) })
    .default({ state: 'withheld', until: '' }),
  sections: z
    .array(section)
    .max(SECTION_KINDS.length, 'each section once')
    .refine((all) => new Set(all.map((one) => one.kind)).size === all.length, 'each section once'),
});
export type ReviewDoc = z.infer<typeof reviewDoc>;

export const newReview = z.strictObject({
  id: z.uuid('an id of your own'),
  name,
  template: z.enum(REVIEW_TEMPLATES),
  runs: runs.min(1, 'at least one run'),
});
export type NewReview = z.infer<typeof newReview>;

/** A review as it is to be, made to the revision that was seen. */
export const reviewChange = z.strictObject({ revision: z.number().int().min(0), doc: reviewDoc });
export type ReviewChange = z.input<typeof reviewChange>;

export interface ReviewSummary {
  id: string;
  name: string;
  template: ReviewTemplate;
  runs: number;
  /** Number of the last revision that was published; null before. */
  published: number | null;
  changedAt: string;
}

export interface Publication {
  /** 1 for the first. */
  revision: number;
  publishedAt: string;
  /** What had changed since the one before. */
  corrections: string[];
}

export interface ReviewDetail {
  id: string;
  revision: number;
  doc: ReviewDoc;
  /** Runs of it that are there, as they are now. */
  evidence: ReviewRun[];
  /** Runs of it that were deleted. */
  gone: number;
  comparisons: { id: string; name: string; answer: string | null }[];
  gaps: ReviewGap[];
  /** Requests for its titles. */
  requests: { title: string; device: string | null; asked: number; answered: boolean }[];
  publications: Publication[];
  /** What has changed in its runs since the last one; empty before. */
  changes: string[];
}
