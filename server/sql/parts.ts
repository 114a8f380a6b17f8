import type { NamedItem } from '@pace-check/contract';
import type { EntryLine, PartSpan } from '@pace-check/core';
import type { Queryable } from './database';

/** A run that is a stretch of a sitting; one that is none at present is kept as deleted. */
export interface PartRow {
  id: string;
  titleId: string;
  setupId: string | null;
  fromMs: number;
  toMs: number;
  deleted: boolean;
}

/** Stretches of a sitting that are or were runs, in their order. */
export async function readParts(db: Queryable, sittingId: string): Promise<PartRow[]> {
  return (
    await db.query<PartRow>(
      'select id, title_id as "titleId", setup_id as "setupId", part_from_ms as "fromMs", part_to_ms as "toMs", deleted_at is not null as deleted from run where sitting_id = $1 order by deleted_at is not null, part_from_ms',
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
