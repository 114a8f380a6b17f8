import { randomUUID } from 'node:crypto';
import type { NewLadder } from '@pace-check/contract';
import { startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

const json = { 'content-type': 'application/json' };
const send = (method: string, path: string, body?: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, body === undefined ? undefined : JSON.stringify(body), json);

const RUNGS = ['1×', '2×', '3×'].map((name) => ({ name }));
const ladder = (more: object = {}): NewLadder => ({
  id: randomUUID(),
  doc: {
    device: 'Velm 5',
    title: 'Rook Tower',
    axis: 'internal resolution',
    rungs: RUNGS,
    full: 60,
    ...more,
  },
});
const probe = (rung: string, percent: number) => ({ id: randomUUID(), rung, percent });

describe('a ladder', () => {
  it('is made once, probed, kept by its revision, listed with what it found, deleted and restored', async () => {
    const one = ladder();
    const made = await send('POST', '/ladders', one);
    expect([made.status, made.body.message]).toEqual([201, undefined]);
    expect((await send('POST', '/ladders', one)).body.revision).toBe(0);
    const doc = { ...made.body.doc, probes: [probe('2×', 100), probe('3×', 70), probe('2×', 100)] };
    const kept = await send('PUT', `/ladders/${one.id}`, { revision: 0, doc });
    expect(kept.body.revision).toBe(1);
    expect((await send('PUT', `/ladders/${one.id}`, { revision: 0, doc })).status).toBe(409);
    expect(
      (await send('GET', '/ladders')).body.find((row: { id: string }) => row.id === one.id),
    ).toMatchObject({
      best: '2×',
      ended: true,
      confirmed: false,
      probes: 3,
    });
    expect((await send('DELETE', `/ladders/${one.id}`)).status).toBe(204);
    expect((await send('GET', `/ladders/${one.id}`)).status).toBe(404);
    expect((await send('POST', `/ladders/${one.id}/restore`)).status).toBe(204);
  });

  it('has siblings: the same chip, or another title of the system', async () => {
    for (const name of ['Velm 5', 'Oru Fold'])
      await send('POST', '/kit/device', { name, facts: { chip: 'Tarn T4' } });
    for (const name of ['Rook Tower', 'Pico Harbour'])
      await send('POST', '/kit/title', { name, facts: { kind: 'emulated', system: 'Lumo 64' } });
    const fold = ladder({ device: 'Oru Fold' });
    const { body } = await send('POST', '/ladders', fold);
    expect(body.siblings).toHaveLength(1);
    expect(body.siblings[0].says).toBe('Rook Tower on Velm 5 (the same chip, Tarn T4): 2× held');
    const weights: number[] = body.siblings[0].weights;
    expect(weights.reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 9);
    expect(weights.indexOf(Math.max(...weights))).toBe(2);
    const other = await send('POST', '/ladders', ladder({ title: 'Pico Harbour' }));
    expect(other.body.siblings[0].says).toContain('(another title of Lumo 64)');
    expect((await send('POST', '/ladders', ladder({ title: 'Hexgarden' }))).body.siblings).toEqual([]);
  });

  it('is confirmed by a sustained run of its device and title', async () => {
    const facts = {
      device: 'Velm 5',
      title: 'Rook Tower',
      setup: '2×',
      target: 60,
      refresh: null,
      roomC: 18,
    };
    await send('POST', '/runs', {
      name: null,
      facts,
      entries: [
        { type: 'rate', atMs: 60_000, fps: 60, by: 'overlay' },
        { type: 'rate', atMs: 1_100_000, fps: 45, by: 'overlay' },
        { type: 'end', atMs: 1_200_000, reason: 'planned' },
      ],
    });
    const { body } = await send('POST', '/ladders', ladder());
    expect(body.runs).toEqual([
      expect.objectContaining({ says: 'closes at 75 % of full speed', speed: 0.75, holds: null }),
    ]);
  });

  it.each<[string, object, RegExp]>([
    ['a rung that stands twice', { rungs: [{ name: '1×' }, { name: '1×' }] }, /stands twice/],
    ['no rung', { rungs: [] }, /at least one rung/],
    ['65 rungs', { rungs: Array.from({ length: 65 }, (_, i) => ({ name: String(i) })) }, /at most 64/],
    ['a probe of a rung that is not there', { probes: [probe('9×', 100)] }, /there is no rung/],
    ['a speed below 0', { probes: [probe('1×', -1)] }, /at least 0/],
    ['a probe that says nothing', { probes: [{ id: randomUUID(), rung: '1×' }] }, /whether it holds/],
    ['a prior of zeros', { prior: { from: randomUUID(), says: 'x', weights: [0, 0, 0, 0] } }, /above 0/],
    [
      'a prior of another length',
      { prior: { from: randomUUID(), says: 'x', weights: [1, 1] } },
      /take 4 numbers/,
    ],
    ['U+0000', { scene: 'a\u0000' }, /scene/],
  ])('is refused with %s', async (_, more, message) => {
    const { status, body } = await send('POST', '/ladders', ladder(more));
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toMatch(message);
  });

  it('thinks of 64 rungs and 500 probes in no time', async () => {
    const rungs = Array.from({ length: 64 }, (_, i) => ({ name: String(i + 1) }));
    const probes = Array.from({ length: 500 }, (_, i) => probe(String((i % 64) + 1), i % 64 < 20 ? 100 : 80));
    const { status, body } = await send('POST', '/ladders', ladder({ rungs, probes }));
    expect(status).toBe(201);
    expect((await send('GET', '/ladders')).body.find((row: { id: string }) => row.id === body.id).best).toBe(
      '20',
    );
  });
});

describe('outcomes', () => {
  const outcome = (title: string, more: object = {}) => ({
    id: randomUUID(),
    device: 'Velm 5',
    title,
    with: 'Gangway',
    version: '3.1',
    status: 'crashes',
    date: '2026-05-03',
    ...more,
  });

  it('are noted all or none, replaced under their ids, deleted and restored', async () => {
    const one = outcome('Iron Orchard', { where: 'after the mill' });
    const made = await send('POST', '/outcomes', {
      outcomes: [one, outcome('Night Ferry', { status: 'full speed' })],
      claims: [{ id: randomUUID(), title: 'Iron Orchard', level: 'runs well', source: 'a list' }],
      versions: [
        { with: 'Gangway', version: '3.2', date: '2026-06-01' },
        { with: 'Gangway', version: '3.1', date: '2026-05-01' },
      ],
    });
    expect([made.status, made.body.message]).toEqual([201, undefined]);
    expect(made.body.versions.map((row: { version: string }) => row.version)).toEqual(['3.1', '3.2']);
    const again = await send('POST', '/outcomes', { outcomes: [{ ...one, status: 'slow' }] });
    expect(again.body.outcomes.filter((row: { id: string }) => row.id === one.id)).toEqual([
      expect.objectContaining({ status: 'slow' }),
    ]);
    const refused = await send('POST', '/outcomes', {
      outcomes: [outcome('A'), outcome('B', { status: 'well' })],
    });
    expect(refused.status).toBe(400);
    expect(refused.body.field).toBe('outcomes.1.status');
    expect((await send('GET', '/outcomes')).body.outcomes).toHaveLength(2);
    expect((await send('DELETE', `/outcomes/${one.id}`)).status).toBe(204);
    expect((await send('GET', '/outcomes')).body.outcomes).toHaveLength(1);
    expect((await send('POST', `/outcomes/${one.id}/restore`)).status).toBe(204);
    expect((await send('DELETE', `/claims/${made.body.claims[0].id}`)).status).toBe(204);
    expect((await send('GET', '/outcomes')).body.claims).toEqual([]);
  });

  it.each([
    ['2001 at once', { outcomes: Array.from({ length: 2001 }, (_, i) => outcome(String(i))) }],
    ['a day that is none', { outcomes: [outcome('A', { date: '2026-13-40' })] }],
    ['U+0000', { outcomes: [outcome('A\u0000')] }],
    ['a claim by nobody', { claims: [{ id: randomUUID(), title: 'A', level: 'runs', source: '' }] }],
  ])('are refused with %s', async (_, body) =>
    expect((await send('POST', '/outcomes', body)).status).toBe(400),
  );
});
