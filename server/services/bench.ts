import {
  benchChange,
  type BenchChange,
  type BenchState,
  type ChangesTaken,
  type Recording,
} from '@pace-check/contract';
import { clock } from '@pace-check/core';
import type pg from 'pg';
import { v5 as uuidOf } from 'uuid';
import { insertEvents, readCard, readEvents } from '../sql/cards';
import { inTransaction, type Queryable } from '../sql/database';
import { idByName, setupIdByName } from '../sql/kit';
import {
  closeSpans,
  insertRecording,
  keepClock,
  listRecordings,
  noteChange,
  putEntries,
  readChangedEntries,
  readRecording,
  runningRuns,
  takeEntryBack,
  unsettledRuns,
  updateRecording,
  type RecordingRow,
} from '../sql/recordings';
import { insertRun, lockRun, readRun, readRuns, setStarted, type NamedRun } from '../sql/runs';
import { runMs, type LiveRuns } from './liveRuns';
import { PlannedEnds, plannedEndId, plannedEndMs } from './plannedEnds';
import { notFound, Problem } from './problem';
import { BY_HAND_RUN, type Runs } from './runs';
import { serverNow } from './serverClock';
import { takeChanges } from './takeChanges';

/** Late lines of a run that has ended are joined together after so long. */
const LATE_MS = 1000;
/** Ended recordings are listed so long. */
const LISTED_HOURS = 24;
/** A start further from now is a clock that is wrong. */
const START_WITHIN_MS = 24 * 3600 * 1000;

/** Lines of a series of readings that a screen is told at once. */
const SERIES_LINES = 80;
/** The clock is kept this often while runs are recorded, ms: a server that starts anew goes on from there. */
const KEEP_CLOCK_MS = 5000;
/** A timer may be this much early, ms. */
const EARLY_MS = 50;
/** Two people who press the button at one moment mean one end. */
const SAME_END_MS = 10_000;

/** Recording a run: what people do at the bench. */
export class Bench {
  private clock: NodeJS.Timeout | undefined;
  private readonly late = new Map<string, NodeJS.Timeout>();

  constructor(
    private readonly pool: pg.Pool,
    private readonly live: LiveRuns,
    private readonly runs: Runs,
  ) {
    live.onLate = (runId) => this.settleSoon(runId);
  }

  private readonly plannedEnds = new PlannedEnds((runId) => this.endAsPlanned(runId));

  async list(): Promise<Recording[]> {
    const rows = await listRecordings(this.pool, LISTED_HOURS);
    const ids = rows.map((row) => row.runId);
    const runs = new Map((await readRuns(this.pool, ids)).map((run) => [run.id, run]));
    const sources = await this.live.sources(ids);
    return rows.flatMap((row) => {
      const run = runs.get(row.runId);
      return run ? [toRecording(row, run, sources.get(row.runId) ?? [])] : [];
    });
  }

  async recording(runId: string): Promise<Recording> {
    const row = await readRecording(this.pool, runId);
    const run = row && (await readRun(this.pool, runId));
    if (!row || !run) throw notFound('recording');
    return toRecording(row, run, (await this.live.sources([runId])).get(runId) ?? []);
  }

  /** A run as its screens show it; lines that changed after a number, or all. */
  async state(runId: string, after = -1): Promise<BenchState> {
    const recording = await this.recording(runId);
    const { entries, change } = await readChangedEntries(this.pool, runId, after, SERIES_LINES);
    return {
      recording,
      entries: entries.map(({ change: _change, ...entry }) => entry),
      live: recording.status === 'running' ? await this.live.pace(runId) : null,
      change: change ?? Math.max(after, 0),
      now: serverNow(),
    };
  }

  /** Makes changes, each once. */
  async take(runId: string, changes: unknown[]): Promise<ChangesTaken> {
    try {
      return await takeChanges(benchChange, changes, (change) => this.change(runId, change));
    } finally {
      await this.live.changed(runId);
    }
  }

  private async change(runId: string, change: BenchChange): Promise<void> {
    const ended = await inTransaction(this.pool, async (db) => {
      if (change.kind === 'open') {
        // two tabs may open the same run at one moment: one of them does
        if (await open(db, runId, change)) await noteChange(db, runId, change.id);
        return false;
      }
      await lockRun(db, runId);
      const row = await readRecording(db, runId, true);
      if (!row) throw notFound('recording');
      if (!(await noteChange(db, runId, change.id))) return false;
      await CHANGES[change.kind](db, row, change as never);
      return change.kind === 'end' || row.status === 'ended';
    });
    if (change.kind === 'open') await this.runs.applyPreflight(runId, change.preflight);
    if (change.kind === 'start' || change.kind === 'plan' || change.kind === 'end')
      await this.watchPlannedEnd(runId);
    if (ended) this.settleSoon(runId, change.kind === 'end' ? 0 : LATE_MS);
  }

