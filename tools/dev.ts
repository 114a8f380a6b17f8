import { spawn } from 'node:child_process';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { buildCli, watchServer } from './build';
import { startDatabase } from './database';
import { loadDemoOnce } from './demo';
import { takeLock } from './lock';
import { COMMAND, DATA, ROOT } from './paths';
import { Advice, fail } from './processes';
import { startServer, type RunningServer } from './serve';

/** Where the app is while one works on it, and the server behind it. */
const APP_PORT = process.env['PORT'] ?? '4320';
const SERVER_PORT = String(Number(APP_PORT) + 1);

/**
 * For those who work on it: a database of its own, the server bundled and
 * started anew with every change of its sources, and Expo's development server,
 * which shows a change of a screen at once and asks the server for the rest.
 */
const stops: (() => Promise<void>)[] = [];
let stopping: Promise<void> | null = null;
function stopAll(): Promise<void> {
  stopping ??= (async () => {
    for (const stop of stops.reverse()) await stop().catch((error: unknown) => console.error(error));
  })();
  return stopping;
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.on(signal, () => void stopAll().then(() => process.exit(0)));
process.on('disconnect', () => void stopAll().then(() => process.exit(0)));

/** One server after the other, each of the newest bundle. */
class Restarts {
  private server: RunningServer | null = null;
  private turn: Promise<void> = Promise.resolve();
  private wanted = 0;

  constructor(private readonly env: Record<string, string>) {}

  restart(file: string): Promise<void> {
    const number = ++this.wanted;
    this.turn = this.turn.then(async () => {
      // a newer bundle is there already
      if (number !== this.wanted || stopping) return;
      const at = performance.now();
      await this.server?.stop();
      this.server = await startServer(this.env, file).catch((error: unknown) => (fail(error), null));
      if (this.server)
        console.log(`The server is there, ${Math.round(performance.now() - at)} ms after its bundle.`);
    });
    return this.turn;
  }

  async stop(): Promise<void> {
    this.wanted++;
    await this.turn;
    await this.server?.stop();
  }
}

async function dev(): Promise<void> {
  const folder = join(DATA, 'dev');
  await mkdir(folder, { recursive: true });
  const taken = await takeLock(folder);
  if ('holder' in taken) throw new Advice(`It is being worked on already (process ${taken.holder.pid}).`);
  stops.push(taken.lock.release);
  const database = await startDatabase(join(folder, 'postgres'));
  stops.push(database.stop);
  await buildCli();
  const server = new Restarts({ DATABASE_URL: database.url, PACE_COMMAND: COMMAND, PORT: SERVER_PORT });
  stops.push(() => server.stop());
  await new Promise<void>((resolve, reject) => {
    watchServer((file) => void server.restart(file).then(resolve, reject)).then(
      (stop) => stops.push(stop),
      reject,
    );
  });
  const address = `http://127.0.0.1:${SERVER_PORT}`;
  await loadDemoOnce(address, database.url);
  const expo = spawn('npx', ['expo', 'start', '--web', '--port', APP_PORT], {
    cwd: join(ROOT, 'app'),
    // the app asks its own address for /api, and app/metro.config.js hands that on
    env: {
      ...process.env,
      PACE_DEV_SERVER: address,
      EXPO_OFFLINE: '1',
      EXPO_NO_TELEMETRY: '1',
      BROWSER: 'none',
    },
    stdio: ['ignore', 'inherit', 'inherit'],
    detached: true,
  });
  const ended = new Promise<void>((resolve) => expo.on('exit', () => resolve()));
  stops.push(async () => {
    // it has children of its own
    if (expo.exitCode === null && expo.signalCode === null) process.kill(-expo.pid!, 'SIGTERM');
    await ended;
  });
  console.log(
    `\nThe app is at http://localhost:${APP_PORT} (the first page takes a minute), its server at ${address}. Ctrl-C ends both.`,
  );
  await ended;
}

dev()
  .catch(fail)
  .finally(() => void stopAll().then(() => process.exit()));
