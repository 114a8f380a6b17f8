/** The smallest parts of what stands in a notebook. */
export type Token =
  | { kind: 'number'; value: number; decimals: number; at: number; end: number }
  /** A time like 8:00 or 1:05:30, in ms as the run's clock would have it. */
  | {
      kind: 'clock';
      ms: number;
      ofDayMin: number | null;
      /** A place of the run, never a time of day. */
      fixed?: true;
      at: number;
      end: number;
    }
  /** In lower case. */
  | { kind: 'word'; word: string; at: number; end: number }
  | { kind: 'quoted'; text: string; at: number; end: number }
  | { kind: 'sign'; sign: string; at: number; end: number };

const PARTS = new RegExp(
  [
    '(?<quoted>“(?:[^”\\\\]|\\\\.)*”|"(?:[^"\\\\]|\\\\.)*")',
    '(?<clock>(?<![\\d:.,])\\d{1,3}:\\d{2}(?::\\d{2})?(?:\\.\\d{1,3})?(?!\\d|:\\d))',
    '(?<hours>(?<![\\d:.,])\\d{1,2}h[0-5]\\d(?!\\d|:\\d))',
    '(?<number>\\d+(?:[.,]\\d+)?(?:e[+-]?\\d+(?:[.,]\\d+)*)?)',
    '(?<plusminus>±|\\+/-|\\+-)',
    '(?<arrow>->|=>|→)',
    "(?<word>\\p{L}[\\p{L}\\p{M}]*(?:[’'-]\\p{L}[\\p{L}\\p{M}]*)*)",
    '(?<sign>[^\\s])',
  ].join('|'),
  'giu',
);

/** Parts a line of a notebook; nothing of it is lost but spaces. */
export function tokensOf(line: string): Token[] {
  const tokens: Token[] = [];
  for (const { 0: text, index, groups } of line.matchAll(PARTS)) {
    const place = { at: index, end: index + text.length };
    if (groups!['quoted'] !== undefined)
      tokens.push({ kind: 'quoted', text: unescaped(text.slice(1, -1)), ...place });
    else if (groups!['clock'] !== undefined) tokens.push({ kind: 'clock', ...clockOf(text), ...place });
    else if (groups!['hours'] !== undefined)
      tokens.push({
        kind: 'clock',
        ...clockOf(`${text.replace(/h/i, ':')}:00`),
        ofDayMin: null,
        fixed: true,
        ...place,
      });
    else if (groups!['number'] !== undefined) {
      const before = tokens.at(-1);
      const plain = text.replace(',', '.');
      // a dash is a sign of the number where nothing that could be its other end stands before it
      const minus =
        before?.kind === 'sign' &&
        /[-−]/.test(before.sign) &&
        before.end === index &&
        !['number', 'clock'].includes(tokens.at(-2)?.kind ?? '') &&
        !(tokens.at(-2)?.end === before.at);
      // more than any number can be, or an exponent with a fraction: it is none, and no part of it is another
      if (!Number.isFinite(Number(plain))) {
        tokens.push({ kind: 'sign', sign: text, ...place });
        continue;
      }
      if (minus) tokens.pop();
      tokens.push({
        kind: 'number',
        value: (minus ? -1 : 1) * Number(plain),
        decimals: plain.split(/e/i)[0]!.split('.')[1]?.length ?? 0,
        at: minus ? before.at : index,
        end: place.end,
      });
    } else if (groups!['word'] !== undefined)
      tokens.push({ kind: 'word', word: text.toLowerCase(), ...place });
    else if (groups!['arrow'] !== undefined) tokens.push({ kind: 'sign', sign: '→', ...place });
    else tokens.push({ kind: 'sign', sign: groups!['plusminus'] === undefined ? text : '±', ...place });
  }
  return spokenLengths(tokens);
}

/** Lengths that are said without a number. */
const SPOKEN: [phrase: string, value: number, unit: string][] = [
  ['a quarter of an hour', 15, 'min'],
  ['quarter of an hour', 15, 'min'],
  ['an hour and a half', 1.5, 'h'],
  ['half an hour', 30, 'min'],
  ['an hour', 1, 'h'],
  ['a minute', 1, 'min'],
  ['a second', 1, 's'],
];

function spokenLengths(tokens: Token[]): Token[] {
  const said: Token[] = [];
  for (let i = 0; i < tokens.length; i++) {
    const found = SPOKEN.find(([phrase]) =>
      phrase.split(' ').every((name, ahead) => {
        const token = tokens[i + ahead];
        return token?.kind === 'word' && token.word === name;
      }),
    );
    if (!found) {
      said.push(tokens[i]!);
      continue;
    }
    const taken = found[0].split(' ').length;
    const place = { at: tokens[i]!.at, end: tokens[i + taken - 1]!.end };
    said.push(
      { kind: 'number', value: found[1], decimals: 0, ...place },
      { kind: 'word', word: found[2], ...place },
    );
    i += taken - 1;
  }
  return said;
}

const unescaped = (text: string): string =>
  text.replace(/\\(.)/g, (_, sign: string) => (sign === 'n' ? '\n' : sign));

function clockOf(text: string): { ms: number; ofDayMin: number | null } {
  const parts = text.split(':').map(Number);
  const [a, b, c] = parts as [number, number, number?];
  const seconds = c === undefined ? a * 60 + b : a * 3600 + b * 60 + c;
  const wrong = b >= 60 || (c !== undefined && c >= 60);
  return {
    ms: wrong ? NaN : Math.round(seconds * 1000),
    ofDayMin:
      wrong || a > 23 || (c === undefined && !Number.isInteger(b)) ? null : a * 60 + b + (c ?? 0) / 60,
  };
}
