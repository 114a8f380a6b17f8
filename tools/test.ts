import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { buildCli, buildServer, buildWeb } from './build';
import { ensureChromium } from './chromium';
import { startDatabase } from './database';
import { loadDemoOnce } from './demo';
import { COMMAND, FAILED_JOURNEYS, SERVER_DIST, WEB_DIST } from './paths';
import { ensureDebianPackage, exists } from './packages';
import { fail, show, showLater, succeeds } from './processes';
import { startServer } from './serve';
import { temporaryFolder } from './temporary';
import { BUDGET_S, ROOMS, SERVER_ROOMS, UNIT_ROOMS, UNIT_WORKERS, WAITING_WORKERS } from './testParts';
import { jestReport, journeysReport, keepDurations, type Report } from './testReport';

/**
 * Everything that must hold: types, layout, lint, unit tests, server tests on a
 * real database, journeys in a real browser. Ends with the line "N passed, N failed".
 *
 * A part by its name (CONTRIBUTING.md has their usual times): `npm test -- unit`,
 * for instance; words behind it go to the runner.
 *
 * Both cores are kept busy: the web app is built, and the static checks run one
 * after the other, beside the tests of all rooms and the journeys.
 */
const PARTS = ['static', 'unit', 'server', 'e2e'] as const;
type Part = (typeof PARTS)[number];
const [named, ...filters] = process.argv.slice(2);
if (named !== undefined && !PARTS.includes(named as Part)) {
  console.error(`“${named}” is no part of the tests. There are: ${PARTS.join(', ')}.`);
  process.exit(2);
}
const wanted = (part: Part): boolean => named === undefined || named === part;
const total: Report = { passed: 0, failed: 0, slowest: [] };
/** How long each part took, s; parts run beside each other. */
const took: [part: string, seconds: number][] = [];
const SLOWEST = 10;

function count({ passed, failed, slowest }: Report): void {
  total.passed += passed;
  total.failed += failed;
  total.slowest.push(...slowest);
}

async function timed<T>(part: string, work: Promise<T>): Promise<T> {
  const since = performance.now();
  try {
    return await work;
  } finally {
    took.push([part, (performance.now() - since) / 1000]);
  }
}

/** A check that passes or fails as a whole; what it says is shown when it has ended, since others run beside it. */
async function check(command: string, args: string[]): Promise<void> {
  const code = await showLater(command, args);
  count({ passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1, slowest: [] });
}

/** Unit tests of these rooms, those of the server on this database. */
async function jest(rooms: string[], workers: number, report: string, databaseUrl = ''): Promise<void> {
  const code = await show(
    'npx',
    [
      'jest',
      '--ci',
      `--maxWorkers=${workers}`,
      '--json',
      `--outputFile=${report}`,
      // a list of projects has no end of its own: what follows it must be a flag
      '--selectProjects',
      ...rooms,
      '--testPathPattern',
      filters.join('|'),
    ],
    { PACE_TEST_DATABASE: databaseUrl },
  );
  const said = await jestReport(report, code);
  count(said);
  if (filters.length === 0) await keepDurations(said);
}

/** A database with the demo in it, which each journey copies; nobody uses it meanwhile. */
async function demoDatabase(databaseUrl: string): Promise<void> {
  const server = await startServer({ DATABASE_URL: databaseUrl, PORT: '0' });
  try {
    await loadDemoOnce(server.address, databaseUrl);
  } finally {
    await server.stop();
  }
}

async function journeys(databaseUrl: string, report: string): Promise<void> {
  await rm(FAILED_JOURNEYS, { recursive: true, force: true });
  const code = await show(
    'npx',
    [
      'playwright',
      'test',
      '--config',
      'e2e/playwright.config.ts',
      `--workers=${WAITING_WORKERS}`,
      ...filters,
    ],
    {
      PACE_E2E_TEMPLATE: databaseUrl,
      PACE_E2E_REPORT: report,
      PACE_E2E_FAILED: FAILED_JOURNEYS,
      PACE_E2E_SERVER: join(SERVER_DIST, 'main.mjs'),
      PACE_WEB: WEB_DIST,
      PACE_COMMAND: COMMAND,
    },
  );
  const said = await journeysReport(report, code);
  count(said);
  if (said.failed > 0 && (await exists(FAILED_JOURNEYS)))
    console.log(
      `\nWhat each failed journey left (its trace, the last picture, what its server said) is in ${FAILED_JOURNEYS}.`,
    );
}

