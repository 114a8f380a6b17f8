import { frameStartsUs, type FrameTrack, type Gap } from '../frames/track';
import type { EntryLine } from '../runFile/lines';

/** A stretch of a sitting that is looked at as a run of its own. */
export interface PartSpan {
  fromMs: number;
  toMs: number;
  /** It is the last of the sitting: the sitting's end is its own. */
  last: boolean;
}

/**
 * The frames that start within a stretch, on a clock that begins with it; what
 * lies before the first of them is a gap.
 *
 * @source docs/method.md, "Several titles on one clock"
 * @example
 * partOfTrack({ frameUs: Int32Array.of(10_000, 20_000, 10_000), gaps: [] }, { fromMs: 5, toMs: 40, last: true }).frameUs; // Int32Array [20000, 10000]
 */
export function partOfTrack(track: FrameTrack, { fromMs, toMs, last }: PartSpan): FrameTrack {
  const starts = frameStartsUs(track);
  const from = firstFrom(starts, fromMs * 1000);
  // what is logged after the last line is the last title's
  const to = last ? track.frameUs.length : firstFrom(starts, toMs * 1000);
  const beforeUs = from < to ? Math.round(starts[from]! - fromMs * 1000) : 0;
  const gaps: Gap[] = beforeUs > 0 ? [{ beforeFrame: 0, lengthUs: beforeUs }] : [];
  for (const { beforeFrame, lengthUs } of track.gaps)
    if (beforeFrame > from && beforeFrame < to) gaps.push({ beforeFrame: beforeFrame - from, lengthUs });
  return { frameUs: track.frameUs.slice(from, Math.max(from, to)), gaps };
}

/** The first frame that starts at a time or later. */
function firstFrom(startsUs: Float64Array, atUs: number): number {
  let [low, high] = [0, startsUs.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (startsUs[middle]! < atUs) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * The lines of a stretch, on a clock that begins with it. A span that reaches
 * over an end of it is cut there; the panel's rate that held before still does;
 * a line without a time says nothing of one title among several, and is left out.
 *
 * @source docs/method.md, "Several titles on one clock"
 * @example
 * partOfLines([{ type: 'battery', atMs: 60_000, percent: 90 }], { fromMs: 50_000, toMs: 90_000, last: true }); // [{ type: 'battery', atMs: 10_000, percent: 90 }]
 */
export function partOfLines(entries: readonly EntryLine[], { fromMs, toMs, last }: PartSpan): EntryLine[] {
  const within = (atMs: number): boolean => atMs >= fromMs && (last || atMs < toMs);
  const lines: EntryLine[] = [];
  const ofBefore = entries.filter((line) => line.type === 'refresh' && line.atMs < fromMs);
  const hz = ofBefore.at(-1);
  if (hz?.type === 'refresh') lines.push({ ...hz, atMs: 0 });
  let ended = false;
  for (const line of entries) {
    if (line.type === 'title') continue;
    if (line.type === 'span') {
      const span = {
        ...line,
        fromMs: Math.max(line.fromMs, fromMs),
        toMs: last ? line.toMs : Math.min(line.toMs, toMs),
      };
      if (span.toMs > span.fromMs)
        lines.push({ ...span, fromMs: span.fromMs - fromMs, toMs: span.toMs - fromMs });
      continue;
    }
    if (line.atMs === undefined || !within(line.atMs)) continue;
    const shifted = { ...line, atMs: line.atMs - fromMs };
    if (shifted.type === 'end') {
      ended = true;
      if (shifted.lowMs !== undefined) shifted.lowMs = Math.max(0, shifted.lowMs - fromMs);
      if (shifted.highMs !== undefined) shifted.highMs -= fromMs;
    }
    lines.push(shifted);
  }
  // the next title was meant to come
  if (!last && !ended) lines.push({ type: 'end', atMs: toMs - fromMs, reason: 'planned' });
  return lines;
}
