import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { cp, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { METHOD_VERSION } from '@pace-check/core';
import { LOOPBACK, migrate } from './index';
import { ChangedMigration } from './sql/migrate';
import { importPath, opening, startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => (harness = await startHarness()));
afterAll(() => harness.close());
const ask = (path: string, headers: Record<string, string> = {}): Promise<Response> =>
  fetch(`${harness.address}${path}`, { headers });

describe('whoever looks after the server', () => {
  it('hears that it lives, and that it is ready', async () => {
    expect(await (await ask('/healthz')).json()).toEqual({ ok: true });
    const ready = await ask('/readyz');
    expect([ready.status, await ready.json()]).toEqual([200, { ready: true }]);
  });
  it('hears that a newer program has the database', async () => {
    await harness.pool.query("insert into migration (file) values ('999_later.sql')");
    const ready = await ask('/readyz');
    expect([ready.status, await ready.json()]).toEqual([
      503,
      { ready: false, why: 'The database belongs to a newer version of Pace Check.' },
    ]);
    await harness.pool.query("delete from migration where file = '999_later.sql'");
  });
  it('reads figures of it, from its own machine alone', async () => {
    await ask('/api/runs');
    const figures = await (await ask('/metrics')).text();
    expect(figures).toMatch(/^pace_check_answer_seconds_count\{route="runs",status="200"\} [1-9]/m);
    expect(figures).toMatch(/^pace_check_followers 0$/m);
    expect(figures).toMatch(/^process_resident_memory_bytes \d/m);
    const behind = await startHarness({ door: { ...LOOPBACK, closed: true, proxies: 1 } });
    const afar = await fetch(`${behind.address}/metrics`, { headers: { 'x-forwarded-for': '203.0.113.9' } });
    expect(afar.status).toBe(404);
    await behind.close();
  });
  it('finds a request by its id', async () => {
    expect((await ask('/api/runs')).headers.get('x-request-id')).toMatch(/^[0-9a-f-]{36}$/);
    expect((await ask('/api/runs', { 'x-request-id': 'from-the-proxy-7' })).headers.get('x-request-id')).toBe(
      'from-the-proxy-7',
    );
    expect((await ask('/api/runs', { 'x-request-id': 'a b' })).headers.get('x-request-id')).toMatch(
      /^[0-9a-f-]{36}$/,
    );
  });
});

describe('figures of before', () => {
  const state = async (): Promise<{ methodVersion: number; runs: number; stale: number }> =>
    (await harness.request('GET', '/figures')).body;
  it('are counted, and fewer when some are computed anew; a run that is recorded is none of them', async () => {
    for (const name of ['One', 'Two'])
      await harness.request(
        'POST',
        importPath({ name, again: true }),
        `frame_time_ms\n${'16.6\n'.repeat(900)}`,
      );
    expect(await state()).toEqual({ methodVersion: METHOD_VERSION, runs: 2, stale: 0 });
    await harness.pool.query('update analysis set method_version = 1');
    expect(await state()).toMatchObject({ runs: 2, stale: 2 });
    const [{ id }] = (await harness.request('GET', '/runs')).body as [{ id: string }];
    await harness.request('GET', `/runs/${id}`);
    expect(await state()).toMatchObject({ runs: 2, stale: 1 });
    await harness.request(
      'POST',
      `/bench/${randomUUID()}/changes`,
      JSON.stringify({ changes: [opening()] }),
      {
        'content-type': 'application/json',
      },
    );
    expect(await state()).toMatchObject({ runs: 2, stale: 1 });
    await harness.request('DELETE', `/runs/${id}`);
    expect(await state()).toMatchObject({ runs: 1, stale: 1 });
  });
});

describe('migrations', () => {
  it('are known by what they say: one that was changed is refused, and nothing is done', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'pace-check-migrations-'));
    try {
      await cp(join(__dirname, 'migrations'), folder, { recursive: true });
      expect(await migrate(harness.pool, folder)).toEqual([]);
      await writeFile(join(folder, '018_synthetic.sql'), '-- something else\n');
      await writeFile(join(folder, '999_later.sql'), 'create table later (x int);\n');
      await expect(migrate(harness.pool, folder)).rejects.toThrow(ChangedMigration);
      expect((await harness.pool.query("select to_regclass('later') as there")).rows).toEqual([
        { there: null },
      ]);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });
  it('of a database from before sums were kept are taken as they are', async () => {
    await harness.pool.query('update migration set sha256 = null');
    expect(await migrate(harness.pool, join(__dirname, 'migrations'))).toEqual([]);
    const { rows } = await harness.pool.query('select 1 from migration where sha256 is null');
    expect(rows).toEqual([]);
  });
});

describe('a server of its own process', () => {
  let child: ChildProcess;
  const lines: string[] = [];
  let address = '';
  beforeAll(async () => {
    const { rows } = await harness.pool.query<{ name: string }>('select current_database() as name');
    const url = new URL(process.env['PACE_TEST_DATABASE']!);
    url.pathname = `/${rows[0]!.name}`;
    child = spawn(process.execPath, [join(__dirname, 'dist', 'main.mjs')], {
      env: { ...process.env, DATABASE_URL: url.href, PORT: '0', PACE_LOG: 'json', HOST: '' },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    const said = createInterface({ input: child.stdout! });
    await new Promise<void>((resolve) =>
      said.on('line', (line) => {
        lines.push(line);
        if (line.startsWith('listening ')) resolve(void (address = line.slice('listening '.length)));
      }),
    );
  });
  afterAll(() => child.kill('SIGKILL'));

  it('writes a line for each answer, without keys, names and what was looked for', async () => {
    await fetch(`${address}/api/runs?q=velvet`, {
      headers: {
        authorization: 'Bearer hidden-key',
        cookie: 'pace-check=hidden-cookie',
        'x-request-id': 'looked-for-1',
      },
    });
    const noted = await until(() => lines.find((line) => line.includes('looked-for-1')));
    expect(JSON.parse(noted)).toMatchObject({
      req: { id: 'looked-for-1', method: 'GET', path: '/api/runs' },
      res: { status: 200 },
      responseTime: expect.any(Number),
    });
    expect(lines.join()).not.toMatch(/velvet|hidden/);
  });
  it('stops in good order: screens that follow are told, and it is gone within ten seconds', async () => {
    const run = randomUUID();
    await fetch(`${address}/api/bench/${run}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ changes: [opening()] }),
    });
    const stream = await fetch(`${address}/api/bench/${run}/events`);
    const heard = stream.text();
    const begun = performance.now();
    const ended = once(child, 'exit');
    child.kill('SIGTERM');
    expect(await heard).toMatch(/event: bye\n/);
    expect(await ended).toEqual([0, null]);
    expect(performance.now() - begun).toBeLessThan(10_000);
  });
});

/** Waits for what comes by itself. */
async function until<T>(look: () => T | undefined): Promise<T> {
  for (;;) {
    const found = look();
    if (found !== undefined) return found;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}
