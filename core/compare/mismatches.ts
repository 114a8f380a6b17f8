import { above } from '../numbers/threshold';
import { MISMATCHES, OTHER_WORK, type MismatchKind } from '../vocabulary';
import type { RunOfSide } from './comparable';
import { peaksOf, type Peak } from './peaks';

/** Which side a mismatch speaks for. */
export type SideName = 'first' | 'second';

/** Something that was not the same on both sides. */
export interface Mismatch {
  kind: MismatchKind;
  /** Where it is known; 'both' where it differs. */
  known: 'both' | SideName;
  /** What it was on each side: numbers in the fact's unit (°C, s, percent, Hz, fps, pixels), else words; empty where unknown. */
  first: (string | number)[];
  second: (string | number)[];
  /** The side whose figures it makes look better; null where that is not known, or goes both ways. */
  favours: SideName | null;
}

/** How one fact is held against its like on the other side. */
interface Rule {
  of: (run: RunOfSide) => (string | number | null | undefined)[];
  /** The means of numbers may lie so far apart; else every difference counts. */
  apart?: (first: number, second: number) => boolean;
  /** Which of two means, or of two words, looks better for it. */
  better?: 'lower' | 'higher' | { word: string | number };
}

const distance = (most: number) => (first: number, second: number) => above(Math.abs(first - second), most);
/** By how much of the shorter two lengths may differ. */
const LENGTH_SHARE = 0.2;

/** "without", "with", or "with the Clip-on cooler"; one that was switched on in between is both. */
function coolerOf(run: RunOfSide): (string | undefined)[] {
  const { cooler, coolerName } = run.stated.preflight;
  const named = coolerName === undefined ? 'with' : `with the ${coolerName}`;
  return [cooler === 'with' ? named : cooler, ...during(run, 'cooler', named)];
}

/** What a state that the device was in for a while says beside the preflight. */
const during = ({ figures }: RunOfSide, kind: string, says: string): string[] =>
  (figures.spans ?? []).includes(kind) ? [says] : [];

/** What the preflight says, else a condition that is stated. */
const statedOr = (
  { stated: { preflight, conditions } }: RunOfSide,
  fact: 'power' | 'mode',
  condition: string,
  says: string,
): (string | undefined)[] => [preflight[fact] ?? (conditions.includes(condition) ? says : undefined)];

const stated =
  (name: keyof RunOfSide['stated']['preflight']) =>
  ({ stated: { preflight } }: RunOfSide): (string | number | undefined)[] => [preflight[name]];

const RULES: Record<MismatchKind, Rule> = {
  title: { of: (run) => [run.stated.title] },
  scene: { of: (run) => run.stated.scenes },
  cap: { of: stated('cap'), better: 'higher' },
  target: { of: (run) => [run.stated.target] },
  // one that ended early has no hard minutes to show
  outcome: { of: (run) => [outcomeOf(run)], better: { word: 'crashed' } },
  room: { of: (run) => [run.stated.roomC], apart: distance(2), better: 'lower' },
  startWarmth: { of: (run) => [run.figures.startC], apart: distance(2), better: 'lower' },
  length: {
    of: (run) => [run.figures.seconds],
    apart: (first, second) => above(Math.abs(first - second), LENGTH_SHARE * Math.min(first, second)),
    better: 'lower',
  },
  brightness: { of: stated('brightness'), apart: distance(10), better: 'lower' },
  refresh: { of: (run) => [run.figures.refreshHz] },
  power: { of: (run) => statedOr(run, 'power', 'plugged-in', 'plugged-in') },
  mode: { of: (run) => [...statedOr(run, 'mode', 'boosted', 'boost'), ...during(run, 'boost', 'boost')] },
  case: { of: (run) => [run.stated.preflight.case, ...during(run, 'case', 'on')], better: { word: 'off' } },
  // which of several coolers it was counts, too; one that nobody named favours as any does
  cooler: { of: coolerOf, better: { word: 'with' } },
  network: { of: stated('network'), better: { word: 'offline' } },
  hold: { of: stated('hold') },
  titleVersion: { of: stated('titleVersion') },
  layer: { of: stated('layer') },
  driver: { of: stated('driver') },
  system: { of: stated('system') },
  pixels: { of: stated('pixels'), better: 'lower' },
  source: { of: (run) => [run.figures.source] },
  firstPlay: {
    of: ({ stated: { told, conditions } }) => [
      told ? (conditions.includes('first-play') ? 'first play' : 'played before') : null,
    ],
    better: { word: 'played before' },
  },
  // what the peaks were read with: known once both sides are
  instrument: { of: () => [] },
};

