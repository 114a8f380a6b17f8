import { createReadStream } from 'node:fs';
import { readFile, rm, stat } from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { chromium, type Browser } from '@playwright/test';
import pg from 'pg';
import type { RunDetail } from '@pace-check/contract';
import { buildCli, buildServer, buildWeb } from './build';
import { ATTACKS, type Attack } from './bench/attack';
import { TOGETHER } from './bench/attackTogether';
import { measureLibrary } from './bench/library';
import { measureLoad } from './bench/load';
import { LONG_FRAMES, writeLongLog } from './bench/longLog';
import { measureCommandLine } from './bench/commandLine';
import { measureLiveLoad } from './bench/liveLoad';
import { measureLive } from './bench/liveRun';
import { measurePack } from './bench/pack';
import { measurePlanner } from './bench/planner';
import { scan } from './bench/scanner';
import { measureYear } from './bench/year';
import { CHROMIUM, CHROMIUM_FLAGS, ensureChromium } from './chromium';
import { startDatabase } from './database';
import { loadDemoOnce } from './demo';
import { COMMAND, WEB_DIST } from './paths';
import { fail } from './processes';
import { startServer } from './serve';
import { endure, PROCESSES, Several } from './several';
import { temporaryFolder } from './temporary';

const USUAL_HANDSETS = 8;
const MOST_HANDSETS = 512;
/** A shorter look, while one works on it: PACE_BENCH_LIVE_MINUTES=1. */
const LIVE_MINUTES = Number(process.env['PACE_BENCH_LIVE_MINUTES'] ?? 10);
const RAMP_S = 20;
/** Of three server processes and their database, in turn: PACE_BENCH_KILLS=10 for a shorter look. */
const KILLS = Number(process.env['PACE_BENCH_KILLS'] ?? 100);
/** A server that acknowledges later than this has fallen behind, ms. */
const BEHIND_MS = 1000;

/**
 * Measures speed and memory. Times on a shared machine are noisy: what counts
 * are the ratios, taken side by side in one run.
 */
async function bench(): Promise<void> {
  const folder = await temporaryFolder('pace-check-bench-');
  const stops: (() => Promise<void>)[] = [() => rm(folder, { recursive: true, force: true })];
  try {
    await Promise.all([buildServer(), buildCli()]);
    const database = await startDatabase(join(folder, 'postgres'));
    stops.unshift(database.stop);
    // `npm run bench -- attack`, `-- library`, `-- pack`, `-- year` (a part of the library), `-- load`, `-- live` and `-- several` measure these parts alone
    if (process.argv[2] === 'several') return await severalProcesses(folder);
    if (process.argv[2] === 'attack') return await besideOther(database.url, [...TOGETHER, ...ATTACKS]);
    if (process.argv[2] === 'pack') return await besideOther(database.url, [measurePack]);
    if (process.argv[2] === 'year') return await besideOther(database.url, [measureYear]);
    if (process.argv[2] === 'library') return await besideOther(database.url, [measureLibrary, measureYear]);
    await ensureChromium();
    await buildWeb();
    const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_FLAGS });
    stops.unshift(() => browser.close());
    if (process.argv[2] === 'live') return await liveLoad(database.url, browser);
    const server = await startServer({
      DATABASE_URL: database.url,
      PACE_WEB: WEB_DIST,
      PACE_COMMAND: COMMAND,
      PORT: '0',
    });
    stops.unshift(server.stop);
    if (process.argv[2] === 'load') {
      await loadDemoOnce(server.address, database.url);
      return await measureLoad(browser, server.address, ({ what, figure }) => say(what, figure));
    }

    const log = join(folder, 'long.csv');
    await writeLongLog(log);
    say('log', `${LONG_FRAMES.toLocaleString('en-GB')} frames, ${mb((await stat(log)).size)}`);
    const yardstick = await timed(async () => scan(log));
    await commandLine(log);
    const batches = measureLive();
    say(
      'live, 1,000 frames and all figures after an hour at 144 Hz',
      `${batches[batches.length >> 1]!.toFixed(2)} ms in the middle, ${batches[Math.floor(batches.length * 0.99)]!.toFixed(2)} ms at 99 % (aim: below 2 ms)`,
    );

    for (const [what, finishByMin] of [
      ['open', null],
      ['ending after eleven hours', 1200],
    ] as const) {
      const { ms, finishMin, boundMin, dropped } = measurePlanner(finishByMin);
      say(
        `a day of 6 devices and 60 steps, ${what}, laid out`,
        `${seconds(ms)} (aim: below 2 s), ${(ms / yardstick.ms).toFixed(1)} times the bare scanner; ${(((finishMin - 540) / (boundMin - 540) - 1) * 100).toFixed(1)} % over the bound, ${dropped} left out`,
      );
    }

    const memoryBefore = await memory(server.pid);
    const { run, afterUploadMs } = await importLog(server.address, log);
    const memoryPeak = await memory(server.pid, 'VmHWM');
    if (run.figures.frames.count !== LONG_FRAMES)
      throw new Error(`only ${run.figures.frames.count} frames arrived`);
    say(
      'imported and analysed, from the upload’s end to the answer',
      `${seconds(afterUploadMs)} (aim: below 6 s), ${(afterUploadMs / yardstick.ms).toFixed(1)} times the bare scanner`,
    );
    say('growth of the server’s memory at its peak', `${mb(memoryPeak - memoryBefore)} (aim: below 300 MB)`);

    const page = await browser.newPage({ baseURL: server.address, viewport: { width: 390, height: 844 } });
    await page.goto('/');
    const link = page.getByRole('link', { name: /Skiff 120 on Brask Slate 11/ });
    await link.waitFor();
    const opened = await timed(async () => {
      await link.click();
      await page.getByRole('table', { name: 'Splits' }).waitFor();
    });
    say('its page, from the tap in the list to the split table', `${seconds(opened.ms)} (aim: below 1 s)`);
    const cold = await timed(async () => {
      await page.goto(`/runs/${run.id}`);
      await page.getByRole('table', { name: 'Splits' }).waitFor();
    });
    say('its page by its address, app and all', seconds(cold.ms));
    await page.close();
    await liveLoad(database.url, browser);
  } finally {
    for (const stop of stops) await stop().catch(fail);
  }
}

