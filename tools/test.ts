import { readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { buildCli, buildServer, buildWeb } from './build';
import { ensureChromium } from './chromium';
import { startDatabase } from './database';
import { loadDemoOnce } from './demo';
import { COMMAND, SERVER_DIST, WEB_DIST } from './paths';
import { ensureDebianPackage } from './packages';
import { fail, show, showLater, succeeds } from './processes';
import { startServer } from './serve';
import { temporaryFolder } from './temporary';
import { ROOMS, SERVER_ROOMS, UNIT_ROOMS, WORKERS } from './testParts';

/**
 * Everything that must hold: types, layout, lint, unit tests, server tests on a
 * real database, journeys in a real browser. Ends with the line "N passed, N failed".
 *
 * A part by its name (CONTRIBUTING.md has their usual times): `npm test -- unit`,
 * for instance; words behind it go to the runner.
 */
const PARTS = ['static', 'unit', 'server', 'e2e'] as const;
type Part = (typeof PARTS)[number];
const [named, ...filters] = process.argv.slice(2);
if (named !== undefined && !PARTS.includes(named as Part)) {
  console.error(`“${named}” is no part of the tests. There are: ${PARTS.join(', ')}.`);
  process.exit(2);
}
const wanted = (part: Part): boolean => named === undefined || named === part;
const total = { passed: 0, failed: 0 };

function count(passed: number, failed: number): void {
  total.passed += passed;
  total.failed += failed;
}

/** A check that passes or fails as a whole; what it says is shown when it has ended, since others run beside it. */
async function check(command: string, args: string[]): Promise<void> {
  const code = await showLater(command, args);
  count(code === 0 ? 1 : 0, code === 0 ? 0 : 1);
}

async function jest(rooms: string[], report: string, env: Record<string, string> = {}): Promise<void> {
  const code = await show(
    'npx',
    [
      'jest',
      '--ci',
      `--maxWorkers=${WORKERS}`,
      '--json',
      `--outputFile=${report}`,
      // a list of projects has no end of its own: what follows it must be a flag
      '--selectProjects',
      ...rooms,
      '--testPathPattern',
      filters.join('|'),
    ],
    env,
  );
  const result = JSON.parse(await readFile(report, 'utf8').catch(() => '{}')) as {
    numPassedTests?: number;
    numFailedTests?: number;
    numRuntimeErrorTestSuites?: number;
  };
  const failed = (result.numFailedTests ?? 0) + (result.numRuntimeErrorTestSuites ?? 0);
  count(result.numPassedTests ?? 0, failed === 0 && code !== 0 ? 1 : failed);
}

/** A database with the demo in it, which each worker of the journeys copies; nobody uses it meanwhile. */
async function demoDatabase(databaseUrl: string): Promise<void> {
  const server = await startServer({ DATABASE_URL: databaseUrl, PORT: '0' });
  try {
    await loadDemoOnce(server.address, databaseUrl);
  } finally {
    await server.stop();
  }
}

async function journeys(databaseUrl: string, report: string): Promise<void> {
  await demoDatabase(databaseUrl);
  const code = await show(
    'npx',
    ['playwright', 'test', '--config', 'e2e/playwright.config.ts', `--workers=${WORKERS}`, ...filters],
    {
      PACE_E2E_TEMPLATE: databaseUrl,
      PACE_E2E_REPORT: report,
      PACE_E2E_SERVER: join(SERVER_DIST, 'main.mjs'),
      PACE_WEB: WEB_DIST,
      PACE_COMMAND: COMMAND,
    },
  );
  const result = JSON.parse(await readFile(report, 'utf8').catch(() => '{}')) as {
    stats?: { expected: number; unexpected: number; flaky: number };
  };
  const failed = (result.stats?.unexpected ?? 0) + (result.stats?.flaky ?? 0);
  count(result.stats?.expected ?? 0, failed === 0 && code !== 0 ? 1 : failed);
}

async function staticChecks(): Promise<void> {
  await check('npx', ['tsc', '-p', 'tsconfig.json']);
  // the app’s addresses as types, from its routes
  await showLater('npm', ['exec', '-w', 'app', '--', 'expo', 'customize', 'tsconfig.json']);
  await check('npx', ['tsc', '-p', 'app/tsconfig.json']);
  await check('npx', ['prettier', '--check', '--log-level', 'warn', '.']);
  await check('npx', ['eslint', '.', '--max-warnings', '0']);
  // no circles between files, of types neither
  await check('npx', ['madge', '--circular', '--no-spinner', '--extensions', 'ts,tsx', ...ROOMS]);
}

async function test(): Promise<void> {
  const folder = await temporaryFolder('pace-check-test-');
  const stops: (() => Promise<void>)[] = [() => rm(folder, { recursive: true, force: true })];
  try {
    // the web app is built while other things are checked
    const web = wanted('e2e') ? buildWeb() : Promise.resolve();
    web.catch(() => undefined);
    // the checks are one after the other and leave a processor free
    await Promise.all([
      wanted('static') ? staticChecks() : undefined,
      wanted('unit') ? jest(UNIT_ROOMS, join(folder, 'unit.json')) : undefined,
    ]);
    if (wanted('server') || wanted('e2e')) {
      await Promise.all([buildServer(), buildCli()]);
      const database = await startDatabase(join(folder, 'postgres'), true);
      stops.unshift(database.stop);
      if (wanted('server')) {
        // an example of the documentation is run as it stands
        await ensureDebianPackage('curl', () => succeeds('curl', ['--version']));
        await jest(SERVER_ROOMS, join(folder, 'server.json'), { PACE_TEST_DATABASE: database.url });
      }
      if (wanted('e2e')) {
        await ensureChromium();
        await web;
        await journeys(database.url, join(folder, 'e2e.json'));
      }
    }
  } finally {
    for (const stop of stops) await stop().catch(fail);
  }
}

test()
  .catch((error: unknown) => {
    fail(error);
    total.failed++;
  })
  .finally(() => {
    console.log(`\n${total.passed} passed, ${total.failed} failed`);
    process.exitCode = total.failed > 0 || total.passed === 0 ? 1 : 0;
  });
