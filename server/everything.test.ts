import { createHash, randomUUID } from 'node:crypto';
import { mkdtemp, readFile, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Brought, EverythingManifest } from '@pace-check/contract';
import { unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { slowClient } from './sql/backup';
import { readRows, TRAVELLING } from './sql/everything';
import { addressOf } from './services/everything';
import { importPath, opening, startHarness, type Harness } from './testing/harness';

/** Everything of one Pace Check, brought into others. */
let one: Harness;
let zip: Uint8Array<ArrayBuffer>;
let folder: string;
const others: Harness[] = [];

const json = { 'content-type': 'application/json' };
const send = (
  harness: Harness,
  method: string,
  path: string,
  body?: unknown,
): ReturnType<Harness['request']> =>
  harness.request(method, path, body === undefined ? undefined : JSON.stringify(body), json);
/** No page of another site can send it. */
const OWN = { 'x-pace-check-upload': '1' };
const log = (seed: number): string =>
  ['frame_time_ms', ...Array.from({ length: 40_000 }, (_, n) => 16 + ((n * seed) % 7) / 10)].join('\n');
/** With a pause that is shorter than a logger's inaccuracy, and a longer one. */
const GAPS = [
  { type: 'run', version: 1, device: 'Brask Slate 11', title: 'Skiff 120', target: 120, refresh: 120 },
  { type: 'frames', atMs: 0, us: Array<number>(900).fill(8333) },
  { type: 'frames', atMs: 9000, us: Array<number>(900).fill(8334) },
  { type: 'span', fromMs: 1000, toMs: 2000, kind: 'menu' },
  { type: 'skin', atMs: 3000, spot: 'back', c: 33.4, by: 'camera' },
]
  .map((line) => JSON.stringify(line))
  .join('\n');

const drawn = (width: number, height: number): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background: '#884422' } })
    .jpeg()
    .toBuffer();

async function other(): Promise<Harness> {
  const harness = await startHarness();
  others.push(harness);
  return harness;
}
async function everythingOf(harness: Harness): Promise<Uint8Array<ArrayBuffer>> {
  const answer = await fetch(`${harness.address}/api/everything`, { headers: OWN });
  expect(answer.status).toBe(200);
  return new Uint8Array(await answer.arrayBuffer());
}
const bring = (harness: Harness, bytes: BodyInit): Promise<{ status: number; body: Brought }> =>
  harness.request('POST', '/everything', bytes, {
    'content-type': 'application/zip',
    'x-pace-check-upload': '1',
  });
const kinds = ({ kinds: all }: Brought): Record<string, [number, number, number]> =>
  Object.fromEntries(all.map(({ what, added, there, differ }) => [what, [added, there, differ]]));

/** Every row that travels, by its table; columns that stay behind are left out. */
async function allRows(harness: Harness): Promise<Record<string, string[]>> {
  const client = await slowClient(addressOf(harness.pool));
  await client.query('begin');
  const all: Record<string, string[]> = {};
  for (const travelling of TRAVELLING) {
    all[travelling.table] = [];
    for await (const rows of readRows(client, travelling))
      all[travelling.table]!.push(...rows.map((row) => JSON.stringify(row)));
  }
  all['frame_chunk, whole'] = (
    await client.query<{ row: string }>('select t::text as row from frame_chunk t order by 1')
  ).rows.map(({ row }) => row);
  await client.end();
  return all;
}
/** Every run with its figures, as a screen has it. */
async function allRuns(harness: Harness): Promise<unknown[]> {
  const { rows } = await harness.pool.query<{ id: string }>(
    'select id from run where deleted_at is null order by id',
  );
  const runs = [];
  for (const { id } of rows) runs.push((await harness.request('GET', `/runs/${id}`)).body);
  return runs;
}

