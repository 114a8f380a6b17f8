import type { NamedItem } from '@pace-check/contract';
import type { EntryLine, PartSpan } from '@pace-check/core';
import type { Queryable } from './database';

/** A run that is a stretch of a sitting; one that is none at present is kept as deleted. */
export interface PartRow {
  id: string;
  titleId: string;
  setupId: string | null;
}

/** Stretches of a sitting that are or were runs, in their order. */
export async function readParts(db: Queryable, sittingId: string): Promise<PartRow[]> {
  return (
    await db.query<PartRow>(
      'select id, title_id as "titleId", setup_id as "setupId" from run where sitting_id = $1 order by deleted_at is not null, part_from_ms',
      [sittingId],
    )
  ).rows;
}

/** Stretches of a sitting that are runs, in their order. */
export async function readNamedParts(db: Queryable, sittingId: string): Promise<NamedItem[]> {
  return (
    await db.query<NamedItem>(
      'select id, name from run where sitting_id = $1 and deleted_at is null order by part_from_ms',
      [sittingId],
    )
  ).rows;
}

/** Changes of the title in the course of a run. */
export async function readTitleLines(db: Queryable, runId: string): Promise<EntryLine[]> {
  return (
    await db.query<{ line: EntryLine }>(
      "select line from entry where run_id = $1 and type = 'title' and used and not taken_back order by at_ms, seq",
      [runId],
    )
  ).rows.map((row) => row.line);
}

/** What was switched in the course of a run. */
export async function readSpanLines(
  db: Queryable,
  runId: string,
): Promise<Extract<EntryLine, { type: 'span' }>[]> {
  return (
    await db.query<{ line: Extract<EntryLine, { type: 'span' }> }>(
      "select line from entry where run_id = $1 and type = 'span' and used and not taken_back order by at_ms, seq",
      [runId],
    )
  ).rows.map((row) => row.line);
}

/** Puts a part to its place in the sitting; its figures of before are of before. */
export async function placePart(
  db: Queryable,
  id: string,
  sittingId: string,
  { fromMs, toMs, last }: PartSpan,
): Promise<void> {
  await db.query(
    `update run set sitting_id = $2, part_from_ms = $3, part_to_ms = $4, part_last = $5, deleted_at = null, revision = revision + 1,
       imported_at = (select imported_at from run whole where whole.id = $2) where id = $1`,
    [id, sittingId, fromMs, toMs, last],
  );
}

/** Puts away the parts of a sitting that are none any more. */
export async function dropParts(db: Queryable, sittingId: string, kept: string[]): Promise<void> {
  await db.query(
    'update run set deleted_at = now() where sitting_id = $1 and deleted_at is null and id <> all($2)',
    [sittingId, kept],
  );
}

/** Notes that the parts of a run are those of one of its revisions. */
export async function setSitting(
  db: Queryable,
  id: string,
  revision: number,
  isSitting: boolean,
): Promise<void> {
  await db.query('update run set parts_revision = $2, is_sitting = $3 where id = $1', [
    id,
    revision,
    isSitting,
  ]);
}

/** Appends the lines of a run to another, so much later; its end and lines without a time stay behind. @returns how many lines without a time stayed */
export async function appendLines(
  db: Queryable,
  { from, to, afterMs, withEnd }: { from: string; to: string; afterMs: number; withEnd: boolean },
): Promise<number> {
  await db.query(
    `insert into entry (run_id, seq, type, at_ms, line, source)
     select $2, (select coalesce(max(seq), -1) from entry where run_id = $2) + row_number() over (order by seq), type, at_ms + $3,
       line || case when type = 'span' then jsonb_build_object('fromMs', (line ->> 'fromMs')::float8 + $3, 'toMs', (line ->> 'toMs')::float8 + $3)
         else jsonb_build_object('atMs', (line ->> 'atMs')::float8 + $3)
           || case when line ? 'lowMs' then jsonb_build_object('lowMs', (line ->> 'lowMs')::float8 + $3) else '{}' end
           || case when line ? 'highMs' then jsonb_build_object('highMs', (line ->> 'highMs')::float8 + $3) else '{}' end end, source
     from entry where run_id = $1 and used and not taken_back and (type <> 'end' or $4) and (type = 'span' or line ? 'atMs')`,
    [from, to, afterMs, withEnd],
  );
  const left = await db.query<{ count: number }>(
    "select count(*)::int as count from entry where run_id = $1 and used and not taken_back and type <> 'span' and not line ? 'atMs'",
    [from],
  );
  return left.rows[0]!.count;
}

/** How a run ended, by its line. */
export async function readEnd(
  db: Queryable,
  runId: string,
): Promise<Extract<EntryLine, { type: 'end' }> | null> {
  const found = await db.query<{ line: Extract<EntryLine, { type: 'end' }> }>(
    "select line from entry where run_id = $1 and type = 'end' and used and not taken_back order by seq desc limit 1",
    [runId],
  );
  return found.rows[0]?.line ?? null;
}

/** Puts runs away as parts of what they were joined into. */
export async function putAway(db: Queryable, ids: string[], joinedInto: string): Promise<void> {
  await db.query(
    'update run set deleted_at = now(), joined_into = $2 where id = any($1) or sitting_id = any($1)',
    [ids, joinedInto],
  );
}

/** Brings back the runs that were joined into one. @returns their ids, the earliest first */
export async function bringBack(db: Queryable, joinedInto: string): Promise<string[]> {
  const back = await db.query<{ id: string; at: Date }>(
    'update run set deleted_at = null, joined_into = null where joined_into = $1 returning id, started_at as at',
    [joinedInto],
  );
  return back.rows.sort((a, b) => a.at.getTime() - b.at.getTime()).map((row) => row.id);
}
