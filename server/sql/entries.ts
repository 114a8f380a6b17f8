import type { StoredEntry } from '@pace-check/contract';
import { lineTimeMs, type EntryLine } from '@pace-check/core';
import type { Queryable } from './database';

/** Appends lines to a run, behind those that it has. */
export async function insertEntries(db: Queryable, runId: string, entries: EntryLine[], source: StoredEntry['source']): Promise<void> {
  if (entries.length === 0) return;
  await db.query(
    `insert into entry (run_id, seq, type, at_ms, line, source)
     select $1, (select coalesce(max(seq), -1) from entry where run_id = $1) + place, item ->> 'type', (item ->> 'at')::float8, item -> 'line', $3
     from jsonb_array_elements($2::jsonb) with ordinality as lines (item, place)`,
    [runId, JSON.stringify(entries.map((line) => ({ type: line.type, at: lineTimeMs(line), line }))), source],
  );
}

/** A run's lines in the order in which they came. */
export async function readEntries(db: Queryable, runId: string): Promise<EntryLine[]> {
  return (await db.query<{ line: EntryLine }>('select line from entry where run_id = $1 and used and not taken_back order by seq', [runId])).rows.map((row) => row.line);
}

/** Lines that a person may take back: what was added by hand, and spans of the file. */
export async function readOwnEntries(db: Queryable, runId: string): Promise<StoredEntry[]> {
  return (await db.query<StoredEntry>("select id, source, line from entry where run_id = $1 and (source = 'hand' or type = 'span') and not taken_back order by at_ms, seq", [runId])).rows;
}

/** Takes a line out; false where there is none of that name. */
export async function deleteEntry(db: Queryable, runId: string, entryId: string): Promise<boolean> {
  const result = await db.query("delete from entry where run_id = $1 and id = $2 and (source = 'hand' or type = 'span')", [runId, entryId]);
  return result.rowCount === 1;
}
