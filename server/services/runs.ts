import { report } from './logs';
import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import {
  type FiguresState,
  type NewRun,
  type Preflight,
  type RunCorrection,
  type RunDetail,
  type RunSummary,
  type RunsQuery,
  type SpotPlace,
} from '@pace-check/contract';
import {
  caveatSentence,
  confidencesOf,
  LONGEST_RUN_S,
  METHOD_VERSION,
  NEEDS,
  partOfLines,
  partOfTrack,
  playedName,
  withLibrary,
  type Bar,
  type EntryLine,
  type LibraryFacts,
  type RunLine,
  type VideoSource,
} from '@pace-check/core';
import type pg from 'pg';
import { fromChunks, type FrameChunk } from '../frames/chunkCodec';
import { readAnalysis, storeAnalysis, type StoredAnalysis } from '../sql/analyses';
import { inSnapshot, inTransaction, type Queryable } from '../sql/database';
import {
  countByHand,
  deleteEntry,
  insertEntries,
  linesOf,
  readEntryPages,
  readOwnEntries,
  replaceEntry,
} from '../sql/entries';
import { readChunks } from '../sql/frames';
import { readRunOnCard } from '../sql/cards';
import { idByName, placeSpots, readPlaces, setupIdByName } from '../sql/kit';
import { readLibraryFacts } from '../sql/library';
import { readNamedParts } from '../sql/parts';
import { listPictures, readPicture } from '../sql/pictures';
import { readBars } from '../sql/settings';
import { listRuns } from '../sql/runList';
import {
  insertRun,
  lockRun,
  raiseRevision,
  readRun,
  setDeleted,
  countStale,
  staleRunIds,
  updateRun,
  type NamedRun,
  type RunRow,
  type StoredSummary,
} from '../sql/runs';
import { readRecording, readSources, updateRecording } from '../sql/recordings';
import type { AnalyseTask } from '../workers/tasks';
import type { AnalysisPool } from './analysisPool';
import { ANYBODY, type Author } from './author';
import { ASKED, followKit, noneOf, statedByHand, teachKit } from './kitFacts';
import { readRecorded, storeJoined } from './join';
import { keepParts, refusePart } from './parts';
import { encoded, runLines } from './runFiles';
import { notFound, Problem } from './problem';

/** Reading, correcting, deleting and exporting runs. */
export class Runs {
  constructor(
    private readonly pool: pg.Pool,
    private readonly analyses: AnalysisPool,
  ) {}

  /** Stored runs have other facts by what the kit learned: their figures are of before. */
  onStale = (): void => undefined;
  private closed = false;
  private readonly computing = new Map<string, Promise<Figured>>();

  async list(query: RunsQuery): Promise<RunSummary[]> {
    return (await listRuns(this.pool, METHOD_VERSION, query)).map(({ run, summary, pictures, ...library }) =>
      toSummary(run, summary, library, pictures),
    );
  }

  async get(id: string): Promise<RunDetail> {
    const { run, analysis } = await this.figured(id);
    const recording = await readRecording(this.pool, id);
    const recorded = recording && {
      sources: (await readSources(this.pool, id)).map(({ id: source, name }) => ({ id: source, name })),
      used: recording.used,
    };
    const evidence = await listPictures(this.pool, id);
    return toDetail(run, analysis, await readLibraryFacts(this.pool, id), {
      evidence,
      barNow: await this.barNow(run),
      entries: await readOwnEntries(this.pool, id),
      places: await readPlaces(this.pool, run.deviceId),
      onCard: await readRunOnCard(this.pool, id),
      recorded,
      parts: await readNamedParts(this.pool, id),
    });
  }

  /** What the need of a run asks for now, where it is another bar than the run was judged by. */
  private async barNow({ need, bars }: NamedRun): Promise<Bar | null> {
    if (need === null) return null;
    const now = ((await readBars(this.pool)) ?? NEEDS)[need];
    const then = (bars ?? NEEDS)[need];
    return now.average === then.average && now.low === then.low ? null : now;
  }

  /** A run with its figures; those that are not there, or of before, are computed. */
  private async figured(id: string): Promise<Figured> {
    const run = (await readRun(this.pool, id)) ?? fail();
    const known = await readAnalysis(this.pool, id, METHOD_VERSION);
    if (known) return { run: await this.followed(run, known), analysis: known };
    // two who ask at once are answered together
    const key = `${id} ${run.revision}`;
    const computing = this.computing.get(key) ?? this.compute(id).finally(() => this.computing.delete(key));
    this.computing.set(key, computing);
    return computing;
  }

