import type { RunInput } from '../analyse';
import type { FrameTrack } from '../frames/track';
import type { SpanUs } from '../session';
import type { SplitMinutes } from '../splits';
import { EXCLUDING_SPANS, type EntryLine } from './lines';
import { lastLineMs } from './readRunFile';

/** What is known of a run beside its lines. */
export interface RunFacts {
  target: number | null;
  batteryWh: number | null;
  splitMinutes: SplitMinutes | null;
}

const ofType = <T extends EntryLine['type']>(entries: EntryLine[], type: T): Extract<EntryLine, { type: T }>[] =>
  entries.filter((line): line is Extract<EntryLine, { type: T }> => line.type === type);

/**
 * Brings frames, lines and facts into the form that `analyse` takes.
 *
 * @param dropped rows that could not be read
 * @example
 * runInput(EMPTY_TRACK, 0, [{ type: 'end', atMs: 5000, reason: 'would-not-start' }], { target: 60, batteryWh: null, splitMinutes: null }).end?.reason; // 'would-not-start'
 */
export function runInput(track: FrameTrack, dropped: number, entries: EntryLine[], facts: RunFacts): RunInput {
  const spans = ofType(entries, 'span');
  const toUs = (span: { fromMs: number; toMs: number }): SpanUs => ({ fromUs: Math.round(span.fromMs * 1000), toUs: Math.round(span.toMs * 1000) });
  return {
    track,
    droppedRows: dropped,
    excluded: spans.filter((span) => EXCLUDING_SPANS.includes(span.kind)).map(toUs),
    charging: spans.filter((span) => span.kind === 'charging').map(toUs),
    skin: ofType(entries, 'skin'),
    battery: ofType(entries, 'battery').map((reading) => ({ ...reading, charging: reading.charging ?? false })),
    power: ofType(entries, 'power'),
    rates: ofType(entries, 'rate'),
    end: ofType(entries, 'end').at(-1) ?? null,
    lastLineMs: lastLineMs(entries),
    ...facts,
  };
}
