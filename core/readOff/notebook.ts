import type { Digits, EntryLine } from '../runFile/lines';
import {
  CHIP_PARTS,
  SPAN_KINDS,
  type ChipPart,
  type PowerPlace,
  type RateSource,
  FEEL_WORDS,
  type FeelWord,
  type SmoothWord,
} from '../vocabulary';
import { exactClock, sayLine } from '../words/sayLine';
import { toCelsius, type TemperatureUnit } from '../words/temperature';
import { about, hiddenDecimals, partsOf, type Amount, type Part } from './amounts';
import { tokensOf } from './tokens';

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

/**
 * Understands readings as they stand in a notebook, one line at a time:
 * `8:00 back 36.5`, `13 min front 106 F`, `100% 0:00`, `10 min about 40 ± 8 fps`,
 * `50–55 fps in the town`, `cpu 24 %`, `end page: average 58.2, hold 97 %`.
 *
 * A number is what the unit or the word beside it says, and nothing else: one
 * that may be two things is pointed at, never guessed. Numbers are told apart
 * in `tokens`, joined with ends, doubt and unit in `amounts`, and taken for
 * what they are here.
 *
 * @param text any number of lines; empty ones and such with # in front are passed over
 * @example
 * readNotebook('8:00 back 36.5', { unit: 'C' })[0].understood; // '8:00: 36.5 °C at back, infrared'
 */
export function readNotebook(text: string, context: PaperContext): PaperLine[] {
  const lines: PaperLine[] = [];
  const book: Book = { ...context, startedMin: context.startedMin ?? null };
  let number = 0;
  for (const raw of text.split(/\r?\n/)) {
    number++;
    const line = raw.trim();
    if (line !== '' && !line.startsWith('#'))
      lines.push({ line: number, text: line, ...understand(line, book) });
  }
  return placed(lines, context);
}

/** What is known from line to line. */
interface Book extends PaperContext {
  startedMin: number | null;
}

/** Values that need a time and have none stand at the end of the run, or at the last time that is written. */
function placed(lines: PaperLine[], { lengthMs, unit }: PaperContext): PaperLine[] {
  const last = (entries: EntryLine[]): number =>
    entries.reduce((most, one) => Math.max(most, (one.type === 'span' ? one.toMs : one.atMs) ?? 0), 0);
  const endMs = lengthMs ?? lines.reduce((most, line) => Math.max(most, last(line.entries)), 0);
  return lines.map((line) => {
    if (!line.entries.some(atTheEnd)) return line;
    const entries = line.entries.map((one) => (atTheEnd(one) ? ({ ...one, atMs: endMs } as EntryLine) : one));
    return { ...line, entries, understood: entries.map((one) => sayLine(one, unit)).join('; ') };
  });
}
const AT_THE_END = -1;
const atTheEnd = (line: EntryLine): boolean => line.type !== 'span' && line.atMs === AT_THE_END;

type Understood = Pick<PaperLine, 'entries' | 'understood' | 'problem'>;

/** A line cannot be taken for one thing. */
class Unclear extends Error {}
const unclear = (problem: string): never => {
  throw new Unclear(problem);
};

function understand(text: string, book: Book): Understood {
  try {
    const { parts, problem } = partsOf(tokensOf(text));
    if (problem) unclear(problem);
    const entries = new Reading(text, parts, book).entries();
    const said = entries.map((one, i) => sayLine(one, book.unit, i === 0));
    return { entries, understood: said.join('; ') || 'the time of day at which it began', problem: null };
  } catch (error) {
    if (!(error instanceof Unclear)) throw error;
    return { entries: [], understood: null, problem: error.message };
  }
}

