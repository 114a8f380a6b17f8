import { createReadStream } from 'node:fs';
import { createGunzip } from 'node:zlib';
import { Readable } from 'node:stream';
import { checkRunLine } from '@pace-check/contract';
import {
  analyse,
  factsOf,
  headline,
  headlineFacts,
  isGzip,
  lastLineMs,
  LogRefused,
  readRun,
  runInput,
  type Analysis,
  type ColumnChoice,
  type Ends,
  type EntryLine,
  type Need,
  type RunHeader,
  type RunInput,
  type SpanUs,
  type TextLayout,
} from '@pace-check/core';
import { UsageError } from './usage';

/** Flags of `pace analyse`; they go before what the file says. */
export interface AnalyseFlags {
  target?: number;
  refresh?: number;
  native?: number;
  need?: Need;
  exclude?: SpanUs[];
  room?: number;
  batteryWh?: number;
}

/** Columns that the command line knows by name, in this order. */
const KNOWN_COLUMNS: { name: string; choice: Omit<ColumnChoice, 'column'> }[] = [
  { name: 'frame_time_ms', choice: { kind: 'frame-time', unit: 'ms' } },
  { name: 'frametime_us', choice: { kind: 'frame-time', unit: 'us' } },
  { name: 'present_ns', choice: { kind: 'timestamp', unit: 'ns' } },
  { name: 'time_s', choice: { kind: 'timestamp', unit: 's' } },
];

/** A run with what its file says of it beside the figures. */
export interface AnalysedFile extends Pick<ReadInput, 'header' | 'entries'> {
  analysis: Analysis;
}

/** A run as it is analysed, and what its file says of it. */
export interface ReadInput {
  input: RunInput;
  header: RunHeader | null;
  entries: EntryLine[];
  /** Time of the latest line, frames by the start of their batch, ms; 0 in a log without lines. */
  lastLineMs: number;
}

/**
 * Reads a log or a run file and computes its figures.
 *
 * @param file path, or "-" for standard input
 * @throws LogRefused for input that is refused; a system error for a file that cannot be read
 */
export async function analyseFile(file: string, flags: AnalyseFlags): Promise<AnalysedFile> {
  const { input, header, entries } = await readInput(file, flags);
  return { analysis: analyse(input), header, entries };
}

/**
 * Reads a log or a run file into the form that is analysed.
 *
 * @param file path, or "-" for standard input
 * @throws LogRefused for input that is refused; a system error for a file that cannot be read
 */
export async function readInput(file: string, flags: AnalyseFlags): Promise<ReadInput> {
  let latestMs = 0;
  const source = file === '-' ? process.stdin : createReadStream(file, { highWaterMark: 1 << 20 });
  const run = await readRun(await unpacked(source), {
    reading: knownColumn,
    checkLine: (value) => {
      const line = checkRunLine(value);
      if (line?.type === 'frames') latestMs = Math.max(latestMs, line.atMs);
      return line;
    },
    largest: Infinity,
  });
  const said = factsOf(run.header);
  const input = runInput(
    run.track,
    { dropped: run.tally.unreadable, cutOff: run.cutOff, entries: run.entries },
    {
      ...said,
      target: flags.target ?? said.target,
      refreshHz: flags.refresh ?? said.refreshHz,
      native: flags.native ?? said.native,
      need: flags.need ?? said.need,
      roomC: flags.room ?? said.roomC,
      batteryWh: flags.batteryWh ?? said.batteryWh,
      panelSaid: flags.refresh !== undefined,
    },
  );
  input.excluded.push(...(flags.exclude ?? []));
  return {
    input,
    header: run.header,
    entries: run.entries,
    lastLineMs: Math.max(latestMs, lastLineMs(run.entries)),
  };
}

/** The file's bytes, unpacked where it is gzipped. */
async function unpacked(source: Readable): Promise<AsyncIterable<Uint8Array>> {
  const reader = source[Symbol.asyncIterator]() as AsyncIterator<Uint8Array>;
  const { value: first, done } = await reader.next();
  async function* again(): AsyncGenerator<Uint8Array> {
    if (!done) yield first!;
    for (let next = await reader.next(); !next.done; next = await reader.next()) yield next.value;
  }
  if (done || !isGzip(first)) return again();
  return gunzipped(Readable.from(again(), { objectMode: false }).pipe(createGunzip()));
}

async function* gunzipped(bytes: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  try {
    yield* bytes;
  } catch (error) {
    throw new LogRefused(
      'broken-archive',
      `The gzip file is incomplete or damaged (${error instanceof Error ? error.message : String(error)}).`,
      'Copy it again, or use the unpacked file.',
    );
  }
}

/** The column by its name; on the command line nothing is guessed. */
function knownColumn(layout: TextLayout): ColumnChoice {
  const headings = layout.headings.map((heading) => heading.toLowerCase());
  for (const { name, choice } of KNOWN_COLUMNS) {
    const column = headings.indexOf(name);
    if (column >= 0) return { column, ...choice };
  }
  throw new LogRefused(
    'no-usable-column',
    `No known column among ${layout.headings.map((heading) => `“${heading}”`).join(', ')}.`,
    `Rename one to ${KNOWN_COLUMNS.map((column) => column.name).join(', ')}; or import the file in the app, where you can choose the column.`,
    layout.headingLine ?? layout.firstLine,
  );
}

