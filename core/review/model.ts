import type { Comparable, StatedFacts } from '../compare/comparable';
import type { Lane } from '../figures/lane';
import type { LimitFindings } from '../figures/limits';
import type { LongPlay, Sitting } from '../session/model';
import type { CountedClaim, CountedOutcome, RunOutcomeStatus } from '../ladder/outcomes';
import type { KnownVersion } from '../ladder/versions';
import type { ChoiceAxis } from '../ladder/choices';
import type { PowerRow } from '../ladder/power';
import type { LadderAxis } from '../ladder/search';
import type { Recipe } from '../setup/recipe';
import type { Demand } from '../plan/problem';
import type { DeviceKind } from '../plan/habits';
import type { TitleKind } from '../plan/templates';
import type { Confidences } from '../figures/trust';
import type { Caveat, CompareVerdict, RunMeasure } from '../vocabulary';

/** What a review is written for. */
export const REVIEW_TEMPLATES = [
  'quick look',
  'full review',
  'emulation special',
  'versus',
  'long-term',
] as const;
export type ReviewTemplate = (typeof REVIEW_TEMPLATES)[number];

/** Parts of a review, in the order that they usually have. Each stands in a file of its own in `sections/`. */
export const SECTION_KINDS = [
  'verdict',
  'spec',
  'method',
  'titles',
  'lanes',
  'sittings',
  'settings',
  'choices',
  'power',
  'what-runs',
  'recipes',
  'warmth',
  'drain',
  'limits',
  'not-run',
  'handling',
  'comparisons',
  'synthetic',
  'caveats',
  'not-tested',
  'requests',
  'questions',
  'next',
] as const;
export type SectionKind = (typeof SECTION_KINDS)[number];

/** How final a verdict is. */
export const VERDICT_STATES = ['withheld', 'provisional', 'final'] as const;
export type VerdictState = (typeof VERDICT_STATES)[number];

/** What a device is like in the hand. */
export const HANDLING_TOPICS = [
  'controller fit',
  'grip',
  'cramp',
  'sound',
  'load times',
  'recorder',
  'other',
] as const;
export type HandlingTopic = (typeof HANDLING_TOPICS)[number];

/** One thing that was found in the hand, with what shows it. */
export interface HandlingLine {
  topic: HandlingTopic;
  says: string;
  /** For instance "an hour on deck, two people"; empty where nobody noted it. */
  evidence: string;
}

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
  confidences: Confidences;
  lane: Lane;
}

/** A device as a review shows it. */
export interface ReviewDevice {
  name: string;
  kind: DeviceKind | null;
  /** Facts of the kit in words; what nobody noted is not among them. */
  facts: { label: string; value: string }[];
  /** Where its spots lie, in widths of the body. */
  spots: { spot: string; side: 'front' | 'back'; x: number; y: number }[];
}

/** A measure of a comparison, as a picture needs it. */
export interface ChartedDifference {
  measure: RunMeasure;
  by: number;
  interval: [number, number] | [null, null];
  verdict: CompareVerdict;
  says: string;
}

/** A comparison as a review shows it. */
export interface ReviewComparison {
  name: string;
  answer: string;
  /** Names of its two sides and what differs between them; null where there are more sides. */
  pair: { sides: [string, string]; differences: ChartedDifference[]; runs: [number, number] } | null;
}

/** A wish of the viewers. */
export interface ReviewRequest {
  title: string;
  device: string | null;
  asked: number;
  answered: boolean;
}

/** A search for a setting that holds, as a review shows it. */
export interface ReviewLadder {
  device: string;
  title: string;
  scene: string;
  setup: string;
  axis: LadderAxis;
  /** The likeliest; null where none holds. */
  best: string | null;
  sure: number;
  ended: boolean;
  confirmed: boolean;
  probes: number;
  /** What was published before these were told apart lacks them. */
  system?: string | null;
  demand?: Demand | null;
  /** Place of the best among the rungs, and how many there are. */
  place?: { at: number; of: number };
}

/** A choice between options without an order, as a review shows it. */
export interface ReviewChoice {
  device: string;
  title: string;
  scene: string;
  setup: string;
  axis: ChoiceAxis;
  /** Where it stands, in words. */
  says: string;
  /** The one to take; null while that is open. */
  take: string | null;
  options: { name: string; probes: number; speed: string | null; cost: string | null }[];
}

/** What the power limits of a title on a device give, as a review shows it. */
export interface ReviewPower {
  device: string;
  title: string;
  scene: string;
  /** The lowest limit that holds full speed; null where none does, or the search goes on. */
  lowest: string | null;
  rows: PowerRow[];
}

/** How a title is set up, as a review shows it. */
export interface ReviewSetup {
  title: string;
  name: string;
  recipe: Recipe;
}

/** A sitting as a review shows it. */
export interface ReviewSitting {
  name: string;
  device: string;
  sitting: Sitting;
  longPlay: LongPlay | null;
}

/** What limits a run, as a review says it. */
export interface ReviewLimits {
  name: string;
  findings: LimitFindings;
}

/** A synthetic record as a review shows it. */
export interface ReviewSynthetic {
  device: string;
  /** Tool with its version. */
  tool: string;
  score: string;
  parts: { name: string; score: number }[];
  /** A stress loop, in words; null for a single score. */
  loop: string | null;
  coldC: number | null;
  riseC: number | null;
  /** Why it is questioned; null where it is not. */
  question: string | null;
}

/** An outcome as a review shows it. */
export interface ReviewOutcome extends CountedOutcome<RunOutcomeStatus> {
  /** The run that says so; left out where it was noted. */
  runId?: string;
  where: string;
  scene: string;
  tried: string;
}

/** All that the sections of a review are made of, but for the words. */
export interface ReviewEvidence {
  verdict: { state: VerdictState; until: string };
  runs: ReviewRun[];
  devices: ReviewDevice[];
  comparisons: ReviewComparison[];
  handling: HandlingLine[];
  requests: ReviewRequest[];
  /** Setups that a device of it would not take, with what it said. */
  refusals: { device: string; title: string; setup: string | null; says: string }[];
  /** Searches on its devices. */
  ladders: ReviewLadder[];
  /** Choices on its devices. */
  choices: ReviewChoice[];
  /** Power limits on its devices. */
  power: ReviewPower[];
  /** Its runs of several titles on one clock. */
  sittings: ReviewSitting[];
  /** What limits each of its runs. */
  limits: ReviewLimits[];
  /** Scores of synthetic benchmarks on its devices. */
  synthetic: ReviewSynthetic[];
  /** Setups of its titles that take more than a setting. */
  setups: ReviewSetup[];
  /** Outcomes on its devices, claims on what they are of, and versions in their order. */
  outcomes: ReviewOutcome[];
  claims: CountedClaim[];
  versions: KnownVersion[];
}