function outcomeOf({ figures }: RunOfSide): string {
  if (figures.ended === 'crash') return 'crashed';
  return figures.ended === 'would-not-start' ? 'did not start' : 'ran';
}

/**
 * What was not the same on two sides, in the order in which it is named.
 *
 * Numbers are held against each other by their means, all else by what is
 * found among a side's runs. What is known on one side only is named as such.
 *
 * @shown Compare: what was not the same
 * @source docs/method.md, "Difference between two sides"; the directions are common practice
 */
export function mismatchesOf(first: readonly RunOfSide[], second: readonly RunOfSide[]): Mismatch[] {
  return MISMATCHES.flatMap((kind): Mismatch[] => {
    const rule = RULES[kind];
    const [a, b] =
      kind === 'instrument'
        ? instruments(first, second)
        : ([first, second].map((side) => known(side, rule)) as [Fact[], Fact[]]);
    if (a.length === 0 && b.length === 0) return [];
    if (a.length === 0 || b.length === 0)
      return [
        {
          kind,
          known: a.length > 0 ? 'first' : 'second',
          first: a,
          second: b,
          favours: null,
        },
      ];
    return differ(a, b, rule)
      ? [{ kind, known: 'both', first: a, second: b, favours: favours(a, b, rule.better) }]
      : [];
  });
}

type Fact = string | number;

/** What the peaks of each side that are compared were read with. */
function instruments(first: readonly RunOfSide[], second: readonly RunOfSide[]): [Fact[], Fact[]] {
  const peaks = peaksOf([...first, ...second].map(({ figures }) => figures));
  const of = (side: (Peak | null)[]): Fact[] => [...new Set(side.flatMap((peak) => peak?.by ?? []))].sort();
  return [of(peaks.slice(0, first.length)), of(peaks.slice(first.length))];
}

/** What is known of a side: each value once, in order; of a number that is averaged, the mean. */
function known(side: readonly RunOfSide[], { of, apart }: Rule): Fact[] {
  const values = side.flatMap(of).filter((value): value is Fact => value !== null && value !== undefined);
  if (apart && values.length > 0) return [mean(values as number[])];
  return [...new Set(values)].sort();
}

const differ = (a: Fact[], b: Fact[], { apart }: Rule): boolean =>
  apart ? apart(Number(a[0]), Number(b[0])) : a.length !== b.length || a.some((value, i) => value !== b[i]);

function favours(a: Fact[], b: Fact[], better: Rule['better']): SideName | null {
  if (better === undefined) return null;
  if (typeof better === 'object') {
    const is = (value: Fact): boolean => value === better.word || String(value).startsWith(`${better.word} `);
    const [here, there] = [a.some(is), b.some(is)];
    return here === there ? null : here ? 'first' : 'second';
  }
  const [first, second] = [mean(a.map(Number)), mean(b.map(Number))];
  if (first === second) return null;
  return first < second === (better === 'lower') ? 'first' : 'second';
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * A mismatch as the command line names it.
 *
 * @example
 * mismatchName({ kind: 'room', known: 'first', first: [18], second: [], favours: null }); // 'room unknown'
 */
export const mismatchName = ({ kind, known: where }: Mismatch): string =>
  where === 'both' ? kind : `${kind} unknown`;

/**
 * Whether the two sides did different work, so that they are compared only on request.
 *
 * @example
 * otherWork([{ kind: 'room', known: 'both', first: [18], second: [31], favours: 'first' }]); // []
 */
export const otherWork = (mismatches: readonly Mismatch[]): Mismatch[] =>
  mismatches.filter((mismatch) => mismatch.known === 'both' && OTHER_WORK.includes(mismatch.kind));
