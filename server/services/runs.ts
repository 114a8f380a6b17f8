import { batteryWhOf, type DeviceFacts, type NewRun, type Preflight, type RunCorrection, type RunDetail, type RunSummary, type SpotPlace, type TitleFacts } from '@pace-check/contract';
import { caveatSentence, METHOD_VERSION, type EntryLine, type RunLine } from '@pace-check/core';
import type pg from 'pg';
import { fromChunks } from '../frames/chunkCodec';
import { readAnalysis, storeAnalysis, type StoredAnalysis } from '../sql/analyses';
import { inTransaction, type Queryable } from '../sql/database';
import { deleteEntry, insertEntries, readEntries, readOwnEntries } from '../sql/entries';
import { readChunks } from '../sql/frames';
import { readRunOnCard } from '../sql/cards';
import { idByName, placeSpots, readPlaces, readRecord, setupIdByName } from '../sql/kit';
import { insertRun, listRuns, lockRun, readRun, setDeleted, staleRunIds, updateRun, type NamedRun, type RunRow, type StoredSummary } from '../sql/runs';
import { readRecording, readSources } from '../sql/recordings';
import type { AnalysisPool } from './analysisPool';
import { joinRecorded } from './join';
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
    return this.detail(this.pool, (await readRun(this.pool, id)) ?? fail());
  }

  /** A run with its figures, computed where they are not there. */
  private async detail(db: Queryable, run: NamedRun): Promise<RunDetail> {
    const analysis = (await readAnalysis(db, run.id, METHOD_VERSION)) ?? (await this.analyse(run, db));
    const recording = await readRecording(db, run.id);
    const recorded = recording && { sources: (await readSources(db, run.id)).map(({ id, name }) => ({ id, name })), used: recording.used };
    return toDetail(run, analysis, { entries: await readOwnEntries(db, run.id), places: await readPlaces(db, run.deviceId), onCard: await readRunOnCard(db, run.id), recorded });
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
    return this.change(id, async (db, run) => updateRun(db, id, await changes(db, run, correction)));
  }

  /** Adds lines by hand; the file's own lines stay as they are. */
  async addEntries(id: string, entries: EntryLine[]): Promise<RunDetail> {
    return this.change(id, (db) => insertEntries(db, id, entries, 'hand'));
  }

  async deleteEntry(id: string, entryId: string): Promise<RunDetail> {
    return this.change(id, async (db) => {
      if (!(await deleteEntry(db, id, entryId))) throw notFound('line');
    });
  }

  /** Joins what was recorded of a run, and computes its figures. */
  async join(id: string): Promise<void> {
    await this.change(id, () => Promise.resolve());
  }

  /** Changes a run and computes its figures anew, all or nothing. */
  private async change(id: string, work: (db: Queryable, run: NamedRun) => Promise<void>): Promise<RunDetail> {
    return inTransaction(this.pool, async (db) => {
      await lockRun(db, id);
      const recording = await readRecording(db, id, true);
      await work(db, (await readRun(db, id)) ?? fail());
      if (recording?.status === 'ended') await joinRecorded(db, this.analyses, recording);
      const run = (await readRun(db, id)) ?? fail();
      await this.analyse(run, db);
      return this.detail(db, run);
    });
  }

  /** A run without a log: only what someone read and wrote down. */
  async create({ name, facts, entries }: NewRun): Promise<RunDetail> {
    return inTransaction(this.pool, async (db) => {
      const titleId = await idByName(db, 'title', facts.title);
      const id = await insertRun(db, {
        ...BY_HAND_RUN,
        name: name ?? `${facts.title} on ${facts.device}`,
        deviceId: await idByName(db, 'device', facts.device),
        titleId,
        setupId: facts.setup === null ? null : await setupIdByName(db, titleId, facts.setup),
        target: facts.target,
        refresh: facts.refresh,
        roomC: facts.roomC,
      });
      await insertEntries(db, id, entries, 'hand');
      return this.detail(db, (await readRun(db, id)) ?? fail());
    });
  }

  /** A run that was made for a step takes over the step's conditions, and what the kit knows where the run does not say. */
  async applyPreflight(id: string, preflight: Preflight): Promise<RunDetail> {
    return this.change(id, async (db, run) => {
      const device = ((await readRecord(db, 'device', run.deviceId))?.facts ?? {}) as DeviceFacts;
      const title = ((await readRecord(db, 'title', run.titleId))?.facts ?? {}) as TitleFacts;
      await updateRun(db, id, {
        preflight: { ...run.preflight, ...preflight },
        roomC: run.roomC ?? preflight.roomC ?? null,
        batteryWh: run.batteryWh ?? batteryWhOf(device),
        native: run.native ?? title.nativeFps ?? null,
        need: run.need ?? title.need ?? null,
        conditions: [...new Set([...run.conditions, ...statedBy(preflight, device, title)])],
      });
    });
  }

  /** Moves spots on the body of the run's device. */
  async placeSpots(id: string, places: SpotPlace[]): Promise<RunDetail> {
    return inTransaction(this.pool, async (db) => {
      const run = (await readRun(db, id)) ?? fail();
      await placeSpots(db, run.deviceId, places);
      return this.detail(db, run);
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

/** Conditions of the run file's list that preflight and kit state. */
function statedBy(preflight: Preflight, device: DeviceFacts, title: TitleFacts): string[] {
  const stated: [string, boolean][] = [
    ['plugged-in', preflight.charging === 'plugged in'],
    ['boosted', preflight.performanceMode === 'boost'],
    ['first-play', preflight.firstPlay === true],
    ['pre-release', device.firmware === 'pre-release'],
    ['title-not-updated', title.updateStage === 'not-updated'],
    ['streamed', title.kind === 'streamed'],
  ];
  return stated.flatMap(([code, holds]) => (holds ? code : []));
}

/** A run that no file holds. */
export const BY_HAND_RUN = {
  native: null,
  need: null,
  batteryWh: null,
  conditions: [],
  splitMinutes: null,
  startedAt: null,
  fileName: null,
  fileBytes: null,
  fileSha256: null,
  contentSha256: null,
  rowsTotal: 0,
  rowsDropped: 0,
  droppedList: [],
  passedOver: 0,
  cutOff: false,
  preflight: {},
};

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
    native: correction.native,
    need: correction.need,
    roomC: correction.roomC,
    batteryWh: correction.batteryWh,
    splitMinutes: correction.splitMinutes,
  };
}

/** While figures are computed anew. */
const PENDING: StoredSummary = { headline: null, confidence: null, lane: { seconds: 0, measures: 'hold', target: null, cells: [], end: null } };

function toSummary(run: NamedRun, summary: StoredSummary): RunSummary {
  const { id, name, device, title, setup, startedAt, importedAt, recording } = run;
  return { id, name, device, title, setup, startedAt, importedAt, recording, ...summary };
}

function toDetail(run: NamedRun, { figures, summary, series }: StoredAnalysis, beside: Pick<RunDetail, 'entries' | 'places' | 'onCard' | 'recorded'>): RunDetail {
  return {
    ...toSummary(run, summary),
    target: run.target,
    refresh: run.refresh,
    native: run.native,
    need: run.need,
    roomC: run.roomC,
    batteryWh: run.batteryWh,
    conditions: run.conditions,
    preflight: run.preflight,
    splitMinutes: run.splitMinutes,
    upload:
      run.fileName === null || run.fileBytes === null || run.fileSha256 === null
        ? null
        : { fileName: run.fileName, bytes: run.fileBytes, sha256: run.fileSha256, rows: run.rowsTotal, dropped: run.droppedList, passedOver: run.passedOver, cutOff: run.cutOff },
    ...beside,
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
