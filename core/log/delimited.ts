import { LONGEST_ROW_BYTES } from '../limits';
import { LogRefused } from './refused';

/** One row's wanted field: bytes [from, to) of `bytes`; `from` is −1 where the row has no such column. */
export type OnField = (bytes: Uint8Array, from: number, to: number, line: number) => void;

const NEWLINE = 10;
const RETURN = 13;
const QUOTE = 34;
/** '.' to ':', with the digits between them; no delimiter is among them. */
const POINT = 46;
const COLON = 58;

/**
 * Walks delimited text as bytes and hands over one column, without making a
 * string of anything: a log of 1.5 million rows is read in a fraction of a
 * second and in constant memory. Fields may be quoted (doubled quotes and line
 * breaks inside included); lines end in LF or CRLF; blank lines are no rows.
 */
export class ColumnScanner {
  private rest = new Uint8Array(0);
  private line = 1;

  constructor(
    private readonly delimiter: number,
    private readonly column: number,
    /** Lines before this one (from 1) are passed over: preamble and heading. */
    private readonly firstLine: number,
    private readonly onField: OnField,
  ) {}

  /** @throws LogRefused('long-line') for a row that has no end */
  push(chunk: Uint8Array): void {
    let bytes = chunk;
    if (this.rest.length > 0) {
      bytes = new Uint8Array(this.rest.length + chunk.length);
      bytes.set(this.rest);
      bytes.set(chunk, this.rest.length);
    }
    const used = this.scan(bytes, false);
    this.rest = bytes.slice(used);
    if (this.rest.length > LONGEST_ROW_BYTES)
      throw longLine(
        this.line,
        LONGEST_ROW_BYTES,
        'The log must have one row per frame. Check that the file has line breaks, or export it again.',
      );
  }

  /** The last line may lack its line break. */
  end(): void {
    if (this.rest.length > 0) this.scan(this.rest, true);
    this.rest = new Uint8Array(0);
  }

  /** Rows that are complete in `bytes`; returns how many bytes they took. */
  private scan(bytes: Uint8Array, final: boolean): number {
    const { delimiter, column, onField } = this;
    const n = bytes.length;
    let rowStart = 0;
    while (rowStart < n) {
      let i = rowStart;
      let at = 0;
      let from = column === 0 ? rowStart : -1;
      let to = -1;
      let code = -1;
      let quoted = false;
      for (; i < n; i++) {
        code = bytes[i]!;
        // digits and the decimal point: most of a log, and never a sign that matters here
        if (code >= POINT && code <= COLON) continue;
        if (code === NEWLINE) break;
        if (code === delimiter) {
          if (at === column) to = i;
          if (++at === column) from = i + 1;
        } else if (code === QUOTE) {
          quoted = true;
          break;
        }
      }
      if (quoted) {
        const row = readQuotedRow(bytes, rowStart, delimiter, final);
        if (!row) return rowStart;
        if (this.line >= this.firstLine) {
          const field = row.fields[column];
          if (field === undefined) onField(bytes, -1, -1, this.line);
          else onField(field, 0, field.length, this.line);
        }
        this.line += row.lines;
        rowStart = row.next;
        continue;
      }
      if (i === n && !final) return rowStart;
      let rowEnd = i;
      if (rowEnd > rowStart && bytes[rowEnd - 1] === RETURN) rowEnd--;
      if (to < 0) to = from < 0 ? -1 : rowEnd;
      if (this.line >= this.firstLine && !isBlank(bytes, rowStart, rowEnd))
        onField(bytes, from, Math.max(from, to), this.line);
      this.line++;
      rowStart = i + 1;
    }
    return Math.min(rowStart, n);
  }
}

function isBlank(bytes: Uint8Array, from: number, to: number): boolean {
  for (let i = from; i < to; i++) if (bytes[i] !== 32 && bytes[i] !== 9) return false;
  return true;
}

/** A row with quotes in it: its fields, the lines it spans and where the next row starts; null when it is not complete. */
function readQuotedRow(
  bytes: Uint8Array,
  from: number,
  delimiter: number,
  final: boolean,
): { fields: Uint8Array[]; lines: number; next: number } | null {
  const fields: Uint8Array[] = [];
  let field: number[] = [];
  let inside = false;
  let lines = 1;
  let i = from;
  for (; i < bytes.length; i++) {
    const code = bytes[i]!;
    if (inside) {
      if (code === NEWLINE) lines++;
      if (code !== QUOTE) field.push(code);
      else if (bytes[i + 1] === QUOTE) field.push(bytes[i++]!);
      else inside = false;
      if (field.length > LONGEST_FIELD) {
        // an unclosed quote would swallow the rest of the file: end the row at its first line
        const lineEnd = bytes.indexOf(NEWLINE, from);
        return { fields: [], lines: 1, next: lineEnd < 0 ? bytes.length : lineEnd + 1 };
      }
    } else if (code === QUOTE && field.length === 0) inside = true;
    else if (code === delimiter) {
      fields.push(Uint8Array.from(field));
      field = [];
    } else if (code === NEWLINE) break;
    else field.push(code);
  }
  if (i === bytes.length && !final) return null;
  if (inside) {
    const lineEnd = bytes.indexOf(NEWLINE, from);
    return { fields: [], lines: 1, next: lineEnd < 0 ? bytes.length : lineEnd + 1 };
  }
  if (field.at(-1) === RETURN) field.pop();
  fields.push(Uint8Array.from(field));
  return { fields, lines, next: i + 1 };
}

/** A line that is longer than it may be. */
export const longLine = (line: number, most: number, remedy: string): LogRefused =>
  new LogRefused('long-line', `Line ${line} is longer than ${most / 1024 / 1024} MB.`, remedy, line);

const LONGEST_FIELD = 4096;

/**
 * Fields of one line as text.
 *
 * @example
 * splitLine('a;"b;c";d', ';'); // ['a', 'b;c', 'd']
 */
export function splitLine(line: string, delimiter: string): string[] {
  const bytes = new TextEncoder().encode(line);
  const row = readQuotedRow(bytes, 0, delimiter.charCodeAt(0), true);
  const decoder = new TextDecoder();
  return row && row.fields.length > 0
    ? row.fields.map((field) => decoder.decode(field).trim())
    : [line.trim()];
}
