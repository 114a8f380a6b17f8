import { randomUUID } from 'node:crypto';
import type { JoinedRuns, RunDetail } from '@pace-check/contract';
import type { EntryLine } from '@pace-check/core';
import type pg from 'pg';
import type { FrameChunk } from '../frames/chunkCodec';
import { inTransaction, type Queryable } from '../sql/database';
import { insertEntries } from '../sql/entries';
import { insertChunks, readChunks } from '../sql/frames';
import { appendLines, markByJoining, putAway, readEnd, readStanding } from '../sql/joining';
import { insertRun, lockRun, readRuns, setDeleted, type NamedRun } from '../sql/runs';
import { refusePart } from './parts';
import { notFound, Problem } from './problem';
import { BY_HAND_RUN, type Runs } from './runs';
import { agreed, takenApart } from './takeApart';

/** Runs of one sitting, joined on one clock and taken apart again. */
export class Sittings {
  constructor(
    private readonly pool: pg.Pool,
    private readonly runs: Runs,
  ) {}

  /**
   * Joins runs of one device, of which each says when it began. Their clocks
   * become one, what lies between them stays as a pause, and they are put away
   * until the sitting is taken apart.
   *
   * @throws Problem 422 where they are no sitting
   */
  async join({ runs: ids, name }: JoinedRuns): Promise<RunDetail> {
    const lengths = new Map<string, number>();
    // what is stored of a run says how long it was
    for (const id of new Set(ids)) lengths.set(id, (await this.runs.get(id)).figures.frames.seconds * 1000);
    const sitting = await inTransaction(this.pool, async (db) => {
      for (const id of [...lengths.keys()].sort()) await lockRun(db, id);
      const runs = inOrder(await readRuns(db, [...lengths.keys()]), lengths);
      return joined(db, runs, name ?? null, lengths);
    });
    return this.runs.get(sitting);
  }

  /** Brings back what was joined, with what was written at the sitting since, and puts the sitting away. */
  async takeApart(id: string): Promise<{ runs: string[] }> {
    return inTransaction(this.pool, async (db) => {
      await lockRun(db, id);
      const runs = await takenApart(db, id);
      if (runs.length === 0) throw notFound('session');
      return { runs };
    });
  }

  /** Brings back what was deleted. @throws Problem 409 where its minutes are there already, or would be twice */
  async restore(id: string): Promise<void> {
    await inTransaction(this.pool, async (db) => {
      const standing = await readStanding(db, id);
      if (!standing) throw notFound('run');
      const { joinedInto, sitting, takenApart: apart } = standing;
      if (sitting !== null)
        throw new Problem(409, {
          code: 'part-of-sitting',
          message: `This run is part of the session “${sitting.name}”; it is deleted and restored with it.`,
          remedy: 'Open the session, or restore it.',
          runId: sitting.id,
          runName: sitting.name,
        });
      if (joinedInto !== null && !joinedInto.deleted)
        throw new Problem(409, {
          code: 'joined',
          message: `This run was joined into the session “${joinedInto.name}”; its minutes are there.`,
          remedy: 'To get it back, split the session into runs.',
          runId: joinedInto.id,
          runName: joinedInto.name,
        });
      if (apart)
        throw new Problem(409, {
          code: 'taken-apart',
          message: 'This session was split into runs; the original runs are there.',
          remedy: 'To have it again, join them.',
        });
      if (joinedInto === null) {
        if (!(await setDeleted(db, id, false))) throw notFound('run');
        return;
      }
      // the sitting is deleted: one of its runs comes back with the others
      await lockRun(db, joinedInto.id);
      await takenApart(db, joinedInto.id);
    });
  }
}

type Began = NamedRun & { startedAt: string };

