import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import {
  USUAL_BENCH_PLAN,
  USUAL_RULES,
  type BatchTaken,
  type BenchState,
  type Recording,
  type RunDetail,
  type SourceWithKey,
} from '@pace-check/contract';
import type { EntryLine, RunLine } from '@pace-check/core';
import { createApp, LOOPBACK } from './index';
import { importPath, startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => (harness = await startHarness()));
afterAll(() => harness.close());

const json = { 'content-type': 'application/json' };
const send = (method: string, path: string, body?: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, body === undefined ? undefined : JSON.stringify(body), json);
const change = async (
  run: string,
  ...changes: object[]
): Promise<{ done: string[]; refused: { id: string; reason: string }[] }> =>
  (
    await send('POST', `/bench/${run}/changes`, {
      changes: changes.map((one) => ({ id: randomUUID(), ...one })),
    })
  ).body;
const facts = { device: 'Velm 5', title: 'Aurelune', setup: null, target: 60, refresh: 120 };
const opening = {
  kind: 'open',
  facts,
  preflight: { roomC: 18.5 },
  plan: USUAL_BENCH_PLAN,
  speed: 60,
  step: null,
};
const put = (line: EntryLine, more: object = {}): object => ({
  kind: 'put',
  entry: randomUUID(),
  line,
  open: false,
  writer: 'phone',
  ...more,
});
const skin = (atMs: number, c: number, spot = 'back'): EntryLine => ({
  type: 'skin',
  atMs,
  spot,
  c,
  by: 'infrared',
});

async function started(): Promise<string> {
  const run = randomUUID();
  await change(run, opening, { kind: 'start', at: Date.now() - 20_000 });
  return run;
}
const source = async (run: string, name = 'logger'): Promise<SourceWithKey> =>
  (await send('POST', `/bench/${run}/sources`, { name, kind: 'handset' })).body;
const batch = async (
  key: string,
  seq: number,
  lines: (RunLine | string | object)[],
  query = '',
): Promise<{ status: number; body: BatchTaken }> =>
  harness.request(
    'POST',
    `/live?seq=${seq}${query}`,
    lines.map((line) => (typeof line === 'string' ? line : JSON.stringify(line))).join('\n'),
    { authorization: `Bearer ${key}` },
  );
const frames = (atMs: number, count: number, us = 20_000): RunLine => ({
  type: 'frames',
  atMs,
  us: Array<number>(count).fill(us),
});
const state = async (run: string): Promise<BenchState> => (await send('GET', `/bench/${run}`)).body;
/** A poll that lasts so long has failed, ms. */
const PATIENCE_MS = 60_000;
async function until(run: string, holds: (recording: Recording) => boolean): Promise<BenchState> {
  for (const late = Date.now() + PATIENCE_MS; Date.now() < late;) {
    const now = await state(run);
    if (holds(now.recording)) return now;
  }
  throw new Error('the recording never came to that');
}
async function ended(run: string, reason = 'planned', atMs = 600_000): Promise<RunDetail> {
  await change(run, { kind: 'end', entry: randomUUID(), atMs, reason, writer: 'phone' });
  await until(run, ({ settled }) => settled);
  return (await send('GET', `/runs/${run}`)).body;
}

