import type { RunFacts, RunInput } from '../figures/model';
import type { FrameTrack } from '../frames/track';
import { MOST_SPOTS } from '../limits';
import type { SpanUs } from '../figures/session';
import type { RateReading, SpeedReading, Summary } from '../figures/readings';
import { endsOf, type Ends } from '../readOff/ends';
import { factEnds } from '../readOff/readFigures';
import { CONDITION_SPANS, EXCLUDING_SPANS } from '../vocabulary';
import type { EntryLine, RateLine, RunHeader, SpeedLine, SummaryLine } from './lines';
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

/** A title with its setup, by which what is played is told apart. */
export const playedName = (title: string, setup: string | null | undefined): string =>
  setup === undefined || setup === null ? title : `${title} (${setup})`;

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
  played: header?.title === undefined ? null : playedName(header.title, header.setup),
  scene: header?.scene ?? null,
  bars: null,
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
  const refreshHz = facts.refreshHz ?? ofType(entries, 'refresh')[0]?.hz ?? null;
  const summaries = ofType(entries, 'summary').map(toSummary);
  const end = ofType(entries, 'end').at(-1) ?? null;
  return {
    ...facts,
    refreshHz,
    track,
    droppedRows: dropped,
    cutOff,
    excluded: spans.filter((span) => EXCLUDING_SPANS.includes(span.kind)).map(toUs),
    loading: spans.filter((span) => span.kind === 'loading').map(toUs),
    pauses: spans.filter((span) => span.kind === 'pause').map(toUs),
    charging: spans.filter((span) => span.kind === 'charging').map(toUs),
    conditionSpans: spans
      .filter((span) => CONDITION_SPANS.includes(span.kind))
      .map((span) => ({ kind: span.kind, ...toUs(span) })),
    titles: [
      ...(facts.played === null ? [] : [{ atS: 0, name: facts.played }]),
      ...inTime(ofType(entries, 'title')).map((line) => ({
        atS: line.atMs / 1000,
        name: playedName(line.title, line.setup),
      })),
    ],
    sceneChanges: [
      ...(facts.scene === null ? [] : [{ atMs: 0, scene: facts.scene }]),
      ...inTime(ofType(entries, 'scene')).map(({ atMs, scene }) => ({ atMs, scene })),
    ],
    skin: ofType(entries, 'skin').filter((reading) => spots.has(reading.spot)),
    battery: ofType(entries, 'battery').map((reading) => ({
      ...reading,
      charging: reading.charging ?? false,
    })),
    power: ofType(entries, 'power'),
    loads: ofType(entries, 'load'),
    links: ofType(entries, 'link'),
    rates: ofType(entries, 'rate').flatMap((line) => toRate(line, refreshHz)),
    summaries,
    speeds: ofType(entries, 'speed').flatMap(toSpeed),
    smooth: ofType(entries, 'smooth').map(({ atMs, word, by, scene }) => ({
      atMs: atMs ?? null,
      word,
      by,
      scene: scene ?? null,
    })),
    chip: ofType(entries, 'chip'),
    marks: inTime(ofType(entries, 'mark')).map(({ atMs, kind, note }) => ({
      atMs,
      kind,
      ...(note === undefined ? {} : { note }),
    })),
    end,
    withoutFramesMs:
      end?.atMs ??
      Math.max(lastLineMs(entries), ...summaries.map((summary) => (summary.minutes ?? 0) * 60_000)),
  };
}

const inTime = <T extends { atMs: number }>(lines: T[]): T[] => [...lines].sort((a, b) => a.atMs - b.atMs);

function toRate(line: RateLine, panelHz: number | null): RateReading[] {
  const { atMs, fps, low, high, by, scene, digits } = line;
  const ends = endsOf({ value: fps, low, high, by, decimals: digits?.fps }, panelHz);
  return ends === null ? [] : [{ atMs: atMs ?? null, fps: fps ?? null, ends, by, scene: scene ?? null }];
}

function toSpeed(line: SpeedLine): SpeedReading[] {
  const { atMs, percent, low, high, by, scene, digits } = line;
  const ends = endsOf({ value: percent, low, high, by, decimals: digits?.percent }, null);
  return ends === null ? [] : [{ atMs: atMs ?? null, ends, by, scene: scene ?? null }];
}

function toSummary(line: SummaryLine): Summary {
  const { by, digits } = line;
  const fact = (name: 'median' | 'hold' | 'onePercent'): Ends | null =>
    line[name] === undefined ? null : factEnds(line[name], digits?.[name]);
  return {
    by,
    average: endsOf({ value: line.average, by, decimals: digits?.average }, null),
    median: fact('median'),
    hold: fact('hold'),
    onePercent: fact('onePercent'),
    lowest: line.lowest ?? null,
    highest: line.highest ?? null,
    minutes: line.minutes ?? null,
    scene: line.scene ?? null,
  };
}
