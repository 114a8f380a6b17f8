import { SPAN_KINDS } from '../vocabulary';
import type { Amount, Part } from './amounts';
import { AT_THE_END } from './bookPhrases';
import { BODY, DURATION, FALLING, words } from './bookWords';

/** Phrases that stand for a time: the start and the end of the run. The longer first. */
const START = [
  'from the start',
  'at the very start',
  'at the start',
  'at the beginning',
  'in the beginning',
  'at start',
  'at first',
  'to start',
  'starts out at',
  'starts off at',
  'starts at',
  'starts with',
  'started at',
  'started with',
  'begins at',
  'began at',
  'initially',
  'starting at',
];
const END = [
  'at the very end',
  'at the end',
  'by the end',
  'in the end',
  'towards the end',
  'at end',
  'ends at',
  'ended at',
  'ended on',
  'ends on',
  'ends with',
  'ending at',
  'finished at',
  'finishes at',
  'finally',
  'left at the end',
  'left',
];
/** The end too, where no other time stands in the clause. */
const SOON = ['after that', 'from then on', 'later on', 'later', 'afterwards', 'then'];
/** Said of all of it: nothing that a value without a time does not say. */
const ALL = [
  'for the whole run',
  'the whole run',
  'the whole time',
  'the whole session',
  'the whole way',
  'most of the time',
  'all the way',
  'all along',
  'throughout',
  'overall',
  'in general',
  'generally',
  'mostly',
  'usually',
  'i think',
  'i guess',
  'or so',
  'in all',
  'locked at',
  'locked to',
  'locked',
  'solid',
  'steady',
  'hovers around',
  'hovering around',
  'hovers at',
  'sits at',
  'stays at',
  'stayed at',
  'runs at',
  'ran at',
  'holds at',
];
const ROUGH = new Set(['hovers around', 'hovering around', 'or so']);

/** A clause of a line: one time at most. */
export interface Clause {
  parts: Part[];
  /** It lasted until its time: "first ten minutes 60". */
  until: boolean;
}

const isWord = (part: Part | undefined, ...names: string[]): boolean =>
  part?.kind === 'word' && names.includes(part.word);

/** Finds a phrase at a place of the parts; how many it takes. */
function phraseAt(parts: Part[], i: number, phrases: string[]): { phrase: string; taken: number } | null {
  for (const phrase of phrases) {
    const names = phrase.split(' ');
    if (names.every((name, k) => isWord(parts[i + k], name))) return { phrase, taken: names.length };
  }
  return null;
}

const isTimeAmount = (part: Part | undefined): part is Amount =>
  part?.kind === 'amount' && (part.unit === 'h' || part.unit === 'min' || part.unit === 's');

/**
 * Puts times in the place of phrases that mean one ("at the start", "minute 8",
 * "by the end"), takes out those that say nothing, and names others as a
 * notebook does ("near the median" is the hold).
 */
