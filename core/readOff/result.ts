import type { Digits, EntryLine } from '../runFile/lines';
import { FEEL_WORDS, SMOOTH_WORDS, type EndReason, type RateSource } from '../vocabulary';
import { toCelsius, type TemperatureUnit } from '../words/temperature';
import { about, hiddenDecimals, partsOf, type Amount, type Unit } from './amounts';
import { tokensOf } from './tokens';

/** What people read of a run that no logger saw, each as it was written; '' where nothing was. */
export interface ResultTexts {
  average: string;
  /** 1 % low. */
  low: string;
  hold: string;
  lowest: string;
  highest: string;
  /** Of an emulator, percent. */
  speed: string;
  /** One of `SMOOTH_WORDS`. */
  smooth: string;
  /** How it plays, one of `FEEL_WORDS`. */
  feel: string;
  /** Highest temperature of the skin. */
  peak: string;
  fromPercent: string;
  toPercent: string;
  /** Minutes where no unit stands beside it. */
  length: string;
  /** Seconds until it could be played. */
  load: string;
}
export type ResultField = keyof ResultTexts;

export const RESULT_FIELDS: readonly ResultField[] = [
  'average',
  'low',
  'hold',
  'lowest',
  'highest',
  'speed',
  'smooth',
  'feel',
  'peak',
  'fromPercent',
  'toPercent',
  'length',
  'load',
];
export const NO_RESULT: ResultTexts = Object.fromEntries(
  RESULT_FIELDS.map((field) => [field, '']),
) as unknown as ResultTexts;

/** What stands around the values. */
export interface ResultContext {
  unit: TemperatureUnit;
  by: RateSource;
  /** Where the peak was read; the hottest place where nobody said. */
  spot: string | null;
  /** How it ended; null where it was just stopped. */
  ended: EndReason | null;
}

/** Lines of a run, and what is wrong with which field. */
export interface ResultRead {
  entries: EntryLine[];
  problems: Partial<Record<ResultField, string>>;
}

/** Where a peak is kept whose spot nobody noted. */
const ANY_SPOT = 'hottest spot';
const HOUR_MIN = 60;

/**
 * Turns what was read of a run into lines: a value, a range ("50–55"), a spread
 * ("52 ± 3"), a doubt ("~40") or one end ("up to 60"), each as the interval that
 * it is. What cannot be is told by its field, and nothing is guessed.
 *
 * @source docs/method.md, "Read off, not logged"
 * @example
 * readResult({ ...NO_RESULT, average: '50–55' }, { unit: 'C', by: 'overlay', spot: null, ended: null }).entries; // [{ type: 'rate', low: 50, high: 55, by: 'overlay' }]
 */