beforeAll(async () => {
  one = await startHarness();
  folder = await mkdtemp(join(tmpdir(), 'pace-check-everything-'));
  const runs: string[] = [];
  for (const seed of [3, 4])
    runs.push((await one.request('POST', importPath({ name: `Run ${seed}` }), log(seed))).body.id as string);
  const gaps = await one.request(
    'POST',
    importPath({
      fileName: 'gaps.ndjson',
      facts: { device: 'Brask Slate 11', title: 'Skiff 120', setup: null, target: 120, refresh: 120 },
    }),
    GAPS,
  );
  expect(gaps.status).toBe(201);
  runs.push(gaps.body.id as string);
  // a sitting of two titles, whose stretches are runs of their own
  const sitting = [
    { type: 'run', version: 1, device: 'Velm 5', title: 'Aurelune' },
    { type: 'title', atMs: 0, title: 'Aurelune' },
    { type: 'title', atMs: 60_000, title: 'Saltmarsh Drift' },
    ...Array.from({ length: 12 }, (_, i) => ({
      type: 'frames',
      atMs: i * 10_000,
      us: Array<number>(500).fill(20_000),
    })),
  ];
  await one.request(
    'POST',
    importPath({
      fileName: 'sitting.ndjson',
      facts: { device: 'Velm 5', title: 'Aurelune', setup: null, target: null, refresh: null },
    }),
    sitting.map((line) => JSON.stringify(line)).join('\n'),
  );
  await send(one, 'POST', `/runs/${runs[0]}/entries`, {
    entries: [{ type: 'skin', atMs: 1000, spot: 'back', c: 35, by: 'camera' }],
  });
  await send(one, 'POST', '/kit/accessory', { name: 'Clip fan', facts: {} });
  await send(one, 'POST', '/comparisons', {
    id: randomUUID(),
    kind: 'pair',
    sides: [{ runs: [runs[0]] }, { runs: [runs[1]] }],
  });
  expect(
    (await send(one, 'POST', '/reviews', { id: randomUUID(), name: 'Velm 5', template: 'full review', runs }))
      .status,
  ).toBe(201);
  // one that is recorded, with a source, and one that was deleted
  const recorded = randomUUID();
  await send(one, 'POST', `/bench/${recorded}/changes`, { changes: [opening()] });
  await send(one, 'POST', `/bench/${recorded}/changes`, {
    changes: [{ id: randomUUID(), kind: 'start', at: Date.now() - 60_000 }],
  });
  const { key } = (await send(one, 'POST', `/bench/${recorded}/sources`, { name: 'logger', kind: 'handset' }))
    .body;
  await one.request('POST', '/live?seq=0', GAPS.split('\n').slice(1).join('\n'), {
    authorization: `Bearer ${key}`,
  });
  await send(one, 'POST', `/bench/${recorded}/changes`, {
    changes: [
      { id: randomUUID(), kind: 'end', entry: randomUUID(), atMs: 30_000, reason: 'stopped', writer: 'me' },
    ],
  });
  while (!(await send(one, 'GET', `/bench/${recorded}`)).body.recording.settled);
  const gone = (await one.request('POST', importPath({ name: 'gone' }), log(9))).body.id as string;
  await one.request('DELETE', `/runs/${gone}`);
  await one.pool.query(
    "insert into picture (id, run_id, entry_id, width, height, note, jpeg, small) select gen_random_uuid(), run_id, id, 40, 30, 'shown', $2, $2 from entry where run_id = $1 and type = 'skin'",
    [runs[0], await drawn(40, 30)],
  );
  await allRuns(one);
  zip = await everythingOf(one);
});
afterAll(async () => {
  await Promise.all([one, ...others].map((harness) => harness.close()));
  await rm(folder, { recursive: true, force: true });
});