describe('what a person does', () => {
  it('is done once, however often it is sent, and in order', async () => {
    const run = randomUUID();
    const changes = [
      { ...opening, id: randomUUID() },
      { id: randomUUID(), kind: 'start', at: Date.now() - 20_000 },
      { id: randomUUID(), ...put(skin(1000, 20)) },
      { id: randomUUID(), ...put(skin(2000, 21)) },
    ];
    for (let i = 0; i < 3; i++)
      expect((await send('POST', `/bench/${run}/changes`, { changes })).body).toMatchObject({
        done: changes.map(({ id }) => id),
        refused: [],
      });
    const { entries, recording } = await state(run);
    expect(entries.map(({ line }) => line)).toEqual([skin(1000, 20), skin(2000, 21)]);
    expect(recording).toMatchObject({ status: 'running', device: 'Velm 5', roomC: 18.5, speed: 60 });
  });
  it('is the same from two at once', async () => {
    const run = await started();
    const both = Array.from({ length: 12 }, (_, i) => ({ id: randomUUID(), ...put(skin(i * 1000, 20 + i)) }));
    await Promise.all(
      [...both, ...both].map((one) => send('POST', `/bench/${run}/changes`, { changes: [one] })),
    );
    expect((await state(run)).entries).toHaveLength(12);
  });
  it('an old change that comes again does not undo a newer one', async () => {
    const run = await started();
    const entry = randomUUID();
    const first = { id: randomUUID(), ...put(skin(1000, 20), { entry }) };
    const second = { id: randomUUID(), ...put(skin(1000, 22.5), { entry }) };
    await send('POST', `/bench/${run}/changes`, { changes: [first, second, first] });
    expect((await state(run)).entries.map(({ line }) => line)).toEqual([skin(1000, 22.5)]);
  });
  it('taken back is told to the others, and stays taken back', async () => {
    const run = await started();
    const entry = randomUUID();
    await change(run, put(skin(1000, 20), { entry }), { kind: 'take-back', entry });
    expect((await state(run)).entries).toEqual([expect.objectContaining({ id: entry, takenBack: true })]);
    expect((await change(run, put(skin(1000, 30), { entry }))).refused[0]!.reason).toMatch(
      /removed in the meantime/,
    );
  });
  it('that is nonsense is refused by itself, with the field', async () => {
    const run = await started();
    const { done, refused } = await change(
      run,
      put(skin(1000, 20)),
      put({ ...skin(2000, 20), c: 'warm' } as never),
      put(skin(3000, 20)),
    );
    expect(done).toHaveLength(2);
    expect(refused).toEqual([{ id: expect.any(String), reason: expect.stringContaining('line.c') }]);
  });
  it('needs a run that was opened', async () =>
    expect((await change(randomUUID(), put(skin(0, 20)))).refused[0]!.reason).toMatch(
      /recording does not exist/,
    ));
  it('that is a start counts once, and never from a clock that is wrong', async () => {
    const run = randomUUID();
    const before = Date.now();
    await change(run, opening, { kind: 'start', at: 12 });
    const at = (await state(run)).recording.startedAt!;
    expect(at).toBeGreaterThanOrEqual(before - 1000);
    await change(run, { kind: 'start', at: before - 60_000 });
    expect((await state(run)).recording.startedAt).toBe(at);
  });
});

