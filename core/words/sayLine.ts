import type { EntryLine, RateLine, SpeedLine, SummaryLine } from '../runFile/lines';
import type { EndReason, RateSource, SummaryFact } from '../vocabulary';
import { toFahrenheit, type TemperatureUnit } from './temperature';

/** What a value was read off, in words. */
export const SOURCE_WORDS: Record<RateSource, string> = {
  overlay: 'overlay',
  'in-title': 'in-game counter',
  tool: 'tool',
  eye: 'by eye',
};

/** How a run ended, in words. */
export const ENDING_WORDS: Record<EndReason, string> = {
  planned: 'as planned',
  crash: 'crashed',
  stopped: 'stopped early',
  'would-not-start': 'would not start',
};

/** A time on the run's clock that loses nothing, for instance "8:00" or "1:05:00.250". */
export function exactClock(time: number): string {
  const ms = Math.round(time);
  const whole = Math.floor(ms / 1000);
  const [hours, minutes, seconds] = [Math.floor(whole / 3600), Math.floor((whole % 3600) / 60), whole % 60];
  const two = (value: number): string => String(value).padStart(2, '0');
  const rest = ms - whole * 1000;
  return `${hours > 0 ? `${hours}:${two(minutes)}` : minutes}:${two(seconds)}${rest > 0 ? `.${String(rest).padStart(3, '0')}` : ''}`;
}

/** A number as it was written. */
const written = (value: number, decimals?: number): string =>
  decimals === undefined || decimals < 0 ? String(value) : value.toFixed(decimals);

const celsius = (c: number, unit: TemperatureUnit): string => {
  const shown = unit === 'F' ? toFahrenheit(c) : c;
  const short = shown.toFixed(1);
  return `${unit === 'F' || Math.abs(Number(short) - shown) < 1e-9 ? short : String(shown)} °${unit}`;
};

/** A name or a note between marks, so that it can hold anything. */
const quoted = (text: string): string =>
  `“${text.replace(/[\\“”]/g, (sign) => `\\${sign}`).replace(/\n/g, '\\n')}”`;

/** A value with its ends, for instance "52 (50 to 55)". */
function withEnds(
  value: number | undefined,
  decimals: number | undefined,
  line: RateLine | SpeedLine,
): string {
  const { low, high } = line;
  const ends =
    low !== undefined && high !== undefined
      ? `${low} to ${high}`
      : high !== undefined
        ? `up to ${high}`
        : low !== undefined
          ? `at least ${low}`
          : null;
  if (value === undefined) return ends ?? '';
  return ends === null ? written(value, decimals) : `${written(value, decimals)} (${ends})`;
}

const place = (scene: string | undefined): string => (scene === undefined ? '' : `, in ${quoted(scene)}`);

function saySummary({
  average,
  median,
  hold,
  lowest,
  highest,
  onePercent,
  minutes,
  ...line
}: SummaryLine): string {
  const { digits, about = [] } = line;
  const or = (fact: SummaryFact): string => (about.includes(fact) ? 'about ' : '');
  const facts = [
    average === undefined ? null : `average ${or('average')}${written(average, digits?.['average'])}`,
    median === undefined ? null : `median ${or('median')}${written(median, digits?.['median'])}`,
    hold === undefined
      ? null
      : `near median ${or('hold')}${written(Number((hold * 100).toPrecision(12)), digits?.['hold'] === undefined ? undefined : Math.max(0, digits['hold'] - 2))} %`,
    lowest === undefined ? null : `lowest ${or('lowest')}${lowest}`,
    highest === undefined ? null : `highest ${or('highest')}${highest}`,
    onePercent === undefined
      ? null
      : `1 % low ${or('onePercent')}${written(onePercent, digits?.['onePercent'])}`,
    minutes === undefined ? null : `length ${minutes} min`,
  ];
  return `summary screen: ${facts.filter((fact) => fact !== null).join(', ')}, ${SOURCE_WORDS[line.by]}${place(line.scene)}`;
}

/**
 * What a line says, in words that a notebook is read by: `readNotebook` gives
 * the same line back.
 *
 * @param unit scale of temperatures
 * @param time in front; left out where it stands beside the words already
 * @example
 * sayLine({ type: 'rate', atMs: 480_000, fps: 40, low: 32, high: 48, by: 'eye' }, 'C'); // '8:00: about 40 (32 to 48) fps, by eye'
 */
export function sayLine(line: EntryLine, unit: TemperatureUnit, time = true): string {
  const atMs = line.type === 'span' ? line.fromMs : line.atMs;
  const whole = 'whole' in line && line.whole;
  return `${time && atMs !== undefined && !whole ? `${exactClock(atMs)}: ` : ''}${sayWhat(line, unit)}${whole ? ', in all' : ''}`;
}

