import type { Digits, EntryLine } from '../runFile/lines';
import {
  CHIP_PARTS,
  FEEL_WORDS,
  SPAN_KINDS,
  SUMMARY_FACTS,
  type FeelWord,
  type RateSource,
  type SmoothWord,
  type SummaryFact,
} from '../vocabulary';
import { exactClock } from '../words/sayLine';
import { toCelsius, type TemperatureUnit } from '../words/temperature';
import { about, hiddenDecimals, type Amount, type Part } from './amounts';
import { AT_THE_END, placeOf } from './bookPhrases';
import {
  BODY,
  CHARGING,
  CHIP_WORDS,
  CRASH,
  DURATION,
  FACTS,
  FALLING,
  FILLER,
  HIGHEST,
  MARK_WORDS,
  OFTEN,
  OFTEN_ALONE,
  ONE_PERCENT,
  PLAYS,
  POWER_WORDS,
  RATE_WORDS,
  REMARK,
  SAID_ALREADY,
  STUMBLES,
} from './bookWords';

/** What a reader knows beside the text. */
export interface PaperContext {
  /** Scale of temperatures that name none. */
  unit: TemperatureUnit;
  /** Spots of the device, beside the usual words for places of a body. */
  spots?: readonly string[];
  /** Time of day at which the run began, minutes from midnight, for a notebook that writes times of day. */
  startedMin?: number | null;
  /** How long the run was; else a value without a time stands at the last time that is written. */
  lengthMs?: number | null;
}

/** What a bare number counts, and where. */
export interface Subject {
  unit: Amount['unit'];
  /** Percent of an emulator's speed, not of a battery. */
  speed?: boolean;
  spot: string | null;
}

/** What is known from line to line. */
export interface Book extends PaperContext {
  startedMin: number | null;
  /** Under a heading, or of the line before. */
  subject: Subject | null;
}

/** Where a temperature is kept whose place nobody noted. */
export const ANY_SPOT = 'hottest spot';

/** A line cannot be taken for one thing. */
export class Unclear extends Error {}
export const unclear = (problem: string): never => {
  throw new Unclear(problem);
};

/** Names of two words, and the one word by which they are read. */
const TWO_WORDS: Record<string, string> = {
  'near median': 'hold',
  'summary screen': 'page',
  'cpu load': 'cpu',
  'gpu load': 'gpu',
};

function joined(parts: Part[]): Part[] {
  const one: Part[] = [];
  for (const part of parts) {
    const before = one.at(-1);
    const both =
      before?.kind === 'word' && part.kind === 'word' ? TWO_WORDS[`${before.word} ${part.word}`] : undefined;
    if (both !== undefined) one[one.length - 1] = { kind: 'word', word: both, at: before!.at, end: part.end };
    else one.push(part.kind === 'word' && part.word === 'marker' ? { ...part, word: 'mark' } : part);
  }
  return one;
}

/** One clause of a line while it is read. */
export class Reading {
  private readonly found: EntryLine[] = [];
  private parts: Part[];
  /** The line, blanks in the place of what stands between marks. */
  private readonly plain: string;
  private atMs: number | null = null;
  private by: RateSource | null = null;
  private charging = false;
  private instrument: string | null = null;
  private scene: string | undefined;
  private readonly summary: Record<string, number> = {};
  private readonly digits: Digits = {};
  private readonly doubted: SummaryFact[] = [];

  /**
   * @param spot where temperatures of the clause were read that name no place; null for none
   */
  constructor(
    private readonly text: string,
    parts: Part[],
    private readonly book: Book,
    private readonly spot: string | null = null,
  ) {
    this.parts = joined(parts);
    const from = parts.reduce((least, part) => Math.min(least, part.at), text.length);
    const to = parts.reduce((most, part) => Math.max(most, part.end), 0);
    const own = ' '.repeat(from) + text.slice(from, to);
    this.plain = parts.reduce(
      (rest, part) =>
        part.kind === 'quoted'
          ? rest.slice(0, part.at) + ' '.repeat(part.end - part.at) + rest.slice(part.end)
          : rest,
      own,
    );
  }

  entries(): EntryLine[] {
    this.time();
    if (this.wholeLine()) return this.found;
    this.sources();
    this.amounts();
    this.leftovers();
    if (
      this.found.length === 0 &&
      this.atMs !== null &&
      this.atMs !== AT_THE_END &&
      this.parts.every((part) => part.kind === 'sign')
    )
      // a time alone is how long it was
      this.found.push({ type: 'end', atMs: this.atMs, reason: 'planned' });
    if (this.found.length === 0)
      unclear(
        this.atMs === null
          ? 'No reading found in this line. Write, for example, 8:00 back 36.5, 8:00 97 % or 50–55 fps; unchanged, the line is saved as a note.'
          : 'The line has a time but no reading. Write, for example, 8:00 back 36.5, 8:00 97 % or 8:00 58 fps.',
      );
    return this.found;
  }

  private has(word: string): boolean {
    return this.parts.some((part) => part.kind === 'word' && part.word === word);
  }