describe('the end of a run', () => {
  const bySelf = { ...USUAL_BENCH_PLAN, minutes: 1, endsItself: true };
  const settled = (recording: Recording): boolean => recording.status === 'ended' && recording.settled;
  const endLines = ({ entries }: BenchState): EntryLine[] =>
    entries.flatMap(({ line, takenBack }) => (line.type === 'end' && !takenBack ? [line] : []));

  it('comes by itself where that was asked for, with no screen open, and the card hears of it', async () => {
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
      requestId: null,
      ladderId: null,
      note: '',
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
    const card = (
      await send('POST', '/cards', {
        name: 'Crossing',
        policy: 'highest',
        template: false,
        rules: USUAL_RULES,
        steps: [step],
        day,
      })
    ).body;
    await send('POST', `/cards/${card.id}/events`, {
      events: [{ id: randomUUID(), kind: 'started', stepId: step.id, repeat: 1, atMin: 551 }],
    });
    const run = randomUUID();
    await change(
      run,
      { ...opening, plan: bySelf, step: { cardId: card.id, stepId: step.id, repeat: 1, atMin: 540 } },
      { kind: 'start', at: Date.now() },
    );
    const over = await until(run, settled);
    expect(over.recording.end!.reason).toBe('planned');
    // a timer may be early by some ms, which are sixty times as many on this clock
    expect(over.recording.end!.atMs).toBeGreaterThan(60_000 - 60 * 50);
    expect(over.recording.end!.atMs).toBeLessThanOrEqual(60_000);
    expect(endLines(over)).toEqual([{ type: 'end', atMs: over.recording.end!.atMs, reason: 'planned' }]);
    expect((await send('GET', `/cards/${card.id}`)).body.events).toContainEqual(
      expect.objectContaining({ kind: 'ended', how: 'done', stepId: step.id, atMin: 552 }),
    );
  });
  it('does not come where the plan was changed, and comes where it is asked for later', async () => {
    const run = randomUUID();
    await change(
      run,
      { ...opening, plan: bySelf },
      { kind: 'start', at: Date.now() },
      { kind: 'plan', plan: { ...bySelf, minutes: 600 } },
    );
    // well past the end that it had first
    expect(
      (await until(run, ({ startedAt }) => (Date.now() - startedAt!) * 60 > 75_000)).recording.status,
    ).toBe('running');
    await change(run, { kind: 'plan', plan: bySelf });
    expect((await until(run, settled)).recording.end!.atMs).toBe(60_000);
  });
  it('comes after the server was away, and a person who had ended it before is heard all the same', async () => {
    const run = randomUUID();
    // nobody was there when its time came
    await change(
      run,
      { ...opening, plan: { ...bySelf, endsItself: false } },
      { kind: 'start', at: Date.now() - 10_000 },
      put(skin(20_000, 30)),
    );
    await harness.pool.query(`update recording set plan = plan || '{"endsItself":true}' where run_id = $1`, [
      run,
    ]);
    const again = createApp(harness.pool, harness.analyses, harness.pictures, {
      webFolder: null,
      command: null,
      backups: null,
      migrations: [],
      door: LOOPBACK,
    });
    await again.resume();
    const over = await until(run, settled);
    expect(over.recording.end).toEqual({ atMs: 60_000, reason: 'planned' });
    expect(
      (
        await change(run, {
          kind: 'end',
          entry: randomUUID(),
          atMs: 42_000,
          reason: 'crash',
          writer: 'phone',
        })
      ).refused,
    ).toEqual([]);
    const told = await until(run, settled);
    expect(told.recording.end).toEqual({ atMs: 42_000, reason: 'crash' });
    expect(endLines(told)).toEqual([{ type: 'end', atMs: 42_000, reason: 'crash' }]);
    expect((await send('GET', `/runs/${run}`)).body.figures).toMatchObject({
      end: { reason: 'crash' },
      stamina: { word: 'DNF' },
    });
    again.close();
  });
  it('is one, whoever pressed; another reason or time is refused with what to do', async () => {
    const run = await started();
    await ended(run, 'stopped', 600_000);
    const end = (
      atMs: number,
      reason: string,
      entry = randomUUID(),
    ): Promise<{ done: string[]; refused: { reason: string }[] }> =>
      change(run, { kind: 'end', entry, atMs, reason, writer: 'other' });
    expect((await end(603_000, 'stopped')).refused).toEqual([]);
    expect((await end(300_000, 'crash')).refused[0]!.reason).toBe(
      'The run has already ended, at 10:00. You can edit the end time and reason on the run’s page.',
    );
    expect(endLines(await state(run))).toEqual([{ type: 'end', atMs: 600_000, reason: 'stopped' }]);
  });
  it('follows when a run is restored that was deleted meanwhile, and does not hold up others', async () => {
    const run = randomUUID();
    await change(run, { ...opening, plan: { ...bySelf, minutes: 2 } }, { kind: 'start', at: Date.now() });
    const { startedAt } = (await state(run)).recording;
    await send('DELETE', `/runs/${run}`);
    while ((Date.now() - startedAt!) * 60 < 135_000) await send('GET', '/bench');
    expect((await harness.pool.query('select status from recording where run_id = $1', [run])).rows).toEqual([
      { status: 'running' },
    ]);
    const again = createApp(harness.pool, harness.analyses, harness.pictures, {
      webFolder: null,
      command: null,
      backups: null,
      migrations: [],
      door: LOOPBACK,
    });
    await again.resume();
    await send('POST', `/runs/${run}/restore`);
    expect((await until(run, settled)).recording.end).toEqual({ atMs: 120_000, reason: 'planned' });
    again.close();
  });
});

