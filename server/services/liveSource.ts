import {
  EXCLUDING_SPANS,
  FrameBatches,
  LiveRun,
  LogRefused,
  SPAN_KINDS,
  lineTimeMs,
  parseLine,
  type EntryLine,
  type FramesLine,
  type RunLine,
  type SpanUs,
} from '@pace-check/core';
import { checkRunLine, type LivePace } from '@pace-check/contract';
import { framesOf } from '../frames/batchCodec';
import type { BatchRow, SourceRow } from '../sql/recordings';

/** Batches that may wait for one before them, and bytes of their text. */
const MOST_HELD = 256;
const MOST_HELD_BYTES = 16 * 1024 * 1024;
/** Refusals that are kept to be shown. */
const SHOWN_REFUSALS = 8;
/** Splits of a run that goes on. */
const SPLIT_MINUTES = 5;
/** A line of frames with more unreadable ones than this share is nonsense. */
const MOST_UNREADABLE = 0.5;

/** One line of a batch: what it is, or why it is refused. */
export interface CheckedLine {
  /** In its batch, from 1. */
  number: number;
  line: RunLine | null;
  reason: string | null;
}

/**
 * Checks a batch line by line. A line of unknown type or kind is neither taken nor refused.
 *
 * @param byMs what is added to its times to have them by the run's clock: a source's own may count from anywhere
 */
export function checkLines(text: string, byMs = 0): CheckedLine[] {
  return text.split('\n').flatMap((raw, i) => (raw.trim() === '' ? [] : checkLine(raw, i + 1, byMs)));
}

function checkLine(raw: string, number: number, byMs: number): CheckedLine {
  let value: unknown;
  try {
    value = shifted(parseLine(raw), byMs);
  } catch {
    return { number, line: null, reason: 'it is not a JSON object' };
  }
  if (isBefore(value)) return { number, line: null, reason: 'it is before the start of the run' };
  try {
    const line = checkRunLine(value);
    if (line?.type === 'frames' && isNonsense(line))
      return {
        number,
        line: null,
        reason: 'most frame times are impossible: use microseconds, above 0 and up to 600,000,000',
      };
    return {
      number,
      line: line?.type === 'span' && !SPAN_KINDS.includes(line.kind) ? null : line,
      reason: null,
    };
  } catch (error) {
    return { number, line: null, reason: error instanceof Error ? error.message : String(error) };
  }
}

const isNonsense = ({ us }: FramesLine): boolean =>
  us.filter((value) => value === null || value <= 0 || value > 600e6).length > MOST_UNREADABLE * us.length;

/** When a line happened, ms on the clock that it is told by; null for a header. */
export const timeOf = (line: RunLine): number | null =>
  line.type === 'run' ? null : line.type === 'frames' ? line.atMs : lineTimeMs(line);

/** The same line, told by the run's clock; a span that began before the start begins with it. What is no time stays for the check to refuse. */
export function shifted(line: unknown, byMs: number): unknown {
  if (byMs === 0 || typeof line !== 'object' || line === null) return line;
  const moved: Record<string, unknown> = { ...line };
  if (typeof moved['atMs'] === 'number') moved['atMs'] += byMs;
  for (const end of ['fromMs', 'toMs'])
    if (typeof moved[end] === 'number') moved[end] = Math.max(0, moved[end] + byMs);
  return moved;
}

const isBefore = (line: unknown): boolean =>
  typeof line === 'object' &&
  line !== null &&
  'atMs' in line &&
  typeof line.atMs === 'number' &&
  line.atMs < 0;

/**
 * A source while its run goes on: its frames in their order, figures of them,
 * and batches that came before their turn. The database holds all of it; this
 * is what a server that starts anew makes of that.
 */
export class LiveSource {
  /** Batches that came before their turn, by number. */
  private readonly early = new Map<number, FramesLine[]>();
  /** Of the text that those batches came in. */
  private earlyBytes = 0;
  private batches = new FrameBatches();
  private live: LiveRun;
  /** A batch is being stored: until it is, this is ahead of the database. */
  storing = false;

  constructor(
    private stored: SourceRow,
    batches: BatchRow[],
    private excluded: SpanUs[],
  ) {
    this.live = new LiveRun(SPLIT_MINUTES, excluded);
    this.follows(batches);
  }

  get row(): SourceRow {
    return this.stored;
  }

