import type { RecordingRow } from '../sql/recordings';
import { markUnused, readBatches, readBenchEntries, readSources, replaceBatches, updateRecording } from '../sql/recordings';
import type { Queryable } from '../sql/database';
import { deleteChunks, insertChunks } from '../sql/frames';
import { updateRun } from '../sql/runs';
import type { AnalysisPool } from './analysisPool';

/**
 * Joins what sources and people gave of a run that has ended: its frames
 * become those of any other run, and lines that another source's stand for are
 * marked. The recording must be locked.
 */
export async function joinRecorded(db: Queryable, analyses: AnalysisPool, { runId, endMs }: RecordingRow): Promise<void> {
  const sources = await readSources(db, runId);
  const batches = [];
  for (const { id } of sources) batches.push({ id, batches: await readBatches(db, id) });
  const joined = await analyses.join({ kind: 'join', sources: batches, entries: await readBenchEntries(db, runId), endMs });
  await deleteChunks(db, runId);
  await insertChunks(db, runId, joined.chunks);
  await markUnused(db, runId, joined.unused);
  await updateRun(db, runId, { rowsTotal: joined.rows.total, rowsDropped: joined.rows.unreadable, droppedList: joined.rows.listed });
  for (const { sourceId, batch } of joined.packed) await replaceBatches(db, sourceId, batch);
  await updateRecording(db, runId, { settled: true, used: joined.used });
}
