import { breakRates, type BreakCount } from '../compare/breakRate';
import { SMOOTH_WORDS, STUMBLES, type SmoothWord } from '../vocabulary';
import {
  latestOutcomes,
  OUTCOME_STATUSES,
  runsAtAll,
  type CountedOutcome,
  type GlitchKind,
  type RunOutcomeStatus,
} from './outcomes';

/** A version of an emulator or a layer, or of a fork of it. */
export interface Build {
  with: string;
  /** Empty where nobody noted it. */
  version: string;
}

/** A version that was noted; those of one name in the order in which they came. */
export interface KnownVersion extends Build {
  /** What it is a fork of; null or left out for none. */
  forkOf?: string | null;
}

/** How a title goes with one of the two. */
export interface SeenWith {
  status: RunOutcomeStatus;
  /** Null where nobody was asked. */
  glitches: readonly GlitchKind[] | null;
  stumbles: SmoothWord | null;
  breaks: BreakCount | null;
}

/** How it goes with the second against the first: over, less of it, no other, more of it; null where it cannot be told. */
export const BUILD_PROGRESS = ['fixed', 'fewer', 'the same', 'worse'] as const;
export type BuildProgress = (typeof BUILD_PROGRESS)[number];

/** A title on a device that was seen with both. */
export interface VersionRow {
  title: string;
  device: string;
  first: SeenWith;
  second: SeenWith;
  /** By how it goes at all, then by its glitches, then by how often it stumbles; null where it cannot be told. */
  progress: BuildProgress | null;
  /** How often it stumbles, beside that; null where it is not known of both. */
  stumbling: 'less' | 'the same' | 'more' | null;
}

const sameBuild = (one: Build, other: Build): boolean =>
  one.with.toLowerCase() === other.with.toLowerCase() &&
  one.version.toLowerCase() === other.version.toLowerCase();

/** "Gangway 3.1"; empty where nothing was noted. */
export const sayBuild = (one: Build): string => [one.with, one.version].filter(Boolean).join(' ');

/**
 * Two versions, or a fork and what it comes from, against each other: the
 * titles that were seen with both, each on its own device.
 *
 * @returns in the order of the titles' names
 * @shown Outcomes: one version against another; a review
 * @source docs/method.md, "Outcomes"; stutters that were logged by their rates, as two sides of a comparison
 */
export function versionRows(
  outcomes: readonly CountedOutcome<RunOutcomeStatus>[],
  first: Build,
  second: Build,
): VersionRow[] {
  const of = (build: Build): Map<string, CountedOutcome<RunOutcomeStatus>> =>
    new Map(
      latestOutcomes(outcomes.filter((one) => sameBuild(one, build) && one.status !== 'not offered')).map(
        (one) => [`${one.title}\n${one.device}`.toLowerCase(), one],
      ),
    );
  const [before, after] = [of(first), of(second)];
  return [...before]
    .flatMap(([key, was]): VersionRow[] => {
      const is = after.get(key);
      if (!is) return [];
      const [one, other] = [seenWith(was), seenWith(is)];
      const stumbling = stumblesMore(one, other);
      return [
        {
          title: is.title,
          device: is.device,
          first: one,
          second: other,
          stumbling,
          progress: progressOf(one, other, stumbling),
        },
      ];
    })
    .sort((a, b) => a.title.localeCompare(b.title) || a.device.localeCompare(b.device));
}

const seenWith = (one: CountedOutcome<RunOutcomeStatus>): SeenWith => ({
  status: one.status,
  glitches: one.status === 'glitches' && one.glitches && one.glitches.length > 0 ? one.glitches : null,
  stumbles: one.stumbles ?? null,
  breaks: one.breaks ?? null,
});

/** Words are held against words, logs against logs: a word and a log say different things. */
function stumblesMore(first: SeenWith, second: SeenWith): VersionRow['stumbling'] {
  if (first.stumbles !== null && second.stumbles !== null) {
    const by = SMOOTH_WORDS.indexOf(second.stumbles) - SMOOTH_WORDS.indexOf(first.stumbles);
    return by < 0 ? 'less' : by > 0 ? 'more' : 'the same';
  }
  if (first.breaks === null || second.breaks === null) return null;
  const rates = breakRates([first.breaks, second.breaks]);
  // neither broke
  if (rates === null) return first.breaks.minutes > 0 && second.breaks.minutes > 0 ? 'the same' : null;
  return rates.verdict === 'second better' ? 'less' : rates.verdict === 'first better' ? 'more' : 'the same';
}

