import { sitsAtCap } from '../figures/cap';
import type { Figures } from '../figures/model';
import { hoursSaid } from '../figures/drain';
import { WELL_OVER } from '../figures/overTarget';
import { middleOf, type Ends } from '../readOff/ends';
import type { ReadSaid } from '../readOff/readSaid';
import { sayWritten } from '../readOff/written';
import { above, atMost } from '../numbers/threshold';
import { STUMBLES, type Feel, type SmoothWord } from '../vocabulary';
import { greatest } from '../numbers/thin';
import { toFahrenheit, type TemperatureUnit } from './temperature';

/** Minutes and seconds of the run's clock, for instance "8:05". */
export function clock(seconds: number): string {
  const whole = Math.floor(seconds);
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const rest = String(whole % 60).padStart(2, '0');
  return hours > 0 ? `${hours}:${String(minutes).padStart(2, '0')}:${rest}` : `${minutes}:${rest}`;
}

/** A rate as it is said: whole from 100 on, two decimals below 1, else one decimal where it is not whole. */
export function rate(fps: number): string {
  if (fps >= 99.95) return fps.toFixed(0);
  return fps > 0 && fps < 1 ? fps.toFixed(2) : fps.toFixed(1).replace(/\.0$/, '');
}

/** Hours and minutes, for instance "2 h 10". */
export function hoursAndMinutes(hours: number): string {
  const minutes = Math.round(hours * 60);
  return minutes < 60
    ? `${minutes}\u00a0min`
    : `${Math.floor(minutes / 60)}\u00a0h\u00a0${String(minutes % 60).padStart(2, '0')}`;
}

/** Which figures lead: the school of median and hold, or that of average and lows. */
export type School = 'median-and-hold' | 'average-and-lows';

/** How a reader likes figures to be said. */
export interface Voice {
  school: School;
  unit: TemperatureUnit;
}

export const USUAL_VOICE: Voice = { school: 'average-and-lows', unit: 'C' };

/** The figures that a headline is made of. */
export interface HeadlineFacts {
  /** Of a sitting: its titles with their averages; null for a run of one title. */
  titles: { title: string | null; average: number | null }[] | null;
  /** Of an emulator, a share. */
  speed: number | null;
  smooth: SmoothWord | null;
  /** How it plays, as the player says. */
  feel?: Feel | null;
  /** What was read off, as it was written; null where frames were logged. */
  said?: ReadSaid | null;
  /** The opening that was read is from so late, s. */
  fromS?: number | null;
  end: Figures['end'];
  freezes: { count: number; longestS: number } | null;
  pace: Figures['pace'];
  onePercentLow: number | null;
  cap: number | null;
  stamina: Pick<Figures['stamina'], 'opening' | 'closing' | 'word' | 'sawtooth' | 'onsetS'>;
  /** The longest stretch between the ends that lies well below both. */
  dip?: Figures['stamina']['dips'][number] | null;
  /** How many such stretches there are. */
  dips?: number;
  /** Frames come unevenly, whatever the average says. */
  uneven?: 'low' | 'cadence' | null;
  /** It goes down, or up, from step to step: no swinging, though hardly a second is near the average. */
  stairs?: boolean;
  /** Target that part of the run lies well above: a menu? */
  over?: number | null;
  peakC: number | null;
  /** It was written as "about". */
  peakAbout?: boolean;
  hottest: string | null;
  /** Hours from full, as far as the readings allow to say it. */
  hours: { low: number; high: number | null } | null;
  /** Null where nothing but a percent or two is behind them. */
  watts: number | null;
}

/** From here down the 1 % low tells more than the average. */
const UNEVEN_LOW = 0.6;

/** Whether half the frames take one slot of the panel more than the others, or a hundredth of them far longer. */
function unevenness({ pace, lows, cadence }: Figures): HeadlineFacts['uneven'] {
  const low = lows.onePercent.quantile;
  if (pace.source !== 'frames' || pace.average === null || pace.swings) return null;
  if (low !== null && atMost(low, UNEVEN_LOW * pace.average)) return 'low';
  return cadence.kind === 'alternating' ? 'cadence' : null;
}

/** Steps of less are passed over, as a share of the opening. */
const STEP = 0.05;

