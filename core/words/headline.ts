import { sitsAtCap } from '../figures/cap';
import type { Figures } from '../figures/model';
import type { Ends } from '../readOff/ends';
import type { SmoothWord } from '../vocabulary';
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
  end: Figures['end'];
  freezes: { count: number; longestS: number } | null;
  pace: Figures['pace'];
  onePercentLow: number | null;
  cap: number | null;
  stamina: Pick<Figures['stamina'], 'opening' | 'closing' | 'word' | 'sawtooth' | 'onsetS'>;
  peakC: number | null;
  hottest: string | null;
  hoursFromFull: number | null;
  watts: number | null;
}

/** What a headline needs of the figures. */
export function headlineFacts(figures: Figures): HeadlineFacts {
  const { opening, closing, word, sawtooth, onsetS } = figures.stamina;
  const titles = figures.sitting?.titles ?? [];
  return {
    titles: titles.length > 1 ? titles.map(({ title, average }) => ({ title, average })) : null,
    speed: figures.frames.count === 0 ? (figures.emulation?.speed ?? null) : null,
    smooth: figures.read?.smooth ?? null,
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
    peakC: figures.warmth.peakC,
    hottest: figures.warmth.hottest,
    hoursFromFull: figures.drain?.hoursFromFull ?? null,
    watts: figures.drain?.watts ?? null,
  };
}

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
    warmth(facts, voice),
    drain(facts),
  ].filter((part) => part !== null);
  if (parts.length === 0) return 'Nothing measured yet.';
  const sentence = parts.join('; ');
  return `${sentence[0]!.toUpperCase()}${sentence.slice(1)}.`;
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
  if (closing === null || opening === null || word === null || word === 'DNF' || word === 'DNS') {
    if (school === 'median-and-hold' && pace.median !== null && pace.hold !== null)
      return `median ${rate(pace.median)} fps, hold ${(pace.hold * 100).toFixed(0)}\u00a0%`;
    return `averages ${rate(pace.average)} fps${onePercentLow === null ? '' : `, 1\u00a0%\u00a0low ${rate(onePercentLow)}`}`;
  }
  if (word === 'holds')
    return cap === null
      ? `opens at ${rate(opening)} fps and holds ${rate(closing)}`
      : `holds ${rate(closing)} fps at the cap of ${cap}`;
  const when = onsetS === null ? '' : ` from minute ${Math.floor(onsetS / 60) + 1}`;
  return `opens at ${rate(opening)} fps, ${word} to ${rate(closing)}${when}${sawtooth ? ' in a sawtooth' : ''}`;
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
  if (ends.high === null) return `at least ${rate(ends.low)}`;
  if (middle === null || ends.high - ends.low <= 1.001) return rate(middle ?? ends.low);
  // nobody is surer than a whole frame of what lies within five
  const say = ends.high - ends.low >= 4 ? (value: number): string => String(Math.round(value)) : rate;
  return `${say(middle)} (${say(ends.low)} to ${say(ends.high)})`;
}

function readCourse({ pace, stamina }: HeadlineFacts): string | null {
  if (pace.interval === null) return null;
  const { opening, closing, word } = stamina;
  const by = pace.source === 'eye' ? 'by eye' : 'read off';
  if (opening !== null && closing !== null && word !== null && word !== 'DNF' && word !== 'DNS')
    return `opens at ${rate(opening)} fps, ${word} ${word === 'holds' ? 'at' : 'to'} ${rate(closing)}, ${by}`;
  return `about ${rateWithEnds(pace.average, pace.interval)} fps, ${by}`;
}

function emulated({ speed }: HeadlineFacts): string | null {
  return speed === null
    ? null
    : `${(speed * 100).toFixed(speed > 0.985 && speed < 0.9995 ? 1 : 0)}\u00a0% speed`;
}

const STUMBLING: Record<SmoothWord, string> = {
  none: 'does not stumble',
  occasional: 'stumbles now and then',
  frequent: 'stumbles often',
  constant: 'stumbles all the time',
};
const stumbling = ({ smooth }: HeadlineFacts): string | null => (smooth === null ? null : STUMBLING[smooth]);

function warmth({ peakC, hottest }: HeadlineFacts, { unit }: Voice): string | null {
  return peakC === null ? null : `${sayTemperature(peakC, unit)} at ${hottest}`;
}

function drain({ hoursFromFull, watts }: HeadlineFacts): string | null {
  if (hoursFromFull !== null) return `about ${hoursAndMinutes(hoursFromFull)} from full`;
  return watts === null ? null : `draws ${watts.toFixed(1)}\u00a0W`;
}
