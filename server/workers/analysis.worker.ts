import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { setPriority } from 'node:os';
import { createGunzip } from 'node:zlib';
import { checkRunLine, LARGEST_LOG_BYTES } from '@pace-check/contract';
import {
  analyse,
  BY_HAND,
  factsOf,
  isGzip,
  joinSources,
  LogRefused,
  partOfLines,
  partOfTrack,
  readRun,
  runInput,
  withinLongest,
  type Analysis,
} from '@pace-check/core';
import { framesOf, packBatches } from '../frames/batchCodec';
import { fromChunks, toChunks } from '../frames/chunkCodec';
import { toStored } from '../services/summary';
import type { KeptAnalysis } from '../sql/analyses';
import { entryPages, linesOf } from '../sql/entries';
import type {
  AnalyseTask,
  JoinResult,
  JoinTask,
  ReadAnswer,
  ReadResult,
  ReadTask,
  SecondsTask,
} from './tasks';

/** The server's own thread, which acknowledges batches, goes first. (On Linux this is the thread's own, whatever the name says.) */
const NICE = 10;
if (process.platform === 'linux') setPriority(NICE);

/** The worker thread's one door: reads files and asks core for the figures. */
export default async function work(
  task: ReadTask | AnalyseTask | JoinTask | SecondsTask,
): Promise<ReadAnswer | KeptAnalysis | JoinResult | Float64Array> {
  switch (task.kind) {
    case 'read':
      return readFile(task);
    case 'join':
      return joinRecorded(task);
    case 'seconds':
      return analysed(task).perSecond;
    case 'analyse':
      return toStored(analysed(task), task.facts.target);
  }
}

async function readFile(task: ReadTask): Promise<ReadAnswer> {
  try {
    return { read: await readAndAnalyse(task) };
  } catch (error) {
    if (!(error instanceof LogRefused)) throw error;
    return {
      refused: {
        code: error.code,
        message: error.message,
        remedy: error.remedy,
        line: error.line,
        rows: error.rows,
      },
    };
  }
}

async function readAndAnalyse({ path, reading, facts }: ReadTask): Promise<ReadResult> {
  const hash = createHash('sha256');
  const run = await readRun(hashed(await unpacked(path), hash), {
    reading,
    checkLine: checkRunLine,
    largest: LARGEST_LOG_BYTES,
  });
  const said = factsOf(run.header);
  const known = facts ? { ...said, target: facts.target, refreshHz: facts.refresh } : said;
  const input = runInput(
    run.track,
    { dropped: run.tally.unreadable, cutOff: run.cutOff, entries: run.entries },
    known,
  );
  return {
    header: run.header,
    chunks: toChunks(run.track),
    pages: entryPages(run.entries),
    rows: { total: run.tally.total, unreadable: run.tally.unreadable, listed: run.tally.listed },
    passedOver: run.passedOver,
    cutOff: run.cutOff,
    contentSha256: hash.digest('hex'),
    analysis: toStored(analyse(input), known.target),
  };
}

/** The file's bytes, unpacked where it is gzipped. */
async function unpacked(path: string): Promise<AsyncIterable<Uint8Array>> {
  const file = await open(path);
  const { buffer } = await file.read(Buffer.alloc(2), 0, 2, 0);
  await file.close();
  const bytes = createReadStream(path, { highWaterMark: 256 * 1024 });
  return isGzip(buffer) ? gunzipped(bytes.pipe(createGunzip({ chunkSize: 256 * 1024 }))) : bytes;
}

async function* gunzipped(bytes: AsyncIterable<Uint8Array>): AsyncIterable<Uint8Array> {
  try {
    yield* bytes;
  } catch (error) {
    throw new LogRefused(
      'broken-archive',
      `The gzip file is incomplete or damaged (${error instanceof Error ? error.message : String(error)}).`,
      'It was probably cut off during copying. Copy it again, or upload the unpacked file.',
    );
  }
}

async function* hashed(
  bytes: AsyncIterable<Uint8Array>,
  hash: ReturnType<typeof createHash>,
): AsyncIterable<Uint8Array> {
  for await (const chunk of bytes) {
    hash.update(chunk);
    yield chunk;
  }
}

function analysed(task: AnalyseTask | SecondsTask): Analysis {
  const whole = withinLongest(fromChunks(task.chunks));
  const lines = linesOf(task.pages);
  const [track, entries] = task.cut
    ? [partOfTrack(whole, task.cut), partOfLines(lines, task.cut)]
    : [whole, lines];
  return analyse(runInput(track, { ...task.remains, entries }, task.facts));
}

function joinRecorded({ sources, entries, endMs }: JoinTask): JoinResult {
  const joined = joinSources(
    [
      ...sources.map(({ id, batches }) => ({
        source: id,
        byHand: false,
        frames: batches.flatMap(framesOf),
        entries: entries.filter((entry) => entry.source === id),
      })),
      {
        source: BY_HAND,
        byHand: true,
        frames: [],
        entries: entries.filter((entry) => entry.source === null),
      },
    ],
    endMs,
  );
  return {
    chunks: toChunks(joined.track),
    rows: joined.rows,
    unused: joined.unused.map((entry) => entry.id),
    used: joined.used,
    packed: sources.flatMap(({ id, batches }) =>
      packBatches(batches).map((batch) => ({ sourceId: id, batch })),
    ),
  };
}
