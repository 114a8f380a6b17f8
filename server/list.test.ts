import { randomUUID } from 'node:crypto';
import { USUAL_RULES } from '@pace-check/contract';
import { startHarness, type Harness } from './testing/harness';

/** Runs that were read off: pace, warmth and an end are enough for a list. */
const RUNS: {
  device: string;
  title: string;
  setup: string | null;
  fps: number;
  c: number;
  crash?: boolean;
}[] = [
  { device: 'Velm 5', title: 'Aurelune', setup: 'Highest', fps: 52, c: 41 },
  { device: 'Velm 5', title: 'Night Ferry', setup: null, fps: 30, c: 37.5, crash: true },
  { device: 'Velm 4', title: 'Aurelune', setup: 'Highest', fps: 44, c: 43 },
  { device: 'Oru Fold', title: 'Hexgarden', setup: '100 % scale', fps: 60, c: 36 },
  { device: 'Oru Fold', title: 'Aurelune', setup: 'Low_est', fps: 58, c: 39 },
];

const CARD = {
  name: 'Crossing',
  policy: 'highest',
  template: false,
  rules: USUAL_RULES,
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
};

let harness: Harness;
const send = (method: string, path: string, body?: object): ReturnType<Harness['request']> =>
  harness.request(method, path, body && JSON.stringify(body), { 'content-type': 'application/json' });
const names = async (query = ''): Promise<string[]> => {
  const { status, body } = await send('GET', `/runs${query}`);
  expect(status).toBe(200);
  return (body as { name: string }[]).map(({ name }) => name);
};

beforeAll(async () => {
  harness = await startHarness();
  for (const { device, title, setup, fps, c, crash } of RUNS) {
    const { status } = await send('POST', '/runs', {
      name: null,
      facts: { device, title, setup, target: 60, refresh: null, roomC: null },
      entries: [
        { type: 'rate', atMs: 60_000, fps, by: 'eye' },
        { type: 'skin', atMs: 60_000, spot: 'back', c, by: 'infrared' },
        ...(crash ? [{ type: 'end', atMs: 90_000, reason: 'crash' }] : []),
      ],
    });
    expect(status).toBe(201);
  }
});
afterAll(() => harness.close());

describe('the list of runs', () => {
  it('comes in pages that go on behind the last run, each run once, the latest first', async () => {
    const all = (await send('GET', '/runs')).body as { id: string; name: string }[];
    expect(all[0]!.name).toBe('Aurelune on Oru Fold');
    const seen: string[] = [];
    for (let after = ''; ;) {
      const { body } = await send('GET', `/runs?limit=2${after}`);
      seen.push(...(body as { id: string }[]).map(({ id }) => id));
      if (body.length < 2) break;
      after = `&after=${body[1].id}`;
    }
    expect(seen).toEqual(all.map(({ id }) => id));
  });

  it('is not moved by a run that comes in between two pages', async () => {
    const [first, second, third] = (await send('GET', '/runs')).body as { id: string }[];
    const page = (await send('GET', '/runs?limit=2')).body as { id: string }[];
    expect(page.map(({ id }) => id)).toEqual([first!.id, second!.id]);
    const { body: late } = await send('POST', '/runs', {
      name: 'Late',
      facts: { device: 'Velm 5', title: 'Aurelune', setup: null, target: null, refresh: null, roomC: null },
      entries: [{ type: 'rate', atMs: 0, fps: 20, by: 'eye' }],
    });
    expect((await send('GET', `/runs?limit=1&after=${second!.id}`)).body[0].id).toBe(third!.id);
    // behind a run that was deleted meanwhile it goes on too
    await send('DELETE', `/runs/${late.id}`);
    expect((await send('GET', `/runs?limit=1&after=${late.id}`)).body[0].id).toBe(first!.id);
  });

  it('finds by every word, wherever it stands, and takes what is typed as it is', async () => {
    expect(await names('?q=velm%20AURE')).toEqual(['Aurelune on Velm 4', 'Aurelune on Velm 5']);
    expect(await names('?q=highest%20velm%205')).toEqual(['Aurelune on Velm 5']);
    expect(await names('?q=100%20%25')).toEqual(['Hexgarden on Oru Fold']);
    expect(await names('?q=low_')).toEqual(['Aurelune on Oru Fold']);
    expect(await names('?q=%5C')).toEqual([]);
  });

  it('lets through a device, a title and a word of stamina', async () => {
    expect(await names('?device=oru%20fold')).toEqual(['Aurelune on Oru Fold', 'Hexgarden on Oru Fold']);
    expect(await names('?device=Oru%20Fold&title=Aurelune')).toEqual(['Aurelune on Oru Fold']);
    expect(await names('?stamina=DNF')).toEqual(['Night Ferry on Velm 5']);
    // as a form sends what was left empty
    expect(await names('?device=&title=&q=')).toHaveLength(RUNS.length);
  });

  it.each([
    ['pace', RUNS.map((run) => run.fps).sort((a, b) => b - a)],
    ['warmth', RUNS.map((run) => run.c).sort((a, b) => b - a)],
  ] as const)('is sorted by %s over its pages', async (sort, expected) => {
    const figures: (number | null)[] = [];
    for (let after = ''; figures.length < RUNS.length;) {
      const { body } = await send('GET', `/runs?sort=${sort}&limit=2${after}`);
      for (const { headline } of body) figures.push(sort === 'pace' ? headline.pace.average : headline.peakC);
      after = `&after=${body.at(-1).id}`;
    }
    expect(figures).toEqual(expected);
  });

  it('is sorted by name', async () => {
    const all = await names('?sort=name');
    expect(all).toEqual([...all].sort());
  });

  it.each([
    ['?sort=luck', 'sort'],
    ['?limit=0', 'limit'],
    ['?limit=many', 'limit'],
    ['?after=yesterday', 'after'],
    ['?stamina=tired', 'stamina'],
    [`?q=${'a'.repeat(300)}`, 'q'],
    ['?q=%00', 'q'],
  ])('refuses %s and names the field', async (query, field) => {
    expect(await send('GET', `/runs${query}`)).toMatchObject({ status: 400, body: { field } });
  });
});

