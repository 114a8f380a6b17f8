import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { endure, Several } from './several';

/** `npm run bench -- several` kills a hundred times; here it is each of them, and each kind twice. */
const KILLS = 8;

let folder: string;
let several: Several;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'pace-check-several-'));
  several = await Several.start(join(folder, 'postgres'));
});
afterAll(async () => {
  await several.close();
  await rm(folder, { recursive: true, force: true });
});

it('three processes and their database are killed in turn: nothing is lost, nothing doubled, and runs end once', async () => {
  const told = await endure(several, KILLS, 3);
  expect(told).toMatchObject({ serversKilled: 6, databaseKilled: 2, diedAlone: 0 });
  expect(told.frames.sent).toBeGreaterThan(300_000);
  expect(told.frames.counted).toBe(told.frames.sent);
  expect(told.readings.typed).toBeGreaterThan(20);
  expect(told.readings.stored).toBe(told.readings.typed);
  expect(told.readings.seen).toBe(told.readings.typed);
  expect(told.ends).toEqual({ runs: told.runs, stored: told.runs });
});
