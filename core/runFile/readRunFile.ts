import type { FrameTrack } from '../frames/track';
import type { RowTally } from '../frames/unreadable';
import { LONGEST_LINE_BYTES, MOST_LINE_BYTES, MOST_LINES, MOST_SPOTS } from '../limits';
import { longLine } from '../log/delimited';
import { LogRefused } from '../log/refused';
import { markLength } from '../log/byteOrderMark';
import { FrameBatches } from './batches';
import { CONDITIONS, SPAN_KINDS } from '../vocabulary';
import { lineTimeMs, type EntryLine, type RunHeader, type RunLine } from './lines';
import { parseLine } from './parseLine';

/** An open run file, read. */
export interface RunFile {
  header: RunHeader | null;
  track: FrameTrack;
  tally: RowTally;
  /** All lines but the header and the frames, in the file's order. */
  entries: EntryLine[];
  /** Lines, span kinds and conditions of unknown name. */
  passedOver: number;
  /** The last line was cut off, and dropped. */
  cutOff: boolean;
}

/**
 * Checks one line's JSON value: the line, or null when its type is unknown.
 * It throws an error with a plain message when a field is missing or wrong.
 */
export type CheckLine = (value: unknown) => RunLine | null;

const NEWLINE = 10;

/**
 * Reads an open run file from bytes as they come.
 *
 * @source docs/formats.md
 */
export class RunFileReader {
  private readonly batches = new FrameBatches();
  private readonly entries: EntryLine[] = [];
  private readonly decoder = new TextDecoder('utf-8');
  private header: RunHeader | null = null;
  private passedOver = 0;
  private parts: Uint8Array[] = [];
  private partBytes = 0;
  private line = 0;
  private entryBytes = 0;
  private readonly spots = new Set<string>();
  private started = false;
  /** A line that starts like an object and is none: refused unless it turns out to be the last. */
  private broken: { line: number } | null = null;

  constructor(private readonly check: CheckLine) {}

  push(chunk: Uint8Array): void {
    let from = this.started || chunk.length === 0 ? 0 : markLength(chunk);
    this.started ||= chunk.length > 0;
    for (let end = chunk.indexOf(NEWLINE, from); end >= 0; end = chunk.indexOf(NEWLINE, from)) {
      this.keep(chunk.subarray(from, end));
      this.takeLine();
      from = end + 1;
    }
    this.keep(chunk.slice(from));
  }

  private keep(part: Uint8Array): void {
    if (part.length === 0) return;
    this.parts.push(part);
    this.partBytes += part.length;
    if (this.partBytes > LONGEST_LINE_BYTES)
      throw longLine(
        this.line + 1,
        LONGEST_LINE_BYTES,
        'Write one JSON object per line, with a few hundred frames in each.',
      );
  }

  private takeLine(): void {
    this.line++;
    let text = '';
    for (const part of this.parts) text += this.decoder.decode(part, { stream: true });
    text = (text + this.decoder.decode()).trim();
    const bytes = this.partBytes;
    this.parts = [];
    this.partBytes = 0;
    if (text === '') return;
    if (this.broken) throw notJson(this.broken.line);
    let value: unknown;
    try {
      value = parseLine(text);
    } catch {
      if (!text.startsWith('{')) throw notJson(this.line);
      this.broken = { line: this.line };
      return;
    }
    if (typeof value !== 'object' || value === null || Array.isArray(value)) throw notJson(this.line);
    this.take(this.checked(value), bytes);
  }

  private checked(value: object): RunLine | null {
    try {
      return this.check(value);
    } catch (error) {
      throw new LogRefused(
        'bad-line',
        `Line ${this.line}: ${error instanceof Error ? error.message : String(error)}.`,
        'Correct or remove this line; docs/formats.md shows every type of line.',
        this.line,
      );
    }
  }

  private take(line: RunLine | null, bytes: number): void {
    if (line === null) this.passedOver++;
    else if (line.type === 'frames') this.batches.add(line, this.line);
    else if (line.type === 'run') this.takeHeader(line);
    else if (line.type === 'span' && !SPAN_KINDS.includes(line.kind)) this.passedOver++;
    else this.keepEntry(line, bytes);
  }

  private keepEntry(line: EntryLine, bytes: number): void {
    this.entryBytes += bytes;
    if (this.entries.length >= MOST_LINES || this.entryBytes > MOST_LINE_BYTES) {
      throw new LogRefused(
        'too-many',
        `Line ${this.line}: the file has more than ${MOST_LINES.toLocaleString('en-GB')} lines without frames, or more than ${MOST_LINE_BYTES / 1024 / 1024} MB of them.`,
        'Write readings less often (once a second is enough), or split the file.',
        this.line,
      );
    }
    if (line.type === 'skin') this.spots.add(line.spot);
    if (this.spots.size > MOST_SPOTS)
      throw new LogRefused(
        'too-many',
        `Line ${this.line}: “${line.type === 'skin' ? line.spot : ''}” is spot number ${MOST_SPOTS + 1}; a run can have ${MOST_SPOTS}.`,
        'Use the same name for the same spot.',
        this.line,
      );
    this.entries.push(line);
  }

  private takeHeader(header: RunHeader): void {
    if (this.header)
      throw new LogRefused(
        'bad-line',
        `Line ${this.line}: second "run" line in the file.`,
        'A file contains one run. Split the file before this line.',
        this.line,
      );
    const conditions = header.conditions?.filter((condition) => CONDITIONS.includes(condition));
    this.passedOver += (header.conditions?.length ?? 0) - (conditions?.length ?? 0);
    this.header = conditions ? { ...header, conditions } : header;
  }

  /** Rows so far, for progress. */
  get tally(): RowTally {
    return this.batches.tally;
  }

  /**
   * @throws LogRefused for a broken line, overlapping frames, too many unreadable frame times, or a file that says nothing
   */
  finish(): RunFile {
    if (this.partBytes > 0) this.takeLine();
    const tally = this.batches.tally;
    const first = tally.listed[0];
    if (tally.tooMany) {
      throw new LogRefused(
        'too-many-unreadable',
        `${tally.unreadable} of ${tally.total} frame times cannot be read, more than 1 %. The first is in line ${first!.line}: ${first!.reason}.`,
        'Frame times are microseconds, from above 0 to 600,000,000. Check the unit the logger writes.',
        first!.line,
        tally.listed,
      );
    }
    const track = this.batches.track();
    if (!this.header && this.entries.length === 0 && track.frameUs.length === 0) {
      throw new LogRefused(
        'not-a-log',
        'The file has no lines of a run.',
        'A run file has one line with "type":"run" and lines with frames or readings; see docs/formats.md.',
        1,
      );
    }
    return {
      header: this.header,
      track,
      tally,
      entries: this.entries,
      passedOver: this.passedOver,
      cutOff: this.broken !== null,
    };
  }
}

const notJson = (line: number): LogRefused =>
  new LogRefused(
    'bad-line',
    `Line ${line} is not a JSON object.`,
    'Correct or remove this line; every line of a run file must be a JSON object.',
    line,
  );

/** Time of the latest line, ms; 0 without lines. */
export const lastLineMs = (entries: EntryLine[]): number =>
  entries.reduce((last, line) => Math.max(last, line.type === 'span' ? line.toMs : lineTimeMs(line)), 0);
