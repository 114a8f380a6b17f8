import type { Digits } from './lines';

/** Kinds of line whose digits say how exactly something was read. */
const READ_OFF = new Set(['rate', 'summary', 'speed']);

/**
 * Parses one line of a run file. A number loses its zeros when it is parsed,
 * and 58.0 was read more exactly than 58: of what was read off, the decimals
 * are kept beside the numbers that do not show them.
 *
 * @throws SyntaxError where the text is no JSON
 * @source docs/method.md, "Read off": half a unit of the last written digit
 * @example
 * parseLine('{"type":"rate","fps":58.0,"by":"overlay"}'); // { type: 'rate', fps: 58, by: 'overlay', digits: { fps: 1 } }
 */
export function parseLine(text: string): unknown {
  const value: unknown = JSON.parse(text);
  if (typeof value !== 'object' || value === null || !('type' in value)) return value;
  if (typeof value.type !== 'string' || !READ_OFF.has(value.type)) return value;
  const digits = hiddenDigits(text);
  return Object.keys(digits).length === 0 ? value : { digits, ...value };
}

/** Strings, numbers and signs of a JSON text. */
const TOKENS = /"(?:[^"\\]|\\.)*"|-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?|[{}[\],:]/g;

/** Decimals of the numbers of the outer object that lost some when they were parsed. */
function hiddenDigits(text: string): Digits {
  const digits: Digits = {};
  let depth = 0;
  let key = '';
  let before = '';
  for (const [token] of text.matchAll(TOKENS)) {
    if (token === '{' || token === '[') depth++;
    else if (token === '}' || token === ']') depth--;
    else if (token === ':') key = before;
    else if (depth === 1 && /^[-\d]/.test(token)) {
      const written = decimalsOf(token);
      if (written !== decimalsOf(String(Number(token)))) digits[JSON.parse(key) as string] = written;
    }
    before = token;
  }
  return digits;
}

/**
 * Decimals of a number as it is written; below zero where its last digit counts tens.
 *
 * @example
 * decimalsOf('58.0'); // 1
 * decimalsOf('6e1'); // -1
 */
export function decimalsOf(written: string): number {
  const [mantissa, exponent] = written.toLowerCase().split('e');
  return (mantissa!.split('.')[1]?.length ?? 0) - Number(exponent ?? 0);
}
