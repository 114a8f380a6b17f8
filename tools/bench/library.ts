import { randomUUID } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import { request } from 'node:http';
import type pg from 'pg';
import type { Figure, Target } from './attack';
import { quantile, RatingDraws, turningPoints, USUAL_WEIGHTS } from '@pace-check/core';

/** Runs of the library that is measured. */
const RUNS = 5000;
const DEVICES = 40;
const TITLES = 60;
const LOOKS = 60;
const AT_ONCE = 20;

/**
 * Fills a library with runs like the demo's one, under other names, and
 * measures the list (its pages, twenty screens at once, a search and filters) and what compares runs of it.
 */
export async function measureLibrary(target: Target, say: (measured: Figure) => void): Promise<void> {
  const { address, database } = target;
  await fill(address, database);
  await database.query('analyze');
  const first = await ask(`${address}/api/runs`);
  say({ what: `runs in the library`, figure: RUNS.toLocaleString('en-GB') });
  say({
    what: 'the first answer of the list',
    figure: `${kb(first.bytes)} packed, ${kb(gunzipSync(first.body).length)} unpacked (aim: at most 60 kB packed)`,
  });
  const pages: number[] = [];
  for (let i = 0, after = ''; i < LOOKS; i++) {
    const page = await ask(`${address}/api/runs${after}`);
    pages.push(page.ms);
    const runs = JSON.parse(gunzipSync(page.body).toString()) as { id: string }[];
    after = `?after=${runs.at(-1)!.id}`;
  }
  say({ what: '  a page of it, one after the other, 95 %', figure: `${p95(pages)} (aim: at most 100 ms)` });
  const started = performance.now();
  await Promise.all(Array.from({ length: AT_ONCE }, () => ask(`${address}/api/runs`)));
  say({
    what: `  ${AT_ONCE} at once, all answered`,
    figure: `${(performance.now() - started).toFixed(0)} ms (aim: at most 1 s)`,
  });
  for (const [what, query] of [
    ['a search that finds some', 'q=title+7+device+12'],
    ['a search that finds none', 'q=nowhere'],
    ['a device', 'device=Device+3'],
    ['a word of stamina', 'stamina=fades'],
    ['sorted by pace', 'sort=pace'],
    ['sorted by name', 'sort=name'],
  ] as const) {
    const looks: number[] = [];
    for (let i = 0; i < LOOKS / 3; i++) looks.push((await ask(`${address}/api/runs?${query}`)).ms);
    say({ what: `  ${what}, 95 %`, figure: `${p95(looks)} (aim: at most 150 ms)` });
  }
  await measureComparing(target, say);
}

/** Devices of the widest comparison, and titles of the longest. */
const WIDE = 12;
const LONG = 30;

/** A field and a matrix as wide as they may be, a run among the others, and the spread of the whole library. */
async function measureComparing(
  { address, database }: Target,
  say: (measured: Figure) => void,
): Promise<void> {
  const { rows } = await database.query<{ id: string; device: string; title: string }>(
    'select distinct on (device.id, title.id) run.id, device.name as device, title.name as title from run join device on device.id = device_id join title on title.id = title_id where run.deleted_at is null order by device.id, title.id, run.id',
  );
  const most = <T>(values: T[], count: number): T[] => [...new Set(values)].slice(0, count);
  const devices = most(
    rows.filter(({ title }) => title === 'Title 0').map(({ device }) => device),
    WIDE,
  );
  const titles = most(
    rows.filter(({ device }) => devices.includes(device)).map(({ title }) => title),
    LONG,
  );
  const field = devices.map((device) => ({
    runs: rows.filter((run) => run.device === device && run.title === 'Title 0').map(({ id }) => id),
  }));
  const matrix = devices.map((device) => ({
    runs: rows.filter((run) => run.device === device && titles.includes(run.title)).map(({ id }) => id),
  }));
  for (const [what, kind, sides] of [
    [`a field of ${field.length} devices`, 'field', field],
    [
      `a matrix of ${titles.length} titles on ${matrix.length} devices, ${matrix.reduce((sum, side) => sum + side.runs.length, 0)} runs`,
      'matrix',
      matrix,
    ],
  ] as const) {
    const id = randomUUID();
    const response = await fetch(`${address}/api/comparisons`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id, kind, sides }),
    });
    if (!response.ok) throw new Error(await response.text());
    const looks: number[] = [];
    let bytes = 0;
    for (let i = 0; i < LOOKS / 3; i++) {
      const answer = await ask(`${address}/api/comparisons/${id}`);
      looks.push(answer.ms);
      ({ bytes } = answer);
    }
    say({ what: `  ${what}, 95 %`, figure: `${p95(looks)}, ${kb(bytes)} packed (aim: at most 1 s)` });
  }
  for (const [what, path] of [
    ['where a run stands among its title', `runs/${rows[0]!.id}/standing?scope=title`],
    ['the spread of the library', 'spread'],
  ] as const) {
    const looks: number[] = [];
    for (let i = 0; i < LOOKS / 3; i++) looks.push((await ask(`${address}/api/${path}`)).ms);
    say({ what: `  ${what}, 95 %`, figure: p95(looks) });
  }
  measureRating(say);
}