/** Whether the pace takes a step or more, all of them down or all up. */
function goesOneWay({ segments, opening }: Figures['stamina']): boolean {
  const steps = segments
    .slice(1)
    .map(({ mean }, i) => mean - segments[i]!.mean)
    .filter((step) => Math.abs(step) >= STEP * (opening ?? 0));
  return steps.length > 0 && steps.every((step) => step > 0 === steps[0]! > 0);
}

/** What a headline needs of the figures. */
export function headlineFacts(figures: Figures): HeadlineFacts {
  const { opening, closing, word, sawtooth, onsetS } = figures.stamina;
  const titles = figures.sitting?.titles ?? [];
  return {
    titles: titles.length > 1 ? titles.map(({ title, average }) => ({ title, average })) : null,
    speed: figures.frames.count === 0 ? (figures.emulation?.speed ?? null) : null,
    smooth: figures.read?.smooth ?? null,
    feel: figures.read?.feel ?? null,
    said: figures.frames.count === 0 ? (figures.read?.said ?? null) : null,
    fromS: figures.read?.fromS ?? null,
    end: figures.end,
    freezes: figures.evenness.freezes
      ? {
          count: figures.evenness.freezes,
          longestS: greatest(figures.breaks.map((found) => found.lengthUs)) / 1e6,
        }
      : null,
    pace: figures.pace,
    onePercentLow: figures.lows.onePercent.quantile,
    // one that it left says nothing of headroom
    cap: sitsAtCap(figures.capShare) ? figures.cap : null,
    stamina: { opening, closing, word, sawtooth, onsetS },
    dip: longest(figures.stamina.dips),
    dips: figures.stamina.dips.length,
    uneven: unevenness(figures),
    stairs: goesOneWay(figures.stamina),
    over: figures.caveats.includes('over-target') ? figures.target : null,
    peakC: figures.warmth.peakC,
    ...(figures.warmth.about ? { peakAbout: true } : {}),
    hottest: figures.warmth.hottest,
    hours: hoursSaid(figures.drain),
    watts:
      figures.drain?.from === 'power' || hoursSaid(figures.drain) !== null
        ? (figures.drain?.watts ?? null)
        : null,
  };
}

const longest = <S extends { fromS: number; toS: number }>(spans: readonly S[]): S | null =>
  spans.reduce<S | null>(
    (found, span) => (found !== null && found.toS - found.fromS >= span.toS - span.fromS ? found : span),
    null,
  );

/** A temperature in the reader's scale, with one decimal. */
export const sayTemperature = (celsius: number, unit: TemperatureUnit): string =>
  `${(unit === 'F' ? toFahrenheit(celsius) : celsius).toFixed(1)}\u00a0°${unit}`;

/**
 * One sentence that a reviewer could print, built from the figures alone.
 * An end before its time comes first, then freezes: no average may hide them.
 *
 * @param facts of one run
 * @param voice which figures lead, and the scale of temperatures
 * @shown the first line of a run
 * @source docs/method.md, "Headline"
 */
export function headline(facts: HeadlineFacts, voice: Voice = USUAL_VOICE): string {
  const parts = [
    ending(facts),
    freezing(facts),
    course(facts, voice),
    emulated(facts),
    stumbling(facts),
    felt(facts),
    warmth(facts, voice),
    drain(facts),
  ].filter((part) => part !== null);
  if (parts.length === 0) return 'No data yet.';
  const sentence = parts.join('; ');
  return `${sentence[0]!.toUpperCase()}${sentence.slice(1)}${sentence.endsWith('?') ? '' : '.'}`;
}

function ending({ end }: HeadlineFacts): string | null {
  if (end?.reason === 'would-not-start') return 'DNS: would not start';
  if (end?.reason === 'crash') return `DNF: crashed at ${clock(end.atMs / 1000)}`;
  return null;
}

function freezing({ freezes }: HeadlineFacts): string | null {
  if (freezes === null) return null;
  const longest = `${freezes.longestS.toFixed(1)}\u00a0s`;
  return freezes.count === 1
    ? `one freeze of ${longest}`
    : `${freezes.count} freezes, the longest ${longest}`;
}