  /** Takes the time of the line out of its parts. */
  private time(): void {
    const spans = this.parts.some(
      (part) => part.kind === 'word' && (part.word === 'until' || SPAN_KINDS.includes(part.word)),
    );
    const clocks = this.parts.filter((part) => part.kind === 'clock');
    const ends = this.parts.some((part) => part.kind === 'word' && part.word === 'between');
    if (clocks.length > 1 && !spans && !ends) unclear('The line has two times. Write one line for each.');
    const clock = clocks[0];
    if (clock) {
      if (Number.isNaN(clock.ms))
        unclear(`${this.text.slice(clock.at, clock.end)} is not a time: minutes and seconds go up to 59.`);
      const [explicit, afternoon] = this.ofDay(clock);
      this.atMs = this.onTheClock(clock, explicit, afternoon);
      this.parts = this.parts.filter((part) => part !== clock);
      return;
    }
    const length = this.parts.some((part) => part.kind === 'word' && DURATION.has(part.word));
    const isTime = (part: Part): part is Amount =>
      part.kind === 'amount' && (part.unit === 'h' || part.unit === 'min' || part.unit === 's');
    const note = this.isNote();
    // "froze 2 s": how long; "crashed at 8 min": when
    const durations = this.parts.filter(
      (part): part is Amount => isTime(part) && !(note && (part.unit === 's' || this.isBehind(part, 'for'))),
    );
    if (durations.length === 0 || length) return;
    const [first, second] = durations as [Amount, Amount?];
    if (first.value === null || first.low !== null)
      unclear('The time is a range. Write one time, or “played 3 to 4 hours” for the length.');
    // "1 h 5 min"
    const joined =
      second !== undefined &&
      ((first.unit === 'h' && second.unit === 'min') || (first.unit === 'min' && second.unit === 's')) &&
      this.parts.indexOf(second) === this.parts.indexOf(first) + 1
        ? second
        : null;
    if (durations.length > (joined ? 2 : 1)) unclear('The line has two times. Write one line for each.');
    this.atMs = Math.round(msOf(first, first.value!) + (joined ? msOf(joined, joined.value ?? 0) : 0));
    this.parts = this.parts.filter((part) => part !== first && part !== joined);
  }

  private isBehind(part: Part, word: string): boolean {
    const before = this.parts[this.parts.indexOf(part) - 1];
    return before?.kind === 'word' && before.word === word;
  }

  /** A clock on the run's, ms. */
  timeOf(clock: Extract<Part, { kind: 'clock' }>): number {
    return this.onTheClock(clock, false, false);
  }

  /** Whether a clock is followed by am, pm or o'clock. */
  private ofDay(clock: Part): [boolean, boolean] {
    const i = this.parts.indexOf(clock);
    const next = this.parts[i + 1];
    const sign =
      next?.kind === 'word' && ['am', 'pm', 'o’clock', "o'clock"].includes(next.word) ? next.word : null;
    if (sign !== null) this.parts.splice(i + 1, 1);
    return [sign !== null, sign === 'pm'];
  }

  /** @param explicit it says itself that it is a time of day */
  private onTheClock(clock: Extract<Part, { kind: 'clock' }>, explicit: boolean, pm: boolean): number {
    const { startedMin } = this.book;
    if (clock.fixed) return clock.ms;
    if (startedMin === null) {
      if (explicit)
        unclear('This is a time of day. Add a line with the start of the run, for example: started 14:20.');
      return clock.ms;
    }
    const ofDay = clock.ofDayMin === null ? null : clock.ofDayMin + (pm && clock.ofDayMin < 720 ? 720 : 0);
    // after midnight it is a day more
    const since = ofDay === null ? null : (ofDay - startedMin + 1440) % 1440;
    if (since === null || since > MOST_HOURS * 60)
      unclear(
        `${this.text.slice(clock.at, clock.end)} is not within ${MOST_HOURS} hours after the start of the run.`,
      );
    return Math.round(since! * 60_000);
  }

  private isNote(): boolean {
    return this.parts.some(
      (part) => part.kind === 'word' && (MARK_WORDS[part.word] !== undefined || CRASH.has(part.word)),
    );
  }

  private take(...which: Part[]): void {
    this.parts = this.parts.filter((part) => !which.includes(part));
  }

  private firstWord(): string | null {
    const first = this.parts.find((part) => part.kind !== 'sign');
    return first?.kind === 'word' ? first.word : null;
  }

  private needsTime(what: string): number {
    return this.atMs ?? unclear(`${what} needs a time. Write it as 8:00, 1:05:00 or 13 min.`);
  }

  /** Lines that are one thing as a whole: a title, a scene, a span, an end, a mark with words. */
  private wholeLine(): boolean {
    const first = this.firstWord();
    const quoted = this.parts.filter((part) => part.kind === 'quoted');
    if (first === 'title' && quoted.length > 0) {
      const target = this.parts.find((part) => part.kind === 'amount');
      this.found.push({
        type: 'title',
        atMs: this.needsTime('A title'),
        title: quoted[0]!.text,
        ...(quoted[1] ? { setup: quoted[1].text } : {}),
        ...(target?.kind === 'amount' && target.value ? { target: target.value } : {}),
      });
      return true;
    }
    if (first === 'scene') {
      const scene = quoted[0]?.text ?? this.after('scene');
      if (scene === '') unclear('The scene has no name. Write, for example, 2:00 scene hard track.');
      this.found.push({ type: 'scene', atMs: this.needsTime('A scene'), scene });
      return true;
    }
    if (first === 'mark') return this.marked(first, null);
    return this.span(first) || this.ended() || this.marked(first, quoted[0]?.text ?? null);
  }

  /** What stands behind a word, as it was written. */
  private after(word: string): string {
    const part = this.parts.find((one) => one.kind === 'word' && one.word === word)!;
    return this.text
      .slice(part.end)
      .replace(/^[\s:,–—-]*\d{1,3}:\d{2}(?::\d{2})?(?=[\s:,–—-])/, '')
      .replace(/^[\s:,–—-]+/, '')
      .trim();
  }