  /** Has the titles of a sitting, which are runs of their own, follow it. @returns the run as it is then */
  private async followed(run: NamedRun, { figures }: StoredAnalysis): Promise<NamedRun> {
    if (run.part !== null || run.recording !== null || run.partsRevision === run.revision) return run;
    if (!run.isSitting && (figures.sitting?.titles.length ?? 0) < 2) return run;
    // the sitting is read whatever becomes of its titles
    const parts = await keepParts(this.pool, run, figures.frames.seconds).catch((error: unknown) => {
      if (!this.closed) report(`The titles of run ${run.id} were not saved: ${String(error)}`);
      return null;
    });
    // nobody who asks for the sitting waits for them
    for (const id of parts ?? [])
      this.figured(id).catch((error: unknown) => {
        // one that went with its sitting meanwhile is missed by nobody
        if (!this.closed && !(error instanceof Problem))
          report(`The figures of run ${id} could not be calculated: ${String(error)}`);
      });
    return parts === null
      ? ((await readRun(this.pool, run.id)) ?? run)
      : { ...run, isSitting: parts.length > 0 };
  }

  /** What is still computed then is not told. */
  close(): void {
    this.closed = true;
  }

  /** All that is stored of a run, as it stands at one moment; of a stretch of a sitting, that of the sitting. */
  private whole(id: string): Promise<{ run: NamedRun; chunks: FrameChunk[]; pages: string[] }> {
    return inSnapshot(this.pool, async (db) => {
      const run = (await readRun(db, id)) ?? fail();
      const linesOfRun = run.part?.sittingId ?? id;
      return {
        run,
        chunks: await readChunks(db, linesOfRun),
        pages: await readEntryPages(db, linesOfRun),
      };
    });
  }

  /** Reads a run as it stands, computes its figures and keeps them for that revision; no transaction waits meanwhile. */
  private async compute(id: string): Promise<Figured> {
    const { run, chunks, pages } = await this.whole(id);
    const analysis = await this.analyses.analyse({ kind: 'analyse', ...taskOf(run, chunks, pages) });
    await storeAnalysis(this.pool, id, run.revision, analysis);
    return { run: await this.followed(run, analysis), analysis };
  }

  /** Name, figures, lane and pace of each second of a run, for the pictures of its video. */
  async forVideo(id: string): Promise<VideoSource> {
    const { run, analysis } = await this.figured(id);
    const { run: now, chunks, pages } = await this.whole(id);
    return {
      id,
      name: run.name,
      figures: analysis.figures,
      lane: analysis.summary.lane,
      perSecond: await this.analyses.seconds({ kind: 'seconds', ...taskOf(now, chunks, pages) }),
    };
  }

  /** Has the figures of runs computed where they are not there, or of before. */
  async bringUp(ids: string[]): Promise<void> {
    for (const id of ids) await this.figured(id);
  }

  /** How far those are. */
  async figuresState(): Promise<FiguresState> {
    return { methodVersion: METHOD_VERSION, ...(await countStale(this.pool, METHOD_VERSION)) };
  }

  /** Runs whose figures are not there, or of before. */
  stale(): Promise<string[]> {
    return staleRunIds(this.pool, METHOD_VERSION);
  }

  async correct(id: string, correction: RunCorrection): Promise<RunDetail> {
    return this.change(id, async (db, run) => {
      await updateRun(db, id, await changes(db, run, correction));
      const moved = (await readRun(db, id))!;
      if (
        moved.deviceId !== run.deviceId ||
        moved.titleId !== run.titleId ||
        moved.setupId !== run.setupId ||
        moved.preflight.screen !== run.preflight.screen
      )
        await followKit(
          db,
          moved,
          ASKED.filter((fact) => correction[fact] !== undefined),
        );
    });
  }

  /** Puts another line of its type in the place of one. */
  async correctEntry(id: string, entryId: string, line: EntryLine): Promise<RunDetail> {
    return this.change(id, async (db) => {
      if (!(await replaceEntry(db, id, entryId, line))) throw notFound('line');
    });
  }

  /** Adds lines by hand; the file's own lines stay as they are. */
  async addEntries(id: string, entries: EntryLine[]): Promise<RunDetail> {
    return this.change(id, async (db) => {
      if ((await countByHand(db, id)) + entries.length > MOST_BY_HAND)
        throw new Problem(422, {
          code: 'too-many',
          message: `A run can have at most ${MOST_BY_HAND.toLocaleString('en-GB')} lines entered by hand.`,
          remedy: 'Import them as a separate run file.',
        });
      await insertEntries(db, id, entries, 'hand');
    });
  }

