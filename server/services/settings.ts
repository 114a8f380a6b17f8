import type { Settings, SettingsChange } from '@pace-check/contract';
import type { Bars } from '@pace-check/core';
import type pg from 'pg';
import { inTransaction } from '../sql/database';
import { lockBars, readBars, writeBars } from '../sql/settings';
import { refuseClashes, threeWays } from './threeWays';

/** What belongs to the reviewer. */
export const readSettings = async (pool: pg.Pool): Promise<Settings> => ({ bars: await readBars(pool) });

/** @throws Problem 409 where others changed the same bars since they were opened */
export async function writeSettings(pool: pg.Pool, { bars, base }: SettingsChange): Promise<Settings> {
  await inTransaction(pool, async (db) => {
    await lockBars(db);
    const { merged, clashes } =
      base === undefined
        ? { merged: bars ?? {}, clashes: [] }
        : threeWays<Record<string, unknown>>(base ?? {}, bars ?? {}, (await readBars(db)) ?? {});
    refuseClashes(clashes);
    await writeBars(db, Object.keys(merged).length === 0 ? null : (merged as unknown as Bars));
  });
  return readSettings(pool);
}