  private span(first: string | null): boolean {
    if (first === null || !SPAN_KINDS.includes(first)) return false;
    const end = this.parts.find((part) => part.kind === 'clock');
    const until = this.parts.find(
      (part) => part.kind === 'amount' && (part.unit === 'min' || part.unit === 's' || part.unit === 'h'),
    );
    // "charging" beside a percent is no span
    if (end?.kind !== 'clock' && !(this.has('until') && until)) return false;
    const fromMs = this.needsTime(`“${first}”`);
    const toMs =
      end?.kind === 'clock'
        ? this.onTheClock(end, ...this.ofDay(end))
        : msOf(until as Amount, (until as Amount).value ?? NaN);
    if (!(toMs >= fromMs))
      unclear(`The end (${exactClock(toMs || 0)}) is before the start (${exactClock(fromMs)}).`);
    this.found.push({ type: 'span', fromMs, toMs, kind: first });
    return true;
  }

  private ended(): boolean {
    const said = this.plain;
    const reason = /would not start|did not start|\bdns\b/i.test(said)
      ? 'would-not-start'
      : this.parts.some((part) => part.kind === 'word' && CRASH.has(part.word))
        ? 'crash'
        : /\bend, as planned\b/i.test(said) || /^(?:[\d:. ]+)?(?:the )?end(?:ed)?[.!]?$/i.test(said)
          ? 'planned'
          : /stopped early|\bstopped\b/i.test(said)
            ? 'stopped'
            : null;
    if (reason === null) return false;
    if (this.parts.some((part) => part.kind === 'amount' && part.unit !== null && part.unit !== 's')) {
      this.take(
        ...this.parts.filter(
          (part) => part.kind === 'word' && (CRASH.has(part.word) || part.word === 'stopped'),
        ),
      );
      this.found.push({ type: 'end', atMs: this.needsTime('An end'), reason });
      return false;
    }
    const clocks = this.parts.filter((part) => part.kind === 'clock');
    if (clocks.length > 0 && clocks.length !== 2) unclear('The line has two times. Write one line for each.');
    this.found.push({
      type: 'end',
      atMs:
        reason === 'would-not-start'
          ? (this.atMs ?? 0)
          : reason === 'crash'
            ? (this.atMs ?? AT_THE_END)
            : this.needsTime('An end'),
      reason,
      ...(clocks.length === 2 ? { lowMs: clocks[0]!.ms, highMs: clocks[1]!.ms } : {}),
    });
    // where it crashed, in the reviewer's words
    const where =
      reason === 'crash' && clocks.length === 0 ? this.remark('crashed').replace(/^[^\p{L}]+/u, '') : '';
    if (
      /\p{L}{3}/u.test(
        where.replace(/\bend\b|\bcrash\p{L}*|\bsudden\p{L}*|\bafter\b|\bmin\p{L}*|\bgame\b/giu, ''),
      )
    )
      this.found.push({ type: 'mark', ...placeOf(this.atMs), kind: 'note', note: where });
    return true;
  }

  /** A remark at a time: its words stay as they were written. */
  private marked(first: string | null, quoted: string | null): boolean {
    if (first === 'mark') {
      const kind = this.parts.find((part) => part.kind === 'word' && part.word !== 'mark');
      const marks = this.parts.filter((part) => part.kind === 'quoted').map((part) => part.text);
      const named = kind?.kind === 'word' ? kind.word : marks.shift();
      if (named === undefined)
        unclear('The marker has no type. Write, for example, 8:00 stutter on landing.');
      this.found.push({
        type: 'mark',
        atMs: this.needsTime('A marker'),
        kind: named!,
        ...(marks[0] === undefined ? {} : { note: marks[0] }),
      });
      return true;
    }
    const word = this.parts.find((part) => part.kind === 'word' && MARK_WORDS[part.word] !== undefined);
    if (word?.kind !== 'word' || this.howOften() !== null) return false;
    const measured = this.parts.some(
      (part) => part.kind === 'amount' && part.unit !== null && part.unit !== 's' && part.unit !== 'min',
    );
    const kind = MARK_WORDS[word.word]!;
    const place = placeOf(this.atMs);
    if (measured) {
      this.take(word);
      this.found.push({ type: 'mark', ...place, kind });
      return false;
    }
    const note =
      quoted ?? (first === 'note' || first === 'moment' ? this.after(word.word) : this.remark(word.word));
    this.found.push({ type: 'mark', ...place, kind, ...(note === '' ? {} : { note }) });
    return true;
  }

  /** The line without its time and without the mark's own word, where something is left that says more. */
  private remark(word: string): string {
    const rest = this.parts.filter(
      (part) =>
        !(part.kind === 'word' && (part.word === word || FILLER.has(part.word))) && part.kind !== 'sign',
    );
    if (rest.length === 0) return '';
    const from = this.parts[0]!.at;
    return this.text.slice(from, this.parts.at(-1)!.end).trim();
  }

