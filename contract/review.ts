import {
  CONFIDENCES,
  HANDLING_TOPICS,
  REVIEW_TEMPLATES,
  RUN_MEASURES,
  SECTION_KINDS,
  VERDICT_STATES,
  type Chapter,
  type FoundMoment,
  type ReviewComparison,
  type ReviewDevice,
  type ReviewEvidence,
  type ReviewGap,
  type ReviewRequest,
  type ReviewRun,
  type ReviewTemplate,
} from '@pace-check/core';
import * as z from 'zod';
import { number } from './numbers';
import { name } from './names';
import { text, trimmed } from './text';

/** Reviews: which evidence they stand on, what is written of it, and what was published. */

const letter = z.enum(CONFIDENCES).nullable();

/** Runs of a review at most. */
const MOST_REVIEWED = 200;

const keptFigure = z.strictObject({
  name: trimmed(400).min(1),
  runId: z.uuid('the id of a run'),
  measure: z.enum(RUN_MEASURES),
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

const handlingLine = z.strictObject({
  topic: z.enum(HANDLING_TOPICS),
  says: trimmed(400).min(1, 'enter some text'),
  evidence: trimmed(400).default(''),
});

/** A time in a film or on a run's clock, s: no run is longer. */
const second = number('enter a time').min(0, 'at least 0').max(400_000, 'at most 4 days');

const clip = z.strictObject({
  /** As the cut list names it. */
  name: trimmed(60)
    .min(1, 'enter a name')
    .regex(/^[^\r\n\t]*$/, 'write it on one line'),
  runId: z.uuid('the id of a run'),
  lengthS: second.nullable().default(null),
  /** Moments that are in both. */
  syncs: z.array(z.strictObject({ clipS: second, runS: second })).max(10, 'at most 10 moments'),
});

/** Pictures of an overlay: their size, and how many a second. */
export const OVERLAY_SIZES = [
  { width: 1280, height: 720 },
  { width: 1920, height: 1080 },
  { width: 1080, height: 1080 },
  { width: 1080, height: 1920 },
] as const;
export const OVERLAY_RATES = [1, 2, 5, 10, 25, 30, 50, 60] as const;

/** A video of the review: its clips, and the cut list as it was typed. */
export const reviewVideo = z.strictObject({
  clips: z.array(clip).max(60, 'at most 60 clips').default([]),
  cuts: text(40_000).default(''),
  /** Frames a second of its time codes; null where they have none. */
  fps: number().min(1, 'at least 1').max(240, 'at most 240').nullable().default(null),
  overlay: z
    .strictObject({
      width: number().int().min(320, 'at least 320 px').max(3840, 'at most 3840 px'),
      height: number().int().min(320, 'at least 320 px').max(3840, 'at most 3840 px'),
      perSecond: number().min(0.1, 'at least one per 10 seconds').max(60, 'at most 60'),
    })
    .default({ width: 1280, height: 720, perSecond: 1 }),
});
export type ReviewVideo = z.infer<typeof reviewVideo>;

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
  handling: z.array(handlingLine).max(60, 'at most 60 lines').default([]),
  video: reviewVideo.nullable().default(null),
  sections: z
    .array(section)
    .max(SECTION_KINDS.length, 'a section is listed twice')
    .refine((all) => new Set(all.map((one) => one.kind)).size === all.length, 'a section is listed twice'),
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
export const reviewChange = z.strictObject({ revision: number().int().min(0), doc: reviewDoc });
export type ReviewChange = z.input<typeof reviewChange>;

/** What is published: the review as it was seen, once, however often it is sent. */
export const publishing = z.strictObject({
  id: z.uuid('an id of your own'),
  revision: number().int().min(0),
});
export type Publishing = z.infer<typeof publishing>;

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
  devices: ReviewDevice[];
  refusals: ReviewEvidence['refusals'];
  /** What was searched for and seen on its devices. */
  searched: Pick<
    ReviewEvidence,
    | 'ladders'
    | 'choices'
    | 'power'
    | 'setups'
    | 'outcomes'
    | 'claims'
    | 'versions'
    | 'sittings'
    | 'limits'
    | 'synthetic'
  >;
  /** Without an answer where it is not the same work. */
  comparisons: (Omit<ReviewComparison, 'answer'> & { id: string; answer: string | null })[];
  gaps: ReviewGap[];
  /** Requests for its titles and devices. */
  requests: ReviewRequest[];
  /** Since when others may read what was published; null where they may not. */
  shownAt: string | null;
  publications: Publication[];
  /** What has changed in its runs since the last one; empty before. */
  changes: string[];
}

/** What a review's video gives as it stands now. */
export interface ReviewVideoDetail {
  lengthS: number;
  chapters: Chapter[];
  moments: FoundMoment[];
  /** What could not be used, in words. */
  leftOut: string[];
}

/** Whether others may read what was published, without anything else of the server. */
export const showReview = z.strictObject({ shown: z.boolean('true or false') });
export type ShowReview = z.infer<typeof showReview>;

/** How a pack is asked for. */
export const packQuery = z.object({
  /** By which its progress is asked for. */
  job: z.uuid('an id of your own').optional(),
  /** With the pictures of the overlay, one by one. */
  overlay: z.enum(['yes', 'no']).default('no'),
});

/** How far a pack is. */
export interface PackProgress {
  done: number;
  total: number;
  /** What it is at, for instance "pictures". */
  at: string;
}

/** How a picture of a review is asked for. */
export const chartQuery = z.object({
  of: trimmed(60).min(1, 'the name of a picture'),
  size: z.enum(['page', 'wide', 'square', 'tall']).default('page'),
  as: z.enum(['svg', 'png']).default('svg'),
});

const orNull = z.number().nullable();
/** `figures.json` of a pack. What else a run holds is passed on as it is. */
export const packFigures = z.object({
  review: z.string().describe('its name'),
  revision: z.number().int().describe('0 where it was not published'),
  titles: z
    .array(
      z.object({
        device: z.string(),
        title: z.string(),
        setup: z.string().nullable(),
        runs: z.number().int().describe('runs that the row stands for'),
        lead: orNull.describe('frames per second: average or median, by the school of the review'),
        said: z
          .string()
          .nullable()
          .optional()
          .describe('the manual reading used instead, as entered, frames per second'),
        low: orNull.describe('1 % low by quantile, frames per second'),
        word: z.string().nullable().describe('stamina: holds, eases, fades, buckles'),
        playable: z.string().nullable(),
        peakC: orNull.describe('hottest reading, °C'),
        watts: orNull,
        hoursFromFull: orNull,
        hours: z
          .object({ low: z.number(), high: orNull })
          .nullable()
          .optional()
          .describe('hours from full, as far as the readings allow to say it'),
        source: z.enum(['frames', 'read', 'eye']).nullable().describe('how the rates are known'),
        ends: z.object({ low: z.number(), high: orNull }).nullable().describe('range of a manual reading'),
        ended: z.string().nullable().describe('DNF or DNS'),
      }),
    )
    .describe('a row for each device, title and setup'),
  runs: z.array(
    z.looseObject({
      id: z.string(),
      name: z.string(),
      startedAt: z.string().nullable(),
      caveats: z.array(z.string()),
      confidences: z
        .object({ pace: letter, warmth: letter, drain: letter })
        .describe('how far each measure may be trusted; null where it has no figure'),
      stated: z.looseObject({
        device: z.string().nullable(),
        title: z.string().nullable(),
        roomC: orNull,
      }),
      figures: z.looseObject({
        seconds: z.number(),
        peakC: orNull,
        values: z
          .record(z.string(), z.looseObject({ value: z.number() }).nullable())
          .describe('fps, W, hours or °C by the measure'),
      }),
    }),
  ),
});
