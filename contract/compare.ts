import {
  COMPARISON_KINDS,
  MOST_SIDES,
  RUN_MEASURES,
  WEAK_SOURCES,
  type Comparison,
  type ComparisonKind,
  type EndReason,
  type FieldMeasure,
  type HeadlineFacts,
  type Lane,
  type LeftOutReason,
  type Mismatch,
  type RatedDevice,
  type RunMeasure,
  type RunPreflight,
  type SpotSideBySide,
  type Split,
  type StaminaVerdict,
  type Standing,
} from '@pace-check/core';
import * as z from 'zod';
import { number } from './numbers';
import { name } from './names';
import { trimmed } from './text';

/** Comparing: which runs against which, and what came of it. */

/** Runs of a comparison at most: 30 titles on 12 devices, and some repeats. */
export const MOST_COMPARED = 600;

const side = z.strictObject({
  /** Null: as its runs tell. */
  name: name.nullable().default(null),
  runs: z.array(z.uuid('the id of a run')).min(1, 'at least one run'),
});

const sides = z
  .array(side)
  .min(2, 'at least two sides')
  .max(MOST_SIDES, `at most ${MOST_SIDES} sides`)
  .superRefine((all, context) => {
    const seen = new Set<string>();
    all.forEach(({ runs }, i) => {
      for (const run of runs) {
        if (seen.has(run))
          context.addIssue({
            code: 'custom',
            path: [i, 'runs'],
            message: 'a run is on two sides: remove it from one',
          });
        seen.add(run);
      }
    });
    if (seen.size > MOST_COMPARED)
      context.addIssue({ code: 'custom', message: `at most ${MOST_COMPARED} runs: remove some` });
  });

const margin = number('enter a number').min(0.001, 'at least 0.1 %').max(0.5, 'at most 50 %');
const kind = z.enum(COMPARISON_KINDS);
const twoSides = ({ kind: of, sides: all }: { kind?: ComparisonKind; sides?: unknown[] }): boolean =>
  of === undefined || all === undefined || of === 'field' || of === 'matrix' || all.length === 2;
const TWO_SIDES = {
  path: ['sides'],
  error: 'this type of comparison has two sides: choose “several devices” instead',
};

export const newComparison = z
  .strictObject({
    id: z.uuid('an id of your own'),
    kind,
    /** Null: as its sides tell. */
    name: name.nullable().default(null),
    sides,
    margin: margin.default(0.03),
    /** Compare what is not the same work, too. */
    anyway: z.boolean().default(false),
  })
  .refine(twoSides, TWO_SIDES);
export type NewComparison = z.input<typeof newComparison>;

/** What is left out stays. */
export const comparisonChange = z
  .strictObject({
    kind: kind.optional(),
    name: name.nullable().optional(),
    sides: sides.optional(),
    /** The sides as they were when they were opened: where they are others by now, nothing is changed. */
    seen: z.array(z.array(z.guid())).max(MOST_SIDES).optional(),
    margin: margin.optional(),
    anyway: z.boolean().optional(),
    /** Kept for good, with the answer that it gives now. */
    kept: z.boolean().optional(),
  })
  .refine(twoSides, TWO_SIDES);
export type ComparisonChange = z.input<typeof comparisonChange>;

/** What may be known so; "not offered" has no value. */
export const WEAK_MEASURES = [...RUN_MEASURES, 'not offered'] as const;
export type WeakMeasure = (typeof WEAK_MEASURES)[number];

