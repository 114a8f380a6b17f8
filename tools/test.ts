import { spawn } from 'node:child_process';
import { readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { buildCli, buildServer, buildWeb } from './build';
import { ensureChromium } from './chromium';
import { startDatabase } from './database';
import { loadDemoOnce } from './demo';
import { COMMAND, ROOT, SERVER_DIST, WEB_DIST } from './paths';
import { ensureDebianPackage } from './packages';
import { fail, succeeds } from './processes';
import { startServer } from './serve';
import { temporaryFolder } from './temporary';

/**
 * Everything that must hold: types, lint, unit tests, server tests on a real
 * database, journeys in a real browser. Ends with the line "N passed, N failed".
 *
 * `npm test -- jest` or `npm test -- e2e` runs a part; words behind it go to the runner.
 */
const [part = 'all', ...filters] = process.argv.slice(2);
const wanted = (name: string): boolean => part === 'all' || part === name;
const total = { passed: 0, failed: 0 };

function count(passed: number, failed: number): void {
  total.passed += passed;
  total.failed += failed;
}

/** Runs a command with its output shown; its exit status. */
function show(command: string, args: string[], env: Record<string, string> = {}): Promise<number> {
  console.log(`\n— ${command} ${args.join(' ')}`);
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    child.on('error', () => resolve(127));
    child.on('close', (code) => resolve(code ?? 1));
  });
}

/** A check that passes or fails as a whole. */
async function check(command: string, args: string[]): Promise<void> {
  const code = await show(command, args);
  count(code === 0 ? 1 : 0, code === 0 ? 0 : 1);
}

async function jest(databaseUrl: string, report: string): Promise<void> {
  const code = await show('npx', ['jest', '--ci', '--json', `--outputFile=${report}`, ...filters], {
    PACE_TEST_DATABASE: databaseUrl,
  });
  const result = JSON.parse(await readFile(report, 'utf8').catch(() => '{}')) as {
    numPassedTests?: number;
    numFailedTests?: number;
    numRuntimeErrorTestSuites?: number;
  };
  const failed = (result.numFailedTests ?? 0) + (result.numRuntimeErrorTestSuites ?? 0);
  count(result.numPassedTests ?? 0, failed === 0 && code !== 0 ? 1 : failed);
}

async function journeys(databaseUrl: string, report: string): Promise<void> {
  const server = await startServer({
    DATABASE_URL: databaseUrl,
    PACE_WEB: WEB_DIST,
    PACE_COMMAND: COMMAND,
    PORT: '0',
  });
  try {
    await loadDemoOnce(server.address, databaseUrl);
    const code = await show(
      'npx',
      ['playwright', 'test', '--config', 'e2e/playwright.config.ts', ...filters],
      {
        PACE_E2E_ADDRESS: server.address,
        PACE_E2E_DATABASE: databaseUrl,
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
  } finally {
    await server.stop();
  }
}

async function test(): Promise<void> {
  const folder = await temporaryFolder('pace-check-test-');
  const stops: (() => Promise<void>)[] = [() => rm(folder, { recursive: true, force: true })];
  try {
    if (wanted('static')) {
      await check('npx', ['tsc', '-p', 'tsconfig.json']);
      await check('npx', ['tsc', '-p', 'app/tsconfig.json']);
      await check('npx', ['prettier', '--check', '--log-level', 'warn', '.']);
      await check('npx', ['eslint', '.', '--max-warnings', '0']);
    }
    await Promise.all([buildServer(), buildCli()]);
    const database = await startDatabase(join(folder, 'postgres'), true);
    stops.unshift(database.stop);
    if (wanted('jest')) {
      // an example of the documentation is run as it stands
      await ensureDebianPackage('curl', () => succeeds('curl', ['--version']));
      await jest(database.url, join(folder, 'jest.json'));
    }
    if (wanted('e2e')) {
      await ensureChromium();
      await buildWeb();
      await journeys(database.url, join(folder, 'e2e.json'));
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
