import pg from 'pg';

/** What the statements of this folder run on: the pool, or one client within a transaction. */
export type Queryable = Pick<pg.Pool, 'query'>;

export function openPool(url: string): pg.Pool {
  const pool = new pg.Pool({ connectionString: url, max: 8 });
  // a connection that the server closed while idle is replaced at the next query
  pool.on('error', (error) => console.error(`database: ${error.message}`));
  return pool;
}

/** Runs `work` in one transaction: all of it is stored, or nothing. */
export async function inTransaction<T>(pool: pg.Pool, work: (client: Queryable) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  // a connection that breaks in the middle makes the statement fail; it must not end the server too
  const onBroken = (error: Error): void => console.error(`database: ${error.message}`);
  client.on('error', onBroken);
  let broken: Error | undefined;
  try {
    await client.query('begin');
    const result = await work(client);
    await client.query('commit');
    return result;
  } catch (error) {
    await client.query('rollback').catch((failed: Error) => (broken = failed));
    throw error;
  } finally {
    client.off('error', onBroken);
    client.release(broken);
  }
}
