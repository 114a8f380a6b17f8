import { randomUUID } from 'node:crypto';
import { mkdir, mkdtemp, readdir, readFile, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import type { Backups } from '@pace-check/contract';
import type pg from 'pg';
import { extract, pack } from 'tar-stream';
import { migrate, openPool } from './index';
import { Access } from './services/access';
import { Announcements } from './services/announcements';
import { backUp, restore, sweepAbandoned } from './services/backup';
import { BackupKeeper } from './services/backups';
import { hearAnnouncements } from './sql/announcements';
import { writeNightly } from './sql/settings';
import { readArchive } from './sql/comparing';
import { readTables, slowClient } from './sql/backup';
import { importPath, startHarness, type Harness } from './testing/harness';

const MIGRATIONS = join(__dirname, 'migrations');

/** A server with runs, a review's worth of lines and somebody who is in. */
let harness: Harness;
let url: string;
let folder: string;
let known: string[];
let file: string;
const made: string[] = [];

beforeAll(async () => {
  harness = await startHarness();
  folder = await mkdtemp(join(tmpdir(), 'pace-check-backup-'));
  known = await readdir(MIGRATIONS);
  const named = new URL(process.env['PACE_TEST_DATABASE']!);
  const { rows } = await harness.pool.query<{ name: string }>('select current_database() as name');
  named.pathname = `/${rows[0]!.name}`;
  url = named.href;
  for (let i = 0; i < 3; i++)
    await harness.request(
      'POST',
      importPath({ name: `Run ${i}` }),
      ['frame_time_ms', ...Array.from({ length: 3000 }, (_, n) => 16 + ((n * (i + 3)) % 7) / 10)].join('\n'),
    );
  await harness.request('PUT', '/settings', JSON.stringify({ bars: null }), {
    'content-type': 'application/json',
  });
  const access = new Access(harness.pool);
  await access.setPasscode('seven calm otters');
  await access.join((await access.invite({ role: 'bench', name: 'phone' })).token, '127.0.0.1');
  file = join(folder, 'whole.tar');
  await backUp(url, file);
});
afterAll(async () => {
  await harness.close();
  const client = await slowClient(process.env['PACE_TEST_DATABASE']!);
  for (const name of made) {
    const { rows } = await client.query<{ datname: string }>(
      "select datname from pg_database where datname like $1 || '%'",
      [name],
    );
    for (const { datname } of rows) await client.query(`drop database if exists ${datname} with (force)`);
  }
  await client.end();
  await rm(folder, { recursive: true, force: true });
});

/** A database that is not there yet, by its address. */
function elsewhere(): string {
  const name = `restored_${randomUUID().replaceAll('-', '').slice(0, 12)}`;
  made.push(name);
  const named = new URL(url);
  named.pathname = `/${name}`;
  return named.href;
}
const nameOf = (address: string): string => new URL(address).pathname.slice(1);

/** Every row of every table, as texts in an order of their own. */
async function allRows(address: string): Promise<Record<string, string[]>> {
  const client = await slowClient(address);
  try {
    const all: Record<string, string[]> = {};
    for (const { table } of await readTables(client))
      all[table] = (
        await client.query<{ row: string }>(`select t::text as row from ${table} t order by 1`)
      ).rows.map(({ row }) => row);
    return all;
  } finally {
    await client.end();
  }
}
/** The databases that a restore into this one left: others make their own meanwhile. */
async function databasesOf(address: string): Promise<string[]> {
  const client = await slowClient(url);
  const { rows } = await client.query<{ datname: string }>(
    'select datname from pg_database where starts_with(datname, $1)',
    [nameOf(address)],
  );
  await client.end();
  return rows.map(({ datname }) => datname);
}

describe('a backup', () => {
  it('comes back with every row, but for who was in', async () => {
    const target = elsewhere();
    const { manifest, before } = await restore(target, file, known);
    expect(before).toBeNull();
    const [was, is] = [await allRows(url), await allRows(target)];
    expect(Object.keys(is)).toEqual(Object.keys(was));
    for (const [table, rows] of Object.entries(was))
      expect([table, is[table]]).toEqual([table, ['session', 'tries'].includes(table) ? [] : rows]);
    expect(was['session']).toHaveLength(1);
    expect(manifest.tables['run']!.rows).toBe(3);
  });
  it('comes back with every figure', async () => {
    const target = elsewhere();
    await restore(target, file, known);
    const pool = openPool(target);
    const figures = (from: pg.Pool): Promise<{ rows: unknown[] }> =>
      from.query('select run_id, figures from analysis order by run_id');
    expect((await figures(pool)).rows).toEqual((await figures(harness.pool)).rows);
    expect((await figures(pool)).rows).toHaveLength(3);
    // what is computed from many rows is the same to the last digit, wherever they lie
    expect(await readArchive(pool)).toEqual(await readArchive(harness.pool));
    expect(await readArchive(pool)).not.toEqual([]);
    // and with the passcode of before
    expect(await new Access(pool).enter('seven calm otters', '127.0.0.1', 'x')).not.toBeNull();
    // a program of now finds nothing to bring up to date
    expect(await migrate(pool, MIGRATIONS)).toEqual([]);
    await pool.end();
  });
  it('is of one moment, whatever is written meanwhile', async () => {
    const while_ = join(folder, 'meanwhile.tar');
    let going = true;
    const writing = (async () => {
      for (let i = 0; going; i++)
        await harness.request('POST', '/kit/title', JSON.stringify({ name: `Meanwhile ${i}` }), {
          'content-type': 'application/json',
        });
    })();
    const manifest = await backUp(url, while_);
    going = false;
    await writing;
    const target = elsewhere();
    await restore(target, while_, known);
    expect((await allRows(target))['title']).toHaveLength(manifest.tables['title']!.rows);
  });
  it('tells how far it is', async () => {
    const shares: number[] = [];
    await backUp(url, join(folder, 'told.tar'), { onProgress: ({ share }) => shares.push(share) });
    expect(shares.at(-1)).toBe(1);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.length).toBeGreaterThan(10);
  });
  it('that is given up leaves nothing', async () => {
    const stopped = new AbortController();
    const given = backUp(url, join(folder, 'given-up.tar'), {
      signal: stopped.signal,
      onProgress: () => stopped.abort(),
    });
    await expect(given).rejects.toThrow();
    expect((await readdir(folder)).filter((name) => /given|^\./.test(name))).toEqual([]);
  });
});

