import { report } from './logs';
import {
  benchChange,
  plannedEndId,
  type BenchChange,
  type BenchPlan,
  type BenchState,
  type ChangesTaken,
  type Recording,
} from '@pace-check/contract';
import {
  changeRun,
  clock,
  dayMinute,
  howEnded,
  Lines,
  plannedEndMs,
  type ChangeRefused,
  type RunChange,
} from '@pace-check/core';
import type pg from 'pg';
import { v5 as uuidOf } from 'uuid';
import { insertEvents, readCard, readEvents } from '../sql/cards';
import { inTransaction, type Queryable } from '../sql/database';
import { idByName, setupIdByName } from '../sql/kit';
import {
  insertRecording,
  keepClock,
  listRecordings,
  noteChange,
  putEntries,
  readChange,
  readChangedEntries,
  readLines,
  readOpenSpans,
  readRecording,
  readRunning,
  unsettledRuns,
  updateRecording,
  type RecordingChange,
  type RecordingRow,
} from '../sql/recordings';
import { insertRun, lockRun, readRun, readRuns, setStarted, type NamedRun } from '../sql/runs';
import { readBars } from '../sql/settings';
import { runMs, type LiveRuns } from './liveRuns';
import { PlannedEnds } from './plannedEnds';
import { notFound, Problem } from './problem';
import { BY_HAND_RUN, type Runs } from './runs';
import { serverNow } from './serverClock';
import { takeChanges } from './takeChanges';

/** Late lines of a run that has ended are joined together after so long. */
const LATE_MS = 1000;
/** Ended recordings are listed so long. */
const LISTED_HOURS = 24;

/** Lines of a series of readings that a screen is told at once. */
const SERIES_LINES = 80;
/** What is recorded is looked after this often, ms; the clock is kept then, and a server that starts anew goes on from there. */
const ROUND_MS = 5000;
/** A timer may be this much early, ms. */
const EARLY_MS = 50;

/** Recording a run: what people do at the bench. */
export class Bench {
  private round: NodeJS.Timeout | undefined;
  /** Those that had ended and were not joined when it was looked last. */
  private unsettled: string[] = [];
  private readonly late = new Map<string, NodeJS.Timeout>();

  constructor(
    private readonly pool: pg.Pool,
    private readonly live: LiveRuns,
    private readonly runs: Runs,
  ) {
    live.onLate = (runId) => this.settleSoon(runId);
    live.onChanged = (runId) =>
      void this.watchPlannedEnd(runId).catch((error: unknown) =>
        report(`A planned end is not watched: ${String(error)}`),
      );
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

  private async read(runId: string): Promise<{ recording: Recording; change: number }> {
    const row = await readRecording(this.pool, runId);
    const run = row && (await readRun(this.pool, runId));
    if (!row || !run) throw notFound('recording');
    const sources = (await this.live.sources([runId])).get(runId) ?? [];
    return { recording: toRecording(row, run, sources), change: row.change };
  }

  /** A run as its screens show it; lines that changed after a number, or all. */
  async state(runId: string, after = -1): Promise<BenchState> {
    // before its lines: what changes in between is told once more, not missed
    const { recording, change } = await this.read(runId);
    return {
      recording,
      entries: await readChangedEntries(this.pool, runId, after, SERIES_LINES),
      live: recording.status === 'running' ? await this.live.pace(runId) : null,
      change,
      now: serverNow(),
    };
  }

  /** Number of the last change of a run. */
  lastChange(runId: string): Promise<number | null> {
    return readChange(this.pool, runId);
  }

  /** Makes changes, each once. */
  async take(runId: string, changes: unknown[]): Promise<ChangesTaken> {
    try {
      const taken = await takeChanges(benchChange, changes, (change) => this.change(runId, change));
      // a screen that has heard of this number has heard of these changes
      const row = await readRecording(this.pool, runId);
      return row ? { ...taken, change: row.change } : taken;
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
      const row = await readRecording(db, runId, 'change');
      if (!row) throw notFound('recording');
      if (!(await noteChange(db, runId, change.id))) return false;
      await make(db, row, change satisfies ChangeOfRun);
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
      const row = await readRecording(db, runId, 'change');
      // it was ended, asked otherwise or deleted meanwhile: whoever did so has set the timer anew
      const atMs = row && plannedEndMs(row);
      if (!row || atMs === null || atMs > runMs(row)! + EARLY_MS * row.speed || !(await readRun(db, runId)))
        return false;
      await make(db, row, {
        kind: 'end',
        entry: plannedEndId(runId),
        atMs,
        reason: 'planned',
        writer: null,
      });
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
            report(`A run could not be joined: ${String(error)}`),
          ),
        afterMs,
      ),
    );
  }

  /** Makes a run that has ended one like any other, with its figures. */
  async settle(runId: string): Promise<void> {
    this.late.delete(runId);
    await this.runs.join(runId);
    await this.live.changed(runId);
  }

  /** A run that was deleted is there again: what it missed follows. */
  async restored(runId: string): Promise<void> {
    const row = await readRecording(this.pool, runId);
    if (row?.status === 'ended' && !row.settled) await this.settle(runId);
    await this.watchPlannedEnd(runId);
  }

  /** Begins to look after what is recorded. */
  async resume(): Promise<void> {
    const look = (atOnce: boolean): Promise<void> =>
      this.lookAfter(atOnce).catch((error: unknown) =>
        report(`Recordings were not checked: ${String(error)}`),
      );
    await look(true);
    this.round = setInterval(() => void look(false), ROUND_MS);
  }

  /**
   * Whichever process began something may be gone: every one sees to it that
   * runs end as planned, that those that have ended are joined, and that the
   * clock is kept.
   *
   * @param atOnce does not wait whether the process that a run ended in joins it
   */
  private async lookAfter(atOnce: boolean): Promise<void> {
    const running = await readRunning(this.pool);
    for (const row of running) this.plannedEnds.watch(row);
    this.live.keepOnly(running.map((row) => row.runId));
    if (running.length > 0) await keepClock(this.pool, serverNow());
    const unsettled = await unsettledRuns(this.pool);
    for (const runId of unsettled)
      if ((atOnce || this.unsettled.includes(runId)) && !this.late.has(runId))
        await this.settle(runId).catch((error: unknown) =>
          report(`A run could not be joined: ${String(error)}`),
        );
    this.unsettled = unsettled;
  }

  close(): void {
    clearInterval(this.round);
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
      bars: await readBars(db),
    },
    runId,
  );
  if (made === null) return false;
  await insertRecording(db, runId, speed, plan, step);
  return true;
}

