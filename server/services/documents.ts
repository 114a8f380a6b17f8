import type pg from 'pg';
import type * as z from 'zod';
import type { Queryable } from '../sql/database';
import {
  insertDocument,
  listDocuments,
  readDocument,
  replaceDocument,
  setDocumentDeleted,
  type DocumentRow,
  type DocumentTable,
} from '../sql/documents';
import { notFound, Problem } from './problem';
import { onlyReadable } from './readable';

/** Things that are written as one document each: whole, and to the revision that was seen. */
export class Documents<D extends object> {
  /** @param schema what an earlier version wrote lacks what came since: it is read through this */
  constructor(
    private readonly pool: pg.Pool,
    private readonly table: DocumentTable,
    private readonly schema: z.ZodType<D>,
  ) {}

  /** Those that can be read. */
  async list(): Promise<DocumentRow<D>[]> {
    return onlyReadable(await listDocuments<D>(this.pool, this.table), this.schema);
  }

  async get(id: string): Promise<DocumentRow<D>> {
    const row = await readDocument<D>(this.pool, this.table, id);
    if (!row) throw notFound(this.table);
    return this.asNow(row);
  }

  async create(id: string, doc: unknown, db: Queryable = this.pool): Promise<void> {
    await insertDocument(db, this.table, id, this.schema.parse(doc));
  }

  /** @throws Problem 409 where somebody else was quicker */
  async replace(id: string, revision: number, doc: unknown, db: Queryable = this.pool): Promise<void> {
    if (await replaceDocument(db, this.table, id, revision, this.schema.parse(doc))) return;
    await this.get(id);
    throw new Problem(409, {
      code: 'changed-meanwhile',
      message: `Someone else changed this ${this.table} after you opened it.`,
      remedy: 'Copy what you typed, then reload the page.',
    });
  }

  async setDeleted(id: string, deleted: boolean): Promise<void> {
    if (!(await setDocumentDeleted(this.pool, this.table, id, deleted))) throw notFound(this.table);
  }

  private readonly asNow = (row: DocumentRow<D>): DocumentRow<D> => ({
    ...row,
    doc: this.schema.parse(row.doc),
  });
}