const CACHES = join('.data', 'checks');
const TYPES = join('node_modules', 'typescript7', 'bin', 'tsc');

async function staticChecks(): Promise<void> {
  // TypeScript’s compiler of machine code: the same types in a tenth of the time; the linter needs the other one
  const typed = (name: string, config: string): string[] => [
    TYPES,
    '-p',
    config,
    '--incremental',
    '--tsBuildInfoFile',
    join(CACHES, `${name}.tsbuildinfo`),
  ];
  await check(process.execPath, typed('house', 'tsconfig.json'));
  // the app’s addresses as types, from its routes
  await showLater('npm', ['exec', '-w', 'app', '--', 'expo', 'customize', 'tsconfig.json']);
  await check(process.execPath, typed('app', 'app/tsconfig.json'));
  const cached = (name: string): string[] => [
    '--cache',
    '--cache-location',
    join(CACHES, name),
    '--cache-strategy',
    'content',
  ];
  await check('npx', ['prettier', '--check', '--log-level', 'warn', ...cached('prettier'), '.']);
  await check('npx', ['eslint', '.', '--max-warnings', '0', ...cached('eslint')]);
  // no circles between files, of types neither
  await check('npx', ['madge', '--circular', '--no-spinner', '--extensions', 'ts,tsx', ...ROOMS]);
}

/** The tests of all rooms that are wanted, in one run where all are: what waits for a database leaves a core to what computes. */
async function roomTests(folder: string, databaseUrl: string | undefined): Promise<void> {
  const report = join(folder, 'rooms.json');
  const rooms = [...(wanted('unit') ? UNIT_ROOMS : []), ...(wanted('server') ? SERVER_ROOMS : [])];
  const workers = wanted('server') ? WAITING_WORKERS : UNIT_WORKERS;
  if (rooms.length > 0) await timed('tests of the rooms', jest(rooms, workers, report, databaseUrl));
}

async function test(): Promise<void> {
  const folder = await temporaryFolder('pace-check-test-');
  const stops: (() => Promise<void>)[] = [() => rm(folder, { recursive: true, force: true })];
  try {
    // what journeys need is made while the rooms are tested
    const web = wanted('e2e') ? timed('web app built', buildWeb()) : undefined;
    let demo: Promise<void> | undefined;
    let databaseUrl: string | undefined;
    if (wanted('server') || wanted('e2e')) {
      await Promise.all([buildServer(), buildCli()]);
      const database = await startDatabase(join(folder, 'postgres'), true);
      stops.unshift(database.stop);
      databaseUrl = database.url;
      // an example of the documentation is run as it stands
      await ensureDebianPackage('curl', () => succeeds('curl', ['--version']));
      if (wanted('e2e')) demo = ensureChromium().then(() => timed('demo loaded', demoDatabase(databaseUrl!)));
    }
    const ready = Promise.all([web, demo]);
    // told where it is waited for
    ready.catch(() => undefined);
    const checked = wanted('static') ? timed('static checks', staticChecks()) : undefined;
    await roomTests(folder, databaseUrl);
    await ready;
    if (wanted('e2e')) await timed('journeys', journeys(databaseUrl!, join(folder, 'e2e.json')));
    await checked;
  } finally {
    for (const stop of stops) await stop().catch(fail);
  }
}

const seconds = (value: number): string => `${value.toFixed(value < 10 ? 1 : 0)} s`;

/** Where the time went, and whether it was more than it may be. */
function tellTimes(): void {
  if (total.slowest.length > 0) {
    console.log('\nThe slowest:');
    for (const { name, seconds: took } of total.slowest
      .sort((a, b) => b.seconds - a.seconds)
      .slice(0, SLOWEST))
      console.log(`  ${seconds(took).padStart(6)}  ${name}`);
  }
  console.log(`\n${took.map(([part, took]) => `${part} ${seconds(took)}`).join(', ')}.`);
  const all = performance.now() / 1000;
  if (named !== undefined) return;
  console.log(
    `All of it ${seconds(all)}; its limit is ${seconds(BUDGET_S)} on two cores that nobody else uses.`,
  );
  if (all > BUDGET_S)
    console.log(
      'WARNING: the tests took longer than their limit. Run them on a quiet machine, or make the slowest quicker.',
    );
}

test()
  .catch((error: unknown) => {
    fail(error);
    total.failed++;
  })
  .finally(() => {
    tellTimes();
    console.log(`\n${total.passed} passed, ${total.failed} failed`);
    process.exitCode = total.failed > 0 || total.passed === 0 ? 1 : 0;
  });
