import type { FrameTrack, Gap } from '../frames/track';
import { FrameBatches } from '../runFile/batches';
import { LogRefused } from '../log/refused';
import { lineTimeMs, type EntryLine, type FramesLine } from '../runFile/lines';
import type { UnreadableRow } from '../frames/unreadable';

/** What one source sent, or one's own hand wrote, in the order of its coming. */
export interface SourceLines<E extends { line: EntryLine } = { line: EntryLine }> {
  /** Its id, or any other name of its own. */
  source: string;
  frames: FramesLine[];
  entries: E[];
  /** A person wrote it. */
  byHand: boolean;
}

/** Stands for the source of lines that people wrote. */
export const BY_HAND = 'hand';

/** A stretch of the clock that one source's lines are used for. */
export interface SourceUse {
  measure: 'frames' | 'battery' | 'power' | 'load' | 'refresh' | 'link';
  source: string;
  fromMs: number;
  toMs: number;
}

export interface JoinedRun<E extends { line: EntryLine } = { line: EntryLine }> {
  track: FrameTrack;
  /** In order of time. */
  entries: E[];
  /** Lines that another source's are used for. */
  unused: E[];
  used: SourceUse[];
  rows: { total: number; unreadable: number; listed: UnreadableRow[] };
}

/** Gaps that another source may fill. */
const FILLED_GAP_US = 1e6;
/** Two sources' readings nearer than this say the same thing. */
const SAME_MS = 60_000;
const SHARED = ['battery', 'power', 'load', 'refresh', 'link'] as const;

/**
 * Joins what several sources sent of one run, the best available for every
 * stretch of the clock: frames of the source with most seconds of them, and
 * those of the others where it has a gap of a second or more; battery, power,
 * load, refresh and link of the source with most lines of the kind, and another's
 * where it says nothing for a minute around. Skin readings, rates, marks and
 * spans are kept from all: they name their instrument, and are never mixed.
 * Of several ends a person's counts, else the latest.
 *
 * @param endMs frames and source lines from here on are left out; null for an open end
 * @shown What the figures stand on, with several sources
 * @source docs/method.md, "Several sources"
 * @example
 * joinSources([{ source: 'logger', byHand: false, frames: [{ type: 'frames', atMs: 0, us: [16_667] }], entries: [] }], null).used; // [{ measure: 'frames', source: 'logger', fromMs: 0, toMs: 16.667 }]
 */
export function joinSources<E extends { line: EntryLine }>(
  sources: SourceLines<E>[],
  endMs: number | null,
): JoinedRun<E> {
  const endUs = endMs === null ? Infinity : endMs * 1000;
  const tracks = sources.map((source) => trackOf(source, endUs)).sort((a, b) => b.seconds - a.seconds);
  const pieces: Piece[] = [];
  for (const { pieces: own } of tracks) for (const piece of own) pieces.push(...clip(piece, pieces));
  pieces.sort((a, b) => a.fromUs - b.fromUs);
  const { entries, unused, used } = joinEntries(sources, endMs);
  const rows = { total: 0, unreadable: 0, listed: [] as UnreadableRow[] };
  for (const { batches } of tracks) {
    rows.total += batches.tally.total;
    rows.unreadable += batches.tally.unreadable;
    rows.listed.push(...batches.tally.listed);
  }
  return { track: toTrack(pieces), entries, unused, used: [...usesOf(pieces), ...used], rows };
}

/** Frames of one source that follow one another without a gap. */
interface Piece {
  source: string;
  fromUs: number;
  toUs: number;
  frameUs: Int32Array;
}

interface OwnTrack {
  batches: FrameBatches;
  pieces: Piece[];
  seconds: number;
}

function trackOf({ source, frames }: SourceLines, endUs: number): OwnTrack {
  const batches = new FrameBatches();
  for (const [i, line] of frames.entries()) {
    try {
      batches.add(line, i + 1);
    } catch (error) {
      // lines that overlap were refused when their turn came, and are so again
      if (!(error instanceof LogRefused)) throw error;
    }
  }
  const pieces = piecesOf(source, batches.track(), endUs);
  return { batches, pieces, seconds: pieces.reduce((sum, piece) => sum + piece.toUs - piece.fromUs, 0) };
}

function piecesOf(source: string, { frameUs, gaps }: FrameTrack, endUs: number): Piece[] {
  const pieces: Piece[] = [];
  let fromUs = 0;
  let from = 0;
  for (const gap of [...gaps, { beforeFrame: frameUs.length, lengthUs: 0 }]) {
    let toUs = fromUs;
    let to = from;
    while (to < gap.beforeFrame && toUs < endUs) toUs += frameUs[to++]!;
    if (to > from) pieces.push({ source, fromUs, toUs, frameUs: frameUs.subarray(from, to) });
    if (to < gap.beforeFrame) break;
    from = to;
    fromUs = toUs + gap.lengthUs;
  }
  return pieces;
}

