import type { Bars } from '@pace-check/core';
import type { Queryable } from './database';

/** What each need asks for, as the reviewer set it; null for the usual. */
export async function readBars(db: Queryable): Promise<Bars | null> {
  return (
    (await db.query<{ value: Bars | null }>("select value from setting where key = 'bars'")).rows[0]?.value ??
    null
  );
}

/** Any number, the same for every process: bars that were never set have no row to lock. */
const BARS_LOCK = 726_004;

/** Nobody else changes the bars until the transaction ends. */
export async function lockBars(db: Queryable): Promise<void> {
  await db.query('select pg_advisory_xact_lock($1)', [BARS_LOCK]);
}

export async function writeBars(db: Queryable, bars: Bars | null): Promise<void> {
  await db.query(
    "insert into setting (key, value) values ('bars', $1) on conflict (key) do update set value = excluded.value",
    [JSON.stringify(bars)],
  );
}

/** Whether a backup is made each night. */
export async function readNightly(db: Queryable): Promise<boolean> {
  const { rows } = await db.query<{ value: boolean }>("select value from setting where key = 'nightly'");
  return rows[0]?.value ?? false;
}

export async function writeNightly(db: Queryable, nightly: boolean): Promise<void> {
  await db.query(
    "insert into setting (key, value) values ('nightly', $1) on conflict (key) do update set value = excluded.value",
    [JSON.stringify(nightly)],
  );
}
