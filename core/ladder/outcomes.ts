import type { BreakCount } from '../compare/breakRate';
import type { EndReason, SmoothWord } from '../vocabulary';

/** How it goes with a title on a device, the worst first. */
export const OUTCOME_STATUSES = [
  'not offered',
  'blocked',
  'would not start',
  'crashes',
  'starts only without an overlay',
  'glitches',
  'slow',
  'full speed',
] as const;
export type OutcomeStatus = (typeof OUTCOME_STATUSES)[number];
/** The same of a run, which may say no more than that it was played. */
export type RunOutcomeStatus = OutcomeStatus | 'runs';

export const GLITCH_KINDS = ['picture', 'sound', 'input', 'save'] as const;
export type GlitchKind = (typeof GLITCH_KINDS)[number];

/** What a list or a maker says of a title. */
export const CLAIM_LEVELS = ['runs well', 'runs', 'does not run'] as const;
export type ClaimLevel = (typeof CLAIM_LEVELS)[number];

/** One outcome, as far as counting needs it. */
export interface CountedOutcome<S extends RunOutcomeStatus = OutcomeStatus> {
  title: string;
  device: string;
  /** Emulator, layer or service that it was tried with; empty for none. */
  with: string;
  version: string;
  status: S;
  /** Day on which it was seen. */
  date: string;
  firstPlay: boolean;
  /** What is wrong with it; left out where nobody was asked. */
  glitches?: readonly GlitchKind[];
  /** How often it stumbles, as somebody said; null or left out where nobody did. */
  stumbles?: SmoothWord | null;
  /** Breaks in the minutes of a log; null or left out where nothing was logged. */
  breaks?: BreakCount | null;
}

export interface CountedClaim {
  title: string;
  /** Empty where it is said of every device. */
  device: string;
  level: ClaimLevel;
}

/** Standard normal quantile of 97.5 %. */
const NORMAL_95 = 1.959963984540054;

const RUNS: readonly RunOutcomeStatus[] = [
  'starts only without an overlay',
  'glitches',
  'slow',
  'full speed',
  'runs',
];

/** Whether a title starts and goes on; one that is not offered was not tried. */
export const runsAtAll = (status: RunOutcomeStatus): boolean => RUNS.includes(status);

/** A share with its 95 % interval. */
export interface CountedShare {
  count: number;
  of: number;
  /** Null of nothing. */
  interval: [number, number] | null;
}

/**
 * A share with Wilson's score interval.
 *
 * @throws RangeError where more are counted than there are
 * @shown n of m run
 * @source Wilson (1927), Journal of the American Statistical Association 22
 * @example
 * shareOf(8, 10).interval.map((end) => Math.round(end * 1000) / 1000); // [0.49, 0.943]
 */
export function shareOf(count: number, of: number): CountedShare {
  if (!(count >= 0 && count <= of)) throw new RangeError(`${count} of ${of} is not possible`);
  if (of === 0) return { count, of, interval: null };
  const p = count / of;
  const z2 = NORMAL_95 ** 2;
  const middle = (p + z2 / (2 * of)) / (1 + z2 / of);
  const half = (NORMAL_95 / (1 + z2 / of)) * Math.sqrt((p * (1 - p)) / of + z2 / (4 * of * of));
  // of none and of all the end is the end, whatever rounding says
  return { count, of, interval: [count === 0 ? 0 : middle - half, count === of ? 1 : middle + half] };
}

/** "9 of 14 (39 to 84 %)" */
export const sayCounted = ({ count, of, interval }: CountedShare): string =>
  interval === null
    ? 'none tested'
    : `${count} of ${of} (${Math.round(interval[0] * 100)} to ${Math.round(interval[1] * 100)}\u00a0%)`;

/** What a run says of how it goes with its title. */
export interface RunSeen {
  ended: EndReason | null;
  /** It crashed on the way, or a glitch was marked. */
  crashed: boolean;
  glitches: number;
  /** Of an emulated title; null where that is open, or it is none. */
  fullSpeed: boolean | null;
  playable: string | null;
}

/**
 * A run as an outcome of its title: what was played counts as well as what was noted.
 *
 * @shown n of m run
 * @source docs/method.md, "Outcomes"
 * @example
 * outcomeOfRun({ ended: 'planned', crashed: false, glitches: 0, fullSpeed: null, playable: 'plays' }); // 'runs'
 */
export function outcomeOfRun({ ended, crashed, glitches, fullSpeed, playable }: RunSeen): RunOutcomeStatus {
  if (ended === 'would-not-start') return 'would not start';
  if (ended === 'crash' || crashed) return 'crashes';
  if (glitches > 0) return 'glitches';
  if (fullSpeed !== null) return fullSpeed ? 'full speed' : 'slow';
  return playable === 'not playable' ? 'slow' : 'runs';
}

const key = (...parts: string[]): string => parts.map((part) => part.toLowerCase()).join('\u0000');

