import { isTimed, type EntryLine } from '../runFile/lines';
import { sayLine } from '../words/sayLine';
import { partsOf, type Amount, type Part } from './amounts';
import { Reading, Unclear, msOf, unclear, type Book, type PaperContext, type Subject } from './bookLine';
import { AT_THE_END, countedOf, loadOf, switchOf, touchOf, type Phrase } from './bookPhrases';
import { clausesOf, withPhrases, type Clause } from './bookTimes';
import { BODY, FALLING, RATE_WORDS, words } from './bookWords';
import { toCelsius } from '../words/temperature';
import { tokensOf } from './tokens';

/** How a line of a notebook was understood. */
export interface PaperLine {
  /** Line of the text, from 1. */
  line: number;
  text: string;
  /** What it says, as lines of a run; empty where it is unclear, and where it only says more of another line. */
  entries: EntryLine[];
  /** The line in the program's words; null where it is unclear. */
  understood: string | null;
  /** What is unclear, and how to write it; null where nothing is. */
  problem: string | null;
  /** Room in which it was played, °C, where the line says it. */
  roomC?: number;
}

/**
 * Understands readings as they stand in a notebook, a line at a time and as
 * people write them: `8:00 back 36.5`, `107 F max`, `100% to 65%`,
 * `first ten minutes 60, then 40`, `12:00 cooler on`, `crashed at 8 min`,
 * `froze twice`, `end page: average 58.2, hold 97 %`.
 *
 * A number is what the unit or the word beside it says, else what the heading
 * or the line before it counted; one that may be two things is pointed at,
 * never guessed. Numbers are told apart in `tokens`, joined with ends, doubt
 * and unit in `amounts`, parted into clauses with one time each in `bookTimes`,
 * and taken for what they are in `bookLine`; `bookPhrases` knows what is no number.
 *
 * @param text any number of lines; empty ones and such with # in front are passed over
 * @example
 * readNotebook('8:00 back 36.5', { unit: 'C' })[0].understood; // '8:00: 36.5 °C at back, infrared'
 */
export function readNotebook(text: string, context: PaperContext): PaperLine[] {
  const lines: PaperLine[] = [];
  const page = new Page(context);
  let number = 0;
  for (const raw of text.split(/\r?\n/)) {
    number++;
    const line = raw.trim();
    if (line === '') page.pause();
    else if (!line.startsWith('#')) lines.push({ line: number, text: line, ...page.understand(line) });
  }
  return placed(lines, context);
}

type Understood = Pick<PaperLine, 'entries' | 'understood' | 'problem' | 'roomC'>;

/** Values that need a time and have none stand at the end of the run, or at the last time that is written. */
function placed(lines: PaperLine[], { lengthMs, unit }: PaperContext): PaperLine[] {
  const last = (entries: EntryLine[]): number =>
    entries.reduce(
      (most, one) => Math.max(most, (one.type === 'span' ? Math.max(one.fromMs, one.toMs) : one.atMs) ?? 0),
      0,
    );
  const endMs = lengthMs ?? lines.reduce((most, line) => Math.max(most, last(line.entries)), 0);
  const place = (one: EntryLine): EntryLine => {
    if (one.type === 'span')
      return one.toMs === AT_THE_END ? { ...one, toMs: Math.max(one.fromMs, endMs) } : one;
    if (one.atMs !== AT_THE_END) return one;
    // nobody knows when it crashed
    if (one.type === 'end' && endMs === 0) return { type: 'mark', atMs: 0, kind: 'crash', whole: true };
    return { ...one, atMs: endMs } as EntryLine;
  };
  return lines.map((line) => {
    if (line.entries.length === 0) return line;
    const missing = lengthMissing(line.entries, endMs);
    if (missing !== null) return { ...line, entries: [], understood: null, problem: missing };
    const all = line.entries.map((one, i) => {
      const put = place(one);
      // at the end, and nobody knows when that was: at no time
      return isRead(put) && written(one) === AT_THE_END && isThere(line.entries, i, endMs)
        ? timeless(put)
        : put;
    });
    const entries = all.filter((one, i) => !isSaid(all, one, i));
    return { ...line, entries, understood: sayAll(entries, unit) };
  });
}

