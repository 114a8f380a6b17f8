import { expect, test as base } from '@playwright/test';
import pg from 'pg';
import { OwnServer } from './server';

/**
 * A server and a database of a worker's own, so that several work at one time:
 * the database is a copy of one with the demo in it. What helpers need of them
 * stands in the environment.
 */
async function copyDatabase(name: string): Promise<string> {
  const template = new URL(process.env['PACE_E2E_TEMPLATE']!);
  const admin = new URL(template);
  admin.pathname = '/postgres';
  const client = new pg.Client({ connectionString: admin.href });
  await client.connect();
  try {
    await client.query(`create database ${name} template ${template.pathname.slice(1)}`);
  } finally {
    await client.end();
  }
  template.pathname = `/${name}`;
  return template.href;
}

/** Journeys in which the browser finds nothing that the server's policy forbids to run. */
export const test = base.extend<{ withinPolicy: void }, { address: string }>({
  address: [
    async ({}, use, worker) => {
      process.env['PACE_E2E_DATABASE'] = await copyDatabase(`journeys_${worker.workerIndex}`);
      const server = new OwnServer();
      await server.start();
      process.env['PACE_E2E_ADDRESS'] = server.address;
      await use(server.address);
      await server.stop();
    },
    { scope: 'worker', auto: true },
  ],
  baseURL: ({ address }, use) => use(address),
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