export function readResult(texts: ResultTexts, { unit, by, spot, ended }: ResultContext): ResultRead {
  const problems: ResultRead['problems'] = {};
  const entries: EntryLine[] = [];
  const read = (field: ResultField, units: Unit[]): Amount | null => {
    const text = texts[field].trim();
    if (text === '') return null;
    const found = amountOf(text, units);
    if (typeof found === 'string') {
      problems[field] = found;
      return null;
    }
    return found;
  };
  const one = (
    field: ResultField,
    units: Unit[],
    most: number,
  ): { value: number; decimals: number | null } | null => {
    const amount = read(field, units);
    if (!amount) return null;
    if (amount.value === null || amount.low !== null)
      problems[field] = 'One number is needed here, not a range.';
    else if (amount.value < 0) problems[field] = 'It cannot be below 0.';
    else if (amount.value > most) problems[field] = `It can be at most ${most}.`;
    else return { value: amount.value, decimals: hiddenDecimals(amount) };
    return null;
  };

  const length = lengthOf(read('length', ['min', 'h', 's']));
  const endMs = length?.atMs ?? null;

  const average = read('average', ['fps']);
  // one value is that of an end page; a range, a spread or a doubt is told as the rate that it is
  const whole =
    average !== null && by !== 'eye' && !average.roughly && average.value !== null && average.low === null
      ? average.value
      : null;
  if (average && whole === null) entries.push({ type: 'rate', ...valueOf(average, 'fps', by), by });
  const top = average === null ? null : (average.high ?? average.value ?? null);

  const facts: Record<string, number> = whole === null ? {} : { average: Math.max(0, whole) };
  const digits: Digits = {};
  const decimals = average && whole !== null ? hiddenDecimals(average) : null;
  if (decimals !== null) digits['average'] = decimals;
  const fact = (field: ResultField, name: string): void => {
    const given = one(field, field === 'hold' ? ['%'] : ['fps'], field === 'hold' ? 100 : 1000);
    if (!given) return;
    const share = field === 'hold';
    facts[name] = share ? Number((given.value / 100).toPrecision(12)) : given.value;
    if (given.decimals !== null) digits[name] = given.decimals + (share ? 2 : 0);
  };
  fact('low', 'onePercent');
  fact('hold', 'hold');
  fact('lowest', 'lowest');
  fact('highest', 'highest');
  if (top !== null && (facts['onePercent'] ?? 0) > top)
    problems.low = 'The 1 % low is above the average: check which is which.';
  if (top !== null && (facts['lowest'] ?? 0) > top)
    problems.lowest = 'The lowest is above the average: check which is which.';
  if (facts['lowest'] !== undefined && (facts['highest'] ?? Infinity) < facts['lowest'])
    problems.highest = 'The highest is below the lowest: check which is which.';
  if (Object.keys(facts).length > 0)
    entries.push({ type: 'summary', by, ...facts, ...(Object.keys(digits).length > 0 ? { digits } : {}) });

  const speed = read('speed', ['%']);
  if (speed) entries.push({ type: 'speed', ...valueOf(speed, 'percent', by), by });

  const smooth = texts.smooth.trim().toLowerCase();
  if (smooth !== '') {
    const word = SMOOTH_WORDS.find((known) => known === smooth);
    if (word) entries.push({ type: 'smooth', word, by: 'eye' });
    else problems.smooth = `Write one of: ${SMOOTH_WORDS.join(', ')}.`;
  }

  const feel = texts.feel.trim().toLowerCase();
  if (feel !== '') {
    const word = FEEL_WORDS.find((known) => known === feel);
    if (word) entries.push({ type: 'feel', word });
    else problems.feel = `Write one of: ${FEEL_WORDS.join(', ')}.`;
  }

  const peak = peakOf(read('peak', ['C', 'F', '°']), unit);
  if (typeof peak === 'string') problems.peak = peak;
  else if (peak !== null)
    entries.push({
      type: 'skin',
      atMs: endMs ?? 0,
      spot: spot ?? ANY_SPOT,
      c: peak,
      by: 'infrared',
      peak: true,
    });

  const [from, to] = [one('fromPercent', ['%'], 100), one('toPercent', ['%'], 100)];
  if (from) entries.push({ type: 'battery', atMs: 0, percent: from.value });
  if (to && endMs === null)
    problems.length ??= 'How long did that take? The percent at the end needs the length.';
  if (to && endMs !== null) entries.push({ type: 'battery', atMs: endMs, percent: to.value });
  if (from && to && to.value > from.value)
    problems.toPercent = 'It is more than at the start: was it charged? Leave it out, or exchange the two.';

  const load = one('load', ['s', 'min'], 86_400);
  if (load)
    entries.push({
      type: 'mark',
      atMs: 0,
      kind: 'load',
      note: `${texts.load.trim()}${/\d$/.test(texts.load.trim()) ? ' s' : ''}`,
    });

  if (ended === 'would-not-start') entries.push({ type: 'end', atMs: 0, reason: ended });
  else if (length) entries.push({ type: 'end', ...length, reason: ended ?? 'stopped' });
  else if (ended === 'crash') problems.length ??= 'When did it crash? Write how long it had run.';
  return { entries, problems };
}

/** The one amount that a text holds, or what is wrong with it. */
function amountOf(text: string, units: Unit[]): Amount | string {
  const { parts, problem } = partsOf(tokensOf(text));
  if (problem) return problem;
  const amounts = parts.filter((part) => part.kind === 'amount');
  const clock = parts.find((part) => part.kind === 'clock');
  if (clock?.kind === 'clock' && parts.length === 1 && units.includes('min') && !Number.isNaN(clock.ms))
    return {
      kind: 'amount',
      value: clock.ms / 1000,
      decimals: 0,
      low: null,
      high: null,
      roughly: false,
      unit: 's',
      at: 0,
      end: text.length,
    };
  const [amount] = amounts;
  if (!amount || amounts.length > 1 || parts.some((part) => part.kind !== 'amount'))
    return `“${text}” is not understood here. Write a number, a range like 50–55 or a spread like 52 ± 3.`;
  if (amount.unit !== null && !units.includes(amount.unit))
    return `“${text}” has another unit than ${units.join(' or ')}.`;
  return amount;
}

function valueOf(amount: Amount, name: 'fps' | 'percent', by: RateSource): object {
  const { value, low, high } = amount.roughly ? about(amount, by) : amount;
  const decimals = hiddenDecimals(amount);
  return {
    ...(value === null ? {} : { [name]: value }),
    ...(low === null ? {} : { low: Math.max(0, low) }),
    ...(high === null ? {} : { high }),
    ...(decimals === null ? {} : { digits: { [name]: decimals } }),
  };
}

/** A length, or two between which it lies: a bare number counts minutes. */
function lengthOf(amount: Amount | null): { atMs: number; lowMs?: number; highMs?: number } | null {
  if (!amount) return null;
  const minutes = (value: number): number =>
    Math.round(value * (amount.unit === 'h' ? HOUR_MIN : amount.unit === 's' ? 1 / 60 : 1) * 60_000);
  const { value, low, high } = amount;
  if (low !== null && high !== null)
    return {
      atMs: Math.round(value === null ? (minutes(low) + minutes(high)) / 2 : minutes(value)),
      lowMs: minutes(low),
      highMs: minutes(high),
    };
  const only = value ?? high ?? low!;
  return { atMs: minutes(only) };
}

