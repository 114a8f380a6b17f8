import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { buildCli, buildServer } from './build';
import { ROOT } from './paths';
import { fail } from './processes';

/**
 * Runs after every install: `npx pace` and the server are ready, and the lock
 * file that was installed is noted for tools/bootstrap.mjs.
 */
async function afterInstall(): Promise<void> {
  await Promise.all([buildServer(), buildCli()]);
  const lock = await readFile(join(ROOT, 'package-lock.json')).catch(() => null);
  if (lock)
    await writeFile(
      join(ROOT, 'node_modules', '.pace-check-lock'),
      createHash('sha256').update(lock).digest('hex'),
    );
}

afterInstall().catch(fail);
