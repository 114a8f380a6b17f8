import { text } from 'node:stream/consumers';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { Access } from './services/access';
import { backUp, restore, type OnProgress } from './services/backup';
import { reasonOf } from './reasonOf';
import { problemOf } from './services/faults';
import { newPasscode } from './services/passcode';
import { doorOptions, NoPasscode } from './settingsOfStart';
import { openPool } from './sql/database';
import { migrate, migrationsIn } from './sql/migrate';

const MIGRATIONS = fileURLToPath(new URL('./migrations', import.meta.url));

/** What is done to a database beside its server, for the tools. */
const TASKS: Record<string, (url: string, args: string[]) => Promise<void>> = {
  /** Sets the passcode that is read from standard input; an empty one is made, and shown once. */
  'set-passcode': (url) =>
    withAccess(url, async (access) => {
      const given = (await text(process.stdin)).replace(/\r?\n[\s\S]*$/, '');
      const passcode = given.trim() === '' ? newPasscode() : given;
      await access.setPasscode(passcode);
      if (passcode !== given)
        console.log(`Passcode: ${passcode} It is shown only this once; the server stores only a hash.`);
      console.log('Passcode set. Everyone must sign in again.');
    }),
  /** Whether the server may start as the environment asks it to. */
  'check-passcode': (url) =>
    withAccess(url, async (access) => {
      if (doorOptions(process.env).closed && !(await access.hasPasscode())) throw new NoPasscode();
    }),
  /** Writes a backup into a file. */
  backup: async (url, [file]) => {
    const manifest = await backUp(url, file!, { onProgress: told });
    const rows = Object.values(manifest.tables).reduce((sum, table) => sum + table.rows, 0);
    console.log(
      `Backup written: ${file}, ${rows.toLocaleString('en-GB')} rows, ${(manifest.dump.bytes / 1024 / 1024).toFixed(1)} MB. It contains your data and the passcode hash: store it where others cannot read it.`,
    );
  },
  /** Makes the database of a backup; `--over` where there is data in it. */
  restore: async (url, args) => {
    const { values, positionals } = parseArgs({
      args,
      options: { over: { type: 'boolean', default: false } },
      allowPositionals: true,
    });
    const known = await migrationsIn(MIGRATIONS);
    const { manifest, before } = await restore(url, positionals[0]!, known, {
      over: values.over,
      onProgress: told,
    });
    console.log(`Restored the backup of ${manifest.madeAt}. Every row was checked.`);
    if (before !== null)
      console.log(
        `The previous data is in the database “${before}”. Delete that database when you no longer need it.`,
      );
  },
};

async function withAccess(url: string, work: (access: Access) => Promise<void>): Promise<void> {
  const pool = openPool(url);
  try {
    await migrate(pool, MIGRATIONS);
    await work(new Access(pool));
  } finally {
    await pool.end();
  }
}

let saidLast = -1;
/** A line for each tenth, and for what is no table. */
const told: OnProgress = ({ share, doing }) => {
  const tenth = Math.floor(share * 10);
  if (doing === 'done' || (tenth === saidLast && doing.startsWith('writing'))) return;
  saidLast = tenth;
  console.log(`${String(Math.round(share * 100)).padStart(3)} %  ${doing}`);
};

async function administer([name = '', ...args]: string[]): Promise<void> {
  const task = TASKS[name];
  if (!task)
    throw new Error(`There is no task “${name}”. Available tasks: ${Object.keys(TASKS).join(', ')}.`);
  await task(process.env['DATABASE_URL']!, args);
}

administer(process.argv.slice(2)).catch((error: unknown) => {
  const said = reasonOf(error, process.env['DATABASE_URL'] ?? '');
  const problem = problemOf(error);
  console.error(said ?? (problem ? `${problem.message} ${problem.body.remedy}` : error));
  process.exitCode = 1;
});
