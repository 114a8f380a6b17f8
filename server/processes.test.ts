import { randomUUID } from 'node:crypto';
import type { SourceWithKey } from '@pace-check/contract';
import { Announcements } from './services/announcements';
import { LiveRuns } from './services/liveRuns';
import { readSources, updateSource } from './sql/recordings';
import { opening, startHarness, type Harness } from './testing/harness';

/** Server processes on one database, here without the processes: each has a memory of its own and hears the others through PostgreSQL. */
interface Process {
  live: LiveRuns;
  announcements: Announcements;
}

let harness: Harness;
let processes: Process[];
let runId: string;
let source: SourceWithKey;

async function newProcess(): Promise<Process> {
  const announcements = new Announcements(harness.pool);
  const live = new LiveRuns(harness.pool, announcements);
  announcements.onNews = (news) => void ('run' in news && live.heard(news));
  await announcements.listen();
  return { live, announcements };
}

beforeAll(async () => {
  harness = await startHarness();
  processes = [await newProcess(), await newProcess(), await newProcess()];
});
afterAll(async () => {
  for (const { announcements } of processes) await announcements.close();
  await harness.close();
});
beforeEach(async () => {
  runId = randomUUID();
  const change = (made: object): Promise<unknown> =>
    harness.request('POST', `/bench/${runId}/changes`, JSON.stringify({ changes: [made] }), {
      'content-type': 'application/json',
    });
  await change(opening());
  await change({ id: randomUUID(), kind: 'start', at: Date.now() - 60_000 });
  source = await processes[0]!.live.addSource(runId, { name: 'handset', kind: 'handset' });
});

/** Fifty frames of 20 ms that follow those of the batch before. */
const frames = (seq: number): string =>
  JSON.stringify({ type: 'frames', atMs: seq * 1000, us: Array.from({ length: 50 }, (_, i) => 20_000 + i) });
const take = (of: number, seq: number, text = frames(seq)): ReturnType<LiveRuns['take']> =>
  processes[of]!.live.take(source.key, seq, text, null);
const paces = async (): Promise<unknown[]> => Promise.all(processes.map(({ live }) => live.pace(runId)));

it('batches that reach different processes are one run, and each process knows its pace', async () => {
  for (let seq = 0; seq < 12; seq++) expect(await take(seq % 3, seq)).toMatchObject({ next: seq + 1 });
  const [one, two, three] = await paces();
  expect(one).toMatchObject({ heardMs: expect.closeTo(12_000, -2) });
  expect(two).toEqual(one);
  expect(three).toEqual(one);
  expect((await readSources(harness.pool, runId))[0]).toMatchObject({ next: 12, frames: 600, refused: 0 });
});

it('a batch that came before its turn to one process is counted when another takes what was missing', async () => {
  await take(0, 0);
  expect(await take(1, 2)).toMatchObject({ next: 1 });
  expect(await take(2, 3)).toMatchObject({ next: 1 });
  expect(await take(0, 1)).toMatchObject({ next: 4 });
  // who held some of them goes on behind all of them
  expect(await take(1, 4)).toMatchObject({ next: 5 });
  const [one, two] = await paces();
  expect(two).toEqual(one);
  expect((await readSources(harness.pool, runId))[0]).toMatchObject({ next: 5, frames: 250, refused: 0 });
});

it('a batch that reaches all at once is stored once', async () => {
  for (let seq = 0; seq < 5; seq++) {
    const taken = await Promise.all([take(0, seq), take(1, seq), take(2, seq)]);
    expect(taken.map(({ duplicate }) => duplicate).sort()).toEqual([false, true, true]);
    expect(taken.map(({ next }) => next)).toEqual([seq + 1, seq + 1, seq + 1]);
  }
  expect((await readSources(harness.pool, runId))[0]).toMatchObject({ next: 5, frames: 250 });
});

it('another content under a number is refused by whichever process it reaches', async () => {
  await take(0, 0);
  await expect(take(1, 0, frames(7))).rejects.toMatchObject({ status: 409, body: { next: 1 } });
  expect(await take(2, 1)).toMatchObject({ next: 2 });
});

it('who has seen an older fence keeps nothing', async () => {
  const [before] = await readSources(harness.pool, runId);
  await take(0, 0);
  expect(await updateSource(harness.pool, { ...before!, next: 9, frames: 9 })).toBe(false);
  const [now] = await readSources(harness.pool, runId);
  expect(now).toMatchObject({ next: 1, frames: 50 });
  expect(now!.fence).toBeGreaterThan(before!.fence);
});

it('a key that one process revokes is refused by the others', async () => {
  await take(1, 0);
  await processes[0]!.live.revoke(runId, source.id);
  await expect(take(1, 1)).rejects.toMatchObject({ status: 403 });
});

it('a screen hears of lines and frames that other processes take', async () => {
  const told = { changed: 0, heardMs: 0 };
  const heard = new Promise<void>((resolve) => {
    processes[2]!.live.listen(runId, {
      changed: () => void (told.changed++, told.heardMs > 0 && resolve()),
      pace: ({ heardMs }) => void ((told.heardMs = heardMs), told.changed > 0 && resolve()),
    });
  });
  await take(0, 0);
  await take(1, 1, JSON.stringify({ type: 'skin', atMs: 900, spot: 'back', c: 31, by: 'camera' }));
  await heard;
  expect(told.heardMs).toBeGreaterThan(0);
});

it('hears again after the connection was cut, and has its screens look at what they missed', async () => {
  let missed = 0;
  const [{ announcements, live }] = processes as [Process];
  live.listen(runId, { changed: () => missed++, pace: () => undefined });
  const again = new Promise<void>((resolve) => {
    announcements.onGap = () => void live.missed().then(resolve);
  });
  await harness.pool.query(
    "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and query like 'listen%'",
  );
  await again;
  expect(missed).toBeGreaterThan(0);
});
