import { clock, sayTemperature } from '../words/headline';
import type { EntryLine } from '../runFile/lines';
import { toCelsius, type TemperatureUnit } from '../words/temperature';

/** How a line of a notebook was understood. */
export interface PaperLine {
  /** Line of the text, from 1. */
  line: number;
  text: string;
  /** What it says, as lines of a run; empty where it is unclear. */
  entries: EntryLine[];
  /** The line in the program's words; null where it is unclear. */
  understood: string | null;
  /** What is unclear, and how to write it; null where nothing is. */
  problem: string | null;
}

const CLOCK = /(?<![\d:.,])(\d{1,2}):(\d{2})(?::(\d{2}))?(?![\d:])/;
const SPAN_OF_TIME = /(?<![\d:.,])(\d+(?:[.,]\d+)?)\s*(h|hours?|min|minutes?|m|sec|seconds?|s)\b/i;
const PERCENT = /(\d+(?:[.,]\d+)?)\s*%/;
const RATE = /(\d+(?:[.,]\d+)?)\s*(?:fps|frames?(?:\s+per\s+second)?)\b/i;
const SPREAD = /(?:±|\+-|\+\/-)\s*\d+(?:[.,]\d+)?/;
const TEMPERATURE = /(-?\d+(?:[.,]\d+)?)\s*(?:°\s*|degrees?\s*)?([CF])?(?![\w%])/gi;
const BY_EYE = /\b(eye|about|around|roughly|maybe)\b|~/i;
const IN_TITLE = /\b(in-title|own counter|title'?s)\b/i;
const CHARGING = /\b(charging|plugged|charger)\b/i;
const INSTRUMENTS: { by: string; pattern: RegExp }[] = [
  { by: 'battery sensor', pattern: /\b(battery[\s-]+)?sensor\b/i },
  { by: 'infrared', pattern: /\b(infrared|ir)\b/i },
];
/** Signs between readings; a comma within a number is none. */
const SEPARATORS = /(?<!\d),|,(?!\d)|[;:=|]/g;
/** Words that say nothing of the place where they stand before or behind its name. */
const FILLER = '(?:at|on|the|after|then|and|was|is|temp|temperature|skin|battery|overlay|counter|by|of)';
const MARKS: { kind: string; pattern: RegExp }[] = [
  { kind: 'dim', pattern: /\bdim(s|med)?\b/i },
  { kind: 'freeze', pattern: /\bfr(eeze|eezes|oze)\b/i },
  { kind: 'stutter', pattern: /\bstutter(s|ed)?\b/i },
  { kind: 'glitch', pattern: /\bglitch(es)?\b/i },
];
const CRASH = /\bcrash(es|ed)?\b/i;

const number = (text: string): number => Number(text.replace(',', '.'));

/**
 * Understands readings as they stand in a notebook, one line at a time:
 * `8:00 back 36.5`, `13 min front 106 F`, `100% 0:00`, `5:00 about 40 fps`.
 *
 * A line has a time (m:ss, h:mm:ss, or "13 min"), and with it temperatures
 * after the name of their spot, a percent, a rate, or a word such as "crash".
 * Temperatures without a scale are in `unit`; rates are read off an overlay
 * unless the line says by eye ("about", "~", "eye") or of the title's own
 * counter; instruments are infrared unless a sensor is named.
 *
 * @param text any number of lines; empty ones and such with # in front are passed over
 * @param unit scale of temperatures that name none
 * @example
 * readPaper('8:00 back 36.5', 'C')[0].understood; // '8:00: 36.5 °C at back, infrared'
 */
export function readPaper(text: string, unit: TemperatureUnit): PaperLine[] {
  return text
    .split(/\r?\n/)
    .map((line, i) => ({ line: i + 1, text: line.trim() }))
    .filter((line) => line.text !== '' && !line.text.startsWith('#'))
    .map(({ line, text: words }) => ({ line, text: words, ...understand(words, unit) }));
}

type Understood = Pick<PaperLine, 'entries' | 'understood' | 'problem'>;

const unclear = (problem: string): Understood => ({ entries: [], understood: null, problem });

function understand(text: string, unit: TemperatureUnit): Understood {
  const time = takeTime(text);
  if (!time) return unclear('There is no time in it. Write it like 8:00, 1:05:00 or 13 min.');
  let rest = time.rest;
  const entries: EntryLine[] = [];
  const said: string[] = [];
  const { atMs } = time;

  rest = rest.replace(PERCENT, (_, percent: string) => {
    const charging = CHARGING.test(text);
    entries.push({ type: 'battery', atMs, percent: number(percent), ...(charging ? { charging } : {}) });
    said.push(`battery ${number(percent)} %${charging ? ', charging' : ''}`);
    return ' ';
  });
  if (entries.some((entry) => entry.type === 'battery' && entry.percent > 100))
    return unclear('A battery holds at most 100 %.');

  rest = rest.replace(RATE, (_, fps: string) => {
    const by = BY_EYE.test(text) ? 'eye' : IN_TITLE.test(text) ? 'in-title' : 'overlay';
    entries.push({ type: 'rate', atMs, fps: number(fps), by });
    said.push(
      `${by === 'eye' ? 'about ' : ''}${number(fps)} fps, ${{ eye: 'by eye', 'in-title': 'by the title’s own counter', overlay: 'read off an overlay' }[by]}`,
    );
    return ' ';
  });
  if (entries.some((entry) => entry.type === 'rate'))
    rest = rest.replace(SPREAD, ' ').replace(new RegExp(BY_EYE, 'gi'), ' ').replace(IN_TITLE, ' ');

  if (CRASH.test(rest)) {
    rest = rest.replace(CRASH, ' ');
    entries.push({ type: 'end', atMs, reason: 'crash' });
    said.push('the title crashed');
  }
  for (const { kind, pattern } of MARKS) {
    if (!pattern.test(rest)) continue;
    rest = rest.replace(pattern, ' ');
    entries.push({ type: 'mark', atMs, kind });
    said.push(`mark: ${kind}`);
  }

  const skin = takeSkin(rest, atMs, unit);
  if ('problem' in skin) return unclear(skin.problem);
  entries.push(...skin.entries);
  said.push(...skin.said);
  if (entries.length === 0)
    return unclear(
      'There is a time, but nothing that was read. Write for instance 8:00 back 36.5, 8:00 97 % or 8:00 58 fps.',
    );
  return { entries, understood: `${clock(atMs / 1000)}: ${said.join('; ')}`, problem: null };
}

/** The first time in a line, and the line without it. */
function takeTime(text: string): { atMs: number; rest: string } | null {
  const shown = CLOCK.exec(text);
  if (shown) {
    const [whole, a, b, c] = shown;
    if (Number(b) > 59 || Number(c ?? 0) > 59) return null;
    const seconds =
      c === undefined ? Number(a) * 60 + Number(b) : Number(a) * 3600 + Number(b) * 60 + Number(c);
    return { atMs: seconds * 1000, rest: text.replace(whole, ' ') };
  }
  const span = SPAN_OF_TIME.exec(text);
  if (!span) return null;
  const [whole, amount, unit] = span;
  const seconds = { h: 3600, m: 60, s: 1 }[unit![0]!.toLowerCase() as 'h' | 'm' | 's'];
  return { atMs: Math.round(number(amount!) * seconds * 1000), rest: text.replace(whole, ' ') };
}

/**
 * A time as people write it: 8:00, 1:05:00, 13 min, 90 s.
 *
 * @returns seconds, or null where it is none or something stands beside it
 * @example
 * readTime('13 min'); // 780
 */
export function readTime(text: string): number | null {
  const time = takeTime(text.trim());
  return time && time.rest.trim() === '' ? time.atMs / 1000 : null;
}

const TEMPERATURE_LIKE = /\d/;

/** Temperatures, each after the name of its spot. */
function takeSkin(
  text: string,
  atMs: number,
  unit: TemperatureUnit,
): { entries: EntryLine[]; said: string[] } | { problem: string } {
  const by = INSTRUMENTS.find((instrument) => instrument.pattern.test(text))?.by ?? 'infrared';
  const plain = INSTRUMENTS.reduce((rest, instrument) => rest.replace(instrument.pattern, ' '), text)
    .replace(CHARGING, ' ')
    .replace(SEPARATORS, ' ');
  const entries: EntryLine[] = [];
  const said: string[] = [];
  let from = 0;
  for (const match of plain.matchAll(TEMPERATURE)) {
    let spot = words(plain.slice(from, match.index));
    from = match.index + match[0].length;
    // "36.5 back": the spot may stand behind the only number
    if (spot === '' && entries.length === 0) {
      spot = words(plain.slice(from));
      from = plain.length;
    }
    if (spot === '')
      return {
        problem: `There is no spot for ${match[1]}. Write where it was read, for instance 8:00 back ${match[1]}.`,
      };
    if (/\d/.test(spot))
      return {
        problem: `“${spot}” has a number that is no reading. Write one spot before each temperature.`,
      };
    const scale = (match[2]?.toUpperCase() as TemperatureUnit | undefined) ?? unit;
    const celsius =
      Math.round((scale === 'F' ? toCelsius(number(match[1]!)) : number(match[1]!)) * 100) / 100;
    if (scale === 'C' && match[2] === undefined && celsius > 70)
      return { problem: `${match[1]} °C cannot be. If it is Fahrenheit, write ${match[1]} F.` };
    entries.push({ type: 'skin', atMs, spot, c: celsius, by });
    said.push(`${sayTemperature(celsius, unit).replace('\u00a0', ' ')} at ${spot}, ${by}`);
  }
  const left = words(plain.slice(from));
  if (left !== '' && entries.length === 0 && left.split(' ').length <= 4 && !TEMPERATURE_LIKE.test(plain))
    return {
      problem: `There is no number for “${left}”. Write for instance ${clock(atMs / 1000)} ${left} 36.5, or put a # in front to keep it as a note.`,
    };
  if (left !== '')
    return { problem: `“${left}” is not understood. Leave it out, or write it as a note with # in front.` };
  return { entries, said };
}

const EDGES = new RegExp(`^(?:${FILLER}\\b\\s*|[-–.\\s]+)+|(?:\\s*\\b${FILLER}|[-–.\\s]+)+$`, 'gi');

/** A name without what stands around it. */
const words = (text: string): string => text.replace(/\s+/g, ' ').trim().replace(EDGES, '').trim();
