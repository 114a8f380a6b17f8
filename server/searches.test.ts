import { randomUUID } from 'node:crypto';
import { USUAL_RULES, type NewLadder } from '@pace-check/contract';
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
    expect(body.siblings[0].says).toBe('Rook Tower on Velm 5 (the same chip, Tarn T4): 2× holds');
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
      expect.objectContaining({
        says: 'closes at 75 % of full speed, 20 min',
        sustained: true,
        speed: 0.75,
        holds: null,
      }),
    ]);
  });

  it.each<[string, object, RegExp]>([
    ['a rung that stands twice', { rungs: [{ name: '1×' }, { name: '1×' }] }, /is listed twice/],
    ['no rung', { rungs: [] }, /enter at least one setting/],
    ['65 rungs', { rungs: Array.from({ length: 65 }, (_, i) => ({ name: String(i) })) }, /at most 64/],
    ['a probe of a rung that is not there', { probes: [probe('9×', 100)] }, /unknown setting/],
    ['a speed below 0', { probes: [probe('1×', -1)] }, /at least 0/],
    ['a probe that says nothing', { probes: [{ id: randomUUID(), rung: '1×' }] }, /whether it holds/],
    ['a prior of zeros', { prior: { from: randomUUID(), says: 'x', weights: [0, 0, 0, 0] } }, /above 0/],
    [
      'a prior of another length',
      { prior: { from: randomUUID(), says: 'x', weights: [1, 1] } },
      /need 4 numbers/,
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

describe('one ladder over several titles', () => {
  const together = randomUUID();
  const of = (title: string, more: object = {}): NewLadder =>
    ladder({ title, device: 'Oru Fold', together, ...more });
  const listed = async () =>
    (await send('GET', '/ladders')).body.filter((row: { together: string }) => row.together === together);

  it('is made whole or not at all, and sent twice it is made once', async () => {
    const ladders = ['Pico Harbour', 'Glass Canyon', 'Rook Tower'].map((title) => of(title));
    const refused = await send('POST', '/ladders/together', {
      ladders: [...ladders, of('x', { rungs: [] })],
    });
    expect([refused.status, refused.body.field]).toEqual([400, 'ladders.3.doc.rungs']);
    expect(await listed()).toEqual([]);
    expect((await send('POST', '/ladders/together', { ladders })).status).toBe(201);
    expect((await send('POST', '/ladders/together', { ladders })).status).toBe(201);
    expect(await listed()).toHaveLength(3);
    for (const [more, field] of [
      [{ together: randomUUID() }, 'ladders.1.doc.together'],
      [{ device: 'Velm 5' }, 'ladders.1.doc.rungs'],
      [{ rungs: [{ name: '1×' }] }, 'ladders.1.doc.rungs'],
      [{ title: 'PICO harbour' }, 'ladders.1.doc.title'],
    ] as const) {
      const one = await send('POST', '/ladders/together', {
        ladders: [of('Pico Harbour'), of('Other', more)],
      });
      expect([one.status, one.body.field]).toEqual([400, field]);
    }
    expect((await send('POST', '/ladders/together', { ladders: [] })).body.message).toMatch(
      /at least one title/,
    );
  });

  it('lends what one title shows to those without a probe, and to none that has its own', async () => {
    const [one, other] = await listed();
    const before = await send('GET', `/ladders/${one.id}`);
    expect(before.body.borrowed).toBeNull();
    const doc = { ...before.body.doc, probes: [probe('2×', 100), probe('3×', 70), probe('2×', 100)] };
    await send('PUT', `/ladders/${one.id}`, { revision: before.body.revision, doc });
    const { borrowed, doc: without, revision } = (await send('GET', `/ladders/${other.id}`)).body;
    expect(borrowed.says).toBe(`results of ${one.title}`);
    expect(borrowed.weights.indexOf(Math.max(...borrowed.weights))).toBe(2);
    const row = (await listed()).find(({ id }: { id: string }) => id === other.id);
    expect(row.standing).toMatchObject({ posterior: borrowed.weights, lastAt: null });
    // with its first probe it stands by itself: what it began from is written in it
    const prior = { from: null, ...borrowed };
    await send('PUT', `/ladders/${other.id}`, {
      revision,
      doc: { ...without, prior, probes: [probe('3×', 100)] },
    });
    const after = (await send('GET', `/ladders/${other.id}`)).body;
    expect([after.borrowed, after.doc.prior.from, after.doc.prior.says]).toEqual([null, null, prior.says]);
    expect(after.doc.prior.weights[2]).toBeCloseTo(prior.weights[2], 8);
  });

  it('hears a first play of none, and nothing of a ladder by itself', async () => {
    const apart = randomUUID();
    const [a, b] = ['Pico Harbour', 'Rook Tower'].map((title) => of(title, { together: apart }));
    await send('POST', '/ladders/together', { ladders: [a, b] });
    const { doc, revision } = (await send('GET', `/ladders/${a!.id}`)).body;
    await send('PUT', `/ladders/${a!.id}`, {
      revision,
      doc: { ...doc, probes: [{ ...probe('2×', 60), firstPlay: true }] },
    });
    expect((await send('GET', `/ladders/${b!.id}`)).body.borrowed).toBeNull();
  });
});

describe('a ladder in a step of a card', () => {
  const climbed = (ladderId: string) => ({
    id: randomUUID(),
    device: 'Velm 5',
    title: 'Rook Tower',
    setup: null,
    minutes: 30,
    repeats: 1,
    attended: true,
    wanted: 5,
    after: [],
    conditions: {},
    requestId: null,
    ladderId,
    note: '',
  });
  const card = (ladderId: string) => ({
    name: 'A day with a ladder',
    policy: 'best playable',
    template: false,
    rules: USUAL_RULES,
    steps: [climbed(ladderId)],
    day: {
      date: '2026-05-16',
      startMin: 540,
      finishByMin: null,
      hands: 1,
      parallel: true,
      order: 'as-listed',
      roomC: 18,
      devices: [],
    },
  });

  it('takes as long as is still to be probed, and the plan is old when that changes', async () => {
    const one = ladder({ probeMin: 4 });
    const { doc } = (await send('POST', '/ladders', one)).body;
    const made = (await send('POST', '/cards', card(one.id))).body;
    expect(made.steps[0]).toMatchObject({ ladderId: one.id, minutes: 30 });
    const minutes = async (): Promise<number> =>
      (await send('GET', `/cards/${made.id}`)).body.steps[0].minutes;
    const change = async (revision: number, probes: object[]): Promise<void> =>
      void (await send('PUT', `/ladders/${one.id}`, { revision, doc: { ...doc, probes } }));
    const toGo = async (): Promise<number> =>
      (await send('GET', '/ladders')).body.find((row: { id: string }) => row.id === one.id).minutesToGo;

    const first = [probe('2×', 100)];
    await change(0, first);
    const before = await toGo();
    // some probes of 4 min, and a quarter of an hour
    expect(before).toBeGreaterThanOrEqual(15 + 4);
    expect(await minutes()).toBe(before);
    expect((await send('GET', `/cards/${made.id}`)).body.revision).toBe(made.revision + 1);

    // begun, it takes what it has taken and what is left
    await send('POST', `/cards/${made.id}/events`, {
      events: [{ id: randomUUID(), kind: 'started', stepId: made.steps[0].id, repeat: 1, atMin: 540 }],
    });
    await change(1, [...first, probe('3×', 60)]);
    expect(await minutes()).toBe(4 + (await toGo()));
    // over, it stays as it was
    const was = await minutes();
    await send('POST', `/cards/${made.id}/events`, {
      events: [
        { id: randomUUID(), kind: 'ended', stepId: made.steps[0].id, repeat: 1, atMin: 570, how: 'done' },
      ],
    });
    await change(2, []);
    expect(await minutes()).toBe(was);
  });

  it('is refused where there is no such ladder', async () => {
    const { status, body } = await send('POST', '/cards', card(randomUUID()));
    expect([status, body.field]).toEqual([422, 'steps.0.ladderId']);
  });

  it('and preflight says what was seen of the title before', async () => {
    const note = (status: string, date: string) => ({
      id: randomUUID(),
      device: 'velm 5',
      title: 'rook tower',
      with: 'Lantern',
      version: '1.9',
      status,
      date,
    });
    const outcomes = [note('crashes', '2026-04-01'), note('starts only without an overlay', '2026-05-01')];
    await send('POST', '/outcomes', { outcomes });
    const one = ladder();
    await send('POST', '/ladders', one);
    const made = (await send('POST', '/cards', card(one.id))).body;
    const { body } = await send('GET', `/cards/${made.id}/preflight?step=${made.steps[0].id}`);
    expect(body.seen).toEqual([
      'Last result 2026-05-01 with Lantern 1.9: it started only with the overlay off: read its own counter, or film the screen.',
    ]);
    for (const { id } of outcomes) await send('DELETE', `/outcomes/${id}`);
  });
});

describe('a choice', () => {
  const choice = (more: object = {}) => ({
    id: randomUUID(),
    doc: {
      device: 'Velm 5',
      title: 'Iron Orchard',
      axis: 'backend',
      options: ['Glim', 'Ember'],
      full: 60,
      ...more,
    },
  });
  const seen = (option: string, percent: number) => ({ id: randomUUID(), option, percent });

  it('is made once, kept by its revision, and listed with where it stands and what the wrong one costs', async () => {
    const one = choice();
    const made = await send('POST', '/choices', one);
    expect([made.status, made.body.revision]).toEqual([201, 0]);
    expect((await send('POST', '/choices', one)).body.revision).toBe(0);
    const doc = { ...made.body.doc, probes: [seen('Glim', 60), seen('Ember', 100)] };
    expect((await send('PUT', `/choices/${one.id}`, { revision: 0, doc })).body.revision).toBe(1);
    expect((await send('PUT', `/choices/${one.id}`, { revision: 0, doc })).status).toBe(409);
    const [row] = (await send('GET', '/choices')).body;
    expect(row).toMatchObject({ take: 'Ember', probes: 2 });
    expect(row.says).toBe('Choose Ember: it holds full speed in every test; no other option reaches it.');
    expect(row.told[0].cost).toMatch(/^40.% slower/);
    // the same question for another title has an answer of its own
    const other = await send('POST', '/choices', choice({ title: 'Night Ferry' }));
    expect(other.body.elsewhere).toEqual([{ id: one.id, says: 'Iron Orchard on Velm 5: Ember' }]);
    for (const { id } of [one, other.body]) expect((await send('DELETE', `/choices/${id}`)).status).toBe(204);
    expect((await send('GET', `/choices/${one.id}`)).status).toBe(404);
    expect((await send('POST', `/choices/${one.id}/restore`)).status).toBe(204);
  });

  it('offers runs of its device and title, short ones too, with what was seen in them', async () => {
    const { body: run } = await send('POST', '/runs', {
      name: 'A short one',
      facts: { device: 'Velm 5', title: 'Salt Choir', setup: null, target: 60, refresh: 120, roomC: 18 },
      entries: [
        { type: 'rate', atMs: 30_000, fps: 54, by: 'overlay' },
        { type: 'mark', atMs: 40_000, kind: 'glitch' },
        { type: 'mark', atMs: 50_000, kind: 'glitch' },
        { type: 'skin', atMs: 100_000, spot: 'back', c: 38.5, by: 'infrared' },
        { type: 'link', atMs: 100_000, latencyMs: 30, lossPercent: 0.5, mbps: 24 },
        { type: 'end', atMs: 120_000, reason: 'planned' },
      ],
    });
    const { body } = await send('POST', '/choices', choice({ title: 'Salt Choir' }));
    expect(body.runs).toEqual([
      expect.objectContaining({
        id: run.id,
        sustained: false,
        glitches: 2,
        peakC: 38.5,
        speed: 0.9,
        says: 'at 90 % of full speed, 2 min',
      }),
    ]);
    expect(
      run.figures.doing.map(({ of, unit, mean }: { of: string; unit: string; mean: number }) => [
        of,
        unit,
        mean,
      ]),
    ).toEqual([
      ['latency', 'ms', 30],
      ['loss', '%', 0.5],
      ['bit rate', 'Mbit/s', 24],
    ]);
  });

  it.each<[string, object, RegExp]>([
    ['an option that stands twice', { options: ['Glim', 'Glim'] }, /is listed twice/],
    ['one option', { options: ['Glim'] }, /at least two/],
    ['a probe of an option that is not there', { probes: [seen('Petrel', 100)] }, /there is no option/],
    ['a speed below 0', { probes: [seen('Glim', -1)] }, /at least 0/],
    [
      'a probe that says nothing',
      { probes: [{ id: randomUUID(), option: 'Glim' }] },
      /enter a speed or a rate/,
    ],
    ['U+0000', { scene: 'a\u0000' }, /scene/],
  ])('is refused with %s', async (_, more, message) => {
    const { status, body } = await send('POST', '/choices', choice(more));
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toMatch(message);
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

  it('count the runs of the library, with what their setup was tried with', async () => {
    await send('POST', '/kit/setup', {
      title: 'Counted Tower',
      name: 'Glim 2',
      facts: {
        pairs: [
          { key: 'emulator', value: 'Glim', unit: '' },
          { key: 'version', value: '2', unit: '' },
        ],
      },
    });
    const made: string[] = [];
    for (const [end, kind] of [
      ['planned', 'glitch'],
      ['crash', 'note'],
    ] as const) {
      const { body } = await send('POST', '/runs', {
        name: null,
        facts: {
          device: 'Velm 5',
          title: `Counted Tower`,
          setup: end === 'planned' ? 'Glim 2' : null,
          target: null,
          refresh: null,
          roomC: null,
        },
        entries: [
          { type: 'rate', fps: 40, by: 'overlay' },
          { type: 'mark', atMs: 60_000, kind },
          { type: 'end', atMs: 1_200_000, reason: end },
        ],
      });
      made.push(body.id as string);
    }
    const { body } = await send('GET', '/outcomes');
    expect(body.runs.filter((one: { title: string }) => one.title === 'Counted Tower')).toEqual(
      expect.arrayContaining([
        expect.objectContaining({
          device: 'Velm 5',
          with: 'Glim',
          version: '2',
          status: 'glitches',
          firstPlay: false,
        }),
        expect.objectContaining({ with: '', version: '', status: 'crashes' }),
      ]),
    );
    for (const id of made) await send('DELETE', `/runs/${id}`);
    const after = (await send('GET', '/outcomes')).body.runs as { title: string }[];
    expect(after.filter((one) => one.title === 'Counted Tower')).toEqual([]);
  });

  it('make their titles known to the kit, and a fork keeps what it comes from', async () => {
    await send('POST', '/outcomes', {
      outcomes: [outcome('A title of its own')],
      versions: [
        { with: 'Footbridge', version: '1', date: '2026-06-02', forkOf: 'Gangway' },
        { with: 'Gangway', version: '3.3', date: '2026-06-03', forkOf: '' },
      ],
    });
    const { titles } = (await send('GET', '/kit')).body as { titles: { name: string }[] };
    expect(titles.filter(({ name }) => name === 'A title of its own')).toHaveLength(1);
    const { versions } = (await send('GET', '/outcomes')).body as {
      versions: { with: string; forkOf: string }[];
    };
    expect(versions.find((one) => one.with === 'Footbridge')).toMatchObject({ forkOf: 'Gangway' });
    const itself = { with: 'Gangway', version: '9', date: '2026-06-04', forkOf: 'gangway' };
    expect((await send('POST', '/outcomes', { versions: [itself] })).body.field).toBe('versions.0.forkOf');
    expect(versions.filter((one) => one.with === 'Gangway').every((one) => one.forkOf === null)).toBe(true);
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
