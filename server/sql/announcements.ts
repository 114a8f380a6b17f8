import pg from 'pg';
import { APPLICATION, type Queryable } from './database';

const CHANNEL = 'pace_check';

/** Tells all who listen, of every process; heard when the transaction that tells it is committed. */
export const announce = (db: Queryable, message: string): Promise<unknown> =>
  db.query('select pg_notify($1, $2)', [CHANNEL, message]);

/**
 * Listens on a connection of its own until it breaks or is closed.
 *
 * @param onMessage what was told
 * @param onEnd called once, when nothing is heard any more
 */
export async function hearAnnouncements(
  url: string,
  onMessage: (message: string) => void,
  onEnd: () => void,
): Promise<pg.Client> {
  const client = new pg.Client({ connectionString: url, application_name: APPLICATION, keepAlive: true });
  client.on('notification', ({ payload }) => onMessage(payload ?? ''));
  // what broke is told by its end
  client.on('error', () => undefined);
  client.on('end', onEnd);
  try {
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
  } catch (error) {
    client.off('end', onEnd);
    await client.end().catch(() => undefined);
    throw error;
  }
  return client;
}
