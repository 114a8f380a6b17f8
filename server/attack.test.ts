import { randomUUID } from 'node:crypto';
import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { request as plainRequest } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import {
  USUAL_BENCH_PLAN,
  type BatchTaken,
  type BenchState,
  type LivePace,
  type RunDetail,
  type SourceWithKey,
} from '@pace-check/contract';
import { LONGEST_RUN_S, type EntryLine } from '@pace-check/core';
import { LOOPBACK, migrate, openPool } from './index';
import { sweepUploads } from './routes/upload';
import { problemOf } from './services/faults';
import { continueClock, serverNow } from './services/serverClock';
import { inTransaction } from './sql/database';
import { keepClock, lastHeardMs } from './sql/recordings';
import { importPath, rowCounts, startHarness, type Harness } from './testing/harness';

/** What once broke the server, or was taken for something that it is not. */

let harness: Harness;
beforeAll(async () => (harness = await startHarness()));
afterAll(() => harness.close());

const json = { 'content-type': 'application/json' };
const send = (method: string, path: string, body?: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, body === undefined ? undefined : JSON.stringify(body), json);
const importText = (
  content: BodyInit,
  details: Parameters<typeof importPath>[0] = {},
): ReturnType<Harness['request']> => harness.request('POST', importPath(details), content);
const facts = { device: 'Velm 5', title: 'Aurelune', setup: null, target: 60, refresh: 120 };
const opening = (): object => ({
  id: randomUUID(),
  kind: 'open',
  facts,
  preflight: {},
  plan: USUAL_BENCH_PLAN,
  speed: 60,
  step: null,
});
const change = (run: string, ...changes: object[]): ReturnType<Harness['request']> =>
  send('POST', `/bench/${run}/changes`, { changes: changes.map((one) => ({ id: randomUUID(), ...one })) });
const put = (line: EntryLine): object => ({
  kind: 'put',
  entry: randomUUID(),
  line,
  open: false,
  writer: 'phone',
});
const skin = (atMs: number, c: number): EntryLine => ({
  type: 'skin',
  atMs,
  spot: 'back',
  c,
  by: 'infrared',
});

async function started(ago = 60_000): Promise<string> {
  const run = randomUUID();
  await change(run, opening(), { kind: 'start', at: Date.now() - ago });
  return run;
}
const source = async (run: string): Promise<SourceWithKey> =>
  (await send('POST', `/bench/${run}/sources`, { name: 'logger', kind: 'handset' })).body;
const batch = (key: string, seq: number | string, text: string, query = ''): ReturnType<Harness['request']> =>
  harness.request('POST', `/live?seq=${seq}${query}`, text, { authorization: `Bearer ${key}` });
const frames = (atMs: number, count: number): string =>
  JSON.stringify({ type: 'frames', atMs, us: Array<number>(count).fill(20_000) });
const state = async (run: string): Promise<BenchState> => (await send('GET', `/bench/${run}`)).body;