  async deleteEntry(id: string, entryId: string): Promise<RunDetail> {
    return this.change(id, async (db) => {
      if (!(await deleteEntry(db, id, entryId))) throw notFound('line');
    });
  }

  /** Joins what was recorded of a run that has ended, and computes its figures. */
  async join(id: string): Promise<void> {
    await this.joined(id);
    await this.figured(id);
  }

  /** Joins what is not joined yet: reads it, has it joined, and stores it if nothing came in between; else once more. */
  private async joined(id: string): Promise<void> {
    for (let attempt = 1; ; attempt++) {
      const recorded = await inSnapshot(this.pool, async (db) => {
        const recording = await readRecording(db, id);
        return recording?.status === 'ended' && !recording.settled
          ? readRecorded(db, recording, (await readRun(db, id)) ?? fail())
          : null;
      });
      if (!recorded) return;
      const result = await this.analyses.join(recorded.task);
      const stored = await inTransaction(this.pool, async (db) => {
        await lockRun(db, id);
        return storeJoined(db, recorded, result);
      });
      if (stored) return;
      if (attempt === MOST_ATTEMPTS) throw new Error('lines came in faster than they could be joined');
    }
  }

  /** Changes a run, all or nothing; its figures are computed from what is stored then. */
  private async change(
    id: string,
    work: (db: Queryable, run: NamedRun) => Promise<void>,
  ): Promise<RunDetail> {
    await inTransaction(this.pool, async (db) => {
      await lockRun(db, id);
      // a recording is locked after its run, always
      const recording = await readRecording(db, id, 'change');
      const run = (await readRun(db, id)) ?? fail();
      refusePart(run);
      await work(db, run);
      if (recording?.status === 'ended') await updateRecording(db, id, { settled: false });
      await raiseRevision(db, id);
    });
    await this.joined(id);
    return this.get(id);
  }

  /** A run without a log: only what someone read and wrote down. */
  async create(run: NewRun, author: Author = ANYBODY): Promise<RunDetail> {
    const id = randomUUID();
    await this.make(id, run, author);
    return this.get(id);
  }

  /** The same under an id that its maker gave it; one that is there already stays as it is. */
  async make(
    id: string,
    { name, facts, scene, preflight = {}, fromKit = false, need = null, none = [], entries }: NewRun,
    author: Author = ANYBODY,
  ): Promise<void> {
    const followed = await inTransaction(this.pool, async (db) => {
      const titleId = await idByName(db, 'title', facts.title);
      const stated = { ...preflight, roomC: facts.roomC ?? preflight.roomC };
      const made = await insertRun(
        db,
        {
          ...BY_HAND_RUN,
          name: name ?? `${facts.title} on ${facts.device}`,
          deviceId: await idByName(db, 'device', facts.device),
          titleId,
          setupId: facts.setup === null ? null : await setupIdByName(db, titleId, facts.setup),
          target: facts.target,
          refresh: facts.refresh,
          need,
          fromKit: noneOf(none),
          roomC: stated.roomC ?? null,
          scene: scene ?? null,
          preflight: stated,
          conditions: statedBy(stated),
          bars: await readBars(db),
        },
        id,
      );
      if (made === null) {
        await refuseTaken((await readRun(db, id, true))!, facts);
        return 0;
      }
      await insertEntries(db, id, entries, 'hand');
      // the kit is the reviewer's: a helper's word is of their run alone
      const taught = fromKit && author.mayAll ? await teachKit(db, (await readRun(db, id))!) : 0;
      await followKit(db, (await readRun(db, id))!, fromKit ? [] : ASKED);
      return taught;
    });
    if (followed > 0) this.onStale();
  }

  /** A run that was made for a step takes over the step's conditions, and what the kit knows where the run does not say. */
  async applyPreflight(id: string, preflight: Preflight): Promise<RunDetail> {
    return this.change(id, async (db, run) => {
      await updateRun(db, id, {
        preflight: { ...run.preflight, ...preflight },
        roomC: run.roomC ?? preflight.roomC ?? null,
        conditions: [...new Set([...run.conditions, ...statedBy(preflight)])],
      });
      const made = (await readRun(db, id))!;
      // the panel is that of the screen that was used
      await followKit(db, made, made.preflight.screen ? ['target'] : ASKED);
    });
  }

