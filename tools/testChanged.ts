import { rm } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { buildCli, buildServer } from './build';
import { startDatabase } from './database';
import { ROOT } from './paths';
import { fail, run, show } from './processes';
import { temporaryFolder } from './temporary';
import { SERVER_ROOMS, UNIT_WORKERS, WAITING_WORKERS } from './testParts';
import { durations } from './testReport';

/**
 * The tests that what was changed since the last commit can break (or, where
 * nothing was, the last commit itself), within a minute and a half: those of
 * the changed rooms, then of others, the quickest first. What there was no
 * time for is named. Journeys are run by their names: `npm run test:e2e -- PATTERN`.
 */
const WITHIN_S = 75;
/** What a file takes that was never timed here. */
const UNTIMED_S = 4;

async function changedFiles(): Promise<string[]> {
  const git = (...args: string[]): Promise<string> => run('git', args, { cwd: ROOT, quiet: true });
  const listed = async (...args: string[]): Promise<string[]> =>
    (await git(...args))
      .split('\n')
      .filter((file) => /\.(ts|tsx|sql)$/.test(file) && !file.startsWith('e2e/'));
  const now = [
    ...(await listed('diff', '--name-only', '--diff-filter=d', 'HEAD')),
    ...(await listed('ls-files', '--others', '--exclude-standard')),
  ];
  return now.length > 0 ? now : listed('diff', '--name-only', '--diff-filter=d', 'HEAD~1');
}

const roomOf = (file: string): string => file.split('/')[0]!;

/** Tests that depend on these files, by their paths in the project. */
async function related(files: string[]): Promise<string[]> {
  // a change of the tables may break any of the server's tests
  const what = files.some((file) => file.endsWith('.sql')) ? [...files, 'server/index.ts'] : files;
  const said = await run('npx', ['jest', '--listTests', '--json', '--findRelatedTests', ...what], {
    cwd: ROOT,
    quiet: true,
  });
  const list = said.split('\n').find((line) => line.startsWith('['));
  const found = (JSON.parse(list ?? '[]') as string[]).map((path) => relative(ROOT, path));
  // it starts the command line as a program: nothing that it imports tells
  const ofProgram = ['core', 'contract', 'rig', 'cli'];
  return files.some((file) => ofProgram.includes(roomOf(file)))
    ? [...new Set([...found, 'cli/pace.test.ts'])]
    : found;
}

/** Which of them there is time for: the changed rooms' own first, then the quickest. */
async function withinTime(tests: string[], rooms: Set<string>): Promise<{ now: string[]; later: string[] }> {
  const known = await durations();
  const takes = (test: string): number => known[test] ?? UNTIMED_S;
  const away = (test: string): number => (rooms.has(roomOf(test)) ? 0 : 1);
  const inOrder = tests.toSorted((a, b) => away(a) - away(b) || takes(a) - takes(b));
  let sum = 0;
  // the longest of all may begin last
  const fits = inOrder.map(
    (test) => (sum += takes(test) / UNIT_WORKERS) <= WITHIN_S && takes(test) <= WITHIN_S,
  );
  return { now: inOrder.filter((_, i) => fits[i]), later: inOrder.filter((_, i) => !fits[i]) };
}

async function testChanged(): Promise<void> {
  const files = await changedFiles();
  if (files.length === 0) return console.log('Nothing was changed that has tests.');
  console.log(`Changed: ${files.join(', ')}`);
  const { now, later } = await withinTime(await related(files), new Set(files.map(roomOf)));
  if (now.length > 0) {
    const folder = await temporaryFolder('pace-check-test-');
    const database = now.some((test) => SERVER_ROOMS.includes(roomOf(test)))
      ? await startDatabase(join(folder, 'postgres'), true)
      : null;
    try {
      await Promise.all([buildServer(), buildCli()]);
      const workers = database ? WAITING_WORKERS : UNIT_WORKERS;
      const code = await show('npx', ['jest', `--maxWorkers=${workers}`, '--runTestsByPath', ...now], {
        PACE_TEST_DATABASE: database?.url ?? '',
      });
      process.exitCode = code === 0 ? 0 : 1;
    } finally {
      await database?.stop();
      await rm(folder, { recursive: true, force: true });
    }
  }
  console.log(`${now.length} files of tests were run.`);
  if (later.length > 0)
    console.log(
      `${later.length} more depend on it, which take longer (npm test runs them): ${later.join(', ')}`,
    );
}

testChanged().catch(fail);
