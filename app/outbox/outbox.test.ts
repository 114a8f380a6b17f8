import 'fake-indexeddb/auto';
import { openDB } from 'idb';
import { Outbox, type Done } from './outbox';
import { SteadyClock } from './steadyClock';
import { standInServer } from '../testing/server';

type Sent = { path: string; changes: { id: string }[] };
let sent: Sent[] = [];
let answer: (changes: { id: string }[]) => { status: number; body: object } | null;
const ok = (changes: { id: string }[]): { status: number; body: object } => ({
  status: 200,
  body: { done: changes.map(({ id }) => id), refused: [], now: 0 },
});

let names = 0;
let name: string;
beforeEach(() => {
  // a database of its own for each test
  name = `test ${names++}`;
  sent = [];
  answer = ok;
  standInServer(({ path, body }) => {
    const said = answer(body.changes);
    if (said) sent.push({ path, changes: body.changes });
    return said;
  });
});

const done = (to: 'bench' | 'card', of: string, ...ids: string[]): Done[] =>
  ids.map((id) =>
    to === 'bench'
      ? { to, id: of, change: { id, kind: 'take-back', entry: id } }
      : { to, id: of, change: { id, kind: 'take-back', event: id } },
  );
const until = async (holds: () => boolean): Promise<void> => {
  for (let i = 0; i < 2000 && !holds(); i++) await new Promise((resolve) => setTimeout(resolve, 5));
  expect(holds()).toBe(true);
};