describe('the database is asked as often, however much there is', () => {
  const statementsOf = async (path: string): Promise<number> => {
    const spy = jest.spyOn(harness.pool, 'query');
    expect((await send('GET', path)).status).toBe(200);
    const count = spy.mock.calls.length;
    spy.mockRestore();
    return count;
  };
  const open = async (title: string): Promise<void> => {
    const id = randomUUID();
    const change = {
      id: randomUUID(),
      kind: 'open',
      facts: { device: 'Velm 5', title, setup: null, target: null, refresh: null },
      preflight: {},
      plan: { minutes: 30, floorPercent: null, everyMin: null, spots: [], endsItself: false },
      speed: 1,
      step: null,
    };
    const { body } = await send('POST', `/bench/${id}/changes`, { changes: [change] });
    expect(body.refused).toEqual([]);
    expect((await send('POST', `/bench/${id}/sources`, { name: 'Logger', kind: 'handset' })).status).toBe(
      201,
    );
  };

  it('for the runs at the bench', async () => {
    await open('Aurelune');
    const before = await statementsOf('/bench');
    for (const title of ['Hexgarden', 'Night Ferry', 'Pico Harbour']) await open(title);
    expect(
      ((await send('GET', '/bench')).body as { sources: unknown[] }[]).map((run) => run.sources.length),
    ).toEqual([1, 1, 1, 1]);
    expect(await statementsOf('/bench')).toBe(before);
  });

  it('for a card, and what it knows of a device is bounded', async () => {
    const step = (device: string): object => ({
      id: randomUUID(),
      device,
      title: 'Aurelune',
      setup: null,
      minutes: 20,
      repeats: 1,
      attended: true,
      wanted: 1,
      after: [],
      conditions: {},
      requestId: null,
      ladderId: null,
      note: '',
    });
    const card = async (devices: string[]): Promise<string> => {
      const { status, body } = await send('POST', '/cards', { ...CARD, steps: devices.map(step) });
      expect(status).toBe(201);
      return body.id;
    };
    const one = await card(['Velm 5']);
    const three = await card(['Velm 5', 'Velm 4', 'Oru Fold']);
    expect(await statementsOf(`/cards/${three}`)).toBe(await statementsOf(`/cards/${one}`));
    await harness.pool.query(
      `insert into cool_down (device_id, spot, room_c, started_at, readings, tau_s) select device.id, 'back', 22, now() - make_interval(mins => i), '[]', 600 + i from device, generate_series(1, 300) i where name = 'Velm 4'`,
    );
    const { known } = (await send('GET', `/cards/${three}`)).body;
    const velm4 = known.find((device: { name: string }) => device.name === 'Velm 4');
    // the latest fifty
    expect(velm4.own.coolTauMin.map((tau: number) => Math.round(tau * 60))).toEqual(
      Array.from({ length: 50 }, (_, i) => 650 - i),
    );
    expect(velm4.own.runs).toHaveLength(1);
  });
});
