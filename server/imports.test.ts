import { gzipSync } from 'node:zlib';
import { LARGEST_LOG_BYTES, type ImportDetails } from '@pace-check/contract';
import { METHOD_VERSION } from '@pace-check/core';
import { importPath, rowCounts, startHarness, type Harness } from './testing/harness';

const HEADED = {
  layout: { delimiter: ',', decimalMark: '.', firstLine: 2 },
  choice: { column: 0, kind: 'frame-time', unit: 'ms' },
} satisfies ImportDetails['reading'];
const csv = (rows: (string | number)[]): string => `frame_time_ms\n${rows.join('\n')}\n`;
/** 65 s at 50 frames per second, with a stall. */
const GOOD = csv([...Array<number>(1500).fill(20), 500, ...Array<number>(1725).fill(20)]);

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

const send = (body: BodyInit, details: Partial<ImportDetails> = {}): ReturnType<Harness['request']> =>
  harness.request('POST', importPath({ reading: HEADED, ...details }), body);

describe('import of a log', () => {
  it('stores frames, figures and names, and gives the run', async () => {
    const { status, body } = await send(GOOD, {
      fileName: 'first.csv',
      facts: { device: ' Velm 5 ', title: 'Aurelune', setup: 'Highest', target: 50, refresh: 120 },
    });
    expect(status).toBe(201);
    expect(body).toMatchObject({
      name: 'Aurelune on Velm 5',
      device: 'Velm 5',
      title: 'Aurelune',
      setup: 'Highest',
      target: 50,
      refresh: 120,
      upload: { fileName: 'first.csv', rows: 3226, dropped: [] },
    });
    expect(body.figures.pace.average).toBeCloseTo(3226 / 65, 9);
    expect(body.figures).toMatchObject({
      frames: { count: 3226, seconds: 65 },
      evenness: { stalls: 1 },
      methodVersion: METHOD_VERSION,
    });
    expect(body.series).toHaveLength(65);
    expect(body.lane.cells).toHaveLength(1);
    const stored = await harness.pool.query(
      'select sum(frames)::int as frames, count(*)::int as rows from frame_chunk where run_id = $1',
      [body.id],
    );
    expect(stored.rows[0]).toEqual({ frames: 3226, rows: 1 });
  });

  it('notices the same content, packed or not, and takes it again only when asked', async () => {
    const before = await rowCounts(harness.pool);
    const second = await send(gzipSync(GOOD), { fileName: 'copy.csv.gz' });
    expect(second).toMatchObject({
      status: 409,
      body: { code: 'same-file', runName: 'Aurelune on Velm 5', runId: expect.any(String) },
    });
    expect(await rowCounts(harness.pool)).toEqual(before);
    expect((await send(gzipSync(GOOD), { again: true, name: 'Once more' })).body.name).toBe('Once more');
  });

  it('uses a device, a title and a setup that are there, whatever their case', async () => {
    const before = await rowCounts(harness.pool);
    const { body } = await send(csv(Array<number>(100).fill(21)), {
      facts: { device: 'VELM 5', title: 'aurelune', setup: 'HIGHEST', target: null, refresh: null },
    });
    expect(body).toMatchObject({
      device: 'Velm 5',
      title: 'Aurelune',
      setup: 'Highest',
      lane: { measures: 'hold' },
    });
    expect(await rowCounts(harness.pool)).toMatchObject({
      device: before['device'],
      title: before['title'],
      setup: before['setup'],
    });
  });

  it('goes by its own best guess where the sender does not say how to read it', async () => {
    const rows = Array.from({ length: 200 }, (_, i) => `${i};${(i * 0.0251).toFixed(4).replace('.', ',')}`);
    const { status, body } = await send(`n;shown at (s)\r\n${rows.join('\r\n')}`, { reading: null });
    expect(status).toBe(201);
    expect(body.figures.pace.average).toBeCloseTo(1 / 0.0251, 6);
  });

  it('keeps rows that could not be read by line and reason', async () => {
    const { body } = await send(
      csv([...Array<number>(300).fill(20), 'oops', 0, ...Array<number>(300).fill(20)]),
    );
    expect(body.figures.frames).toMatchObject({ count: 600, dropped: 2 });
    expect(body.upload.dropped).toEqual([
      { line: 302, reason: 'column 1 contains “oops”, which is not a number' },
      { line: 303, reason: 'the frame time 0 is zero' },
    ]);
  });

  it('reads a run file with all that it says', async () => {
    const lines = [
      {
        type: 'run',
        version: 1,
        device: 'Kitto Mini',
        title: 'Skiff 120',
        setup: 'Highest',
        target: 120,
        refresh: 120,
        room: 18.5,
        batteryWh: 11.2,
        conditions: ['boosted'],
        startedAt: '2026-05-09T09:05:00+02:00',
      },
      { type: 'frames', atMs: 0, us: Array<number>(1200).fill(8333) },
      { type: 'skin', atMs: 5000, spot: 'back', c: 31.5, by: 'infrared' },
      { type: 'end', atMs: 9999, reason: 'crash' },
      { type: 'weather', atMs: 1 },
    ];
    const { status, body } = await send(lines.map((line) => JSON.stringify(line)).join('\n'), {
      facts: null,
      reading: null,
      fileName: 'kitto.pace.ndjson',
    });
    expect(status).toBe(201);
    expect(body).toMatchObject({
      device: 'Kitto Mini',
      roomC: 18.5,
      conditions: ['boosted'],
      startedAt: '2026-05-09T07:05:00.000Z',
      headline: { peakC: 31.5, end: { reason: 'crash', atMs: 9999 } },
      lane: { end: 'crash', measures: 'target', target: 120 },
      upload: { passedOver: 1 },
    });
    const entries = await harness.pool.query('select type, at_ms from entry where run_id = $1 order by seq', [
      body.id,
    ]);
    expect(entries.rows).toEqual([
      { type: 'skin', at_ms: 5000 },
      { type: 'end', at_ms: 9999 },
    ]);

    // out again, and in again: the same frames and lines
    const file = await harness.request('GET', `/runs/${body.id}/file`);
    const again = await send(file.body, { facts: null, reading: null, again: true });
    expect(again.body.figures).toEqual(body.figures);
    expect(again.body).toMatchObject({ roomC: 18.5, conditions: ['boosted'], setup: 'Highest' });
  });
});