/** Runs by their times. @throws Problem where they cannot be one sitting */
function inOrder(runs: NamedRun[], lengths: Map<string, number>): Began[] {
  if (runs.length < lengths.size) throw notFound('run');
  const refuse = (message: string, remedy: string): never => {
    throw new Problem(422, { code: 'no-sitting', field: 'runs', message, remedy });
  };
  if (runs.length < 2)
    refuse('A session needs more than one run.', 'Choose at least two runs played one after the other.');
  for (const run of runs) {
    refusePart(run);
    if (run.recording !== null)
      refuse(`“${run.name}” is still recording.`, 'End it at the bench, then join the runs.');
    if (run.device !== runs[0]!.device)
      refuse(
        `“${run.name}” was played on ${run.device}, “${runs[0]!.name}” on ${runs[0]!.device}.`,
        'All runs of a session must be from one device.',
      );
    if (run.startedAt === null)
      refuse(
        `The start time of “${run.name}” is unknown, so it cannot be placed on the timeline.`,
        'Import it as a run file with its start time (startedAt), or add its title to the other run with its times.',
      );
  }
  const began = (runs as Began[]).sort((a, b) => Date.parse(a.startedAt) - Date.parse(b.startedAt));
  began.forEach((run, i) => {
    const before = began[i - 1];
    if (before && Date.parse(run.startedAt) < Date.parse(before.startedAt) + lengths.get(before.id)! - 1)
      refuse(
        `“${run.name}” starts before “${before.name}” has ended.`,
        'Correct the start times, or leave one run out.',
      );
  });
  return began;
}

async function joined(
  db: Queryable,
  runs: Began[],
  name: string | null,
  lengths: Map<string, number>,
): Promise<string> {
  const [first] = runs as [Began];
  const id = randomUUID();
  const startMs = Date.parse(first.startedAt);
  await insertRun(
    db,
    {
      ...BY_HAND_RUN,
      name: name ?? `${runs.length} titles on ${first.device}`,
      deviceId: first.deviceId,
      titleId: first.titleId,
      setupId: first.setupId,
      target: first.target,
      refresh: first.refresh,
      native: first.native,
      need: first.need,
      roomC: first.roomC,
      batteryWh: first.batteryWh,
      conditions: first.conditions,
      startedAt: first.startedAt,
      scene: first.scene,
      preflight: agreed(runs),
      bars: first.bars,
      rowsDropped: runs.reduce((sum, run) => sum + run.rowsDropped, 0),
    },
    id,
  );
  const chunks: FrameChunk[] = [];
  const between: EntryLine[] = [];
  let [clockMs, untimed] = [0, 0];
  for (const [i, run] of runs.entries()) {
    const afterMs = Date.parse(run.startedAt) - startMs;
    const [head, ...rest] = await readChunks(db, run.id);
    if (head) {
      const gapUs = Math.round((afterMs - clockMs) * 1000);
      chunks.push(
        { ...head, gaps: gapUs > 0 ? [{ beforeFrame: 0, lengthUs: gapUs }, ...head.gaps] : head.gaps },
        ...rest,
      );
      clockMs = afterMs + lengths.get(run.id)!;
    }
    const last = i === runs.length - 1;
    const end = last ? null : await readEnd(db, run.id);
    const endMs = afterMs + lengths.get(run.id)!;
    const nextMs = last ? endMs : Date.parse(runs[i + 1]!.startedAt) - startMs;
    if (i > 0)
      between.push({
        type: 'title',
        atMs: afterMs,
        title: run.title,
        ...(run.setup === null ? {} : { setup: run.setup }),
        ...(run.target === null ? {} : { target: run.target }),
      });
    if (i > 0 && run.scene !== null) between.push({ type: 'scene', atMs: afterMs, scene: run.scene });
    if (end?.reason === 'crash')
      between.push({ type: 'mark', atMs: endMs, kind: 'crash', note: `end of ${run.title}` });
    if (nextMs - endMs > 1) between.push({ type: 'span', fromMs: endMs, toMs: nextMs, kind: 'pause' });
    untimed += await appendLines(db, { from: run.id, to: id, afterMs, withEnd: last });
  }
  if (untimed > 0)
    between.push({
      type: 'mark',
      atMs: 0,
      kind: 'note',
      note: `${untimed} ${untimed === 1 ? 'value' : 'values'} without a time stayed with the original runs.`,
    });
  await insertChunks(db, id, chunks);
  await insertEntries(db, id, between, 'hand');
  await markByJoining(db, id);
  await putAway(db, lengths, id);
  return id;
}