function progressOf(
  first: SeenWith,
  second: SeenWith,
  stumbling: VersionRow['stumbling'],
): BuildProgress | null {
  const by = comeUp(first.status, second.status);
  if (by === null) return null;
  if (by !== 0) return by < 0 ? 'worse' : WHOLE.includes(second.status) ? 'fixed' : 'fewer';
  const glitches =
    first.glitches === null || second.glitches === null ? 0 : second.glitches.length - first.glitches.length;
  if (glitches !== 0) return glitches < 0 ? 'fewer' : 'worse';
  return stumbling === 'less' ? 'fewer' : stumbling === 'more' ? 'worse' : 'the same';
}

/** Nothing is wrong with it, as far as it was seen. */
const WHOLE: readonly RunOutcomeStatus[] = ['full speed', 'runs'];

/** Above 0 where the second goes better; null where a run says no more than that it was played. */
function comeUp(first: RunOutcomeStatus, second: RunOutcomeStatus): number | null {
  const rank = (status: RunOutcomeStatus): number => (OUTCOME_STATUSES as readonly string[]).indexOf(status);
  if (first !== 'runs' && second !== 'runs') return rank(second) - rank(first);
  if (first === second || [first, second].includes('full speed')) return 0;
  if (runsAtAll(first) !== runsAtAll(second)) return runsAtAll(second) ? 1 : -1;
  // a glitch that nobody marked any more is gone; whether it is still slow, nobody said
  if (first === 'glitches') return 1;
  return second === 'glitches' ? -1 : null;
}

/**
 * Which two are held against each other: of each emulator or layer the last two
 * versions that were seen, and of each fork its last against the last of what
 * it comes from. A fork is never taken for the next version.
 *
 * @param versions in the order in which they came; what is not among them comes before, by name
 * @source docs/method.md, "Outcomes"
 */
export function buildPairs(
  outcomes: readonly CountedOutcome<RunOutcomeStatus>[],
  versions: readonly KnownVersion[],
): { first: Build; second: Build; fork: boolean }[] {
  const place = (build: Build): number => versions.findIndex((one) => sameBuild(one, build));
  const seen = new Map<string, Build[]>();
  for (const one of outcomes) {
    if (one.with === '' || one.version === '') continue;
    const own = seen.get(one.with.toLowerCase()) ?? [];
    if (!own.some((build) => sameBuild(build, one))) own.push({ with: one.with, version: one.version });
    seen.set(one.with.toLowerCase(), own);
  }
  const ordered = new Map(
    [...seen].map(([name, builds]) => [
      name,
      builds.sort(
        (a, b) => place(a) - place(b) || a.version.localeCompare(b.version, undefined, { numeric: true }),
      ),
    ]),
  );
  return [...ordered].flatMap(([name, builds]) => {
    const last = builds.at(-1)!;
    const before = builds.at(-2);
    const parent = versions.find((one) => one.with.toLowerCase() === name && one.forkOf)?.forkOf;
    const from =
      parent && parent.toLowerCase() !== name ? ordered.get(parent.toLowerCase())?.at(-1) : undefined;
    return [
      ...(before ? [{ first: before, second: last, fork: false }] : []),
      ...(from ? [{ first: from, second: last, fork: true }] : []),
    ];
  });
}

/** "glitches (picture), stumbles often" */
export function saySeenWith({ status, glitches, stumbles, breaks }: SeenWith): string {
  const often =
    stumbles !== null
      ? STUMBLES[stumbles]
      : breaks !== null && breaks.minutes > 0
        ? `${(breaks.count / breaks.minutes).toFixed(1)} stutters a minute`
        : null;
  return [`${status}${glitches === null ? '' : ` (${glitches.join(', ')})`}`, often]
    .filter(Boolean)
    .join(', ');
}

/** What came of a title, in a word or two. */
export const sayProgress = (progress: BuildProgress | null): string =>
  progress === 'fewer' ? 'fewer problems' : (progress ?? 'open');

/**
 * What came of it over all titles, in a sentence.
 *
 * @example
 * sayVersions([]); // 'No title was seen with both.'
 */
export function sayVersions(rows: readonly VersionRow[]): string {
  if (rows.length === 0) return 'No title was seen with both.';
  const counts = [...BUILD_PROGRESS, null].flatMap((word) => {
    const n = rows.filter((row) => row.progress === word).length;
    return n === 0 ? [] : [`${n} ${word === 'fewer' ? 'with fewer problems' : (word ?? 'open')}`];
  });
  const told = rows.filter((row) => row.stumbling !== null);
  const [less, more] = (['less', 'more'] as const).map(
    (word) => told.filter((row) => row.stumbling === word).length,
  );
  const stumbling =
    told.length === 0
      ? ''
      : less === 0 && more === 0
        ? ` Stutter is known for ${told.length}: the same in each.`
        : ` Stutter is known for ${told.length}: less often in ${less}, more often in ${more}.`;
  return `Of ${rows.length} title${rows.length === 1 ? '' : 's'} seen with both: ${counts.join(', ')}.${stumbling}`;
}
