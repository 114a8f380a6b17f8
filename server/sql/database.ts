import pg from 'pg';

/** What the statements of this folder run on: the pool, or one client within a transaction. */
export type Queryable = Pick<pg.Pool, 'query'>;

const CONNECTIONS = 8;
/** A request that gets no connection for so long is told to come again. */
const CONNECT_WITHIN_MS = 10_000;
/** No statement of ours takes a fraction of this; one that does holds up everybody. */
const STATEMENT_WITHIN_MS = 30_000;
/** A transaction waits for the database alone, never for a person or a computation. */
const IDLE_IN_TRANSACTION_MS = 20_000;

/** By how much the database's clock is ahead of this machine's, ms. */
export async function clockDifferenceMs(db: Queryable): Promise<number> {
  const before = Date.now();
  const { rows } = await db.query<{ ms: number }>(
    'select extract(epoch from clock_timestamp())::float8 * 1000 as ms',
  );
  // it was asked about the middle of the way there and back
  return rows[0]!.ms - (before + Date.now()) / 2;
}

/** What our connections are called, so that whoever looks at the database sees that it is in use. */
export const APPLICATION = 'pace-check';

export function openPool(url: string): pg.Pool {
  const pool = new pg.Pool({
    connectionString: url,
    application_name: APPLICATION,
    max: CONNECTIONS,
    connectionTimeoutMillis: CONNECT_WITHIN_MS,
    statement_timeout: STATEMENT_WITHIN_MS,
    lock_timeout: STATEMENT_WITHIN_MS,
    idle_in_transaction_session_timeout: IDLE_IN_TRANSACTION_MS,
  });
  // a connection that the server closed while idle is replaced at the next query
  pool.on('error', (error) => console.error(`database: ${error.message}`));
  // one that breaks while it is used makes its statement fail; what it tells beside that must not end the server
  pool.on('connect', (client) => client.on('error', () => undefined));
  return pool;
}

/** Two transactions got into each other's way, and PostgreSQL took one back: deadlock, or no serial order. */
const COLLISIONS = new Set(['40P01', '40001']);
const MOST_ATTEMPTS = 6;
/** Two that collided should not meet again at once. */
const PAUSE_MS = 20;

/**
 * Runs `work` in one transaction: all of it is stored, or nothing. Where it
 * collides with another one it is run again, so it must do nothing but ask
 * and tell the database.
 */
export async function inTransaction<T>(pool: pg.Pool, work: (client: Queryable) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await once(pool, 'begin', work);
    } catch (error) {
      if (attempt === MOST_ATTEMPTS || !COLLISIONS.has(codeOf(error))) throw error;
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS * attempt * (1 + Math.random())));
    }
  }
}

/** Reads several things as they stood at one moment. */
export const inSnapshot = <T>(pool: pg.Pool, read: (client: Queryable) => Promise<T>): Promise<T> =>
  once(pool, 'begin isolation level repeatable read read only', read);

async function once<T>(pool: pg.Pool, begin: string, work: (client: Queryable) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken: Error | undefined;
  try {
    await client.query(begin);
    const result = await work(client);
    await client.query('commit');
    return result;
  } catch (error) {
    await client.query('rollback').catch((failed: Error) => (broken = failed));
    throw error;
  } finally {
    client.release(broken);
  }
}

/** PostgreSQL's code of an error (or the system's); '' for any other. */
export const codeOf = (error: unknown): string =>
  error instanceof Error && 'code' in error && typeof error.code === 'string' ? error.code : '';

/** How a package that has tables of its own asks the database. */
export const asker =
  (pool: pg.Pool) =>
  (text: string, values: unknown[]): Promise<pg.QueryResult> =>
    pool.query(text, values);

/** Lets the statements of this transaction take their time: many frames are not removed in a moment. */
export async function withoutTimeLimit(db: Queryable): Promise<void> {
  await db.query('set local statement_timeout = 0');
}

/** Asks the database for a sign of life. */
export async function ping(db: Queryable): Promise<void> {
  await db.query('select 1');
}
