import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { buildCli, buildServer, buildWeb } from './build';
import { startDatabase } from './database';
import { loadDemoOnce } from './demo';
import { COMMAND, DATA, WEB_DIST } from './paths';
import { fail } from './processes';
import { startServer } from './serve';

/** Where the app is served unless PORT says otherwise. */
const PORT = process.env['PORT'] ?? '4310';

/** Ends what was started, the last first. */
const stops: (() => Promise<void>)[] = [];
let stopping: Promise<void> | null = null;
function stopAll(): Promise<void> {
  stopping ??= (async () => {
    for (const stop of stops.reverse()) await stop().catch((error: unknown) => console.error(error));
  })();
  return stopping;
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void stopAll().then(() => process.exit(0)));

async function databaseUrl(): Promise<string> {
  const given = process.env['DATABASE_URL'];
  if (given) {
    console.log('Using the database that DATABASE_URL names.');
    return given;
  }
  const database = await startDatabase(join(DATA, 'postgres'));
  stops.push(database.stop);
  return database.url;
}

async function start(): Promise<void> {
  await mkdir(DATA, { recursive: true });
  const url = await databaseUrl();
  await Promise.all([buildServer(), buildCli()]);
  await buildWeb();
  const server = await startServer({ DATABASE_URL: url, PACE_WEB: WEB_DIST, PACE_COMMAND: COMMAND, PORT });
  stops.push(server.stop);
  void server.ended.then(async (code) => {
    if (stopping) return;
    console.error(`The server ended by itself (status ${code}).`);
    await stopAll();
    process.exit(1);
  });
  if (process.env['PACE_DEMO'] !== 'off') await loadDemoOnce(server.address, url);
  console.log(`\nPace Check is at ${server.address}\nCtrl-C stops it and its database.`);
}

start().catch(async (error: unknown) => {
  fail(error);
  await stopAll();
  process.exit(1);
});