  /** Moves spots on the body of the run's device. */
  /** @param author a helper places spots that lie nowhere yet */
  async placeSpots(id: string, places: SpotPlace[], author: Author = ANYBODY): Promise<RunDetail> {
    const run = (await readRun(this.pool, id)) ?? fail();
    await inTransaction(this.pool, async (db) => {
      const there = await readPlaces(db, run.deviceId);
      const moved = places.filter((place) =>
        there.some((one) => one.spot === place.spot && !isDeepStrictEqual(one, place)),
      );
      if (moved.length > 0 && !author.mayAll)
        throw new Problem(403, {
          code: 'not-yours',
          message: `“${moved[0]!.spot}” has its place on this device already.`,
          remedy: 'Nothing was changed. Ask the reviewer to move it.',
        });
      await placeSpots(db, run.deviceId, places);
    });
    return this.get(id);
  }

  async delete(id: string): Promise<void> {
    const run = (await readRun(this.pool, id)) ?? fail();
    refusePart(run);
    if (run.joined)
      throw new Problem(409, {
        code: 'joined',
        message: `“${run.name}” contains the runs it was joined from; they would be deleted with it.`,
        remedy: 'Split it into runs, then delete the runs you do not need.',
      });
    if (!(await setDeleted(this.pool, id, true))) fail();
  }

  /** The run as an open run file, line by line. */
  async export(id: string): Promise<{ fileName: string; lines: Iterable<RunLine> }> {
    const { run, chunks, pages } = await this.whole(id);
    return {
      fileName: `${run.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.pace.ndjson`,
      lines: run.part
        ? runLines(run, partOfTrack(fromChunks(chunks), run.part), partOfLines(linesOf(pages), run.part))
        : runLines(run, fromChunks(chunks), linesOf(pages)),
    };
  }

  /** The run file and its pictures, as files of a zip. */
  async bundle(id: string): Promise<{ fileName: string; files: AsyncIterable<BundleFile> }> {
    const { fileName, lines } = await this.export(id);
    const pictures = await listPictures(this.pool, id);
    const pool = this.pool;
    async function* files(): AsyncGenerator<BundleFile> {
      yield { name: fileName, bytes: encoded(lines) };
      for (const [i, { id: picture }] of pictures.entries()) {
        const bytes = await readPicture(pool, id, picture, 'jpeg');
        // one that was taken away meanwhile
        if (bytes) yield { name: `pictures/${i + 1}.jpg`, bytes: [bytes] };
      }
    }
    return { fileName: fileName.replace(/\.pace\.ndjson$/, '.zip'), files: files() };
  }
}

/** Files of a zip, one after the other. */
export interface BundleFile {
  name: string;
  bytes: Iterable<Uint8Array>;
}

/** Cells of a lane at most: minutes of the longest run. */
const MOST_CELLS = LONGEST_RUN_S / 60;

/** A run and its figures. */
interface Figured {
  run: NamedRun;
  analysis: StoredAnalysis;
}

/** Nobody types so many. */
const MOST_BY_HAND = 20_000;

/** Lines that keep coming are joined with the next attempt, so often at most. */
const MOST_ATTEMPTS = 20;

