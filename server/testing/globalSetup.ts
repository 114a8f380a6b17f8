import { join } from 'node:path';
import pg from 'pg';
import { migrate } from '../sql/migrate';
import { onServer } from './onServer';

/**
 * Server tests run against a real database, whose address the test command
 * gives. An empty one that is up to date is made once; each test copies it.
 */
export default async function globalSetup(): Promise<void> {
  const address = process.env['PACE_TEST_DATABASE'];
  if (!address)
    throw new Error(
      'The server tests need a database: run `npm test`, or set PACE_TEST_DATABASE to the URL of a server on which databases may be made.',
    );
  const name = `template_${process.pid}`;
  await onServer(`create database ${name}`);
  const pool = new pg.Pool({ connectionString: new URL(`/${name}`, address).href, max: 1 });
  await migrate(pool, join(__dirname, '..', 'migrations'));
  // nobody may be connected to what is copied
  await pool.end();
  process.env['PACE_TEST_TEMPLATE'] = name;
}
