import { lineTimeMs, type EntryLine } from '@pace-check/core';
import type { Queryable } from './database';

export async function insertEntries(db: Queryable, runId: string, entries: EntryLine[]): Promise<void> {
  if (entries.length === 0) return;
  await db.query(
    `insert into entry (run_id, seq, type, at_ms, line)
     select $1, place - 1, item ->> 'type', (item ->> 'at')::float8, item -> 'line'
     from jsonb_array_elements($2::jsonb) with ordinality as lines (item, place)`,
    [runId, JSON.stringify(entries.map((line) => ({ type: line.type, at: lineTimeMs(line), line })))],
  );
}

/** A run's lines in the order in which they came. */
export async function readEntries(db: Queryable, runId: string): Promise<EntryLine[]> {
  return (await db.query<{ line: EntryLine }>('select line from entry where run_id = $1 order by seq', [runId])).rows.map((row) => row.line);
}
