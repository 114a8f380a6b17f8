import type { StoredEntry } from '@pace-check/contract';
import { lineTimeMs, type EntryLine } from '@pace-check/core';
import type { Queryable } from './database';

/** Lines that go to the database at once: nobody waits for more of them to be put into words. */
const PAGE_LINES = 5000;

/** Lines as the database takes them, some thousands a page. A worker thread makes them of a file: its objects need not cross over. */
export function entryPages(entries: EntryLine[]): string[] {
  const pages: string[] = [];
  for (let from = 0; from < entries.length; from += PAGE_LINES)
    pages.push(
      JSON.stringify(
        entries
          .slice(from, from + PAGE_LINES)
          .map((line) => ({ type: line.type, at: lineTimeMs(line), line })),
      ),
    );
  return pages;
}

/** Appends lines to a run, behind those that it has. */
export async function insertEntries(
  db: Queryable,
  runId: string,
  entries: EntryLine[],
  source: StoredEntry['source'],
): Promise<void> {
  for (const page of entryPages(entries)) await insertPage(db, runId, page, source);
}

export async function insertPage(
  db: Queryable,
  runId: string,
  page: string,
  source: StoredEntry['source'],
): Promise<void> {
  await db.query(
    `insert into entry (run_id, seq, type, at_ms, line, source)
     select $1, (select coalesce(max(seq), -1) from entry where run_id = $1) + place, item ->> 'type', (item ->> 'at')::float8, item -> 'line', $3
     from jsonb_array_elements($2::jsonb) with ordinality as lines (item, place)`,
    [runId, page, source],
  );
}

/** A run's lines in the order in which they came, as JSON: whoever needs them reads them, in a thread of its own where they are many. */
export async function readEntryPages(db: Queryable, runId: string): Promise<string[]> {
  const result = await db.query<{ page: string }>(
    `select jsonb_agg(line order by seq)::text as page from (select line, seq, (row_number() over (order by seq) - 1) / $2::int as part from entry where run_id = $1 and used and not taken_back) as lines group by part order by part`,
    [runId, PAGE_LINES],
  );
  return result.rows.map((row) => row.page);
}

/** The lines of such pages. */
export const linesOf = (pages: string[]): EntryLine[] =>
  pages.flatMap((page) => JSON.parse(page) as EntryLine[]);

/** Nobody looks through more of them. */
const MOST_OWN = 20_000;

/** Lines that a person may correct or take back: what was added by hand, and spans, marks and scenes of the file. */
export async function readOwnEntries(db: Queryable, runId: string): Promise<StoredEntry[]> {
  return (
    await db.query<StoredEntry>(
      "select id, source, line from entry where run_id = $1 and (source = 'hand' or type in ('span', 'mark', 'scene')) and not taken_back order by at_ms, seq limit $2",
      [runId, MOST_OWN],
    )
  ).rows;
}

export async function countByHand(db: Queryable, runId: string): Promise<number> {
  return (
    await db.query<{ count: number }>(
      "select count(*)::int as count from entry where run_id = $1 and source = 'hand'",
      [runId],
    )
  ).rows[0]!.count;
}

/** Takes a line out; false where there is none of that name. */
export async function deleteEntry(db: Queryable, runId: string, entryId: string): Promise<boolean> {
  const result = await db.query(
    "delete from entry where run_id = $1 and id = $2 and (source = 'hand' or type in ('span', 'mark', 'scene'))",
    [runId, entryId],
  );
  return result.rowCount === 1;
}

/** Puts another line of the same type in the place of one; false where there is none of that name and type. */
export async function replaceEntry(
  db: Queryable,
  runId: string,
  entryId: string,
  line: EntryLine,
): Promise<boolean> {
  const result = await db.query(
    "update entry set line = $3, at_ms = $4 where run_id = $1 and id = $2 and type = $5 and (source = 'hand' or type in ('span', 'mark', 'scene')) and not taken_back",
    [runId, entryId, JSON.stringify(line), lineTimeMs(line), line.type],
  );
  return result.rowCount === 1;
}

/** Puts a line in the place of one of the same run, whatever it is from. */
export async function replaceLine(
  db: Queryable,
  runId: string,
  entryId: string,
  line: EntryLine,
): Promise<void> {
  await db.query('update entry set line = $3, at_ms = $4 where run_id = $1 and id = $2', [
    runId,
    entryId,
    JSON.stringify(line),
    lineTimeMs(line),
  ]);
}
