import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { USUAL_BENCH_PLAN, type ImportDetails } from '@pace-check/contract';
import type pg from 'pg';
import { migrationsIn } from '../sql/migrate';
import { AnalysisPool, createApp, LOOPBACK, openPool, PicturePool, type AppOptions } from '../index';
import { onServer } from './onServer';

/** A server with a database of its own, thrown away afterwards. */
export interface Harness {
  pool: pg.Pool;
  analyses: AnalysisPool;
  pictures: PicturePool;
  request: (
    method: string,
    path: string,
    body?: BodyInit,
    headers?: Record<string, string>,
  ) => Promise<{ status: number; body: any }>; // eslint-disable-line @typescript-eslint/no-explicit-any -- answers are examined field by field
  address: string;
  close: () => Promise<void>;
}

const SERVER = process.env['PACE_TEST_DATABASE']!;

export async function startHarness(options: Partial<AppOptions> = {}): Promise<Harness> {
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  await onServer(`create database ${name} template ${process.env['PACE_TEST_TEMPLATE']!}`);
  const url = new URL(SERVER);
  url.pathname = `/${name}`;
  const pool = openPool(url.href);
  // the worker thread runs the built bundle; the test command builds it first
  const analyses = new AnalysisPool(join(__dirname, '..', 'dist', 'analysis.worker.mjs'));
  const pictures = new PicturePool(join(__dirname, '..', 'dist', 'picture.worker.mjs'));
  const { app, close: closeApp } = createApp(pool, analyses, pictures, {
    webFolder: null,
    command: null,
    door: LOOPBACK,
    backups: null,
    migrations: await migrationsIn(join(__dirname, '..', 'migrations')),
    ...options,
  });
  const server: Server = app.listen(0, '127.0.0.1');
  // client and server share one thread here: a connection that rests while it is busy is not closed under a request
  server.keepAliveTimeout = 600_000;
  await once(server, 'listening');
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    pool,
    analyses,
    pictures,
    address,
    request: async (method, path, body, headers) => {
      // as the app sends it, unless a test says otherwise
      const usual: Record<string, string> = /^\/(imports|kit\/file)/.test(path)
        ? { 'x-pace-check-upload': '1' }
        : {};
      const response = await fetch(`${address}/api${path}`, {
        method,
        body,
        headers: { ...usual, ...headers },
      });
      const text = await response.text();
      return {
        status: response.status,
        body:
          text === ''
            ? null
            : response.headers.get('content-type')?.includes('application/json')
              ? JSON.parse(text)
              : text,
      };
    },
    close: async () => {
      await closeApp();
      server.close();
      server.closeAllConnections();
      await Promise.all([analyses.close(), pictures.close()]);
      await pool.end();
      await onServer(`drop database ${name} with (force)`);
    },
  };
}

/** What opens a recording, as the bench would ask for it. */
export const opening = (): object => ({
  id: randomUUID(),
  kind: 'open',
  facts: { device: 'Velm 5', title: 'Aurelune', setup: null, target: 60, refresh: 60 },
  preflight: {},
  plan: USUAL_BENCH_PLAN,
  speed: 1,
  step: null,
});

/** The path of an import with these details. */
export function importPath(details: Partial<ImportDetails> = {}): string {
  const whole: ImportDetails = {
    fileName: 'log.csv',
    name: null,
    facts: { device: 'Velm 5', title: 'Aurelune', setup: null, target: 60, refresh: null },
    reading: null,
    again: false,
    ...details,
  };
  return `/imports?details=${encodeURIComponent(JSON.stringify(whole))}`;
}

/** Counts of all rows that an import may leave. */
export async function rowCounts(pool: pg.Pool): Promise<Record<string, number>> {
  // the titles of a sitting follow it by themselves, a moment later
  const own = {
    run: 'where sitting_id is null',
    analysis: 'join run on run.id = run_id where sitting_id is null',
  };
  const tables = ['device', 'title', 'setup', 'run', 'frame_chunk', 'entry', 'analysis'] as const;
  const counts = tables.map(
    (table) =>
      `(select count(*)::int from ${table} ${table in own ? own[table as keyof typeof own] : ''}) as ${table}`,
  );
  return (await pool.query<Record<string, number>>(`select ${counts.join(', ')}`)).rows[0]!;
}
