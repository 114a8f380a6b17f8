import type { BreakDifference } from '../compare/breakRate';
import type { Comparison } from '../compare/compare';
import type { FieldMeasure } from '../compare/field';
import { isBetter, type MeasureDifference } from '../compare/difference';
import { byLogarithm } from '../compare/spread';
import { otherWork, type Mismatch, type SideName } from '../compare/mismatches';
import type { MeasureStanding } from '../compare/standing';
import type { CompareMeasure, CompareVerdict, MismatchKind, RunMeasure } from '../vocabulary';
import { clock, hoursAndMinutes, rate, sayTemperature, type Voice } from './headline';
import type { TemperatureUnit } from './temperature';

/** What the sides are called, for instance by their devices. */
export type SideNames = readonly [string, string];

/** Measures as they are called on a screen. */
export const MEASURE_WORDS: Record<CompareMeasure, string> = {
  average: 'average',
  median: 'median',
  closing: 'closing pace',
  onePercentLow: '1 % low',
  watts: 'power',
  hoursFromFull: 'hours from full',
  peakRise: 'rise above room temperature',
  peak: 'peak',
  breaks: 'breaks',
};

/** What was not the same, as it is called on a screen. */
export const MISMATCH_WORDS: Record<MismatchKind, string> = {
  title: 'title',
  scene: 'scene',
  cap: 'frame cap',
  target: 'target',
  outcome: 'how it ended',
  room: 'room temperature',
  startWarmth: 'start temperature',
  length: 'length',
  brightness: 'brightness',
  refresh: 'refresh rate',
  power: 'power',
  mode: 'performance mode',
  case: 'case',
  cooler: 'cooler',
  network: 'network',
  hold: 'how it was held',
  titleVersion: 'title version',
  layer: 'translation layer',
  driver: 'graphics driver',
  system: 'system',
  pixels: 'render resolution',
  source: 'source of the rates',
  firstPlay: 'first play',
  instrument: 'what warmth was read with',
};

/**
 * A side's mean of a measure with its unit.
 *
 * @example
 * sayMeasure('watts', 4.25, 'C'); // '4.3\u00a0W'
 */
export function sayMeasure(measure: RunMeasure, value: number, unit: TemperatureUnit): string {
  if (measure === 'watts') return `${value.toFixed(1)}\u00a0W`;
  if (measure === 'hoursFromFull') return hoursAndMinutes(value);
  if (measure === 'peakRise') return sayRise(value, unit);
  if (measure === 'peak') return sayTemperature(value, unit);
  return `${rate(value)}\u00a0fps`;
}

/** A difference of temperatures in the reader's scale. */
export const sayRise = (c: number, unit: TemperatureUnit): string =>
  `${(unit === 'C' ? c : c * 1.8).toFixed(1)}\u00a0°${unit}`;

/** A ratio as what is more or less, for instance "+4 %". */
export function percentMore(ratio: number): string {
  const percent = (ratio - 1) * 100;
  const digits = Math.abs(percent) < 9.95 ? 1 : 0;
  const text = Math.abs(percent).toFixed(digits);
  return Number(text) === 0 ? `0\u00a0%` : `${percent < 0 ? '−' : '+'}${text}\u00a0%`;
}

/**
 * A difference with its interval.
 *
 * @example
 * sayDifference('average', { by: 1.1, interval: [1.05, 1.15] }, 'C'); // '+10\u00a0% (+5.0 to +15\u00a0%)'
 */
export function sayDifference(
  measure: RunMeasure,
  { by, interval }: Pick<MeasureDifference, 'by' | 'interval'>,
  unit: TemperatureUnit,
): string {
  const one = (value: number): string =>
    byLogarithm(measure) ? percentMore(value) : `${value < 0 ? '−' : '+'}${sayRise(Math.abs(value), unit)}`;
  const bare = (value: number): string => one(value).replace(/\u00a0.*$/, '');
  return interval[0] === null
    ? `${one(by)}, interval unknown`
    : `${one(by)} (${bare(interval[0])} to ${one(interval[1])})`;
}