const words = (text: string): Set<string> => new Set(text.split(' '));
const FILLER = words(
  'at on the after then and was is of temp temperature skin with it a an reading read shows showed says said see seen right now only value',
);
const BODY = words(
  'back front screen grip grips camera hinge left right top bottom middle rear frame edge side vent corner centre center glass lens logo display bezel palm finger body chin',
);
const CHARGING = words('charging charger plugged');
const DURATION = words('played length lasted session total long ran runtime duration');
const RATE_WORDS = words('fps rate framerate');
/** Names of a rate's facts and of what they stand on, of which nothing is left to say once they are taken. */
const SAID_ALREADY = words('page end fps frame rate framerate');
const ONE_PERCENT = new Set(['one-percent']);
const POWER_WORDS: Record<string, PowerPlace> = {
  device: 'device',
  chip: 'chip',
  soc: 'chip',
  cpu: 'chip',
  wall: 'wall',
  socket: 'wall',
  plug: 'wall',
  meter: 'wall',
};
const MARK_WORDS: Record<string, string> = {
  dim: 'dim',
  dims: 'dim',
  dimmed: 'dim',
  freeze: 'freeze',
  freezes: 'freeze',
  froze: 'freeze',
  frozen: 'freeze',
  stutter: 'stutter',
  stutters: 'stutter',
  stuttered: 'stutter',
  glitch: 'glitch',
  glitches: 'glitch',
  glitched: 'glitch',
  moment: 'moment',
  note: 'note',
};
const CRASH = words('crash crashes crashed');
const OFTEN: Record<string, SmoothWord> = {
  never: 'none',
  none: 'none',
  no: 'none',
  smooth: 'none',
  occasional: 'occasional',
  occasionally: 'occasional',
  sometimes: 'occasional',
  rarely: 'occasional',
  'now-and-then': 'occasional',
  often: 'frequent',
  frequent: 'frequent',
  frequently: 'frequent',
  constant: 'constant',
  constantly: 'constant',
  always: 'constant',
};
/** Words beside how it plays, as the player says. */
const PLAYS = words('plays play played playing feels felt feel is it was very game title');
const STUMBLES = words('stumble stumbles stumbled stumbling stutter stutters stuttering');
const FACTS: Record<string, 'average' | 'median' | 'hold' | 'lowest' | 'highest' | 'onePercent'> = {
  average: 'average',
  avg: 'average',
  mean: 'average',
  median: 'median',
  hold: 'hold',
  held: 'hold',
  stability: 'hold',
  stable: 'hold',
  lowest: 'lowest',
  min: 'lowest',
  minimum: 'lowest',
  highest: 'highest',
  max: 'highest',
  maximum: 'highest',
  peak: 'highest',
};
const CHIP_WORDS: Record<string, ChipPart> = {
  cpu: 'cpu',
  gpu: 'gpu',
  battery: 'battery',
  chip: 'cpu',
  soc: 'cpu',
};

/** One line while it is read. */
class Reading {
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

  constructor(
    private readonly text: string,
    parts: Part[],
    private readonly book: Book,
  ) {
    this.parts = parts;
    this.plain = parts.reduce(
      (rest, part) =>
        part.kind === 'quoted'
          ? rest.slice(0, part.at) + ' '.repeat(part.end - part.at) + rest.slice(part.end)
          : rest,
      text,
    );
  }

  entries(): EntryLine[] {
    if (this.startOfDay()) return [];
    this.time();
    if (this.wholeLine()) return this.found;
    this.sources();
    this.amounts();
    this.leftovers();
    if (this.found.length === 0)
      unclear(
        this.atMs === null
          ? 'Nothing in it can be taken for a reading. Write for instance 8:00 back 36.5, 8:00 97 % or 50–55 fps; or put a # in front to keep it as a note.'
          : 'There is a time, but nothing that was read. Write for instance 8:00 back 36.5, 8:00 97 % or 8:00 58 fps.',
      );
    return this.found;
  }

