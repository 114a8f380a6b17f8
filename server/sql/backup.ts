import pg from 'pg';
import type { Queryable } from './database';

/** What a table holds: how many rows, and a number that all of them have made together, whatever their order. */
export interface TableSum {
  rows: number;
  sum: string;
}

/** What lets people in now: none of it travels, or a stolen phone would be let in again by a restored database. */
export const NOT_KEPT = ['session', 'join_code', 'tries', 'made_by'];

/** A connection for what takes its time; the pool's would be cut off. */
export async function slowClient(url: string): Promise<pg.Client> {
  const client = new pg.Client({ connectionString: url });
  // one that breaks makes its statement fail; it must not end the server too
  client.on('error', () => undefined);
  await client.connect();
  // rows are written as texts in the same way on both sides
  await client.query(
    "set timezone = 'UTC'; set datestyle = 'ISO'; set intervalstyle = 'iso_8601'; set bytea_output = 'hex'; set extra_float_digits = 1",
  );
  return client;
}

/** Work in one transaction on a connection of one's own: what fails is undone when that ends. */
export async function allOrNothing<T>(client: pg.Client, work: () => Promise<T>): Promise<T> {
  await client.query('begin');
  const result = await work();
  await client.query('commit');
  return result;
}

/** Begins to read what stands at this moment; PostgreSQL's own program reads the same by the snapshot's name. */
export async function beginSnapshot(client: pg.Client): Promise<{ snapshot: string; version: string }> {
  await client.query('begin isolation level repeatable read read only');
  const { rows } = await client.query<{ snapshot: string; version: string }>(
    "select pg_export_snapshot() as snapshot, current_setting('server_version') as version",
  );
  return rows[0]!;
}

/** Tables of the program, with their sizes on the disk, bytes. */
export async function readTables(db: Queryable): Promise<{ table: string; bytes: number }[]> {
  const { rows } = await db.query<{ table: string; bytes: number }>(
    `select relname as "table", (select sum(pg_total_relation_size(relid)) from pg_partition_tree(c.oid))::float8 as bytes
     from pg_class c join pg_namespace n on n.oid = c.relnamespace
     where n.nspname = 'public' and c.relkind in ('r', 'p') and not c.relispartition
     order by relname`,
  );
  return rows;
}

/** Every row of a table in one number: a row that is missing, twice, or other changes it. */
export async function sumTable(db: Queryable, table: string): Promise<TableSum> {
  const { rows } = await db.query<TableSum>(
    `select count(*)::float8 as rows, coalesce(sum(hashtextextended(t::text, 0)::numeric), 0)::text as sum
     from ${pg.escapeIdentifier(table)} t`,
  );
  return rows[0]!;
}

/** Files of migrations that a database has seen. */
export const readMigrations = async (db: Queryable): Promise<string[]> =>
  (await db.query<{ file: string }>('select file from migration order by file')).rows.map(({ file }) => file);

/** Whether somebody's runs, names or settings lie in a database: tables alone are none. */
export async function holdsData(db: Queryable): Promise<boolean> {
  const tables = new Set((await readTables(db)).map(({ table }) => table));
  if (tables.size === 0) return false;
  // one of somebody else's is not to be written over either
  if (!tables.has('migration')) return true;
  for (const table of tables) {
    if (table === 'migration') continue;
    const { rowCount } = await db.query(`select 1 from ${pg.escapeIdentifier(table)} limit 1`);
    if ((rowCount ?? 0) > 0) return true;
  }
  return false;
}

/** Programs that work with a database under a name of ours. */
export async function usersOf(db: Queryable, database: string, name: string): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    'select count(*)::int as count from pg_stat_activity where datname = $1 and application_name = $2',
    [database, name],
  );
  return rows[0]!.count;
}

/** Databases whose names begin so. */
export async function databasesLike(db: Queryable, prefix: string): Promise<string[]> {
  const { rows } = await db.query<{ name: string }>(
    'select datname as name from pg_database where starts_with(datname, $1)',
    [prefix],
  );
  return rows.map(({ name }) => name);
}

/** How many work with a database, whoever they are. */
export async function connectionsTo(db: Queryable, database: string): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    'select count(*)::int as count from pg_stat_activity where datname = $1',
    [database],
  );
  return rows[0]!.count;
}

/** Any number, the same for every process. */
const RESTORE_LOCK = 726_003;

/** @returns false where another has it; it ends with the connection */
export async function takeRestoreLock(db: Queryable): Promise<boolean> {
  const { rows } = await db.query<{ got: boolean }>('select pg_try_advisory_lock($1) as got', [RESTORE_LOCK]);
  return rows[0]!.got;
}

export async function hasDatabase(db: Queryable, name: string): Promise<boolean> {
  return ((await db.query('select 1 from pg_database where datname = $1', [name])).rowCount ?? 0) > 0;
}

export const createDatabase = (db: Queryable, name: string): Promise<unknown> =>
  db.query(`create database ${pg.escapeIdentifier(name)}`);

export const dropDatabase = (db: Queryable, name: string): Promise<unknown> =>
  db.query(`drop database if exists ${pg.escapeIdentifier(name)} with (force)`);

/** Gives a database another name; who works with it is sent away. */
export async function renameDatabase(db: Queryable, from: string, to: string): Promise<void> {
  await db.query(
    'select pg_terminate_backend(pid) from pg_stat_activity where datname = $1 and pid <> pg_backend_pid()',
    [from],
  );
  await db.query(`alter database ${pg.escapeIdentifier(from)} rename to ${pg.escapeIdentifier(to)}`);
}

/** Any number, the same for every process. */
const BACKUP_LOCK = 726_002;

/** Takes, until the connection ends, what one of several servers has while it makes a backup. */
export async function takeBackupLock(client: pg.Client): Promise<boolean> {
  const { rows } = await client.query<{ taken: boolean }>('select pg_try_advisory_lock($1) as taken', [
    BACKUP_LOCK,
  ]);
  return rows[0]!.taken;
}

/** Whether one of them has it. */
export async function isBackupLocked(db: Queryable): Promise<boolean> {
  const { rowCount } = await db.query(
    "select 1 from pg_locks where locktype = 'advisory' and database = (select oid from pg_database where datname = current_database()) and classid = 0 and objid = $1",
    [BACKUP_LOCK],
  );
  return (rowCount ?? 0) > 0;
}