/** The latest outcome of each title on each device with what it was tried with; a first play only where there is no second. */
export function latestOutcomes<T extends CountedOutcome<RunOutcomeStatus>>(outcomes: readonly T[]): T[] {
  const latest = new Map<string, T>();
  for (const one of outcomes) {
    const at = key(one.title, one.device, one.with);
    const before = latest.get(at);
    const better =
      !before ||
      (before.firstPlay && !one.firstPlay && before.version === one.version) ||
      (!(one.firstPlay && !before.firstPlay && before.version === one.version) && one.date >= before.date);
    if (better) latest.set(at, one);
  }
  return [...latest.values()];
}

/** How many of the titles that were tried run. */
export function runShare(outcomes: readonly CountedOutcome<RunOutcomeStatus>[]): CountedShare {
  const tried = outcomes.filter((one) => one.status !== 'not offered');
  return shareOf(tried.filter((one) => runsAtAll(one.status)).length, tried.length);
}

/** Of what was claimed at a level and tried, how many did as much. */
export function claimShare(
  level: ClaimLevel,
  claims: readonly CountedClaim[],
  latest: readonly CountedOutcome<RunOutcomeStatus>[],
): CountedShare {
  let [did, tried] = [0, 0];
  for (const claim of claims) {
    if (claim.level !== level) continue;
    const found = latest.filter(
      (one) =>
        one.title.toLowerCase() === claim.title.toLowerCase() &&
        (claim.device === '' || one.device.toLowerCase() === claim.device.toLowerCase()) &&
        one.status !== 'not offered',
    );
    for (const { status } of found) {
      tried++;
      if (
        level === 'does not run'
          ? !runsAtAll(status)
          : level === 'runs'
            ? runsAtAll(status)
            : status === 'full speed'
      )
        did++;
    }
  }
  return shareOf(did, tried);
}

/** What was seen of a title before, for whoever is about to play it. */
export interface SeenBefore extends CountedOutcome {
  /** Where it crashed, or what was wrong. */
  where: string;
}

const BEFOREHAND: Partial<Record<OutcomeStatus, string>> = {
  blocked: 'it was blocked',
  'would not start': 'it would not start',
  crashes: 'it crashed',
  'starts only without an overlay':
    'it started only with the overlay off: read its own counter, or film the screen',
};

/**
 * What is worth knowing before a title is played: that it would not start, that
 * an overlay stops it, where it crashed.
 *
 * @returns null where nothing stands in the way
 * @shown Preflight
 * @source docs/method.md, "Outcomes"
 */
export function sayBeforehand({ status, where, with: layer, version, date }: SeenBefore): string | null {
  const what = BEFOREHAND[status];
  if (what === undefined) return null;
  const under = [layer, version].filter(Boolean).join(' ');
  return `Last result ${date}${under === '' ? '' : ` with ${under}`}: ${what}${where === '' ? '' : ` (${where})`}.`;
}

/** How a title goes under the newest version against the one before. */
export type Progress = 'fixed' | 'fewer' | 'the same' | 'worse' | 'unverified' | 'new';

export interface ProblemRow {
  title: string;
  device: string;
  progress: Progress;
  /** What was seen under each version that it was tried with, in the order of the versions. */
  seen: { version: string; status: OutcomeStatus }[];
}

/**
 * The problem list of an emulator or layer over its versions: titles that did
 * not always run at full speed, and how they go now.
 *
 * @param versions in the order in which they came
 * @source docs/method.md, "Outcomes"
 */
export function problemList(
  outcomes: readonly CountedOutcome<RunOutcomeStatus>[],
  layer: string,
  versions: readonly string[],
): ProblemRow[] {
  // a run that says no more than that it was played is no problem and no cure
  const own = outcomes.filter(
    (one): one is CountedOutcome =>
      one.with.toLowerCase() === layer.toLowerCase() && one.status !== 'not offered' && one.status !== 'runs',
  );
  const place = (version: string): number => versions.indexOf(version);
  const groups = new Map<string, CountedOutcome[]>();
  for (const one of own) {
    const at = key(one.title, one.device);
    groups.set(at, [...(groups.get(at) ?? []), one]);
  }
  const newest = versions.at(-1);
  return [...groups.values()].flatMap((group): ProblemRow[] => {
    const byVersion = new Map<string, CountedOutcome>();
    for (const one of [...group].sort((a, b) => a.date.localeCompare(b.date)))
      if (!(one.firstPlay && byVersion.has(one.version))) byVersion.set(one.version, one);
    const seen = [...byVersion.values()].sort(
      (a, b) => place(a.version) - place(b.version) || a.date.localeCompare(b.date),
    );
    if (seen.every((one) => one.status === 'full speed') && seen.at(-1)!.version === newest) return [];
    if (seen.every((one) => one.status === 'full speed') && newest === undefined) return [];
    const [before, now] = [seen.at(-2), seen.at(-1)!];
    const rank = (one: CountedOutcome): number => OUTCOME_STATUSES.indexOf(one.status);
    const progress: Progress =
      newest !== undefined && now.version !== newest
        ? 'unverified'
        : before === undefined
          ? 'new'
          : rank(now) === rank(before)
            ? 'the same'
            : rank(now) < rank(before)
              ? 'worse'
              : now.status === 'full speed'
                ? 'fixed'
                : 'fewer';
    return [
      {
        title: now.title,
        device: now.device,
        progress,
        seen: seen.map(({ version, status }) => ({ version, status })),
      },
    ];
  });
}
