import {
  markUnused,
  readBatches,
  readBenchEntries,
  readRecording,
  readSources,
  replaceBatches,
  updateRecording,
  type RecordingRow,
} from '../sql/recordings';
import type { Queryable } from '../sql/database';
import { deleteChunks, insertChunks } from '../sql/frames';
import { raiseRevision, readRun, updateRun, type NamedRun } from '../sql/runs';
import type { JoinResult, JoinTask } from '../workers/tasks';

/** All that was recorded of a run that has ended, and what tells whether anything has come since. */
export interface Recorded {
  runId: string;
  change: number;
  revision: number;
  task: JoinTask;
}

/** Reads what sources and people gave of a run, as it stands at one moment. */
export async function readRecorded(
  db: Queryable,
  { runId, end, change }: RecordingRow,
  { revision }: NamedRun,
): Promise<Recorded> {
  const sources = [];
  for (const source of await readSources(db, runId))
    sources.push({ id: source.id, batches: await readBatches(db, source) });
  return {
    runId,
    change,
    revision,
    task: { kind: 'join', sources, entries: await readBenchEntries(db, runId), endMs: end?.atMs ?? null },
  };
}

/**
 * Stores what was joined: the run's frames become those of any other run, and
 * lines that another source's stand for are marked. The run must be locked.
 *
 * @returns false, and nothing is stored, where something came in between
 */
export async function storeJoined(
  db: Queryable,
  { runId, change, revision }: Recorded,
  joined: JoinResult,
): Promise<boolean> {
  const recording = await readRecording(db, runId, 'change');
  const run = await readRun(db, runId);
  if (recording?.change !== change || run?.revision !== revision) return false;
  await deleteChunks(db, runId);
  await insertChunks(db, runId, joined.chunks);
  await markUnused(db, runId, joined.unused);
  await updateRun(db, runId, {
    rowsTotal: joined.rows.total,
    rowsDropped: joined.rows.unreadable,
    droppedList: joined.rows.listed,
  });
  for (const { sourceId, batch } of joined.packed) await replaceBatches(db, { id: sourceId, runId }, batch);
  await updateRecording(db, runId, { settled: true, used: joined.used });
  await raiseRevision(db, runId);
  return true;
}
