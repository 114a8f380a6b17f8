import { EXCLUDING_SPANS, FrameBatches, LiveRun, LogRefused, SPAN_KINDS, lineTimeMs, type EntryLine, type FramesLine, type RunLine, type SpanUs } from '@pace-check/core';
import { checkRunLine, type LivePace } from '@pace-check/contract';
import { framesOf } from '../frames/batchCodec';
import type { BatchRow, SourceRow } from '../sql/recordings';

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

/** Checks a batch line by line. A line of unknown type or kind is neither taken nor refused. */
export function checkLines(text: string): CheckedLine[] {
  return text.split('\n').flatMap((raw, i) => (raw.trim() === '' ? [] : checkLine(raw, i + 1)));
}

function checkLine(raw: string, number: number): CheckedLine {
  let value: unknown;
  try {
    value = JSON.parse(raw);
  } catch {
    return { number, line: null, reason: 'it is no JSON object' };
  }
  try {
    const line = checkRunLine(value);
    if (line?.type === 'frames' && isNonsense(line)) return { number, line: null, reason: 'most of its frame times cannot be: they are microseconds, above 0 and up to 600,000,000' };
    return { number, line: line?.type === 'span' && !SPAN_KINDS.includes(line.kind) ? null : line, reason: null };
  } catch (error) {
    return { number, line: null, reason: error instanceof Error ? error.message : String(error) };
  }
}

const isNonsense = ({ us }: FramesLine): boolean => us.filter((value) => value === null || value <= 0 || value > 600e6).length > MOST_UNREADABLE * us.length;

/** When a line happened, ms on the clock that it is told by; null for a header. */
export const timeOf = (line: RunLine): number | null => (line.type === 'run' ? null : line.type === 'frames' ? line.atMs : lineTimeMs(line));

/** The same line, told by the run's clock. */
export function shifted(line: RunLine, byMs: number): RunLine {
  if (byMs === 0 || line.type === 'run') return line;
  if (line.type === 'span') return { ...line, fromMs: Math.max(0, line.fromMs + byMs), toMs: Math.max(0, line.toMs + byMs) };
  return { ...line, atMs: line.atMs + byMs };
}

/**
 * A source while its run goes on: its frames in their order, figures of them,
 * and batches that came before their turn. The database holds all of it; this
 * is what a server that starts anew makes of that.
 */
export class LiveSource {
  /** Batches that came before their turn, by number. */
  private readonly early = new Map<number, FramesLine[]>();
  private batches = new FrameBatches();
  private live: LiveRun;

  constructor(
    readonly row: SourceRow,
    stored: BatchRow[],
    private excluded: SpanUs[],
  ) {
    this.live = new LiveRun(SPLIT_MINUTES, excluded);
    for (const batch of stored) {
      if (batch.seq < row.next) this.follow(framesOf(batch), batch.seq, false);
      else this.early.set(batch.seq, framesOf(batch));
    }
  }

  get held(): number {
    return this.early.size;
  }

  /** Takes a batch's frames: at once where it is its turn, else when it is. @returns the lines that follow nothing */
  take(seq: number, lines: FramesLine[]): { line: FramesLine; reason: string }[] {
    if (seq > this.row.next) {
      this.early.set(seq, lines);
      return [];
    }
    const refused = this.follow(lines, seq, true);
    this.row.next++;
    for (let next = this.early.get(this.row.next); next; next = this.early.get(this.row.next)) {
      this.early.delete(this.row.next);
      for (const { reason } of this.follow(next, this.row.next, true)) this.refuse(this.row.next, 0, reason);
      this.row.next++;
    }
    return refused;
  }

  private follow(lines: FramesLine[], seq: number, counting: boolean): { line: FramesLine; reason: string }[] {
    const refused: { line: FramesLine; reason: string }[] = [];
    for (const line of lines) {
      try {
        const { gapUs, us } = this.batches.add(line, seq);
        if (gapUs > 0) this.live.gap(gapUs);
        this.live.push(us);
        if (counting) this.row.frames += us.length;
      } catch (error) {
        if (!(error instanceof LogRefused)) throw error;
        refused.push({ line, reason: 'its frames start before those that came before them have ended' });
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
    return { source: this.row.id, heardMs: figures.seconds * 1000, figures: { ...figures, recent: figures.recent.map((pace) => pace && Math.round(pace * 100) / 100) } };
  }
}

/** What keeps frames out of the figures while the run goes on. */
export function excludedSpans(entries: { line: EntryLine; open: boolean }[]): SpanUs[] {
  return entries.flatMap(({ line, open }) => (line.type === 'span' && EXCLUDING_SPANS.includes(line.kind) ? { fromUs: Math.round(line.fromMs * 1000), toUs: open ? Infinity : Math.round(line.toMs * 1000) } : []));
}