  private async watchPlannedEnd(runId: string): Promise<void> {
    const row = await readRecording(this.pool, runId);
    if (row) this.plannedEnds.watch(row);
  }

  /** Ends a run that was asked to end by itself, and tells the day of its card. */
  private async endAsPlanned(runId: string): Promise<void> {
    const ended = await inTransaction(this.pool, async (db) => {
      await lockRun(db, runId);
      const row = await readRecording(db, runId, true);
      // it was ended, asked otherwise or deleted meanwhile: whoever did so has set the timer anew
      const atMs = row && plannedEndMs(row);
      if (!row || atMs === null || atMs > runMs(row)! + EARLY_MS * row.speed || !(await readRun(db, runId)))
        return false;
      await endRun(db, row, { entry: plannedEndId(runId), atMs, reason: 'planned', writer: null });
      await tellCard(db, row, atMs);
      return true;
    });
    if (!ended) return;
    this.settleSoon(runId, 0);
    await this.live.changed(runId);
  }

  private settleSoon(runId: string, afterMs = LATE_MS): void {
    clearTimeout(this.late.get(runId));
    this.late.set(
      runId,
      setTimeout(
        () =>
          void this.settle(runId).catch((error: unknown) =>
            console.error(`A run could not be joined: ${String(error)}`),
          ),
        afterMs,
      ),
    );
  }

  /** Makes a run that has ended one like any other, with its figures. */
  async settle(runId: string): Promise<void> {
    this.late.delete(runId);
    await this.runs.join(runId);
    this.live.forget(runId);
    await this.live.changed(runId);
  }

  /** A run that was deleted is there again: what it missed follows. */
  async restored(runId: string): Promise<void> {
    const row = await readRecording(this.pool, runId);
    if (row?.status === 'ended' && !row.settled) await this.settle(runId);
    await this.watchPlannedEnd(runId);
  }

  /** After a start: runs whose end was told, but not what follows from it, and runs that end by themselves. */
  async resume(): Promise<void> {
    for (const runId of await unsettledRuns(this.pool))
      await this.settle(runId).catch((error: unknown) =>
        console.error(`A run could not be joined: ${String(error)}`),
      );
    for (const runId of await runningRuns(this.pool)) await this.watchPlannedEnd(runId);
    this.clock = setInterval(
      () =>
        void this.keepClock().catch((error: unknown) =>
          console.error(`The clock could not be kept: ${String(error)}`),
        ),
      KEEP_CLOCK_MS,
    );
  }

  private async keepClock(): Promise<void> {
    if ((await runningRuns(this.pool)).length > 0) await keepClock(this.pool, serverNow());
  }

  close(): void {
    clearInterval(this.clock);
    this.plannedEnds.close();
    for (const timer of this.late.values()) clearTimeout(timer);
  }
}

/** @returns false where it is there */
async function open(
  db: Queryable,
  runId: string,
  { facts, preflight, plan, speed, step }: Extract<BenchChange, { kind: 'open' }>,
): Promise<boolean> {
  if (await readRecording(db, runId)) return false;
  const titleId = await idByName(db, 'title', facts.title);
  const made = await insertRun(
    db,
    {
      ...BY_HAND_RUN,
      name: `${facts.title} on ${facts.device}`,
      deviceId: await idByName(db, 'device', facts.device),
      titleId,
      setupId: facts.setup === null ? null : await setupIdByName(db, titleId, facts.setup),
      target: facts.target,
      refresh: facts.refresh,
      roomC: preflight.roomC ?? null,
    },
    runId,
  );
  if (made === null) return false;
  await insertRecording(db, runId, speed, plan, step);
  return true;
}

type Change<K extends BenchChange['kind']> = Extract<BenchChange, { kind: K }>;