  /** "Started at 14:20": times of day are told by it from here on. */
  private startOfDay(): boolean {
    const first = this.parts[0];
    if (first?.kind !== 'word' || !['start', 'started', 'begin', 'began', 'begun'].includes(first.word))
      return false;
    const clock = this.parts.find((part) => part.kind === 'clock');
    if (
      this.parts.some((part) => part.kind === 'amount') ||
      clock?.kind !== 'clock' ||
      clock.ofDayMin === null
    )
      return false;
    this.book.startedMin = clock.ofDayMin + (this.has('pm') && clock.ofDayMin < 720 ? 720 : 0);
    return true;
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
    if (clocks.length > 1 && !spans && !ends) unclear('There are two times in it. Write a line for each.');
    const clock = clocks[0];
    if (clock) {
      if (Number.isNaN(clock.ms))
        unclear(
          `${this.text.slice(clock.at, clock.end)} is no time: a minute has 60 seconds, an hour 60 minutes.`,
        );
      const [explicit, afternoon] = this.ofDay(clock);
      this.atMs = this.onTheClock(clock, explicit, afternoon);
      this.parts = this.parts.filter((part) => part !== clock);
      return;
    }
    const length = this.parts.some((part) => part.kind === 'word' && DURATION.has(part.word));
    const isTime = (part: Part): part is Amount =>
      part.kind === 'amount' && (part.unit === 'h' || part.unit === 'min' || part.unit === 's');
    const durations = this.parts.filter(isTime);
    if (durations.length === 0 || length || this.isNote()) return;
    const [first, second] = durations as [Amount, Amount?];
    if (first.value === null || first.low !== null)
      unclear('The time is a range. Write one time, or “played 3 to 4 hours” for the length.');
    // "1 h 5 min"
    const joined =
      first.unit === 'h' &&
      second?.unit === 'min' &&
      this.parts.indexOf(second) === this.parts.indexOf(first) + 1
        ? second
        : null;
    if (durations.length > (joined ? 2 : 1)) unclear('There are two times in it. Write a line for each.');
    this.atMs = Math.round(msOf(first, first.value!) + (joined ? msOf(joined, joined.value ?? 0) : 0));
    this.parts = this.parts.filter((part) => part !== first && part !== joined);
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
    if (startedMin === null) {
      if (explicit)
        unclear(
          'It is a time of day. Say in a line of its own when the run began, for instance: started 14:20.',
        );
      return clock.ms;
    }
    const ofDay = clock.ofDayMin === null ? null : clock.ofDayMin + (pm && clock.ofDayMin < 720 ? 720 : 0);
    // after midnight it is a day more
    const since = ofDay === null ? null : (ofDay - startedMin + 1440) % 1440;
    if (since === null || since > MOST_HOURS * 60)
      unclear(
        `${this.text.slice(clock.at, clock.end)} is not within ${MOST_HOURS} hours of the time at which the run began.`,
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
    return (
      this.atMs ??
      unclear(`${what} needs a time, and there is no time in it. Write it like 8:00, 1:05:00 or 13 min.`)
    );
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
      if (scene === '') unclear('The scene has no name. Write for instance 2:00 scene hard track.');
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
      unclear(`It ends at ${exactClock(toMs || 0)}, before it begins at ${exactClock(fromMs)}.`);
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
    if (clocks.length > 0 && clocks.length !== 2)
      unclear('There are two times in it. Write a line for each.');
    this.found.push({
      type: 'end',
      atMs: reason === 'would-not-start' ? (this.atMs ?? 0) : this.needsTime('An end'),
      reason,
      ...(clocks.length === 2 ? { lowMs: clocks[0]!.ms, highMs: clocks[1]!.ms } : {}),
    });
    return true;
  }

  /** A remark at a time: its words stay as they were written. */
  private marked(first: string | null, quoted: string | null): boolean {
    if (first === 'mark') {
      const kind = this.parts.find((part) => part.kind === 'word' && part.word !== 'mark');
      const marks = this.parts.filter((part) => part.kind === 'quoted').map((part) => part.text);
      const named = kind?.kind === 'word' ? kind.word : marks.shift();
      if (named === undefined) unclear('The mark has no kind. Write for instance 8:00 stutter on landing.');
      this.found.push({
        type: 'mark',
        atMs: this.needsTime('A mark'),
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
    const atMs = this.needsTime('A mark');
    if (measured) {
      this.take(word);
      this.found.push({ type: 'mark', atMs, kind });
      return false;
    }
    const note =
      quoted ?? (first === 'note' || first === 'moment' ? this.after(word.word) : this.remark(word.word));
    this.found.push({ type: 'mark', atMs, kind, ...(note === '' ? {} : { note }) });
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
    const [feel, ...others] = said.filter((part) => of(part) !== undefined);
    if (feel === undefined || others.length > 0) return null;
    const beside = said.filter((part) => part !== feel && part.kind !== 'sign');
    if (!beside.every((part) => part.kind === 'word' && PLAYS.has(part.word))) return null;
    return { word: of(feel)!, parts: [feel, ...beside] };
  }

  /** "Stutters now and then", "often stumbles", "stumbles: none". */
  private howOften(): { word: SmoothWord; parts: Part[] } | null {
    const stumbles = this.parts.filter((part) => part.kind === 'word' && STUMBLES.has(part.word));
    const said = this.plain;
    const phrase = /now and then/i.exec(said) ?? /all the time/i.exec(said);
    const often = this.parts.find((part) => part.kind === 'word' && OFTEN[part.word] !== undefined);
    const smooth = often?.kind === 'word' && often.word === 'smooth';
    if (stumbles.length === 0 && !smooth) return null;
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
      unclear(
        'It says two things of how often it stumbles. Write one of: none, occasional, frequent, constant.',
      );
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
        unclear(
          `${part.value} % lows are not kept from a notebook. Leave it out, or write it as a note with # in front.`,
        );
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
      });
      const { average, lowest, highest, onePercent } = this.summary;
      if (average !== undefined && Math.max(lowest ?? 0, onePercent ?? 0) > average)
        unclear('The low is above the average: check which is which.');
      if (lowest !== undefined && highest !== undefined && lowest > highest)
        unclear('The lowest is above the highest.');
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
      if (before.kind === 'word' && !FILLER.has(before.word)) break;
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
    // the peak of a rate says its unit; any other is the hottest
    return named === 'peak' && part.unit !== 'fps' ? null : named;
  }

  private amount(part: Amount): void {
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
    const name = this.named(part, CHIP_WORDS);
    if (name !== null && !this.instrument)
      unclear(
        `Is ${this.said(part)} a load or a temperature? Write ${this.said(part)} % or ${this.said(part)} °${this.book.unit}.`,
      );
    return this.temperature(part);
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
      unclear(`${what} is one number here: “${this.said(part)}” is a range. Write the one that you read.`);
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
    if ((part.value ?? 0) < 0 || (part.high ?? 0) < 0) unclear('A rate is not below 0.');
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
    if (this.summary[name] !== undefined) unclear(`“${word}” stands twice in the line.`);
    const value = this.single(part, `“${word}”`);
    if (value < 0) unclear(`“${word}” is not below 0.`);
    const share = name === 'hold';
    if (share && value > 100) unclear('A hold of more than 100 % cannot be: it is the share of the time.');
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
    if (this.has('speed') || this.has('emulation')) {
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
        `${other.word} is no reading of this page. What holds for the whole run is corrected on its page.`,
      );
    const value = this.single(part, 'A percent of the battery');
    if (value > 100 || value < 0) unclear('A battery holds at most 100 %.');
    this.found.push({
      type: 'battery',
      atMs: this.needsTime('A percent of the battery'),
      percent: value,
      ...(this.charging ? { charging: true } : {}),
    });
    this.takeWords('battery', 'left');
    this.take(part);
  }

  private power(part: Amount): void {
    const value = this.single(part, 'Power');
    const mw = Number((part.unit === 'W' ? value * 1000 : value).toPrecision(12));
    const word = this.named(part, POWER_WORDS);
    const place = word === null ? null : POWER_WORDS[word]!;
    if (word !== null) this.takeNamed(part, word);
    this.found.push({
      type: 'power',
      atMs: this.needsTime('Power'),
      mw,
      ...(place === null ? {} : { of: place }),
    });
    this.takeWords('power', 'draw', 'draws');
    this.take(part);
  }

  private load(load: { cpu?: number; gpu?: number; memoryMb?: number }): void {
    const before = this.found.find((one) => one.type === 'load');
    if (before) Object.assign(before, load);
    else this.found.push({ type: 'load', atMs: this.needsTime('A load'), ...load });
  }

  /** "Played 45 min", "length 3 to 4 hours"; in an end page its length. */
  private length(part: Amount): void {
    const word = this.parts.find((one) => one.kind === 'word' && DURATION.has(one.word));
    if (word?.kind !== 'word')
      unclear(`“${this.said(part)}”: what was so long? Write “played ${this.said(part)}”.`);
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
    const c = Number(
      (scale === 'F' ? toCelsius(value) : value).toFixed(part.unit === 'F' || book.unit === 'F' ? 2 : 12),
    );
    if (chip !== null && !this.instrument) {
      this.found.push({
        type: 'chip',
        atMs: this.needsTime('A temperature inside'),
        c,
        part: CHIP_WORDS[chip]!,
      });
      this.takeWords(...CHIP_PARTS, 'chip', 'soc', 'inside');
      return this.take(part);
    }
    if (this.has('room') || this.has('ambient'))
      unclear('The room is no spot of the device: enter it with what was played.');
    const peak = this.has('peak') || this.has('hottest') || (part.low !== null && part.value === null);
    this.takeWords('peak', 'hottest');
    if (this.atMs === null && !peak)
      unclear(
        `There is no time in it. Write it like 8:00, 1:05:00 or 13 min; or “peak ${this.said(part)}” for the highest that was seen.`,
      );
    const spot = this.spotOf(part);
    if (part.unit === null && !this.isSpot(spot))
      unclear(
        `Is ${this.said(part)} a temperature or a rate? Write ${this.said(part)} °${book.unit}, or ${this.said(part)} fps.`,
      );
    if (scale === 'C' && part.unit !== 'C' && c > 70)
      unclear(`${this.said(part)} °C cannot be. If it is Fahrenheit, write ${this.said(part)} F.`);
    this.found.push({
      type: 'skin',
      atMs: this.atMs ?? AT_THE_END,
      spot,
      c,
      by: this.instrument ?? 'infrared',
      ...(peak ? { peak: true } : {}),
    });
    this.take(part);
  }

  private inside(): string | null {
    return this.has('inside') ? (CHIP_PARTS.find((one) => this.has(one)) ?? null) : null;
  }

  /** A temperature without a time may be a range over the run: its upper end is the peak. */
  private heat(part: Amount): number {
    if (this.atMs === null && part.value === null && part.low !== null && part.high !== null)
      return part.high;
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
    if (run.length === 0)
      unclear(
        `There is no spot for ${this.said(part)}. Write where it was read, for instance 8:00 back ${this.said(part)}; or what it is, for instance ${this.said(part)} fps.`,
      );
    this.take(...run);
    const [only] = run;
    return run.length === 1 && only?.kind === 'quoted'
      ? only.text
      : this.text.slice(run[0]!.at, run.at(-1)!.end).replace(/\s+/g, ' ');
  }

  /** What nobody has taken: filler is passed over, anything else is pointed at. */
  private leftovers(): void {
    const left = trimmed(
      this.parts.filter(
        (part) => !(part.kind === 'word' && SAID_ALREADY.has(part.word) && this.found.length > 0),
      ),
    );
    if (left.length === 0) return;
    const text = this.text.slice(left[0]!.at, left.at(-1)!.end);
    if (this.found.length === 0 && this.atMs !== null && !/\d/.test(text))
      unclear(
        `There is no number for “${text}”. Write for instance ${exactClock(this.atMs)} ${text} 36.5, or put a # in front to keep it as a note.`,
      );
    unclear(`“${text}” is not understood. Leave it out, or write it as a note with # in front.`);
  }
}

/** Hours after the start that a time of day may lie at most. */
const MOST_HOURS = 16;

const msOf = ({ unit }: Amount, value: number): number =>
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