export function withPhrases(parts: Part[]): Part[] {
  const said: Part[] = [];
  const has = (...names: string[]): boolean => parts.some((part) => isWord(part, ...names));
  const quiet =
    has('stutters', 'stutter', 'stumbles', 'hitches', 'stuttering') || (has('started') && parts.length <= 3);
  for (let i = 0; i < parts.length; i++) {
    const part = parts[i]!;
    const whole = (taken: number): { at: number; end: number } => ({
      at: part.at,
      end: parts[i + taken - 1]!.end,
    });
    const clock = (ms: number, taken: number): Part => ({
      kind: 'clock',
      ms,
      ofDayMin: null,
      fixed: true,
      ...whole(taken),
    });
    // "started at 14:20" is a time of day, "started at 60" a value
    const start = phraseAt(parts, i, START);
    if (start && parts[i + start.taken]?.kind !== 'clock') {
      said.push(clock(0, start.taken));
      i += start.taken - 1;
      continue;
    }
    const end = phraseAt(parts, i, END);
    if (end && !(end.phrase === 'left' && isSide(parts, i)) && parts[i + end.taken]?.kind !== 'clock') {
      said.push(clock(AT_THE_END, end.taken));
      i += end.taken - 1;
      continue;
    }
    const all = quiet ? null : phraseAt(parts, i, ALL);
    if (all) {
      const near = ROUGH.has(all.phrase) ? (parts[i + all.taken] ?? null) : null;
      if (near?.kind === 'amount') parts[i + all.taken] = { ...near, roughly: true };
      else if (ROUGH.has(all.phrase) && said.at(-1)?.kind === 'amount')
        said.push({ ...(said.pop() as Amount), roughly: true });
      i += all.taken - 1;
      continue;
    }
    const median = phraseAt(parts, i, [
      'near the median',
      'near median',
      'around the median',
      'of the median',
    ]);
    if (median) {
      said.push({ kind: 'word', word: 'hold', ...whole(median.taken) });
      i += median.taken - 1;
      continue;
    }
    // "drops to 45": without a time and beside another rate it is the lowest
    if (part.kind === 'word' && (FALLING.has(part.word) || LOWS.has(part.word))) {
      const lowest =
        LOWS.has(part.word) ||
        (timesOf(parts).length === 0 && parts.filter((one) => one.kind === 'amount').length > 1);
      said.push(lowest ? { ...part, word: 'lowest' } : part);
      while (
        isWord(parts[i + 1], 'down', 'to', 'from') ||
        (parts[i + 1]?.kind === 'word' && FALLING.has((parts[i + 1] as { word: string }).word))
      )
        i++;
      continue;
    }
    // "minute 8", "min 8"; "min 41 max 60" is a lowest
    const next = parts[i + 1];
    if (
      isWord(part, 'minute', 'min') &&
      next?.kind === 'amount' &&
      next.unit === null &&
      next.value !== null &&
      parts[i - 1]?.kind !== 'amount' &&
      !has('max', 'avg', 'average', 'highest', 'maximum', 'median')
    ) {
      said.push({ ...next, unit: 'min', ...whole(2) });
      i++;
      continue;
    }
    said.push(part);
  }
  return said;
}

const LOWS = words('dip dips dipped dipping');

/** "Left" beside a temperature is a place of the body. */
const isSide = (parts: Part[], i: number): boolean =>
  !parts.some((part) => part.kind === 'amount' && part.unit === '%') ||
  [parts[i - 1], parts[i + 1]].some((part) => part?.kind === 'word' && BODY.has(part.word));

/** Lines in which two times belong together. */
const TOGETHER = words('until till between');

/**
 * Parts a line into clauses with one time each: "first ten minutes 60, then 40",
 * "0:00 100 %, 30:00 81 %", "51-55 at 5:00, 30 at 25:00". A clause without one
 * belongs to the one before.
 */
export function clausesOf(parts: Part[]): Clause[] {
  const times = timesOf(parts);
  const whole: Clause[] = [{ parts, until: times.some((one) => one.until) }];
  const later = parts.some((_, i) => phraseAt(parts, i, SOON) !== null);
  if (times.length + (later ? 1 : 0) < 2) {
    // "60 until 12:00" of a rate: it lasted until then
    return times.length === 1 ? [{ parts: without(parts, times[0]!), until: times[0]!.until }] : whole;
  }
  if (times.length === 2 && parts.some((part) => part.kind === 'word' && SPAN_KINDS.includes(part.word)))
    return whole;
  if (parts.some((part) => part.kind === 'word' && TOGETHER.has(part.word)) && !later) {
    const untils = times.filter((one) => one.until).length;
    if (untils === 0 || times.length === 2) return whole;
  }
  const segments = split(parts, (part) => isBreak(part));
  const counted = segments.map((segment) => timesOf(segment).length);
  let groups: Part[][];
  if (counted.every((count) => count <= 1) && segments.length > 1) {
    groups = [];
    segments.forEach((segment, i) => {
      const soon = counted[i] === 0 && segment.some((_, k) => phraseAt(segment, k, SOON) !== null);
      if (counted[i]! > 0 || soon || groups.length === 0) groups.push(segment);
      else groups.at(-1)!.push(...segment);
    });
    // what stands before the first time belongs to it
    if (
      groups.length > 1 &&
      timesOf(groups[0]!).length === 0 &&
      !groups[0]!.some((part) => part.kind === 'amount')
    )
      groups.splice(0, 2, [...groups[0]!, ...groups[1]!]);
  } else groups = byTimes(parts, times);
  return groups
    .filter((group) => group.some((part) => part.kind !== 'sign'))
    .map((group, i) => {
      const own = timesOf(group);
      const [time] = own;
      if (time) return { parts: without(group, time), until: time.until };
      // "then 40"
      const at = group.findIndex((_, k) => phraseAt(group, k, SOON) !== null);
      // "60, then 45 after 20 min": before anything else it was 60
      if (at < 0 && i === 0 && parts.some((part) => isWord(part, 'then', 'later')))
        return {
          parts: [
            { kind: 'clock', ms: 0, ofDayMin: null, fixed: true, at: group[0]!.at, end: group[0]!.at },
            ...group,
          ],
          until: false,
        };
      if (at < 0) return { parts: group, until: false };
      const { taken } = phraseAt(group, at, SOON)!;
      const place = { at: group[at]!.at, end: group[at + taken - 1]!.end };
      return {
        parts: group.toSpliced(at, taken, {
          kind: 'clock',
          ms: AT_THE_END,
          ofDayMin: null,
          fixed: true,
          ...place,
        }),
        until: false,
      };
    });
}