describe('a database with data in it', () => {
  it('is left as it is, unless it is to be put aside; then it stays under another name', async () => {
    const target = elsewhere();
    await restore(target, file, known);
    const pool = openPool(target);
    await pool.query("insert into title (id, name) values (gen_random_uuid(), 'Only here')");
    await pool.end();
    await expect(restore(target, file, known)).rejects.toMatchObject({ body: { code: 'has-data' } });
    expect((await allRows(target))['title']!.join()).toContain('Only here');
    const { before } = await restore(target, file, known, { over: true });
    expect((await allRows(target))['title']!.join()).not.toContain('Only here');
    const aside = new URL(target);
    aside.pathname = `/${before}`;
    expect((await allRows(aside.href))['title']!.join()).toContain('Only here');
  });
  it('is not replaced under a server that works with it', async () => {
    // as a server that nobody asks anything: it listens, and its pool has let go of the rest
    const listens = await hearAnnouncements(
      url,
      () => undefined,
      () => undefined,
    );
    await expect(restore(url, file, known, { over: true })).rejects.toMatchObject({
      body: { code: 'in-use' },
    });
    await listens.end();
    expect((await harness.request('GET', '/runs')).body).toHaveLength(3);
  });
  it('that is somebody else’s is not written over', async () => {
    const target = elsewhere();
    const admin = await slowClient(url);
    await admin.query(`create database ${nameOf(target)}`);
    await admin.end();
    const client = await slowClient(target);
    await client.query('create table theirs (x int)');
    await client.end();
    await expect(restore(target, file, known)).rejects.toMatchObject({ body: { code: 'has-data' } });
  });
});