/** How the pace went: from opening to closing where the run is long enough, else as the reader's school says. */
function course(facts: HeadlineFacts, { school }: Voice): string | null {
  const { pace, onePercentLow, cap, titles } = facts;
  // what was kept before sittings were told has none
  if (titles) return sayTitles(titles);
  const { opening, closing, word, sawtooth, onsetS } = facts.stamina;
  if (pace.source === 'eye' || pace.source === 'read') return readCourse(facts);
  if (pace.average === null) return null;
  const between = swingsBetween(facts);
  if (between) return `swings between ${rate(between[0])} and ${rate(between[1])} fps`;
  const uneven = sayUneven(facts);
  if (closing === null || opening === null || word === null || word === 'DNF' || word === 'DNS') {
    if (school === 'median-and-hold' && pace.median !== null && pace.hold !== null)
      return `${uneven}median ${rate(pace.median)} fps, ${(pace.hold * 100).toFixed(0)}\u00a0% near it`;
    return `${uneven}averages ${rate(pace.average)} fps${onePercentLow === null || facts.uneven === 'low' ? '' : `, 1\u00a0%\u00a0low ${rate(onePercentLow)}`}`;
  }
  const { over = null } = facts;
  if (over !== null && above(opening, WELL_OVER * over))
    return `${uneven}ends at ${rate(closing)} fps, after ${rate(opening)}, well over its target of ${rate(over)}: a menu that nobody marked?`;
  const dip = facts.dip
    ? `, but for ${rate(facts.dip.mean)} from ${clock(facts.dip.fromS)} to ${clock(facts.dip.toS)}`
    : '';
  if (word === 'holds')
    return cap === null
      ? `${uneven}opens at ${rate(opening)} fps and holds ${rate(closing)}${dip}`
      : `${uneven}holds ${rate(closing)} fps at the cap of ${cap}${dip}`;
  const when = onsetS === null ? '' : ` from minute ${Math.floor(onsetS / 60) + 1}`;
  return `${uneven}opens at ${rate(opening)} fps, ${word} to ${rate(closing)}${when}${sawtooth ? ', rising and falling' : ''}${dip}`;
}

/** So many dips are told as such; of more the pace swings. */
const FEW_DIPS = 2;

/**
 * Between which rates the pace is said to swing: where it goes one way, or
 * holds with a dip or two, that tells more.
 *
 * @returns null where it is not said
 */
export const swingsBetween = ({
  pace,
  stairs,
  dip,
  dips = 1,
}: Pick<HeadlineFacts, 'pace' | 'stairs' | 'dip' | 'dips'>): [number, number] | null =>
  stairs || (dip && dips <= FEW_DIPS) ? null : (pace.between ?? null);

/** Where frames come unevenly that leads: no average may hide it. */
function sayUneven({ uneven, onePercentLow }: HeadlineFacts): string {
  if (uneven === 'low' && onePercentLow !== null) return `uneven, 1\u00a0%\u00a0low ${rate(onePercentLow)}: `;
  return uneven === 'cadence' ? 'uneven, frames stay for one refresh more in turn: ' : '';
}

/** Titles that are told one by one; more would be a list. */
const TOLD_TITLES = 4;

/** "3 titles: Saltmarsh Drift 60 fps, Hexgarden 40 and Aurelune 52": no one pace stands for them. */
function sayTitles(titles: NonNullable<HeadlineFacts['titles']>): string {
  const told = titles
    .slice(0, TOLD_TITLES)
    .map(
      ({ title, average }) =>
        `${title ?? 'unknown title'}${average === null ? '' : ` ${rate(average)}\u00a0fps`}`,
    );
  return `${titles.length} titles: ${told.join(', ')}${titles.length > TOLD_TITLES ? ', …' : ''}`;
}

/** A value that was read off, with its ends where they tell more than its own digits. */
export function rateWithEnds(middle: number | null, ends: Ends | null): string {
  if (ends === null) return middle === null ? '–' : rate(middle);
  if (ends.high === null || ends.open === 'high') return `${rate(ends.low)} or more`;
  if (ends.open === 'low') return `up to ${rate(ends.high)}`;
  if (middle !== null && ends.high - ends.low <= 1.001) return rate(middle);
  return `${sayEnd(ends.low)} to ${sayEnd(ends.high)}`;
}

/** An end of what was read: nobody is surer than a whole frame. */
const sayEnd = (value: number): string => (value >= 10 ? String(Math.round(value)) : rate(value));

/** An average of what was read is said only where it is no wider than this share of itself. */
const NARROW = 0.1;