/** Spans as they are typed: "10-35,600-642", in seconds. */
export function parseSpans(text: string): SpanUs[] {
  return text.split(',').map((part) => {
    const match = /^\s*(\d+(?:\.\d+)?)\s*-\s*(\d+(?:\.\d+)?)\s*$/.exec(part);
    const [from, to] = [Number(match?.[1]), Number(match?.[2])];
    if (!match || to < from)
      throw new UsageError(`--exclude needs ranges in seconds, such as 10-35,600-642; “${part}” is not one.`);
    return { fromUs: Math.round(from * 1e6), toUs: Math.round(to * 1e6) };
  });
}

const numbers = (pace: Float64Array): (number | null)[] =>
  Array.from(pace, (value) => (Number.isNaN(value) ? null : value));

const asPair = ({ low, high }: Ends): [number, number | null] => [low, high];

/** The figures in the shape that docs/method.md prints. */
export function toJson({ figures, perSecond }: Analysis): object {
  const {
    frames,
    pace,
    lows,
    evenness,
    cadence,
    cap,
    capShare,
    capAdvice,
    splits,
    stamina,
    read,
    playable,
    emulation,
    warmth,
    drain,
    caveats,
    confidence,
    confidences,
  } = figures;
  const { between: _said, ...paced } = pace;
  return {
    frames,
    pace: {
      ...paced,
      interval: pace.interval && asPair(pace.interval),
      seen: pace.seen && [pace.seen.low, pace.seen.high],
      perSecond: frames.count === 0 ? null : numbers(perSecond),
    },
    lows,
    evenness,
    cadence: { kind: cadence.kind, onBeat: cadence.onBeat },
    cap,
    capShare,
    capAdvice,
    splits: (frames.count === 0 ? [] : splits).map(({ fromS, toS, average, onePercentLow, hold }) => ({
      fromS,
      toS,
      average,
      onePercentLow,
      hold,
    })),
    stamina: {
      ...stamina,
      retention: frames.count === 0 && read?.retention ? asPair(read.retention) : stamina.retention,
      retained: frames.count === 0 ? (read?.retained ?? null) : null,
    },
    feel: read?.feel ?? null,
    playable,
    emulation,
    warmth: Object.fromEntries(
      warmth.spots.map(({ spot, by, peakC, riseC, fit }) => [
        spot,
        {
          by,
          peakC,
          riseC,
          fit: fit && {
            finalC: fit.finalC,
            startC: fit.startC,
            tauS: fit.tauS,
            settled: fit.settled,
            forecast: fit.forecast,
            levels: fit.levels.map(({ fromS, settlesC, seC }) => ({ fromS, settlesC, seC })),
          },
        },
      ]),
    ),
    drain: drain && {
      percentPerHour: drain.percentPerHour,
      hoursFromFull: drain.hoursFromFull,
      watts: drain.watts,
      from: drain.from,
    },
    caveats,
    confidence,
    confidences,
  };
}

const said = (value: number | null, digits = 1): string => (value === null ? '-' : value.toFixed(digits));

/** The figures as a person reads them in a terminal. */
export function toText({ figures }: Analysis): string {
  const { pace, lows, evenness, stamina, warmth, drain, splits, caveats, confidence, playable } = figures;
  return [
    headline(headlineFacts(figures)),
    '',
    `Pace      ${said(pace.average)} average, ${said(pace.median)} median, hold ${said(pace.hold === null ? null : pace.hold * 100, 0)} %, 1 % low ${said(lows.onePercent.quantile)} (quantile)`,
    `Evenness  ${evenness.stutters ?? '-'} stutters, ${evenness.stalls ?? '-'} stalls, ${evenness.freezes ?? '-'} freezes; deviation ${said(evenness.sdMs, 2)} ms`,
    `Stamina   ${stamina.word ?? '-'}; opening ${said(stamina.opening)}, closing ${said(stamina.closing)}, retention ${said(stamina.retention, 3)}`,
    `Warmth    ${warmth.spots.map((spot) => `${spot.spot} ${spot.peakC.toFixed(1)} °C (${spot.by})`).join(', ') || '-'}`,
    `Drain     ${drain ? `${said(drain.percentPerHour)} %/h, ${said(drain.hoursFromFull)} h from full, ${said(drain.watts)} W` : '-'}`,
    `Playable  ${playable ?? '-'}`,
    '',
    ...splits.map(
      (split) =>
        `${said(split.fromS, 0).padStart(6)} s  ${said(split.average).padStart(6)}  low ${said(split.onePercentLow).padStart(6)}  hold ${said(split.hold === null ? null : split.hold * 100, 0).padStart(3)} %`,
    ),
    '',
    `Confidence ${confidence}${caveats.length > 0 ? `: ${caveats.join(', ')}` : ''}`,
    '',
  ].join('\n');
}

/** The split table as comma-separated values. */
export function toCsv({ figures }: Analysis): string {
  const rows = figures.splits.map((split) => [
    split.fromS,
    split.toS,
    split.average,
    split.onePercentLow,
    split.hold,
    split.onTarget,
    split.stutters + split.stalls + split.freezes,
    split.percentUsed,
    split.watts,
  ]);
  return (
    [
      'from_s,to_s,average_fps,one_percent_low_fps,hold,on_target,breaks,percent_used,watts',
      ...rows.map((row) => row.map((value) => value ?? '').join(',')),
    ].join('\n') + '\n'
  );
}