type Read = Extract<EntryLine, { type: 'rate' | 'speed' }>;
const isRead = (one: EntryLine): one is Read => one.type === 'rate' || one.type === 'speed';
const written = (one: EntryLine): number | undefined => (one.type === 'span' ? one.toMs : one.atMs);
const timeless = ({ atMs: _, ...line }: Read): Read => line;

/** What needs the length of the run where nothing tells it; null where nothing does. */
function lengthMissing(entries: EntryLine[], endMs: number): string | null {
  const ask = 'The length is missing. Add a line with it, for example: played 30 min.';
  const battery = entries.some((one) => one.type === 'battery' && one.atMs === AT_THE_END);
  const span = entries.some((one) => one.type === 'span' && one.toMs === AT_THE_END && one.fromMs >= endMs);
  return (battery && endMs === 0) || span ? ask : null;
}

/** Whether another value of its kind stands where the end would be, or later. */
const isThere = (entries: EntryLine[], i: number, endMs: number): boolean =>
  entries.some(
    (other, k) => k !== i && other.type === entries[i]!.type && (written(other) ?? AT_THE_END) >= endMs,
  );

/** "Then 40" where nobody knows how long it went on: the moment after the change says the same. */
function isSaid(all: EntryLine[], one: EntryLine, i: number): boolean {
  const before = all[i - 1];
  return (
    isRead(one) &&
    one.atMs === undefined &&
    before !== undefined &&
    isRead(before) &&
    before.atMs !== undefined &&
    JSON.stringify(timeless(before)) === JSON.stringify(one)
  );
}

/** What lines say, a time only where it is another than before. */
function sayAll(entries: EntryLine[], unit: PaperContext['unit']): string {
  let before: number | null = null;
  return entries
    .map((one) => {
      const at = one.type === 'span' ? one.fromMs : isTimed(one) ? (one.atMs ?? null) : null;
      const said = sayLine(one, unit, at !== before);
      before = at;
      return said;
    })
    .join('; ');
}

/** A page while it is read: what one line says of the next. */
class Page {
  private readonly book: Book;
  private readonly open = new Map<string, Extract<EntryLine, { type: 'span' }>>();
  /** A heading holds until a blank line; the line before only for the next ones. */
  private heading: Subject | null = null;

  constructor(context: PaperContext) {
    this.book = { ...context, startedMin: context.startedMin ?? null, subject: null };
  }

  pause(): void {
    this.heading = null;
    this.book.subject = null;
  }

  understand(text: string): Understood {
    try {
      const { parts, problem } = partsOf(tokensOf(text));
      if (problem) unclear(problem);
      const phrase = this.phrase(parts, text);
      if (phrase !== null) return phrase;
      const entries = this.clauses(withPhrases(parts), text);
      this.book.subject = this.heading ?? subjectOf(entries);
      return { entries, understood: '', problem: null };
    } catch (error) {
      if (!(error instanceof Unclear)) throw error;
      return { entries: [], understood: null, problem: error.message };
    }
  }

  /** Lines that are one thing as a whole, and no reading. */
  private phrase(parts: Part[], text: string): Understood | null {
    const says = (understood: string, more: Partial<Understood> = {}): Understood => ({
      entries: [],
      understood,
      problem: null,
      ...more,
    });
    if (this.startOfDay(parts)) return says('the time of day at which it began');
    const heading = headingOf(parts);
    if (heading) {
      this.heading = heading.subject;
      this.book.subject = heading.subject;
      return says(`what follows: ${heading.says}`);
    }
    const room = this.room(parts);
    if (room !== null) return says(`room: ${room} °C`, { roomC: room });
    const phrased = withPhrases(parts);
    const times = this.timesIn(phrased, text);
    const found: Phrase | null =
      loadOf(phrased, text) ??
      switchOf(phrased, times, this.open) ??
      touchOf(phrased, text, times[0] ?? null) ??
      countedOf(phrased, text, times[0] ?? null);
    return (
      found &&
      (found.says === undefined
        ? { entries: found.entries, understood: '', problem: null }
        : says(found.says))
    );
  }

