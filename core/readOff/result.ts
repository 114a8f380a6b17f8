import Papa from 'papaparse';
import type { Digits, EntryLine } from '../runFile/lines';
import { FEEL_WORDS, SMOOTH_WORDS, type EndReason, type RateSource, type SummaryFact } from '../vocabulary';
import { toCelsius, type TemperatureUnit } from '../words/temperature';
import { about, hiddenDecimals, partsOf, type Amount, type Unit } from './amounts';
import { tokensOf } from './tokens';

/** What people read of a run that no logger saw, each as it was written; '' where nothing was. */
export interface ResultTexts {
  average: string;
  median: string;
  /** 1 % low. */
  low: string;
  hold: string;
  lowest: string;
  highest: string;
  /** Rate at first. */
  first: string;
  /** Rate later, and after how long: minutes where no unit stands beside it, the length where nothing stands there. */
  later: string;
  laterAt: string;
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
  'median',
  'low',
  'hold',
  'lowest',
  'highest',
  'first',
  'later',
  'laterAt',
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
  ): { value: number; decimals: number | null; about: boolean } | null => {
    const amount = read(field, units);
    if (!amount) return null;
    if (amount.value === null || amount.low !== null) problems[field] = 'Enter one number, not a range.';
    else if (amount.value < 0) problems[field] = 'It cannot be below 0.';
    else if (amount.value > most) problems[field] = `The highest possible value is ${most}.`;
    else return { value: amount.value, decimals: hiddenDecimals(amount), about: amount.roughly };
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
  const doubted: SummaryFact[] = [];
  const fact = (field: ResultField, name: SummaryFact): void => {
    const given = one(field, field === 'hold' ? ['%'] : ['fps'], field === 'hold' ? 100 : 1000);
    if (!given) return;
    const share = field === 'hold';
    if (given.about) doubted.push(name);
    facts[name] = share ? Number((given.value / 100).toPrecision(12)) : given.value;
    if (given.decimals !== null) digits[name] = given.decimals + (share ? 2 : 0);
  };
  fact('median', 'median');
  fact('low', 'onePercent');
  fact('hold', 'hold');
  fact('lowest', 'lowest');
  fact('highest', 'highest');
  if (top !== null && (facts['onePercent'] ?? 0) > top)
    problems.low = 'The 1 % low is above the average. Check both values.';
  if (top !== null && (facts['lowest'] ?? 0) > top)
    problems.lowest = 'The lowest is above the average. Check both values.';
  if (facts['lowest'] !== undefined && (facts['highest'] ?? Infinity) < facts['lowest'])
    problems.highest = 'The highest is below the lowest. Check both values.';
  if (Object.keys(facts).length > 0)
    entries.push({
      type: 'summary',
      by,
      ...facts,
      ...(Object.keys(digits).length > 0 ? { digits } : {}),
      ...(doubted.length > 0 ? { about: doubted } : {}),
    });

  const first = read('first', ['fps']);
  if (first) entries.push({ type: 'rate', atMs: 0, ...valueOf(first, 'fps', by), by });
  const later = read('later', ['fps']);
  const after = read('laterAt', ['min', 'h', 's']);
  const laterMs = after === null ? endMs : lengthOf(after)!.atMs;
  if (later && laterMs === null && !problems.laterAt)
    problems.laterAt = 'After how long? Write it, or the length.';
  if (later && laterMs !== null)
    entries.push({ type: 'rate', atMs: laterMs, ...valueOf(later, 'fps', by), by });
  if (!later && after) problems.later = 'Which rate did it have then?';
  if (laterMs !== null && endMs !== null && laterMs > (length?.highMs ?? endMs))
    problems.laterAt = 'That is later than the end: check the length.';

  const speed = read('speed', ['%']);
  if (speed) entries.push({ type: 'speed', ...valueOf(speed, 'percent', by), by });

  const smooth = texts.smooth.trim().toLowerCase();
  if (smooth !== '') {
    const word = SMOOTH_WORDS.find((known) => known === smooth);
    if (word) entries.push({ type: 'smooth', word, by: 'eye' });
    else problems.smooth = `Use one of: ${SMOOTH_WORDS.join(', ')}.`;
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
      ...peak,
      by: 'infrared',
      peak: true,
    });

  const [from, to] = [one('fromPercent', ['%'], 100), one('toPercent', ['%'], 100)];
  const battery = (atMs: number, { value, about: roughly }: { value: number; about: boolean }): void =>
    void entries.push({ type: 'battery', atMs, percent: value, ...(roughly ? { about: true } : {}) });
  if (from) battery(0, from);
  if (to && endMs === null)
    problems.length ??=
      'Enter the length of the run as well; it is needed for the battery percent at the end.';
  if (to && endMs !== null) battery(endMs, to);
  if (from && to && to.value > from.value)
    problems.toPercent =
      'The percent at the end is higher than at the start. If it was charged, leave both empty; otherwise swap them.';

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
  else if (ended === 'crash') problems.length ??= 'Enter how long it ran before the crash.';
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
    return `“${text}” is not recognised. Enter a number, a range such as 50–55, or a value with ± such as 52 ± 3.`;
  if (amount.unit !== null && !units.includes(amount.unit))
    return `“${text}” has the wrong unit. Use ${units.join(' or ')}.`;
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