/** Eight handsets for ten minutes, then more and more until the server falls behind; on a server of its own, so that its memory is counted from nothing. */
async function liveLoad(databaseUrl: string, browser: Browser): Promise<void> {
  const server = await startServer({ DATABASE_URL: databaseUrl, PACE_WEB: WEB_DIST, PORT: '0' });
  try {
    const usual = await measureLiveLoad(
      server.address,
      [server.pid],
      USUAL_HANDSETS,
      LIVE_MINUTES * 60,
      browser,
    );
    say(
      `${USUAL_HANDSETS} handsets at 120 fps for ${LIVE_MINUTES} minutes`,
      `${usual.sent.toLocaleString('en-GB')} frames sent, ${usual.counted.toLocaleString('en-GB')} counted`,
    );
    say(
      '  the screen behind the run’s clock, 95 %',
      `${usual.screenMs!.toFixed(0)} ms (aim: at most 500 ms)`,
    );
    say(
      '  the server',
      `${(usual.processor * 100).toFixed(0)} % of a core (aim: below 50 %), ${mb(await memory(server.pid, 'VmHWM'))} at its peak (aim: below 300 MB)`,
    );
    await mostHandsets(server.address, [server.pid]);
  } finally {
    await server.stop();
  }
}

/** Doubles the handsets until what they send is acknowledged late. */
async function mostHandsets(address: string, pids: number[]): Promise<void> {
  let most = USUAL_HANDSETS;
  for (let handsets = 2 * USUAL_HANDSETS; handsets <= MOST_HANDSETS; handsets *= 2) {
    const more = await measureLiveLoad(address, pids, handsets, RAMP_S, null);
    say(
      `  ${handsets} handsets for ${RAMP_S} s`,
      `acknowledged ${more.behindMs.toFixed(0)} ms behind (95 %), ${(more.processor * 100).toFixed(0)} % of a core, ${more.sent - more.counted} frames missing`,
    );
    if (more.behindMs > BEHIND_MS) break;
    most = handsets;
  }
  say('  keeps up with at least', `${most} such handsets (acknowledged within ${BEHIND_MS} ms)`);
}

/** Three processes on one database: killed in turn while runs are recorded, and how many handsets they take beside one process. */
async function severalProcesses(folder: string): Promise<void> {
  for (const processes of [1, PROCESSES]) {
    const several = await Several.start(join(folder, `of-${processes}`), processes);
    try {
      console.log(`\n— ${processes} behind the proxy`);
      await mostHandsets(
        several.address,
        several.servers.map(({ pid }) => pid),
      );
    } finally {
      await several.close();
    }
  }
  const several = await Several.start(join(folder, 'killed'));
  try {
    const { serversKilled, databaseKilled, diedAlone, runs, frames, readings, ends } = await endure(
      several,
      KILLS,
      1,
    );
    console.log(`\n— ${PROCESSES} processes and their database, killed in turn`);
    say('kill -9', `${serversKilled} times a server, ${databaseKilled} times the database`);
    say('  ended by themselves', `${diedAlone} (aim: 0)`);
    say('  frames of handsets', `${frames.sent} sent, ${frames.counted} counted (aim: the same)`);
    say(
      '  readings that were typed',
      `${readings.typed} acknowledged, ${readings.stored} stored, ${readings.seen} seen on a screen elsewhere (aim: the same)`,
    );
    say('  planned ends', `${ends.runs} runs of ${runs}, ${ends.stored} ends (aim: the same)`);
  } finally {
    await several.close();
  }
}

