import type { RunFacts, RunInput } from '../figures/model';
import type { FrameTrack } from '../frames/track';
import { MOST_SPOTS } from '../limits';
import type { SpanUs } from '../figures/session';
import { EXCLUDING_SPANS } from '../vocabulary';
import type { EntryLine, RunHeader } from './lines';
import { lastLineMs } from './readRunFile';

const ofType = <T extends EntryLine['type']>(
  entries: EntryLine[],
  type: T,
): Extract<EntryLine, { type: T }>[] =>
  entries.filter((line): line is Extract<EntryLine, { type: T }> => line.type === type);

/** What a file gave beside its frames. */
export interface FileRemains {
  /** Rows that could not be read. */
  dropped: number;
  /** Its last line was cut off. */
  cutOff: boolean;
  entries: EntryLine[];
}

/** What a run file's header says; nothing of it where there is none. */
export const factsOf = (header: RunHeader | null): RunFacts => ({
  target: header?.target ?? null,
  refreshHz: header?.refresh ?? null,
  native: header?.native ?? null,
  need: header?.need ?? null,
  roomC: header?.room ?? null,
  batteryWh: header?.batteryWh ?? null,
  conditions: header?.conditions ?? [],
  splitMinutes: null,
});

/**
 * Brings frames, lines and facts into the form that `analyse` takes. Where the
 * facts name no refresh rate, the first `refresh` line does. (A run read from a
 * file has no more than {@link MOST_SPOTS} spots; of what is stored from before, the first so many count.)
 *
 * @example
 * runInput(EMPTY_TRACK, { dropped: 0, cutOff: false, entries: [{ type: 'end', atMs: 5000, reason: 'would-not-start' }] }, factsOf(null)).end.reason; // 'would-not-start'
 */
export function runInput(
  track: FrameTrack,
  { dropped, cutOff, entries }: FileRemains,
  facts: RunFacts,
): RunInput {
  const spans = ofType(entries, 'span');
  const spots = new Set(
    [...new Set(ofType(entries, 'skin').map((reading) => reading.spot))].slice(0, MOST_SPOTS),
  );
  const toUs = (span: { fromMs: number; toMs: number }): SpanUs => ({
    fromUs: Math.round(span.fromMs * 1000),
    toUs: Math.round(span.toMs * 1000),
  });
  return {
    ...facts,
    refreshHz: facts.refreshHz ?? ofType(entries, 'refresh')[0]?.hz ?? null,
    track,
    droppedRows: dropped,
    cutOff,
    excluded: spans.filter((span) => EXCLUDING_SPANS.includes(span.kind)).map(toUs),
    charging: spans.filter((span) => span.kind === 'charging').map(toUs),
    skin: ofType(entries, 'skin').filter((reading) => spots.has(reading.spot)),
    battery: ofType(entries, 'battery').map((reading) => ({
      ...reading,
      charging: reading.charging ?? false,
    })),
    power: ofType(entries, 'power'),
    loads: ofType(entries, 'load'),
    rates: ofType(entries, 'rate'),
    marks: ofType(entries, 'mark'),
    end: ofType(entries, 'end').at(-1) ?? null,
    lastLineMs: lastLineMs(entries),
  };
}