  /** Times of a line that is no reading, ms: clocks, and lengths that can be nothing else. */
  private timesIn(parts: Part[], text: string): number[] {
    if (parts.some((part) => part.kind === 'amount' && part.unit !== null && !TIME_UNITS.has(part.unit)))
      return [];
    const joined: number[] = [];
    parts.forEach((part, i) => {
      if (part.kind === 'clock' && !Number.isNaN(part.ms))
        joined.push(new Reading(text, [part], this.book).timeOf(part));
      else if (part.kind === 'amount' && part.unit !== null && part.value !== null) {
        const before = parts[i - 1];
        const ms = msOf(part, part.value);
        if (before?.kind === 'amount' && before.unit === 'h' && part.unit === 'min')
          joined.push((joined.pop() ?? 0) + ms);
        else joined.push(ms);
      }
    });
    return joined.map(Math.round);
  }

  /** "Started at 14:20": times of day are told by it from here on. */
  private startOfDay(parts: Part[]): boolean {
    const first = parts[0];
    if (first?.kind !== 'word' || !['start', 'started', 'begin', 'began', 'begun'].includes(first.word))
      return false;
    const clock = parts.find((part) => part.kind === 'clock');
    if (parts.some((part) => part.kind === 'amount') || clock?.kind !== 'clock' || clock.ofDayMin === null)
      return false;
    this.book.startedMin =
      clock.ofDayMin +
      (parts.some((part) => part.kind === 'word' && part.word === 'pm') && clock.ofDayMin < 720 ? 720 : 0);
    return true;
  }

  /** "Room 18.5": what the run was played in, °C. */
  private room(parts: Part[]): number | null {
    const said = parts.filter((part) => part.kind !== 'sign');
    const amounts = said.filter((part) => part.kind === 'amount');
    const [amount] = amounts;
    if (amounts.length !== 1 || amount?.kind !== 'amount' || amount.value === null) return null;
    if (!said.some((part) => part.kind === 'word' && ROOM.has(part.word))) return null;
    if (
      !said.every(
        (part) =>
          part === amount || (part.kind === 'word' && (ROOM.has(part.word) || BESIDE_ROOM.has(part.word))),
      )
    )
      return null;
    const unit =
      amount.unit === 'C' || amount.unit === 'F'
        ? amount.unit
        : amount.unit === null || amount.unit === '°'
          ? this.book.unit
          : null;
    if (unit === null) return null;
    return Number((unit === 'F' ? toCelsius(amount.value) : amount.value).toFixed(2));
  }

  /** Each clause by itself, with what the whole line says of it. */
  private clauses(parts: Part[], text: string): EntryLine[] {
    const clauses = clausesOf(parts);
    const line = subjectOfLine(parts, clauses);
    const before = this.book.subject;
    if (line.unit !== null) this.book.subject = { ...line, spot: line.spot ?? before?.spot ?? null };
    try {
      const found: EntryLine[] = [];
      let heldUntil: number | null = null;
      for (const clause of clauses) {
        const entries = new Reading(
          text,
          clause.parts,
          this.book,
          clauses.length > 1 ? line.spot : null,
        ).entries();
        if (clauses.length > 1 && entries.every((one) => one.type === 'end' && one.reason === 'planned'))
          unclear('The line has two times. Write one line for each.');
        const then = heldUntil;
        heldUntil = null;
        const timed = entries.filter(
          (one) => (one.type === 'rate' || one.type === 'speed') && one.atMs !== undefined,
        );
        for (const one of entries) {
          if (!timed.includes(one)) {
            found.push(one);
            continue;
          }
          const atMs = (one as { atMs: number }).atMs;
          // what lasted until a time was there from the start, or from where the clause before ended
          if (clause.until && atMs > 0)
            found.push({ ...one, atMs: then === null ? 0 : then + STEP_MS } as EntryLine);
          else if (then !== null && (atMs === AT_THE_END || atMs > then + STEP_MS))
            found.push({ ...one, atMs: then + STEP_MS } as EntryLine);
          found.push(one);
          if (clause.until) heldUntil = atMs;
        }
      }
      return found;
    } finally {
      this.book.subject = before;
    }
  }
}

