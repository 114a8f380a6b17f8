import { mkdtemp, readdir, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { METHOD_VERSION } from '@pace-check/core';
import {
  beginSnapshot,
  connectionsTo,
  createDatabase,
  databasesLike,
  dropDatabase,
  hasDatabase,
  holdsData,
  NOT_KEPT,
  readMigrations,
  readTables,
  renameDatabase,
  slowClient,
  sumTable,
  takeRestoreLock,
  usersOf,
  type TableSum,
} from '../sql/backup';
import { APPLICATION } from '../sql/database';
import { BACKUP_VERSION, digestOf, readBackup, writeBackup, type BackupManifest } from './backupArchive';
import { runProgram } from './pgPrograms';
import { Problem } from './problem';

/** What is told on the way. */
export type OnProgress = (at: { share: number; doing: string }) => void;

/** The dump takes this share of the time, what is left looking at every row and packing. */
const DUMPING = 0.7;

/** What such a folder is called; the number of its process follows. */
const BESIDE = '.pace-check-';
const RESTORING = '_restoring_';

/** Whether a process of that number runs on this machine. */
function runs(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** Removes what processes that were killed have left in a folder. */
async function sweepFolder(folder: string): Promise<void> {
  for (const name of await readdir(folder).catch(() => [])) {
    const pid = new RegExp(`^\\${BESIDE}(?:(\\d+)-)?\\w{6}$`).exec(name);
    // one without a number is an earlier version's, of which none runs
    if (pid && !(pid[1] && runs(Number(pid[1]))))
      await rm(join(folder, name), { recursive: true, force: true });
  }
}

/**
 * Removes what a backup or a restore has left that was killed: half a dump, a
 * half-made database.
 *
 * @param folder of backups; null where none are kept
 */
export async function sweepAbandoned(url: string, folder: string | null): Promise<void> {
  if (folder !== null) await sweepFolder(folder);
  const target = decodeURIComponent(new URL(url).pathname.slice(1));
  await withClient(url, async (client) => {
    for (const name of await databasesLike(client, `${target}${RESTORING}`)) {
      const pid = Number(name.slice(target.length + RESTORING.length));
      if (!runs(pid) && (await connectionsTo(client, name)) === 0) await dropDatabase(client, name);
    }
  });
}

/** A folder beside a file, for what is not whole yet; gone afterwards. */
async function beside<T>(file: string, work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(dirname(file), `${BESIDE}${process.pid}-`));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/**
 * Writes all that a database holds, as it stands at one moment, into a file;
 * whoever works with it is not held up. Sessions and open codes stay behind.
 *
 * @throws Problem where PostgreSQL's program is missing or fails; nothing is left then
 */
export async function backUp(
  url: string,
  file: string,
  { onProgress = () => undefined, signal }: { onProgress?: OnProgress; signal?: AbortSignal } = {},
): Promise<BackupManifest> {
  const client = await slowClient(url);
  try {
    const { snapshot, version } = await beginSnapshot(client);
    const tables = await readTables(client);
    const whole = Math.max(
      1,
      tables.reduce((sum, { bytes }) => sum + bytes, 0),
    );
    await sweepFolder(dirname(file));
    return await beside(file, async (folder) => {
      const dump = join(folder, 'database.dump');
      let begun = 0;
      const onLine = (line: string): void => {
        const name = /dumping contents of table "public\.(\w+)"/.exec(line)?.[1];
        if (name === undefined) return;
        onProgress({ share: (DUMPING * begun) / whole, doing: `writing ${name}` });
        begun += tables.find(({ table }) => table === name)?.bytes ?? 0;
      };
      await runProgram(
        'pg_dump',
        url,
        [
          '--format=custom',
          '--compress=1',
          '--no-owner',
          '--no-privileges',
          '--verbose',
          `--snapshot=${snapshot}`,
          ...NOT_KEPT.map((table) => `--exclude-table-data=public.${table}`),
          `--file=${dump}`,
        ],
        { onLine, signal },
      );
      onProgress({ share: DUMPING, doing: 'checking all rows' });
      const sums: Record<string, TableSum> = {};
      for (const { table } of tables) {
        signal?.throwIfAborted();
        if (!NOT_KEPT.includes(table)) sums[table] = await sumTable(client, table);
      }
      onProgress({ share: 0.9, doing: 'packing' });
      const manifest: BackupManifest = {
        format: 'pace-check-backup',
        version: BACKUP_VERSION,
        program: 'pace-check 0.1.0',
        methodVersion: METHOD_VERSION,
        postgres: version,
        madeAt: new Date().toISOString(),
        migrations: await readMigrations(client),
        tables: sums,
        dump: await digestOf(dump),
      };
      await writeBackup(file, manifest, dump);
      onProgress({ share: 1, doing: 'done' });
      return manifest;
    });
  } finally {
    await client.end();
  }
}

/** What a restored database was called before, where there was one with something in it. */
export interface Restored {
  manifest: BackupManifest;
  before: string | null;
}

/**
 * Makes a database of a backup. It is made beside the one that is there,
 * every row compared with what the manifest says, and only then given its
 * name; what was there stays under another one.
 *
 * @param url names the database, which need not be there
 * @param known files of migrations that this program has
 * @param over whether one with data in it may be put aside
 * @throws Problem where the file is no whole backup, the database is in use or has data; nothing is changed then
 */
export async function restore(
  url: string,
  file: string,
  known: string[],
  { over = false, onProgress = () => undefined }: { over?: boolean; onProgress?: OnProgress } = {},
): Promise<Restored> {
  const target = decodeURIComponent(new URL(url).pathname.slice(1));
  const named = (name: string): string => {
    const at = new URL(url);
    at.pathname = `/${encodeURIComponent(name)}`;
    return at.href;
  };
  const found = await stat(file).catch(() => null);
  if (found && !found.isFile())
    throw new Problem(422, {
      code: 'no-backup',
      message: `${file} is not a file.`,
      remedy: 'Enter the backup file itself, such as backup.tar. Nothing was changed.',
    });
  await sweepFolder(dirname(file));
  return beside(file, async (folder) => {
    onProgress({ share: 0, doing: 'checking the backup' });
    const dump = join(folder, 'database.dump');
    const manifest = await readBackup(file, dump, known);
    const admin = await slowClient(named('postgres'));
    // made anew by its number: one that was cut short is in nobody's way
    const fresh = `${target}${RESTORING}${process.pid}`;
    try {
      if (!(await takeRestoreLock(admin)))
        throw new Problem(409, {
          code: 'restoring',
          message: 'Another restore is under way on this database server.',
          remedy: 'Wait until it has ended. Nothing was changed.',
        });
      const there = await hasDatabase(admin, target);
      const full = there && (await withClient(url, holdsData));
      if (there && (await usersOf(admin, target, APPLICATION)) > 0)
        throw new Problem(409, {
          code: 'in-use',
          message: `Pace Check is running on the database “${target}”.`,
          remedy: 'Nothing was changed. Stop Pace Check, then restore.',
        });
      if (full && !over)
        throw new Problem(409, {
          code: 'has-data',
          message: `The database “${target}” is not empty.`,
          remedy:
            'Nothing was changed. Choose an empty database, or add --over: existing data then stays under another name.',
        });
      await dropDatabase(admin, fresh);
      await createDatabase(admin, fresh);
      onProgress({ share: 0.1, doing: 'importing' });
      await runProgram('pg_restore', named(fresh), [
        '--no-owner',
        '--no-privileges',
        '--exit-on-error',
        '--jobs=2',
        `--dbname=${fresh}`,
        dump,
      ]);
      onProgress({ share: 0.7, doing: 'comparing every row' });
      await withClient(named(fresh), (client) => compare(client, manifest));
      let before: string | null = null;
      if (full) {
        before = `${target}_before_${manifestTime(new Date())}`;
        await renameDatabase(admin, target, before);
      } else if (there) await dropDatabase(admin, target);
      await renameDatabase(admin, fresh, target);
      onProgress({ share: 1, doing: 'done' });
      return { manifest, before };
    } finally {
      await dropDatabase(admin, fresh).catch(() => undefined);
      await admin.end();
    }
  });
}

/** For the end of a name: 20261129_081502. */
const manifestTime = (at: Date): string =>
  at.toISOString().slice(0, 19).replace(/[-:]/g, '').replace('T', '_');

async function withClient<T>(
  url: string,
  work: (client: Awaited<ReturnType<typeof slowClient>>) => Promise<T>,
): Promise<T> {
  const client = await slowClient(url);
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** @throws Problem 500 that names the table in which a row is missing or other */
async function compare(
  client: Awaited<ReturnType<typeof slowClient>>,
  { tables }: BackupManifest,
): Promise<void> {
  for (const [table, { rows, sum }] of Object.entries(tables)) {
    const found = await sumTable(client, table);
    if (found.rows !== rows || found.sum !== sum)
      throw new Problem(500, {
        code: 'not-the-same',
        message: `After restoring, table “${table}” does not match the backup (${found.rows} of ${rows} rows).`,
        remedy: 'Nothing was changed. Use another backup, and report this one.',
      });
  }
}
