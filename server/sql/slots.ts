import pg from 'pg';
import { APPLICATION } from './database';

/** Any number, the same for every process: what the slots of a machine are locked by. */
const SLOTS = 726_003;

/** A connection for locks that end with it. */
function ownClient({ options: { connectionString } }: pg.Pool): pg.Client {
  const client = new pg.Client({ connectionString, application_name: APPLICATION });
  // one that breaks makes its statement fail; it must not end the server too
  client.on('error', () => undefined);
  return client;
}

/** One of the places that processes of a machine share; it is free again when its connection ends. */
export interface Slot {
  readonly held: boolean;
  release: () => Promise<void>;
}

/**
 * Takes one of so many slots of a machine, on a connection of its own.
 *
 * @returns null where others have all of them
 */
export async function holdSlot(pool: pg.Pool, machine: string, slots: number): Promise<Slot | null> {
  const client = ownClient(pool);
  let held = false;
  client.on('error', () => (held = false));
  client.on('end', () => (held = false));
  await client.connect();
  try {
    for (let slot = 0; slot < slots && !held; slot++) {
      const { rows } = await client.query<{ taken: boolean }>(
        'select pg_try_advisory_lock($1, hashtext($2)) as taken',
        [SLOTS, `${machine} ${slot}`],
      );
      held = rows[0]!.taken;
    }
    if (held)
      return {
        get held() {
          return held;
        },
        release: () => client.end(),
      };
    await client.end();
    return null;
  } catch (error) {
    await client.end().catch(() => undefined);
    throw error;
  }
}

/** Does something that no other process on the database does meanwhile. */
export async function alone<T>(pool: pg.Pool, what: string, work: () => Promise<T>): Promise<T> {
  const client = ownClient(pool);
  await client.connect();
  try {
    await client.query('select pg_advisory_lock($1, hashtext($2))', [SLOTS, what]);
    return await work();
  } finally {
    await client.end().catch(() => undefined);
  }
}
