import { access } from 'node:fs/promises';
import { resolve } from 'node:path';
import { administer } from './administer';
import { buildServer } from './build';
import { Advice } from './processes';
import { withDatabase } from './withDatabase';

/** Writes all that the database holds into one file, while Pace Check runs or without it. */
await withDatabase(async (url) => {
  const [file] = process.argv.slice(2);
  if (!file) throw new Advice('Name the file that the backup is to be: npm run backup FILE');
  const whole = resolve(process.env['INIT_CWD'] ?? '.', file);
  const taken = await access(whole).then(
    () => true,
    () => false,
  );
  if (taken) throw new Advice(`${whole} is there already. Name another file: no backup is written over.`);
  await buildServer();
  await administer(url, ['backup', whole]);
});
