import { spreadBetweenRuns, type Archive } from '../compare/spread';
import type { Measured } from '../compare/comparable';
import {
  differenceOf,
  isBetter,
  MARGIN_C,
  USUAL_MARGIN,
  type MeasureDifference,
} from '../compare/difference';
import { meanOfKnown } from '../numbers/mean';
import { atLeast, atMost } from '../numbers/threshold';
import { rate } from '../words/headline';
import { FULL_SPEED } from './ladder';

/** What is chosen between, where the options have no order. */
export const CHOICE_AXES = [
  'backend',
  'graphics driver',
  'API wrapper',
  'CPU preset',
  'version',
  'mode',
  'other',
] as const;
export type ChoiceAxis = (typeof CHOICE_AXES)[number];

/** An option whose probes all stay at or below this falls short of full speed. */
const SHORT_SPEED = 0.98;

/** What was seen with one option, on the scene of the choice. */
export interface ChoiceProbe {
  id: string;
  option: string;
  /** Speed of an emulator or a title with a fixed rate, percent. */
  percent: number | null;
  fps: number | null;
  /** Glitches that were counted; null where nobody counted. */
  glitches: number | null;
  /** Hottest reading, °C. */
  peakC: number | null;
  /** Shaders were compiled: it warms up, and is no probe. */
  firstPlay: boolean;
}

/** A choice as it is written down. */
export interface Choice {
  options: readonly string[];
  /** Native or target rate, fps; null where it is not known. */
  full: number | null;
  probes: readonly ChoiceProbe[];
}

/** What is known of one option. */
export interface OptionState {
  name: string;
  /** Counted probes. */
  probes: number;
  /** Geometric mean of its speed, as a share of full speed, else fps; null where none is known. */
  speed: number | null;
  /** Mean of the glitches that were counted in a probe. */
  glitches: number | null;
  /** Mean of the hottest readings, °C. */
  peakC: number | null;
  /** How its speed differs from that of the one that is to be taken, as a ratio; null for itself, or where it cannot be told. */
  cost: Pick<MeasureDifference, 'by' | 'interval' | 'verdict'> | null;
}

/** Where a choice stands. */
export interface ChoiceState {
  /** The speeds are shares of full speed; else fps. */
  shares: boolean;
  options: OptionState[];
  /** Clearly faster than every other one; null while that is open. */
  best: string | null;
  /** Those that none beats clearly, and that were tried. */
  unbeaten: string[];
  /** The one to take, and what settles it; null while nothing does. */
  take: { option: string; by: 'speed' | 'full speed' | 'glitches' | 'warmth' } | null;
  /** The option to try next; null where nothing is open. */
  next: string | null;
  /** Probes of each that would settle the speed, where it is open and that can be told. */
  probesEach: number | null;
}

/** Of one speed only what can be compared is known: shares where full speed is known, else rates. */
function speedsOf({ probes, full }: Choice): { shares: boolean; of: (option: string) => Measured[] } {
  const counted = probes.filter((one) => !one.firstPlay);
  const share = ({ percent, fps }: ChoiceProbe): number | null =>
    percent !== null ? percent / 100 : fps !== null && full !== null && full > 0 ? fps / full : null;
  const shares = full !== null || counted.some((one) => one.percent !== null);
  const value = (one: ChoiceProbe): number | null => (shares ? share(one) : one.fps);
  return {
    shares,
    of: (option) =>
      counted.flatMap((one) => {
        const seen = one.option === option ? value(one) : null;
        return seen === null || seen <= 0 ? [] : { value: seen, ends: null };
      }),
  };
}

/**
 * Where a choice between options without an order stands.
 *
 * One that holds full speed in all its probes beats one that reaches it in none.
 * Else each pair is compared as two sides of a comparison are, one probe as one run.
 * "Best" is only what is clearly faster than every other one; else those that
 * none beats clearly are told apart by glitches, then by warmth.
 *
 * @param archive how much runs of the library differ
 * @throws RangeError for an option that stands twice, or a probe of one that is not there
 * @shown the choice
 * @source docs/method.md, "Choices"
 */
export function choiceState(choice: Choice, archive: Archive): ChoiceState {
  const { options, probes } = choice;
  options.forEach((name, i) => {
    if (options.indexOf(name) < i) throw new RangeError(`the option “${name}” is listed twice`);
  });
  for (const { option } of probes)
    if (!options.includes(option)) throw new RangeError(`There is no option “${option}”`);
  const speeds = speedsOf(choice);
  const tried = options.filter((name) => speeds.of(name).length > 0);
  const between = (first: string, second: string): MeasureDifference | null =>
    differenceOf(
      'average',
      [speeds.of(first), speeds.of(second)],
      (sides) => spreadBetweenRuns('average', sides, archive, []),
      speeds.shares ? 1 : null,
      USUAL_MARGIN,
    );
  const every = (option: string, is: (share: number) => boolean): boolean =>
    speeds.shares && speeds.of(option).length > 0 && speeds.of(option).every(({ value }) => is(value));
  const holds = (option: string): boolean => every(option, (share) => atLeast(share, FULL_SPEED));
  const fallsShort = (option: string): boolean => every(option, (share) => atMost(share, SHORT_SPEED));
  // one that holds beats one that falls short, be it by one probe each
  const beats = (first: string, second: string): boolean =>
    (holds(first) && fallsShort(second)) ||
    (!(fallsShort(first) && holds(second)) && between(first, second)?.verdict === 'first better');
  const unbeaten = tried.filter((name) => !tried.some((other) => other !== name && beats(other, name)));
  const [first] = unbeaten;
  const best =
    tried.length === options.length &&
    first !== undefined &&
    tried.every((other) => other === first || beats(first, other))
      ? first
      : null;
  const told = options.map((name) => optionOf(name, choice, speeds.of(name)));
  const left = told.filter((one) => unbeaten.includes(one.name));
  const take =
    best === null
      ? tried.length < options.length
        ? null
        : left.length === 1
          ? { option: left[0]!.name, by: 'speed' as const }
          : (fewest(left, 'glitches', (a, b) => a < b) ?? fewest(calmest(left), 'warmth', isCooler))
      : {
          option: best,
          by:
            holds(best) && tried.every((other) => other === best || fallsShort(other))
              ? ('full speed' as const)
              : ('speed' as const),
        };
  const against = take?.option ?? (unbeaten.length === 1 ? unbeaten[0]! : null);
  const open = unbeaten
    .slice(1)
    .map((other) => between(unbeaten[0]!, other))
    .filter((one) => one?.verdict === 'no clear difference');
  return {
    shares: speeds.shares,
    options: told.map((one) => ({
      ...one,
      cost: against === null || one.name === against ? null : costOf(between(against, one.name)),
    })),
    best,
    unbeaten,
    take,
    next: nextOf(told, unbeaten, take !== null),
    probesEach: most(open.map((one) => one!.runsPerSide)),
  };
}

