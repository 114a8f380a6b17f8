import pg from 'pg';
import type { Queryable } from './database';

/** Tables of things that are written as one document each. */
export type DocumentTable = 'ladder' | 'choice' | 'synthetic';

/** A thing as it is stored. */
export interface DocumentRow<D> {
  id: string;
  doc: D;
  revision: number;
  changedAt: string;
}

type Stored<D> = Omit<DocumentRow<D>, 'changedAt'> & { changedAt: Date };
const toRow = <D>(row: Stored<D>): DocumentRow<D> => ({ ...row, changedAt: row.changedAt.toISOString() });
const select = (table: DocumentTable): string =>
  `select id, doc, revision::float8 as revision, changed_at as "changedAt" from ${table} where deleted_at is null`;

/** One of that id stays as it is. */
export async function insertDocument(
  db: Queryable,
  table: DocumentTable,
  id: string,
  doc: object,
): Promise<void> {
  await db.query(`insert into ${table} (id, doc) values ($1, $2) on conflict (id) do nothing`, [
    id,
    JSON.stringify(doc),
  ]);
}

/** The latest first. */
export async function listDocuments<D>(db: Queryable, table: DocumentTable): Promise<DocumentRow<D>[]> {
  return (await db.query<Stored<D>>(`${select(table)} order by changed_at desc, id limit 500`)).rows.map(
    toRow,
  );
}

export async function readDocument<D>(
  db: Queryable,
  table: DocumentTable,
  id: string,
): Promise<DocumentRow<D> | null> {
  const { rows } = await db.query<Stored<D>>(`${select(table)} and id = $1`, [id]);
  return rows[0] ? toRow(rows[0]) : null;
}

/** All documents of a table that are not deleted, as they are stored. */
export async function readAllDocs(db: Queryable, table: string): Promise<{ id: string; doc: unknown }[]> {
  return (
    await db.query<{ id: string; doc: unknown }>(
      `select id, doc from ${pg.escapeIdentifier(table)} where deleted_at is null order by id`,
    )
  ).rows;
}

/** Those of the ids that are there, deleted ones too: what names them keeps its link for an undo. */
export async function knownDocuments(db: Queryable, table: DocumentTable, ids: string[]): Promise<string[]> {
  return (await db.query<{ id: string }>(`select id from ${table} where id = any($1)`, [ids])).rows.map(
    ({ id }) => id,
  );
}

/** @returns false where it is not of that revision any more */
export async function replaceDocument(
  db: Queryable,
  table: DocumentTable,
  id: string,
  revision: number,
  doc: object,
): Promise<boolean> {
  const result = await db.query(
    `update ${table} set doc = $3, revision = revision + 1, changed_at = now() where id = $1 and revision = $2 and deleted_at is null`,
    [id, revision, JSON.stringify(doc)],
  );
  return result.rowCount === 1;
}

/** @returns false where there is none */
export async function setDocumentDeleted(
  db: Queryable,
  table: DocumentTable,
  id: string,
  deleted: boolean,
): Promise<boolean> {
  const result = await db.query(
    `update ${table} set deleted_at = ${deleted ? 'now()' : 'null'} where id = $1 and deleted_at is ${deleted ? '' : 'not '}null`,
    [id],
  );
  return result.rowCount === 1;
}

/** Removes for good what was deleted more than that many days ago. */
export async function purgeDocuments(db: Queryable, table: DocumentTable, days: number): Promise<void> {
  await db.query(`delete from ${table} where deleted_at < now() - make_interval(days => $1)`, [days]);
}
