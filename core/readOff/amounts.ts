import { decimalsOf } from '../runFile/parseLine';
import type { RateSource } from '../vocabulary';
import { FALLING, NUMBER_WORDS, words } from './bookWords';
import { ABOUT_LEAST, ABOUT_SHARE } from './ends';
import type { Token } from './tokens';

/** What a number counts, where that stands beside it. */
export type Unit = 'fps' | '%' | 'C' | 'F' | '°' | 'W' | 'mW' | 'Hz' | 'MB' | 'GB' | 'h' | 'min' | 's';

/** A number with all that belongs to it: its ends, its doubt, its unit. */
export interface Amount {
  kind: 'amount';
  value: number | null;
  decimals: number;
  low: number | null;
  high: number | null;
  /** "About". */
  roughly: boolean;
  /** Its ends stand as they came, the higher first: "from 100 to 65 %". */
  falls?: boolean;
  unit: Unit | null;
  at: number;
  end: number;
}

export type Part = Exclude<Token, { kind: 'number' }> | Amount;

const UNITS: Record<string, Unit> = {
  fps: 'fps',
  frames: 'fps',
  frame: 'fps',
  c: 'C',
  celsius: 'C',
  f: 'F',
  fahrenheit: 'F',
  degrees: '°',
  degree: '°',
  deg: '°',
  w: 'W',
  watt: 'W',
  watts: 'W',
  mw: 'mW',
  hz: 'Hz',
  mb: 'MB',
  gb: 'GB',
  percent: '%',
  h: 'h',
  hr: 'h',
  hrs: 'h',
  hour: 'h',
  hours: 'h',
  min: 'min',
  mins: 'min',
  minute: 'min',
  minutes: 'min',
  m: 'min',
  s: 's',
  sec: 's',
  secs: 's',
  second: 's',
  seconds: 's',
};
/**
 * An amount that was written as "about", with its ends: of a counter or a tool
 * it stays the counter's; by eye it is as wide as the eye's.
 *
 * @source docs/method.md, "Read off, not logged"
 * @example
 * about({ kind: 'amount', value: 58, decimals: 0, low: null, high: null, roughly: true, unit: 'fps', at: 0, end: 8 }, 'tool').high; // 60.9
 */
export function about(amount: Amount, by: RateSource): Amount {
  const { value, low, high } = amount;
  if (value === null || low !== null || high !== null || by === 'eye') return amount;
  const spread = Math.max(ABOUT_LEAST, ABOUT_SHARE * value);
  const end = (at: number): number => Number(at.toPrecision(12));
  return { ...amount, low: end(Math.max(0, value - spread)), high: end(value + spread) };
}

const ROUGHLY = new Set([
  'about',
  'around',
  'roughly',
  'maybe',
  'circa',
  'ca',
  'approximately',
  'approx',
  'some',
  'nearly',
  'almost',
]);
/** How far behind a number that is a word its unit may stand: "three to four hours". */
const UNIT_WITHIN = 3;
/** "About ten" and more may be a value; below that it counts something else. */
const LEAST_DOUBTED = 10;
/** Beside one of them "min" is the lowest. */
const OTHER_FACTS = words('avg average mean max maximum median highest');
/** Words before a number, of which it is an end. */
const BOUNDS: [phrase: string, bound: 'low' | 'high' | 'both'][] = [
  ['up to', 'high'],
  ['at most', 'high'],
  ['less than', 'high'],
  ['under', 'high'],
  ['below', 'high'],
  ['at least', 'low'],
  ['more than', 'low'],
  ['over', 'low'],
  ['above', 'low'],
  ['between', 'both'],
];

/**
 * Joins numbers with what belongs to them: "40 ± 8", "50 to 55", "up to 60",
 * "52 (50 to 55)", "about", and the unit behind.
 *
 * @returns the parts in their order; null where a spread stands without a value
 */