interface TimeRef {
  from: number;
  to: number;
  until: boolean;
}

const isBreak = (part: Part): boolean =>
  (part.kind === 'sign' && /[,;/→|]/.test(part.sign)) || isWord(part, 'then', 'and', 'but');

/** Where times stand: clocks, and lengths that are times. */
function timesOf(parts: Part[]): TimeRef[] {
  if (parts.some((part) => part.kind === 'word' && DURATION.has(part.word))) return clocks(parts);
  const found: TimeRef[] = [];
  for (let i = 0; i < parts.length; i++) {
    const part = parts[i]!;
    if (part.kind !== 'clock' && !isTimeAmount(part)) continue;
    if (part.kind === 'amount' && (part.value === null || (part.unit === 's' && isFor(parts, i)))) continue;
    // "1 h 5 min" is one
    let to = i;
    while (
      part.kind === 'amount' &&
      isTimeAmount(parts[to + 1]) &&
      ORDER.indexOf((parts[to + 1] as Amount).unit!) > ORDER.indexOf((parts[to] as Amount).unit!)
    )
      to++;
    const before = parts[i - 1];
    const first = isWord(before, 'first') || (isWord(before, 'the') && isWord(parts[i - 2], 'first'));
    found.push({
      from: i,
      to,
      until: first || isWord(before, 'until', 'till') || (isWord(before, 'for') && part.kind === 'amount'),
    });
    i = to;
  }
  return found;
}
const ORDER = ['h', 'min', 's'];
/** "Froze for 2 s": how long, not when. */
const isFor = (parts: Part[], i: number): boolean =>
  isWord(parts[i - 1], 'for') ||
  parts.some((part) =>
    isWord(part, 'froze', 'freeze', 'freezes', 'frozen', 'hung', 'hang', 'loads', 'load', 'loading'),
  );

const clocks = (parts: Part[]): TimeRef[] =>
  parts.flatMap((part, i) =>
    part.kind === 'clock' ? [{ from: i, to: i, until: isWord(parts[i - 1], 'until', 'till') }] : [],
  );

/** Without the words that only lead to the time. */
function without(parts: Part[], { from, until }: TimeRef): Part[] {
  let lead = from;
  while (
    lead > 0 &&
    isWord(parts[lead - 1], ...(until ? ['first', 'the', 'for', 'until', 'till', 'in'] : LEADING))
  )
    lead--;
  return parts.filter((_, i) => i < lead || i >= from);
}

const LEADING = ['after', 'by', 'around', 'about', 'from', 'at', 'in'];

function split(parts: Part[], breaks: (part: Part) => boolean): Part[][] {
  const segments: Part[][] = [[]];
  for (const part of parts)
    if (breaks(part) && segments.at(-1)!.length > 0) segments.push(isWord(part, 'then') ? [part] : []);
    else segments.at(-1)!.push(part);
  return segments.filter((segment) => segment.length > 0);
}

/** Without breaks between them each time begins a clause, or, where the last thing is a time, ends one. */
function byTimes(parts: Part[], times: TimeRef[]): Part[][] {
  const ends = times.at(-1)!.to === parts.length - 1 && times[0]!.from > 0;
  const cuts = ends ? times.map((one) => one.to + 1) : times.map((one) => one.from);
  const groups: Part[][] = [];
  let from = 0;
  for (const cut of ends ? cuts : [...cuts.slice(1), parts.length]) {
    groups.push(parts.slice(from, cut));
    from = cut;
  }
  return groups;
}
