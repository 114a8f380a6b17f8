import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { administer } from './administer';
import { buildServer } from './build';
import { Advice } from './processes';
import { withDatabase } from './withDatabase';

/**
 * Makes the database of a backup: the project's own, or with `--to NAME`
 * another one on the same server. Data that is there is put aside only with
 * `--over`.
 */
await withDatabase(async (url) => {
  const { values, positionals } = parseArgs({
    options: { over: { type: 'boolean' }, to: { type: 'string' } },
    allowPositionals: true,
  });
  const [file] = positionals;
  if (!file) throw new Advice('Name the backup: npm run restore FILE -- [--to DATABASE] [--over]');
  // npm takes flags for its own where no -- stands before them
  const over = values.over ?? process.env['npm_config_over'] === 'true';
  const to = values.to ?? process.env['npm_config_to'];
  const target = new URL(url);
  if (to) target.pathname = `/${encodeURIComponent(to)}`;
  await buildServer();
  const whole = resolve(process.env['INIT_CWD'] ?? '.', file);
  await administer(target.href, ['restore', whole, ...(over ? ['--over'] : [])]);
});