/** What "about" leaves open of a length, as a share of it. */
const ABOUT_LENGTH = 0.1;

/** A length, or two between which it lies: a bare number counts minutes. */
function lengthOf(amount: Amount | null): { atMs: number; lowMs?: number; highMs?: number } | null {
  if (!amount) return null;
  const minutes = (value: number): number =>
    Math.round(value * (amount.unit === 'h' ? HOUR_MIN : amount.unit === 's' ? 1 / 60 : 1) * 60_000);
  const { value, low, high } = amount;
  if (amount.roughly && value !== null && low === null)
    return {
      atMs: minutes(value),
      lowMs: minutes((1 - ABOUT_LENGTH) * value),
      highMs: minutes((1 + ABOUT_LENGTH) * value),
    };
  if (low !== null && high !== null)
    return {
      atMs: Math.round(value === null ? (minutes(low) + minutes(high)) / 2 : minutes(value)),
      lowMs: minutes(low),
      highMs: minutes(high),
    };
  const only = value ?? high ?? low!;
  return { atMs: minutes(only) };
}

/** °C, of a range both ends, or what is wrong. Three digits without a point are tenths where whole degrees make no sense. */
function peakOf(
  amount: Amount | null,
  unit: TemperatureUnit,
): { c: number; low?: number; about?: boolean } | string | null {
  if (!amount) return null;
  const written = amount.value ?? amount.high;
  if (written === null) return 'Enter the highest value you saw.';
  const scale = amount.unit === 'C' || amount.unit === 'F' ? amount.unit : unit;
  const tenths = amount.unit === null && Number.isInteger(written) && written > (scale === 'C' ? 120 : 250);
  const inCelsius = (degrees: number): number =>
    Number((scale === 'F' ? toCelsius(degrees) : degrees).toFixed(2));
  const c = inCelsius(tenths ? written / 10 : written);
  if (c > 70)
    return scale === 'C'
      ? `${written} °C is not possible. If it is Fahrenheit, write ${written} F.`
      : `${written} °F is not possible.`;
  if (amount.value === null && amount.low !== null) return { c, low: inCelsius(amount.low) };
  return amount.roughly ? { c, about: true } : { c };
}

/** Headings of a pasted table, by what they may be called. */
const HEADINGS: Record<ResultField | 'title' | 'setup' | 'device' | 'target' | 'need', RegExp> = {
  title: /^(title|game|name|app)s?$/,
  setup: /^(setup|setting|settings|preset|tier|quality)$/,
  device: /^(device|phone|tablet)$/,
  target: /^(target|target fps|goal)$/,
  need: /^(need|asks for|title type)$/,
  average: /^(average|avg|mean|fps|rate|frame rate|average fps|avg fps|average,? fps)$/,
  median: /^(median|median fps|median,? fps)$/,
  first: /^(at first|first|start fps|fps at (the )?start|opening)$/,
  later: /^(later|end fps|fps at (the )?end|closing|then)$/,
  laterAt: /^(after|later after|after,? min|after \(min\))$/,
  low: /^(1 ?% ?lows?|low|lows|one percent low)$/,
  hold: /^(hold|stability|stable|hold ?%|near (the )?median|near median,? %|hold,? %)$/,
  lowest: /^(lowest|min|minimum|min fps)$/,
  highest: /^(highest|max|maximum|max fps)$/,
  speed: /^(speed|speed ?%|emulation speed)$/,
  smooth: /^(smooth|smoothness|stutter|stutters|stumbles)$/,
  feel: /^(plays|feel|feels|how it plays|playability|playable)$/,
  peak: /^(peak|temp|temperature|°c|°f|hottest|peak temperature|max temp)$/,
  fromPercent: /^(from ?%?|start ?%|battery start|battery start,? %|from %|% from|% at start)$/,
  toPercent: /^(to ?%?|end ?%|battery end|battery end,? %|to %|% to|% at end)$/,
  length: /^(length|minutes|min\.|duration|time|played|length,? min)$/,
  load: /^(load|load time|loading time|loading|load(ing time)?,? s)$/,
};
export type TableColumn = keyof typeof HEADINGS;

