import pg from 'pg';

/** A statement of its own to the database server of the tests. */
export async function onServer(statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['PACE_TEST_DATABASE']! });
  await client.connect();
  try {
    await client.query(statement);
  } finally {
    await client.end();
  }
}