/** What comes after a stretch begins a moment later. */
const STEP_MS = 1000;
const TIME_UNITS = new Set<Amount['unit']>(['h', 'min', 's']);
const ROOM = words('room ambient');
const BESIDE_ROOM = words('temp temperature at was is the it about in air outside now');

/** Units that a bare number takes from its line, or from the line before. */
const CARRIED = new Set<Amount['unit']>(['fps', 'C', 'F', '°', '%']);

/** What the bare numbers of a line count: what its others do, or a rate where it tells a course. */
function subjectOfLine(parts: Part[], clauses: Clause[]): Subject {
  const amounts = parts.filter((part) => part.kind === 'amount');
  const units = new Set(amounts.flatMap(({ unit }) => (unit !== null && CARRIED.has(unit) ? [unit] : [])));
  const bodies = parts.filter((part) => part.kind === 'word' && BODY.has(part.word));
  const spot = bodies.length === 1 && bodies[0]!.kind === 'word' ? bodies[0]!.word : null;
  const speed = parts.some(
    (part) => part.kind === 'word' && (part.word === 'speed' || part.word === 'emulation'),
  );
  if (units.size === 1) return { unit: [...units][0]!, spot, ...(speed ? { speed } : {}) };
  const course =
    clauses.length > 1 ||
    clauses.some(({ until }) => until) ||
    parts.some((part) => part.kind === 'word' && (FALLING.has(part.word) || PACE.has(part.word)));
  if (units.size > 0 || !course) return { unit: null, spot };
  return { unit: bodies.length > 0 ? '°' : 'fps', spot };
}

/** What the next line's bare numbers count: what the only value of this one does. */
function subjectOf(entries: EntryLine[]): Subject | null {
  const [only, ...others] = entries.filter((one) => one.type !== 'mark');
  if (only === undefined || others.length > 0) return null;
  if (only.type === 'rate') return { unit: 'fps', spot: null };
  if (only.type === 'speed') return { unit: '%', spot: null, speed: true };
  if (only.type === 'battery') return { unit: '%', spot: null };
  return only.type === 'skin' && !only.peak ? { unit: '°', spot: only.spot } : null;
}

/** Words of which a number beside them is a rate. */
const PACE = words('smooth stutters stutter stuttery choppy');

/** "fps:", "back", "temps": what the lines below count. */
function headingOf(parts: Part[]): { subject: Subject; says: string } | null {
  const said = parts.filter((part) => part.kind !== 'sign');
  const names = said.flatMap((part) => (part.kind === 'word' ? [part.word] : []));
  if (names.length !== said.length || names.length === 0 || names.length > 3) return null;
  if (parts.some((part) => part.kind === 'sign' && part.sign !== ':')) return null;
  const only = names.filter((name) => !HEADING_WORDS.has(name));
  if (only.length === 0) return { subject: { unit: '°', spot: null }, says: 'temperatures' };
  if (only.every((name) => RATE_WORDS.has(name)))
    return { subject: { unit: 'fps', spot: null }, says: 'rates' };
  if (only.length === 1 && only[0] === 'battery')
    return { subject: { unit: '%', spot: null }, says: 'percent of the battery' };
  if (only.every((name) => BODY.has(name)))
    return { subject: { unit: '°', spot: only.join(' ') }, says: `temperatures at ${only.join(' ')}` };
  return null;
}
const HEADING_WORDS = words('temp temps temperature temperatures skin readings');

/**
 * A time as people write it: 8:00, 1:05:00, 13 min, 90 s.
 *
 * @returns seconds, or null where it is none or something stands beside it
 * @example
 * readTime('13 min'); // 780
 */
export function readTime(text: string): number | null {
  const { parts, problem } = partsOf(tokensOf(text.trim()));
  const [only] = parts;
  if (problem !== null || parts.length !== 1) return null;
  if (only!.kind === 'clock') return Number.isNaN(only!.ms) ? null : only!.ms / 1000;
  if (only!.kind !== 'amount' || only!.value === null || only!.low !== null) return null;
  return only!.unit === 'h' || only!.unit === 'min' || only!.unit === 's'
    ? msOf(only!, only!.value) / 1000
    : null;
}