/** A row of a sitting: a title, and what was read of it. */
export interface SittingRow {
  title: string;
  setup: string;
  /** As they were written; '' where nothing was. */
  target: string;
  need: string;
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
 * Reads a table: headings in its first row in any order, cells parted by tabs,
 * semicolons, commas or several spaces, whichever gives the most headings that
 * are known.
 *
 * @example
 * readSitting('Title\tfps\tlow\nHexgarden\t50–55\t38').rows[0].texts.average; // '50–55'
 */
export function readSitting(text: string): SittingTable {
  const [head, ...body] = cellsOf(text);
  const nothing = { rows: [], unknown: [] };
  if (!head) return { ...nothing, problem: null };
  const columns = head.map(columnOf);
  if (!columns.includes('title'))
    return {
      ...nothing,
      problem:
        'The first row must have headings, including “title”. Known headings: title, setup, target, title type, average, median, 1 % low, near median, lowest, highest, at first, later, after, speed, stutter, plays, peak, battery start, battery end, length, loading time.',
    };
  if (body.length > MOST_SITTING_ROWS)
    return {
      ...nothing,
      problem: `The table has ${body.length} rows; the limit is ${MOST_SITTING_ROWS}. Paste it in parts.`,
    };
  const rows = body.map((row): SittingRow => {
    const value = (column: TableColumn): string => {
      const i = columns.indexOf(column);
      return i < 0 ? '' : (row[i] ?? '');
    };
    return {
      title: value('title'),
      setup: value('setup'),
      target: value('target'),
      need: value('need'),
      texts: Object.fromEntries(
        RESULT_FIELDS.map((field) => [field, value(field)]),
      ) as unknown as ResultTexts,
    };
  });
  return { rows, unknown: head.filter((heading, i) => columns[i] === null && heading !== ''), problem: null };
}

/** Cells of a table by the separator that its headings are parted by. */
function cellsOf(text: string): string[][] {
  const trimmed = text.replace(/^\s*\n/, '').trimEnd();
  const parted = (lines: string, delimiter: string | null): string[][] =>
    (delimiter === null
      ? lines.split(/\r?\n/).map((line) => line.trim().split(/\s{2,}/))
      : Papa.parse<string[]>(lines, { delimiter, skipEmptyLines: 'greedy' }).data
    )
      .map((row) => row.map((cell) => cell.trim()))
      .filter((row) => row.some((cell) => cell !== ''));
  const [firstLine = ''] = trimmed.split(/\r?\n/);
  const known = (delimiter: string | null): number =>
    (parted(firstLine, delimiter)[0] ?? []).filter((heading) => columnOf(heading) !== null).length;
  const [best] = SEPARATORS.map((delimiter) => ({ delimiter, known: known(delimiter) })).sort(
    (a, b) => b.known - a.known,
  );
  return parted(trimmed, best!.delimiter);
}
/** The first of those that part headings alike; null: several spaces. */
const SEPARATORS = ['\t', ';', ',', null];

function columnOf(heading: string): TableColumn | null {
  const plain = heading
    .trim()
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .replace(/\s*\((fps|%|°c|°f|min|s)\)$/, '');
  return (Object.keys(HEADINGS) as TableColumn[]).find((column) => HEADINGS[column].test(plain)) ?? null;
}
