import { METHOD_VERSION } from '@pace-check/core';
import { join } from 'node:path';
import { Recomputing } from './services/recomputing';
import { Runs } from './services/runs';
import { migrate } from './sql/migrate';
import { purgeDeleted } from './sql/runs';
import { importPath, rowCounts, startHarness, type Harness } from './testing/harness';

let harness: Harness;
let id: string;
/** 15 minutes at 60, then 5 at 30 frames per second. */
const LOG = `frame_time_ms\n${'16.667\n'.repeat(54_000)}${'33.333\n'.repeat(9000)}`;

beforeAll(async () => {
  harness = await startHarness();
  const { body } = await harness.request(
    'POST',
    importPath({
      facts: { device: 'Velm 5', title: 'Aurelune', setup: 'Highest', target: 60, refresh: null },
    }),
    LOG,
  );
  id = body.id;
});
afterAll(() => harness.close());

const patch = (correction: object): ReturnType<Harness['request']> =>
  harness.request('PATCH', `/runs/${id}`, JSON.stringify(correction), { 'content-type': 'application/json' });

describe('corrections', () => {
  it('rename a run and move it to other names, adding what is new', async () => {
    const { body } = await patch({ name: 'Crossing', device: 'Velm 4' });
    expect(body).toMatchObject({ name: 'Crossing', device: 'Velm 4', title: 'Aurelune', setup: 'Highest' });
    const kit = await harness.request('GET', '/kit');
    expect(kit.body.devices.map((device: { name: string }) => device.name)).toEqual(['Velm 4', 'Velm 5']);
  });

  it('take the setup’s name along to another title', async () => {
    const { body } = await patch({ title: 'Hexgarden' });
    expect(body).toMatchObject({ title: 'Hexgarden', setup: 'Highest' });
    expect((await patch({ setup: null })).body.setup).toBeNull();
  });

  it('of the target compute the figures anew', async () => {
    const before = (await harness.request('GET', `/runs/${id}`)).body;
    expect(before.figures.splits.at(-1).onTarget).toBe(0);
    const after = (await patch({ target: 30 })).body;
    expect(after.figures.splits.at(-1).onTarget).toBe(1);
    expect(after.lane).toMatchObject({ target: 30, measures: 'target' });
    expect((await patch({ target: null })).body).toMatchObject({
      lane: { measures: 'hold' },
      figures: { stamina: { onTarget: null } },
    });
  });

  it('of the split length lay the splits anew', async () => {
    expect(
      (await patch({ splitMinutes: 10 })).body.figures.splits.map((split: { toS: number }) => split.toS),
    ).toHaveLength(2);
    expect((await patch({ splitMinutes: null })).body.figures).toMatchObject({ splitMinutes: 5 });
  });

  it('that make no sense change nothing and say which field', async () => {
    expect(await patch({ name: '' })).toMatchObject({
      status: 400,
      body: { field: 'name', message: expect.stringContaining('enter a name') },
    });
    expect(await patch({ target: 'fast' })).toMatchObject({ status: 400, body: { field: 'target' } });
    expect((await harness.request('GET', `/runs/${id}`)).body.name).toBe('Crossing');
  });
});

describe('lines added by hand', () => {
  const post = (path: string, body: object, method = 'POST'): ReturnType<Harness['request']> =>
    harness.request(method, path, JSON.stringify(body), { 'content-type': 'application/json' });

  it('change the figures, and can be taken back one by one; the frames stay', async () => {
    const before = (await harness.request('GET', `/runs/${id}`)).body;
    const added = (
      await post(`/runs/${id}/entries`, {
        entries: [
          { type: 'span', fromMs: 900_000, toMs: 1_300_000, kind: 'menu' },
          { type: 'skin', atMs: 480_000, spot: 'back', c: 36.5, by: 'infrared' },
        ],
      })
    ).body;
    // the 54,000 fast frames end at 900.018 s: the last two reach into the menu
    expect(added.figures).toMatchObject({ frames: { count: 54_000 - 2 }, warmth: { peakC: 36.5 } });
    expect(
      added.entries.map((entry: { source: string; line: { type: string } }) => [
        entry.source,
        entry.line.type,
      ]),
    ).toEqual([
      ['hand', 'skin'],
      ['hand', 'span'],
    ]);
    for (const entry of added.entries) await harness.request('DELETE', `/runs/${id}/entries/${entry.id}`);
    expect((await harness.request('GET', `/runs/${id}`)).body).toEqual(before);
    expect(await harness.request('DELETE', `/runs/${id}/entries/${added.entries[0].id}`)).toMatchObject({
      status: 404,
    });
  });

  it('are refused as a whole where one is wrong, with its place', async () => {
    const answer = await post(`/runs/${id}/entries`, {
      entries: [
        { type: 'rate', atMs: 0, fps: 60, by: 'overlay' },
        { type: 'battery', atMs: 0, percent: 140 },
      ],
    });
    expect(answer).toMatchObject({ status: 400, body: { field: 'entries.1.percent' } });
    expect((await harness.request('GET', `/runs/${id}`)).body.entries).toEqual([]);
  });

  it('at the same time from two sides are all kept', async () => {
    const reading = (c: number): object => ({
      entries: [{ type: 'skin', atMs: c * 1000, spot: 'back', c, by: 'infrared' }],
    });
    const answers = await Promise.all(
      [20, 21, 22, 23, 24].map((c) => post(`/runs/${id}/entries`, reading(c))),
    );
    expect(answers.map((answer) => answer.status)).toEqual([200, 200, 200, 200, 200]);
    expect((await harness.request('GET', `/runs/${id}`)).body.entries).toHaveLength(5);
  });

  it('make a run of their own where there was no log', async () => {
    const { status, body } = await post('/runs', {
      name: null,
      facts: { device: 'Kitto Mini', title: 'Hexgarden', setup: null, target: 60, refresh: null, roomC: 18 },
      entries: [
        { type: 'rate', atMs: 300_000, fps: 41, by: 'eye' },
        { type: 'skin', atMs: 480_000, spot: 'back', c: 36.5, by: 'infrared' },
      ],
    });
    expect(status).toBe(201);
    expect(body).toMatchObject({
      name: 'Hexgarden on Kitto Mini',
      upload: null,
      roomC: 18,
      series: [],
      figures: { pace: { source: 'eye', average: 41 }, warmth: { spots: [{ riseC: 18.5 }] } },
    });
    await harness.request('DELETE', `/runs/${body.id}`);
    await harness.pool.query('delete from run where id = $1', [body.id]);
  });

  it('stand where the device’s spots were dragged to, on all its runs', async () => {
    const places = [{ spot: 'back', side: 'back', x: 0.4, y: 0.2 }];
    expect((await post(`/runs/${id}/spots`, { places }, 'PUT')).body.places).toEqual(places);
    expect((await post(`/runs/${id}/spots`, { places: [{ ...places[0], x: 1.5 }] }, 'PUT')).status).toBe(400);
  });
});

