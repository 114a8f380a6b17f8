import { isShellText } from '../shell/shellFile';
import { splitLine } from './delimited';
import { LogRefused } from './refused';

/** How a delimited text is laid out, as far as its first rows tell. */
export interface TextLayout {
  delimiter: ',' | ';' | '\t';
  decimalMark: '.' | ',';
  /** Line of the heading, from 1; null where the file starts with its first row. */
  headingLine: number | null;
  /** Line of the first row of data, from 1. */
  firstLine: number;
  headings: string[];
  /** The first rows of data, as text. */
  rows: string[][];
}

/** How many bytes of a file are enough to see its layout. */
export const HEAD_BYTES = 65_536;
const SAMPLE_ROWS = 200;
const DELIMITERS: TextLayout['delimiter'][] = [';', '\t', ','];
const DECIMAL_MARKS: TextLayout['decimalMark'][] = ['.', ','];

const SIGNATURES: { name: string; at: number; bytes: number[] }[] = [
  { name: 'a PNG image', at: 0, bytes: [0x89, 0x50, 0x4e, 0x47] },
  { name: 'a JPEG image', at: 0, bytes: [0xff, 0xd8, 0xff] },
  { name: 'a GIF image', at: 0, bytes: [0x47, 0x49, 0x46, 0x38] },
  { name: 'a WebP image or a sound file', at: 0, bytes: [0x52, 0x49, 0x46, 0x46] },
  { name: 'a PDF document', at: 0, bytes: [0x25, 0x50, 0x44, 0x46] },
  { name: 'a ZIP archive or a spreadsheet', at: 0, bytes: [0x50, 0x4b, 0x03, 0x04] },
  { name: 'a video or picture from a camera', at: 4, bytes: [0x66, 0x74, 0x79, 0x70] },
];

/** A gzip file starts like this; it must be unpacked before anything else here looks at it. */
export const isGzip = (head: Uint8Array): boolean => head[0] === 0x1f && head[1] === 0x8b;

/** What the first bytes say the file is: the project's own run file, what a device's shell printed, or delimited text. */
export type FileKind = 'run-file' | 'shell-text' | 'delimited';

/**
 * Tells run files, a shell's text and delimited text apart, and refuses what is none.
 *
 * @param head the first bytes of the (unpacked) file
 * @throws LogRefused for an empty file, an image, an archive, binary data or UTF-16
 */
export function fileKind(head: Uint8Array): FileKind {
  if (head.length === 0)
    throw new LogRefused(
      'empty',
      'The file is empty.',
      'Export the log again and check that it is not empty before you copy it.',
    );
  for (const signature of SIGNATURES) {
    if (signature.bytes.every((byte, i) => head[signature.at + i] === byte)) {
      throw new LogRefused(
        'not-text',
        `This is ${signature.name}, not a frame log (whatever its extension).`,
        'Export the frame log as CSV, or choose the .pace.ndjson file.',
      );
    }
  }
  if ((head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff)) {
    throw new LogRefused(
      'not-text',
      'The text is encoded as UTF-16.',
      'Save it as UTF-8 (in a spreadsheet: "CSV UTF-8").',
    );
  }
  const control = head.findIndex((byte) => byte < 32 && byte !== 9 && byte !== 10 && byte !== 13);
  if (control >= 0) {
    throw new LogRefused(
      'not-text',
      `Byte ${control + 1} of the file is not text, so the file is not a frame log.`,
      'Export the frame log as CSV, or choose the .pace.ndjson file.',
    );
  }
  const text = decodeHead(head).trimStart();
  if (text === '')
    throw new LogRefused(
      'empty',
      'The file has only blank lines.',
      'Export the log again and check that it is not empty before you copy it.',
    );
  if (text.startsWith('{')) return 'run-file';
  return isShellText(text) ? 'shell-text' : 'delimited';
}

function decodeHead(head: Uint8Array): string {
  const text = new TextDecoder().decode(head);
  return text.charCodeAt(0) === 0xfeff ? text.slice(1) : text;
}

const NUMERIC: Record<'.' | ',', RegExp> = {
  '.': /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i,
  ',': /^[+-]?(\d+,?\d*|,\d+)(e[+-]?\d+)?$/i,
};

/** Whether a field is a number with that decimal mark. */
export const isNumber = (field: string, decimalMark: '.' | ','): boolean =>
  NUMERIC[decimalMark].test(field.trim());

