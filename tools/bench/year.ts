import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type pg from 'pg';
import { USUAL_RULES } from '@pace-check/contract';
import { SeededRandom } from '@pace-check/core';
import { SERVER_DIST } from '../paths';
import { startServer } from '../serve';
import type { Figure, Target } from './attack';
import { percentile95, processorS } from './liveLoad';

/** A year of a busy house. */
const RUNS = 5000;
const FRAMES = 60_000;
const READINGS = 300;
const CARDS = 2000;
const LOOKS = 200;
/** Another run's figures are looked at so often while all are computed anew, ms. */
const LOOK_EVERY_MS = 150;
/** So much of computing anew is watched, s; the rest is reckoned from it. */
const WATCH_S = 60;

type Say = (figure: Figure) => void;

/**
 * A year of data: how large it is, how long a backup of it and its way back
 * take, and how pages do while all figures are computed for a new version of
 * the method.
 */
export async function measureYear({ address, database, url }: Target, say: Say): Promise<void> {
  await fill(address, database);
  await database.query('vacuum analyze');
  await sizes(database, say);
  await plans(database, say);
  await recomputing(database, url, say);
  await backupAndBack(url, say);
}

/** One run through the front door; the others are copies of it, with its frames and lines under ids of their own. */
async function fill(address: string, database: pg.Client): Promise<void> {
  const random = new SeededRandom(17);
  let clockUs = 0;
  const lines = [
    { type: 'run', version: 1, device: 'Brask Slate 11', title: 'Skiff 120', target: 60, refresh: 120 },
    ...Array.from({ length: FRAMES / 600 }, () => {
      const us = Array.from({ length: 600 }, () => Math.round(16_667 + 900 * random.normal()));
      const atMs = clockUs / 1000;
      for (const one of us) clockUs += one;
      return { type: 'frames', atMs, us };
    }),
    ...Array.from({ length: READINGS }, (_, i) => ({
      type: 'skin',
      atMs: i * 3000,
      spot: 'back',
      c: Math.round(300 + i / 4 + 3 * random.normal()) / 10,
      by: 'probe',
    })),
  ];
  const details = {
    fileName: 'run.ndjson',
    name: null,
    facts: { device: 'Brask Slate 11', title: 'Skiff 120', setup: null, target: 60, refresh: 120 },
    reading: null,
    again: false,
  };
  const response = await fetch(
    `${address}/api/imports?details=${encodeURIComponent(JSON.stringify(details))}`,
    {
      method: 'POST',
      headers: { 'x-pace-check-upload': '1' },
      body: lines.map((line) => JSON.stringify(line)).join('\n'),
    },
  );
  if (!response.ok) throw new Error(await response.text());
  const { id } = (await response.json()) as { id: string };
  await database.query(
    `insert into device (name) select 'Device ' || i from generate_series(1, 40) i;
     insert into title (name) select 'Title ' || i from generate_series(1, 60) i`,
  );
  await database.query(
    `create table copy as select gen_random_uuid() as id, i from generate_series(1, ${RUNS - 1}) i`,
  );
  await database.query(
    `insert into run (id, name, device_id, title_id, target_fps, refresh_hz, started_at, imported_at, rows_total, rows_dropped, dropped_list, passed_over, cut_off)
     select copy.id, title.name || ' on ' || device.name, device.id, title.id, target_fps, refresh_hz, now() - make_interval(mins => 37 * i), now(), ${FRAMES}, 0, '[]', 0, false
     from copy, run, device, title where run.id = $1 and device.name = 'Device ' || (1 + i % 40) and title.name = 'Title ' || (1 + (i / 40) % 60)`,
    [id],
  );
  await database.query(
    'insert into frame_chunk (run_id, seq, frames, packed, gaps) select copy.id, seq, frames, packed, gaps from copy, frame_chunk where run_id = $1',
    [id],
  );
  await database.query(
    'insert into entry (run_id, seq, type, at_ms, line) select copy.id, seq, type, at_ms, line from copy, entry where run_id = $1',
    [id],
  );
  await database.query(
    'insert into analysis (run_id, method_version, revision, figures, summary, series, comparing) select copy.id, method_version, 0, figures, summary, series, comparing from copy, analysis where run_id = $1',
    [id],
  );
  await database.query('drop table copy');
  const card = await fetch(`${address}/api/cards`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      name: 'A day',
      policy: 'highest',
      template: false,
      rules: USUAL_RULES,
      steps: [],
      day: {
        date: '2026-05-16',
        startMin: 540,
        finishByMin: null,
        hands: 1,
        parallel: true,
        order: 'light-to-heavy',
        roomC: 18,
        devices: [],
      },
    }),
  });
  if (!card.ok) throw new Error(await card.text());
  const { id: cardId } = (await card.json()) as { id: string };
  await database.query(
    `insert into card (name, policy, template, rules, day, revision) select name || ' ' || i, policy, template, rules, day, revision from card, generate_series(2, ${CARDS}) i where id = $1`,
    [cardId],
  );
}