/** Breaks of both sides by the ten minutes. */
export function sayBreaks({ first, second }: Pick<BreakDifference, 'first' | 'second'>): [string, string] {
  const one = ({ count, minutes }: BreakDifference['first']): string =>
    `${count} in ${Math.round(minutes)}\u00a0min`;
  return [one(first), one(second)];
}

/** How often the second side breaks, against the first, with its interval. */
export function sayBreakRatio({ by, interval }: BreakDifference): string {
  const times = (value: number): string => `${value < 9.95 ? value.toFixed(1) : value.toFixed(0)}`;
  if (by === null) return `at least ${times(interval[0])} times as often`;
  return `${times(by)} times as often (${times(interval[0])} to ${interval[1] === null ? 'any' : times(interval[1])})`;
}

const betterSide = (verdict: CompareVerdict): SideName | null =>
  verdict === 'first better' ? 'first' : verdict === 'second better' ? 'second' : null;

const nameOf = (side: SideName, names: SideNames): string => names[side === 'first' ? 0 : 1];

/** What being better in a measure is called. */
const AHEAD: Record<CompareMeasure, string> = {
  average: 'is faster',
  median: 'is faster',
  closing: 'is faster at the end',
  onePercentLow: 'has the higher 1 % low',
  watts: 'uses less power',
  hoursFromFull: 'lasts longer',
  peakRise: 'stays cooler',
  peak: 'stays cooler',
  breaks: 'breaks less often',
};

/** The measure that speaks first: the pace, by the reader's school. */
export function leadMeasure(
  { measures, warmthBy }: Comparison,
  { school }: Pick<Voice, 'school'>,
): CompareMeasure | null {
  const order: CompareMeasure[] =
    school === 'median-and-hold' ? ['median', 'average', 'closing'] : ['average', 'median', 'closing'];
  const rest: CompareMeasure[] = ['onePercentLow', 'breaks', warmthBy, 'watts', 'hoursFromFull'];
  return [...order, ...rest].find((measure) => measures[measure] !== null) ?? null;
}

/**
 * One measure's verdict as a plain sentence.
 *
 * @example
 * sayVerdict('breaks', { first: { count: 1, minutes: 30 }, second: { count: 20, minutes: 30 }, by: 20, interval: [3, 800], verdict: 'first better' }, ['Velm 5', 'Velm 4'], 'C', null); // 'Velm 5 breaks less often: 1 in 30\u00a0min against 20 in 30\u00a0min.'
 */
export function sayVerdict(
  measure: CompareMeasure,
  difference: MeasureDifference | BreakDifference,
  names: SideNames,
  unit: TemperatureUnit,
  cap: number | null,
): string {
  const better = betterSide(difference.verdict);
  const values = valuesOf(measure, difference, unit);
  const against = (side: SideName): string =>
    side === 'first' ? `${values[0]} against ${values[1]}` : `${values[1]} against ${values[0]}`;
  if (better) {
    const felt =
      'small' in difference && difference.small ? ' The difference is clear but too small to notice.' : '';
    return `${nameOf(better, names)} ${AHEAD[measure]}: ${against(better)}.${felt}`;
  }
  if (difference.verdict === 'equal under the cap')
    return `Equal under the cap: both reach ${cap} fps (${against('first')}). What each could do without the cap is unknown.`;
  if (difference.verdict === 'the same in practice')
    return `The same in practice: ${against('first')}. Any difference is too small to notice.`;
  return `No clear difference in ${MEASURE_WORDS[measure]}: ${against('first')}. Repeat runs differ by as much.`;
}

/** Both sides' values of a measure in words. */
export function valuesOf(
  measure: CompareMeasure,
  difference: MeasureDifference | BreakDifference,
  unit: TemperatureUnit,
): [string, string] {
  if (measure === 'breaks') return sayBreaks(difference as BreakDifference);
  const { first, second } = difference as MeasureDifference;
  return [sayMeasure(measure, first, unit), sayMeasure(measure, second, unit)];
}