type ChangeOfRun = Exclude<BenchChange, { kind: 'open' }>;

/** Makes a change as the rulebook has it, and stores what came of it. The run must be locked. @throws Problem where it cannot be made */
async function make(db: Queryable, row: RecordingRow, change: RunChange<BenchPlan>): Promise<void> {
  const { runId } = row;
  const made = changeRun(row, await linesFor(db, runId, change), change, {
    nowMs: serverNow(),
    plannedEnd: plannedEndId(runId),
  });
  if (made.refused) throw refusal(made.refused);
  const { run, lines } = made;
  const lost = await putEntries(
    db,
    runId,
    lines.map(({ source: _source, ...line }) => line),
  );
  if (lost.length > 0) throw refusal({ why: 'taken-back' });
  const changed: RecordingChange = {
    ...(run.status === row.status ? {} : { status: run.status, startedMs: run.startedMs ?? undefined }),
    ...(run.end === row.end ? {} : { end: run.end }),
    ...(run.plan === row.plan ? {} : { plan: run.plan }),
    // what came to a run that has ended is joined anew
    ...(run.status === 'ended' && lines.length > 0 ? { settled: false } : {}),
  };
  if (Object.keys(changed).length > 0) await updateRecording(db, runId, changed);
  if (run.startedMs !== row.startedMs) await setStarted(db, runId, run.startedMs!);
}

/** The lines that a change may look at, and no more. */
async function linesFor(db: Queryable, runId: string, change: RunChange<BenchPlan>): Promise<Lines> {
  if (change.kind === 'end')
    return new Lines([
      ...(await readOpenSpans(db, runId)),
      ...(await readLines(db, runId, [plannedEndId(runId)])),
    ]);
  return new Lines('entry' in change ? await readLines(db, runId, [change.entry]) : []);
}

function refusal(refused: ChangeRefused): Problem {
  switch (refused.why) {
    case 'no-line':
      return notFound('line');
    case 'end-as-line':
      return new Problem(400, {
        code: 'bad-request',
        message: 'A run cannot be ended this way.',
        remedy: 'Use “End recording”.',
      });
    case 'taken-back':
      return new Problem(409, {
        code: 'gone',
        message: 'This entry was removed in the meantime.',
        remedy: 'Enter it again if you need it.',
      });
    case 'ended':
      return new Problem(409, {
        code: 'ended',
        message: `The run has already ended, at ${clock(refused.atMs / 1000)}.`,
        remedy: 'You can edit the end time and reason on the run’s page.',
      });
  }
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
      how: howEnded('planned'),
      stepId: step.stepId,
      repeat: step.repeat,
      atMin: dayMinute(endMs / 60_000, startMin, null, 1),
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
    end: row.end,
    sources,
    used: row.used,
    settled: row.settled,
  };
}