const CHANGES: {
  [K in Exclude<BenchChange['kind'], 'open'>]: (
    db: Queryable,
    row: RecordingRow,
    change: Change<K>,
  ) => Promise<void>;
} = {
  start: async (db, row, { at }) => {
    // two people pressed it: the first one counts
    if (row.status !== 'ready') return;
    const now = serverNow();
    const startedMs = at > now || at < now - START_WITHIN_MS ? now : at;
    await updateRecording(db, row.runId, { status: 'running', startedMs });
    await setStarted(db, row.runId, startedMs);
  },
  put: async (db, row, { entry, line, open, writer }) => {
    if (line.type === 'end')
      throw new Problem(400, {
        code: 'bad-request',
        message: 'A run ends by its own button.',
        remedy: 'Use “End the run”.',
      });
    const lost = await putEntries(db, row.runId, [
      {
        id: entry,
        line:
          open && line.type === 'span' && row.status === 'ended'
            ? { ...line, toMs: Math.max(line.fromMs, row.endMs!) }
            : line,
        open: open && row.status !== 'ended',
        writer,
      },
    ]);
    if (lost.length > 0)
      throw new Problem(409, {
        code: 'gone',
        message: 'This line was taken back meanwhile.',
        remedy: 'Enter it anew if it is wanted.',
      });
    if (row.status === 'ended') await updateRecording(db, row.runId, { settled: false });
  },
  'take-back': async (db, row, { entry }) => {
    if (!(await takeEntryBack(db, row.runId, entry))) throw notFound('line');
    if (row.status === 'ended') await updateRecording(db, row.runId, { settled: false });
  },
  plan: async (db, row, { plan }) => updateRecording(db, row.runId, { plan }),
  end: async (db, row, change) => {
    if (row.status !== 'ended') return endRun(db, row, change);
    // who ended it before it ended by itself was only heard late
    if (change.atMs < row.endMs! && (await takeEntryBack(db, row.runId, plannedEndId(row.runId))))
      return endRun(db, row, change);
    if (
      change.entry === plannedEndId(row.runId) ||
      (change.reason === row.endReason && Math.abs(change.atMs - row.endMs!) <= SAME_END_MS * row.speed)
    )
      return;
    throw new Problem(409, {
      code: 'ended',
      message: `The run has ended already, at ${clock(row.endMs! / 1000)}.`,
      remedy: 'Its end reason and time are corrected on the run’s page.',
    });
  },
};

async function endRun(
  db: Queryable,
  row: RecordingRow,
  {
    entry,
    atMs,
    reason,
    writer,
  }: Pick<Change<'end'>, 'entry' | 'atMs' | 'reason'> & { writer: string | null },
): Promise<void> {
  const endMs = Math.min(atMs, runMs({ ...row, endMs: null }) ?? 0);
  await closeSpans(db, row.runId, endMs);
  await putEntries(db, row.runId, [
    { id: entry, line: { type: 'end', atMs: endMs, reason }, ...(writer === null ? {} : { writer }) },
  ]);
  await updateRecording(db, row.runId, { status: 'ended', endMs, endReason: reason, settled: false });
}

/** The day of the card hears of it once, whoever tells: from where it heard of the start. */
async function tellCard(db: Queryable, { runId, step }: RecordingRow, endMs: number): Promise<void> {
  if (!step || !(await readCard(db, step.cardId))) return;
  const ofRun = (await readEvents(db, step.cardId)).filter(
    (event) => 'stepId' in event && event.stepId === step.stepId && event.repeat === step.repeat,
  );
  if (ofRun.some((event) => event.kind === 'ended')) return;
  const startMin = ofRun.findLast((event) => event.kind === 'started')?.atMin ?? step.atMin;
  await insertEvents(db, step.cardId, [
    {
      id: uuidOf('ended', runId),
      kind: 'ended',
      how: 'done',
      stepId: step.stepId,
      repeat: step.repeat,
      atMin: Math.round(startMin + endMs / 60_000),
    },
  ]);
}

function toRecording(row: RecordingRow, run: NamedRun, sources: Recording['sources']): Recording {
  return {
    runId: row.runId,
    name: run.name,
    device: run.device,
    title: run.title,
    setup: run.setup,
    target: run.target,
    refresh: run.refresh,
    roomC: run.roomC,
    batteryWh: run.batteryWh,
    status: row.status,
    startedAt: row.startedMs,
    speed: row.speed,
    plan: row.plan,
    step: row.step,
    end: row.endMs === null ? null : { atMs: row.endMs, reason: row.endReason! },
    sources,
    used: row.used,
    settled: row.settled,
  };
}
