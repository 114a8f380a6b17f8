import { expect, test as base } from '@playwright/test';
import pg from 'pg';
import { OwnServer } from './server';

/** What one asks of the database server itself, beside every journey's database. */
async function administer(statement: string): Promise<void> {
  const admin = new URL(process.env['PACE_E2E_TEMPLATE']!);
  admin.pathname = '/postgres';
  const client = new pg.Client({ connectionString: admin.href });
  await client.connect();
  try {
    await client.query(statement);
  } finally {
    await client.end();
  }
}

/**
 * Journeys in which the browser finds nothing that the server's policy forbids
 * to run. Each has a server and a database of its own, a copy of one with the
 * demo in it: what it sees is the demo and what it did itself, whatever ran
 * before it. What helpers need of them stands in the environment.
 */
export const test = base.extend<{ address: string; withinPolicy: void }>({
  address: [
    async ({}, use, { workerIndex }) => {
      const template = new URL(process.env['PACE_E2E_TEMPLATE']!);
      const name = `journeys_${workerIndex}`;
      await administer(`create database ${name} template ${template.pathname.slice(1)}`);
      const server = new OwnServer();
      process.env['PACE_E2E_DATABASE'] = new URL(`/${name}`, template).href;
      await server.start();
      process.env['PACE_E2E_ADDRESS'] = server.address;
      await use(server.address);
      await server.stop();
      await administer(`drop database ${name} with (force)`);
    },
    { auto: true },
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
