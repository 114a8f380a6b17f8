import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { gzipSync } from 'node:zlib';
import { USUAL_BENCH_PLAN, USUAL_RULES } from '@pace-check/contract';
import { SeededRandom } from '@pace-check/core';
import pg from 'pg';
import { importPath, rowCounts } from './testing/harness';

/**
 * A thousand requests and uploads, each a good one with something changed at
 * random, against the server as it is shipped, in a process of its own. The
 * seed makes them the same in every run; PACE_FUZZ_SEED tries others, PACE_FUZZ_MUTATIONS more.
 */
const SEED = Number(process.env['PACE_FUZZ_SEED'] ?? 11);
const MUTATIONS = Number(process.env['PACE_FUZZ_MUTATIONS'] ?? 1000);
/** A hang is told from a machine that others keep busy: no answer takes a second where it is quiet. */
const ANSWER_WITHIN_MS = 60_000;
const BACK_WITHIN_BYTES = 100 * 1024 * 1024;

const SERVER = process.env['PACE_TEST_DATABASE']!;
const name = `fuzz_${randomUUID().replaceAll('-', '')}`;
let child: ChildProcess;
let address: string;
let pool: pg.Pool;

beforeAll(async () => {
  const admin = new pg.Client({ connectionString: SERVER });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  const url = new URL(SERVER);
  url.pathname = `/${name}`;
  pool = new pg.Pool({ connectionString: url.href, max: 2 });
  // at the end its database is taken away, maybe before the last connection is closed
  pool.on('error', () => undefined);
  // the test command builds it first
  child = spawn(process.execPath, [join(__dirname, 'dist', 'main.mjs')], {
    env: { ...process.env, DATABASE_URL: url.href, PORT: '0', HOST: '', PACE_COMMAND: '' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  address = await new Promise((resolve, reject) => {
    child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    createInterface({ input: child.stdout! }).on(
      'line',
      (line) => line.startsWith('listening ') && resolve(line.slice('listening '.length)),
    );
  });
  child.stderr!.on('data', (text: Buffer) => (errors += text.toString()));
});
let errors = '';
afterAll(async () => {
  const ended = once(child, 'exit');
  child.kill('SIGTERM');
  await ended;
  await pool.end();
  const admin = new pg.Client({ connectionString: SERVER });
  await admin.connect();
  await admin.query(`drop database ${name} with (force)`);
  await admin.end();
});

interface Request {
  method: string;
  path: string;
  body?: unknown;
  /** A file, in the place of a body. */
  file?: Buffer;
  headers?: Record<string, string>;
}

const facts = { device: 'Velm 5', title: 'Aurelune', setup: 'Highest', target: 60, refresh: 120 };
const skin = { type: 'skin', atMs: 61_000, spot: 'back', c: 36.5, by: 'infrared' };
const lines = [
  {
    type: 'run',
    version: 1,
    device: 'Velm 4',
    title: 'Skiff 120',
    setup: 'Highest',
    target: 120,
    refresh: 120,
    native: 60,
    need: 'action',
    room: 18.5,
    batteryWh: 18.1,
    conditions: ['plugged-in'],
    startedAt: '2026-05-09T11:01:00+02:00',
  },
  { type: 'frames', atMs: 0, us: Array<number>(40).fill(8300) },
  { type: 'frames', atMs: 332, us: Array<number>(40).fill(8300) },
  skin,
  { type: 'battery', atMs: 0, percent: 100, charging: false },
  { type: 'power', atMs: 1000, mw: 4200 },
  { type: 'load', atMs: 1000, cpu: 24, gpu: 71, memoryMb: 1569 },
  { type: 'refresh', atMs: 0, hz: 120 },
  { type: 'rate', atMs: 60_000, fps: 58, by: 'overlay' },
  { type: 'mark', atMs: 482_500, kind: 'stutter', note: 'gulls' },
  {
    type: 'summary',
    by: 'tool',
    average: 58.2,
    median: 59,
    hold: 0.97,
    lowest: 41,
    onePercent: 44,
    minutes: 12,
  },
  { type: 'speed', atMs: 60_000, low: 95, high: 99, by: 'in-title' },
  { type: 'smooth', word: 'frequent', by: 'eye' },
  { type: 'chip', atMs: 1000, c: 78.5, part: 'cpu' },
  { type: 'title', atMs: 2000, title: 'Hexgarden', setup: 'Highest', target: 60 },
  { type: 'scene', atMs: 1000, scene: 'hard track' },
  { type: 'span', fromMs: 0, toMs: 100, kind: 'loading' },
  { type: 'end', atMs: 1_800_000, reason: 'planned' },
];
const runFile = (): Buffer => Buffer.from(`${lines.map((line) => JSON.stringify(line)).join('\n')}\n`);
const csv = (): Buffer =>
  Buffer.from(
    `frame,frame_time_ms\n${Array.from({ length: 300 }, (_, i) => `${i},${16 + (i % 5) / 10}`).join('\n')}\n`,
  );
const shell = (): Buffer =>
  Buffer.from(
    'at 1795686223\nlevel: 87\nstatus: 3\ncurrent_now: -1100000\nvoltage_now: 4000000\nat 1795686283\nlevel: 86\nskin-therm 38400\n',
  );
/** A picture of one pixel. */
const PICTURE =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
const kitFile = {
  format: 'pace-kit',
  version: 1,
  devices: [
    {
      name: 'Oru Fold',
      kind: 'foldable',
      batteryMah: 4300,
      screens: [{ name: 'inner', refreshHz: [60, 120] }],
      spots: [{ spot: 'hinge', side: 'back', x: 0.5, y: 0.2 }],
    },
  ],
  titles: [{ name: 'Hexgarden', kind: 'native', nativeFps: 60 }],
  setups: [{ name: 'Highest', title: 'Hexgarden', tier: 'high' }],
};
const upload = { 'x-pace-check-upload': '1' };

/** Runs, a card, a source and a line that the good requests are about. */
interface World {
  run: string;
  bench: string;
  key: string;
  card: string;
  revision: number;
  step: string;
  seq: number;
}

const step = (id: string): object => ({
  id,
  device: 'Velm 5',
  title: 'Aurelune',
  setup: 'Highest',
  minutes: 15,
  repeats: 1,
  attended: true,
  wanted: 5,
  after: [],
  conditions: { brightness: 80 },
  requestId: null,
  note: 'first',
});
const card = (id: string): object => ({
  name: 'Crossing',
  policy: 'highest',
  template: false,
  rules: USUAL_RULES,
  steps: [step(id)],
  day: {
    date: '2026-05-16',
    startMin: 540,
    finishByMin: null,
    hands: 1,
    parallel: true,
    order: 'light-to-heavy',
    roomC: 18,
    devices: [{ device: 'Velm 5', skinC: 18.5, percent: 100 }],
  },
});
const opening = {
  kind: 'open',
  facts,
  preflight: { roomC: 18.5, case: 'off' },
  plan: USUAL_BENCH_PLAN,
  speed: 60,
  step: null,
};

/** Good requests, one of each kind. */
function goodRequests(world: World): Request[] {
  const { run, bench, key, card: cardId, revision, step: stepId } = world;
  const details = { fileName: 'log.csv', name: null, facts, reading: null, again: true };
  const changes = (...all: object[]): object => ({
    changes: all.map((one) => ({ id: randomUUID(), ...one })),
  });
  const importTo = (query: object): string => `/imports?details=${encodeURIComponent(JSON.stringify(query))}`;
  const source = { authorization: `Bearer ${key}` };
  return [
    { method: 'GET', path: '/kit' },
    { method: 'GET', path: '/kit/file?kind=device' },
    { method: 'POST', path: '/kit/file', file: Buffer.from(JSON.stringify(kitFile)), headers: upload },
    {
      method: 'POST',
      path: '/kit/file',
      file: Buffer.from('record,name,kind,notes\ninstrument,"Thermo, one",infrared,=1\n'),
      headers: upload,
    },
    {
      method: 'POST',
      path: '/kit/device',
      body: {
        name: 'Kitto Mini',
        facts: { kind: 'phone', batteryMah: 2900, screens: [{ refreshHz: [60] }] },
        spots: [{ spot: 'back', side: 'back', x: 0.2, y: 0.3 }],
      },
    },
    {
      method: 'POST',
      path: '/kit/setup',
      body: {
        name: 'Fluid',
        title: 'Copperline Squad',
        facts: { pairs: [{ key: 'cap', value: '60', unit: 'fps' }], steps: [{ says: 'Choose it.' }] },
      },
    },
    {
      method: 'POST',
      path: '/kit/refusals',
      body: { device: 'Velm 5', title: 'Skiff 120', setup: null, says: 'blocks the logger' },
    },
    { method: 'GET', path: '/cards' },
    { method: 'POST', path: '/cards', body: card(randomUUID()) },
    { method: 'PUT', path: `/cards/${cardId}/plan`, body: { plan: null, ofRevision: revision } },
    { method: 'PUT', path: `/cards/${cardId}`, body: { ...card(stepId), revision } },
    {
      method: 'POST',
      path: `/cards/${cardId}/events`,
      body: {
        events: [
          { id: randomUUID(), kind: 'started', stepId, repeat: 1, atMin: 551 },
          { id: randomUUID(), kind: 'linked', stepId, repeat: 1, atMin: 560, runId: run },
        ],
      },
    },
    { method: 'GET', path: `/cards/${cardId}/preflight?step=${stepId}` },
    {
      method: 'POST',
      path: '/requests',
      body: { title: 'Rook Tower', device: null, asked: 12, source: 'comments' },
    },
    {
      method: 'POST',
      path: '/cool-downs',
      body: {
        device: 'Velm 5',
        spot: 'back',
        roomC: 18.5,
        startedAt: '2026-05-09T11:01:00+02:00',
        readings: [
          { atS: 0, c: 41 },
          { atS: 60, c: 39 },
          { atS: 180, c: 36 },
        ],
      },
    },
    {
      method: 'POST',
      path: `/cool-downs/${randomUUID()}/changes`,
      body: changes(
        {
          kind: 'watch',
          device: 'Velm 5',
          spot: 'back',
          roomC: 18.5,
          readyC: 22,
          startedAt: 1_795_000_000_000,
        },
        { kind: 'reading', reading: randomUUID(), at: 1_795_000_060_000, c: 38 },
      ),
    },
    { method: 'GET', path: `/runs/${run}` },
    { method: 'GET', path: `/runs/${run}/file` },
    {
      method: 'PATCH',
      path: `/runs/${run}`,
      body: { target: 60, need: 'action', roomC: 18, setup: 'Detail', splitMinutes: 1 },
    },
    {
      method: 'POST',
      path: '/runs',
      body: { name: null, facts: { ...facts, roomC: 18 }, entries: [skin, lines[8], ...lines.slice(10, 16)] },
    },
    {
      method: 'POST',
      path: `/runs/${run}/entries`,
      body: { entries: [skin, lines[9], ...lines.slice(10, 16)] },
    },
    {
      method: 'PATCH',
      path: `/runs/${run}`,
      body: {
        scene: 'start area',
        conditions: ['first-play'],
        preflight: { screen: 'inner', brightness: 80 },
      },
    },
    {
      method: 'POST',
      path: `/runs/${randomUUID()}/changes`,
      body: changes({
        kind: 'make',
        run: {
          name: null,
          facts: { ...facts, roomC: null },
          scene: 'start area',
          preflight: { screen: 'inner' },
          entries: [{ type: 'rate', low: 50, high: 55, by: 'overlay' }],
        },
      }),
    },
    {
      method: 'POST',
      path: `/runs/${run}/changes`,
      body: changes({ kind: 'picture', picture: PICTURE, entryId: null, note: 'counter' }),
    },
    { method: 'GET', path: '/settings' },
    {
      method: 'PUT',
      path: '/settings',
      body: {
        bars: {
          reaction: { average: 57, low: 45 },
          action: { average: 45, low: 30 },
          story: { average: 29, low: 22 },
          slow: { average: 24, low: 15 },
        },
      },
    },
    {
      method: 'PUT',
      path: `/runs/${run}/spots`,
      body: { places: [{ spot: 'back', side: 'back', x: 0.4, y: 0.6 }] },
    },
    { method: 'POST', path: importTo(details), file: csv(), headers: upload },
    {
      method: 'POST',
      path: importTo({
        ...details,
        reading: {
          layout: { delimiter: ',', decimalMark: '.', firstLine: 2 },
          choice: { column: 1, kind: 'frame-time', unit: 'ms' },
        },
      }),
      file: csv(),
      headers: upload,
    },
    {
      method: 'POST',
      path: importTo({ ...details, fileName: 'run.pace.ndjson', facts: null }),
      file: runFile(),
      headers: upload,
    },
    {
      method: 'POST',
      path: importTo({ ...details, fileName: 'run.pace.ndjson.gz', facts: null }),
      file: gzipSync(runFile()),
      headers: upload,
    },
    { method: 'POST', path: importTo(details), file: shell(), headers: upload },
    {
      method: 'POST',
      path: `/bench/${randomUUID()}/changes`,
      body: changes(opening, { kind: 'start', at: Date.now() }),
    },
    {
      method: 'POST',
      path: `/bench/${bench}/changes`,
      body: changes(
        { kind: 'put', entry: randomUUID(), line: skin, open: false, writer: 'phone' },
        { kind: 'put', entry: randomUUID(), line: lines[16], open: true, writer: 'phone' },
        { kind: 'plan', plan: USUAL_BENCH_PLAN },
      ),
    },
    { method: 'POST', path: `/bench/${bench}/sources`, body: { name: 'logger', kind: 'handset' } },
    {
      method: 'POST',
      path: `/bench/${bench}/stand-ins`,
      body: { kind: 'handset', scenario: 'fades', minutes: 1, seed: 1, misbehave: [] },
    },
    { method: 'GET', path: `/bench/${bench}` },
    {
      method: 'POST',
      path: `/live?seq=${world.seq}&at=5000`,
      file: Buffer.from(
        lines
          .slice(1, 11)
          .map((line) => JSON.stringify(line))
          .join('\n'),
      ),
      headers: source,
    },
    { method: 'POST', path: `/live/shell?seq=${world.seq}`, file: shell(), headers: source },
    { method: 'GET', path: '/live', headers: source },
  ];
}

const NASTY: unknown[] = [
  null,
  '',
  ' ',
  'a\u0000b',
  '\ud800',
  '\u202e',
  'x'.repeat(5000),
  "'; drop table run; --",
  '../../etc/passwd',
  '%E0%A4%A',
  0,
  -1,
  -0.5,
  0.1,
  1e19,
  1e308,
  -1e308,
  2 ** 31,
  2 ** 53,
  1_795_000_000_000,
  '1e999',
  'NaN',
  true,
  [],
  {},
  [[[[]]]],
  { toString: 1 },
  { __proto__: 1 },
  '0000-01-01T00:00:00Z',
  '2026-02-30',
  '00000000-0000-0000-0000-000000000000',
];

/** The value with one place in it changed. */
function mutated(value: unknown, random: SeededRandom): unknown {
  if (typeof value !== 'object' || value === null || random.uniform() < 0.15)
    return NASTY[random.below(NASTY.length)];
  if (Array.isArray(value)) {
    const list: unknown[] = value;
    if (value.length === 0 || random.uniform() < 0.1) return [...value, NASTY[random.below(NASTY.length)]];
    const at = random.below(value.length);
    if (random.uniform() < 0.1) return value.toSpliced(at, 1);
    if (random.uniform() < 0.1) return [...value, ...value];
    return list.map((one, i) => (i === at ? mutated(one, random) : one));
  }
  const keys = Object.keys(value);
  const key = keys[random.below(keys.length)];
  if (key === undefined || random.uniform() < 0.1)
    return { ...value, ['a\u0000key']: NASTY[random.below(NASTY.length)] };
  if (random.uniform() < 0.1) return Object.fromEntries(Object.entries(value).filter(([one]) => one !== key));
  return { ...value, [key]: mutated((value as Record<string, unknown>)[key], random) };
}

/** Bytes with something changed in them. */
function damaged(bytes: Buffer, random: SeededRandom): Buffer {
  const at = random.below(bytes.length);
  const ways: (() => Buffer)[] = [
    () => bytes.subarray(0, at),
    () => Buffer.concat([bytes.subarray(0, at), Buffer.from([random.below(256)]), bytes.subarray(at + 1)]),
    () =>
      Buffer.concat([
        bytes.subarray(0, at),
        Buffer.from(
          ['\u0000', '"', '\n', '{', '\ufeff', '1e308', '-', ',,,,', '\r\n\r\n', '🜁', '\\ud800'][
            random.below(11)
          ]!,
        ),
        bytes.subarray(at),
      ]),
    () => Buffer.concat([bytes.subarray(0, at), Buffer.alloc(1 + random.below(3000), bytes[at])]),
    () => Buffer.concat([bytes.subarray(0, at), bytes, bytes.subarray(at)]),
    () => Buffer.concat([bytes, Buffer.alloc(70_000, 'frame 16.6 ')]),
    () => gzipSync(bytes).subarray(0, 10 + random.below(200)),
    () =>
      Buffer.from(
        bytes
          .toString()
          .replaceAll(/\d+/g, (digits) =>
            random.uniform() < 0.05 ? String(NASTY[10 + random.below(10)]) : digits,
          ),
      ),
  ];
  return ways[random.below(ways.length)]!();
}

function mutate(request: Request, random: SeededRandom): Request {
  const ways: (() => Request)[] = [
    () => ({
      ...request,
      path: request.path.replace(/[0-9a-f-]{36}/, String(NASTY[random.below(10)] ?? '')),
    }),
    () => ({
      ...request,
      path: `${request.path}${request.path.includes('?') ? '&' : '?'}seq=${String(NASTY[9 + random.below(12)])}&at[]=1`,
    }),
    () => ({
      ...request,
      headers: { ...request.headers, 'content-encoding': ['gzip', 'br', 'zip'][random.below(3)]! },
    }),
    () => ({
      ...request,
      headers: {
        ...request.headers,
        'content-type': ['text/plain', 'application/json; charset=klingon', 'multipart/form-data'][
          random.below(3)
        ]!,
      },
    }),
    () => ({ ...request, method: ['PUT', 'PATCH', 'DELETE', 'POST'][random.below(4)]! }),
  ];
  if (random.uniform() < 0.12) return ways[random.below(ways.length)]!();
  const [path, query] = request.path.split('?details=');
  if (query !== undefined && random.uniform() < 0.4)
    return {
      ...request,
      path: `${path}?details=${encodeURIComponent(JSON.stringify(mutated(JSON.parse(decodeURIComponent(query)), random)).replaceAll('%', '%25'))}`,
    };
  if (request.file) return { ...request, file: damaged(request.file, random) };
  if (request.body !== undefined) {
    let body: unknown = request.body;
    for (let i = 0; i <= random.below(3); i++) body = mutated(body, random);
    return { ...request, body };
  }
  return ways[random.below(ways.length)]!();
}

interface Answer {
  status: number;
  text: string;
}

async function ask({ method, path, body, file, headers }: Request): Promise<Answer> {
  const sent =
    method === 'GET'
      ? undefined
      : file
        ? Uint8Array.from(file)
        : body === undefined
          ? undefined
          : JSON.stringify(body);
  const answer = await fetch(
    `${address}/api${path.replaceAll(/[^\x21-\x7e]/g, (sign) => (/\p{Surrogate}/u.test(sign) ? '' : encodeURIComponent(sign)))}`,
    {
      method,
      body: sent,
      headers: { ...(file ? {} : { 'content-type': 'application/json' }), ...headers },
      signal: AbortSignal.timeout(ANSWER_WITHIN_MS),
    },
  );
  return { status: answer.status, text: await answer.text() };
}

/**
 * A busy machine is no hang: what takes too long is asked once more, after
 * `meanwhile` has seen what the first attempt may have done.
 */
async function askPatiently(request: Request, meanwhile: () => Promise<void>): Promise<Answer> {
  try {
    return await ask(request);
  } catch {
    await meanwhile();
    return ask(request);
  }
}

async function memory(): Promise<number> {
  return Number(/VmRSS:\s+(\d+) kB/.exec(await readFile(`/proc/${child.pid}/status`, 'utf8'))![1]) * 1024;
}

const path = (request: Request): string => request.path.split('?')[0]!;

async function good<T>(request: Request): Promise<T> {
  const { status, text } = await ask(request);
  if (status >= 300)
    throw new Error(`a good request was refused: ${request.method} ${request.path}: ${text}`);
  return (/^\s*[{[]/.test(text) && !path(request).endsWith('/file') ? JSON.parse(text) : null) as T;
}

it('a thousand mutations: no 500, no hang, nothing half-stored, memory back', async () => {
  const random = new SeededRandom(SEED);
  const run = (
    await good<{ id: string }>({ method: 'POST', path: importPath(), file: csv(), headers: upload })
  ).id;
  const bench = randomUUID();
  await good({
    method: 'POST',
    path: `/bench/${bench}/changes`,
    body: {
      changes: [
        { id: randomUUID(), ...opening },
        { id: randomUUID(), kind: 'start', at: Date.now() - 60_000 },
      ],
    },
  });
  const { key } = await good<{ key: string }>({
    method: 'POST',
    path: `/bench/${bench}/sources`,
    body: { name: 'logger', kind: 'handset' },
  });
  const stepId = randomUUID();
  const made = await good<{ id: string; revision: number }>({
    method: 'POST',
    path: '/cards',
    body: card(stepId),
  });
  const world: World = { run, bench, key, card: made.id, revision: made.revision, step: stepId, seq: 0 };
  // each good one is good, so that what is changed in it is what is tried; a stand-in there is none
  for (const request of goodRequests(world))
    if (!request.path.endsWith('/stand-ins'))
      await good(
        request.path.startsWith('/live') && request.method === 'POST'
          ? { ...request, path: request.path.replace(/seq=\d+/, `seq=${world.seq++}`) }
          : request,
      );
  const before = await memory();

  let counts = await rowCounts(pool);
  const outcomes: Record<string, number> = {};
  let all: Request[] = [];
  for (let i = 0, stale = true; i < MUTATIONS; i++) {
    // what was refused has changed nothing
    if (stale) {
      const { revision } = await good<{ revision: number }>({ method: 'GET', path: `/cards/${made.id}` });
      const { next } = await good<{ next: number }>({
        method: 'GET',
        path: '/live',
        headers: { authorization: `Bearer ${key}` },
      });
      all = goodRequests({ ...world, revision, seq: next });
    }
    const request = mutate(all[random.below(all.length)]!, random);
    const answer = await askPatiently(request, async () => {
      counts = await rowCounts(pool);
    }).catch((error: unknown) => ({ status: 0, text: String(error) }));
    const told = {
      mutation: i,
      seed: SEED,
      request: { ...request, file: request.file?.toString('latin1').slice(0, 400) },
      answer: answer.text.slice(0, 300),
    };
    outcomes[answer.status] = (outcomes[answer.status] ?? 0) + 1;
    stale = answer.status < 400;
    if ((answer.status === 0 || answer.status >= 500) && answer.status !== 501)
      throw new Error(`status ${answer.status}: ${JSON.stringify(told)}\n${errors.slice(-2000)}`);
    const now = await rowCounts(pool);
    if (answer.status >= 400 && JSON.stringify(now) !== JSON.stringify(counts))
      throw new Error(`refused, yet something was stored: ${JSON.stringify({ ...told, counts, now })}`);
    counts = now;
    // it may have deleted what the others are about
    if (request.method === 'DELETE')
      for (const gone of [`/cards/${made.id}`, `/runs/${run}`])
        if ((await ask({ method: 'GET', path: gone })).status === 404)
          await good({ method: 'POST', path: `${gone}/restore` });
  }
  // both kinds were tried, many times
  expect(
    Object.entries(outcomes).reduce((sum, [status, count]) => sum + (Number(status) >= 400 ? count : 0), 0),
  ).toBeGreaterThan(MUTATIONS / 4);
  expect(outcomes['200'] ?? 0).toBeGreaterThan(MUTATIONS / 20);
  expect(errors).not.toMatch(/Error/);
  // every run that is stored is whole: its figures can be had
  for (const { id } of JSON.parse((await ask({ method: 'GET', path: '/runs' })).text) as { id: string }[])
    expect((await ask({ method: 'GET', path: `/runs/${id}` })).status).toBe(200);
  for (let left = 60; (await memory()) - before > BACK_WITHIN_BYTES; left--) {
    if (left === 0)
      throw new Error(`the server keeps ${Math.round(((await memory()) - before) / 1024 / 1024)} MB`);
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
});
