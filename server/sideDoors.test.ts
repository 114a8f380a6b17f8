import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import { answerBroken } from './routes/broken';
import { continueClock, followDatabase, serverNow } from './services/serverClock';
import { startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => (harness = await startHarness()));
afterAll(() => harness.close());

describe('the clock', () => {
  afterEach(() => {
    followDatabase(0);
    continueClock(null);
    jest.restoreAllMocks();
  });

  it('goes on from where a run was last heard, and believes no time of the year 2199', () => {
    expect(continueClock(Date.now() + 60_000)).toBeGreaterThan(59_000);
    expect(serverNow() - Date.now()).toBeGreaterThan(59_000);
    expect(continueClock(Date.UTC(2199, 0))).toBe(0);
    expect(Math.abs(serverNow() - Date.now())).toBeLessThan(1000);
  });
  it('is the database’s where machines differ, and its own within the way there and back', () => {
    followDatabase(-20_000);
    expect(serverNow() - Date.now()).toBeLessThan(-19_000);
    followDatabase(150);
    expect(Math.abs(serverNow() - Date.now())).toBeLessThan(100);
  });
  it('that differs from the database’s by 20 s makes the server not ready, and says so', async () => {
    const ready = async (): Promise<[number, string]> => {
      const answer = await fetch(`${harness.address}/readyz`);
      return [answer.status, await answer.text()];
    };
    expect((await ready())[0]).toBe(200);
    const real = Date.now;
    jest.spyOn(Date, 'now').mockImplementation(() => real() + 20_000);
    const [status, said] = await ready();
    expect(status).toBe(503);
    expect(said).toContain('differ by 20 s');
  });
});

it('figures of the machine are for nobody that a proxy speaks for, whatever it adds', async () => {
  const asked = async (headers: Record<string, string>): Promise<number> =>
    (await fetch(`${harness.address}/metrics`, { headers })).status;
  expect(await asked({})).toBe(200);
  for (const header of [
    'x-forwarded-for',
    'x-real-ip',
    'forwarded',
    'via',
    'x-client-ip',
    'cf-connecting-ip',
  ])
    expect([header, await asked({ [header]: '203.0.113.9' })]).toEqual([
      header,
      expect.not.stringMatching('200'),
    ]);
});

it('headers that are too long get an answer with a body', async () => {
  const server = createServer((_request, response) => response.end('never'));
  server.on('clientError', answerBroken);
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  const socket = connect((server.address() as AddressInfo).port, '127.0.0.1');
  socket.write(`GET / HTTP/1.1\r\nHost: a\r\nCookie: ${'x'.repeat(40_000)}\r\n\r\n`);
  const answer = await text(socket);
  expect(answer).toMatch(/^HTTP\/1\.1 431 /);
  expect(JSON.parse(answer.split('\r\n\r\n')[1]!)).toMatchObject({
    code: 'bad-request',
    remedy: expect.any(String),
  });
  server.close();
});

it('a run sent under the id of another one is told, and the same one sent twice is there once', async () => {
  const id = randomUUID();
  const make = async (device: string): Promise<{ done: string[]; refused: { reason: string }[] }> =>
    (
      await harness.request(
        'POST',
        `/runs/${id}/changes`,
        JSON.stringify({
          changes: [
            {
              id: randomUUID(),
              kind: 'make',
              run: {
                name: null,
                facts: { device, title: 'Aurelune', setup: null, target: 60, refresh: 60, roomC: 18 },
                entries: [{ type: 'rate', atMs: 1000, fps: 52, by: 'overlay' }],
              },
            },
          ],
        }),
        { 'content-type': 'application/json' },
      )
    ).body;
  expect((await make('Velm 5')).refused).toEqual([]);
  expect((await make('velm 5')).refused).toEqual([]);
  const { refused } = await make('Kitto Mini');
  expect(refused[0]!.reason).toContain('Another run has this id: Aurelune on Velm 5.');
  const { rowCount } = await harness.pool.query('select 1 from run');
  expect(rowCount).toBe(1);
});

it('a record that cannot be read is left out of its list and listed by itself', async () => {
  const [odd, good] = [randomUUID(), randomUUID()];
  await harness.pool.query(`insert into ladder (id, doc) values ($1, '{}')`, [odd]);
  await harness.pool.query(`insert into outcome (id, doc) values ($1, '{"status": 7}')`, [odd]);
  const doc = {
    device: 'Velm 5',
    title: 'Rook Tower',
    axis: 'internal resolution',
    rungs: [{ name: '1x' }, { name: '2x' }],
  };
  await harness.request('POST', '/ladders', JSON.stringify({ id: good, doc }), {
    'content-type': 'application/json',
  });
  const list = await harness.request('GET', '/ladders');
  expect([list.status, list.body.map((one: { id: string }) => one.id)]).toEqual([200, [good]]);
  expect(await harness.request('GET', '/outcomes')).toMatchObject({ status: 200, body: { outcomes: [] } });
  const { body } = await harness.request('GET', '/unreadable');
  expect(body).toEqual([
    { table: 'ladder', id: odd, reason: '“device” is missing' },
    { table: 'outcome', id: odd, reason: expect.any(String) },
  ]);
  // it can be deleted all the same
  expect((await harness.request('DELETE', `/ladders/${odd}`)).status).toBeLessThan(300);
});

