import { mkdir } from 'node:fs/promises';
import { randomBytes } from 'node:crypto';
import { createConnection } from 'node:net';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { administer } from './administer';
import { Backoff } from './backoff';
import { buildCli, buildServer, buildWeb } from './build';
import { startDatabase } from './database';
import { loadDemoOnce } from './demo';
import { takeLock } from './lock';
import { COMMAND, DATA, WEB_DIST } from './paths';
import { Advice, fail } from './processes';
import { startServer, type RunningServer } from './serve';

/** Where the app is served unless PORT says otherwise. */
const PORT = process.env['PORT'] ?? '4310';
const HOST = process.env['HOST'] || '127.0.0.1';
const ANSWER_WITHIN_MS = 2000;

/** Ends what was started here, the last first; what was found running goes on. */
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
// whoever called this was killed: nobody could stop it any more
process.on('disconnect', () => void stopAll().then(() => process.exit(0)));

/** What answers where the app is to be served: a Pace Check, anything else, or nothing. */
async function whoAnswers(): Promise<'pace-check' | 'other' | 'nobody'> {
  if (PORT === '0') return 'nobody';
  const host = HOST === '0.0.0.0' ? '127.0.0.1' : HOST === '::' ? '::1' : HOST;
  const taken = await new Promise<boolean>((resolve) => {
    const socket = createConnection({ host, port: Number(PORT), timeout: ANSWER_WITHIN_MS });
    const done = (there: boolean): void => {
      socket.destroy();
      resolve(there);
    };
    socket
      .on('connect', () => done(true))
      .on('error', () => done(false))
      .on('timeout', () => done(false));
  });
  if (!taken) return 'nobody';
  const health = await fetch(`http://${host.includes(':') ? `[${host}]` : host}:${PORT}/api/health`, {
    signal: AbortSignal.timeout(ANSWER_WITHIN_MS),
  })
    .then((answer) => answer.json() as Promise<{ name?: unknown; code?: unknown }>)
    .catch(() => null);
  // one whose database is away says so
  return health?.name === 'pace-check' || health?.code === 'database-away' ? 'pace-check' : 'other';
}

/** Where others reach it: an address that stands for all is none to be typed. */
function addressesOf(address: string): string[] {
  if (HOST !== '0.0.0.0' && HOST !== '::') return [address];
  const { port } = new URL(address);
  const own = Object.values(networkInterfaces()).flatMap((all) => all ?? []);
  return own.filter(({ family }) => family === 'IPv4').map((one) => `http://${one.address}:${port}`);
}

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

/** Starts the server, and starts it again where it ends by itself. */
async function keepServer(env: Record<string, string>): Promise<string> {
  let server = await startServer(env);
  stops.push(() => server.stop());
  const { address } = server;
  const again = new Backoff();
  const port = new URL(address).port;
  void (async () => {
    for (;;) {
      const code = await server.ended;
      let next: RunningServer | null = null;
      while (!next) {
        if (stopping) return;
        console.error(
          `The server ended by itself (status ${code}). It is started again in ${again.nextS} s.`,
        );
        await again.pause();
        if (stopping) return;
        next = await startServer({ ...env, PORT: port }).catch((error: unknown) => (fail(error), null));
      }
      server = next;
      if (stopping) await server.stop();
      else console.log('The server is there again.');
    }
  })();
  return address;
}

async function start(): Promise<void> {
  const answers = await whoAnswers();
  if (answers === 'pace-check')
    return console.log(
      `Pace Check is at http://${HOST}:${PORT} already. For a second one choose another port with PORT=… .`,
    );
  if (answers === 'other')
    throw new Advice(`Port ${PORT} is taken by another program. Choose another with PORT=… .`);
  await mkdir(DATA, { recursive: true });
  const taken = await takeLock(DATA);
  if ('holder' in taken) {
    const { address, pid } = taken.holder;
    return console.log(
      address
        ? `Pace Check is at ${address} already (process ${pid}).`
        : `Pace Check is being started already, by process ${pid}: it tells its address there.`,
    );
  }
  stops.push(taken.lock.release);
  // between this process and its server, for the demo: made anew each time, and kept nowhere
  process.env['PACE_START_KEY'] = randomBytes(24).toString('base64url');
  const url = await databaseUrl();
  await Promise.all([buildServer(), buildCli()]);
  // before the app is built, which takes its time
  if (['HOST', 'PACE_HOSTS', 'TRUST_PROXY'].some((name) => process.env[name]))
    await administer(url, ['check-passcode']);
  const withApp = process.env['PACE_APP'] !== 'off';
  if (withApp) await buildWeb();
  const address = await keepServer({
    DATABASE_URL: url,
    PACE_COMMAND: COMMAND,
    PACE_BACKUPS: process.env['PACE_BACKUPS'] ?? join(DATA, 'backups'),
    PORT,
    ...(withApp ? { PACE_WEB: WEB_DIST } : {}),
  });
  await taken.lock.tell(address);
  if (process.env['PACE_DEMO'] !== 'off') await loadDemoOnce(address, url);
  console.log(`\nPace Check is at ${addressesOf(address).join(' and ')}\nCtrl-C stops all that it started.`);
}

start().then(
  // nothing was started: nothing keeps the process
  () => stops.length === 0 && process.exit(0),
  async (error: unknown) => {
    fail(error);
    await stopAll();
    process.exit(1);
  },
);