describe('a source', () => {
  it('is heard once, in order, however its batches come', async () => {
    const run = await started();
    const { key } = await source(run);
    const parts = [0, 1, 2, 3].map((i) => [frames(i * 2000, 100), skin(i * 2000, 20 + i)]);
    expect((await batch(key, 2, parts[2]!)).body).toMatchObject({ next: 0, taken: 2 });
    expect((await batch(key, 0, parts[0]!)).body).toMatchObject({ next: 1 });
    expect((await batch(key, 0, parts[0]!)).body).toMatchObject({ next: 1, duplicate: true });
    await Promise.all([batch(key, 3, parts[3]!), batch(key, 3, parts[3]!), batch(key, 1, parts[1]!)]);
    const now = await state(run);
    expect(now.live!.figures).toMatchObject({ frames: 400, seconds: 8, average: 50 });
    expect(now.entries).toHaveLength(4);
    // the logger stopped long before the end: the rest is a gap
    expect((await ended(run)).figures).toMatchObject({
      frames: { count: 400, seconds: 600 },
      pace: { average: 50 },
    });
  });
  it('waits for the start, and is told so', async () => {
    const run = randomUUID();
    await change(run, opening);
    const { key } = await source(run);
    expect(await batch(key, 0, [frames(0, 1)])).toMatchObject({ status: 425, body: { code: 'not-started' } });
    expect(
      (await harness.request('GET', '/live', undefined, { authorization: `Bearer ${key}` })).body,
    ).toMatchObject({ status: 'ready', runMs: null, next: 0, speed: 60 });
  });
  it('that reads nonsense is refused line by line, and what is stored stays', async () => {
    const run = await started();
    const { key } = await source(run);
    await batch(key, 0, [frames(0, 100)]);
    const { body } = await batch(key, 1, [
      '{"type":"skin", oops',
      { type: 'battery', atMs: 1, percent: 140 },
      frames(500, 10),
      { type: 'frames', atMs: 2000, us: [0, -3, 16_000] },
      frames(9_000_000, 10),
      { type: 'humidity', atMs: 3 },
      frames(2000, 50),
    ]);
    expect(body).toMatchObject({ taken: 1, passedOver: 1, next: 2 });
    expect(body.refused.map(({ line }) => line)).toEqual([1, 2, 4, 5, 3]);
    expect(body.refused.map(({ reason }) => reason).join('; ')).toMatch(
      /not a JSON object.*"percent".*most frame times are impossible.*ahead of the run’s clock.*before the previous ones/,
    );
    const { recording, live } = await state(run);
    expect(recording.sources[0]).toMatchObject({
      refused: 5,
      frames: 150,
      refusals: expect.arrayContaining([{ batch: 1, line: 2, reason: expect.any(String) }]),
    });
    expect(live!.figures).toMatchObject({ frames: 150, seconds: 3 });
  });
  it('is told to slow down when a batch is missing for long', async () => {
    const run = await started();
    const { key } = await source(run);
    for (let seq = 1; seq <= 256; seq++) await batch(key, seq, [frames(seq * 20, 1)]);
    expect(await batch(key, 257, [frames(257 * 20, 1)])).toMatchObject({
      status: 429,
      body: { code: 'slow-down' },
    });
    expect((await batch(key, 0, [frames(0, 1)])).body.next).toBe(257);
  });
  it('is shut out once its key is revoked; what it sent stays', async () => {
    const run = await started();
    const { key, id } = await source(run);
    await batch(key, 0, [frames(0, 10)]);
    expect((await send('DELETE', `/bench/${run}/sources/${id}`)).status).toBe(204);
    expect(await batch(key, 1, [frames(200, 10)])).toMatchObject({ status: 403, body: { code: 'revoked' } });
    expect((await batch('guessed', 0, [])).status).toBe(401);
    expect((await state(run)).recording.sources[0]).toMatchObject({ revoked: true, frames: 10 });
  });
  it('with a clock of its own is put on the run’s', async () => {
    const run = await started();
    const { key } = await source(run);
    // its clock began long before the run
    await batch(key, 0, [skin(5_000_000, 30)], '&at=5000000');
    const at = (await state(run)).entries[0]!.line as { atMs: number };
    expect(Math.abs(at.atMs - 20_000 * 60)).toBeLessThan(60_000);
  });
  it('says of a run what nobody has said', async () => {
    const run = await started();
    const { key } = await source(run);
    await batch(key, 0, [
      {
        type: 'run',
        version: 1,
        target: 30,
        batteryWh: 18.1,
        need: 'story',
        conditions: ['boosted', 'haunted'],
      },
    ]);
    expect(await ended(run)).toMatchObject({
      target: 60,
      batteryWh: 18.1,
      need: 'story',
      conditions: ['boosted'],
    });
  });
  it('does not stand in the way of others that send at the same moment', async () => {
    const errors = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    const run = await started();
    const keys = await Promise.all(['a', 'b', 'c', 'd'].map(async (name) => (await source(run, name)).key));
    const header: RunLine = { type: 'run', version: 1, batteryWh: 18.1 };
    for (let seq = 0; seq < 15; seq++) {
      const answers = await Promise.all([
        ...keys.map((key) => batch(key, seq, [header, frames(seq * 2000, 100), skin(seq * 2000, 20)])),
        change(run, put(skin(seq * 2000, 21))).then(() => ({ status: 200 })),
      ]);
      expect(answers.map(({ status }) => status)).toEqual([200, 200, 200, 200, 200]);
    }
    expect((await state(run)).entries).toHaveLength(15 * 5);
    expect(errors).not.toHaveBeenCalled();
    errors.mockRestore();
  });
  it('may be a shell that prints what it knows', async () => {
    const run = await started();
    const { key } = await source(run, 'shell');
    const shell = async (seq: number, text: string): Promise<{ status: number; body: BatchTaken }> =>
      harness.request('POST', `/live/shell?seq=${seq}`, text, { authorization: `Bearer ${key}` });
    const stamps = (from: number): string =>
      Array.from({ length: 120 }, (_, i) => String(5_000_000_000_000n + BigInt(from + i) * 16_666_667n)).join(
        '\n',
      );
    expect((await shell(0, `level: 87\nstatus: 3\nhealth: 2\n${stamps(0)}`)).body).toMatchObject({
      taken: 2,
      passedOver: 1,
      next: 1,
    });
    expect((await shell(2, stamps(60))).status).toBe(409);
    expect((await shell(1, stamps(60))).body).toMatchObject({ taken: 1, refused: [] });
    const { live, entries } = await state(run);
    expect(live!.figures.frames).toBe(119 + 60);
    expect(entries[0]!.line).toMatchObject({ type: 'battery', percent: 87, charging: false });
  });
  it('may be one of several: the figures say which they stand on', async () => {
    const run = await started();
    const [a, b] = [await source(run, 'logger'), await source(run, 'capture')];
    await batch(a.key, 0, [
      frames(0, 500),
      { type: 'battery', atMs: 0, percent: 90 },
      { type: 'battery', atMs: 5000, percent: 90 },
    ]);
    await batch(b.key, 0, [frames(8000, 500), { type: 'battery', atMs: 6000, percent: 89 }]);
    const detail = await ended(run);
    expect(detail.figures.frames.count).toBe(500 + 400);
    expect(detail.recorded).toEqual({
      sources: [
        { id: a.id, name: 'logger' },
        { id: b.id, name: 'capture' },
      ],
      used: [
        { measure: 'frames', source: a.id, fromMs: 0, toMs: 10_000 },
        { measure: 'frames', source: b.id, fromMs: 10_000, toMs: 18_000 },
        { measure: 'battery', source: a.id, fromMs: 0, toMs: 5000 },
      ],
    });
  });
});