const weakNumber = number('enter a number').min(-50, 'at least −50').max(10_000, 'at most 10,000');
export const newWeakValue = z
  .strictObject({
    id: z.uuid('an id of your own'),
    device: name,
    title: name,
    setup: name.nullable().default(null),
    measure: z.enum(WEAK_MEASURES),
    /** In the measure's unit: fps, W, hours, °C. */
    value: weakNumber.nullable(),
    low: weakNumber.nullable().default(null),
    high: weakNumber.nullable().default(null),
    source: z.enum(WEAK_SOURCES),
    /** Which article, or who says so. */
    who: trimmed(400).default(''),
    /** Day from which it is; null where nobody knows. */
    dated: z.iso.date('enter a date such as 2026-03-01').nullable().default(null),
  })
  .refine(({ measure, value }) => (measure === 'not offered') === (value === null), {
    path: ['value'],
    error: 'enter a value (none if the title is not available)',
  })
  .refine(
    ({ low, high, value }) => (low ?? value ?? 0) <= (value ?? 0) && (value ?? 0) <= (high ?? value ?? 0),
    {
      path: ['low'],
      error: 'the value must be between “At least” and “At most”',
    },
  );
export type NewWeakValue = z.input<typeof newWeakValue>;
export type WeakValue = z.infer<typeof newWeakValue>;

/** A comparison in a list. */
export interface ComparisonSummary {
  id: string;
  name: string;
  kind: ComparisonKind;
  kept: boolean;
  sides: string[];
  runs: number;
  changedAt: string;
}

/** A run as a comparison shows it. */
export interface ComparedRun {
  id: string;
  name: string;
  device: string;
  title: string;
  setup: string | null;
  startedAt: string | null;
  seconds: number;
  ended: EndReason | null;
  word: StaminaVerdict | null;
  preflight: RunPreflight;
  headline: HeadlineFacts;
  lane: Lane;
}

export interface ComparisonSide {
  name: string;
  /** As it was given; null where its runs tell it. */
  given: string | null;
  runs: ComparedRun[];
}

/** Two sides, looked at closely. */
export interface PairDetail {
  comparison: Comparison;
  /** What makes it other work, so that it is compared only on request. */
  otherWork: Mismatch[];
  /** Of the first run of each side that has frames or readings by split. */
  splits: [Split[], Split[]];
  warmth: SpotSideBySide[];
}

/** How a cell of the matrix stands where it has no figure. */
export type CellState = 'ran' | 'DNS' | 'DNF' | 'not offered' | 'not tested';

export interface MatrixCell {
  state: CellState;
  /** Its runs, by their place among the side's. */
  runs: number[];
  word: StaminaVerdict | null;
}

/** A title, with its setup where sides differ in it: a row of the matrix, or the whole field. */
export interface FieldRow {
  title: string;
  setup: string | null;
  cells: MatrixCell[];
  measures: Record<RunMeasure, FieldMeasure>;
}

export interface ComparisonRating {
  devices: RatedDevice[];
  common: string[];
  leftOut: { title: string; reason: LeftOutReason }[];
}

/** A comparison as it stands now, computed from the figures of its runs. */
export interface ComparisonDetail extends ComparisonSummary {
  /** Null: as its sides tell. */
  given: string | null;
  margin: number;
  anyway: boolean;
  /** The first line as it is now, and as it was when the comparison was kept. */
  answer: string | null;
  answerThen: string | null;
  /** Runs of it that were deleted. */
  gone: number;
  side: ComparisonSide[];
  /** For a pair, and before and after. */
  pair: PairDetail | null;
  /** For a field and a matrix. */
  rows: FieldRow[];
  rating: ComparisonRating | null;
  weak: WeakValue[];
}

/** How much runs of one kind differ, in the library. */
export interface SpreadSummary {
  measure: RunMeasure;
  /** Groups of two runs or more that have it, and their degrees of freedom. */
  groups: number;
  freedom: number;
  /** Standard deviation of one run: of the logarithm, °C for the rise; null without a group. */
  archive: number | null;
  habit: number;
  /** What counts where a side has one run and the archive is of other devices. */
  taken: number;
}

/** Runs that one run may be set against, and why. */
export interface Against {
  why: 'same title and setup' | 'the one before' | 'same chip' | 'with and without' | 'another setup';
  says: string;
  runs: { id: string; name: string; device: string; setup: string | null; startedAt: string | null }[];
}

/** Where a run stands among the library’s own, with the names of the others. */
export interface RunStanding extends Standing {
  names: string[];
  ids: string[];
}
