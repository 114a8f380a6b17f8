import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { startDatabase } from './database';
import { DATA } from './paths';
import { fail } from './processes';

/**
 * Does something with the project's database: the one that DATABASE_URL names,
 * or the one in the folder of data, which is started for it unless it runs.
 */
export async function withDatabase(work: (url: string) => Promise<void>): Promise<void> {
  let stop = async (): Promise<void> => undefined;
  try {
    let url = process.env['DATABASE_URL'];
    if (!url) {
      await mkdir(DATA, { recursive: true });
      const database = await startDatabase(join(DATA, 'postgres'));
      ({ url, stop } = database);
    }
    await work(url);
  } catch (error) {
    fail(error);
    process.exitCode = 1;
  } finally {
    await stop();
  }
}
