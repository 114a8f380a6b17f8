import { randomUUID } from 'node:crypto';
import { importPath, startHarness, type Harness } from './testing/harness';

/** One odd number, whoever typed it, takes no page down: not one that comes in, and not one that is stored from before. */
let harness: Harness;
const runs: string[] = [];
let review: string;
let comparison: string;

const send = (method: string, path: string, body?: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, body === undefined ? undefined : JSON.stringify(body), {
    'content-type': 'application/json',
  });
const log = (seed: number): string =>
  ['frame_time_ms', ...Array.from({ length: 3000 }, (_, n) => 16 + ((n * seed) % 7) / 10)].join('\n');

beforeAll(async () => {
  harness = await startHarness();
  for (const seed of [3, 4, 5, 6])
    runs.push(
      (await harness.request('POST', importPath({ name: `Run ${seed}` }), log(seed))).body.id as string,
    );
  comparison = randomUUID();
  await send('POST', '/comparisons', {
    id: comparison,
    kind: 'pair',
    sides: [{ runs: [runs[0]] }, { runs: [runs[1]] }],
  });
  review = randomUUID();
  await send('POST', '/reviews', { id: review, name: 'Odd', template: 'full review', runs });
});
afterAll(() => harness.close());

/** Every page that reads what the library holds, asked as its screen does. */
async function everyPage(): Promise<Record<string, number>> {
  const pages = [
    '/runs',
    '/runs?sort=pace',
    '/runs?sort=warmth',
    ...runs.flatMap((run) => [`/runs/${run}`, `/runs/${run}/file`, `/runs/${run}/standing?scope=title`]),
    '/spread',
    '/comparisons',
    `/comparisons/${comparison}`,
    '/reviews',
    `/reviews/${review}`,
    '/ladders',
    '/choices',
    '/synthetic',
    '/outcomes',
    '/kit',
    '/cards',
    '/requests',
    '/bench',
    '/settings',
    '/unreadable',
  ];
  const bad: Record<string, number> = {};
  for (const page of pages) {
    const { status } = await harness.request('GET', page);
    if (status !== 200) bad[page] = status;
  }
  const { revision } = (await harness.request('GET', `/reviews/${review}`)).body as { revision: number };
  const published = await send('POST', `/reviews/${review}/publications`, { id: randomUUID(), revision });
  if (published.status !== 201) bad['publishing'] = published.status;
  const made = await send('POST', '/comparisons', {
    id: randomUUID(),
    kind: 'field',
    sides: runs.map((run) => ({ runs: [run] })),
  });
  if (made.status >= 300) bad['a new comparison'] = made.status;
  return bad;
}

const EXTREMES = [5e-324, -5e-324, 1e-7, 0, 80, -60, 1000, 1e9, 1.7e308];
const skin = (c: number): object => ({ type: 'skin', atMs: 1000, spot: 'back', c, by: 'infrared' });

it('all pages open before anything odd is there', async () => expect(await everyPage()).toEqual({}));

it('what a field takes is stored as it can be computed with, and every page opens', async () => {
  let taken = 0;
  for (const value of EXTREMES) {
    for (const change of [{ roomC: value }, { target: value }, { refresh: value }]) {
      const { status } = await send('PATCH', `/runs/${runs[0]}`, change);
      expect([200, 400]).toContain(status);
      if (status === 200) taken++;
    }
    for (const line of [
      skin(value),
      { type: 'power', atMs: 1000, mw: value },
      { type: 'rate', atMs: 1000, fps: value, by: 'overlay' },
      { type: 'load', atMs: 1000, cpu: value, gpu: value, memoryMb: value },
      { type: 'battery', atMs: 1000, percent: value },
      { type: 'chip', atMs: 1000, c: value, part: 'cpu' },
    ]) {
      const { status } = await send('POST', `/runs/${runs[1]}/entries`, { entries: [line] });
      expect([200, 201, 400]).toContain(status);
      if (status < 300) taken++;
    }
    expect(await everyPage()).toEqual({});
  }
  expect(taken).toBeGreaterThan(30);
  const { rows } = await harness.pool.query<{ odd: number }>(
    'select count(*)::int as odd from run where abs(room_c) > 0 and abs(room_c) < 1e-6',
  );
  expect(rows[0]!.odd).toBe(0);
});

it.each([5e-324, 1.7e308, -1.7e308])(
  'what was stored before numbers were bounded breaks no page: %s',
  async (value) => {
    await harness.pool.query('update run set room_c = $1 where id = any($2)', [value, runs]);
    // readings that were stored as they came; figures are computed from them when a page is opened
    for (const run of runs) await send('POST', `/runs/${run}/entries`, { entries: [skin(36.5)] });
    await harness.pool.query(
      "update entry set line = jsonb_set(line, '{c}', to_jsonb($1::float8)) where type = 'skin' and run_id = any($2)",
      [value, runs],
    );
    await harness.pool.query('delete from analysis');
    for (const run of runs) expect((await harness.request('GET', `/runs/${run}`)).status).toBe(200);
    expect(await everyPage()).toEqual({});
    await harness.pool.query('update run set room_c = 18 where id = any($1)', [runs]);
  },
);