describe('what is no whole backup', () => {
  /** The same backup with something else in its manifest. */
  async function changed(how: (manifest: Record<string, unknown>) => object): Promise<string> {
    const to = join(folder, `${randomUUID()}.tar`);
    const reading = extract();
    reading.end(await readFile(file));
    const tar = pack();
    for await (const entry of reading) {
      const content = await buffer(entry);
      tar.entry(
        { name: entry.header.name },
        entry.header.name === 'manifest.json'
          ? Buffer.from(JSON.stringify(how(JSON.parse(content.toString()))))
          : content,
      );
    }
    tar.finalize();
    await writeFile(to, await buffer(tar));
    return to;
  }
  const cut = async (bytes: number): Promise<string> => {
    const to = join(folder, `${randomUUID()}.tar`);
    await writeFile(to, await readFile(file));
    await truncate(to, bytes);
    return to;
  };
  const damaged = async (): Promise<string> => {
    const to = join(folder, `${randomUUID()}.tar`);
    const content = await readFile(file);
    content[content.length - 3000]! ^= 1;
    await writeFile(to, content);
    return to;
  };
  const text = async (content: string): Promise<string> => {
    const to = join(folder, `${randomUUID()}.txt`);
    await writeFile(to, content);
    return to;
  };

  it.each<[string, () => Promise<string>, RegExp]>([
    ['cut off in the dump', () => cut(20_000), /incomplete/],
    ['cut off in the manifest', () => cut(600), /incomplete/],
    ['damaged', damaged, /damaged: the checksum/],
    ['empty', () => text(''), /not a Pace Check backup/],
    ['a text', () => text('frame_time_ms\n16\n'.repeat(500)), /not a Pace Check backup/],
    ['not there', () => Promise.resolve(join(folder, 'nowhere.tar')), /File not found/],
    ['of a newer version', () => changed((one) => ({ ...one, version: 2 })), /newer version of Pace Check/],
    [
      'of a newer database',
      () => changed((one) => ({ ...one, migrations: [...(one['migrations'] as string[]), '999_later.sql'] })),
      /newer version of Pace Check/,
    ],
    ['of another program', () => changed((one) => ({ ...one, format: 'other' })), /not a Pace Check backup/],
    [
      'of other rows than it says',
      () =>
        changed((one) => ({
          ...one,
          tables: { ...(one['tables'] as object), run: { rows: 3, sum: '1' } },
        })),
      /table “run” does not match/,
    ],
  ])('is refused: %s', async (_, make, says) => {
    const target = elsewhere();
    await expect(restore(target, await make(), known)).rejects.toMatchObject({
      message: expect.stringMatching(says),
    });
    // nothing of it is left
    expect(await databasesOf(target)).toEqual([]);
    expect((await readdir(folder)).filter((name) => name.startsWith('.'))).toEqual([]);
  });
});

it('a folder is no backup, and says so in words', async () => {
  await expect(restore(elsewhere(), folder, known)).rejects.toMatchObject({
    status: 422,
    message: expect.stringMatching(/is not a file/),
  });
});