/**
 * The answer to a comparison: the first line.
 *
 * A side that is ahead while something that was not the same favours it is
 * not called the better one without saying so.
 *
 * @shown Compare: the answer
 */
export function compareAnswer(comparison: Comparison, names: SideNames, voice: Voice): string {
  const lead = leadMeasure(comparison, voice);
  if (lead === null) return 'No measure is available for both sides.';
  const difference = comparison.measures[lead]!;
  const sentence = sayVerdict(lead, difference, names, voice.unit, comparison.cap);
  const other = otherWork(comparison.mismatches);
  if (other.length > 0)
    return `Test conditions differ (${other.map(({ kind }) => MISMATCH_WORDS[kind]).join(', ')}). ${sentence}`;
  const better = betterSide(difference.verdict);
  const favoured = comparison.mismatches.filter(({ favours }) => favours !== null && favours === better);
  const beside = elsewhere(comparison, lead, names);
  if (better === null || favoured.length === 0) return sentence + beside;
  return `${sentence}${beside} ${beside === '' ? 'But' : 'And'} ${favoured
    .slice(0, 2)
    .map((mismatch) => sayMismatch(mismatch, voice.unit))
    .join(
      ', and ',
    )} ${favoured.length > 1 ? 'favour' : 'favours'} ${nameOf(better, names)}: part of the difference may come from ${favoured.length > 1 ? 'them' : 'it'}.`;
}

/** What other measures say clearly that the first one does not: all where it settles nothing, else what speaks for the other side. */
function elsewhere(comparison: Comparison, lead: CompareMeasure, names: SideNames): string {
  const ahead = betterSide(comparison.measures[lead]!.verdict);
  const others: CompareMeasure[] = ['onePercentLow', 'closing', 'breaks', comparison.warmthBy, 'watts'];
  const clear = others.flatMap((measure) => {
    const found = comparison.measures[measure];
    const side = found && betterSide(found.verdict);
    if (!side || measure === lead || side === ahead || (ahead !== null && 'small' in found && found.small))
      return [];
    // by how much, where it speaks against what was said first
    const values = valuesOf(measure, found, 'C');
    const [own, its] = side === 'first' ? values : [values[1], values[0]];
    const says = ahead === null || measure === comparison.warmthBy ? '' : `: ${own} against ${its}`;
    return `${nameOf(side, names)} ${AHEAD[measure]}${says}`;
  });
  return clear.length === 0 ? '' : ` But ${clear.join(', and ')}.`;
}

/**
 * Something that was not the same, in words without a full stop.
 *
 * @example
 * sayMismatch({ kind: 'room', known: 'first', first: [18], second: [], favours: null }, 'C'); // 'room temperature 18.0\u00a0°C against unknown'
 */
export function sayMismatch({ kind, first, second }: Mismatch, unit: TemperatureUnit): string {
  const side = (values: (string | number)[]): string =>
    values.length === 0 ? 'unknown' : values.map((value) => sayFact(kind, value, unit)).join(' and ');
  return `${MISMATCH_WORDS[kind]} ${side(first)} against ${side(second)}`;
}

/** How rates are known, as it is said. */
export const SOURCE_NAMES: Record<string, string> = {
  frames: 'frames',
  read: 'read from a counter',
  eye: 'by eye',
};

function sayFact(kind: MismatchKind, value: string | number, unit: TemperatureUnit): string {
  if (typeof value === 'string') return kind === 'source' ? (SOURCE_NAMES[value] ?? value) : `“${value}”`;
  switch (kind) {
    case 'room':
    case 'startWarmth':
      return sayTemperature(value, unit);
    case 'length':
      return clock(value);
    case 'brightness':
      return `${Math.round(value)}\u00a0%`;
    case 'refresh':
      return `${rate(value)}\u00a0Hz`;
    case 'cap':
    case 'target':
      return `${rate(value)}\u00a0fps`;
    default:
      return value.toLocaleString('en-GB');
  }
}