it('a device typed by a known name in other letters keeps what is known of it; what is not known is added', async () => {
  const add = async (name: string, facts: object): Promise<string> =>
    (
      await harness.request('POST', '/kit/device', JSON.stringify({ name, facts }), {
        'content-type': 'application/json',
      })
    ).body.id as string;
  const id = await add('Brask Slate 11', { batteryWh: 15 });
  expect(await add('BRASK slate 11', { batteryWh: 99, chip: 'Tarn T4' })).toBe(id);
  const { devices } = (await harness.request('GET', '/kit')).body as {
    devices: { id: string; name: string; facts: object }[];
  };
  expect(devices.filter((one) => /brask/i.test(one.name))).toMatchObject([
    { id, name: 'Brask Slate 11', facts: { batteryWh: 15, chip: 'Tarn T4' } },
  ]);
});

describe('two tabs', () => {
  const send = (method: string, path: string, body: unknown): ReturnType<Harness['request']> =>
    harness.request(method, path, JSON.stringify(body), { 'content-type': 'application/json' });

  it('change other fields of a device: both stay; the same field: the second one is told', async () => {
    const opened = { name: 'Oru Fold', facts: { batteryMah: 4300, chip: 'Tarn T3' }, spots: [] };
    const { id } = (await send('POST', '/kit/device', opened)).body as { id: string };
    const from = (facts: object, more: object = {}): object => ({ ...opened, ...more, facts, base: opened });
    const put = async (body: object): Promise<number> =>
      (await send('PUT', `/kit/device/${id}`, body)).status;
    expect(await put(from({ batteryMah: 4400, chip: 'Tarn T3' }))).toBe(200);
    const spots = [{ spot: 'hinge', side: 'back', x: 0.1, y: 0.5 }];
    expect(await put(from({ batteryMah: 4300, chip: 'Corrie C9' }, { spots }))).toBe(200);
    const now = async (): Promise<object> =>
      ((await harness.request('GET', '/kit')).body as { devices: { id: string }[] }).devices.find(
        (one) => one.id === id,
      )!;
    expect(await now()).toMatchObject({ facts: { batteryMah: 4400, chip: 'Corrie C9' }, spots });
    const refused = await send('PUT', `/kit/device/${id}`, from({ batteryMah: 4500, chip: 'Tarn T3' }));
    expect(refused).toMatchObject({ status: 409, body: { code: 'changed-meanwhile' } });
    expect(refused.body.message).toContain('batteryMah');
    expect(await now()).toMatchObject({ facts: { batteryMah: 4400, chip: 'Corrie C9' } });
  });

  it('change other thresholds: both stay; the same ones: the second one is told', async () => {
    const base = {
      reaction: { average: 57, low: 45 },
      action: { average: 45, low: 30 },
      story: { average: 29, low: 22 },
      slow: { average: 24, low: 15 },
    };
    await send('PUT', '/settings', { bars: base });
    const set = (bars: object): ReturnType<Harness['request']> => send('PUT', '/settings', { bars, base });
    expect((await set({ ...base, story: { average: 30, low: 24 } })).status).toBe(200);
    const second = await set({ ...base, slow: { average: 20, low: 15 } });
    expect(second.body.bars).toMatchObject({ story: { average: 30 }, slow: { average: 20 } });
    expect((await set({ ...base, story: { average: 40, low: 24 } })).status).toBe(409);
  });

  it('change the sides of a comparison: the second one is told, and nothing of it is stored', async () => {
    const runs: string[] = [];
    for (const device of ['Velm 4', 'Velm 5', 'Kitto Mini'])
      runs.push(
        (
          await send('POST', '/runs', {
            name: null,
            facts: { device, title: 'Saltmarsh Drift', setup: null, target: 60, refresh: 60, roomC: 18 },
            entries: [{ type: 'rate', atMs: 1000, fps: 52, by: 'overlay' }],
          })
        ).body.id as string,
      );
    const id = randomUUID();
    const sides = [{ runs: [runs[0]] }, { runs: [runs[1]] }];
    await send('POST', '/comparisons', { id, kind: 'pair', sides });
    const seen = [[runs[0]], [runs[1]]];
    const change = (second: string): ReturnType<Harness['request']> =>
      send('PATCH', `/comparisons/${id}`, { seen, sides: [{ runs: [runs[0]] }, { runs: [second] }] });
    expect((await change(runs[2]!)).status).toBe(200);
    const late = await change(runs[1]!);
    expect(late).toMatchObject({ status: 409, body: { code: 'changed-meanwhile' } });
    const { side } = (await harness.request('GET', `/comparisons/${id}`)).body as {
      side: { runs: { id: string }[] }[];
    };
    expect(side.map((one) => one.runs.map((run) => run.id))).toEqual([[runs[0]], [runs[2]]]);
  });
});