/**
 * What was read off, as it was written: never what was widened, and no middle.
 *
 * @shown the pace of a run that was read off
 * @source docs/method.md, "Read off, not logged"
 * @example
 * sayRead({ pages: [], timed: null, part: null, untimed: { bare: '50 to 55', low: 50, high: 55, unit: 'fps' }, speeds: null }); // '50 to 55\u00a0fps'
 */
export function sayRead({ pages, timed, part, untimed, speeds }: ReadSaid): string {
  if (pages.length > 0) return `averages ${pages.map(sayWritten).join(' and ')}`;
  if (timed !== null) {
    const { first, last, lowest, highest } = timed;
    const told = [
      `${sayWritten(first.written)} at ${clock(first.atS)}`,
      ...(last ? [`${last.written.bare} at ${clock(last.atS)}`] : []),
      ...[lowest, highest].flatMap((one) => (one ? [`${one.written.bare} in between`] : [])),
    ];
    return `${told.join(', ')}${part ? `, nothing read but from ${clock(part[0])} to ${clock(part[1])}` : ''}`;
  }
  const value = untimed ?? speeds;
  return value === null ? '' : sayWritten(value);
}

/**
 * The same where one figure stands: the first and the last that were read, the
 * page, or the hull of what has no time.
 *
 * @param bare without the unit of speeds, where that stands beside it
 */
export function sayReadShort({ pages, timed, untimed, speeds }: ReadSaid, bare = false): string {
  const unit = (one: { unit: string } | null | undefined): string =>
    bare || one?.unit !== '% speed' ? '' : '\u00a0% speed';
  if (pages[0]) return pages[0].bare;
  if (timed !== null)
    return `${timed.first.written.bare}${timed.last ? ` → ${timed.last.written.bare}` : ''}${unit(timed.first.written)}`;
  const value = untimed ?? speeds;
  return value === null ? '' : `${value.bare}${unit(value)}`;
}

function readCourse({ pace, stamina, said, fromS }: HeadlineFacts): string | null {
  if (!said) return null;
  const { word } = stamina;
  const by = pace.source === 'eye' ? 'by eye' : 'read from a counter';
  const average = middleOf(pace.interval);
  const about =
    said.timed?.last &&
    said.timed.first.written.unit === 'fps' &&
    average !== null &&
    pace.interval!.high! - pace.interval!.low <= NARROW * average
      ? `, about ${Math.round(average)} in all`
      : '';
  const late = fromS === null || fromS === undefined ? '' : ` from ${clock(fromS)} on`;
  const verdict = word === null || word === 'DNF' || word === 'DNS' ? '' : `: ${word}${late}`;
  return `${sayRead(said)}${about}, ${by}${verdict}`;
}

function emulated({ speed, said }: HeadlineFacts): string | null {
  // what was read of it is told as it was written
  if (said?.speeds && (said.timed !== null || said.untimed !== null || said.pages.length > 0))
    return sayWritten(said.speeds);
  return said || speed === null
    ? null
    : `${(speed * 100).toFixed(speed > 0.985 && speed < 0.9995 ? 1 : 0)}\u00a0% speed`;
}

const stumbling = ({ smooth }: HeadlineFacts): string | null => (smooth === null ? null : STUMBLES[smooth]);

function warmth({ peakC, peakAbout, hottest }: HeadlineFacts, { unit }: Voice): string | null {
  return peakC === null ? null : `${peakAbout ? 'about ' : ''}${sayTemperature(peakC, unit)} at ${hottest}`;
}

/**
 * Hours from full as far as the readings allow.
 *
 * @example
 * sayHours({ low: 2.5, high: 4 }); // '2\u00a0h\u00a030 to 4\u00a0h\u00a000'
 */
export function sayHours({ low, high }: { low: number; high: number | null }): string {
  if (high === null) return `${hoursAndMinutes(low)} or more`;
  const [from, to] = [hoursAndMinutes(low), hoursAndMinutes(high)];
  return from === to ? from : `${from} to ${to}`;
}

function drain({ hours, watts }: HeadlineFacts): string | null {
  if (hours) return `${hours.low === hours.high ? 'about ' : ''}${sayHours(hours)} from a full battery`;
  return watts === null ? null : `draws ${watts.toFixed(1)}\u00a0W`;
}

const felt = ({ feel }: HeadlineFacts): string | null => (feel ? `${feel}, the player says` : null);