const LIMIT_MS = 60_000;
async function until(holds: () => boolean | Promise<boolean>): Promise<void> {
  for (const end = performance.now() + LIMIT_MS; !(await holds());) {
    if (performance.now() > end) throw new Error('it never happened');
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

async function settled(run: string): Promise<RunDetail> {
  await until(async () => (await state(run)).recording.settled);
  return (await send('GET', `/runs/${run}`)).body;
}

describe('imports that are cancelled', () => {
  it('leave a thread for those that wait, and corrections go on meanwhile', async () => {
    const good = `frame_time_ms\n${'20\n'.repeat(500)}`;
    const { body: run } = await importText(good);
    const long = `frame_time_ms\n${'20\n'.repeat(2_000_000)}`;
    const reading = jest.spyOn(harness.analyses, 'read');
    const cancels = Array.from({ length: 4 }, () => new AbortController());
    const sent = cancels.map(({ signal }, i) =>
      fetch(`${harness.address}/api${importPath({ name: `long ${i}` })}`, {
        method: 'POST',
        body: long,
        headers: { 'x-pace-check-upload': '1' },
        signal,
      }).catch(() => null),
    );
    await until(() => reading.mock.calls.length > 0);
    const corrections = Array.from({ length: 12 }, (_, i) =>
      send('PATCH', `/runs/${run.id}`, { target: 40 + i }),
    );
    for (const cancel of cancels) cancel.abort();
    await Promise.all(sent);
    for (const { status } of await Promise.all(corrections)) expect(status).toBe(200);
    expect((await importText(`frame_time_ms\n${'21\n'.repeat(500)}`)).status).toBe(201);
    expect((await send('GET', '/health')).status).toBe(200);
    reading.mockRestore();
  });
  it('are told to come again where too many wait', async () => {
    const long = `frame_time_ms\n${'20\n'.repeat(300_000)}`;
    const answers = await Promise.all(
      Array.from({ length: 16 }, (_, i) => importText(long, { name: `crowd ${i}`, again: true })),
    );
    const statuses = answers.map(({ status }) => status);
    expect(statuses.filter((status) => status === 201).length).toBeGreaterThanOrEqual(8);
    for (const { status, body } of answers)
      if (status !== 201) expect({ status, body }).toMatchObject({ status: 429, body: { code: 'busy' } });
    const { rows } = await harness.pool.query<{ count: number }>(
      "select count(*)::int as count from run where name like 'crowd %'",
    );
    expect(rows[0]!.count).toBe(statuses.filter((status) => status === 201).length);
  });
});

describe('figures and their run', () => {
  it('belong together: many changes at once, and the figures are those of what is stored', async () => {
    const { body: run } = await importText(`frame_time_ms\n${'19\n'.repeat(3000)}`);
    await Promise.all(
      Array.from({ length: 10 }, (_, i) =>
        send('POST', `/runs/${run.id}/entries`, { entries: [skin(i * 1000, 30 + i)] }),
      ),
    );
    const { figures, entries } = (await send('GET', `/runs/${run.id}`)).body as RunDetail;
    expect(entries).toHaveLength(10);
    expect(figures.warmth.peakC).toBe(39);
    const { rows } = await harness.pool.query<{ same: boolean }>(
      'select run.revision = analysis.revision as same from run join analysis on run_id = run.id where run.id = $1',
      [run.id],
    );
    expect(rows).toEqual([{ same: true }]);
  });
  it('are computed anew where the server died between a change and its figures', async () => {
    const { body: run } = await importText(`frame_time_ms\n${'18\n'.repeat(3000)}`);
    await harness.pool.query('update run set target_fps = 55, revision = revision + 1 where id = $1', [
      run.id,
    ]);
    const listed = ((await send('GET', '/runs')).body as RunDetail[]).find(({ id }) => id === run.id)!;
    expect(listed.headline).toBeNull();
    expect(((await send('GET', `/runs/${run.id}`)).body as RunDetail).figures.stamina.onTarget).toBe(1);
  });
});

describe('one reading at milliseconds since 1970', () => {
  it('is refused with its field, by every way in', async () => {
    const line = { type: 'skin', atMs: Date.now(), spot: 'back', c: 36, by: 'infrared' };
    const hand = await send('POST', '/runs', {
      name: null,
      facts: { ...facts, roomC: null },
      entries: [line],
    });
    expect(hand).toMatchObject({
      status: 400,
      body: { field: 'entries.0.atMs', message: expect.stringContaining('not since 1970') },
    });
    const file = await importText(
      `{"type":"run","version":1,"device":"Velm 5","title":"Aurelune"}\n${JSON.stringify(line)}\n`,
      { facts: null },
    );
    expect(file).toMatchObject({ status: 422, body: { line: 2, message: expect.stringContaining('48 h') } });
    const run = await started();
    expect((await change(run, put(line as EntryLine))).body.refused[0].reason).toContain('48 h');
  });
  it('that is stored from before makes no lane longer than a run may be', async () => {
    const { body: run } = await send('POST', '/runs', {
      name: 'From before',
      facts: { ...facts, roomC: null },
      entries: [skin(1000, 36)],
    });
    await harness.pool.query(
      `update entry set at_ms = 1795000000000, line = line || '{"atMs":1795000000000}' where run_id = $1`,
      [run.id],
    );
    await harness.pool.query('update run set revision = revision + 1 where id = $1', [run.id]);
    const { lane } = (await send('GET', `/runs/${run.id}`)).body as RunDetail;
    expect(lane.seconds).toBe(LONGEST_RUN_S);
    await harness.pool.query(
      `update analysis set summary = jsonb_set(summary, '{lane,seconds}', '1795000000') where run_id = $1`,
      [run.id],
    );
    for (const { lane: listed } of (await send('GET', '/runs')).body as RunDetail[])
      expect(listed.seconds).toBeLessThanOrEqual(LONGEST_RUN_S);
  });
});

describe('a number that comes again', () => {
  it('with the same content is a batch sent twice, with other content is refused with the next one', async () => {
    const run = await started();
    const { key } = await source(run);
    for (let seq = 0; seq < 3; seq++)
      expect((await batch(key, seq, frames(seq * 2000, 100))).body).toMatchObject({
        duplicate: false,
        next: seq + 1,
      });
    expect((await batch(key, 1, frames(2000, 100))).body).toMatchObject({ duplicate: true, next: 3 });
    // a logger that begins anew at 0
    const anew = await batch(key, 0, frames(6000, 100));
    expect(anew).toMatchObject({
      status: 409,
      body: { code: 'other-content', next: 3, remedy: expect.stringContaining('GET /api/live') },
    });
    expect((await batch(key, 3, frames(6000, 100))).body).toMatchObject({ duplicate: false });
    const [shown] = (await state(run)).recording.sources;
    expect(shown).toMatchObject({
      frames: 400,
      refusals: [{ batch: 0, line: 0, reason: expect.stringContaining('two loggers use this key') }],
    });
    await batch(key, 0, frames(9000, 10));
    expect((await state(run)).recording.sources[0]!.refused).toBe(1);
  });
  it('is known by its content after the batches were packed, and while it waits for one before it', async () => {
    const run = await started();
    const { key } = await source(run);
    expect((await batch(key, 2, frames(4000, 100))).body).toMatchObject({ next: 0 });
    expect((await batch(key, 2, frames(4000, 99))).status).toBe(409);
    expect((await batch(key, 2, frames(4000, 100))).body).toMatchObject({ duplicate: true });
    for (const seq of [0, 1]) await batch(key, seq, frames(seq * 2000, 100));
    await change(run, {
      kind: 'end',
      entry: randomUUID(),
      atMs: 600_000,
      reason: 'planned',
      writer: 'phone',
    });
    expect((await settled(run)).figures.frames.count).toBe(300);
    expect(
      (
        await harness.pool.query(
          'select count(*)::int as rows from source_batch join source on source.id = source_id where source.run_id = $1',
          [run],
        )
      ).rows,
    ).toEqual([{ rows: 1 }]);
    expect((await batch(key, 1, frames(2000, 100))).body).toMatchObject({ duplicate: true, next: 3 });
    expect((await batch(key, 1, frames(2000, 101))).status).toBe(409);
  });
  it('that was stored before digests were kept is taken for the same', async () => {
    const run = await started();
    const { key } = await source(run);
    await batch(key, 0, frames(0, 10));
    await harness.pool.query(
      'update source_batch set digests = null from source where source.id = source_id and source.run_id = $1',
      [run],
    );
    expect((await batch(key, 0, frames(0, 11))).body).toMatchObject({ duplicate: true });
  });
  it('that no number can be is refused', async () => {
    const { key } = await source(await started());
    for (const seq of ['1e19', '-1', '0.5', 'NaN', '']) expect((await batch(key, seq, '')).status).toBe(400);
    expect((await batch(key, 0, '', '&at=1e400')).status).toBe(400);
  });
});

describe('a batch that comes while its run is ended', () => {
  it('is in the figures, whichever was first', async () => {
    for (let round = 0; round < 5; round++) {
      const run = await started();
      const { key } = await source(run);
      for (let seq = 0; seq < 5; seq++) await batch(key, seq, frames(seq * 2000, 100));
      await Promise.all([
        change(run, { kind: 'end', entry: randomUUID(), atMs: 600_000, reason: 'planned', writer: 'phone' }),
        batch(key, 5, frames(10_000, 100)),
        batch(key, 6, frames(12_000, 100)),
      ]);
      await until(async () => (await settled(run)).figures.frames.count === 700);
    }
  });
});

describe('screens that leave', () => {
  it('before their first answer are followed no longer', async () => {
    const run = await started();
    const statements = jest.spyOn(harness.pool, 'query');
    // each listener asks for what is new before the change is answered
    const asked = async (): Promise<number> => {
      statements.mockClear();
      await change(run, put(skin(1000, 30)));
      return statements.mock.calls.length;
    };
    // the run is in memory, as it is once anybody has looked at it
    await state(run);
    const before = await asked();
    const leave = (): Promise<void> =>
      new Promise((resolve) => {
        const sending = plainRequest(`${harness.address}/api/bench/${run}/events`);
        sending.on('error', () => undefined);
        sending.on('socket', (socket) =>
          socket.once('connect', () => setImmediate(() => (sending.destroy(), resolve()))),
        );
        sending.end();
      });
    await Promise.all(Array.from({ length: 100 }, leave));
    // those that were still on their way in are gone, too
    await until(async () => (await asked()) <= before);
    statements.mockRestore();
  });
});

describe('text that cannot be stored', () => {
  const bad = ['nul \u0000 here', 'half \ud800 a pair', 'other half \udc00'];
  it('is refused with its field', async () => {
    for (const name of bad) {
      expect(await send('POST', '/kit/device', { name })).toMatchObject({
        status: 400,
        body: { field: 'name', message: expect.stringContaining('cannot be stored') },
      });
      expect((await send('POST', '/kit/title', { name: 'Aurelune', facts: { notes: name } })).status).toBe(
        400,
      );
      expect(await importText('frame_time_ms\n16\n16\n', { fileName: name })).toMatchObject({
        status: 400,
        body: { field: 'fileName' },
      });
    }
  });
  it('is refused by itself in a batch, the rest is taken', async () => {
    const run = await started();
    const { key } = await source(run);
    const lines = [
      skin(1000, 30),
      { ...skin(2000, 31), spot: bad[0] },
      { ...skin(3000, 32), by: bad[1] },
      skin(4000, 33),
    ]
      .map((line) => JSON.stringify(line))
      .join('\n');
    const { status, body } = (await batch(key, 0, lines)) as { status: number; body: BatchTaken };
    expect(status).toBe(200);
    expect(body).toMatchObject({
      taken: 2,
      next: 1,
      refused: [
        { line: 2, reason: expect.stringContaining('"spot"') },
        { line: 3, reason: expect.stringContaining('"by"') },
      ],
    });
    const told = await change(
      run,
      put(skin(5000, 34)),
      put({ type: 'mark', atMs: 1, kind: 'note', note: bad[0] }),
      put(skin(6000, 35)),
    );
    expect(told.body).toMatchObject({
      done: [expect.any(String), expect.any(String)],
      refused: [{ reason: expect.stringContaining('line.note') }],
    });
  });
  it('among the rows of a log is listed with a dot in its place', async () => {
    const { status, body } = await importText(`frame_time_ms\n${'16\n'.repeat(30_000)}a\u0000b\n`);
    expect(status).toBe(201);
    expect(body.upload.dropped).toEqual([
      { line: 30_002, reason: 'column 1 contains “a·b”, which is not a number' },
    ]);
  });
  it('in a file of the kit leaves nothing behind', async () => {
    const before = await rowCounts(harness.pool);
    const file = JSON.stringify({
      format: 'pace-kit',
      version: 1,
      devices: [{ name: 'Oru Fold' }, { name: bad[0] }],
    });
    expect(await harness.request('POST', '/kit/file', file)).toMatchObject({
      status: 422,
      body: { code: 'kit-file' },
    });
    expect(await rowCounts(harness.pool)).toEqual(before);
  });
  it('and names that look the same are one', async () => {
    const composed = 'Skagerr\u00e5k';
    const { body } = await send('POST', '/kit/device', { name: composed });
    expect((await send('POST', '/kit/device', { name: 'Skagerra\u030ak' })).body.id).toBe(body.id);
  });
});

describe('whom the server listens to', () => {
  const raw = (
    path: string,
    options: { method?: string; headers?: Record<string, string>; body?: string },
  ): Promise<number> =>
    new Promise((resolve, reject) => {
      const sending = plainRequest(
        `${harness.address}${path}`,
        { method: options.method ?? 'GET', headers: options.headers },
        (response) => {
          response.resume();
          response.on('end', () => resolve(response.statusCode!));
        },
      );
      sending.on('error', reject);
      sending.end(options.body);
    });
  it('its own names alone', async () => {
    for (const host of [
      'evil.example',
      'evil.example:4310',
      '127.0.0.1.evil.example',
      'localhost@evil.example',
      '10.0.0.1',
      '[2001:db8::1]',
    ])
      expect(await raw('/api/runs', { headers: { host } })).toBe(421);
    for (const host of ['localhost', 'LOCALHOST:99', '127.0.0.1:4310', '127.0.0.53', '[::1]:4310'])
      expect(await raw('/api/health', { headers: { host } })).toBe(200);
  });
  it('pages of its own alone, for all that changes', async () => {
    const own = new URL(harness.address).host;
    const body = JSON.stringify({ name: 'From elsewhere' });
    const post = (headers: Record<string, string>): Promise<number> =>
      raw('/api/kit/device', { method: 'POST', headers: { ...json, ...headers }, body });
    for (const origin of ['https://evil.example', 'null', 'http://localhost:1', 'nonsense'])
      expect(await post({ origin })).toBe(403);
    for (const site of ['cross-site', 'same-site']) expect(await post({ 'sec-fetch-site': site })).toBe(403);
    expect(
      await raw(`/api/runs/${randomUUID()}`, {
        method: 'DELETE',
        headers: { origin: 'https://evil.example' },
      }),
    ).toBe(403);
    expect(await post({ origin: `http://${own}`, 'sec-fetch-site': 'same-origin' })).toBe(201);
    expect(await raw('/api/runs', { headers: { origin: 'https://evil.example' } })).toBe(200);
  });
  it('what no plain form can send', async () => {
    const post = (path: string, type: string, body: string): Promise<number> =>
      raw(path, { method: 'POST', headers: { 'content-type': type }, body });
    for (const type of [
      'text/plain',
      'application/x-www-form-urlencoded',
      'multipart/form-data; boundary=x',
    ]) {
      expect(await post('/api/kit/device', type, '{"name":"By a form"}')).toBe(415);
      expect(
        await post(
          '/api/kit/file',
          type,
          '{"format":"pace-kit","version":1,"devices":[{"name":"By a form"}]}',
        ),
      ).toBe(403);
      expect(await post(`/api${importPath()}`, type, 'frame_time_ms\n16\n')).toBe(403);
    }
    expect((await harness.pool.query("select 1 from device where name = 'By a form'")).rowCount).toBe(0);
  });
  it('and it says what may run in its pages, and that none may frame them', async () => {
    const { headers } = await fetch(`${harness.address}/api/health`);
    const policy = headers.get('content-security-policy')!;
    expect(policy).toContain("script-src 'self';");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
    expect(headers.get('x-frame-options')).toBe('DENY');
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  });
});

describe('a server that others may reach', () => {
  let open: Harness;
  beforeAll(
    async () =>
      (open = await startHarness({
        door: { ...LOOPBACK, host: '0.0.0.0', names: ['shed.local'], closed: true },
      })),
  );
  afterAll(() => open.close());
  const ask = (path: string, init: RequestInit = {}): Promise<Response> =>
    fetch(`${open.address}${path}`, { redirect: 'manual', ...init });

  it('still takes what sources send with their keys, and says that it is there', async () => {
    expect(
      await (await ask('/api/live', { headers: { authorization: 'Bearer none' } })).json(),
    ).toMatchObject({ code: 'unknown-key' });
    expect((await ask('/api/health')).status).toBe(200);
  });
  it('answers to its addresses and to the names that it was given', async () => {
    const named = (host: string): Promise<number> =>
      new Promise((resolve, reject) => {
        const sending = plainRequest(
          `${open.address}/api/health`,
          { headers: { host } },
          (response) => (response.resume(), resolve(response.statusCode!)),
        );
        sending.on('error', reject);
        sending.end();
      });
    expect(
      await Promise.all(['192.168.1.7:4310', '[fe80::1]:4310', 'shed.local', 'evil.example'].map(named)),
    ).toEqual([200, 200, 200, 421]);
  });
});

describe('several at once', () => {
  it('open runs of one device and title', async () => {
    const runs = Array.from({ length: 20 }, () => randomUUID());
    for (let round = 0; round < 3; round++) {
      const title = `New title ${round}`;
      const all = await Promise.all(
        runs.map((run, i) =>
          change(`${run.slice(0, -1)}${round}`, {
            ...opening(),
            facts: { ...facts, device: `New device ${round}`, title },
            preflight: { roomC: 18 + (i % 3) },
          }),
        ),
      );
      for (const { status, body } of all)
        expect({ status, body }).toMatchObject({ status: 200, body: { refused: [] } });
    }
  });
  it('open the same run in two tabs', async () => {
    for (let round = 0; round < 5; round++) {
      const run = randomUUID();
      const answers = await Promise.all([opening(), opening(), opening()].map((one) => change(run, one)));
      for (const { status, body } of answers)
        expect({ status, body }).toMatchObject({ status: 200, body: { refused: [] } });
      expect((await state(run)).recording.status).toBe('ready');
    }
  });
  it('deadlock, and one of them is run again', async () => {
    const [a, b] = await Promise.all(
      ['Deadlock A', 'Deadlock B'].map(
        async (name) => (await send('POST', '/kit/device', { name })).body.id as string,
      ),
    );
    let both = 0;
    const waited = (): Promise<void> => until(() => both >= 2);
    const attempts: string[] = [];
    const change = (first: string, second: string): Promise<void> =>
      inTransaction(harness.pool, async (db) => {
        attempts.push(first);
        await db.query('update device set created_at = now() where id = $1', [first]);
        both++;
        await waited();
        await db.query('update device set created_at = now() where id = $1', [second]);
      });
    await Promise.all([change(a!, b!), change(b!, a!)]);
    // the one that was taken back may collide once more on its way
    expect(attempts.length).toBeGreaterThanOrEqual(3);
  });
});

describe('what a screen is told', () => {
  it('is bounded after three hours of sensors every second and a title that broke all the time', async () => {
    const run = await started(3 * 60_000);
    const { key } = await source(run);
    const lines: string[] = [];
    for (let s = 0; s < 10_800; s += 1) {
      lines.push(
        JSON.stringify({ type: 'battery', atMs: s * 1000, percent: 100 - Math.floor(s / 200) }),
        JSON.stringify({ type: 'power', atMs: s * 1000, mw: 4000 + (s % 50) }),
        JSON.stringify({ type: 'load', atMs: s * 1000, cpu: 20 + (s % 9), gpu: 70 }),
        JSON.stringify({ ...skin(s * 1000, 30 + s / 2000), spot: 'front' }),
      );
    }
    const size = 6000;
    for (let from = 0, seq = 0; from < lines.length; from += size, seq++)
      expect((await batch(key, seq, lines.slice(from, from + size).join('\n'))).status).toBe(200);
    const us = Array.from({ length: 200 }, (_, i) => (i % 20 === 19 ? 150_000 : 16_000));
    let seq = Math.ceil(lines.length / size);
    const length = us.reduce((sum, one) => sum + one, 0) / 1000;
    for (let atMs = 0, text: string[] = []; atMs < 10_800_000;) {
      text.push(JSON.stringify({ type: 'frames', atMs, us }));
      atMs += length;
      if (text.length === 400 || atMs >= 10_800_000) {
        expect((await batch(key, seq++, text.join('\n'))).body).toMatchObject({ refused: [] });
        text = [];
      }
    }
    const told = await state(run);
    const bytes = JSON.stringify(told).length;
    expect(bytes).toBeLessThan(300_000);
    expect(JSON.stringify(told.live).length).toBeLessThan(8000);
    expect((told.live as LivePace).figures.breaks.stutter).toBeGreaterThan(15_000);
    // the latest of each series is there, and the number to go on from is the last of all
    for (const type of ['battery', 'power', 'load', 'skin'])
      expect(
        told.entries
          .filter(({ line }) => line.type === type)
          .some(({ line }) => (line as { atMs: number }).atMs === 10_799_000),
      ).toBe(true);
    expect(
      (
        await harness.pool.query<{ last: number }>(
          'select max(change)::int as last from entry where run_id = $1',
          [run],
        )
      ).rows[0]!.last,
    ).toBe(told.change);
    await change(run, put(skin(10_800_000, 41)));
    const since = (await harness.request('GET', `/bench/${run}`)).body as BenchState;
    expect(since.change).toBeGreaterThan(told.change);
  });
});

describe('a disk that is full', () => {
  const full = Object.assign(new Error('could not extend file: No space left on device'), { code: '53100' });
  it('is called so, and nothing is set aside for it', async () => {
    expect(problemOf(full)).toMatchObject({ status: 507, body: { code: 'disk-full' } });
    expect(problemOf(Object.assign(new Error('write'), { code: 'ENOSPC' }))).toMatchObject({ status: 507 });
    const run = await started();
    const connect = jest
      .spyOn(harness.pool, 'connect')
      .mockImplementation(((told?: (error: Error) => void) =>
        told ? told(full) : Promise.reject(full)) as never);
    expect(await change(run, put(skin(1000, 30)))).toMatchObject({
      status: 507,
      body: { code: 'disk-full', remedy: expect.stringContaining('Free some space') },
    });
    connect.mockRestore();
    expect((await change(run, put(skin(1000, 30)))).status).toBe(200);
  });
});

describe('a clock that was set back while the server was away', () => {
  afterEach(() => continueClock(null));
  it('goes on from where it was last heard, and batches that lie ahead of it wait', async () => {
    const run = await started();
    const { key } = await source(run);
    await batch(key, 0, frames(0, 100));
    const last = serverNow() + 600_000;
    await keepClock(harness.pool, last);
    expect(await lastHeardMs(harness.pool)).toBeGreaterThanOrEqual(last);
    expect(continueClock(await lastHeardMs(harness.pool))).toBeGreaterThan(500_000);
    expect(serverNow()).toBeGreaterThanOrEqual(last);
    const nowMs = (
      (await harness.request('GET', '/live', undefined, { authorization: `Bearer ${key}` })).body as {
        runMs: number;
      }
    ).runMs;
    // the source has gone on for ten minutes of the run's clock meanwhile
    const ahead = await batch(key, 1, frames(nowMs + 600_000, 100));
    expect(ahead).toMatchObject({ status: 429, body: { code: 'clock-behind' } });
    expect((await batch(key, 1, frames(nowMs + 2000, 100))).body).toMatchObject({
      duplicate: false,
      taken: 1,
      refused: [],
    });
    await harness.pool.query("delete from setting where key = 'clock'");
  });
  it('is let be where nothing is recorded', () => expect(continueClock(null)).toBe(0));
});

describe('requests that are broken', () => {
  it.each<[string, string, string, RequestInit, number]>([
    [
      'an unknown charset',
      'POST',
      '/kit/device',
      { body: '{"name":"x"}', headers: { 'content-type': 'application/json; charset=klingon' } },
      415,
    ],
    [
      'an unknown packing',
      'POST',
      '/kit/device',
      { body: '{"name":"x"}', headers: { ...json, 'content-encoding': 'zip' } },
      415,
    ],
    [
      'broken gzip',
      'POST',
      '/kit/device',
      { body: 'no gzip', headers: { ...json, 'content-encoding': 'gzip' } },
      400,
    ],
    ['an address that is no text', 'GET', '/runs/%E0%A4%A', {}, 400],
    ['a step of a request that is not there', 'GET', '/cards/%00', {}, 404],
    ['words where an object is due', 'POST', '/bench/x/changes', { body: '"hello"', headers: json }, 400],
    [
      'details that are no text',
      'POST',
      '/imports?details[a]=1',
      { body: '1', headers: { 'x-pace-check-upload': '1' } },
      400,
    ],
    ['a kind that is a list', 'GET', '/kit/file?kind[]=device', {}, 200],
  ])('%s', async (_what, method, path, init, status) => {
    const answer = await fetch(`${harness.address}/api${path}`, { method, ...init });
    expect(answer.status).toBe(status);
    if (status >= 400)
      expect(await answer.json()).toMatchObject({
        code: expect.any(String),
        message: expect.any(String),
        remedy: expect.any(String),
      });
  });
  it('years that no calendar shows', async () => {
    for (const startedAt of ['0000-01-01T00:00:00Z', '9999-01-01T00:00:00Z']) {
      expect(
        await importText(
          `{"type":"run","version":1,"device":"a","title":"b","startedAt":"${startedAt}"}\n{"type":"frames","atMs":0,"us":[16667]}\n`,
          { facts: null },
        ),
      ).toMatchObject({ status: 422, body: { message: expect.stringContaining('a year from 1970') } });
    }
  });
  it('a file whose names are blank', async () => {
    expect(
      await importText(
        '{"type":"run","version":1,"device":"  ","title":"b"}\n{"type":"frames","atMs":0,"us":[16667]}\n',
        { facts: null },
      ),
    ).toMatchObject({ status: 422, body: { field: 'device' } });
  });
  it('a step for a request that is not there', async () => {
    const step = {
      id: randomUUID(),
      device: 'Velm 5',
      title: 'Aurelune',
      setup: null,
      minutes: 1,
      repeats: 1,
      attended: true,
      wanted: 5,
      after: [],
      conditions: {},
      requestId: randomUUID(),
      note: '',
    };
    const rules = {
      startOverRoomC: 3,
      startPercent: 30,
      floorPercent: 10,
      chargeBelowC: 35,
      prepareMin: 2,
      restMin: 5,
      stretchMin: 60,
      handsRest: true,
    };
    const day = {
      date: null,
      startMin: 540,
      finishByMin: null,
      hands: 1,
      parallel: true,
      order: 'light-to-heavy',
      roomC: null,
      devices: [],
    };
    const before = await harness.pool.query('select count(*)::int as cards from card');
    expect(
      await send('POST', '/cards', {
        name: 'Crossing',
        policy: 'highest',
        template: false,
        rules,
        steps: [step],
        day,
      }),
    ).toMatchObject({ status: 409, body: { code: 'gone' } });
    expect((await harness.pool.query('select count(*)::int as cards from card')).rows).toEqual(before.rows);
  });
  it('a change whose id is an object', async () => {
    const run = await started();
    expect(
      (await send('POST', `/bench/${run}/changes`, { changes: [{ id: { toString: 1 }, kind: 'plan' }] }))
        .body,
    ).toMatchObject({ refused: [{ id: '' }] });
  });
});

describe('files for a spreadsheet', () => {
  it('hold no cell that is taken for a formula, and are read back as they were', async () => {
    const name = '=HYPERLINK("http://evil.example","click")';
    await send('POST', '/kit/instrument', { name, facts: { notes: '+1' } });
    await send('POST', '/kit/instrument', { name: "'=quoted", facts: { notes: '-2' } });
    const csv = (await harness.request('GET', '/kit/file?kind=instrument')).body as string;
    for (const cell of csv.split(/[\n,]/)) expect(cell.replace(/^"/, '')).not.toMatch(/^[=+\-@\t\r]/);
    expect((await harness.request('POST', '/kit/file', csv)).body).toMatchObject({ added: 0, updated: 0 });
    const { instruments } = (await send('GET', '/kit')).body as {
      instruments: { name: string; facts: { notes?: string } }[];
    };
    expect(instruments).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ name, facts: { notes: '+1' } }),
        expect.objectContaining({ name: "'=quoted", facts: { notes: '-2' } }),
      ]),
    );
  });
});

