import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { createApp } from './app';
import { answerBroken } from './routes/broken';
import { Access, IDLE_DAYS } from './services/access';
import { AnalysisPool } from './services/analysisPool';
import { sweepAbandoned } from './services/backup';
import { problemOf } from './services/faults';
import { report } from './services/logs';
import { PicturePool } from './services/picturePool';
import { continueClock, followDatabase } from './services/serverClock';
import { reasonOf } from './reasonOf';
import { doorOptions, NoPasscode } from './settingsOfStart';
import { purgeAccess } from './sql/access';
import { clockDifferenceMs, inTransaction, openPool, withoutTimeLimit } from './sql/database';
import { migrate, migrationsIn } from './sql/migrate';
import { lastHeardMs } from './sql/recordings';
import { purgeComparisons } from './sql/comparisons';
import { purgeDocuments } from './sql/documents';
import { purgeOutcomes } from './sql/outcomes';
import { purgeReviews } from './sql/reviews';
import { purgeDeleted } from './sql/runs';
import type pg from 'pg';

/** Deleted runs can be brought back for this long. */
const KEEP_DELETED_DAYS = 30;
/** A database that is starting answers soon. */
const DATABASE_WITHIN_MS = 10_000;
const DATABASE_PAUSE_MS = 500;
/** When it stops, what is being answered has so long; the rest of ten seconds is for the threads and the database. */
const ANSWER_WITHIN_MS = 7000;
/** Status of a server that cannot begin, whoever starts it: told in one line, without a stack. */
const CANNOT_BEGIN = 3;

const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

/** Waits for the database and brings it up to date. */
async function prepare(pool: pg.Pool): Promise<void> {
  const until = performance.now() + DATABASE_WITHIN_MS;
  for (;;) {
    try {
      await migrate(pool, here('./migrations'));
      break;
    } catch (error) {
      if (problemOf(error)?.status !== 503 || performance.now() > until) throw error;
      await new Promise((resolve) => setTimeout(resolve, DATABASE_PAUSE_MS));
    }
  }
  await inTransaction(pool, async (db) => {
    await withoutTimeLimit(db);
    await purgeDeleted(db, KEEP_DELETED_DAYS);
    await purgeComparisons(db, KEEP_DELETED_DAYS);
    await purgeReviews(db, KEEP_DELETED_DAYS);
    await purgeDocuments(db, 'ladder', KEEP_DELETED_DAYS);
    await purgeDocuments(db, 'choice', KEEP_DELETED_DAYS);
    await purgeDocuments(db, 'synthetic', KEEP_DELETED_DAYS);
    await purgeOutcomes(db, KEEP_DELETED_DAYS);
    await purgeAccess(db, IDLE_DAYS);
  });
  followDatabase(await clockDifferenceMs(pool));
  const behindMs = continueClock(await lastHeardMs(pool));
  if (behindMs > 0)
    console.log(
      `The system clock is ${Math.round(behindMs / 1000)} s behind the last data of a run. Recording continues from that time. Set the clock when nothing is being recorded, then restart.`,
    );
}

async function serve(url: string): Promise<void> {
  const pool = openPool(url);
  await prepare(pool);
  const analyses = new AnalysisPool(here('./analysis.worker.mjs'));
  const pictures = new PicturePool(here('./picture.worker.mjs'));
  const door = doorOptions(process.env);
  if (door.closed && !(await new Access(pool).hasPasscode())) throw new NoPasscode();
  const {
    app,
    resume,
    close: closeApp,
  } = createApp(pool, analyses, pictures, {
    webFolder: process.env['PACE_WEB'] ?? null,
    command: process.env['PACE_COMMAND'] ?? null,
    door,
    migrations: await migrationsIn(here('./migrations')),
    backups: process.env['PACE_BACKUPS'] ? { url, folder: process.env['PACE_BACKUPS'] } : null,
  });
  const server = app.listen(Number(process.env['PORT'] ?? 0), door.host);
  await once(server, 'listening');
  server.on('clientError', answerBroken);
  // what a process that was killed has left of a backup or a restore
  await sweepAbandoned(url, process.env['PACE_BACKUPS'] ?? null).catch((error: unknown) =>
    report(`What a killed process left was not removed: ${String(error)}`),
  );
  if (door.closed) console.log('Other machines can reach this server. They must enter the passcode.');
  const { address, port } = server.address() as AddressInfo;
  // the parent process waits for this line
  console.log(`listening http://${address.includes(':') ? `[${address}]` : address}:${port}`);
  resume().catch((error: unknown) => report('Recalculating outdated figures failed:', error));

  let closing = false;
  const close = async (): Promise<void> => {
    if (closing) return;
    closing = true;
    const ended = once(server, 'close');
    server.close();
    // screens that follow a run are told, what is being answered is answered
    const told = closeApp();
    await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, ANSWER_WITHIN_MS).unref())]);
    server.closeAllConnections();
    await Promise.all([told, analyses.close(), pictures.close()]);
    await pool.end();
    process.exit(0);
  };
  process.on('SIGINT', close);
  process.on('SIGTERM', close);
  // whoever started it is gone: nobody could stop it any more
  process.on('disconnect', close);
}

const url = process.env['DATABASE_URL'];
if (url) {
  await serve(url).catch((error: unknown) => {
    console.error(reasonOf(error, url) ?? error);
    process.exit(CANNOT_BEGIN);
  });
} else {
  console.error('DATABASE_URL is not set. Start with `npm start`, which starts its own database.');
  process.exitCode = CANNOT_BEGIN;
}
