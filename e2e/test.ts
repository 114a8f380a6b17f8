import { writeFile } from 'node:fs/promises';
import { expect, test as base } from '@playwright/test';
import { Places } from './places';
import type { OwnServer } from './server';

/**
 * Journeys in which the browser finds nothing that the server's policy forbids
 * to run. `server` is the only one on the journey's database: where it is
 * killed, nothing answers until the journey starts it again.
 */
export const test = base.extend<{ server: OwnServer; withinPolicy: void }, { places: Places }>({
  places: [
    async ({}, use, { workerIndex }) => {
      const places = new Places(workerIndex);
      await use(places);
      await places.close();
    },
    { scope: 'worker' },
  ],
  server: [
    async ({ places }, use, info) => {
      const server = await places.take();
      await use(server);
      if (info.status !== info.expectedStatus) await writeFile(info.outputPath('server.log'), server.said());
      places.giveBack(server);
    },
    { auto: true },
  ],
  baseURL: ({ server }, use) => use(server.address),
  withinPolicy: [
    async ({ page }, use) => {
      const refused: string[] = [];
      page.on('console', (message) => {
        if (/Content.Security.Policy/i.test(message.text())) refused.push(message.text());
      });
      await use();
      expect(refused).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };
