import type { EntryLine } from '../runFile/lines';
import { exactClock } from '../words/sayLine';
import type { Part } from './amounts';
import { CRASH, FILLER, MARK_WORDS, NUMBER_WORDS, TIMES, TOUCH, TOUCH_CORE, words } from './bookWords';

type Span = Extract<EntryLine, { type: 'span' }>;

/** Where a value stands that has no time: at the end of the run, once that is known. */
export const AT_THE_END = -1;

/** What a line is taken for as a whole: lines of a run, or words for one that only closes another. */
export interface Phrase {
  entries: EntryLine[];
  /** What it says where it makes no line of its own. */
  says?: string;
}

/** What can be switched on and off, by what people call it. */
const SWITCHED: Record<string, string> = {
  cooler: 'cooler',
  cooling: 'cooler',
  fan: 'fan',
  boost: 'boost',
  turbo: 'boost',
  performance: 'boost',
  case: 'case',
  cover: 'case',
  charger: 'charging',
  charging: 'charging',
  charge: 'charging',
  plugged: 'charging',
  unplugged: 'charging',
  cable: 'charging',
  dock: 'docked',
  docked: 'docked',
  undocked: 'docked',
  saver: 'saving',
  saving: 'saving',
  folded: 'folded',
  unfolded: 'folded',
};
const ON = words('on in starts start started begins plugged attached added connected enabled docked');
const OFF = words(
  'off out ends end ended stops stopped stop done removed unplugged detached disconnected disabled undocked unfolded without',
);
const BESIDE = words(
  'switched turned put took taken mode battery power now again from at the a is was by after back i clip-on with',
);

/**
 * A switch that is moved: "12:00 cooler on", "charger off 2:30", "cooler from
 * 12:00 to 20:00". One that is switched on stays on until a line says
 * otherwise, one that is switched off was on from the start or from the line before.
 *
 * @param times times of the line, ms
 * @param open spans that are still on, by kind; changed here
 */
export function switchOf(parts: Part[], times: number[], open: Map<string, Span>): Phrase | null {
  const said = parts.filter(
    (part) => part.kind !== 'sign' && part.kind !== 'clock' && part.kind !== 'amount',
  );
  const names = said.map((part) => (part.kind === 'word' ? part.word : ''));
  const kinds = new Set(names.flatMap((name) => SWITCHED[name] ?? []));
  const [kind] = kinds;
  if (kind === undefined || kinds.size > 1 || times.length === 0 || times.length > 2) return null;
  if (
    !names.every(
      (name) => SWITCHED[name] || ON.has(name) || OFF.has(name) || BESIDE.has(name) || RANGE.has(name),
    )
  )
    return null;
  if (times.length === 2) {
    const [fromMs, toMs] = [...times].sort((a, b) => a - b) as [number, number];
    return { entries: [{ type: 'span', fromMs, toMs, kind }] };
  }
  const at = times[0]!;
  const off = names.some((name) => OFF.has(name));
  if (!off && names.some((name) => RANGE.has(name))) return null;
  if (!off) {
    const span: Span = { type: 'span', fromMs: at, toMs: AT_THE_END, kind };
    open.set(kind, span);
    return { entries: [span] };
  }
  const before = open.get(kind);
  open.delete(kind);
  if (!before || before.fromMs > at) return { entries: [{ type: 'span', fromMs: 0, toMs: at, kind }] };
  before.toMs = at;
  return {
    entries: [],
    says: `${exactClock(at)}: ${kind} ends, which began at ${exactClock(before.fromMs)}`,
  };
}
const RANGE = words('to until till between and');

/**
 * How warm it is to the hand: "barely warm", "warm, not hot". Warmth of its own
 * kind: it is kept in its words and stands in no series.
 *
 * @param atMs null where no time is written
 */