/** Conditions of the run file's list that preflight states. */
function statedBy(preflight: Preflight): string[] {
  const stated: [string, boolean][] = [
    ['plugged-in', preflight.charging === 'plugged in'],
    ['boosted', preflight.performanceMode === 'boost'],
    ['first-play', preflight.firstPlay === true],
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
  scene: null,
  fromKit: [],
  bars: null,
};

function fail(): never {
  throw notFound('run');
}

async function changes(db: Queryable, run: NamedRun, correction: RunCorrection): Promise<Partial<RunRow>> {
  const titleId =
    correction.title === undefined ? run.titleId : await idByName(db, 'title', correction.title);
  // a setup belongs to its title: another title takes the setup's name along
  const setup = correction.setup === undefined ? run.setup : correction.setup;
  const stated = restated(run, correction);
  return {
    name: correction.name ?? ownName(run, correction),
    deviceId: correction.device === undefined ? undefined : await idByName(db, 'device', correction.device),
    titleId,
    setupId: setup === null ? null : await setupIdByName(db, titleId, setup),
    target: correction.target,
    refresh: correction.refresh,
    native: correction.native,
    need: correction.need,
    batteryWh: correction.batteryWh,
    splitMinutes: correction.splitMinutes,
    scene: correction.scene,
    ...stated,
    fromKit: statedByHand(run.fromKit, correction),
    ...(correction.barsOfNow ? { bars: await readBars(db) } : {}),
  };
}

/** A name that only says what was played where follows when that is corrected; one that somebody gave stays. */
function ownName(run: NamedRun, { device, title }: RunCorrection): string | undefined {
  if (run.name !== `${run.title} on ${run.device}`) return undefined;
  return device === undefined && title === undefined
    ? undefined
    : `${title ?? run.title} on ${device ?? run.device}`;
}

/** Room, preflight and conditions say the same thing in three places: what is corrected in one follows in the others. */
function restated(
  run: NamedRun,
  { roomC, preflight, conditions }: RunCorrection,
): Pick<Partial<RunRow>, 'roomC' | 'preflight' | 'conditions'> {
  const stated: Preflight = preflight ?? run.preflight;
  const room =
    roomC === undefined ? (preflight === undefined ? run.roomC : (preflight.roomC ?? null)) : roomC;
  const { roomC: _before, ...others } = stated;
  const before = statedBy(run.preflight);
  return {
    roomC: room,
    preflight: room === null ? others : { ...others, roomC: room },
    conditions:
      conditions ??
      (preflight === undefined
        ? run.conditions
        : [...new Set([...run.conditions.filter((code) => !before.includes(code)), ...statedBy(preflight)])]),
  };
}

/** A lane while figures are computed anew. */
const NO_LANE: StoredSummary['lane'] = {
  seconds: 0,
  measures: 'hold',
  target: null,
  top: null,
  readOff: false,
  cells: [],
  end: null,
};

function toSummary(
  run: NamedRun,
  summary: StoredSummary | null,
  library: LibraryFacts,
  pictures: number,
): RunSummary {
  const { id, name, device, title, setup, startedAt, importedAt, roomC, recording, part, isSitting } = run;
  const { headline, caveats, trust, scenes, lane } = summary ?? {
    headline: null,
    caveats: null,
    trust: null,
    scenes: [],
    lane: NO_LANE,
  };
  return {
    id,
    name,
    device,
    title,
    setup,
    startedAt,
    importedAt,
    roomC,
    recording,
    part,
    isSitting,
    pictures,
    headline,
    confidences: caveats && trust && confidencesOf(withLibrary(caveats, scenes, library), trust),
    // what was stored before times were bounded
    lane: {
      ...lane,
      seconds: Math.min(LONGEST_RUN_S, lane.seconds),
      cells: lane.cells.slice(0, MOST_CELLS),
    },
  };
}

function toDetail(
  run: NamedRun,
  { figures, summary, series }: StoredAnalysis,
  library: LibraryFacts,
  beside: Pick<RunDetail, 'entries' | 'places' | 'onCard' | 'recorded' | 'evidence' | 'barNow' | 'parts'>,
): RunDetail {
  const caveats = withLibrary(summary.caveats, summary.scenes, library);
  return {
    ...toSummary(run, summary, library, beside.evidence.length),
    joined: run.joined,
    target: run.target,
    refresh: run.refresh,
    native: run.native,
    need: run.need,
    batteryWh: run.batteryWh,
    conditions: run.conditions,
    scene: run.scene,
    fromKit: run.fromKit,
    preflight: run.preflight,
    splitMinutes: run.splitMinutes,
    upload:
      run.fileName === null || run.fileBytes === null || run.fileSha256 === null
        ? null
        : {
            fileName: run.fileName,
            bytes: run.fileBytes,
            sha256: run.fileSha256,
            rows: run.rowsTotal,
            dropped: run.droppedList,
            passedOver: run.passedOver,
            cutOff: run.cutOff,
          },
    ...beside,
    caveats: caveats.map((caveat) => ({ caveat, says: caveatSentence(caveat) })),
    figures,
    series,
  };
}

/** What the worker needs to analyse a run that is stored. */
const taskOf = (run: NamedRun, chunks: FrameChunk[], pages: string[]): Omit<AnalyseTask, 'kind'> => ({
  chunks,
  remains: { dropped: run.rowsDropped, cutOff: run.cutOff },
  pages,
  cut: run.part,
  facts: {
    target: run.target,
    refreshHz: run.refresh,
    native: run.native,
    need: run.need,
    roomC: run.roomC,
    batteryWh: run.batteryWh,
    conditions: run.conditions,
    splitMinutes: run.splitMinutes,
    played: playedName(run.title, run.setup),
    scene: run.scene,
    bars: run.bars,
    inSitting: run.part !== null && run.part.fromMs > 0,
  },
});

/** The same run sent again is there already; another one under its id would be lost without a word. @throws Problem 409 */
function refuseTaken(there: NamedRun, facts: NewRun['facts']): void {
  const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();
  if (same(there.device, facts.device) && same(there.title, facts.title)) return;
  throw new Problem(409, {
    code: 'taken-id',
    message: `Another run has this id: ${there.title} on ${there.device}.`,
    remedy: 'Nothing was stored. Send it under a new id.',
  });
}