describe('the outbox', () => {
  it('sends what was added, in order, and is empty then', async () => {
    const outbox = new Outbox(name);
    await outbox.add(...done('bench', '1', 'a', 'b'));
    await outbox.add(...done('bench', '2', 'c'));
    await outbox.add(...done('bench', '1', 'd'));
    await until(() => outbox.snapshot().waiting.length === 0);
    expect(sent.flatMap(({ changes }) => changes.map(({ id }) => id))).toEqual(['a', 'b', 'c', 'd']);
    expect(sent.map(({ path }) => path)).toEqual(
      expect.arrayContaining(['/api/bench/1/changes', '/api/bench/2/changes']),
    );
  });
  it('keeps what nobody takes, over the end of the page, and sends it later', async () => {
    answer = () => null;
    const before = new Outbox(name);
    await before.add(...done('bench', '1', 'a', 'b'));
    await until(() => before.snapshot().failing);
    answer = ok;
    const after = new Outbox(name);
    await until(() => sent.length > 0 && after.snapshot().waiting.length === 0);
    expect(sent[0]!.changes.map(({ id }) => id)).toEqual(['a', 'b']);
  });
  it('tries again by itself', async () => {
    let failures = 2;
    answer = (changes) =>
      failures-- > 0
        ? failures === 0
          ? { status: 503, body: { code: 'x', message: 'm', remedy: 'r' } }
          : null
        : ok(changes);
    const outbox = new Outbox(name);
    await outbox.add(...done('bench', '1', 'a'));
    await until(() => outbox.snapshot().waiting.length === 0);
    expect(outbox.snapshot().failing).toBe(false);
  });
  it.each([
    [507, 'disk-full'],
    [401, 'no-entry'],
    [429, 'slow-down'],
  ])('keeps what is answered with %i for as long as it takes, however often', async (status, code) => {
    let answers = 20;
    answer = (changes) =>
      answers-- > 0 ? { status, body: { code, message: 'm', remedy: 'r' } } : ok(changes);
    const outbox = new Outbox(name, 1);
    await outbox.add(...done('bench', '1', 'a', 'b'));
    // not waiting its own pauses, which grow
    const hurry = setInterval(() => {
      expect(outbox.snapshot().waiting.filter((one) => one.refused !== null)).toEqual([]);
      outbox.send();
    }, 5);
    await until(() => outbox.snapshot().waiting.length === 0);
    clearInterval(hurry);
    expect(answers).toBeLessThan(0);
  });
  it('sets aside what is refused, with the reason, and goes on with the rest', async () => {
    answer = (changes) => ({
      status: 200,
      body: {
        done: ['b'],
        refused: changes.filter(({ id }) => id === 'a').map(({ id }) => ({ id, reason: 'no such line' })),
        now: 0,
      },
    });
    const outbox = new Outbox(name);
    await outbox.add(...done('bench', '1', 'a', 'b'));
    await until(
      () => outbox.snapshot().waiting.length === 1 && outbox.snapshot().waiting[0]!.refused !== null,
    );
    expect(outbox.snapshot().waiting).toEqual([
      expect.objectContaining({ change: expect.objectContaining({ id: 'a' }), refused: 'no such line' }),
    ]);
    await outbox.drop(outbox.snapshot().waiting[0]!.n);
    expect(outbox.snapshot().waiting).toEqual([]);
  });
  it('sets aside what is refused as a whole', async () => {
    answer = () => ({
      status: 404,
      body: { code: 'not-found', message: 'This card does not exist.', remedy: 'Go back.' },
    });
    const outbox = new Outbox(name);
    await outbox.add(...done('card', '1', 'a'));
    await until(() => outbox.snapshot().waiting[0]?.refused === 'This card does not exist. Go back.');
  });
  it('sets aside what the server fails at time and again, and sends the rest', async () => {
    answer = (changes) =>
      changes.some(({ id }) => id === 'b')
        ? {
            status: 500,
            body: { code: 'internal', message: 'The server had an internal error.', remedy: 'Try again.' },
          }
        : ok(changes);
    const outbox = new Outbox(name, 1);
    await outbox.add(...done('bench', '1', 'a', 'b', 'c'));
    await until(() => outbox.snapshot().waiting.length === 1);
    expect(outbox.snapshot().waiting[0]).toMatchObject({
      change: expect.objectContaining({ id: 'b' }),
      refused: 'The server had an internal error. Try again.',
    });
    expect(
      sent
        .filter(({ changes }) => changes.length === 1)
        .flatMap(({ changes }) => changes.map(({ id }) => id)),
    ).toEqual(expect.arrayContaining(['a', 'c']));
  });
  it('says so where the browser keeps nothing, and sends all the same', async () => {
    const open = indexedDB.open.bind(indexedDB);
    indexedDB.open = () => {
      throw new Error('not allowed here');
    };
    answer = () => null;
    const outbox = new Outbox(name, 1);
    await until(() => !outbox.snapshot().durable);
    indexedDB.open = open;
    await outbox.add(...done('bench', 'in-memory', 'a'));
    await until(() => outbox.snapshot().failing);
    answer = ok;
    await until(() => outbox.snapshot().waiting.length === 0);
    // an outbox of a test before may try its own again meanwhile
    const own = sent.filter(({ path }) => path.includes('/in-memory/'));
    expect(own.flatMap(({ changes }) => changes)).toEqual([expect.objectContaining({ id: 'a' })]);
  });
  it('sends what an earlier version of the app has left in the browser', async () => {
    const db = await openDB(name, 1, {
      upgrade: (made) => void made.createObjectStore('waiting', { keyPath: 'n', autoIncrement: true }),
    });
    await db.add('waiting', {
      path: '/bench/earlier/changes',
      field: 'changes',
      change: { id: 'a', kind: 'start', at: 1 },
      refused: null,
    });
    await db.add('waiting', {
      path: '/cards/earlier/events',
      field: 'events',
      change: { id: 'b', kind: 'started' },
      refused: null,
    });
    db.close();
    const outbox = new Outbox(name);
    // an outbox of a test before may try its own again meanwhile
    const own = (): typeof sent => sent.filter(({ path }) => path.includes('/earlier/'));
    await until(() => own().length === 2 && outbox.snapshot().waiting.length === 0);
    expect(own().map(({ path, changes }) => [path, changes[0]!.id])).toEqual([
      ['/api/bench/earlier/changes', 'a'],
      ['/api/cards/earlier/changes', 'b'],
    ]);
  });
  it('tells what was sent', async () => {
    const outbox = new Outbox(name);
    const heard: string[] = [];
    outbox.onSent((all) => heard.push(...all.map((one) => one.change.id)));
    await outbox.add(...done('bench', '1', 'a'));
    await until(() => heard.length === 1);
  });
});

describe('the steady clock', () => {
  it('goes by what was heard earliest, not by the wall', () => {
    const clock = new SteadyClock();
    clock.heard(1_000_000 + performance.now());
    const before = clock.now() - performance.now();
    clock.heard(1_000_000 - 300 + performance.now());
    expect(clock.now() - performance.now()).toBeCloseTo(before, 0);
    const real = Date.now;
    Date.now = () => real() + 3_600_000;
    expect(clock.now() - performance.now()).toBeCloseTo(before, 0);
    Date.now = real;
  });
  it('takes a new reckoning after a sleep', () => {
    const clock = new SteadyClock();
    clock.heard(1_000_000 + performance.now());
    clock.heard(1_600_000 + performance.now());
    expect(clock.now() - performance.now()).toBeCloseTo(1_600_000, 0);
  });
  it('is as far from this machine’s clock as it was, for a page that is loaded while nobody answers', () => {
    const heard = new SteadyClock();
    heard.heard(Date.now() + 90_000);
    expect(new SteadyClock().now() - Date.now()).toBeGreaterThan(89_000);
    heard.heard(Date.now());
    expect(Math.abs(new SteadyClock().now() - Date.now())).toBeLessThan(1000);
  });
});
