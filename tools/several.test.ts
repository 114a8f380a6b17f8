import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { text } from 'node:stream/consumers';
import type { Endured } from './several';

/** `npm run bench -- several` kills a hundred times; here it is each of three processes, and their database, twice. */
const KILLS = 8;

it('three processes and their database are killed in turn: nothing is lost, nothing doubled, and runs end once', async () => {
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', join(__dirname, 'endure.ts'), String(KILLS), '3'],
    {
      stdio: ['ignore', 'pipe', 'inherit'],
    },
  );
  const ended = once(child, 'close');
  const lines = (await text(child.stdout)).trim().split('\n');
  expect(await ended).toEqual([0, null]);
  const told = JSON.parse(lines.at(-1)!) as Endured;
  expect(told).toMatchObject({ serversKilled: 6, databaseKilled: 2, diedAlone: 0 });
  // how many the handsets get through depends on the machine: a quarter of an hour of one of them is enough to lose some
  expect(told.frames.sent).toBeGreaterThan(15 * 60 * 60);
  expect(told.frames.counted).toBe(told.frames.sent);
  expect(told.readings.typed).toBeGreaterThan(20);
  expect(told.readings.stored).toBe(told.readings.typed);
  expect(told.readings.seen).toBe(told.readings.typed);
  expect(told.ends).toEqual({ runs: told.runs, stored: told.runs });
});