export function partsOf(tokens: Token[]): { parts: Part[]; problem: string | null } {
  const parts: Part[] = [];
  let problem: string | null = null;
  let i = 0;
  const facts = tokens.some((token) => token.kind === 'word' && OTHER_FACTS.has(token.word));
  const falling = tokens.some(
    (token) => token.kind === 'word' && (FALLING.has(token.word) || token.word === 'from'),
  );
  const word = (at: number): string | null => {
    const token = tokens[at];
    return token?.kind === 'word' ? token.word : null;
  };
  const sign = (at: number): string | null => {
    const token = tokens[at];
    return token?.kind === 'sign' ? token.sign : null;
  };
  /** A number, or one that is a word before hours: "three to four hours". */
  const number = (at: number): { value: number; decimals: number; at: number; end: number } | null => {
    const token = tokens[at];
    if (token?.kind === 'number') return token;
    if (token?.kind !== 'word' || NUMBER_WORDS[token.word] === undefined) return null;
    const near = Array.from({ length: UNIT_WITHIN }, (_, ahead) => word(at + ahead + 1) ?? '');
    const counts = near.some((name, ahead) => {
      const unit = UNITS[name];
      return unit !== undefined && name.length > 1 && (unit === 'h' || ahead === 0);
    });
    // "around forty"; "around one of them" counts nothing
    const doubted = ROUGHLY.has(word(at - 1) ?? '') && NUMBER_WORDS[token.word]! >= LEAST_DOUBTED;
    return counts || doubted || sign(at + 1) === '%'
      ? { value: NUMBER_WORDS[token.word]!, decimals: 0, at: token.at, end: token.end }
      : null;
  };
  const isRange = (at: number): boolean =>
    /^[-–—−→]$/.test(sign(at) ?? '') || word(at) === 'to' || word(at) === 'and';
  /** A unit at a place: how many tokens it takes. */
  const unitAt = (at: number): { unit: Unit; taken: number } | null => {
    if (sign(at) === '%') return { unit: '%', taken: 1 };
    if (/^['′’]$/.test(sign(at) ?? '')) return { unit: 'min', taken: 1 };
    // "avg 58 min 41": the lowest
    if (word(at) === 'min' && tokens[at + 1]?.kind === 'number' && facts) return null;
    if (sign(at) === '°') {
      const scale = UNITS[word(at + 1) ?? ''];
      return scale === 'C' || scale === 'F' ? { unit: scale, taken: 2 } : { unit: '°', taken: 1 };
    }
    const unit = UNITS[word(at) ?? ''];
    if (unit === undefined) return null;
    if (unit === '°') {
      const scale = UNITS[word(at + 1) ?? ''];
      if (scale === 'C' || scale === 'F') return { unit: scale, taken: 2 };
    }
    // "frames per second"
    return { unit, taken: unit === 'fps' && word(at + 1) === 'per' && word(at + 2) === 'second' ? 3 : 1 };
  };
  while (i < tokens.length) {
    const start = tokens[i]!;
    let at = i;
    let roughly = false;
    while (ROUGHLY.has(word(at) ?? '') || ['~', '≈'].includes(sign(at) ?? '')) {
      roughly = true;
      at++;
    }
    let bound: 'low' | 'high' | 'both' | null = null;
    for (const [phrase, end] of BOUNDS) {
      const names = phrase.split(' ');
      if (bound !== null || !names.every((name, ahead) => word(at + ahead) === name)) continue;
      bound = end;
      at += names.length;
    }
    if (bound === null && /^[<>≤≥]$/.test(sign(at) ?? '')) {
      bound = /[<≤]/.test(sign(at)!) ? 'high' : 'low';
      at += sign(at + 1) === '=' ? 2 : 1;
    }
    const first = number(at);
    if (!first) {
      if (start.kind === 'sign' && start.sign === '±')
        problem ??= 'The ± value has no reading before it. Write, for example, 40 ± 8 fps.';
      if (start.kind !== 'number') parts.push(start);
      i++;
      continue;
    }
    at++;
    const amount: Amount = {
      kind: 'amount',
      value: first.value,
      decimals: first.decimals,
      low: null,
      high: null,
      roughly,
      unit: null,
      at: start.at,
      end: first.end,
    };
    const early = unitAt(at);
    // "38 °C to 40 °C": the unit may stand twice
    const behind = early && !(early.unit === 'min' && word(at) === 'm') ? early.taken : 0;
    const second = isRange(at)
      ? number(at + 1)
      : isRange(at + behind) && behind > 0
        ? number(at + behind + 1)
        : null;
    const between = word(at) === 'and' || (behind > 0 && word(at + behind) === 'and');
    if (sign(at) === '±' || sign(at + behind) === '±') {
      const from = sign(at) === '±' ? at : at + behind;
      const spread = number(from + 1);
      if (!spread) problem ??= 'There is no number after ±.';
      else {
        amount.low = tidy(first.value - spread.value, first.decimals, spread.decimals);
        amount.high = tidy(first.value + spread.value, first.decimals, spread.decimals);
        amount.end = spread.end;
      }
      if (from !== at) amount.unit = early!.unit;
      at = from + (spread ? 2 : 1);
    } else if (second && (!between || bound === 'both')) {
      amount.value = null;
      amount.low = first.value;
      amount.high = second.value;
      amount.end = second.end;
      at = isRange(at) ? at + 2 : at + behind + 2;
    } else if (sign(at) === '(') {
      const inner = endsInside(at + 1);
      if (inner) {
        amount.low = inner.low;
        amount.high = inner.high;
        at = inner.next;
      }
    }
    if (bound === null && amount.low === null && endsOpen(at)) {
      bound = word(at + 1) === 'less' ? 'high' : 'low';
      at += sign(at) === '+' ? 1 : 2;
    }
    if (word(at) === 'ish' || (sign(at) === '-' && word(at + 1) === 'ish')) {
      amount.roughly = true;
      at += word(at) === 'ish' ? 1 : 2;
    }
    if (bound === 'high' && amount.high === null) [amount.value, amount.high] = [null, first.value];
    if (bound === 'low' && amount.low === null) [amount.value, amount.low] = [null, first.value];
    const unit = unitAt(at);
    if (unit) {
      amount.unit = unit.unit;
      at += unit.taken;
      // "40 fps ± 8"
      const spread = sign(at) === '±' ? number(at + 1) : null;
      if (spread && amount.value !== null && amount.low === null) {
        amount.low = tidy(amount.value - spread.value, first.decimals, spread.decimals);
        amount.high = tidy(amount.value + spread.value, first.decimals, spread.decimals);
        at += 2;
      }
      // "30 fps+", "30 fps or more"
      if (amount.value !== null && amount.low === null && endsOpen(at)) {
        [amount.value, amount[word(at + 1) === 'less' ? 'high' : 'low']] = [null, amount.value];
        at += sign(at) === '+' ? 1 : 2;
      }
    }
    amount.end = tokens[at - 1]!.end;
    if (amount.low !== null && amount.high !== null && amount.low > amount.high) {
      // a battery goes down, and so does what is said to fall
      if (
        amount.unit === '%' ||
        falling ||
        tokens.some((token) => token.kind === 'sign' && token.sign === '→')
      )
        Object.assign(amount, { low: amount.high, high: amount.low, falls: true });
      else problem ??= `${amount.low} to ${amount.high}: write the lower number first.`;
    }
    parts.push(amount);
    i = at;
  }
  return { parts, problem };

  /** "30+", "30 or more", "60 or less". */
  function endsOpen(at: number): boolean {
    if (sign(at) === '+') return !number(at + 1);
    return word(at) === 'or' && ['more', 'less', 'better', 'above'].includes(word(at + 1) ?? '');
  }

  /** "50 to 55)", "up to 55)" or "at least 50)" behind a bracket. */
  function endsInside(at: number): { low: number | null; high: number | null; next: number } | null {
    const bounded =
      word(at) === 'up' && word(at + 1) === 'to'
        ? 'high'
        : word(at) === 'at' && word(at + 1) === 'least'
          ? 'low'
          : null;
    if (bounded) {
      const end = number(at + 2);
      if (!end || sign(at + 3) !== ')') return null;
      return { low: null, high: null, [bounded]: end.value, next: at + 4 };
    }
    const [low, high] = [number(at), number(at + 2)];
    return low && high && isRange(at + 1) && sign(at + 3) === ')'
      ? { low: low.value, high: high.value, next: at + 4 }
      : null;
  }
}

/** A sum of written numbers has as many decimals as they have. */
const tidy = (value: number, a: number, b: number): number => Number(value.toFixed(Math.max(a, b)));

/** Decimals that were written and that the number does not show. */
export const hiddenDecimals = ({ value, decimals }: Amount): number | null =>
  value !== null && decimals !== decimalsOf(String(value)) ? decimals : null;