async function sizes(database: pg.Client, say: Say): Promise<void> {
  const { rows } = await database.query<{ frames: string; bytes: string; largest: string }>(
    `select (select sum(frames) from frame_chunk)::text as frames, pg_database_size(current_database())::text as bytes,
       (select string_agg(part || ' ' || pg_size_pretty(size), ', ' order by size desc) from (select root::text as part, sum(pg_total_relation_size(relid)) as size
          from (select c.oid as root_oid, c.oid::regclass as root, p.relid from pg_class c, lateral pg_partition_tree(c.oid) p where c.relkind in ('r', 'p') and not c.relispartition and c.relnamespace = 'public'::regnamespace) as parts
          group by root order by size desc limit 3) as tables) as largest`,
  );
  const { frames, bytes, largest } = rows[0]!;
  say({
    what: `a year: ${RUNS.toLocaleString('en-GB')} runs, ${CARDS.toLocaleString('en-GB')} cards`,
    figure: `${Number(frames).toLocaleString('en-GB')} frames, ${gb(Number(bytes))} (${largest})`,
  });
}

/** What a run's page reads: each must find its rows in one part, by an index. */
async function plans(database: pg.Client, say: Say): Promise<void> {
  const { rows } = await database.query<{ id: string }>('select id from run limit 1');
  for (const table of ['frame_chunk', 'entry', 'source_batch']) {
    const plan = (
      await database.query<Record<string, string>>(
        `explain (costs off) select * from ${table} where run_id = '${rows[0]!.id}'`,
      )
    ).rows.map((row) => row['QUERY PLAN']!);
    say({
      what: `  a run’s rows of ${table}`,
      figure: plan[0]!.trim(),
    });
  }
}

/** All figures are of before: pages meanwhile, and how long it takes. */
async function recomputing(database: pg.Client, url: string, say: Say): Promise<void> {
  const server = await startServer({ DATABASE_URL: url, PORT: '0' });
  try {
    const { rows } = await database.query<{ id: string }>('select id from run order by id limit 50');
    // pages are measured by runs that are up to date: the others wait for their own figures
    const pages = async (ms: number): Promise<number[]> => {
      const times: number[] = [];
      for (const end = performance.now() + ms; performance.now() < end && times.length < LOOKS * 4;) {
        const path = ['runs', `runs/${rows[times.length % rows.length]!.id}`, 'cards', 'kit'][
          times.length % 4
        ]!;
        const started = performance.now();
        await (await fetch(`${server.address}/api/${path}`)).arrayBuffer();
        times.push(performance.now() - started);
        await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
      }
      return times;
    };
    const quiet = await pages((WATCH_S / 2) * 1000);
    await database.query('update analysis set method_version = 0 where not run_id = any($1)', [
      rows.map(({ id }) => id),
    ]);
    await server.stop();
    const anew = await startServer({ DATABASE_URL: url, PORT: '0' });
    try {
      server.address = anew.address;
      const left = async (): Promise<number> =>
        ((await (await fetch(`${anew.address}/api/figures`)).json()) as { stale: number }).stale;
      while ((await left()) > RUNS - 60);
      const before = await left();
      const began = performance.now();
      const ticks = await processorS([anew.pid]);
      const busy = await pages(WATCH_S * 1000);
      const seconds = (performance.now() - began) / 1000;
      const done = before - (await left());
      say({
        what: '  pages while nothing else is done, and while all is computed anew, 95 %',
        figure: `${percentile95(quiet).toFixed(0)} ms, ${percentile95(busy).toFixed(0)} ms (aim: at most 200 ms)`,
      });
      say({
        what: '  computed anew',
        figure: `${(done / seconds).toFixed(1)} runs a second, all in ${(RUNS / (done / seconds) / 60).toFixed(1)} min, with ${((((await processorS([anew.pid])) - ticks) / seconds) * 100).toFixed(0)} % of a core`,
      });
    } finally {
      await anew.stop();
    }
  } finally {
    if (!(await Promise.race([server.ended.then(() => true), Promise.resolve(false)]))) await server.stop();
  }
}

async function backupAndBack(url: string, say: Say): Promise<void> {
  const file = join(tmpdir(), `pace-check-year-${randomUUID()}.tar`);
  const other = new URL(url);
  other.pathname = `/back_${randomUUID().replaceAll('-', '').slice(0, 8)}`;
  try {
    const backup = await administered(url, ['backup', file]);
    say({
      what: '  a backup of it',
      figure: `${backup.seconds.toFixed(0)} s (aim: at most 300 s), ${mb(backup.peak)} of memory (aim: at most 300 MB), a file of ${gb((await stat(file)).size)}`,
    });
    const back = await administered(other.href, ['restore', file]);
    say({
      what: '  its way back',
      figure: `${back.seconds.toFixed(0)} s (aim: at most 600 s), ${mb(back.peak)} of memory`,
    });
  } finally {
    await rm(file, { force: true });
  }
}

/** Runs a task of the server’s, and watches its memory and that of PostgreSQL's program under it. */
async function administered(url: string, task: string[]): Promise<{ seconds: number; peak: number }> {
  const started = performance.now();
  const child = spawn(process.execPath, [join(SERVER_DIST, 'administer.mjs'), ...task], {
    env: { ...process.env, DATABASE_URL: url },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  let peak = 0;
  const watch = setInterval(
    () =>
      void readFile(`/proc/${child.pid}/status`, 'utf8').then(
        (status) => (peak = Math.max(peak, Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) * 1024)),
        () => undefined,
      ),
    200,
  );
  const [code] = (await once(child, 'close')) as [number];
  clearInterval(watch);
  if (code !== 0) throw new Error(`${task[0]} ended with status ${code}`);
  return { seconds: (performance.now() - started) / 1000, peak };
}

const mb = (bytes: number): string => `${(bytes / 1e6).toFixed(0)} MB`;
const gb = (bytes: number): string => `${(bytes / 1e9).toFixed(2)} GB`;
