import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type pg from 'pg';
import { inTransaction } from './database';

/** Any number, the same for every process: two servers that start at once migrate one after the other. */
const LOCK = 726_001;

/** The database was brought up to date by a newer program than this. */
export class NewerDatabase extends Error {
  constructor(readonly unknown: string[]) {
    super(
      `The database was written by a newer Pace Check (it knows of ${unknown.join(', ')}, and this program does not). Start the newer program, or give this one a database of its own with DATABASE_URL.`,
    );
  }
}

/**
 * Brings the database up to date: the numbered .sql files of `folder` that it
 * has not seen yet, in order, each once. They only go forward.
 *
 * @throws NewerDatabase where it has seen files that this program does not have
 */
export async function migrate(pool: pg.Pool, folder: string): Promise<string[]> {
  const files = (await readdir(folder)).filter((file) => /^\d+_.*\.sql$/.test(file)).sort();
  return inTransaction(pool, async (client) => {
    // a table with much in it takes its time
    await client.query('set local statement_timeout = 0');
    await client.query('set local lock_timeout = 0');
    await client.query('select pg_advisory_xact_lock($1)', [LOCK]);
    await client.query(
      'create table if not exists migration (file text primary key, applied_at timestamptz not null default now())',
    );
    const done = new Set(
      (await client.query<{ file: string }>('select file from migration')).rows.map((row) => row.file),
    );
    const unknown = [...done].filter((file) => !files.includes(file)).sort();
    if (unknown.length > 0) throw new NewerDatabase(unknown);
    const applied: string[] = [];
    for (const file of files.filter((name) => !done.has(name))) {
      await client.query(await readFile(join(folder, file), 'utf8'));
      await client.query('insert into migration (file) values ($1)', [file]);
      applied.push(file);
    }
    return applied;
  });
}
