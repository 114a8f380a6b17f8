import type { Settings } from '@pace-check/contract';
import type pg from 'pg';
import { readBars, writeBars } from '../sql/settings';

/** What belongs to the reviewer. */
export const readSettings = async (pool: pg.Pool): Promise<Settings> => ({ bars: await readBars(pool) });

export async function writeSettings(pool: pg.Pool, { bars }: Settings): Promise<Settings> {
  await writeBars(pool, bars);
  return readSettings(pool);
}
