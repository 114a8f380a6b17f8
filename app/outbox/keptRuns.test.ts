import 'fake-indexeddb/auto';
import type { BenchEntry } from '@pace-check/contract';
import { RECORDING } from '../testing/bench';
import { KeptRuns } from './keptRuns';

const entry = (id: string): BenchEntry => ({
  id,
  line: { type: 'mark', atMs: 1000, kind: 'stutter' },
  open: false,
  source: null,
  writer: 'me',
  takenBack: false,
});
const until = async (holds: () => Promise<boolean>): Promise<void> => {
  for (let i = 0; i < 400 && !(await holds()); i++) await new Promise((resolve) => setTimeout(resolve, 5));
  expect(await holds()).toBe(true);
};

describe('runs that the browser keeps', () => {
  it('are there for a page that is loaded anew, as they were last', async () => {
    const before = new KeptRuns('kept', 5);
    expect(await before.read('r')).toBeNull();
    before.keep('r', { recording: RECORDING, entries: [entry('a')], change: 1 });
    before.keep('r', { recording: RECORDING, entries: [entry('b')], change: 2 });
    // of another run
    before.keep('s', { recording: null, entries: [entry('a'), entry('z')], change: 9 });
    const after = new KeptRuns('kept', 5);
    await until(async () => (await after.read('r')) !== null);
    expect(await after.read('r')).toEqual({
      recording: RECORDING,
      entries: [entry('a'), entry('b')],
      change: 2,
    });
    expect(await after.recordings()).toEqual([RECORDING]);
    // only what changed is told, and written
    after.keep('r', { recording: RECORDING, entries: [{ ...entry('a'), takenBack: true }], change: 3 });
    await until(async () => (await before.read('r'))?.change === 3);
    expect((await before.read('r'))!.entries).toEqual([{ ...entry('a'), takenBack: true }, entry('b')]);
  });
  it('are forgotten when the server has no such run, also what was to be kept a moment later', async () => {
    const kept = new KeptRuns('forgotten', 5);
    kept.keep('r', { recording: RECORDING, entries: [], change: 1 });
    await until(async () => (await kept.read('r')) !== null);
    kept.keep('r', { recording: RECORDING, entries: [entry('a')], change: 2 });
    await kept.forget('r');
    await new Promise((resolve) => setTimeout(resolve, 30));
    expect(await kept.read('r')).toBeNull();
    // its lines are gone with it
    kept.keep('r', { recording: RECORDING, entries: [], change: 3 });
    await until(async () => (await kept.read('r')) !== null);
    expect((await kept.read('r'))!.entries).toEqual([]);
  });
  it('are let go after some days', async () => {
    const real = Date.now;
    const old = new KeptRuns('old', 5);
    Date.now = () => real() - 4 * 24 * 3600 * 1000;
    old.keep('old', { recording: RECORDING, entries: [], change: 1 });
    await until(async () => (await old.read('old')) !== null);
    Date.now = real;
    old.keep('new', { recording: RECORDING, entries: [], change: 1 });
    await until(async () => (await old.read('new')) !== null);
    const today = new KeptRuns('old', 5);
    await until(async () => (await today.read('old')) === null);
    expect(await today.read('new')).not.toBeNull();
  });
  it('are none where the browser keeps nothing', async () => {
    const open = indexedDB.open.bind(indexedDB);
    indexedDB.open = () => {
      throw new Error('not allowed here');
    };
    const kept = new KeptRuns('nothing', 5);
    kept.keep('r', { recording: RECORDING, entries: [], change: 1 });
    expect(await kept.read('r')).toBeNull();
    expect(await kept.recordings()).toEqual([]);
    indexedDB.open = open;
  });
});
