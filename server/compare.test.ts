import { randomUUID } from 'node:crypto';
import { importPath, startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

const json = { 'content-type': 'application/json' };
const send = (method: string, path: string, body: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, JSON.stringify(body), json);
const get = async (path: string): Promise<any> => (await harness.request('GET', path)).body; // eslint-disable-line @typescript-eslint/no-explicit-any -- answers are examined field by field

/** A run file of a steady pace, a thousand seconds long. */
async function bring(fps: number, header: object = {}, lines: object[] = []): Promise<string> {
  const content = [
    {
      type: 'run',
      version: 1,
      device: 'Velm 5',
      title: 'Aurelune',
      setup: 'Highest',
      target: 60,
      room: 18,
      ...header,
    },
    { type: 'frames', atMs: 0, us: Array<number>(Math.round(fps * 1000)).fill(Math.round(1e6 / fps)) },
    ...lines,
  ];
  const { status, body } = await harness.request(
    'POST',
    importPath({ facts: null, fileName: 'a.pace.ndjson', again: true }),
    content.map((line) => JSON.stringify(line)).join('\n'),
  );
  expect([status, body.message]).toEqual([201, undefined]);
  return body.id;
}

const compare = async (kind: string, sides: string[][], more: object = {}) => {
  const id = randomUUID();
  return send('POST', '/comparisons', { id, kind, sides: sides.map((runs) => ({ runs })), ...more });
};

describe('a pair', () => {
  let velm: string;
  let kitto: string;
  beforeAll(async () => {
    velm = await bring(50, {}, [{ type: 'skin', atMs: 500_000, spot: 'back', c: 40, by: 'infrared' }]);
    kitto = await bring(40, { device: 'Kitto Mini', room: 31 }, [
      { type: 'skin', atMs: 510_000, spot: 'back', c: 45, by: 'infrared' },
    ]);
  });

  it('is answered from the stored figures, with splits and warmth beside each other', async () => {
    const { status, body } = await compare('pair', [[velm], [kitto]]);
    expect(status).toBe(201);
    expect(body.sides).toEqual(['Velm 5', 'Kitto Mini']);
    expect(body.name).toBe('Velm 5 and Kitto Mini: Aurelune');
    expect(body.pair.comparison.measures.average.by).toBeCloseTo(0.8, 3);
    expect(body.pair.comparison.mismatches.map((one: { kind: string }) => one.kind)).toContain('room');
    expect(body.answer).toMatch(
      /^Velm 5 is faster: .*But Kitto Mini stays cooler\. And room temperature 18.0.°C against 31.0.°C favours Velm 5/,
    );
    expect(body.pair.splits.map((table: unknown[]) => table.length)).toEqual([4, 4]);
    expect(body.pair.warmth).toEqual([
      {
        spot: 'back',
        by: ['infrared', 'infrared'],
        rows: [{ atS: 500, first: { c: 40, how: 'read' }, second: { c: 45, how: 'read' } }],
      },
    ]);
  });

  it('is computed anew when a run was corrected, and says what it said when it was kept', async () => {
    const made = (await compare('pair', [[velm], [kitto]])).body;
    const kept = await send('PATCH', `/comparisons/${made.id}`, { kept: true, name: 'For the ferry' });
    expect(kept.body).toMatchObject({ kept: true, name: 'For the ferry', answerThen: made.answer });
    await send('PATCH', `/runs/${kitto}`, { roomC: 18 });
    const after = await get(`/comparisons/${made.id}`);
    expect(after.answer).toMatch(/^Velm 5 is faster: [^B]*\.$/);
    expect(after.answerThen).toBe(made.answer);
    expect((await get('/comparisons'))[0]).toMatchObject({ id: made.id, name: 'For the ferry' });
    await send('PATCH', `/runs/${kitto}`, { roomC: 31 });
  });

  it('that is not the same work has no answer unless it is asked for', async () => {
    const other = await bring(30, { title: 'Saltmarsh Drift' });
    const { body } = await compare('pair', [[velm], [other]]);
    expect(body.answer).toBeNull();
    expect(body.pair.otherWork.map((one: { kind: string }) => one.kind)).toEqual(['title']);
    const anyway = await send('PATCH', `/comparisons/${body.id}`, { anyway: true });
    expect(anyway.body.answer).toMatch(/^Test conditions differ \(title\)\./);
    await harness.request('DELETE', `/runs/${other}`);
  });

  it('is made once, however often it is sent', async () => {
    const body = { id: randomUUID(), kind: 'pair', sides: [{ runs: [velm] }, { runs: [kitto] }] };
    const answers = await Promise.all([1, 2, 3].map(() => send('POST', '/comparisons', body)));
    expect(answers.map((answer) => answer.status)).toEqual([201, 201, 201]);
    const { rows } = await harness.pool.query('select 1 from comparison_run where comparison_id = $1', [
      body.id,
    ]);
    expect(rows).toHaveLength(2);
  });

  it.each<[string, () => object, RegExp]>([
    [
      'the same run on both sides',
      () => ({ sides: [{ runs: [velm] }, { runs: [velm] }] }),
      /is on two sides/,
    ],
    [
      'a run that is not there',
      () => ({ sides: [{ runs: [velm] }, { runs: [randomUUID()] }] }),
      /missing or deleted/,
    ],
    ['one side', () => ({ sides: [{ runs: [velm] }] }), /two sides/],
    ['an empty side', () => ({ sides: [{ runs: [velm] }, { runs: [] }] }), /at least one run/],
    [
      'a pair of three',
      () => ({ sides: [{ runs: [velm] }, { runs: [kitto] }, { runs: [randomUUID()] }] }),
      /two sides/,
    ],
    [
      'a margin of nothing',
      () => ({ sides: [{ runs: [velm] }, { runs: [kitto] }], margin: 0 }),
      /at least 0.1/,
    ],
    ['U+0000', () => ({ name: 'a\u0000b', sides: [{ runs: [velm] }, { runs: [kitto] }] }), /./],
  ])('refuses %s, and stores nothing', async (_, body, message) => {
    const id = randomUUID();
    const { status, body: problem } = await send('POST', '/comparisons', { id, kind: 'pair', ...body() });
    expect(status).toBeGreaterThanOrEqual(400);
    expect(status).toBeLessThan(500);
    expect(JSON.stringify(problem)).toMatch(message);
    expect((await harness.request('GET', `/comparisons/${id}`)).status).toBe(404);
  });

  it('loses a deleted run, says so, and has it back', async () => {
    const extra = await bring(52);
    const { body } = await compare('pair', [[velm, extra], [kitto]]);
    expect((await get(`/runs/${extra}/comparisons`)).map((one: { id: string }) => one.id)).toEqual([body.id]);
    await harness.request('DELETE', `/runs/${extra}`);
    expect(await get(`/comparisons/${body.id}`)).toMatchObject({ gone: 1, runs: 2 });
    await harness.request('POST', `/runs/${extra}/restore`);
    expect(await get(`/comparisons/${body.id}`)).toMatchObject({ gone: 0, runs: 3 });
    await harness.request('DELETE', `/runs/${velm}`);
    await harness.request('DELETE', `/runs/${extra}`);
    expect(await get(`/comparisons/${body.id}`)).toMatchObject({ gone: 2, pair: null, answer: null });
    for (const run of [velm, extra]) await harness.request('POST', `/runs/${run}/restore`);
    await harness.request('DELETE', `/runs/${extra}`);
  });

  it('keeps a side whose runs are gone for good, to be filled again', async () => {
    const gone = await bring(41);
    const { id } = (await compare('pair', [[velm], [gone]])).body;
    await harness.pool.query('delete from run where id = $1', [gone]);
    expect(await get(`/comparisons/${id}`)).toMatchObject({
      gone: 0,
      runs: 1,
      pair: null,
      side: [{}, { runs: [] }],
    });
    const filled = await send('PATCH', `/comparisons/${id}`, {
      sides: [{ runs: [velm] }, { runs: [kitto] }],
    });
    expect(filled.body.answer).toMatch(/^Velm 5 is faster/);
  });

  it('is deleted and restored', async () => {
    const { id } = (await compare('pair', [[velm], [kitto]])).body;
    expect((await harness.request('DELETE', `/comparisons/${id}`)).status).toBe(204);
    expect((await harness.request('GET', `/comparisons/${id}`)).status).toBe(404);
    expect((await harness.request('POST', `/comparisons/${id}/restore`)).status).toBe(204);
    expect((await harness.request('GET', `/comparisons/${id}`)).status).toBe(200);
    expect((await harness.request('DELETE', `/comparisons/${randomUUID()}`)).status).toBe(404);
  });
});

describe('a field, a matrix and a rating', () => {
  const device = (name: string) => ({ device: name, title: 'Skiff 120' });
  it('marks the best only where it is clear, and rates over common titles', async () => {
    const sides = [
      [await bring(60, device('A1')), await bring(58, { ...device('A1'), title: 'Hexgarden' })],
      [await bring(45, device('B2')), await bring(57.5, { ...device('B2'), title: 'Hexgarden' })],
      [await bring(30, device('C3')), await bring(58, { ...device('C3'), title: 'Iron Orchard' })],
    ];
    const field = (
      await compare(
        'field',
        sides.map((runs) => [runs[0]!]),
      )
    ).body;
    expect(field.rows).toHaveLength(1);
    expect(field.rows[0].measures.average).toMatchObject({ order: [0, 1, 2], clear: true });
    expect(field.answer).toMatch(/^A1 \(60.fps\) is clearly the fastest of 3\.$/);
    const matrix = (await compare('matrix', sides)).body;
    const row = (title: string) => matrix.rows.find((one: { title: string }) => one.title === title);
    expect(row('Hexgarden').measures.average.clear).toBe(false);
    expect(row('Hexgarden').cells.map((cell: { state: string }) => cell.state)).toEqual([
      'ran',
      'ran',
      'not tested',
    ]);
    expect(matrix.rating.common).toEqual(['Skiff 120 (Highest)']);
    expect(matrix.rating.leftOut.map((one: { reason: string }) => one.reason)).toEqual([
      'not on all',
      'not on all',
    ]);
    expect(
      matrix.rating.devices.map((one: { parts: { pace: number } }) => Math.round(one.parts.pace)),
    ).toEqual([100, 50, 0]);
  });

  it('knows DNS, DNF and what is not offered, and keeps weak values out of everything', async () => {
    const dns = await send('POST', '/runs', {
      name: null,
      facts: { device: 'A1', title: 'Night Ferry', setup: null, target: null, refresh: null, roomC: null },
      entries: [{ type: 'end', atMs: 5000, reason: 'would-not-start' }],
    });
    const dnf = await bring(40, { device: 'B2', title: 'Night Ferry', setup: undefined }, [
      { type: 'end', atMs: 900_000, reason: 'crash' },
    ]);
    const ran = await bring(40, { device: 'C3', title: 'Hexgarden', setup: undefined });
    const weak = {
      id: randomUUID(),
      device: 'C3',
      title: 'Night Ferry',
      source: 'memory',
      who: 'R.',
      dated: '2026-03-01',
    };
    expect(
      (await send('POST', '/weak-values', { ...weak, measure: 'not offered', value: null })).status,
    ).toBe(201);
    const value = {
      ...weak,
      id: randomUUID(),
      device: 'B2',
      measure: 'average',
      value: 99,
      low: 90,
      high: 100,
    };
    expect((await send('POST', '/weak-values', value)).body).toMatchObject({ value: 99, source: 'memory' });
    const { body } = await compare('matrix', [[dns.body.id], [dnf], [ran]]);
    const ferry = body.rows.find((one: { title: string }) => one.title === 'Night Ferry');
    expect(ferry.cells.map((cell: { state: string }) => cell.state)).toEqual(['DNS', 'DNF', 'not offered']);
    expect(ferry.measures.average.places[1].value).toBeCloseTo(40, 6);
    expect(body.weak).toHaveLength(2);
    expect((await harness.request('DELETE', `/weak-values/${value.id}`)).status).toBe(204);
    expect((await get(`/comparisons/${body.id}`)).weak).toHaveLength(1);
  });

  it.each([
    [{ measure: 'average', value: null }, /enter a value/],
    [{ measure: 'average', value: 50, low: 60 }, /between/],
    [{ measure: 'not offered', value: 1 }, /none if/],
    [{ measure: 'charm', value: 1 }, /./],
  ])('refuses the weak value %j', async (wrong, message) => {
    const { status, body } = await send('POST', '/weak-values', {
      id: randomUUID(),
      device: 'A1',
      title: 'Aurelune',
      source: 'memory',
      ...wrong,
    });
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toMatch(message);
  });
});

describe('the archive', () => {
  it('is the pooled spread of the library’s repeats', async () => {
    const of = (setup: string) => ({ device: 'Oru Fold', title: 'Glass Canyon', setup });
    for (const fps of [30, 31, 33]) await bring(fps, of('1×'));
    for (const fps of [40, 42]) await bring(fps, of('2×'));
    const { rows } = await harness.pool.query<{ ln: number; setup: string }>(
      "select ln((comparing -> 'values' -> 'average' ->> 'value')::float8) as ln, setup.name as setup from run join analysis on run_id = run.id join title on title.id = title_id join setup on setup.id = setup_id where title.name = 'Glass Canyon'",
    );
    const squares = (setup: string): { n: number; squares: number } => {
      const own = rows.filter((row) => row.setup === setup).map((row) => row.ln);
      const mean = own.reduce((sum, x) => sum + x, 0) / own.length;
      return { n: own.length, squares: own.reduce((sum, x) => sum + (x - mean) ** 2, 0) };
    };
    const spread = (await get('/spread')).find((one: { measure: string }) => one.measure === 'average');
    expect(spread).toMatchObject({ groups: 2, freedom: 3, habit: 0.02 });
    const variance = (squares('1×').squares + squares('2×').squares) / 3;
    expect(spread.archive).toBeCloseTo(Math.sqrt(variance), 12);
    expect(spread.taken).toBeCloseTo(Math.sqrt((4 * 0.02 ** 2 + 3 * variance) / 7), 12);
    // and the sides' own groups are left out of it
    const one = await bring(30, { device: 'Oru Fold', title: 'Pico Harbour', setup: '1×' });
    const other = await bring(31, { device: 'Velm 4', title: 'Pico Harbour', setup: '1×' });
    const { pair } = (await compare('pair', [[one], [other]])).body;
    expect(pair.comparison.measures.average.spread).toMatchObject({ fromArchive: 3, freedom: 7 });
  });
});

describe('a run among the others', () => {
  it('stands among comparable ones alone', async () => {
    const of = (device: string, more = {}) => ({
      device,
      title: 'Copperline Squad',
      setup: 'Fluid',
      ...more,
    });
    const own = await bring(50, of('Velm 5'));
    await bring(60, of('Velm 4'));
    await bring(40, of('Kitto Mini'));
    await bring(40, of('Brask Slate 11', { room: 31 }));
    await bring(40, of('Quill Deck', { setup: 'Detail' }));
    const standing = await get(`/runs/${own}/standing?scope=setup`);
    expect(standing).toMatchObject({ counted: 3, leftOut: [{ why: 'room', count: 1 }] });
    expect(standing.measures[0]).toMatchObject({ measure: 'average', place: 2, of: 3 });
    expect((await get(`/runs/${own}/standing?scope=title`)).counted).toBe(4);
    expect((await get(`/runs/${own}/standing?scope=demand`)).measures).toEqual([]);
    expect((await harness.request('GET', `/runs/${own}/standing?scope=moon`)).status).toBe(400);
  });

  it('may be set against the one before, the same chip, and itself with and without', async () => {
    await send('POST', '/kit/device', { name: 'New', facts: { chip: 'Tarn T9', successorOf: 'Old' } });
    await send('POST', '/kit/device', { name: 'Old', facts: { chip: 'Tarn T8' } });
    await send('POST', '/kit/device', { name: 'Twin', facts: { chip: 'Tarn T9' } });
    const of = (device: string, more = {}) => ({ device, title: 'Iron Orchard', setup: 'Safe', ...more });
    const own = await bring(50, of('New', { preflight: { cooler: 'with' } }));
    const runs = {
      'the one before': await bring(50, of('Old')),
      'same title and setup': await bring(50, of('Velm 5')),
      'with and without': await bring(50, of('New', { preflight: { cooler: 'without' } })),
      'same chip': await bring(50, of('Twin')),
      'another setup': await bring(50, of('New', { setup: 'Fast' })),
    };
    const found = await get(`/runs/${own}/against`);
    expect(
      Object.fromEntries(
        found.map((one: { why: string; runs: { id: string }[] }) => [one.why, one.runs[0]!.id]),
      ),
    ).toEqual(runs);
    expect(found[0].says).toBe('Old, its predecessor');
  });
});
