import type { Bars } from '@pace-check/core';
import type { Queryable } from './database';

/** What each need asks for, as the reviewer set it; null for the usual. */
export async function readBars(db: Queryable): Promise<Bars | null> {
  return (
    (await db.query<{ value: Bars | null }>("select value from setting where key = 'bars'")).rows[0]?.value ??
    null
  );
}

export async function writeBars(db: Queryable, bars: Bars | null): Promise<void> {
  await db.query(
    "insert into setting (key, value) values ('bars', $1) on conflict (key) do update set value = excluded.value",
    [JSON.stringify(bars)],
  );
}