describe('a stand-in', () => {
  const standIn = { kind: 'handset', scenario: 'fades', minutes: 1, seed: 1, misbehave: [] };
  it('is asked for by the name of a scenario, and by nothing that a command would take for a flag', async () => {
    const run = await started();
    expect(await send('POST', `/bench/${run}/stand-ins`, { ...standIn, scenario: '--out' })).toMatchObject({
      status: 400,
      body: { field: 'scenario' },
    });
    expect(await send('POST', `/bench/${run}/stand-ins`, { ...standIn, misbehave: ['dance'] })).toMatchObject(
      { status: 400 },
    );
  });
  it('is one of eight at most, all in one process that ends with the server', async () => {
    // the test command builds it first
    const stage = await startHarness({ command: join(__dirname, '..', 'cli', 'dist', 'pace.mjs') });
    const ask = (method: string, path: string, body: object): ReturnType<Harness['request']> =>
      stage.request(method, path, JSON.stringify(body), json);
    const run = randomUUID();
    await ask('POST', `/bench/${run}/changes`, { changes: [{ id: randomUUID(), ...opening }] });
    const answers = await Promise.all(
      Array.from({ length: 12 }, (_, seed) =>
        ask('POST', `/bench/${run}/stand-ins`, { ...standIn, minutes: null, seed }),
      ),
    );
    expect(answers.map(({ status }) => status).toSorted()).toEqual([
      ...Array<number>(8).fill(201),
      ...Array<number>(4).fill(429),
    ]);
    expect(answers.find(({ status }) => status === 429)!.body).toMatchObject({
      code: 'too-many-stand-ins',
      remedy: expect.stringContaining('until one has ended'),
    });
    // they play: the run begins, and each has told something
    await ask('POST', `/bench/${run}/changes`, {
      changes: [{ id: randomUUID(), kind: 'start', at: Date.now() - 5000 }],
    });
    const heard = async (): Promise<boolean> =>
      ((await stage.request('GET', `/bench/${run}`)).body as BenchState).recording.sources.every(
        ({ heardAt }) => heardAt !== null,
      );
    for (let look = 0; !(await heard()); look++) {
      expect(look).toBeLessThan(600);
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    await stage.close();
  });
  it('needs the command line beside the server, and says so', async () =>
    expect(await send('POST', `/bench/${await started()}/stand-ins`, standIn)).toMatchObject({
      status: 501,
      body: { remedy: expect.stringContaining('npm start') },
    }));
});

describe('the example of the documentation', () => {
  it('works as it is pasted', async () => {
    const text = await readFile(join(__dirname, '..', 'docs', 'formats.md'), 'utf8');
    const script = /```sh\n(SERVER=[\s\S]*?)```/
      .exec(text)![1]!
      .replace('http://127.0.0.1:4310', harness.address);
    const { stdout } = await promisify(execFile)('bash', ['-c', `${script}\necho; echo "RUN $RUN"`], {
      env: { ...process.env, no_proxy: '127.0.0.1', NO_PROXY: '127.0.0.1' },
    });
    expect(stdout).toContain('"taken":2');
    const run = /RUN (\S+)/.exec(stdout)![1]!;
    expect((await state(run)).live!.figures).toMatchObject({ frames: 6 });
    expect((await state(run)).entries[0]!.line).toMatchObject({ type: 'skin', c: 24.5 });
  });
});

describe('the loop of the documentation', () => {
  it('begins anew where it is, however often it is started, and loses nothing that was acknowledged', async () => {
    const text = await readFile(join(__dirname, '..', 'docs', 'formats.md'), 'utf8');
    const run = await started();
    const { key } = await source(run);
    // three rounds in the place of one every second for ever; what only a device's shell has is stood in for
    const loop = /```sh\n(next\(\)[\s\S]*?)```/
      .exec(text)![1]!
      .replace('while sleep 1', 'for round in 1 2 3');
    expect(loop).toContain('for round');
    const shell =
      'level=$1; dumpsys() { case $1 in battery) echo "level: $level"; level=$((level-1));; esac; }\n';
    const play = (level: number): Promise<unknown> =>
      promisify(execFile)('bash', ['-c', `${shell}${loop}`, 'loop', String(level)], {
        env: {
          ...process.env,
          SERVER: harness.address,
          KEY: key,
          LAYER: 'none',
          no_proxy: '127.0.0.1',
          NO_PROXY: '127.0.0.1',
        },
      });
    await play(90);
    await play(80);
    const { entries, recording } = await state(run);
    expect(entries.flatMap(({ line }) => (line.type === 'battery' ? line.percent : []))).toEqual([
      90, 90, 90, 80, 80, 80,
    ]);
    expect(recording.sources[0]).toMatchObject({ refused: 0, refusals: [] });
  });
});

describe('a run that was recorded', () => {
  it('has the figures of the same run imported as a file', async () => {
    const run = await started();
    const { key } = await source(run);
    const header: RunLine = {
      type: 'run',
      version: 1,
      device: 'Velm 5',
      title: 'Aurelune',
      target: 60,
      refresh: 120,
      room: 18.5,
      batteryWh: 18.1,
    };
    const pace = (minute: number): number => 16_000 + 900 * minute;
    const lines: RunLine[] = [header];
    for (let minute = 0, atMs = 0; minute < 16; minute++) {
      const us = Array<number>(3000).fill(pace(minute));
      lines.push(
        { type: 'frames', atMs, us },
        { type: 'battery', atMs, percent: 90 - minute },
        skin(atMs, 20 + 15 * (1 - Math.exp(-minute / 5))),
      );
      atMs += (3000 * pace(minute)) / 1000;
    }
    for (let seq = 0; seq * 4 < lines.length; seq++) await batch(key, seq, lines.slice(seq * 4, seq * 4 + 4));
    const typed: EntryLine[] = [
      skin(300_000, 31, 'front'),
      { type: 'mark', atMs: 200_000, kind: 'stutter' },
      { type: 'span', fromMs: 100_000, toMs: 130_000, kind: 'menu' },
      { type: 'span', fromMs: 400_000, toMs: 520_000, kind: 'charging' },
    ];
    await change(run, ...typed.map((line) => put(line)));
    const end: EntryLine = { type: 'end', atMs: 1_150_000, reason: 'planned' };
    const recorded = await ended(run, 'planned', 1_150_000);
    const imported = await harness.request(
      'POST',
      importPath({ fileName: 'same.pace.ndjson', facts: null }),
      [...lines, ...typed, end].map((line) => JSON.stringify(line)).join('\n'),
    );
    expect(imported.status).toBe(201);
    expect(recorded.figures.frames.count).toBeGreaterThan(46_000);
    expect(recorded.figures).toEqual((imported.body as RunDetail).figures);
  });
  it('takes lines that come late, from before its end, and no others', async () => {
    const run = await started();
    const { key } = await source(run);
    await batch(key, 0, [frames(0, 100)]);
    expect((await ended(run)).figures.frames.count).toBe(100);
    expect((await batch(key, 1, [frames(2000, 50), frames(700_000, 50)])).body).toMatchObject({
      status: 'ended',
      taken: 1,
      refused: [{ line: 2, reason: expect.stringContaining('after the end') }],
    });
    const frames150 = async (): Promise<boolean> =>
      ((await send('GET', `/runs/${run}`)).body as RunDetail).figures.frames.count === 150;
    for (const late = Date.now() + PATIENCE_MS; !(await frames150());)
      if (Date.now() > late) throw new Error('the late frames never came');
  });
  it('ends the spans that are going on', async () => {
    const run = await started();
    await change(run, put({ type: 'span', fromMs: 300_000, toMs: 300_000, kind: 'menu' }, { open: true }));
    await ended(run);
    expect((await state(run)).entries[0]).toMatchObject({
      open: false,
      line: { fromMs: 300_000, toMs: 600_000 },
    });
  });
  it('may hold no frames at all', async () => {
    const run = await started();
    await change(run, put({ type: 'rate', atMs: 60_000, fps: 42, by: 'in-title' }), put(skin(60_000, 33)));
    expect(await ended(run, 'stopped')).toMatchObject({
      figures: { pace: { source: 'read', average: 42 }, end: { reason: 'stopped' } },
    });
  });
  it('is listed as being recorded until then', async () => {
    const run = await started();
    expect(
      ((await send('GET', '/runs')).body as { id: string; recording: string }[]).find(({ id }) => id === run),
    ).toMatchObject({ recording: 'running' });
    expect(
      ((await send('GET', '/bench')).body as Recording[]).find(({ runId }) => runId === run),
    ).toMatchObject({ status: 'running' });
  });
});

describe('a screen that follows', () => {
  /** Reads events until enough have come. */
  async function events(
    run: string,
    after: string | null,
    enough: (all: { event: string; id: string | null; data: BenchState }[]) => boolean,
  ): Promise<{ event: string; id: string | null; data: BenchState }[]> {
    const stop = new AbortController();
    const response = await fetch(`${harness.address}/api/bench/${run}/events`, {
      signal: stop.signal,
      headers: after === null ? {} : { 'last-event-id': after },
    });
    const all: { event: string; id: string | null; data: BenchState }[] = [];
    let text = '';
    for await (const chunk of response.body!) {
      text += Buffer.from(chunk as Uint8Array).toString();
      for (let cut = text.indexOf('\n\n'); cut >= 0; cut = text.indexOf('\n\n')) {
        const fields = new Map(
          text
            .slice(0, cut)
            .split('\n')
            .map((line) => [line.slice(0, line.indexOf(':')), line.slice(line.indexOf(':') + 2)]),
        );
        text = text.slice(cut + 2);
        if (fields.has('event'))
          all.push({
            event: fields.get('event')!,
            id: fields.get('id') ?? null,
            data: JSON.parse(fields.get('data')!) as BenchState,
          });
      }
      if (enough(all)) break;
    }
    stop.abort();
    return all;
  }

  it('hears all, and after a break what it has not seen', async () => {
    const run = await started();
    await change(run, put(skin(1000, 20)));
    const first = await events(run, null, (all) => all.length > 0);
    expect(first[0]!.data.entries).toHaveLength(1);
    await change(run, put(skin(2000, 21)));
    await change(run, put(skin(3000, 22)));
    const second = await events(run, first[0]!.id, (all) => all.length > 0);
    expect(second[0]!.data.entries.map(({ line }) => line)).toEqual([skin(2000, 21), skin(3000, 22)]);
  });
  it('hears of entries and pace as they come', async () => {
    const run = await started();
    const { key } = await source(run);
    const heard = events(
      run,
      null,
      (all) => all.some(({ event }) => event === 'pace') && all.some(({ data }) => data.entries?.length > 0),
    );
    await batch(key, 0, [frames(0, 100)]);
    await change(run, put(skin(1000, 20)));
    await batch(key, 1, [frames(2000, 100)]);
    expect((await heard).length).toBeGreaterThan(1);
  });
});

describe('a database that goes away', () => {
  it('costs nothing: the same batch is sent again', async () => {
    const told = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    const run = await started();
    const { key } = await source(run);
    await batch(key, 0, [frames(0, 100)]);
    for (let seq = 1; seq < 20; seq++) {
      const sending = batch(key, seq, [frames(seq * 2000, 100), skin(seq * 2000, 20)]);
      await harness.pool
        .query(
          'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
        )
        .catch(() => undefined);
      let answer = await sending;
      for (let i = 0; answer.status === 503 && i < 50; i++)
        answer = await batch(key, seq, [frames(seq * 2000, 100), skin(seq * 2000, 20)]);
      expect(answer.body.next).toBe(seq + 1);
    }
    const { live, entries } = await state(run);
    expect(live!.figures).toMatchObject({ frames: 2000, seconds: 40 });
    expect(entries).toHaveLength(19);
    expect(told).toHaveBeenCalledWith(expect.stringMatching(/^database: /));
    told.mockRestore();
  });
});

describe('cool-downs that are watched', () => {
  it('are told once, by their readings, until they are done', async () => {
    const id = randomUUID();
    const startedAt = Date.now() - 900_000;
    const coolDowns = async (): Promise<{ id: string; readings: { c: number; atS: number }[] }[]> =>
      (await send('GET', '/cool-downs')).body;
    const readings = [40, 33.1, 28.9, 26.3].map((c, i) => ({
      id: randomUUID(),
      kind: 'reading',
      reading: randomUUID(),
      at: startedAt + i * 300_000,
      c,
    }));
    const changes = [
      { id: randomUUID(), kind: 'watch', device: 'Velm 5', spot: 'back', roomC: 20, readyC: 23, startedAt },
      ...readings,
      { id: randomUUID(), kind: 'take-back', reading: readings[1]!.reading },
    ];
    for (let i = 0; i < 2; i++) await send('POST', `/cool-downs/${id}/changes`, { changes });
    const watch = (await coolDowns()).find((one) => one.id === id)!;
    expect(watch.readings.map(({ c }) => c)).toEqual([40, 28.9, 26.3]);
    expect(watch.readings[1]!.atS).toBeCloseTo(600, 0);
    await send('POST', `/cool-downs/${id}/changes`, { changes: [{ id: randomUUID(), kind: 'done' }] });
    expect(await coolDowns()).toEqual([]);
  });
});