  /** What was read off, and with what; these words are no names of places. */
  private sources(): void {
    const said = this.plain;
    const whole = /own counter|title['’]s (?:own )?counter|in-title|in-game/i.exec(said);
    if (whole) this.by = 'in-title';
    this.parts = this.parts.filter((part) => {
      if (whole && part.at >= whole.index && part.end <= whole.index + whole[0].length) return false;
      if (part.kind !== 'word') return true;
      switch (part.word) {
        case 'eye':
        case 'eyes':
        case 'guess':
        case 'guessed':
        case 'estimated':
          this.by = 'eye';
          return false;
        case 'overlay':
        case 'counter':
          this.by ??= 'overlay';
          return false;
        case 'tool':
        case 'logger':
          this.by ??= 'tool';
          return false;
        case 'infrared':
        case 'ir':
          this.instrument = 'infrared';
          return false;
        case 'sensor':
          this.instrument ??= 'battery sensor';
          return false;
        case 'by':
          return this.text.slice(part.end).trimStart().toLowerCase().startsWith('the');
      }
      if (CHARGING.has(part.word)) {
        this.charging = true;
        return false;
      }
      return true;
    });
    const withName = this.parts.findIndex(
      (part, i) => part.kind === 'word' && part.word === 'with' && this.parts[i + 1]?.kind === 'quoted',
    );
    if (withName >= 0) {
      const name = this.parts[withName + 1] as Extract<Part, { kind: 'quoted' }>;
      this.instrument = name.text;
      this.take(this.parts[withName]!, name);
    }
    const device = /\b(battery|device) sensor\b/i.exec(said);
    if (device) {
      this.instrument = device[0];
      this.take(
        ...this.parts.filter(
          (part) => part.at >= device.index && part.end <= device.index + device[0].length,
        ),
      );
    }
    const feel = this.feels();
    if (feel) {
      this.take(...feel.parts);
      this.found.push({
        type: 'feel',
        ...(this.atMs === null ? {} : { atMs: this.atMs }),
        word: feel.word,
        ...this.takePlace(),
      });
      this.take(...this.parts.filter((part) => part.kind === 'sign'));
    }
    const often = this.howOften();
    if (often) {
      this.take(...often.parts);
      this.found.push({
        type: 'smooth',
        ...(this.atMs === null ? {} : { atMs: this.atMs }),
        word: often.word,
        by: this.by ?? 'eye',
        ...this.takePlace(),
      });
      this.take(...this.parts.filter((part) => part.kind === 'sign'));
    }
  }

  /** "Plays: good", "unplayable", "flawless in the town"; beside anything else a word like "barely" is no verdict. */
  private feels(): { word: FeelWord; parts: Part[] } | null {
    const place = this.parts.findIndex((part) => part.kind === 'word' && /^(in|at|on)$/.test(part.word));
    const said = place < 0 ? this.parts : this.parts.slice(0, place);
    const of = (part: Part): FeelWord | undefined =>
      part.kind === 'word' ? FEEL_WORDS.find((word) => word === part.word) : undefined;
    const felt = said.filter((part) => of(part) !== undefined);
    // "barely playable" is barely
    const both = felt.length === 2 && of(felt[0]!) === 'barely' && of(felt[1]!) === 'playable';
    const [feel, ...others] = both ? felt.slice(0, 1) : felt;
    if (feel === undefined || others.length > 0) return null;
    const beside = said.filter((part) => !felt.includes(part) && part.kind !== 'sign');
    if (!beside.every((part) => part.kind === 'word' && PLAYS.has(part.word))) return null;
    return { word: of(feel)!, parts: [...felt, ...beside] };
  }

  /** "Stutters now and then", "often stumbles", "stumbles: none". */
  private howOften(): { word: SmoothWord; parts: Part[] } | null {
    const stumbles = this.parts.filter((part) => part.kind === 'word' && STUMBLES.has(part.word));
    const said = this.plain;
    const phrase = /now and then/i.exec(said) ?? /all the time/i.exec(said);
    const often = this.parts.find((part) => part.kind === 'word' && OFTEN[part.word] !== undefined);
    const smooth = often?.kind === 'word' && often.word === 'smooth';
    const alone =
      often?.kind === 'word' &&
      OFTEN_ALONE.has(often.word) &&
      this.parts.every(
        (part) =>
          part === often ||
          part.kind === 'sign' ||
          (part.kind === 'word' && (part.word === 'very' || FILLER.has(part.word))),
      );
    if (stumbles.length === 0 && !smooth && !alone) return null;
    if (phrase)
      return {
        word: phrase[0] === 'all the time' ? 'constant' : 'occasional',
        parts: [
          ...stumbles,
          ...this.parts.filter(
            (part) => part.at >= phrase.index && part.end <= phrase.index + phrase[0].length,
          ),
        ],
      };
    if (often?.kind !== 'word') return null;
    const words = this.parts.filter(
      (part) => part.kind === 'word' && (OFTEN[part.word] !== undefined || part.word === 'very'),
    );
    if (words.filter((part) => part.kind === 'word' && OFTEN[part.word] !== undefined).length > 1)
      unclear('The line has two values for stutter. Write one of: none, occasional, frequent, constant.');
    return { word: OFTEN[often.word]!, parts: [...stumbles, ...words] };
  }

  /** Takes a place of the title behind "in" out of the parts: “in the town”. */
  private takePlace(): { scene?: string } {
    const i = this.parts.findIndex(
      (part) => part.kind === 'word' && (part.word === 'in' || part.word === 'at' || part.word === 'on'),
    );
    const next = this.parts[i + 1];
    if (i < 0 || !next) return {};
    if (next.kind === 'quoted') {
      this.take(this.parts[i]!, next);
      return { scene: next.text };
    }
    const run: Part[] = [];
    for (const part of this.parts.slice(i + 1)) {
      if (part.kind !== 'word') break;
      run.push(part);
    }
    if (run.length === 0) return {};
    const scene = this.text.slice(run[0]!.at, run.at(-1)!.end);
    this.take(this.parts[i]!, ...run);
    return { scene };
  }

  private amounts(): void {
    // "1 % low" names what comes behind it
    for (const part of this.parts.filter((one) => one.kind === 'amount')) {
      const next = this.parts[this.parts.indexOf(part) + 1];
      if (part.unit !== '%' || next?.kind !== 'word' || !/^lows?$/.test(next.word)) continue;
      if (part.value !== 1)
        unclear(`${part.value} % lows are not supported in notes. Remove it, or save the line as a note.`);
      const named: Part = { kind: 'word', word: 'one-percent', at: part.at, end: next.end };
      this.parts = this.parts.flatMap((one) => (one === part ? [named] : one === next ? [] : [one]));
    }
    const rates = this.parts.some(
      (part) => part.kind === 'amount' && (part.unit === 'fps' || this.named(part, RATE_WORDS)),
    );
    const facts = this.parts.some((part) => part.kind === 'amount' && this.factName(part) !== null);
    if (rates || facts || this.has('speed')) this.scene = this.takePlace().scene;
    for (const part of this.parts.filter((one) => one.kind === 'amount')) this.amount(part);
    if (Object.keys(this.summary).length > 0) {
      this.found.push({
        type: 'summary',
        ...(this.atMs === null ? {} : { atMs: this.atMs }),
        by: this.by ?? 'tool',
        ...this.summary,
        ...(this.scene === undefined ? {} : { scene: this.scene }),
        ...(Object.keys(this.digits).length > 0 ? { digits: this.digits } : {}),
        ...(this.doubted.length > 0 ? { about: this.doubted } : {}),
      });
      const { average, lowest, highest, onePercent } = this.summary;
      if (average !== undefined && Math.max(lowest ?? 0, onePercent ?? 0) > average)
        unclear('The low is above the average. Check both values.');
      if (lowest !== undefined && highest !== undefined && lowest > highest)
        unclear('The lowest is above the highest. Check both values.');
    }
  }

  private named(part: Part, names: Set<string> | Record<string, unknown>): string | null {
    const i = this.parts.indexOf(part);
    const has = (word: string): boolean =>
      names instanceof Set ? names.has(word) : names[word] !== undefined;
    for (let back = i - 1; back >= 0 && back >= i - 3; back--) {
      const before = this.parts[back]!;
      if (before.kind === 'amount') break;
      if (before.kind === 'word' && has(before.word)) return before.word;
      if (before.kind === 'word' && !FILLER.has(before.word) && !RATE_WORDS.has(before.word)) break;
    }
    const comma = this.parts[i + 1]?.kind === 'sign' ? 1 : 0;
    const next = this.parts[i + 1 + comma];
    const behind = this.parts[i + 2 + comma];
    // "97 % hold" names the number before it, unless a number follows that it may name
    return next?.kind === 'word' && has(next.word) && behind?.kind !== 'amount' ? next.word : null;
  }

  private takeNamed(part: Part, word: string): void {
    const i = this.parts.indexOf(part);
    const near = [...this.parts.slice(Math.max(0, i - 3), i).reverse(), ...this.parts.slice(i + 1, i + 3)];
    const name = near.find((one) => one?.kind === 'word' && one.word === word);
    if (name) this.take(name);
  }

  /** The fact of an end page that an amount is. */
  private factName(part: Amount): string | null {
    const named = this.named(part, FACTS) ?? this.named(part, ONE_PERCENT);
    if (part.unit !== null && part.unit !== 'fps' && part.unit !== '%') return null;
    // the peak of a rate says its unit; any other is the hottest, and so is a maximum at a place of the body
    if (part.unit === null && named !== null && HIGHEST.has(named) && (named === 'peak' || this.hasPlace()))
      return null;
    return named;
  }

  /** Whether the clause names a place of a body. */
  private hasPlace(): boolean {
    return this.parts.some((part) => part.kind === 'word' && this.isSpot(part.word));
  }

  private amount(given: Amount): void {
    const part = this.withSubject(given);
    const { unit } = part;
    const fact = this.factName(part);
    const isRate = unit === 'fps' || (unit === null && this.named(part, RATE_WORDS) !== null);
    if (unit === 'C' || unit === 'F' || unit === '°') return this.temperature(part);
    if (fact !== null && (unit === null || unit === 'fps' || (unit === '%' && FACTS[fact] === 'hold'))) {
      this.fact(part, fact);
      return;
    }
    if (isRate) return this.rate(part);
    switch (unit) {
      case '%':
        return this.percent(part);
      case 'W':
      case 'mW':
        return this.power(part);
      case 'Hz':
        this.found.push({ type: 'refresh', atMs: this.atMs ?? 0, hz: this.single(part, 'A refresh rate') });
        this.take(
          part,
          ...this.parts.filter(
            (one) => one.kind === 'word' && ['panel', 'refresh', 'screen', 'at'].includes(one.word),
          ),
        );
        return;
      case 'MB':
      case 'GB': {
        this.takeWords('memory', 'ram');
        this.load({ memoryMb: this.single(part, 'Memory') * (unit === 'GB' ? 1024 : 1) });
        return this.take(part);
      }
      case 'h':
      case 'min':
      case 's':
        return this.length(part);
    }
    // "~40" of nothing else is a rate
    if (part.roughly && this.atMs === null && this.parts.every((one) => one === part || one.kind === 'sign'))
      return this.rate(part);
    // ">30", "30+" of nothing else is a rate
    if ((part.low === null) !== (part.high === null) && part.value === null && !this.hasPlace())
      return this.rate(part);
    const name = this.named(part, CHIP_WORDS);
    if (name !== null && !this.instrument)
      unclear(
        `Is ${this.said(part)} a load or a temperature? Write ${this.said(part)} % or ${this.said(part)} °${this.book.unit}.`,
      );
    return this.temperature(part);
  }

  /** A bare number counts what its heading, its line or the line before says, where nothing beside it says otherwise. */
  private withSubject(part: Amount): Amount {
    const { subject } = this.book;
    if (subject === null || subject.unit === null || part.unit !== null) return part;
    if (
      this.factName(part) !== null ||
      this.named(part, RATE_WORDS) !== null ||
      this.named(part, CHIP_WORDS) !== null ||
      this.hasPlace()
    )
      return part;
    const full = { ...part, unit: subject.unit };
    this.parts = this.parts.map((one) => (one === part ? full : one));
    return full;
  }

  private said({ at, end }: Part): string {
    return this.text.slice(at, end);
  }

  private takeWords(...names: string[]): void {
    this.take(...this.parts.filter((part) => part.kind === 'word' && names.includes(part.word)));
  }

  /** The one value of an amount that may not be a range. */
  private single(part: Amount, what: string): number {
    if (part.value === null || part.low !== null || part.high !== null)
      unclear(`${what} must be one number here; “${this.said(part)}” is a range.`);
    return part.value!;
  }

  private ends(part: Amount): { low?: number; high?: number } {
    return {
      ...(part.low === null ? {} : { low: Math.max(0, part.low) }),
      ...(part.high === null ? {} : { high: part.high }),
    };
  }

  private rate(part: Amount): void {
    const word = this.named(part, RATE_WORDS);
    if (word !== null && part.unit === null) this.takeNamed(part, word);
    if ((part.value ?? 0) < 0 || (part.high ?? 0) < 0) unclear('A rate cannot be below 0.');
    // "from 60 to 40": at first and in the end
    if (part.falls) {
      const at = (fps: number, atMs: number): EntryLine => ({
        type: 'rate',
        atMs,
        fps,
        by: this.by ?? 'overlay',
        ...(this.scene === undefined ? {} : { scene: this.scene }),
      });
      this.found.push(
        at(part.high!, 0),
        at(part.low!, this.atMs === null || this.atMs === 0 ? AT_THE_END : this.atMs),
      );
      return this.take(part);
    }
    const digits = hiddenDecimals(part);
    // "about" is the eye's where nobody names a counter
    const by = this.by ?? (part.roughly ? 'eye' : 'overlay');
    const said = part.roughly ? about(part, by) : part;
    this.found.push({
      type: 'rate',
      ...(this.atMs === null ? {} : { atMs: this.atMs }),
      ...(part.value === null ? {} : { fps: part.value }),
      ...this.ends(said),
      by,
      ...(this.scene === undefined ? {} : { scene: this.scene }),
      ...(digits === null ? {} : { digits: { fps: digits } }),
    });
    this.take(part);
  }

  private fact(part: Amount, word: string): void {
    const name = word === 'one-percent' ? 'onePercent' : FACTS[word]!;
    const said = name === 'hold' ? 'near median' : word;
    if (this.summary[name] !== undefined) unclear(`“${said}” is twice in this line.`);
    const value = this.single(part, `“${said}”`);
    if (value < 0) unclear(`“${said}” cannot be below 0.`);
    const share = name === 'hold';
    const known = SUMMARY_FACTS.find((one) => one === name);
    if (part.roughly && known) this.doubted.push(known);
    if (share && value > 100) unclear('“Near median” cannot be above 100 %: it is a share of time.');
    this.summary[name] = share
      ? part.unit === '%' || value > 1
        ? Number((value / 100).toPrecision(12))
        : value
      : value;
    const hidden = hiddenDecimals(part);
    if (hidden !== null) this.digits[name] = share ? hidden + 2 : hidden;
    this.takeNamed(part, word);
    this.take(part);
    if (part.unit === null) this.takeWords('fps');
  }

  private percent(part: Amount): void {
    const load = this.named(part, { cpu: 1, gpu: 1 });
    if (load !== null) {
      this.load({ [load]: this.single(part, 'A load') });
      this.takeNamed(part, load);
      return this.take(part);
    }
    if (this.has('speed') || this.has('emulation') || (this.book.subject?.speed && !this.has('battery'))) {
      const digits = hiddenDecimals(part);
      const by = this.by ?? (part.roughly ? 'eye' : 'in-title');
      const said = part.roughly ? about(part, by) : part;
      this.found.push({
        type: 'speed',
        ...(this.atMs === null ? {} : { atMs: this.atMs }),
        ...(part.value === null ? {} : { percent: part.value }),
        ...this.ends(said),
        by,
        ...(this.scene === undefined ? {} : { scene: this.scene }),
        ...(digits === null ? {} : { digits: { percent: digits } }),
      });
      this.takeWords('speed', 'emulation');
      return this.take(part);
    }
    const other = this.parts.find(
      (one) =>
        one.kind === 'word' && ['brightness', 'humidity', 'volume', 'memory', 'ram'].includes(one.word),
    );
    if (other?.kind === 'word')
      unclear(
        `${other.word} cannot be entered here. To set it for the whole run, use Edit on the run’s page.`,
      );
    const named = this.has('battery') || this.has('charge');
    this.takeWords('battery', 'left', 'charge', 'from');
    const charging = this.charging ? { charging: true } : {};
    const holds = (value: number): number =>
      value > 100 || value < 0 ? unclear('Battery percent cannot be above 100.') : value;
    // "100 % to 65 %": at the start and at the end
    if (part.low !== null && part.high !== null && part.value === null && (part.falls || named)) {
      const [from, to] = part.falls ? [part.high, part.low] : [part.low, part.high];
      const end = this.atMs === null || this.atMs === 0 ? AT_THE_END : this.atMs;
      this.found.push({ type: 'battery', atMs: 0, percent: holds(from), ...charging });
      this.found.push({ type: 'battery', atMs: end, percent: holds(to), ...charging });
      return this.take(part);
    }
    const value = holds(this.single(part, 'Battery percent'));
    this.found.push({
      type: 'battery',
      atMs: this.needsTime('Battery percent'),
      percent: value,
      ...charging,
      ...(part.roughly ? { about: true } : {}),
    });
    this.take(part);
  }

  private power(part: Amount): void {
    const peak = this.takeHighest() || (part.value === null && part.high !== null && part.low === null);
    const value =
      part.value === null && part.low === null && part.high !== null ? part.high : this.single(part, 'Power');
    const mw = Number((part.unit === 'W' ? value * 1000 : value).toPrecision(12));
    this.takeWords('from', 'the');
    const word = this.named(part, POWER_WORDS);
    const place = word === null ? null : POWER_WORDS[word]!;
    if (word !== null) this.takeNamed(part, word);
    this.found.push({
      type: 'power',
      ...this.placeOfValue(peak),
      mw,
      ...(place === null ? {} : { of: place }),
    });
    this.takeWords('power', 'draw', 'draws', 'drew', 'pulls', 'pulled', 'uses', 'used');
    this.take(part);
  }

  private load(load: { cpu?: number; gpu?: number; memoryMb?: number }): void {
    const before = this.found.find((one) => one.type === 'load');
    if (before) Object.assign(before, load);
    else this.found.push({ type: 'load', ...placeOf(this.atMs), ...load });
  }

  /** Takes the words for the highest that was seen out of the clause; whether there were any. */
  private takeHighest(): boolean {
    const there = this.parts.filter((part) => part.kind === 'word' && HIGHEST.has(part.word));
    this.take(...there);
    return there.length > 0;
  }

  /** When a value was: at its time, at none, or at its highest at none. */
  private placeOfValue(peak: boolean): { atMs: number; peak?: true; whole?: true } {
    return peak ? { atMs: this.atMs ?? AT_THE_END, peak: true } : placeOf(this.atMs);
  }

  /** "Played 45 min", "length 3 to 4 hours"; in an end page its length. */
  private length(part: Amount): void {
    const word = this.parts.find((one) => one.kind === 'word' && DURATION.has(one.word));
    if (word?.kind !== 'word' && this.found.length > 0)
      unclear(
        `“${this.said(part)}” is not clear. If it is the length of the run, write “played ${this.said(part)}”.`,
      );
    const page = Object.keys(this.summary).length > 0 || this.has('page');
    if (page && part.unit === 'min') this.summary['minutes'] = this.single(part, 'The length');
    else if (part.low !== null && part.high !== null) {
      const [lowMs, highMs] = [msOf(part, part.low), msOf(part, part.high)];
      this.found.push({
        type: 'end',
        atMs: Math.round((lowMs + highMs) / 2),
        reason: 'planned',
        lowMs,
        highMs,
      });
    } else
      this.found.push({
        type: 'end',
        atMs: Math.round(msOf(part, this.single(part, 'The length'))),
        reason: 'planned',
      });
    this.take(part);
    this.takeWords(...DURATION, 'for', 'in');
  }

  private temperature(part: Amount): void {
    const { book } = this;
    const value = this.heat(part);
    const chip = part.unit === null ? null : (this.named(part, CHIP_WORDS) ?? this.inside());
    const scale: TemperatureUnit = part.unit === 'C' || part.unit === 'F' ? part.unit : book.unit;
    const inCelsius = (degrees: number): number =>
      Number(
        (scale === 'F' ? toCelsius(degrees) : degrees).toFixed(
          part.unit === 'F' || book.unit === 'F' ? 2 : 12,
        ),
      );
    const c = inCelsius(value);
    if (chip !== null && !this.instrument) {
      this.found.push({
        type: 'chip',
        ...this.placeOfValue(this.takeHighest() || part.value === null),
        c,
        part: CHIP_WORDS[chip]!,
      });
      this.takeWords(...CHIP_PARTS, 'chip', 'soc', 'inside');
      return this.take(part);
    }
    if (this.has('room') || this.has('ambient'))
      unclear('Room is not a spot on the device. Enter room temperature with the title and device.');
    // the sensor of the battery, at no place of the skin
    if (this.instrument === 'battery sensor' && part.unit !== null && !this.hasPlace()) {
      this.found.push({ type: 'chip', ...this.placeOfValue(this.takeHighest()), c, part: 'battery' });
      return this.take(part);
    }
    const highest = this.takeHighest();
    const range = part.value === null && part.low !== null && part.high !== null;
    const peak = highest || this.atMs === null || part.value === null;
    const spot = this.spotOf(part);
    if (part.unit === null && !this.isSpot(spot))
      unclear(
        `Is ${this.said(part)} a temperature or a rate? Write ${this.said(part)} °${book.unit}, or ${this.said(part)} fps.`,
      );
    if (scale === 'C' && part.unit !== 'C' && c > 70)
      unclear(`${this.said(part)} °C is not possible. If it is Fahrenheit, write ${this.said(part)} F.`);
    this.found.push({
      type: 'skin',
      atMs: this.atMs ?? AT_THE_END,
      spot,
      c,
      by: this.instrument ?? 'infrared',
      ...(peak ? { peak: true } : {}),
      ...(range ? { low: inCelsius(part.low!) } : {}),
      ...(part.roughly && !range ? { about: true } : {}),
    });
    this.take(part);
  }

  private inside(): string | null {
    return this.has('inside') ? (CHIP_PARTS.find((one) => this.has(one)) ?? null) : null;
  }

  /** A temperature may be a range, or what it came up to: its upper end is the peak. */
  private heat(part: Amount): number {
    if (part.value === null && part.high !== null && (this.atMs === null || part.low === null))
      return part.high;
    if (this.atMs === null && part.value === null && part.low !== null) return part.low;
    return this.single(part, 'A temperature');
  }

  private isSpot(spot: string): boolean {
    const name = spot.toLowerCase();
    return (
      (this.book.spots ?? []).some((known) => known.toLowerCase() === name) ||
      name.split(/\s+/).some((word) => BODY.has(word))
    );
  }

  /** The name of the spot: the words before a temperature, or behind the only one. */
  private spotOf(part: Amount): string {
    const i = this.parts.indexOf(part);
    const before: Part[] = [];
    for (
      let back = i - 1;
      back >= 0 &&
      (this.parts[back]!.kind === 'word' ||
        this.parts[back]!.kind === 'quoted' ||
        this.parts[back]!.kind === 'sign');
      back--
    )
      before.unshift(this.parts[back]!);
    let run = trimmed(before);
    if (run.length === 0) {
      const behind: Part[] = [];
      for (const one of this.parts.slice(i + 1)) {
        if (one.kind === 'amount' || one.kind === 'clock') break;
        if (one.kind === 'sign' && behind.some((other) => other.kind !== 'sign')) break;
        behind.push(one);
      }
      // "back 36.5 front 37": what stands behind belongs to the next one
      const next = this.parts[i + 1 + behind.length];
      run = next?.kind === 'amount' ? [] : trimmed(behind);
    }
    if (run.length === 0 && this.spot !== null) return this.spot;
    // one that names its scale is a temperature wherever it was read
    if (run.length === 0 && part.unit !== null) return this.book.subject?.spot ?? ANY_SPOT;
    if (run.length === 0)
      unclear(
        `The spot for ${this.said(part)} is missing. Write, for example, 8:00 back ${this.said(part)}; or add the unit, for example ${this.said(part)} fps.`,
      );
    this.take(...run);
    const [only] = run;
    return run.length === 1 && only?.kind === 'quoted'
      ? only.text
      : this.text.slice(run[0]!.at, run.at(-1)!.end).replace(/\s+/g, ' ');
  }

  /** What nobody has taken: beside a rate it is a place of the title, else a remark; a number that is left is pointed at. */
  private leftovers(): void {
    const left = trimmed(
      this.parts.filter(
        (part) =>
          !(
            part.kind === 'word' &&
            (SAID_ALREADY.has(part.word) ||
              FALLING.has(part.word) ||
              part.word === 'to' ||
              part.word === 'from') &&
            this.found.length > 0
          ),
      ),
    );
    if (left.length === 0) return;
    const text = this.text.slice(left[0]!.at, left.at(-1)!.end);
    if (this.found.length === 0 && this.atMs !== null && !/\d/.test(text))
      unclear(
        `There is no number for “${text}”. Write, for example, ${exactClock(Math.max(0, this.atMs))} ${text} 36.5; unchanged, the line is saved as a note.`,
      );
    // half a day's sign is no place, and a dash, a number or a sign may change what was read
    if (
      this.found.length === 0 ||
      left.some((part) => part.kind !== 'word' && !(part.kind === 'sign' && /[,.;:!()]/.test(part.sign))) ||
      left.some((part) => part.kind === 'word' && NO_REMARK.has(part.word))
    )
      unclear(`“${text}” is not recognised. Remove it, or save the line as a note.`);
    const [first] = left;
    const rate = this.found.find(
      (one) => one.type === 'rate' || one.type === 'speed' || one.type === 'summary',
    );
    const apart = /[,;.]\s*$/.test(this.text.slice(0, left[0]!.at));
    if (
      rate &&
      !apart &&
      'by' in rate &&
      !('scene' in rate) &&
      left.length <= MOST_PLACE_WORDS &&
      first?.kind === 'word' &&
      !REMARK.has(first.word) &&
      left.every((part) => part.kind === 'word')
    )
      Object.assign(rate, { scene: text });
    else this.found.push({ type: 'mark', ...placeOf(this.atMs), kind: 'note', note: text });
  }
}

/** Words that a place of a title has at most. */
const MOST_PLACE_WORDS = 3;
/** Words that make another thing of a number than what was read. */
const NO_REMARK = new Set([
  'am',
  'pm',
  'not',
  'no',
  'lows',
  'brightness',
  'humidity',
  'yesterday',
  'instead',
  'or',
]);

/** Hours after the start that a time of day may lie at most. */
const MOST_HOURS = 16;

export const msOf = ({ unit }: Amount, value: number): number =>
  value * (unit === 'h' ? 3_600_000 : unit === 'min' ? 60_000 : 1000);

/** Parts without signs and filler at their ends. */
function trimmed(parts: Part[]): Part[] {
  const empty = (part: Part | undefined): boolean =>
    part !== undefined && (part.kind === 'sign' || (part.kind === 'word' && FILLER.has(part.word)));
  let [from, to] = [0, parts.length];
  while (empty(parts[from]) && from < to) from++;
  while (to > from && empty(parts[to - 1])) to--;
  return parts.slice(from, to);
}