/** Which way a mismatch pushes. */
export function sayDirection({ kind, known, favours }: Mismatch, names: SideNames): string {
  if (known !== 'both') return `${nameOf(known === 'first' ? 'second' : 'first', names)}’s is unknown`;
  if (favours) return `favours ${nameOf(favours, names)}`;
  return ['title', 'scene', 'target'].includes(kind) ? 'different test conditions' : 'effect unknown';
}

/**
 * What would settle it: more runs where the spread hides a difference, and the same conditions where they differed.
 *
 * @param runs of each side
 * @returns sentences without a full stop, the weightier first
 * @shown Compare: what would settle it
 */
export function whatWouldSettle(
  comparison: Comparison,
  runs: readonly [number, number],
  voice: Voice,
): string[] {
  const lead = leadMeasure(comparison, voice);
  const difference = lead === null ? null : comparison.measures[lead];
  const needed = difference && 'runsPerSide' in difference ? difference.runsPerSide : null;
  const capped = difference?.verdict === 'equal under the cap';
  return [
    ...comparison.mismatches.flatMap((mismatch) => remedyOf(mismatch, voice.unit)),
    ...(capped ? ['repeat both without the cap, or with a more demanding scene'] : []),
    ...(needed === null ? [] : moreRuns(needed, runs)),
  ];
}

function moreRuns(needed: number, [first, second]: readonly [number, number]): string[] {
  const more = [needed - first, needed - second].map((count) => Math.max(0, count)) as [number, number];
  if (more[0] === 0 && more[1] === 0) return [];
  const plenty = needed > 20 ? ', which is a sign that hardly anyone would notice the difference' : '';
  return [
    more[0] === more[1]
      ? `${more[0]} more ${more[0] === 1 ? 'run' : 'runs'} per side${plenty}`
      : `${needed} runs per side: ${more[0]} and ${more[1]} more${plenty}`,
  ];
}

/** Conditions that are made the same by repeating both. */
const SAME_AGAIN: Partial<Record<MismatchKind, string>> = {
  scene: 'play the same scene on both',
  cap: 'set the same cap on both',
  startWarmth: 'start both cold',
  refresh: 'set the same refresh rate on both',
  power: 'run both on battery',
  mode: 'use the same performance mode on both',
  case: 'use no case on either, or a case on both',
  cooler: 'use the cooler on both or on neither',
  network: 'repeat both offline',
  hold: 'hold or place both in the same way',
  titleVersion: 'play the same version of the title',
  layer: 'use the same layer version',
  driver: 'use the same driver',
  pixels: 'use the same render resolution on both',
  source: 'log frames on both, or read both in the same way',
  firstPlay: 'play both a second time',
  outcome: 'repeat the one that ended early',
};

function remedyOf({ kind, known, first, second }: Mismatch, unit: TemperatureUnit): string[] {
  const numbers = [...first, ...second].map(Number);
  if (kind === 'room')
    return known === 'both'
      ? [`repeat both at ${sayTemperature(Math.min(...numbers), unit)}`]
      : ['record the room temperature for both'];
  if (kind === 'length') return [`play both for ${clock(Math.max(...numbers))}`];
  if (kind === 'brightness' && known === 'both')
    return [`set both to ${Math.round(Math.max(...numbers))}\u00a0% brightness`];
  if (known !== 'both') return [];
  return SAME_AGAIN[kind] === undefined ? [] : [SAME_AGAIN[kind]];
}

/** What being the best in a measure is called. */
const BEST: Record<RunMeasure, string> = {
  average: 'the fastest',
  median: 'the fastest',
  closing: 'the fastest at the end',
  onePercentLow: 'the one with the highest 1 % low',
  watts: 'lowest in power',
  hoursFromFull: 'the longest-lasting',
  peakRise: 'the coolest',
  peak: 'the coolest',
};

