import { MOST_LINES, MOST_SHELL_BYTES } from '../limits';
import { LogRefused } from '../log/refused';
import { FrameBatches } from '../runFile/batches';
import { lineTimeMs, type EntryLine, type FramesLine, type RunHeader } from '../runFile/lines';
import type { CheckLine, RunFile } from '../runFile/readRunFile';
import { readShellText, shellStampMs } from './shellText';

/** A file has no now: its last moment is put so late that nothing lies before the start. */
const LATE_MS = 1e10;
/** So many digits tell a steady clock's ns from a count. */
const NS_ROW = /^\s*\d{10,}\s+\d{10,}\s+\d{10,}\s*$/;
const ZEROS = /^\s*0+\s+0+\s+0+\s*$/;
const ONE_NUMBER = /^\s*\d+\s*$/;

/**
 * Tells what a device's shell prints from a delimited log: most of its lines
 * are a time, a refresh period, three timestamps in ns, or known values of
 * battery and skin. (A bare column of timestamps is a log of one column.)
 *
 * @param head the first text of a file
 * @source common practice: what a file is, is seen from most of its lines
 * @example
 * isShellText('at 1795686223\nlevel: 87\nstatus: 3'); // true
 */
export function isShellText(head: string): boolean {
  let told = 0;
  let telling = 0;
  let all = 0;
  // three columns stand after their refresh period or a time: after a heading they are a log
  let begun = false;
  for (const row of head.split(/\r?\n/)) {
    if (row.trim() === '') continue;
    all++;
    // no line of a shell's text has one
    if (/[,;]/.test(row)) continue;
    begun ||= ONE_NUMBER.test(row) || shellStampMs(row) !== null;
    if (ONE_NUMBER.test(row) || ZEROS.test(row)) told++;
    else if (NS_ROW.test(row)) telling += begun ? 1 : 0;
    else if (readShellText(row, 0, null).aside.length === 0) telling++;
  }
  return telling > 0 && 2 * (telling + told) > all;
}

/**
 * Reads a file of what a device's shell printed as a run that begins with the
 * first thing it tells; lines that say something else are passed over.
 *
 * @source docs/formats.md
 */
export class ShellTextReader {
  private readonly decoder = new TextDecoder('utf-8');
  private text = '';
  private bytes = 0;

  constructor(private readonly check: CheckLine) {}

  push(chunk: Uint8Array): void {
    this.bytes += chunk.length;
    if (this.bytes > MOST_SHELL_BYTES)
      throw new LogRefused(
        'too-many',
        `The shell output is larger than ${MOST_SHELL_BYTES / 1024 / 1024} MB.`,
        'Split it into parts, or print only what docs/formats.md lists.',
      );
    this.text += this.decoder.decode(chunk, { stream: true });
  }

  /**
   * @throws LogRefused for a text that tells neither frames nor readings
   */
  finish(): RunFile {
    const { frames, entries, aside } = readShellText(this.text + this.decoder.decode(), LATE_MS, null);
    const startMs = [...frames, ...entries].reduce((least, line) => Math.min(least, timeOf(line)), LATE_MS);
    const batches = new FrameBatches();
    const kept: EntryLine[] = [];
    let passedOver = aside.length;
    for (const [i, line] of [...frames, ...entries].entries()) {
      // a thousandth of a ms is a µs: nothing finer is told
      const moved = { ...line, atMs: Math.round((timeOf(line) - startMs) * 1000) / 1000 };
      if (!this.holds(moved)) passedOver++;
      else if (moved.type === 'frames') batches.add(moved, i + 1);
      else kept.push(moved as EntryLine);
    }
    if (kept.length > MOST_LINES)
      throw new LogRefused(
        'too-many',
        `The shell output has more than ${MOST_LINES.toLocaleString('en-GB')} readings.`,
        'Split it into parts, or print readings less often.',
      );
    const track = batches.track();
    if (track.frameUs.length === 0 && kept.length === 0) {
      throw new LogRefused(
        'not-a-log',
        'No frames or readings found in the shell output.',
        'See docs/formats.md for the supported content: frame timestamps in ns, battery status, current and voltage, skin thermal zones.',
        1,
      );
    }
    return {
      header: headerOf(this.text, startMs),
      track,
      tally: batches.tally,
      entries: kept,
      passedOver,
      cutOff: false,
    };
  }

  /** A value that nothing can have is passed over, as other lines are. */
  private holds(line: unknown): boolean {
    try {
      return this.check(line) !== null;
    } catch {
      return false;
    }
  }
}

const timeOf = (line: FramesLine | EntryLine): number =>
  line.type === 'frames' ? line.atMs : lineTimeMs(line);

/** When it began, where the text tells the time. */
function headerOf(text: string, startMs: number): RunHeader | null {
  const last = text.split(/\r?\n/).reduce<number | null>((found, row) => shellStampMs(row) ?? found, null);
  return last === null
    ? null
    : { type: 'run', version: 1, startedAt: new Date(last - (LATE_MS - startMs)).toISOString() };
}