/** Measures each thing on a server and in a database of its own; beside another checkout’s server, which PACE_BENCH_OTHER names by its folder. */
async function besideOther(databaseUrl: string, works: Attack[]): Promise<void> {
  const other = process.env['PACE_BENCH_OTHER'];
  for (const [name, file] of [
    ...(other ? [['other', join(other, 'server', 'dist', 'main.mjs')] as const] : []),
    ['this', undefined] as const,
  ]) {
    console.log(`\n— ${name} server`);
    for (const [i, work] of works.entries()) {
      const url = await newDatabase(databaseUrl, `bench_${name}_${i}`);
      const server = await startServer({ DATABASE_URL: url, PORT: '0' }, file);
      const database = new pg.Client({ connectionString: url });
      await database.connect();
      try {
        await work({ address: server.address, pid: server.pid, database, url }, ({ what, figure }) =>
          say(what, figure),
        );
      } finally {
        await database.end();
        // one that does not answer any more does not end either
        const kill = setTimeout(() => process.kill(server.pid, 'SIGKILL'), 5000);
        await server.stop();
        clearTimeout(kill);
      }
    }
  }
}

async function newDatabase(serverUrl: string, name: string): Promise<string> {
  const admin = new pg.Client({ connectionString: serverUrl });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  const url = new URL(serverUrl);
  url.pathname = `/${name}`;
  return url.href;
}

/** The command line beside its yardsticks. */
async function commandLine(log: string): Promise<void> {
  const { pace, scanner, ...others } = await measureCommandLine(log);
  say(
    'pace analyse, one process from CSV bytes to every figure',
    `${seconds(pace!.ms)}, ${mb(pace!.bytes)} (aim: below 250 MB)`,
  );
  say(
    '  beside a bare byte scanner (parse, sort, four statistics)',
    `${seconds(scanner!.ms)}; pace takes ${(pace!.ms / scanner!.ms).toFixed(2)} times as long (aim: at most 2.5)`,
  );
  for (const [name, taken] of Object.entries(others))
    say(
      `  beside the ${name}`,
      `${seconds(taken.ms)}, ${mb(taken.bytes)}; ${(taken.ms / pace!.ms).toFixed(2)} times pace’s time`,
    );
}

const say = (what: string, figure: string): void => console.log(`${what}: ${figure}`);
const seconds = (ms: number): string => `${(ms / 1000).toFixed(2)} s`;
const mb = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(1)} MB`;

async function timed<T>(work: () => Promise<T>): Promise<{ ms: number; result: T }> {
  const start = performance.now();
  const result = await work();
  return { ms: performance.now() - start, result };
}

/** A process's memory as the system counts it, bytes. */
async function memory(pid: number, field: 'VmRSS' | 'VmHWM' = 'VmRSS'): Promise<number> {
  const status = await readFile(`/proc/${pid}/status`, 'utf8');
  return Number(new RegExp(`${field}:\\s+(\\d+) kB`).exec(status)![1]) * 1024;
}

function importLog(address: string, path: string): Promise<{ run: RunDetail; afterUploadMs: number }> {
  const details = {
    fileName: 'long.csv',
    name: null,
    facts: { device: 'Brask Slate 11', title: 'Skiff 120', setup: null, target: 144, refresh: 144 },
    reading: null,
    again: false,
  };
  return new Promise((resolve, reject) => {
    let sentAt = 0;
    const sending = request(
      `${address}/api/imports?details=${encodeURIComponent(JSON.stringify(details))}`,
      { method: 'POST', headers: { 'x-pace-check-upload': '1' } },
      (response) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => {
          const text = Buffer.concat(parts).toString();
          if (response.statusCode !== 201) reject(new Error(text));
          else resolve({ run: JSON.parse(text) as RunDetail, afterUploadMs: performance.now() - sentAt });
        });
      },
    );
    sending.on('finish', () => (sentAt = performance.now()));
    sending.on('error', reject);
    createReadStream(path).pipe(sending);
  });
}

bench().catch(fail);
