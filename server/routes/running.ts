import { statfs } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import express, { type Request, type Router } from 'express';
import type pg from 'pg';
import { problemOf } from '../services/faults';
import type { Metrics } from '../services/metrics';
import { clockDifferenceMs, ping } from '../sql/database';
import { unknownMigrations } from '../sql/migrate';
import { cameByProxy, isLoopback } from './door';

/** Uploads and answers need some room, bytes. */
const LEAST_DISK = 100 * 1024 * 1024;
/** Runs end by the database’s clock; one of this machine that differs by more is set wrong, ms. */
const MOST_DIFFERENCE_MS = 2000;
/** Whoever asks whether it is ready waits no longer, ms. */
const READY_WITHIN_MS = 3000;

/**
 * For those who look after the server: `/healthz` (the process answers),
 * `/readyz` (it can work), `/metrics` (to this machine alone).
 */
export function runningRoutes(pool: pg.Pool, metrics: Metrics, migrations: string[]): Router {
  const router = express.Router();
  router.get('/healthz', (_request, response) => {
    response.set('cache-control', 'no-store').json({ ok: true });
  });
  router.get('/readyz', async (_request, response) => {
    const why = await Promise.race([
      whatIsMissing(pool, migrations),
      new Promise<string>((resolve) =>
        setTimeout(() => resolve('The database does not answer.'), READY_WITHIN_MS).unref(),
      ),
    ]);
    response
      .status(why === null ? 200 : 503)
      .set('cache-control', 'no-store')
      .json(why === null ? { ready: true } : { ready: false, why });
  });
  router.get('/metrics', async (request, response) => {
    if (!isOwnMachine(request)) return void response.status(404).end();
    response
      .set('cache-control', 'no-store')
      .type(metrics.type)
      .send(await metrics.text());
  });
  return router;
}

/** Why it cannot work now; null where it can. */
async function whatIsMissing(pool: pg.Pool, migrations: string[]): Promise<string | null> {
  try {
    await ping(pool);
    const unknown = await unknownMigrations(pool, migrations);
    if (unknown.length > 0) return 'The database belongs to a newer version of Pace Check.';
    const differenceMs = await clockDifferenceMs(pool);
    if (Math.abs(differenceMs) > MOST_DIFFERENCE_MS)
      return `The clock of this machine and the database’s differ by ${(Math.abs(differenceMs) / 1000).toFixed(0)} s: set them.`;
    const { bavail, bsize } = await statfs(tmpdir());
    return bavail * bsize < LEAST_DISK ? 'The server’s disk is nearly full.' : null;
  } catch (error) {
    return problemOf(error)?.message ?? 'Status unknown.';
  }
}

/** Whoever asks does so from this machine, and for nobody else: a proxy gives itself away by what it adds. */
const isOwnMachine = ({ socket, headers }: Request): boolean =>
  isLoopback((socket.remoteAddress ?? '').replace(/^::ffff:/, '')) && !cameByProxy(headers);