it('two restores at once: one is told to wait', async () => {
  const results = await Promise.allSettled([1, 2].map(() => restore(elsewhere(), file, known)));
  expect(results.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  const refused = results.find((one) => one.status === 'rejected')!;
  expect((refused as PromiseRejectedResult).reason).toMatchObject({ body: { code: 'restoring' } });
});

it('what a killed backup and a killed restore have left goes at the next start; what is under way stays', async () => {
  const place = await mkdtemp(join(tmpdir(), 'pace-check-left-'));
  // no process has this number: Linux gives none above its limit
  const gone = 4_194_305;
  const left = join(place, `.pace-check-${gone}-abcdef`);
  const going = join(place, `.pace-check-${process.pid}-abcdef`);
  for (const at of [left, going]) {
    await mkdir(at);
    await writeFile(join(at, 'database.dump'), 'half of it');
  }
  const target = new URL(url).pathname.slice(1);
  const client = await slowClient(process.env['PACE_TEST_DATABASE']!);
  await client.query(`create database ${target}_restoring_${gone}`);
  await sweepAbandoned(url, place);
  expect(await readdir(place)).toEqual([`.pace-check-${process.pid}-abcdef`]);
  const { rowCount } = await client.query('select 1 from pg_database where datname like $1', [
    `${target}_restoring_%`,
  ]);
  expect(rowCount).toBe(0);
  await client.end();
  await rm(place, { recursive: true, force: true });
});

describe('backups that the server keeps', () => {
  let keeping: Harness;
  let place: string;
  beforeAll(async () => {
    place = await mkdtemp(join(tmpdir(), 'pace-check-kept-'));
    keeping = await startHarness({ backups: { url, folder: place } });
  });
  afterAll(async () => {
    await keeping.close();
    await rm(place, { recursive: true, force: true });
  });
  const state = async (): Promise<Backups> => (await keeping.request('GET', '/backups')).body;
  const setNightly = (nightly: boolean): Promise<{ status: number; body: Backups }> =>
    keeping.request('PUT', '/backups', JSON.stringify({ nightly }), { 'content-type': 'application/json' });

  it('are made when asked for, one at a time, and come back', async () => {
    const asked = await Promise.all([
      keeping.request('POST', '/backups'),
      keeping.request('POST', '/backups'),
    ]);
    expect(asked.map(({ status }) => status).sort()).toEqual([201, 409]);
    let now = await state();
    while (now.going) now = await state();
    expect(now).toMatchObject({ kept: true, nightly: false, failed: null });
    expect(now.files).toHaveLength(1);
    const [{ id, bytes, nightly }] = now.files as [Backups['files'][0]];
    expect(nightly).toBe(false);
    const answer = await fetch(`${keeping.address}/api/backups/${id}/file`);
    expect(answer.headers.get('content-disposition')).toMatch(/pace-check-\d{4}-\d\d-\d\d\.tar/);
    const saved = join(folder, 'saved.tar');
    await writeFile(saved, Buffer.from(await answer.arrayBuffer()));
    expect((await readFile(saved)).length).toBe(bytes);
    const target = elsewhere();
    await restore(target, saved, known);
    expect((await allRows(target))['run']).toEqual((await allRows(url))['run']);
    expect((await keeping.request('DELETE', `/backups/${id}`)).status).toBe(204);
    expect((await keeping.request('DELETE', `/backups/${id}`)).status).toBe(404);
    expect((await state()).files).toEqual([]);
  });
  it('are made once a night where that is switched on, by one of several servers, and seven of them stay', async () => {
    const pool = openPool(url);
    const keeper = (): BackupKeeper =>
      new BackupKeeper(pool, { url, folder: place }, new Announcements(pool));
    const at = (hour: number): Date => new Date(new Date().setHours(hour, 30, 0, 0));
    const nightly = async (): Promise<string[]> =>
      (await readdir(place)).filter((name) => name.startsWith('nightly_')).sort();
    await keeper().atNight(at(4));
    expect(await nightly()).toEqual([]);
    await writeNightly(pool, true);
    await keeper().atNight(at(2));
    expect(await nightly()).toEqual([]);
    const before = Array.from({ length: 8 }, (_, i) => `nightly_2026010${i + 1}-030000_${randomUUID()}.tar`);
    for (const name of before) await writeFile(join(place, name), 'old');
    await Promise.all([keeper().atNight(at(4)), keeper().atNight(at(4)), keeper().atNight(at(5))]);
    const after = await nightly();
    expect(after).toHaveLength(7);
    expect(after.slice(0, 6)).toEqual(before.slice(2));
    await keeper().atNight(at(6));
    expect(await nightly()).toEqual(after);
    await pool.end();
  });
  it('say why one was not made', async () => {
    const away = await startHarness({
      backups: { url: 'postgres://nobody@127.0.0.1:1/none', folder: place },
    });
    await away.request('POST', '/backups');
    const look = async (): Promise<Backups> => (await away.request('GET', '/backups')).body;
    let now = await look();
    while (now.failed === null) now = await look();
    expect(now.failed).toMatch(/ECONNREFUSED/);
    await away.close();
  });
  it('are switched on and off by the reviewer', async () => {
    expect((await setNightly(true)).body.nightly).toBe(true);
    expect((await setNightly(false)).body.nightly).toBe(false);
    const none = await harness.request('POST', '/backups');
    expect([none.status, none.body.code]).toEqual([409, 'no-folder']);
  });
});
