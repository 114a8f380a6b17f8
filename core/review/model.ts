import type { Comparable, StatedFacts } from '../compare/comparable';
import type { Lane } from '../figures/lane';
import type { Demand } from '../plan/problem';
import type { TitleKind } from '../plan/templates';
import type { Caveat, Confidence } from '../vocabulary';

/** What a review is written for. */
export const REVIEW_TEMPLATES = [
  'quick look',
  'full review',
  'emulation special',
  'versus',
  'long-term',
] as const;
export type ReviewTemplate = (typeof REVIEW_TEMPLATES)[number];

/** Parts of a review, in the order that they usually have. */
export const SECTION_KINDS = [
  'verdict',
  'method',
  'titles',
  'warmth',
  'drain',
  'not-run',
  'handling',
  'comparisons',
  'caveats',
  'requests',
  'next',
] as const;
export type SectionKind = (typeof SECTION_KINDS)[number];

export const SECTION_TITLES: Record<SectionKind, string> = {
  verdict: 'Verdict',
  method: 'How it was tested',
  titles: 'Titles',
  warmth: 'Warmth',
  drain: 'Drain',
  'not-run': 'What did not run',
  handling: 'Handling',
  comparisons: 'Comparisons',
  caveats: 'What the numbers cannot say',
  requests: 'You asked',
  next: 'What comes next',
};

/** How final a verdict is. */
export const VERDICT_STATES = ['withheld', 'provisional', 'final'] as const;
export type VerdictState = (typeof VERDICT_STATES)[number];

/** A run as a review reads it. */
export interface ReviewRun {
  id: string;
  name: string;
  startedAt: string | null;
  kind: TitleKind | null;
  demand: Demand | null;
  stated: StatedFacts;
  figures: Comparable;
  caveats: Caveat[];
  confidence: Confidence;
  lane: Lane;
}
