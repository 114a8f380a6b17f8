import { nameIn, preflightOfHeader, type ImportDetails, type RunDetail } from '@pace-check/contract';
import { factsOf } from '@pace-check/core';
import type pg from 'pg';
import { storeAnalysis } from '../sql/analyses';
import { inTransaction, type Queryable } from '../sql/database';
import { insertPage } from '../sql/entries';
import { insertChunks } from '../sql/frames';
import { idByName, setupIdByName } from '../sql/kit';
import { insertRun, readRun, runWithContent } from '../sql/runs';
import { readBars } from '../sql/settings';
import type { ReadResult } from '../workers/tasks';
import type { AnalysisPool } from './analysisPool';
import { ASKED, followKit } from './kitFacts';
import { Problem } from './problem';
import type { Runs } from './runs';

/** A file that has arrived and lies in the server's temporary folder. */
export interface ArrivedFile {
  path: string;
  bytes: number;
  sha256: string;
}

/** Turns an uploaded file into a run: all of it, or nothing. */
export class Imports {
  constructor(
    private readonly pool: pg.Pool,
    private readonly analyses: AnalysisPool,
    private readonly runs: Runs,
  ) {}

  /**
   * @param signal aborted when the person cancels or goes away
   * @throws Problem 422 when the file is refused, 409 when the same content is here already
   */
  async import(file: ArrivedFile, details: ImportDetails, signal: AbortSignal): Promise<RunDetail> {
    const answer = await this.analyses.read(
      { kind: 'read', path: file.path, reading: details.reading, facts: details.facts },
      signal,
    );
    if ('refused' in answer) {
      const { line, ...refused } = answer.refused;
      throw new Problem(422, { ...refused, ...(line === null ? {} : { line }) });
    }
    const id = await inTransaction(this.pool, async (db) => {
      if (!details.again) await refuseSame(db, answer.read.contentSha256);
      const stored = await this.store(db, file, details, answer.read);
      signal.throwIfAborted();
      return stored;
    });
    return this.runs.get(id);
  }

  private async store(
    db: Queryable,
    file: ArrivedFile,
    details: ImportDetails,
    read: ReadResult,
  ): Promise<string> {
    const { header } = read;
    const said = factsOf(header);
    const device = details.facts?.device ?? nameIn(header?.device) ?? missing('device');
    const title = details.facts?.title ?? nameIn(header?.title) ?? missing('title');
    const setup = details.facts ? details.facts.setup : nameIn(header?.setup);
    const titleId = await idByName(db, 'title', title);
    const { preflight, passedOver } = preflightOfHeader(header?.preflight);
    const id = await insertRun(db, {
      name: details.name ?? `${title} on ${device}`,
      deviceId: await idByName(db, 'device', device),
      titleId,
      setupId: setup === null ? null : await setupIdByName(db, titleId, setup),
      target: details.facts ? details.facts.target : said.target,
      refresh: details.facts ? details.facts.refresh : said.refreshHz,
      native: said.native,
      need: said.need,
      roomC: said.roomC,
      batteryWh: said.batteryWh,
      conditions: said.conditions,
      splitMinutes: null,
      startedAt: header?.startedAt ?? null,
      fileName: details.fileName,
      fileBytes: file.bytes,
      fileSha256: file.sha256,
      contentSha256: read.contentSha256,
      rowsTotal: read.rows.total,
      rowsDropped: read.rows.unreadable,
      droppedList: read.rows.listed,
      passedOver: read.passedOver + passedOver,
      cutOff: read.cutOff,
      preflight: said.roomC === null ? preflight : { ...preflight, roomC: said.roomC },
      scene: said.scene,
      fromKit: [],
      bars: await readBars(db),
    });
    if (id === null) throw new Error('A run with this id already exists');
    await insertChunks(db, id, read.chunks);
    for (const page of read.pages) await insertPage(db, id, page, 'file');
    await followKit(db, (await readRun(db, id))!, details.facts ? ASKED : []);
    const { fromKit, bars } = (await readRun(db, id))!;
    // what was read is stored with its figures, unless the kit knew more than the file
    if (fromKit.length === 0 && bars === null) await storeAnalysis(db, id, 0, read.analysis);
    return id;
  }
}

async function refuseSame(db: Queryable, contentSha256: string): Promise<void> {
  const same = await runWithContent(db, contentSha256);
  if (!same) return;
  throw new Problem(409, {
    code: 'same-file',
    message: `This file is already imported as “${same.name}”.`,
    remedy: 'Open that run, or import the file again as a separate run.',
    runId: same.id,
    runName: same.name,
  });
}

function missing(field: 'device' | 'title'): never {
  throw new Problem(422, {
    code: 'missing',
    field,
    message: `The file does not name the ${field} of the run.`,
    remedy: `Choose a ${field}, or add one by name.`,
  });
}
