import type { FrameTrack } from '../frames/track';
import type { RowTally } from '../frames/unreadable';
import type { EntryLine, RunHeader } from '../runFile/lines';
import { ShellTextReader } from '../shell/shellFile';
import { RunFileReader, type CheckLine } from '../runFile/readRunFile';
import { guessColumns, type ColumnChoice, type ColumnGuess } from './guess';
import { LogReader, type RowLayout } from './readLog';
import { LogRefused } from './refused';
import { fileKind, HEAD_BYTES, sniffLayout, type FileKind, type TextLayout } from './sniff';

/** What the first bytes tell of a file. */
export type HeadView =
  { kind: 'run-file' | 'shell-text' } | { kind: 'delimited'; layout: TextLayout; guesses: ColumnGuess[] };

/**
 * Looks at the first bytes of an unpacked file.
 *
 * @param head at most about {@link HEAD_BYTES}
 * @param whole whether that is the whole file
 * @param given delimiter or decimal mark that the person has decided
 * @throws LogRefused where it is no log at all
 */
export function viewHead(
  head: Uint8Array,
  whole: boolean,
  given?: Parameters<typeof sniffLayout>[2],
): HeadView {
  const kind = fileKind(head);
  if (kind !== 'delimited') return { kind };
  const layout = sniffLayout(head, whole, given);
  return { kind: 'delimited', layout, guesses: guessColumns(layout) };
}

/** A file of any kind, read to its end. */
export interface ReadRun {
  kind: FileKind;
  header: RunHeader | null;
  track: FrameTrack;
  tally: RowTally;
  entries: EntryLine[];
  passedOver: number;
  cutOff: boolean;
}

export interface ReadRunOptions {
  /** How a delimited log is read: as decided, by a rule for its layout, or (null) by the best guess. */
  reading: { layout: RowLayout; choice: ColumnChoice } | ((layout: TextLayout) => ColumnChoice) | null;
  checkLine: CheckLine;
  /** Called with the bytes read so far. */
  onBytes?: (bytes: number) => void;
  /** Bytes beyond which the file is refused. */
  largest: number;
}

type Reader = RunFileReader | ShellTextReader | LogReader;

/**
 * Reads a frame log, a run file or a shell's text from unpacked bytes as they come.
 *
 * @throws LogRefused with place and remedy; nothing is kept then
 */
export async function readRun(chunks: AsyncIterable<Uint8Array>, options: ReadRunOptions): Promise<ReadRun> {
  let reader: Reader | null = null;
  let head: Uint8Array[] = [];
  let bytes = 0;
  const open = (whole: boolean): Reader => {
    const start = concat(head);
    const opened = readerFor(start, whole, options);
    opened.push(start);
    head = [];
    return opened;
  };
  for await (const chunk of chunks) {
    bytes += chunk.length;
    if (bytes > options.largest) throw tooLarge(options.largest);
    if (reader) reader.push(chunk);
    else {
      head.push(chunk);
      if (bytes >= HEAD_BYTES) reader = open(false);
    }
    options.onBytes?.(bytes);
  }
  reader ??= open(true);
  if (reader instanceof RunFileReader) return { kind: 'run-file', ...reader.finish() };
  if (reader instanceof ShellTextReader) return { kind: 'shell-text', ...reader.finish() };
  return { kind: 'delimited', header: null, entries: [], passedOver: 0, cutOff: false, ...reader.finish() };
}

function readerFor(head: Uint8Array, whole: boolean, options: ReadRunOptions): Reader {
  const kind = fileKind(head.subarray(0, HEAD_BYTES));
  if (kind === 'run-file') return new RunFileReader(options.checkLine);
  if (kind === 'shell-text') return new ShellTextReader(options.checkLine);
  const { reading } = options;
  if (reading && typeof reading === 'object') return new LogReader(reading.layout, reading.choice);
  const layout = sniffLayout(head.subarray(0, HEAD_BYTES), whole);
  const choice = reading ? reading(layout) : guessColumns(layout)[0];
  if (!choice) throw noUsableColumn(layout);
  return new LogReader(layout, choice);
}

export const tooLarge = (largest: number): LogRefused =>
  new LogRefused(
    'too-large',
    `The file is larger than ${Math.round(largest / 1024 / 1024)} MB.`,
    'Cut the log into parts, or export only the column with the frame times.',
  );

/** No column looks like frames: says which columns there are. */
export function noUsableColumn(layout: TextLayout): LogRefused {
  const columns = layout.headings.map((heading) => `“${heading}”`).join(', ');
  return new LogRefused(
    'no-usable-column',
    `No column looks like frame times or timestamps. Columns found: ${columns}.`,
    'Choose the column yourself, or export the log with frame times.',
    layout.headingLine ?? layout.firstLine,
  );
}

function concat(parts: Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
