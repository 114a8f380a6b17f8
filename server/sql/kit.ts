import type {
  DeviceFacts,
  Kit,
  KitKind,
  KitSetup,
  NewRefusal,
  Refusal,
  SetupFacts,
  SpotPlace,
} from '@pace-check/contract';
import { capNamed } from '@pace-check/core';
import type { Queryable } from './database';

/** Kinds of records that are known by their name alone. */
export type NamedKind = Exclude<KitKind, 'setup'>;

/** A setup as it is stored: what it is derived from is not in it. */
export type StoredSetup = Omit<KitSetup, 'whole'>;

export async function readKit(db: Queryable): Promise<Omit<Kit, 'setups'> & { setups: StoredSetup[] }> {
  const rows = async <T>(sql: string): Promise<T[]> => (await db.query(sql)).rows;
  return {
    devices: await rows(`select id, name, facts,
      coalesce((select json_agg(json_build_object('spot', spot, 'side', side, 'x', x, 'y', y) order by spot) from spot_place where device_id = device.id), '[]') as spots,
      (select count(*)::int from run where device_id = device.id and deleted_at is null) as runs
      from device order by lower(name)`),
    accessories: await rows('select id, name, facts from accessory order by lower(name)'),
    instruments: await rows('select id, name, facts from instrument order by lower(name)'),
    titles: await rows(
      'select id, name, facts, (select count(*)::int from run where title_id = title.id and deleted_at is null) as runs from title order by lower(name)',
    ),
    setups: await rows(`${SETUPS} order by created_at, lower(name)`),
    refusals:
      await rows<Refusal>(`select refusal.id, device.name as device, title.name as title, setup.name as setup, says
      from refusal join device on device.id = refusal.device_id join title on title.id = refusal.title_id left join setup on setup.id = refusal.setup_id order by refusal.created_at`),
  };
}

const SETUPS = 'select id, name, facts, title_id as "titleId" from setup';

/** Setups of one title. */
export async function readSetupsOf(db: Queryable, titleId: string): Promise<StoredSetup[]> {
  return (await db.query<StoredSetup>(`${SETUPS} where title_id = $1 order by created_at`, [titleId])).rows;
}

/** Nobody else changes what a title's setups are derived from until the transaction ends. */
export async function lockSetupsOf(db: Queryable, titleId: string): Promise<void> {
  await db.query('select from title where id = $1 for no key update', [titleId]);
}

export async function readSetup(db: Queryable, id: string): Promise<StoredSetup | null> {
  return (await db.query<StoredSetup>(`${SETUPS} where id = $1`, [id])).rows[0] ?? null;
}

/** The id of the record of that name, whatever its case; added where there is none. No row is locked or written to look one up. */
export async function idByName(db: Queryable, table: NamedKind, name: string): Promise<string> {
  return found(
    () => db.query<Id>(`select id from ${table} where lower(name) = lower($1)`, [name]),
    () => db.query<Id>(`insert into ${table} (name) values ($1) on conflict do nothing returning id`, [name]),
  );
}

/** The id of a title's setup of that name; added where there is none. */
export async function setupIdByName(db: Queryable, titleId: string, name: string): Promise<string> {
  return found(
    () =>
      db.query<Id>('select id from setup where title_id = $1 and lower(name) = lower($2)', [titleId, name]),
    () =>
      db.query<Id>(
        'insert into setup (title_id, name, facts) values ($1, $2, $3) on conflict do nothing returning id',
        [titleId, name, JSON.stringify(toldBy(name))],
      ),
  );
}

/** What the name of a new setup tells of it. */
function toldBy(name: string): SetupFacts {
  const cap = capNamed(name);
  return cap === null ? {} : { pairs: [{ key: 'cap', value: String(cap), unit: 'fps' }] };
}

interface Id {
  id: string;
}
type Ask = () => Promise<{ rows: Id[] }>;

/** Looks, adds, and looks again: somebody may have added it in between. */
async function found(look: Ask, add: Ask): Promise<string> {
  const { rows } = await look();
  const row = rows[0] ?? (await add()).rows[0] ?? (await look()).rows[0];
  // whoever added it took it away again
  if (!row)
    throw Object.assign(new Error('A record came and went while it was looked up.'), { code: '40001' });
  return row.id;
}

/** The devices of these names. */
export async function readDevices(
  db: Queryable,
  names: string[],
): Promise<{ id: string; name: string; facts: DeviceFacts }[]> {
  return (
    await db.query<{ id: string; name: string; facts: DeviceFacts }>(
      'select id, name, facts from device where name = any($1)',
      [names],
    )
  ).rows;
}

/** A record's name and facts; null where there is none. @param lock to change it */
export async function readRecord(
  db: Queryable,
  kind: KitKind,
  id: string,
  lock = false,
): Promise<{ name: string; facts: Record<string, unknown> } | null> {
  return (
    (
      await db.query<{ name: string; facts: Record<string, unknown> }>(
        `select name, facts from ${kind} where id = $1${lock ? ' for no key update' : ''}`,
        [id],
      )
    ).rows[0] ?? null
  );
}

export async function writeRecord(
  db: Queryable,
  kind: KitKind,
  id: string,
  name: string,
  facts: object,
): Promise<boolean> {
  return (
    (
      await db.query(`update ${kind} set name = $2, facts = $3 where id = $1`, [
        id,
        name,
        JSON.stringify(facts),
      ])
    ).rowCount === 1
  );
}

/** @returns whether there was one */
export async function deleteRecord(db: Queryable, kind: KitKind, id: string): Promise<boolean> {
  return (await db.query(`delete from ${kind} where id = $1`, [id])).rowCount === 1;
}

export async function insertRefusal(
  db: Queryable,
  { device, title, setup, says }: NewRefusal,
): Promise<void> {
  const titleId = await idByName(db, 'title', title);
  await db.query(
    'insert into refusal (device_id, title_id, setup_id, says) values ($1, $2, $3, $4) on conflict (device_id, title_id, setup_id) do update set says = excluded.says',
    [
      await idByName(db, 'device', device),
      titleId,
      setup === null ? null : await setupIdByName(db, titleId, setup),
      says,
    ],
  );
}

export async function deleteRefusal(db: Queryable, id: string): Promise<boolean> {
  return (await db.query('delete from refusal where id = $1', [id])).rowCount === 1;
}

export async function readPlaces(db: Queryable, deviceId: string): Promise<SpotPlace[]> {
  return (
    await db.query<SpotPlace>('select spot, side, x, y from spot_place where device_id = $1 order by spot', [
      deviceId,
    ])
  ).rows;
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

/** Makes these the device's spots, all of them. */
export async function replaceSpots(db: Queryable, deviceId: string, places: SpotPlace[]): Promise<void> {
  await db.query('delete from spot_place where device_id = $1 and not (spot = any($2))', [
    deviceId,
    places.map((place) => place.spot),
  ]);
  await placeSpots(db, deviceId, places);
}

/** Whether a record of that name is there. @param title of a setup */
export async function recordIsKnown(
  db: Queryable,
  kind: KitKind,
  name: string,
  title: string | null,
): Promise<boolean> {
  const known = await db.query(
    kind === 'setup'
      ? 'select setup.id from setup join title on title.id = title_id where lower(setup.name) = lower($1) and lower(title.name) = lower($2)'
      : `select id from ${kind} where lower(name) = lower($1)`,
    kind === 'setup' ? [name, title] : [name],
  );
  return known.rowCount! > 0;
}