/**
 * Several sides of one title in one measure, as a sentence.
 *
 * @param names of the sides
 * @shown Compare: the answer of a field
 */
export function fieldAnswer(
  measure: RunMeasure,
  { places, order, clear }: FieldMeasure,
  names: readonly string[],
  unit: TemperatureUnit,
): string {
  const [best, ...others] = order;
  if (best === undefined) return 'Nothing was measured yet.';
  const says = (side: number): string => `${names[side]} (${sayMeasure(measure, places[side]!.value, unit)})`;
  if (others.length === 0) return `Only ${says(best)} has a value for this measure.`;
  if (clear) return `${says(best)} is clearly ${BEST[measure]} of ${order.length}.`;
  const level = others.filter((side) => places[side]!.against && !isBetter(places[side]!.against.verdict));
  const other = others.filter((side) => places[side]!.otherWork.length > 0);
  if (level.length === 0)
    return `${says(best)} is ahead, but under other test conditions than ${other.map((side) => names[side]).join(', ')}.`;
  return `No device is clearly ${BEST[measure]}: ${says(best)} does not differ clearly from ${level.slice(0, 3).map(says).join(', ')}${level.length > 3 ? ` and ${level.length - 3} more` : ''}.`;
}

/**
 * Devices over several titles, as a sentence: how often each is clearly ahead.
 *
 * @shown Compare: the answer of a matrix
 */
export function matrixAnswer(
  measure: RunMeasure,
  rows: readonly FieldMeasure[],
  names: readonly string[],
): string {
  const compared = rows.filter((row) => row.order.length > 1);
  if (compared.length === 0) return 'The devices have no title in common.';
  const wins = names
    .map((name, side) => ({
      name,
      count: compared.filter((row) => row.clear && row.order[0] === side).length,
    }))
    .filter(({ count }) => count > 0)
    .sort((a, b) => b.count - a.count);
  const [first, ...others] = wins;
  if (compared.length === 1)
    return first === undefined
      ? `No device is clearly ${BEST[measure]} in the one shared title.`
      : `${first.name} is clearly ${BEST[measure]} in the one shared title.`;
  if (first === undefined)
    return `In none of the ${compared.length} shared titles is one device clearly ${BEST[measure]}.`;
  return `${first.name} is clearly ${BEST[measure]} in ${first.count} of ${compared.length} titles in common${others.map(({ name, count }) => `, ${name} in ${count}`).join('')}.`;
}

/** What comes first, second and so on. */
/**
 * Where a run stands, in one sentence: first and last places by their names where they are told apart from the next, else the place in pace.
 *
 * @returns null where nothing comparable is there
 * @shown Where it stands
 * @example
 * sayStanding([{ measure: 'peakRise', own: 30, place: 3, of: 3, apart: true, others: [] }]); // 'Hottest of 3.'
 */
export function sayStanding(measures: readonly MeasureStanding[]): string | null {
  const told = measures.filter(({ of }) => of > 1);
  const extremes: Partial<Record<RunMeasure, [string, string]>> = {
    average: ['fastest', 'slowest'],
    peakRise: ['coolest', 'hottest'],
    watts: ['lowest in power', 'highest in power'],
  };
  const parts = told.flatMap(({ measure, place, of, apart }) => {
    const words = extremes[measure];
    if (!words) return [];
    // a place that a second run may turn round is no first one
    if (!apart && (place === 1 || place === of))
      return measure === 'average'
        ? [`not told apart from the ${of === 2 ? 'other' : 'next'} one in pace`]
        : [];
    if (place === 1) return [`${words[0]} of ${of}`];
    if (place === of) return [`${words[1]} of ${of}`];
    return measure === 'average' ? [`rank ${place} of ${of} in pace`] : [];
  });
  const [first, ...others] = parts;
  return first === undefined
    ? null
    : `${first[0]!.toUpperCase()}${first.slice(1)}${others.map((other) => `, ${other}`).join('')}.`;
}
