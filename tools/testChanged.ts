import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { buildCli, buildServer } from './build';
import { startDatabase } from './database';
import { ROOT } from './paths';
import { fail, run, show } from './processes';
import { temporaryFolder } from './temporary';
import { SERVER_ROOMS, UNIT_ROOMS, WORKERS } from './testParts';

/**
 * The tests that what was changed since the last commit can break (or, where
 * nothing was, the last commit itself): of the rooms without a database, and
 * of the server where one of its files depends on a changed one. Journeys are
 * run by their names: `npm run test:e2e -- PATTERN`.
 */
async function changedFiles(): Promise<string[]> {
  const git = (...args: string[]): Promise<string> => run('git', args, { cwd: ROOT, quiet: true });
  const listed = async (...args: string[]): Promise<string[]> =>
    (await git(...args)).split('\n').filter((file) => /\.(ts|tsx|sql)$/.test(file));
  const now = [
    ...(await listed('diff', '--name-only', '--diff-filter=d', 'HEAD')),
    ...(await listed('ls-files', '--others', '--exclude-standard')),
  ];
  return now.length > 0 ? now : listed('diff', '--name-only', '--diff-filter=d', 'HEAD~1');
}

/** Tests of these rooms that depend on the files; whether there were any that failed. */
async function related(rooms: string[], files: string[], env: Record<string, string> = {}): Promise<boolean> {
  const words = ['jest', `--maxWorkers=${WORKERS}`, '--passWithNoTests', '--selectProjects', ...rooms];
  return (await show('npx', [...words, '--findRelatedTests', ...files], env)) === 0;
}

async function testChanged(): Promise<void> {
  const files = await changedFiles();
  if (files.length === 0) return console.log('Nothing was changed that has tests.');
  console.log(`Changed: ${files.join(', ')}`);
  let good = await related(UNIT_ROOMS, files);
  if (files.some((file) => /^(server|contract|core|tools)\//.test(file))) {
    const folder = await temporaryFolder('pace-check-test-');
    await Promise.all([buildServer(), buildCli()]);
    const database = await startDatabase(join(folder, 'postgres'), true);
    try {
      // a change of the tables may break any of the server's tests
      const what = files.some((file) => file.endsWith('.sql')) ? [...files, 'server/index.ts'] : files;
      good = (await related(SERVER_ROOMS, what, { PACE_TEST_DATABASE: database.url })) && good;
    } finally {
      await database.stop();
      await rm(folder, { recursive: true, force: true });
    }
  }
  process.exitCode = good ? 0 : 1;
}

testChanged().catch(fail);
