import {
  FrameTimeRows,
  TimestampRows,
  type FrameRows,
  type RefuseTooMuch,
  type TooMuch,
} from '../frames/fromRows';
import type { FrameTrack } from '../frames/track';
import type { RowTally } from '../frames/unreadable';
import { LONGEST_RUN_US } from '../limits';
import { tooManyFrames } from '../runFile/batches';
import { ColumnScanner } from './delimited';
import { UNIT_NAMES, UNIT_SECONDS, type ColumnChoice } from './guess';
import { parseMicros } from './micros';
import { LogRefused } from './refused';
import { markLength } from './byteOrderMark';
import type { TextLayout } from './sniff';

/** Frames that anybody logs, µs: 2,000 a second to one. */
const SHORTEST_TYPICAL_US = 500;
const LONGEST_TYPICAL_US = 1e6;

/** The run would be longer than any: the unit is another, or the clock was set. */
function tooLong(
  { column, kind, unit }: ColumnChoice,
  { line, typicalUs }: TooMuch,
  lengthUs: number,
): LogRefused {
  const hours = lengthUs / 3.6e9;
  const finer = (Object.keys(UNIT_SECONDS) as ColumnChoice['unit'][]).find((other) => {
    const ratio = UNIT_SECONDS[other] / UNIT_SECONDS[unit];
    const typical = typicalUs * ratio;
    return (
      ratio < 1 &&
      lengthUs * ratio <= LONGEST_RUN_US &&
      typical >= SHORTEST_TYPICAL_US &&
      typical <= LONGEST_TYPICAL_US
    );
  });
  const otherUnit = finer
    ? `choose ${UNIT_NAMES[finer]} if that is the unit.`
    : 'choose another column or unit.';
  const jump =
    kind === 'timestamp' && !finer
      ? ' If the unit is right, the device clock was changed during the run (for example from 0 to a date). Cut the log at that line.'
      : '';
  return new LogRefused(
    'too-long',
    `At line ${line} the run would be ${hours < 10_000 ? `${Math.round(hours)} hours` : `${Math.round(hours / 8766)} years`} long; the limit is 48 hours.`,
    `Column ${column + 1} is read as ${UNIT_NAMES[unit]}: ${otherUnit}${jump}`,
    line,
  );
}

/** What is needed of a layout to read the rows. */
export type RowLayout = Pick<TextLayout, 'delimiter' | 'decimalMark' | 'firstLine'>;

/** Frames of a log that was accepted, and the rows that were dropped. */
export interface LogFrames {
  track: FrameTrack;
  tally: RowTally;
}

const UNSHOWN = /[\u0000-\u0008\u000b-\u001f\u007f]/g;

/**
 * Reads the frames of a delimited log from bytes as they come.
 *
 * @example
 * const reader = new LogReader({ delimiter: ',', decimalMark: '.', firstLine: 2 }, { column: 0, kind: 'frame-time', unit: 'ms' });
 * reader.push(new TextEncoder().encode('frame_time_ms\n16.7\n16.6\n'));
 * reader.finish().track.frameUs; // Int32Array [16700, 16600]
 */
export class LogReader {
  private readonly rows: FrameRows;
  private readonly scanner: ColumnScanner;
  private started = false;
  private readonly decoder = new TextDecoder();
  private readonly mark: number;

  constructor(
    layout: RowLayout,
    private readonly choice: ColumnChoice,
  ) {
    const tooMuch: RefuseTooMuch = (found) =>
      found.lengthUs === null ? tooManyFrames(found.line) : tooLong(choice, found, found.lengthUs);
    const rows: FrameRows =
      choice.kind === 'timestamp' ? new TimestampRows(tooMuch) : new FrameTimeRows(tooMuch);
    this.rows = rows;
    const mark = layout.decimalMark.charCodeAt(0);
    this.mark = mark;
    const unit = choice.unit;
    this.scanner = new ColumnScanner(
      layout.delimiter.charCodeAt(0),
      choice.column,
      layout.firstLine,
      (bytes, from, to, line) => {
        const us = from < 0 ? NaN : parseMicros(bytes, from, to, unit, mark);
        rows.add(us, line, () => this.describe(bytes, from, to));
      },
    );
  }

  private describe(bytes: Uint8Array, from: number, to: number): string {
    const column = this.choice.column + 1;
    if (from < 0) return `the row has no column ${column}`;
    // what no text holds is shown as a dot
    const text = this.decoder
      .decode(bytes.subarray(from, Math.min(to, from + 40)))
      .replace(UNSHOWN, '·')
      .trim();
    if (text === '') return `column ${column} is empty`;
    const number = parseMicros(bytes, from, to, this.choice.unit, this.mark);
    return Number.isNaN(number) ? `column ${column} contains “${text}”, which is not a number` : text;
  }

  push(chunk: Uint8Array): void {
    if (chunk.length === 0) return;
    this.scanner.push(this.started ? chunk : chunk.subarray(markLength(chunk)));
    this.started = true;
  }

  /** Rows so far, for progress and for previews. */
  get tally(): RowTally {
    return this.rows.tally;
  }

  /**
   * @throws LogRefused when there is not one frame, or when more than 1 % of the rows are unreadable
   */
  finish(): LogFrames {
    this.scanner.end();
    const tally = this.rows.tally;
    const track = this.rows.track();
    const first = tally.listed[0];
    if (tally.tooMany) {
      throw new LogRefused(
        'too-many-unreadable',
        `${tally.unreadable} of ${tally.total} rows cannot be read, more than 1 %. The first is line ${first!.line}: ${first!.reason}.`,
        `Check that column ${this.choice.column + 1} contains ${this.choice.kind === 'timestamp' ? 'timestamps' : 'frame times'} in ${UNIT_NAMES[this.choice.unit]}, or correct these lines in the file.`,
        first!.line,
        tally.listed,
      );
    }
    if (track.frameUs.length === 0) {
      throw new LogRefused(
        'no-frames',
        'The file contains no frames.',
        'The log may have been cut off during copying. Export it again, or choose another column.',
        null,
        tally.listed,
      );
    }
    return { track, tally };
  }
}