  /**
   * Follows what another process has stored since.
   *
   * @param batches from the one that was waited for on
   * @returns false where some were packed meanwhile with those that are known: it must begin anew
   */
  catchUp(row: SourceRow, batches: BatchRow[]): boolean {
    const { next } = this.stored;
    if (batches.some((batch) => batch.seq < next)) return false;
    this.stored = row;
    this.follows(batches);
    return true;
  }

  private follows(batches: BatchRow[]): void {
    for (const batch of batches) {
      if (batch.seq < this.row.next) {
        this.early.delete(batch.seq);
        this.follow(framesOf(batch), batch.seq, false);
      } else if (!this.early.has(batch.seq)) this.hold(batch.seq, framesOf(batch), batch.frames.length);
    }
    if (this.early.size === 0) this.earlyBytes = 0;
  }

  get held(): number {
    return this.early.size;
  }

  /** Whether a batch is here that came before its turn. */
  holds(seq: number): boolean {
    return this.early.has(seq);
  }

  /** No more batches may come before their turn. */
  get full(): boolean {
    return this.early.size >= MOST_HELD || this.earlyBytes >= MOST_HELD_BYTES;
  }

  private hold(seq: number, lines: FramesLine[], bytes: number): void {
    this.early.set(seq, lines);
    this.earlyBytes += bytes;
  }

  /**
   * Takes a batch's frames: at once where it is its turn, else when it is.
   *
   * @param bytes of its text
   * @returns the lines that follow nothing, or are more than a run may hold
   */
  take(seq: number, lines: FramesLine[], bytes: number): { line: FramesLine; reason: string }[] {
    if (seq > this.row.next) {
      this.hold(seq, lines, bytes);
      return [];
    }
    const refused = this.follow(lines, seq, true);
    this.row.next++;
    for (let next = this.early.get(this.row.next); next; next = this.early.get(this.row.next)) {
      this.early.delete(this.row.next);
      for (const { reason } of this.follow(next, this.row.next, true)) this.refuse(this.row.next, 0, reason);
      this.row.next++;
    }
    // what still waits is little beside what a batch may be: counted anew when none does
    if (this.early.size === 0) this.earlyBytes = 0;
    return refused;
  }

  private follow(
    lines: FramesLine[],
    seq: number,
    counting: boolean,
  ): { line: FramesLine; reason: string }[] {
    const refused: { line: FramesLine; reason: string }[] = [];
    for (const line of lines) {
      try {
        const { gapUs, us } = this.batches.add(line, seq);
        if (gapUs > 0) this.live.gap(gapUs);
        this.live.push(us);
        if (counting) this.row.frames += us.length;
      } catch (error) {
        if (!(error instanceof LogRefused)) throw error;
        refused.push({
          line,
          reason:
            error.code === 'overlap'
              ? 'its frames start before the previous ones ended'
              : withoutLine(error.message),
        });
      }
    }
    return refused;
  }

  refuse(batch: number, line: number, reason: string): void {
    this.row.refused++;
    this.row.refusals = [...this.row.refusals, { batch, line, reason }].slice(-SHOWN_REFUSALS);
  }

  /** Where spans changed, the figures are made anew from all frames. */
  exclude(excluded: SpanUs[]): void {
    if (JSON.stringify(excluded) === JSON.stringify(this.excluded)) return;
    this.excluded = excluded;
    this.live = new LiveRun(SPLIT_MINUTES, excluded);
    const { frameUs, gaps } = this.batches.track();
    let from = 0;
    for (const gap of gaps) {
      this.live.push(frameUs.subarray(from, gap.beforeFrame));
      this.live.gap(gap.lengthUs);
      from = gap.beforeFrame;
    }
    this.live.push(frameUs.subarray(from));
  }

  pace(): LivePace | null {
    if (this.row.frames === 0) return null;
    const figures = this.live.figures();
    return {
      source: this.row.id,
      heardMs: figures.seconds * 1000,
      figures: { ...figures, recent: figures.recent.map((pace) => pace && Math.round(pace * 100) / 100) },
    };
  }
}

/** The place in the batch is told beside it. */
const withoutLine = (message: string): string => message.replace(/^Line \d+: /, '').replace(/\.$/, '');

/** What keeps frames out of the figures while the run goes on. */
export function excludedSpans(entries: { line: EntryLine; open: boolean }[]): SpanUs[] {
  return entries.flatMap(({ line, open }) =>
    line.type === 'span' && EXCLUDING_SPANS.includes(line.kind)
      ? { fromUs: Math.round(line.fromMs * 1000), toUs: open ? Infinity : Math.round(line.toMs * 1000) }
      : [],
  );
}
