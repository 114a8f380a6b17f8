import { escapeXml } from '../escape';

/** Colours of pictures that go out: those of the app by day, which keep their contrast on paper. */
export const INKS = {
  paper: '#e9edef',
  sheet: '#f7f9fa',
  ink: '#182025',
  quiet: '#4b5961',
  line: '#c3ccd1',
  track: '#d9dfe3',
  action: '#a8430f',
  pace: '#1f6685',
  drain: '#6b4aa0',
  warmth: ['#7d898f', '#8e7a70', '#a0654c', '#9c3f26', '#6f1d10'],
} as const;

/** The families that the app ships; a reader without them sees the next one. */
const FAMILIES = {
  figures: "'Barlow Semi Condensed', 'Arial Narrow', sans-serif",
  text: "'Atkinson Hyperlegible Next', Verdana, sans-serif",
} as const;

/** Two decimals: what a picture shows. */
export const round = (value: number): number => Math.round(value * 100) / 100;

export const rect = (x: number, y: number, width: number, height: number, fill: string, more = ''): string =>
  `<rect x="${round(x)}" y="${round(y)}" width="${round(Math.max(0, width))}" height="${round(Math.max(0, height))}" fill="${fill}"${more}/>`;

export const line = (x1: number, y1: number, x2: number, y2: number, stroke: string, width: number): string =>
  `<path d="M${round(x1)} ${round(y1)}L${round(x2)} ${round(y2)}" stroke="${stroke}" stroke-width="${round(width)}" fill="none"/>`;

export interface Lettering {
  size: number;
  fill?: string;
  family?: keyof typeof FAMILIES;
  anchor?: 'start' | 'middle' | 'end';
}

/** A line of text. @param y its base line */
export const text = (
  x: number,
  y: number,
  content: string,
  { size, fill = INKS.ink, family = 'text', anchor = 'start' }: Lettering,
): string =>
  `<text x="${round(x)}" y="${round(y)}" font-family="${FAMILIES[family]}"${family === 'figures' ? ' font-weight="600"' : ''} font-size="${round(size)}" fill="${fill}"${anchor === 'start' ? '' : ` text-anchor="${anchor}"`}>${escapeXml(content)}</text>`;

const NARROW = /[ijlt.,:;'|!()[\]\-/ ]/;
const WIDE = /[mwMW@%]/;

/**
 * How wide a line of text is, roughly: a little more than the shipped fonts need, so that nothing runs out of its place.
 *
 * @param size height of the letters, in the same unit as the answer
 */
export function textWidth(content: string, size: number): number {
  let width = 0;
  for (const letter of content)
    width += NARROW.test(letter) ? 0.34 : WIDE.test(letter) ? 0.92 : letter > '\u2fff' ? 1 : 0.58;
  return width * size;
}

/** A text cut to a width, its end marked. */
export function fit(content: string, width: number, size: number): string {
  if (textWidth(content, size) <= width) return content;
  const letters = [...content];
  while (letters.length > 1 && textWidth(`${letters.join('')}…`, size) > width) letters.pop();
  return `${letters.join('').trimEnd()}…`;
}

/** A text in lines of a width, broken at blanks; a word that is longer is cut. */
export function wrap(content: string, width: number, size: number): string[] {
  const lines: string[] = [];
  let current = '';
  for (const word of content.split(/ +/)) {
    const longer = current === '' ? word : `${current} ${word}`;
    if (current !== '' && textWidth(longer, size) > width) {
      lines.push(current);
      current = fit(word, width, size);
    } else current = current === '' ? fit(word, width, size) : longer;
  }
  return current === '' ? lines : [...lines, current];
}