/** The parts of a piece whose frames lie wholly in the gaps that others leave. */
function clip(piece: Piece, taken: Piece[]): Piece[] {
  const busy = taken
    .filter((other) => other.toUs > piece.fromUs && other.fromUs < piece.toUs)
    .sort((a, b) => a.fromUs - b.fromUs);
  // a gap too short to be filled is none
  const free: { fromUs: number; toUs: number }[] = [];
  let fromUs = piece.fromUs;
  for (const other of busy) {
    free.push({ fromUs, toUs: other.fromUs });
    fromUs = Math.max(fromUs, other.toUs);
  }
  free.push({ fromUs, toUs: piece.toUs });
  const parts: Piece[] = [];
  let at = piece.fromUs;
  let i = 0;
  for (const gap of busy.length === 0 ? free : free.filter((one) => one.toUs - one.fromUs >= FILLED_GAP_US)) {
    while (i < piece.frameUs.length && at < gap.fromUs) at += piece.frameUs[i++]!;
    const start = i;
    const startUs = at;
    while (i < piece.frameUs.length && at + piece.frameUs[i]! <= gap.toUs) at += piece.frameUs[i++]!;
    if (i > start)
      parts.push({
        source: piece.source,
        fromUs: startUs,
        toUs: at,
        frameUs: piece.frameUs.subarray(start, i),
      });
  }
  return parts;
}

function toTrack(pieces: Piece[]): FrameTrack {
  const frameUs = new Int32Array(pieces.reduce((sum, piece) => sum + piece.frameUs.length, 0));
  const gaps: Gap[] = [];
  let at = 0;
  let clockUs = 0;
  for (const piece of pieces) {
    // where one source follows another there is a parting, if only of a microsecond
    const lengthUs = piece.fromUs - clockUs;
    if (lengthUs > 0 || at > 0) gaps.push({ beforeFrame: at, lengthUs });
    frameUs.set(piece.frameUs, at);
    at += piece.frameUs.length;
    clockUs = piece.toUs;
  }
  return { frameUs, gaps };
}

function usesOf(pieces: Piece[]): SourceUse[] {
  const uses: SourceUse[] = [];
  for (const { source, fromUs, toUs } of pieces) {
    const last = uses.at(-1);
    if (last?.source === source && fromUs - last.toMs * 1000 < FILLED_GAP_US) last.toMs = toUs / 1000;
    else uses.push({ measure: 'frames', source, fromMs: fromUs / 1000, toMs: toUs / 1000 });
  }
  return uses;
}

function joinEntries<E extends { line: EntryLine }>(
  sources: SourceLines<E>[],
  endMs: number | null,
): Pick<JoinedRun<E>, 'entries' | 'unused' | 'used'> {
  const kept: { entry: E; source: string }[] = [];
  const unused: E[] = [];
  const ends: { entry: E; byHand: boolean }[] = [];
  for (const { source, entries, byHand } of sources) {
    for (const entry of entries) {
      const late = !byHand && endMs !== null && lineTimeMs(entry.line) > endMs;
      if (entry.line.type === 'end') ends.push({ entry, byHand });
      else if (late) unused.push(entry);
      else kept.push({ entry, source });
    }
  }
  const used: SourceUse[] = [];
  const out = new Set<E>();
  for (const measure of SHARED) {
    const lines = kept.filter(({ entry }) => entry.line.type === measure);
    const counts = new Map<string, number>();
    for (const { source } of lines) counts.set(source, (counts.get(source) ?? 0) + 1);
    const order = [...counts.keys()].sort((a, b) => counts.get(b)! - counts.get(a)!);
    const times: number[] = [];
    for (const source of order) {
      const own = lines.filter((line) => line.source === source);
      const free = own.filter(
        ({ entry }) => !times.some((time) => Math.abs(time - lineTimeMs(entry.line)) < SAME_MS),
      );
      for (const line of own) if (!free.includes(line)) out.add(line.entry);
      const at = free.map(({ entry }) => lineTimeMs(entry.line));
      times.push(...at);
      if (at.length > 0)
        used.push({
          measure,
          source,
          fromMs: at.reduce((a, b) => Math.min(a, b)),
          toMs: at.reduce((a, b) => Math.max(a, b)),
        });
    }
  }
  const end = ends.filter((one) => one.byHand).at(-1) ?? ends.at(-1);
  unused.push(...out, ...ends.filter((one) => one !== end).map((one) => one.entry));
  const all = kept.filter(({ entry }) => !out.has(entry)).map(({ entry }) => entry);
  if (end) all.push(end.entry);
  return { entries: all.sort((a, b) => lineTimeMs(a.line) - lineTimeMs(b.line)), unused, used };
}