/** °C, or what is wrong: of a range its upper end. Three digits without a point are tenths where whole degrees make no sense. */
function peakOf(amount: Amount | null, unit: TemperatureUnit): number | string | null {
  if (!amount) return null;
  const written = amount.value ?? amount.high;
  if (written === null) return 'Write the highest that was seen.';
  const scale = amount.unit === 'C' || amount.unit === 'F' ? amount.unit : unit;
  const tenths = amount.unit === null && Number.isInteger(written) && written > (scale === 'C' ? 120 : 250);
  const degrees = tenths ? written / 10 : written;
  const c = Number((scale === 'F' ? toCelsius(degrees) : degrees).toFixed(2));
  if (c > 70)
    return scale === 'C'
      ? `${written} °C cannot be. If it is Fahrenheit, write ${written} F.`
      : `${written} °F cannot be.`;
  return c;
}

/** Headings of a pasted table, by what they may be called. */
const HEADINGS: Record<ResultField | 'title' | 'setup' | 'device', RegExp> = {
  title: /^(title|game|name|app)s?$/,
  setup: /^(setup|setting|settings|preset|tier|quality)$/,
  device: /^(device|phone|tablet)$/,
  average: /^(average|avg|mean|fps|rate|frame rate|average fps|avg fps)$/,
  low: /^(1 ?% ?lows?|low|lows|one percent low)$/,
  hold: /^(hold|stability|stable|hold ?%)$/,
  lowest: /^(lowest|min|minimum|min fps)$/,
  highest: /^(highest|max|maximum|max fps)$/,
  speed: /^(speed|speed ?%|emulation speed)$/,
  smooth: /^(smooth|smoothness|stutter|stutters|stumbles)$/,
  feel: /^(plays|feel|feels|how it plays|playability|playable)$/,
  peak: /^(peak|temp|temperature|°c|°f|hottest|peak temperature|max temp)$/,
  fromPercent: /^(from ?%?|start ?%|battery start|from %|% from|% at start)$/,
  toPercent: /^(to ?%?|end ?%|battery end|to %|% to|% at end)$/,
  length: /^(length|minutes|min\.|duration|time|played|length,? min)$/,
  load: /^(load|load time|loading|load,? s)$/,
};
export type TableColumn = keyof typeof HEADINGS;

/** A row of a sitting: a title, and what was read of it. */
export interface SittingRow {
  title: string;
  setup: string;
  texts: ResultTexts;
}

/** What a pasted table holds. */
export interface SittingTable {
  rows: SittingRow[];
  /** Headings that are not known; their columns are left out. */
  unknown: string[];
  problem: string | null;
}

/** Rows that one sitting may have. */
export const MOST_SITTING_ROWS = 200;

/**
 * Reads a table from a spreadsheet: tab-separated, headings in its first row.
 *
 * @example
 * readSitting('Title\tfps\tlow\nHexgarden\t50–55\t38').rows[0].texts.average; // '50–55'
 */
export function readSitting(text: string): SittingTable {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  const cells = lines.map((line) => line.split('\t').map((cell) => cell.trim().replace(/^"(.*)"$/, '$1')));
  const [head, ...body] = cells;
  const nothing = { rows: [], unknown: [] };
  if (!head) return { ...nothing, problem: null };
  const columns = head.map(columnOf);
  if (!columns.includes('title'))
    return {
      ...nothing,
      problem:
        'The first row needs headings, one of them “title”. Known are: title, setup, average, 1 % low, hold, lowest, highest, speed, smoothness, plays, peak, from %, to %, length, load.',
    };
  if (body.length > MOST_SITTING_ROWS)
    return {
      ...nothing,
      problem: `The table has ${body.length} rows; a sitting has at most ${MOST_SITTING_ROWS}. Paste it in parts.`,
    };
  const rows = body.map((row): SittingRow => {
    const value = (column: TableColumn): string => {
      const i = columns.indexOf(column);
      return i < 0 ? '' : (row[i] ?? '');
    };
    return {
      title: value('title'),
      setup: value('setup'),
      texts: Object.fromEntries(
        RESULT_FIELDS.map((field) => [field, value(field)]),
      ) as unknown as ResultTexts,
    };
  });
  return { rows, unknown: head.filter((heading, i) => columns[i] === null && heading !== ''), problem: null };
}

function columnOf(heading: string): TableColumn | null {
  const plain = heading.trim().toLowerCase().replace(/\s+/g, ' ');
  return (Object.keys(HEADINGS) as TableColumn[]).find((column) => HEADINGS[column].test(plain)) ?? null;
}
