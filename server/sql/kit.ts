import type { Kit, SpotPlace } from '@pace-check/contract';
import type { Queryable } from './database';

export async function readKit(db: Queryable): Promise<Kit> {
  const named = async (table: 'device' | 'title'): Promise<Kit['devices']> => (await db.query(`select id, name from ${table} order by lower(name)`)).rows;
  return {
    devices: await named('device'),
    titles: await named('title'),
    setups: (await db.query('select id, name, title_id as "titleId" from setup order by lower(name)')).rows,
  };
}

/** The id of the device or title of that name, whatever its case; added where there is none. */
export async function idByName(db: Queryable, table: 'device' | 'title', name: string): Promise<string> {
  const found = await db.query<{ id: string }>(
    `insert into ${table} (name) values ($1) on conflict (lower(name)) do update set name = ${table}.name returning id`,
    [name],
  );
  return found.rows[0]!.id;
}

/** The id of a title's setup of that name; added where there is none. */
export async function setupIdByName(db: Queryable, titleId: string, name: string): Promise<string> {
  const found = await db.query<{ id: string }>(
    'insert into setup (title_id, name) values ($1, $2) on conflict (title_id, lower(name)) do update set name = setup.name returning id',
    [titleId, name],
  );
  return found.rows[0]!.id;
}

export async function readPlaces(db: Queryable, deviceId: string): Promise<SpotPlace[]> {
  return (await db.query<SpotPlace>('select spot, side, x, y from spot_place where device_id = $1 order by spot', [deviceId])).rows;
}

/** Puts a device's spots where they were dragged; spots that are not named stay where they are. */
export async function placeSpots(db: Queryable, deviceId: string, places: SpotPlace[]): Promise<void> {
  for (const { spot, side, x, y } of places) {
    await db.query(
      'insert into spot_place (device_id, spot, side, x, y) values ($1, $2, $3, $4, $5) on conflict (device_id, spot) do update set side = excluded.side, x = excluded.x, y = excluded.y',
      [deviceId, spot, side, x, y],
    );
  }
}