/** Draws are made once; what follows the finger is read from them. */
function measureRating(say: (measured: Figure) => void): void {
  const rated = Array.from({ length: WIDE }, (_, i) => ({
    name: String(i),
    parts: { pace: 90 - i, evenness: 50 + i, stamina: 70, warmth: i === 3 ? null : 40 + 2 * i, drain: 60 },
    sd: { pace: 3, evenness: 2, stamina: 3, warmth: 5, drain: 2 },
  }));
  const started = performance.now();
  const draws = new RatingDraws(WIDE, rated);
  const made = performance.now() - started;
  const moves: number[] = [];
  for (let i = 0; i < LOOKS; i++) {
    const weights = { ...USUAL_WEIGHTS, pace: 1 + i };
    const moved = performance.now();
    draws.places(weights);
    turningPoints(rated, weights);
    moves.push(performance.now() - moved);
  }
  say({
    what: `  a weight moved, ${WIDE} devices and 10,000 draws (made once in ${made.toFixed(0)} ms), 95 %`,
    figure: `${p95(moves)} (aim: at most 50 ms)`,
  });
}

/** One run through the front door, with figures; the others are copies of it with a pace and a name of their own. */
async function fill(address: string, database: pg.Client): Promise<void> {
  const minutes = Array.from({ length: 31 }, (_, i) => i);
  const response = await fetch(`${address}/api/runs`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      name: null,
      facts: { device: 'Device 0', title: 'Title 0', setup: 'Highest', target: 60, refresh: 120, roomC: 22 },
      entries: minutes.flatMap((i) => [
        { type: 'rate', atMs: i * 60_000, fps: 58 - i / 2, by: 'overlay' },
        { type: 'skin', atMs: i * 60_000, spot: 'back by the camera', c: 30 + i / 3, by: 'infrared' },
        { type: 'battery', atMs: i * 60_000, percent: 90 - i },
      ]),
    }),
  });
  if (!response.ok) throw new Error(await response.text());
  const { id } = (await response.json()) as { id: string };
  for (const [table, count] of [
    ['device', DEVICES],
    ['title', TITLES],
  ] as const)
    await database.query(
      `insert into ${table} (name) select initcap('${table}') || ' ' || i from generate_series(1, $1 - 1) i`,
      [count],
    );
  await database.query(
    `with columns as (select * from run where id = $1),
       made as (
         insert into run (name, device_id, title_id, target_fps, refresh_hz, room_c, started_at, imported_at, rows_total, rows_dropped, dropped_list, passed_over, cut_off)
         select title.name || ' on ' || device.name, device.id, title.id, target_fps, refresh_hz, room_c, now() - make_interval(mins => 37 * i), now(), 0, 0, '[]', 0, false
         from generate_series(1, $2) i, columns, device, title
         where device.name = 'Device ' || i % $3 and title.name = 'Title ' || (i / $3) % $4
         returning id, revision, started_at
       )
     insert into analysis (run_id, method_version, revision, figures, summary, series, comparing)
     select made.id, method_version, made.revision, figures,
       jsonb_set(summary, '{headline,pace,average}', to_jsonb(30 + (extract(epoch from started_at)::int / 60) % 30)), series,
       jsonb_set(comparing, '{values,average,value}', to_jsonb(30 + (extract(epoch from started_at)::int / 60) % 30))
     from made, analysis where run_id = $1`,
    [id, RUNS - 1, DEVICES, TITLES],
  );
}

interface Answer {
  ms: number;
  bytes: number;
  body: Buffer;
}

/** An answer as a browser gets it: packed. */
function ask(address: string): Promise<Answer> {
  const started = performance.now();
  return new Promise((resolve, reject) => {
    request(address, { headers: { 'accept-encoding': 'gzip' } }, (response) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('end', () => {
        const body = Buffer.concat(parts);
        if (response.statusCode === 200)
          resolve({ ms: performance.now() - started, bytes: body.length, body });
        else reject(new Error(`${response.statusCode}: ${body.toString('utf8', 0, 500)}`));
      });
    })
      .on('error', reject)
      .end();
  });
}

const p95 = (all: number[]): string => `${quantile(Float64Array.from(all).sort(), 0.95)!.toFixed(0)} ms`;
const kb = (bytes: number): string => `${(bytes / 1000).toFixed(0)} kB`;
