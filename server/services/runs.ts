import type { RunCorrection, RunDetail, RunSummary } from '@pace-check/contract';
import { caveatSentence, METHOD_VERSION, type RunLine } from '@pace-check/core';
import type pg from 'pg';
import { fromChunks } from '../frames/chunkCodec';
import { readAnalysis, storeAnalysis, type StoredAnalysis } from '../sql/analyses';
import { inTransaction, type Queryable } from '../sql/database';
import { readEntries } from '../sql/entries';
import { readChunks } from '../sql/frames';
import { idByName, setupIdByName } from '../sql/kit';
import { listRuns, readRun, setDeleted, staleRunIds, updateRun, type NamedRun, type RunRow, type StoredSummary } from '../sql/runs';
import type { AnalysisPool } from './analysisPool';
import { notFound } from './problem';

/** Frames in a line of an exported run file. */
const LINE_FRAMES = 600;

/** Reading, correcting, deleting and exporting runs. */
export class Runs {
  constructor(
    private readonly pool: pg.Pool,
    private readonly analyses: AnalysisPool,
  ) {}

  async list(): Promise<RunSummary[]> {
    return (await listRuns(this.pool, METHOD_VERSION)).map(({ run, summary }) => toSummary(run, summary ?? PENDING));
  }

  async get(id: string): Promise<RunDetail> {
    const run = (await readRun(this.pool, id)) ?? fail();
    return toDetail(run, (await readAnalysis(this.pool, id, METHOD_VERSION)) ?? (await this.analyse(run)));
  }

  /** Computes a stored run's figures and keeps them. */
  private async analyse(run: NamedRun, db: Queryable = this.pool): Promise<StoredAnalysis> {
    const analysis = await this.analyses.analyse({
      kind: 'analyse',
      chunks: await readChunks(db, run.id),
      remains: { dropped: run.rowsDropped, cutOff: run.cutOff, entries: await readEntries(db, run.id) },
      facts: { target: run.target, refreshHz: run.refresh, native: run.native, need: run.need, roomC: run.roomC, batteryWh: run.batteryWh, conditions: run.conditions, splitMinutes: run.splitMinutes },
    });
    await storeAnalysis(db, run.id, analysis);
    return analysis;
  }

  /** Brings runs up to this version of the method, one after the other. */
  async analyseStale(): Promise<number> {
    const ids = await staleRunIds(this.pool, METHOD_VERSION);
    for (const id of ids) {
      const run = await readRun(this.pool, id);
      if (run) await this.analyse(run);
    }
    return ids.length;
  }

  async correct(id: string, correction: RunCorrection): Promise<RunDetail> {
    return inTransaction(this.pool, async (db) => {
      const before = (await readRun(db, id)) ?? fail();
      await updateRun(db, id, await changes(db, before, correction));
      const run = (await readRun(db, id)) ?? fail();
      const figuresChange = run.target !== before.target || run.refresh !== before.refresh || run.splitMinutes !== before.splitMinutes;
      const stored = figuresChange ? null : await readAnalysis(db, id, METHOD_VERSION);
      return toDetail(run, stored ?? (await this.analyse(run, db)));
    });
  }

  async delete(id: string): Promise<void> {
    if (!(await setDeleted(this.pool, id, true))) fail();
  }

  async restore(id: string): Promise<void> {
    if (!(await setDeleted(this.pool, id, false))) fail();
  }

  /** The run as an open run file, line by line. */
  async export(id: string): Promise<{ fileName: string; lines: RunLine[] }> {
    const run = (await readRun(this.pool, id)) ?? fail();
    const track = fromChunks(await readChunks(this.pool, id));
    return { fileName: `${run.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.pace.ndjson`, lines: [header(run), ...frameLines(track), ...(await readEntries(this.pool, id))] };
  }
}

function fail(): never {
  throw notFound('run');
}

async function changes(db: Queryable, run: NamedRun, correction: RunCorrection): Promise<Partial<RunRow>> {
  const titleId = correction.title === undefined ? run.titleId : await idByName(db, 'title', correction.title);
  // a setup belongs to its title: another title takes the setup's name along
  const setup = correction.setup === undefined ? run.setup : correction.setup;
  return {
    name: correction.name,
    deviceId: correction.device === undefined ? undefined : await idByName(db, 'device', correction.device),
    titleId,
    setupId: setup === null ? null : await setupIdByName(db, titleId, setup),
    target: correction.target,
    refresh: correction.refresh,
    splitMinutes: correction.splitMinutes,
  };
}

const PENDING: StoredSummary = {
  headline: 'Its figures are being computed anew. Open it to have them at once.',
  word: null,
  confidence: null,
  average: null,
  source: null,
  onePercentLow: null,
  peakC: null,
  lane: { seconds: 0, measures: 'hold', target: null, cells: [], end: null },
};

function toSummary(run: NamedRun, summary: StoredSummary): RunSummary {
  const { id, name, device, title, setup, startedAt, importedAt } = run;
  return { id, name, device, title, setup, startedAt, importedAt, ...summary };
}

function toDetail(run: NamedRun, { figures, summary, series }: StoredAnalysis): RunDetail {
  return {
    ...toSummary(run, summary),
    target: run.target,
    refresh: run.refresh,
    native: run.native,
    need: run.need,
    roomC: run.roomC,
    batteryWh: run.batteryWh,
    conditions: run.conditions,
    splitMinutes: run.splitMinutes,
    upload: { fileName: run.fileName, bytes: run.fileBytes, sha256: run.fileSha256, rows: run.rowsTotal, dropped: run.droppedList, passedOver: run.passedOver, cutOff: run.cutOff },
    caveats: figures.caveats.map((caveat) => ({ caveat, says: caveatSentence(caveat) })),
    figures,
    series,
  };
}

function header(run: NamedRun): RunLine {
  return {
    type: 'run',
    version: 1,
    id: run.id,
    device: run.device,
    title: run.title,
    setup: run.setup ?? undefined,
    target: run.target ?? undefined,
    refresh: run.refresh ?? undefined,
    native: run.native ?? undefined,
    need: run.need ?? undefined,
    room: run.roomC ?? undefined,
    batteryWh: run.batteryWh ?? undefined,
    conditions: run.conditions,
    startedAt: run.startedAt ?? undefined,
  };
}

function* frameLines({ frameUs, gaps }: ReturnType<typeof fromChunks>): Generator<RunLine> {
  let clockUs = 0;
  let nextGap = 0;
  let from = 0;
  while (from < frameUs.length) {
    while (gaps[nextGap]?.beforeFrame === from) clockUs += gaps[nextGap++]!.lengthUs;
    const to = Math.min(from + LINE_FRAMES, gaps[nextGap]?.beforeFrame ?? Infinity, frameUs.length);
    const us = Array.from(frameUs.subarray(from, to));
    yield { type: 'frames', atMs: clockUs / 1000, us };
    for (const length of us) clockUs += length;
    from = to;
  }
}