/**
 * Finds delimiter, decimal mark, heading and first row of a delimited text.
 *
 * The first row of data is the first line with a number in it that the lines
 * after it resemble; the line before it with as many fields is its heading;
 * whatever stands before that is preamble (comments, a device name, a date).
 *
 * @param head the first bytes, up to {@link HEAD_BYTES}
 * @param whole whether `head` is the whole file, so that its last line is complete
 * @param given what the person has decided; only the rest is found out
 * @throws LogRefused('not-a-log') where no row holds a number
 */
export function sniffLayout(
  head: Uint8Array,
  whole: boolean,
  given: Partial<Pick<TextLayout, 'delimiter' | 'decimalMark'>> = {},
): TextLayout {
  const lines = decodeHead(head).split(/\r?\n/);
  if (!whole && lines.length > 1) lines.pop();
  let best: (TextLayout & { score: number }) | null = null;
  for (const delimiter of given.delimiter ? [given.delimiter] : DELIMITERS) {
    for (const decimalMark of given.decimalMark ? [given.decimalMark] : DECIMAL_MARKS) {
      const layout = layoutWith(lines, delimiter, decimalMark);
      if (layout && (!best || layout.score > best.score)) best = layout;
    }
  }
  if (!best) {
    throw new LogRefused(
      'not-a-log',
      'No line contains a number that could be a frame time.',
      'A frame log has one row per frame, with a frame time or a timestamp. Choose another file.',
    );
  }
  const { score: _, ...layout } = best;
  return layout;
}

function layoutWith(
  lines: string[],
  delimiter: ',' | ';' | '\t',
  decimalMark: '.' | ',',
): (TextLayout & { score: number }) | null {
  const rows: { line: number; fields: string[]; numbers: number }[] = [];
  for (let i = 0; i < lines.length && rows.length < SAMPLE_ROWS; i++) {
    if (lines[i]!.trim() === '') continue;
    const fields = splitLine(lines[i]!, delimiter);
    rows.push({
      line: i + 1,
      fields,
      numbers: fields.filter((field) => isNumber(field, decimalMark)).length,
    });
  }
  const widths = new Map<number, number>();
  for (const row of rows)
    if (row.numbers > 0) widths.set(row.fields.length, (widths.get(row.fields.length) ?? 0) + 1);
  const [width] = [...widths].sort((a, b) => b[1] - a[1])[0] ?? [];
  if (width === undefined) return null;
  const first = rows.findIndex((row) => row.fields.length === width && row.numbers > 0);
  const heading = headingAmong(
    rows
      .slice(0, first)
      .map((row) =>
        row.fields.length === width && row.fields.some((field) => /\p{L}/u.test(field)) ? row : null,
      ),
  );
  const data = rows.slice(first);
  const alike = data.filter((row) => row.fields.length === width && row.numbers > 0);
  // rows that agree, then numbers that are whole fields; a field that still holds another candidate's delimiter is a poor split
  const share = alike.length / data.length;
  const numeric = alike.reduce((sum, row) => sum + row.numbers / width, 0) / alike.length;
  const headingFits = heading || first === 0 ? 0 : -0.5;
  const ties = (decimalMark === ',' ? -0.01 : 0) + Math.min(width, 8) * 0.001;
  const foreign = alike.some((row) =>
    row.fields.some((field) => !isNumber(field, decimalMark) && /[;\t]/.test(field)),
  )
    ? -0.5
    : 0;
  return {
    delimiter,
    decimalMark,
    headingLine: heading?.line ?? null,
    // rows between the heading and the first number are rows too, only unreadable ones
    firstLine: heading ? heading.line + 1 : rows[first]!.line,
    headings: heading ? heading.fields : Array.from({ length: width }, (_, i) => `column ${i + 1}`),
    rows: alike.slice(0, SAMPLE_ROWS).map((row) => row.fields),
    score: share + numeric + headingFits + ties + foreign,
  };
}

/** A heading that says time, frame or a unit, whatever stands between it and the first number. */
const TELLING = /frame|time|present|stamp|\b(ns|us|µs|ms|sec)\b|_(ns|us|ms|s)$/i;

/**
 * The heading among the lines before the first number: the last one that
 * speaks of time or frames, else the nearest. Null stands for a line that
 * cannot be one.
 */
function headingAmong<T extends { fields: string[] }>(lines: (T | null)[]): T | null {
  return (
    lines.findLast((line) =>
      line?.fields.some((field) => TELLING.test(field) && field.length <= LONGEST_HEADING),
    ) ??
    lines.at(-1) ??
    null
  );
}

/** Longer than this it is a sentence in a comment. */
const LONGEST_HEADING = 40;