describe('refusals leave the database as it was', () => {
  const png = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  const cut = gzipSync(GOOD.repeat(50)).subarray(0, 300);
  const runFile = (...lines: object[]): string => lines.map((line) => JSON.stringify(line)).join('\n');

  it.each<[string, BodyInit, Partial<ImportDetails>, number, object]>([
    ['an image', png, {}, 422, { code: 'not-text', message: expect.stringContaining('PNG image') }],
    ['nothing', '', {}, 422, { code: 'empty' }],
    ['prose', 'It was smooth.\nI think.\n', { reading: null }, 422, { code: 'not-a-log' }],
    [
      'a log without a usable column',
      'fps,temperature\n60,31.2\n59,31.4\n',
      { reading: null },
      422,
      { code: 'no-usable-column', message: expect.stringContaining('“temperature”') },
    ],
    [
      'text among the numbers',
      csv(['x', ...Array<number>(50).fill(20)]),
      {},
      422,
      {
        code: 'too-many-unreadable',
        line: 2,
        rows: [{ line: 2, reason: 'column 1 contains “x”, which is not a number' }],
      },
    ],
    [
      'frame times of zero',
      csv(Array<number>(50).fill(0)),
      {},
      422,
      { code: 'too-many-unreadable', message: expect.stringContaining('is zero') },
    ],
    [
      'a frame time of an hour',
      csv([3_600_000, 20]),
      {},
      422,
      { code: 'too-many-unreadable', message: expect.stringContaining('longer than 600 s') },
    ],
    [
      'timestamps that run backwards',
      csv([300, 200, 100]),
      { reading: { ...HEADED, choice: { column: 0, kind: 'timestamp', unit: 'ms' } } },
      422,
      {
        code: 'too-many-unreadable',
        line: 3,
        message: expect.stringContaining('not later than the previous one'),
      },
    ],
    ['a heading alone', 'frame_time_ms\n', {}, 422, { code: 'no-frames' }],
    [
      'an archive that is cut off',
      cut,
      {},
      422,
      { code: 'broken-archive', remedy: expect.stringContaining('Copy it again') },
    ],
    [
      'a run file with a broken line',
      runFile(
        { type: 'run', version: 1 },
        { type: 'skin', atMs: 1 },
        { type: 'end', atMs: 1, reason: 'planned' },
      ),
      { reading: null },
      422,
      { code: 'bad-line', line: 2 },
    ],
    [
      'overlapping batches',
      runFile({ type: 'frames', atMs: 0, us: [50_000] }, { type: 'frames', atMs: 1, us: [50_000] }),
      { reading: null },
      422,
      { code: 'overlap', line: 2 },
    ],
    [
      'a run file that names no device, and nobody else does',
      runFile({ type: 'run', version: 1, title: 'Aurelune' }),
      { reading: null, facts: null },
      422,
      { code: 'missing', field: 'device' },
    ],
    [
      'a device without a name',
      GOOD,
      { again: true, facts: { device: '  ', title: 'T', setup: null, target: null, refresh: null } },
      400,
      { code: 'bad-request', field: 'facts.device' },
    ],
    [
      'a target below zero',
      GOOD,
      { again: true, facts: { device: 'D', title: 'T', setup: null, target: -1, refresh: null } },
      400,
      { field: 'facts.target' },
    ],
  ])('%s', async (_, content, details, status, problem) => {
    const before = await rowCounts(harness.pool);
    const answer = await send(content, details);
    expect(answer.status).toBe(status);
    expect(answer.body).toMatchObject(problem);
    expect(answer.body.remedy.length).toBeGreaterThan(10);
    expect(await rowCounts(harness.pool)).toEqual(before);
  });

  it('a file that says it is larger than a log may be, before it is read', async () => {
    // a body that never comes: only its announcement counts
    const { request } = await import('node:http');
    const answer = await new Promise<{ status: number; text: string }>((resolve, reject) => {
      const sending = request(
        `${harness.address}/api${importPath({ reading: HEADED })}`,
        { method: 'POST', headers: { 'content-length': LARGEST_LOG_BYTES + 1, 'x-pace-check-upload': '1' } },
        (response) => {
          let text = '';
          response.on('data', (part) => (text += part));
          response.on('end', () => {
            resolve({ status: response.statusCode!, text });
            sending.destroy();
          });
        },
      );
      sending.on('error', reject);
      sending.flushHeaders();
    });
    expect(answer.status).toBe(413);
    expect(JSON.parse(answer.text)).toMatchObject({
      code: 'too-large',
      remedy: expect.stringContaining('Cut the log'),
    });
  });

  it('a small archive that unpacks to more than a log may hold', async () => {
    const before = await rowCounts(harness.pool);
    const bomb = gzipSync(Buffer.alloc(LARGEST_LOG_BYTES + 1024, `${'a'.repeat(8191)}\n`), { level: 1 });
    expect(await send(bomb)).toMatchObject({ status: 422, body: { code: 'too-large' } });
    expect(await rowCounts(harness.pool)).toEqual(before);
  });

  it('an upload that is cancelled while the server works', async () => {
    const before = await rowCounts(harness.pool);
    const long = csv(Array<number>(3_000_000).fill(20));
    const cancel = new AbortController();
    const sending = fetch(`${harness.address}/api${importPath({ reading: HEADED })}`, {
      method: 'POST',
      body: long,
      headers: { 'x-pace-check-upload': '1' },
      signal: cancel.signal,
    });
    // the whole body is with the server once a thread has begun to read it
    const working = new Promise<void>((resolve) => {
      const original = harness.analyses.read.bind(harness.analyses);
      jest.spyOn(harness.analyses, 'read').mockImplementationOnce((...args) => {
        resolve();
        return original(...args);
      });
    });
    await working;
    const outcome = (harness.analyses.read as jest.Mock).mock.results[0]!.value as Promise<unknown>;
    cancel.abort();
    await expect(sending).rejects.toThrow();
    await expect(outcome).rejects.toThrow(/abort/i);
    expect(await rowCounts(harness.pool)).toEqual(before);
  });
});