describe('everything', () => {
  it('is open files with a manifest that names each', () => {
    const files = unzipSync(zip);
    const manifest = JSON.parse(Buffer.from(files['manifest.json']!).toString()) as EverythingManifest;
    expect(manifest.files.map(({ name }) => name).sort()).toEqual(
      Object.keys(files)
        .filter((name) => name !== 'manifest.json')
        .sort(),
    );
    const runs = Object.keys(files).filter((name) => name.startsWith('runs/'));
    // the stretches of the sitting stand in the sitting's file
    expect(runs).toHaveLength(6);
    for (const run of runs)
      expect(Buffer.from(files[run]!).toString().split('\n')[0]).toMatch(/^\{"type":"run","version":1/);
    // no key, hash or session goes along
    expect(Object.keys(files).filter((name) => /session|passcode|tries|join/.test(name))).toEqual([]);
    expect(Buffer.from(files['records/source.ndjson']!).toString()).not.toContain('sha256');
  });
  it('brought into an empty one gives every row and every figure', async () => {
    const two = await other();
    const brought = await bring(two, zip);
    expect(brought.status).toBe(200);
    expect(kinds(brought.body)).toMatchObject({
      runs: [8, 0, 0],
      devices: [2, 0, 0],
      reviews: [1, 0, 0],
      pictures: [1, 0, 0],
    });
    expect(await allRows(two)).toEqual(await allRows(one));
    expect(await allRuns(two)).toEqual(await allRuns(one));
    expect((await two.request('GET', '/reviews')).body).toEqual((await one.request('GET', '/reviews')).body);
    // the same comes out of it again
    const again = unzipSync(await everythingOf(two));
    const before = unzipSync(zip);
    const sums = (files: Record<string, Uint8Array>): Record<string, string> =>
      Object.fromEntries(
        Object.entries(files).map(([name, bytes]) => [
          name,
          // pictures are drawn again on their way in
          name === 'manifest.json' || name.startsWith('evidence/')
            ? ''
            : createHash('sha256').update(bytes).digest('hex'),
        ]),
      );
    expect(sums(again)).toEqual(sums(before));
  });
  it('brought in twice adds nothing', async () => {
    const two = others[0]!;
    const rows = await allRows(two);
    const { body } = await bring(two, zip);
    for (const { added, there, differ } of body.kinds)
      expect([added, there > 0, differ]).toEqual([0, true, 0]);
    expect(await allRows(two)).toEqual(rows);
  });
  it('where half of it is there under other ids refers to what is there', async () => {
    const half = await other();
    // the same names, and the same log, came in here by themselves
    const { id } = (await half.request('POST', importPath({ name: 'Run 4' }), log(4))).body as { id: string };
    const brought = await bring(half, zip);
    expect(kinds(brought.body)).toMatchObject({ runs: [7, 1, 0], devices: [1, 1, 0] });
    const runs = (await allRuns(half)) as { id: string; device: string }[];
    expect(runs).toHaveLength(7);
    const names = (
      await half.pool.query('select count(distinct name)::int as names, count(*)::int as all from device')
    ).rows[0];
    expect(names).toEqual({ names: 2, all: 2 });
    const [comparison] = (await half.request('GET', '/comparisons')).body as { id: string }[];
    const shown = (await half.request('GET', `/comparisons/${comparison!.id}`)).body;
    expect(JSON.stringify(shown)).toContain(id);
  });
  it('leaves what is here as it is, and says that it differs', async () => {
    const two = others[0]!;
    const run = ((await allRuns(two)) as { id: string; name: string }[]).find(({ name }) => name === 'Run 3');
    await send(two, 'PATCH', `/runs/${run!.id}`, { name: 'Renamed here' });
    const { body } = await bring(two, zip);
    expect(kinds(body)['runs']).toEqual([0, 8, 1]);
    expect((await two.request('GET', `/runs/${run!.id}`)).body.name).toBe('Renamed here');
  });
});

it('nobody reads to its end lets go of the database', async () => {
  const busy = async (): Promise<number> =>
    (
      await one.pool.query(
        "select count(*)::int as count from pg_stat_activity where datname = current_database() and state like 'idle in transaction%'",
      )
    ).rows[0].count as number;
  const gone = new AbortController();
  const answer = await fetch(`${one.address}/api/everything`, { signal: gone.signal, headers: OWN });
  await answer.body!.getReader().read();
  gone.abort();
  while ((await busy()) > 0);
});

/** The zip with some of its files written anew, and a manifest that names them as they are. */
function zipWith(files: Record<string, Buffer>): Uint8Array<ArrayBuffer> {
  const all = unzipSync(zip);
  const told = JSON.parse(Buffer.from(all['manifest.json']!).toString()) as EverythingManifest;
  for (const [name, bytes] of Object.entries(files)) {
    all[name] = Uint8Array.from(bytes);
    const entry = { name, bytes: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') };
    told.files = [...told.files.filter((file) => file.name !== name), entry];
  }
  all['manifest.json'] = Buffer.from(JSON.stringify(told));
  return zipSync(all) as Uint8Array<ArrayBuffer>;
}
/** Rows of a table in it. */
const rowsOf = (table: string): Record<string, unknown>[] =>
  Buffer.from(unzipSync(zip)[`records/${table}.ndjson`] ?? [])
    .toString()
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Record<string, unknown>);
const asFile = (rows: unknown[]): Buffer =>
  Buffer.from(rows.map((row) => `${JSON.stringify(row)}\n`).join(''));
const ID = '00000000-0000-4000-8000-0000000000aa';
const now = new Date().toISOString();

describe('a record that is none', () => {
  const odd: [what: string, table: string, row: () => Record<string, unknown>, says: RegExp][] = [
    ...['ladder', 'choice', 'synthetic', 'review'].map(
      (table): [string, string, () => Record<string, unknown>, RegExp] => [
        `a ${table} without a word`,
        table,
        () => ({ id: ID, doc: {}, revision: 1, changed_at: now, deleted_at: null }),
        /doc\./,
      ],
    ),
    ['thresholds of x', 'setting', () => ({ key: 'bars', value: { reaction: 'x' } }), /value/],
    [
      'an outcome of no status',
      'outcome',
      () => ({
        id: ID,
        doc: { id: ID, device: 'A', title: 'B', status: 'so so' },
        noted_at: now,
        deleted_at: null,
      }),
      /doc\.status/,
    ],
    [
      'a cool-down of words',
      'cool_down',
      () => ({
        id: ID,
        device_id: rowsOf('device')[0]!['id'],
        spot: 'back',
        room_c: 18,
        started_at: now,
        readings: ['warm'],
        tau_s: null,
        ready_c: null,
        watched: true,
      }),
      /readings/,
    ],
    [
      'a recording of the year 2199',
      'recording',
      () => ({ ...rowsOf('recording')[0], started_ms: Date.UTC(2199, 0) }),
      /started_ms: lies in the future/,
    ],
    [
      'a run in a room of 5000 °C',
      'run',
      () => ({ ...rowsOf('run')[0], room_c: 5000 }),
      /room_c: at most 80/,
    ],
    [
      'a reading without its temperature',
      'entry',
      () => ({ ...rowsOf('entry').find((row) => row['type'] === 'skin'), line: { type: 'skin', atMs: 1 } }),
      /line/,
    ],
  ];
  it.each(odd)('is refused with its place, and nothing is stored: %s', async (_, table, row, says) => {
    const fresh = await other();
    const answer = await bring(fresh, zipWith({ [`records/${table}.ndjson`]: asFile([row()]) }));
    expect(answer).toMatchObject({ status: 422, body: { code: 'damaged' } });
    const { message } = answer.body as unknown as { message: string };
    expect(message).toContain(`Record 1 in “records/${table}.ndjson”`);
    expect(message).toMatch(says);
    expect((await fresh.pool.query('select 1 from device')).rowCount).toBe(0);
  });

  it('is a frame of −1 µs', async () => {
    const fresh = await other();
    const run = String(rowsOf('run').find((row) => row['sitting_id'] === null)!['id']);
    const lines = [
      { type: 'run', version: 1, id: run, device: 'Velm 5', title: 'Aurelune' },
      { type: 'frames', atMs: 0, us: [16_667, -1, 16_667] },
    ];
    const answer = await bring(fresh, zipWith({ [`runs/${run}.pace.ndjson`]: asFile(lines) }));
    expect(answer).toMatchObject({ status: 422, body: { code: 'damaged' } });
    expect((await fresh.pool.query('select 1 from run')).rowCount).toBe(0);
  });

  it('is a picture of a few bytes that would fill the memory, or of text', async () => {
    const picture = `evidence/${String(rowsOf('picture')[0]!['id'])}.jpg`;
    const fresh = await other();
    const huge = Buffer.alloc(41 * 1024 * 1024);
    for (const bytes of [huge, Buffer.from('no picture')])
      expect((await bring(fresh, zipWith({ [picture]: bytes }))).status).toBe(422);
    expect((await fresh.pool.query('select 1 from picture')).rowCount).toBe(0);
  });
});

describe('what comes in a second time', () => {
  it('brings revisions that were published since, shows none of them, and tells what was deleted here', async () => {
    const home = await other();
    await bring(home, zip);
    const [review] = (await home.request('GET', '/reviews')).body as { id: string }[];
    const publish = async (): Promise<void> => {
      const { revision } = (await home.request('GET', `/reviews/${review!.id}`)).body as { revision: number };
      const answer = await send(home, 'POST', `/reviews/${review!.id}/publications`, {
        id: randomUUID(),
        revision,
      });
      expect(answer.status).toBe(201);
    };
    await publish();
    await send(home, 'PUT', `/reviews/${review!.id}/shown`, { shown: true });
    expect((await fetch(`${home.address}/r/${review!.id}`)).status).toBe(200);
    const there = await other();
    await bring(there, await everythingOf(home));
    // published there, and shown to nobody here
    expect((await fetch(`${there.address}/r/${review!.id}`)).status).toBe(404);
    await publish();
    const run = ((await allRuns(there)) as { id: string; name: string }[]).find(
      ({ name }) => name === 'Run 3',
    )!;
    await there.request('DELETE', `/runs/${run.id}`);
    const { body } = await bring(there, await everythingOf(home));
    expect(kinds(body)['published revisions']).toEqual([1, 1, 0]);
    expect(body.deletedHere).toEqual([{ table: 'run', id: run.id, name: 'Run 3' }]);
    expect((await there.request('GET', `/reviews/${review!.id}`)).body.publications).toHaveLength(2);
    await send(there, 'POST', `/runs/${run.id}/restore`);
    expect((await bring(there, await everythingOf(home))).body.deletedHere).toEqual([]);
  });

  it('waits where somebody else brings in: three at once are one after the other', async () => {
    const busy = await other();
    const answers = await Promise.all([1, 2, 3].map(() => bring(busy, zip)));
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
    const added = answers.map(({ body }) => kinds(body)['runs']![0]).sort();
    expect(added).toEqual([0, 0, 8]);
  });
});

it('is asked for by the own page alone, or with a header', async () => {
  const from = async (headers: Record<string, string>): Promise<number> => {
    const answer = await fetch(`${one.address}/api/everything`, { headers });
    await answer.arrayBuffer();
    return answer.status;
  };
  expect(await from({})).toBe(403);
  expect(await from({ 'sec-fetch-site': 'cross-site' })).toBe(403);
  expect(await from({ 'sec-fetch-site': 'same-origin' })).toBe(200);
});

describe('what is not everything', () => {
  const changed = (how: (files: Record<string, Uint8Array>) => void): Uint8Array<ArrayBuffer> => {
    const files = unzipSync(zip);
    how(files);
    return zipSync(files) as Uint8Array<ArrayBuffer>;
  };
  const manifest = (how: (one: EverythingManifest) => object): Uint8Array<ArrayBuffer> =>
    changed((files) => {
      files['manifest.json'] = Buffer.from(
        JSON.stringify(
          how(JSON.parse(Buffer.from(files['manifest.json']!).toString()) as EverythingManifest),
        ),
      );
    });
  it.each<[string, () => BodyInit | Promise<BodyInit>, string]>([
    [
      'cut off',
      async () => {
        const path = join(folder, 'cut.zip');
        await writeFile(path, zip);
        await truncate(path, 3000);
        return readFile(path);
      },
      'no-archive',
    ],
    ['empty', () => '', 'no-archive'],
    ['a text', () => 'frame_time_ms\n16\n'.repeat(500), 'no-archive'],
    [
      'of another program',
      () => zipSync({ 'a.txt': Buffer.from('a') }) as Uint8Array<ArrayBuffer>,
      'no-archive',
    ],
    ['of a newer version', () => manifest((one) => ({ ...one, version: 2 })), 'newer'],
    [
      'of a newer database',
      () => manifest((one) => ({ ...one, migrations: [...one.migrations, '999_later.sql'] })),
      'newer',
    ],
    ['without a file', () => changed((files) => void delete files['records/run.ndjson']), 'damaged'],
    [
      'with a line changed',
      () => changed((files) => void (files['records/device.ndjson']![20]! ^= 1)),
      'damaged',
    ],
  ])('is refused: %s', async (_, make, code) => {
    const three = others[1]!;
    const rows = await allRows(three);
    expect(await bring(three, await make())).toMatchObject({ status: 422, body: { code } });
    expect(await allRows(three)).toEqual(rows);
  });
  it.each([
    ['that lacks what it needs', '{"id":"00000000-0000-4000-8000-000000000001"}'],
    ['that is no JSON', '{"id":'],
    ['with a column of its own', '{"id":"00000000-0000-4000-8000-000000000001","evil\\" text":1}'],
    ['with U+0000', '{"id":"00000000-0000-4000-8000-000000000001","name":"\\u0000"}'],
    ['of 130 MB without an end', ' '.repeat(130 * 1024 * 1024)],
  ])('is undone as a whole where it holds a record %s', async (_, line) => {
    const three = await other();
    const broken = changed((files) => {
      const cards = Buffer.from(`${line}\n`);
      files['records/card.ndjson'] = cards;
      const told = JSON.parse(Buffer.from(files['manifest.json']!).toString()) as EverythingManifest;
      Object.assign(
        told.files.find(({ name }) => name === 'records/card.ndjson')!,
        {
          bytes: cards.length,
          sha256: createHash('sha256').update(cards).digest('hex'),
        },
      );
      files['manifest.json'] = Buffer.from(JSON.stringify(told));
    });
    const rows = await allRows(three);
    expect((await bring(three, broken)).status).toBe(422);
    expect(await allRows(three)).toEqual(rows);
  });
});