/**
 * A line with its times to the whole second, to be shown: a tap is no more exact.
 *
 * @example
 * sayLine(atWholeSeconds({ type: 'mark', atMs: 223_085, kind: 'stutter' }), 'C'); // '3:43: marker: stutter'
 */
export function atWholeSeconds(line: EntryLine): EntryLine {
  const whole = (ms: number): number => Math.round(ms / 1000) * 1000;
  if (line.type === 'span') return { ...line, fromMs: whole(line.fromMs), toMs: whole(line.toMs) };
  return line.atMs === undefined ? line : { ...line, atMs: whole(line.atMs) };
}

function sayWhat(line: EntryLine, unit: TemperatureUnit): string {
  switch (line.type) {
    case 'skin':
      return `${line.peak ? 'peak ' : ''}${line.low === undefined ? '' : `${celsius(line.low, unit)} to `}${line.about ? 'about ' : ''}${celsius(line.c, unit)} at ${PLAIN.test(line.spot) ? line.spot : quoted(line.spot)}, ${PLAIN.test(line.by) ? line.by : `with ${quoted(line.by)}`}`;
    case 'battery':
      return `battery ${line.about ? 'about ' : ''}${line.percent} %${line.charging ? ', charging' : ''}`;
    case 'power':
      return `${line.peak ? 'peak ' : ''}${Number((line.mw / 1000).toPrecision(12))} W${line.of === undefined ? '' : `, ${line.of}`}`;
    case 'load':
      return [
        line.cpu === undefined ? null : `CPU load ${line.cpu} %`,
        line.gpu === undefined ? null : `GPU load ${line.gpu} %`,
        line.memoryMb === undefined ? null : `memory ${line.memoryMb} MB`,
      ]
        .filter((part) => part !== null)
        .join(', ');
    case 'link':
      return [
        line.latencyMs === undefined ? null : `latency ${line.latencyMs} ms`,
        line.lossPercent === undefined ? null : `loss ${line.lossPercent} %`,
        line.mbps === undefined ? null : `bit rate ${line.mbps} Mbit/s`,
      ]
        .filter((part) => part !== null)
        .join(', ');
    case 'refresh':
      return `screen at ${line.hz} Hz`;
    case 'rate':
      return `${line.by === 'eye' ? 'about ' : ''}${withEnds(line.fps, line.digits?.['fps'], line)} fps, ${SOURCE_WORDS[line.by]}${place(line.scene)}`;
    case 'summary':
      return saySummary(line);
    case 'speed':
      return `speed ${withEnds(line.percent, line.digits?.['percent'], line)} %, ${SOURCE_WORDS[line.by]}${place(line.scene)}`;
    case 'smooth':
      return `stutter: ${line.word}, ${SOURCE_WORDS[line.by]}${place(line.scene)}`;
    case 'feel':
      return `plays: ${line.word}${place(line.scene)}`;
    case 'chip':
      return `${line.peak ? 'peak ' : ''}${line.part} inside ${celsius(line.c, unit)}`;
    case 'title':
      return `title ${quoted(line.title)}${line.setup === undefined ? '' : `, setup ${quoted(line.setup)}`}${line.target === undefined ? '' : `, target ${line.target}`}`;
    case 'scene':
      return `scene ${quoted(line.scene)}`;
    case 'mark':
      return `marker: ${PLAIN.test(line.kind) ? line.kind : quoted(line.kind)}${line.note === undefined ? '' : `, ${quoted(line.note)}`}`;
    case 'span':
      return [
        `${line.kind} until ${exactClock(line.toMs)}`,
        line.place === undefined ? null : quoted(line.place),
        line.plateC === undefined ? null : `its plate at ${celsius(line.plateC, unit)}`,
      ]
        .filter(Boolean)
        .join(', ');
    case 'end':
      return `end, ${ENDING_WORDS[line.reason]}${line.lowMs === undefined || line.highMs === undefined ? '' : `, between ${exactClock(line.lowMs)} and ${exactClock(line.highMs)}`}`;
  }
}

/** Names that a reader cannot take for anything else: the usual spots and instruments, and marks of one word. */
const PLAIN =
  /^(?:(?:back|front|screen|grip|hinge|rear|frame|edge|camera|vent)(?: (?:by the )?(?:middle|top|bottom|left|right|camera|vent|corner|centre))?|infrared|battery sensor|device sensor|stutter|freeze|dim|glitch|crash|moment|note|warmth|load)$/;