export function touchOf(parts: Part[], text: string, atMs: number | null): Phrase | null {
  const said = parts.filter((part) => part.kind !== 'sign' && part.kind !== 'clock');
  if (said.some((part) => part.kind === 'quoted')) return null;
  const names = said.flatMap((part) => (part.kind === 'word' ? [part.word] : []));
  if (
    !names.some((name) => TOUCH_CORE.has(name)) ||
    !names.every((name) => TOUCH.has(name) || FILLER.has(name))
  )
    return null;
  // what only leads to the time is no part of it
  const told = said.filter((part) => part.kind === 'word');
  while (told.length > 1 && LEADS.has((told.at(-1) as { word: string }).word)) told.pop();
  const note = text.slice(told[0]!.at, told.at(-1)!.end).trim();
  return { entries: [{ type: 'mark', ...placeOf(atMs), kind: 'warmth', note }] };
}

const LEADS = words('at after by in from around');

/** "Froze twice", "3 stutters", "crashed once": as many marks, at a time or of the whole run. */
export function countedOf(parts: Part[], text: string, atMs: number | null): Phrase | null {
  const said = parts.filter((part) => part.kind !== 'sign' && part.kind !== 'clock');
  const kindOf = (part: Part): string | null =>
    part.kind !== 'word' ? null : CRASH.has(part.word) ? 'crash' : (MARK_WORDS[part.word] ?? null);
  const [named, ...others] = said.filter((part) => kindOf(part) !== null);
  if (!named || others.length > 0) return null;
  const kind = kindOf(named)!;
  const i = said.indexOf(named);
  const before = said[i - 1];
  const times = said.find((part) => part.kind === 'word' && TIMES[part.word] !== undefined);
  const spoken = said.find(
    (part, at) =>
      part.kind === 'amount' &&
      part.unit === null &&
      said[at + 1]?.kind === 'word' &&
      (said[at + 1] as { word: string }).word === 'times',
  );
  const number =
    times?.kind === 'word'
      ? TIMES[times.word]!
      : spoken?.kind === 'amount'
        ? spoken.value
        : before?.kind === 'amount' && before.unit === null
          ? before.value
          : before?.kind === 'word'
            ? (NUMBER_WORDS[before.word] ?? null)
            : null;
  if (number === null || !Number.isInteger(number) || number < 1 || number > MOST_COUNTED) return null;
  const taken = new Set<Part | undefined>([
    named,
    times,
    spoken,
    number !== null && i > 0 ? before : undefined,
  ]);
  const rest = said.filter(
    (part) =>
      !taken.has(part) &&
      !(part.kind === 'word' && (FILLER.has(part.word) || part.word === 'times' || part.word === 'in')),
  );
  if (rest.some((part) => part.kind === 'amount')) return null;
  const note = rest.length === 0 ? undefined : text.slice(said[0]!.at, said.at(-1)!.end).trim();
  return {
    entries: Array.from({ length: number }, () => ({
      type: 'mark' as const,
      ...placeOf(atMs),
      kind,
      ...(note === undefined ? {} : { note }),
    })),
  };
}
/** More than this of one kind nobody counts. */
const MOST_COUNTED = 50;

/** Of a line without a time: of the whole run. */
export const placeOf = (atMs: number | null): { atMs: number; whole?: true } =>
  atMs === null ? { atMs: AT_THE_END, whole: true } : { atMs };

const LOADS = words('load loads loaded loading boot boots booted');

/** "Loads in 12 s", "load time 12 s". */
export function loadOf(parts: Part[], text: string): Phrase | null {
  const said = parts.filter((part) => part.kind !== 'sign');
  const amounts = said.filter((part) => part.kind === 'amount');
  const clock = said.find((part) => part.kind === 'clock');
  const [amount] = amounts;
  const names = said.flatMap((part) => (part.kind === 'word' ? [part.word] : []));
  if (amounts.length !== 1 || amount?.kind !== 'amount' || (amount.unit !== 's' && amount.unit !== 'min'))
    return null;
  if (
    !names.some((name) => LOADS.has(name)) ||
    !names.every((name) => LOADS.has(name) || BESIDE_LOAD.has(name))
  )
    return null;
  return {
    entries: [
      {
        type: 'mark',
        atMs: clock?.kind === 'clock' ? clock.ms : 0,
        kind: 'load',
        note: text.slice(amount.at, amount.end),
      },
    ],
  };
}
const BESIDE_LOAD = words(
  'in time takes took after to the game title it level screen up for of within is was',
);
