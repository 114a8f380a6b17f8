import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type pg from 'pg';
import { inTransaction, type Queryable } from './database';

/** Any number, the same for every process: two servers that start at once migrate one after the other. */
const LOCK = 726_001;

/** Whether a file of the folder is one. */
export const isMigration = (file: string): boolean => /^\d+_.*\.sql$/.test(file);

/** What a file says, so that one that was changed after it was applied is noticed. */
const sumOf = (sql: string): string => createHash('sha256').update(sql).digest('hex');

/** A file that the database has seen was changed since. */
export class ChangedMigration extends Error {
  constructor(file: string) {
    super(
      `${file} is not what it was when the database saw it. Migrations are never changed: bring the file back, and write what is to be different into a new one.`,
    );
  }
}

/** Files of migrations in a folder, in their order. */
export const migrationsIn = async (folder: string): Promise<string[]> =>
  (await readdir(folder)).filter(isMigration).sort();

/** The database was brought up to date by a newer program than this. */
export class NewerDatabase extends Error {
  constructor(readonly unknown: string[]) {
    super(
      `The database was written by a newer Pace Check (it knows of ${unknown.join(', ')}, and this program does not). Start the newer program, or give this one a database of its own with DATABASE_URL.`,
    );
  }
}

/** Files that a database has seen and this program does not have. */
export async function unknownMigrations(db: Queryable, files: string[]): Promise<string[]> {
  const { rows } = await db.query<{ file: string }>('select file from migration');
  return rows.map(({ file }) => file).filter((file) => !files.includes(file));
}

/**
 * Brings the database up to date: the numbered .sql files of `folder` that it
 * has not seen yet, in order, each once. They only go forward.
 *
 * @throws NewerDatabase where it has seen files that this program does not have
 * @throws ChangedMigration where one that it has seen says something else now
 */
export async function migrate(pool: pg.Pool, folder: string): Promise<string[]> {
  const files = await migrationsIn(folder);
  return inTransaction(pool, async (client) => {
    // a table with much in it takes its time
    await client.query('set local statement_timeout = 0');
    await client.query('set local lock_timeout = 0');
    await client.query('select pg_advisory_xact_lock($1)', [LOCK]);
    await client.query(
      'create table if not exists migration (file text primary key, applied_at timestamptz not null default now())',
    );
    // databases of before it have none: what they have seen is taken as it is now
    await client.query('alter table migration add column if not exists sha256 text');
    const { rows } = await client.query<{ file: string; sha256: string | null }>(
      'select file, sha256 from migration',
    );
    const done = new Map(rows.map((row) => [row.file, row.sha256]));
    const unknown = [...done.keys()].filter((file) => !files.includes(file)).sort();
    if (unknown.length > 0) throw new NewerDatabase(unknown);
    const applied: string[] = [];
    for (const file of files) {
      const sql = await readFile(join(folder, file), 'utf8');
      const before = done.get(file);
      if (before === sumOf(sql)) continue;
      if (before) throw new ChangedMigration(file);
      if (before === undefined) {
        await client.query(sql);
        applied.push(file);
      }
      await client.query(
        'insert into migration (file, sha256) values ($1, $2) on conflict (file) do update set sha256 = $2',
        [file, sumOf(sql)],
      );
    }
    return applied;
  });
}