const costOf = (one: MeasureDifference | null): OptionState['cost'] =>
  one && { by: one.by, interval: one.interval, verdict: one.verdict };

/** The highest, where all are known. */
const most = (numbers: (number | null)[]): number | null =>
  numbers.length === 0 || numbers.includes(null) ? null : Math.max(...(numbers as number[]));

function optionOf(name: string, { probes }: Choice, speeds: Measured[]): OptionState {
  const own = probes.filter((one) => one.option === name && !one.firstPlay);
  return {
    name,
    probes: own.length,
    speed:
      speeds.length === 0
        ? null
        : Math.exp(speeds.reduce((sum, { value }) => sum + Math.log(value), 0) / speeds.length),
    glitches: meanOfKnown(own.map((one) => one.glitches)),
    peakC: meanOfKnown(own.map((one) => one.peakC)),
    cost: null,
  };
}

/** Warmth is told apart from a degree on: less nobody feels, and no thermometer shows. */
const isCooler = (a: number, b: number): boolean => atLeast(b - a, MARGIN_C);

const FACT = { glitches: 'glitches', warmth: 'peakC' } as const;

/** The one option that has less of something than every other one; null where one of them is not known. */
function fewest(
  left: OptionState[],
  by: 'glitches' | 'warmth',
  less: (a: number, b: number) => boolean,
): ChoiceState['take'] {
  const value = (one: OptionState): number | null => one[FACT[by]];
  if (left.length === 0 || left.some((one) => value(one) === null)) return null;
  const found = left.find((one) => left.every((other) => other === one || less(value(one)!, value(other)!)));
  return found ? { option: found.name, by } : null;
}

/** Those with as few glitches as any: warmth decides between them alone. */
function calmest(left: OptionState[]): OptionState[] {
  const known = left.filter((one) => one.glitches !== null);
  if (known.length < left.length) return left;
  const least = Math.min(...known.map((one) => one.glitches!));
  return left.filter((one) => one.glitches === least);
}

/** What was never tried comes first, then what is still open and was tried least. */
function nextOf(told: OptionState[], unbeaten: string[], settled: boolean): string | null {
  const untried = told.find((one) => one.speed === null);
  if (untried) return untried.name;
  if (settled) return null;
  const open = told.filter((one) => unbeaten.includes(one.name));
  const least = Math.min(...open.map((one) => one.probes));
  return open.find((one) => one.probes === least)?.name ?? null;
}

export const saySpeed = (speed: number, shares: boolean): string =>
  shares ? `${Math.round(speed * 1000) / 10}\u00a0%` : `${rate(speed)}\u00a0fps`;

const WHY = {
  'full speed': 'it holds full speed in every test; no other option reaches it',
  speed: 'it is clearly faster than every other option',
  glitches: 'no option is clearly faster; it has the fewest glitches',
  warmth: 'no option is clearly faster or has fewer glitches; it stays coolest',
} as const;

/**
 * Where a choice stands, in words.
 *
 * @source docs/method.md, "Choices"
 */
export function sayChoice(state: ChoiceState): string {
  const { best, take, next, unbeaten, probesEach, options } = state;
  if (take?.by === 'speed' && best === null)
    return `Choose ${take.option}: it is clearly better than every other option.`;
  if (take) return `Choose ${take.option}: ${WHY[take.by]}.`;
  if (options.every((one) => one.speed === null)) return `No tests yet. Start with ${next}.`;
  const untried = options.filter((one) => one.speed === null).map((one) => one.name);
  if (untried.length > 0) return `Not decided: ${untried.join(', ')} not tested yet. Test ${next} next.`;
  const enough = probesEach === null ? '' : ` About ${probesEach} tests of each would decide the speed.`;
  return `Not decided between ${unbeaten.join(' and ')}: neither is clearly faster. Test ${next} again and enter glitches and warmth.${enough}`;
}

/** "costs 4 % of the speed (1 to 6 %)", against what is to be taken; null where there is nothing to say. */
export function sayCost({ cost }: OptionState): string | null {
  if (cost === null) return null;
  if (cost.verdict === 'equal under the cap') return 'equally fast, at full speed';
  if (cost.verdict === 'the same in practice') return 'equally fast in practice';
  const [low, high] = cost.interval;
  if (!isBetter(cost.verdict) || low === null) return 'no clear difference in speed';
  const lost = (ratio: number): number => Math.round((1 - ratio) * 100);
  return `${lost(cost.by)}\u00a0% slower (${Math.max(0, lost(high))} to ${lost(low)}\u00a0%)`;
}
