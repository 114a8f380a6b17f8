import { text } from 'node:stream/consumers';
import { fileURLToPath } from 'node:url';
import { Access } from './services/access';
import { newPasscode } from './services/passcode';
import { Problem } from './services/problem';
import { doorOptions, NoPasscode } from './settingsOfStart';
import { openPool } from './sql/database';
import { migrate, NewerDatabase } from './sql/migrate';

/**
 * What is done to a database beside its server, for the tools:
 * `set-passcode` (read from standard input; an empty one is made and shown
 * once) and `check-passcode` (whether the server may start as it is asked to).
 */
const TASKS: Record<string, (access: Access) => Promise<void>> = {
  'set-passcode': async (access) => {
    const given = (await text(process.stdin)).replace(/\r?\n[\s\S]*$/, '');
    const passcode = given.trim() === '' ? newPasscode() : given;
    await access.setPasscode(passcode);
    if (passcode !== given)
      console.log(`The passcode is\n\n    ${passcode}\n\nIt is shown this once, and kept as a hash alone.`);
    console.log('The passcode is set. Who was in by the one before comes in anew.');
  },
  'check-passcode': async (access) => {
    if (doorOptions(process.env).closed && !(await access.hasPasscode())) throw new NoPasscode();
  },
};

async function administer([name = '']: string[]): Promise<void> {
  const task = TASKS[name];
  if (!task) throw new Error(`There is no task “${name}”: ${Object.keys(TASKS).join(', ')}.`);
  const pool = openPool(process.env['DATABASE_URL']!);
  try {
    await migrate(pool, fileURLToPath(new URL('./migrations', import.meta.url)));
    await task(new Access(pool));
  } finally {
    await pool.end();
  }
}

administer(process.argv.slice(2)).catch((error: unknown) => {
  const foreseen = error instanceof NoPasscode || error instanceof NewerDatabase || error instanceof Problem;
  console.error(
    error instanceof Problem ? `${error.message} ${error.body.remedy}` : foreseen ? error.message : error,
  );
  process.exitCode = 1;
});
