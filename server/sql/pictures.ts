import type { Evidence } from '@pace-check/contract';
import type { Queryable } from './database';

/** A picture as it is kept. */
export interface NewPicture {
  id: string;
  entryId: string | null;
  width: number;
  height: number;
  note: string;
  jpeg: Buffer;
  small: Buffer;
}

/** Keeps a picture; one of that id stays as it is. */
export async function insertPicture(db: Queryable, runId: string, picture: NewPicture): Promise<void> {
  const { id, entryId, width, height, note, jpeg, small } = picture;
  await db.query(
    `insert into picture (id, run_id, entry_id, width, height, note, jpeg, small)
     values ($1, $2, (select id from entry where id = $3 and run_id = $2), $4, $5, $6, $7, $8) on conflict (id) do nothing`,
    [id, runId, entryId, width, height, note, jpeg, small],
  );
}

export async function listPictures(db: Queryable, runId: string): Promise<Evidence[]> {
  return (
    await db.query<Evidence>(
      `select id, entry_id as "entryId", width, height, note, added_at as "addedAt" from picture where run_id = $1 order by added_at, id`,
      [runId],
    )
  ).rows;
}

export async function countPictures(db: Queryable, runId: string): Promise<number> {
  return (
    await db.query<{ count: number }>('select count(*)::int as count from picture where run_id = $1', [runId])
  ).rows[0]!.count;
}

/** The picture itself, or its thumbnail; null where there is none of a run that is not deleted. */
export async function readPicture(
  db: Queryable,
  runId: string,
  id: string,
  size: 'jpeg' | 'small',
): Promise<Buffer | null> {
  return (
    (
      await db.query<{ bytes: Buffer }>(
        `select ${size} as bytes from picture join run on run.id = run_id where run_id = $1 and picture.id = $2 and deleted_at is null`,
        [runId, id],
      )
    ).rows[0]?.bytes ?? null
  );
}

/** @returns whether there was one */
export async function deletePicture(db: Queryable, runId: string, id: string): Promise<boolean> {
  return (await db.query('delete from picture where run_id = $1 and id = $2', [runId, id])).rowCount === 1;
}
