import { middleOf, type Ends } from '../readOff/ends';
import { readStretch } from '../readOff/readFigures';
import type { ReadSaid } from '../readOff/readSaid';
import { averagePace } from './pace';
import type { RateReading } from './readings';
import { firstAtLeast, type Session, type SpanUs } from './session';

/** A stretch of a run, and the best that is known of its pace. */
export interface Covered {
  fromS: number;
  toS: number;
  /** Frames, rates read off something, rates by eye, or nothing. */
  from: 'frames' | 'read' | 'eye' | 'none';
  /** fps; of what was read the middle, for computing. */
  average: number | null;
  /** Its ends; null for frames. */
  interval: Ends | null;
  /** Rates that were read in it. */
  readings: number;
  /** What was read, as it was written; null where frames were logged. */
  said: ReadSaid | null;
}

/** Shorter gaps are no stretch of their own. */
const STRETCH_US = 1e6;
/** Gaps that part a run in two stretches, at most; a shorter one lies within a stretch of frames then. */
const MOST_GAPS = 200;

/**
 * What the pace of each stretch of a run is known from: frames where there are
 * any, else the rates that were read off meanwhile. Only frames enter the
 * figures of a run that has some; this says what there is beside them.
 *
 * @param rates plausible rates
 * @param endUs when the run ended, by its end line or its last line
 * @shown what the pace stands on
 * @source docs/method.md, "Several sources"
 * @example
 * coverage(prepareSession({ frameUs: Int32Array.of(), gaps: [] }), [{ atMs: 5000, fps: 40, ends: { low: 39.5, high: 40.5 }, by: 'overlay', scene: null }], 60e6)[0].average; // 40
 */
export function coverage(session: Session, rates: RateReading[], endUs: number): Covered[] {
  const covered: Covered[] = [];
  let fromUs = 0;
  const gaps = longestGaps(session.gaps.filter((gap) => gap.toUs - gap.fromUs >= STRETCH_US));
  for (const gap of gaps) {
    if (gap.fromUs > fromUs) covered.push(ofFrames(session, { fromUs, toUs: gap.fromUs }));
    covered.push(ofRates(rates, gap));
    fromUs = gap.toUs;
  }
  if (session.endUs > fromUs) covered.push(ofFrames(session, { fromUs, toUs: session.endUs }));
  const lastUs = Math.max(fromUs, session.endUs);
  if (endUs - lastUs >= STRETCH_US) covered.push(ofRates(rates, { fromUs: lastUs, toUs: endUs }));
  return covered;
}

/** The longest, in their order, where there are more than anybody reads. */
function longestGaps(gaps: SpanUs[]): SpanUs[] {
  if (gaps.length <= MOST_GAPS) return gaps;
  const length = (gap: SpanUs): number => gap.toUs - gap.fromUs;
  const kept = new Set([...gaps].sort((a, b) => length(b) - length(a)).slice(0, MOST_GAPS));
  return gaps.filter((gap) => kept.has(gap));
}

function ofFrames({ leftUs, leftStartsUs }: Session, { fromUs, toUs }: SpanUs): Covered {
  const first = firstAtLeast(leftStartsUs, fromUs);
  const end = firstAtLeast(leftStartsUs, toUs);
  const count = end - first;
  let totalUs = 0;
  for (let i = first; i < end; i++) totalUs += leftUs[i]!;
  return {
    fromS: fromUs / 1e6,
    toS: toUs / 1e6,
    from: 'frames',
    average: averagePace(count, totalUs),
    interval: null,
    readings: 0,
    said: null,
  };
}

function ofRates(rates: RateReading[], { fromUs, toUs }: SpanUs): Covered {
  const inside = rates.filter(({ atMs }) => atMs !== null && atMs * 1000 >= fromUs && atMs * 1000 <= toUs);
  const read = readStretch(
    { rates: inside, summaries: [], speeds: [], native: null },
    { seconds: (toUs - fromUs) / 1e6, panelHz: null, native: null },
  );
  return {
    fromS: fromUs / 1e6,
    toS: toUs / 1e6,
    from: read?.leads ?? 'none',
    average: middleOf(read?.average ?? null),
    interval: read?.average ?? null,
    readings: read?.readings ?? 0,
    said: read?.said ?? null,
  };
}