describe('what is left behind', () => {
  it('by uploads to a server that was killed is swept', async () => {
    const dead = join(tmpdir(), 'pace-check-upload-4194304-abc');
    const alive = join(tmpdir(), `pace-check-upload-${process.pid}-abc`);
    for (const folder of [dead, alive]) {
      await mkdir(folder, { recursive: true });
      await writeFile(join(folder, 'upload'), 'x');
    }
    await sweepUploads();
    const left = await readdir(tmpdir());
    expect(left).not.toContain('pace-check-upload-4194304-abc');
    expect(left).toContain(`pace-check-upload-${process.pid}-abc`);
  });
  it('by a newer program is not touched by an older one', async () => {
    await harness.pool.query("insert into migration (file) values ('999_from_the_future.sql')");
    const pool = openPool((harness.pool.options as { connectionString: string }).connectionString);
    await expect(migrate(pool, join(__dirname, 'migrations'))).rejects.toThrow(
      /newer Pace Check.*999_from_the_future/,
    );
    await pool.end();
    await harness.pool.query("delete from migration where file = '999_from_the_future.sql'");
  });
});

describe('a small file', () => {
  it.each<[string, () => BodyInit, object]>([
    [
      'whose stamps jump to those since 1970',
      () =>
        [
          ...Array.from({ length: 60 }, (_, i) => i * 16),
          ...Array.from({ length: 60 }, (_, i) => 1_795_000_000_000 + i * 16),
        ].join('\n'),
      { code: 'too-long' },
    ],
    [
      'of one line of 40 MB',
      () => gzipSync(Buffer.alloc(40 * 1024 * 1024, '1')),
      { code: 'no-usable-column' },
    ],
    [
      'of one row of 40 MB, behind a heading',
      () =>
        gzipSync(
          Buffer.concat([
            Buffer.from(`frame_time_ms\n${'16\n'.repeat(300)}`),
            Buffer.alloc(40 * 1024 * 1024, '1'),
          ]),
        ),
      { code: 'long-line' },
    ],
    [
      'of one line of a run file of 40 MB',
      () =>
        gzipSync(
          Buffer.concat([Buffer.from('{"type":"run","version":1}\n"'), Buffer.alloc(40 * 1024 * 1024, 'x')]),
        ),
      { code: 'long-line', line: 2 },
    ],
    [
      'of marks without end',
      () =>
        gzipSync(Buffer.from('{"type":"mark","atMs":5,"kind":"note","note":"abcdefghij"}\n'.repeat(250_000))),
      { code: 'too-many' },
    ],
  ])('%s is refused', async (_what, content, problem) => {
    const before = await rowCounts(harness.pool);
    expect(await importText(content())).toMatchObject({ status: 422, body: problem });
    expect(await rowCounts(harness.pool)).toEqual(before);
  });
  it('of a shell, with a row that no value stands in, is read past it', async () => {
    const { status, body } = await importText(`level: 80\nstatus: 3\nlevel: 79\na${' '.repeat(60_000)}\n`);
    expect({ status, battery: body.figures.battery.length, passedOver: body.upload.passedOver }).toEqual({
      status: 201,
      battery: 1,
      passedOver: 1,
    });
  });
});
