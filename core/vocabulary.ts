/**
 * The closed lists of words, each written here and nowhere else: types follow
 * from them, and `contract` builds its schemas of them.
 */

/** How a run came to its end. */
export const END_REASONS = ['planned', 'crash', 'stopped', 'would-not-start'] as const;
export type EndReason = (typeof END_REASONS)[number];

/** What a title asks of the pace. */
export const NEED_WORDS = ['reaction', 'action', 'story', 'slow'] as const;
export type Need = (typeof NEED_WORDS)[number];

/** What a rate was read off. */
export const RATE_SOURCES = ['overlay', 'in-title', 'tool', 'eye'] as const;
export type RateSource = (typeof RATE_SOURCES)[number];

/** Facts of an end page that may be written as "about". */
export const SUMMARY_FACTS = ['average', 'median', 'hold', 'lowest', 'highest', 'onePercent'] as const;
export type SummaryFact = (typeof SUMMARY_FACTS)[number];

/** How often it stumbles, as a person says it; the best first. */
export const SMOOTH_WORDS = ['none', 'occasional', 'frequent', 'constant'] as const;
export type SmoothWord = (typeof SMOOTH_WORDS)[number];
/** How often it stumbles, as it was said. */
export const STUMBLES: Record<SmoothWord, string> = {
  none: 'no stutter',
  occasional: 'occasional stutter',
  frequent: 'frequent stutter',
  constant: 'constant stutter',
};

/** How it plays, as the player says; the best first. */
export const FEEL_WORDS = ['flawless', 'good', 'playable', 'barely', 'unplayable'] as const;
export type FeelWord = (typeof FEEL_WORDS)[number];
/** One word, or the worst and the best that were said. */
export type Feel = FeelWord | `${FeelWord} or ${FeelWord}`;

/** Where power is measured: what the device takes, its chip alone, or at the socket. They are never mixed. */
export const POWER_PLACES = ['device', 'chip', 'wall'] as const;
export type PowerPlace = (typeof POWER_PLACES)[number];

/** Parts that have a thermometer inside. */
export const CHIP_PARTS = ['cpu', 'gpu', 'battery'] as const;
export type ChipPart = (typeof CHIP_PARTS)[number];

/** The split lengths that a reviewer may choose, in minutes. */
export const SPLIT_MINUTES = [1, 2, 5, 10] as const;
export type SplitMinutes = (typeof SPLIT_MINUTES)[number];

/** Spans that take their frames out of the figures. */
export const EXCLUDING_SPANS: readonly string[] = ['loading', 'menu', 'advert', 'pause'];
/** Spans of a state that the device was in: what warms or cools it. Their frames stay. */
export const CONDITION_SPANS: readonly string[] = [
  'cooler',
  'boost',
  'saving',
  'dimmed',
  'folded',
  'docked',
  'case',
  'fan',
];
/** All spans that are known. */
export const SPAN_KINDS: readonly string[] = [...EXCLUDING_SPANS, 'charging', ...CONDITION_SPANS];

/** What someone may state about a run: caveats that no figure shows. */
export const CONDITIONS: readonly string[] = [
  'plugged-in',
  'boosted',
  'pre-release',
  'title-not-updated',
  'first-play',
  'aspect',
  'streamed',
];

/** What the numbers of a run cannot say, the weightier first. */
export const CAVEATS = [
  'short-run',
  'warm-start',
  'read-off',
  'eye-estimate',
  'counter-is-refresh',
  'charged-during',
  'plugged-in',
  'implausible-sensor',
  'streamed',
  'crashed',
  'single-run',
  'easy-scene',
  'length-unknown',
  'room-unknown',
  'few-readings',
  'capped',
  'pre-release',
  'title-not-updated',
  'first-play',
  'aspect',
  'boosted',
  'rows-dropped',
  'gap',
  'dimmed',
  'excluded',
  'over-target',
] as const;
export type Caveat = (typeof CAVEATS)[number];

/** How the pace lasted, the best first. */
export const STAMINA_WORDS = ['holds', 'eases', 'fades', 'buckles', 'DNF', 'DNS'] as const;
export type StaminaWord = (typeof STAMINA_WORDS)[number];
/** One word, or two neighbours where what was read does not settle which; "falls" where it may be any of three or more but not hold. */
export type StaminaVerdict = StaminaWord | `${StaminaWord} or ${StaminaWord}` | 'falls';

/** How far a run may be trusted, from A (little against it) to D. */
export const CONFIDENCES = ['A', 'B', 'C', 'D'] as const;
export type Confidence = (typeof CONFIDENCES)[number];

/** What a step of a recipe takes that not everybody should give: packages from elsewhere, rights over the system, a login, a driver that the maker did not deliver. */
export const STEP_NEEDS = ['outside-store', 'root', 'account', 'patched-driver'] as const;
export type StepNeed = (typeof STEP_NEEDS)[number];

/** What two sides are compared by, in the order in which it is printed. */
export const RUN_MEASURES = [
  'average',
  'median',
  'closing',
  'onePercentLow',
  'watts',
  'hoursFromFull',
  'peakRise',
  'peak',
] as const;
export type RunMeasure = (typeof RUN_MEASURES)[number];
export const COMPARE_MEASURES = [...RUN_MEASURES, 'breaks'] as const;
export type CompareMeasure = (typeof COMPARE_MEASURES)[number];

/** What a difference between two sides comes to. */
export const COMPARE_VERDICTS = [
  'equal under the cap',
  'second better',
  'first better',
  'the same in practice',
  'no clear difference',
] as const;
export type CompareVerdict = (typeof COMPARE_VERDICTS)[number];

/** What may not have been the same on two sides, in the order in which it is named; the first four make it other work. */
export const MISMATCHES = [
  'title',
  'scene',
  'cap',
  'target',
  'outcome',
  'room',
  'startWarmth',
  'length',
  'brightness',
  'refresh',
  'power',
  'mode',
  'case',
  'cooler',
  'network',
  'hold',
  'titleVersion',
  'layer',
  'driver',
  'system',
  'pixels',
  'source',
  'firstPlay',
  'instrument',
] as const;
export type MismatchKind = (typeof MISMATCHES)[number];
export const OTHER_WORK: readonly MismatchKind[] = ['title', 'scene', 'cap', 'target'];

/** The parts of a rating, in the order of the five measures. */
export const RATING_PARTS = ['pace', 'evenness', 'stamina', 'warmth', 'drain'] as const;
export type RatingPart = (typeof RATING_PARTS)[number];

/** Where a value comes from that nobody measured here. */
export const WEAK_SOURCES = ['earlier article', 'memory', 'somebody else'] as const;
export type WeakSource = (typeof WEAK_SOURCES)[number];

/** Facts that stand beside the figures, a line each, in the order in which they are told. */
export const BESIDE = [
  'withGenerated',
  'withoutGenerated',
  'pictureFit',
  'touchMapping',
  'noise',
  'storage',
  'lostSaves',
] as const;
export const BESIDE_NAMES: Record<(typeof BESIDE)[number], string> = {
  withGenerated: 'With generated frames',
  withoutGenerated: 'No generated frames',
  pictureFit: 'How the picture fits',
  touchMapping: 'Touch mapping',
  noise: 'Fan and speaker noise',
  storage: 'Storage it lies on',
  lostSaves: 'Lost saves',
};