describe('deleting', () => {
  it('hides a run, and undo brings it back whole', async () => {
    const before = (await harness.request('GET', `/runs/${id}`)).body;
    expect((await harness.request('DELETE', `/runs/${id}`)).status).toBe(204);
    expect((await harness.request('GET', `/runs/${id}`)).status).toBe(404);
    expect((await harness.request('GET', '/runs')).body).toEqual([]);
    expect((await harness.request('DELETE', `/runs/${id}`)).status).toBe(404);
    expect((await harness.request('POST', `/runs/${id}/restore`)).status).toBe(204);
    expect((await harness.request('GET', `/runs/${id}`)).body).toEqual(before);
  });

  it('is for good only after its time', async () => {
    await harness.request('DELETE', `/runs/${id}`);
    await purgeDeleted(harness.pool, 30);
    expect(await rowCounts(harness.pool)).toMatchObject({ run: 1 });
    await harness.pool.query("update run set deleted_at = now() - interval '31 days'");
    await purgeDeleted(harness.pool, 30);
    expect(await rowCounts(harness.pool)).toMatchObject({ run: 0, frame_chunk: 0, analysis: 0 });
  });
});

describe('figures of an older version of the method', () => {
  it('are computed anew when a run is opened, and by the sweep at the start', async () => {
    const { body } = await harness.request('POST', importPath(), LOG);
    const old = (): Promise<unknown> =>
      harness.pool.query("update analysis set method_version = 0, figures = '{}', summary = '{}'");
    await old();
    expect((await harness.request('GET', '/runs')).body[0].headline).toBeNull();
    expect((await harness.request('GET', `/runs/${body.id}`)).body).toEqual(body);
    await old();
    const runs = new Runs(harness.pool, harness.analyses);
    const queue = (): Recomputing =>
      new Recomputing(
        harness.pool,
        () => runs.stale(),
        (run) => runs.bringUp([run]),
      );
    // two processes share it
    const queues = [queue(), queue()];
    try {
      await Promise.all(queues.map((one) => one.begin()));
      while ((await runs.stale()).length > 0) await new Promise((resolve) => setTimeout(resolve, 20));
    } finally {
      await Promise.all(queues.map((one) => one.close()));
    }
    expect((await harness.pool.query('select method_version from analysis')).rows).toEqual([
      { method_version: METHOD_VERSION },
    ]);
    expect((await harness.request('GET', '/runs')).body[0].headline).toEqual(body.headline);
  });
});

describe('what is not there', () => {
  it.each(['/runs/7', '/runs/00000000-0000-4000-8000-000000000000', '/nothing'])(
    '%s is answered plainly',
    async (path) => {
      expect(await harness.request('GET', path)).toMatchObject({ status: 404, body: { code: 'not-found' } });
    },
  );
  it('a body that is no JSON is refused', async () => {
    expect(
      await harness.request('PATCH', `/runs/00000000-0000-4000-8000-000000000000`, '{', {
        'content-type': 'application/json',
      }),
    ).toMatchObject({ status: 400 });
  });
});

describe('migrations', () => {
  it('are applied once', async () =>
    expect(await migrate(harness.pool, join(__dirname, 'migrations'))).toEqual([]));
});
