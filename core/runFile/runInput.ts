import type { RunFacts, RunInput } from '../figures/model';
import type { FrameTrack } from '../frames/track';
import { MOST_SPOTS } from '../limits';
import type { SpanUs } from '../figures/session';
import type { RateReading, SpeedReading, Summary } from '../figures/readings';
import { aboutEnds, endsOf, factEnds, type Ends } from '../readOff/ends';
import { writtenValue } from '../readOff/written';
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
  const named = ofType(entries, 'refresh').map(({ hz }) => hz);
  const refreshHz = facts.refreshHz ?? named[0] ?? null;
  const panelHz = facts.panelSaid ? refreshHz : highest([facts.refreshHz, ...named]);
  const sceneChanges = [
    ...(facts.scene === null ? [] : [{ atMs: 0, scene: facts.scene }]),
    ...inTime(ofType(entries, 'scene')).map(({ atMs, scene }) => ({ atMs, scene })),
  ];
  const placed = <R extends { atMs: number | null; scene: string | null }>(reading: R): R => ({
    ...reading,
    scene: reading.scene ?? sceneOn(sceneChanges, reading.atMs),
  });
  const summaries = ofType(entries, 'summary').map(toSummary);
  const end = ofType(entries, 'end').at(-1) ?? null;
  return {
    ...facts,
    refreshHz,
    panelHz,
    track,
    droppedRows: dropped,
    cutOff,
    excluded: spans.filter((span) => EXCLUDING_SPANS.includes(span.kind)).map(toUs),
    loading: spans.filter((span) => span.kind === 'loading').map(toUs),
    pauses: spans.filter((span) => span.kind === 'pause').map(toUs),
    charging: spans.filter((span) => span.kind === 'charging').map(toUs),
    conditionSpans: spans
      .filter((span) => CONDITION_SPANS.includes(span.kind))
      .map((span) => ({
        kind: span.kind,
        ...toUs(span),
        ...(span.place === undefined ? {} : { place: span.place }),
        ...(span.plateC === undefined ? {} : { plateC: span.plateC }),
      })),
    titles: [
      ...(facts.played === null ? [] : [{ atS: 0, name: facts.played }]),
      ...inTime(ofType(entries, 'title')).map((line) => ({
        atS: line.atMs / 1000,
        name: playedName(line.title, line.setup),
      })),
    ],
    sceneChanges,
    skin: ofType(entries, 'skin').filter((reading) => spots.has(reading.spot)),
    battery: ofType(entries, 'battery').map((reading) => ({
      ...reading,
      charging: reading.charging ?? false,
    })),
    power: ofType(entries, 'power'),
    loads: ofType(entries, 'load'),
    links: ofType(entries, 'link'),
    rates: ofType(entries, 'rate')
      .flatMap((line) => toRate(line, panelHz))
      .map(placed),
    summaries,
    speeds: ofType(entries, 'speed').flatMap(toSpeed).map(placed),
    feel: ofType(entries, 'feel').map(({ atMs, word, scene }) => ({
      atMs: atMs ?? null,
      word,
      scene: scene ?? null,
    })),
    smooth: ofType(entries, 'smooth').map(({ atMs, word, by, scene }) => ({
      atMs: atMs ?? null,
      word,
      by,
      scene: scene ?? null,
    })),
    chip: ofType(entries, 'chip'),
    marks: inTime(ofType(entries, 'mark')).map(({ atMs, kind, note, whole }) => ({
      atMs,
      kind,
      ...(whole ? { whole } : {}),
      ...(note === undefined ? {} : { note }),
    })),
    end,
    withoutFramesMs: Math.max(
      end?.atMs ?? lastLineMs(entries),
      ...summaries.map((summary) => (summary.minutes ?? 0) * 60_000),
    ),
  };
}

const highest = (rates: (number | null)[]): number | null =>
  rates.reduce((most, rate) => (rate === null || (most !== null && most >= rate) ? most : rate), null);

/** The scene that is on at a time; without a time the only one. */
function sceneOn(changes: RunInput['sceneChanges'], atMs: number | null): string | null {
  if (atMs === null) return changes.length === 1 && changes[0]!.atMs === 0 ? changes[0]!.scene : null;
  return changes.findLast((change) => change.atMs <= atMs)?.scene ?? null;
}

const inTime = <T extends { atMs: number }>(lines: T[]): T[] => [...lines].sort((a, b) => a.atMs - b.atMs);

function toRate(line: RateLine, panelHz: number | null): RateReading[] {
  const { atMs, fps, low, high, by, scene, digits } = line;
  const ends = endsOf({ value: fps, low, high, by, decimals: digits?.fps }, panelHz);
  if (ends === null) return [];
  const written = writtenValue({ value: fps, low, high }, digits?.fps, 'fps');
  return [{ atMs: atMs ?? null, fps: fps ?? null, ends, by, scene: scene ?? null, written }];
}

function toSpeed(line: SpeedLine): SpeedReading[] {
  const { atMs, percent, low, high, by, scene, digits } = line;
  const ends = endsOf({ value: percent, low, high, by, decimals: digits?.percent }, null);
  if (ends === null) return [];
  const written = writtenValue({ value: percent, low, high }, digits?.percent, '% speed');
  return [{ atMs: atMs ?? null, ends, by, scene: scene ?? null, written }];
}

function toSummary(line: SummaryLine): Summary {
  const { by, digits, about = [] } = line;
  const fact = (name: 'median' | 'hold' | 'onePercent' | 'lowest' | 'highest'): Ends | null =>
    line[name] === undefined
      ? null
      : about.includes(name)
        ? aboutEnds(line[name], name === 'hold')
        : factEnds(line[name], digits?.[name]);
  const roughly =
    line.average !== undefined && by !== 'eye' && about.includes('average')
      ? aboutEnds(line.average, false)
      : null;
  return {
    by,
    average: roughly ?? endsOf({ value: line.average, by, decimals: digits?.average }, null),
    median: fact('median'),
    hold: fact('hold'),
    onePercent: fact('onePercent'),
    lowest: fact('lowest'),
    highest: fact('highest'),
    minutes: line.minutes ?? null,
    written:
      line.average === undefined
        ? null
        : writtenValue(
            { value: line.average, ...(roughly ? { low: roughly.low, high: roughly.high! } : {}) },
            digits?.['average'],
            'fps',
          ),
    scene: line.scene ?? null,
  };
}
