import type { CoolWatch, NewCoolDown } from '@pace-check/contract';
import type { Queryable } from './database';

export async function insertCoolDown(
  db: Queryable,
  deviceId: string,
  { spot, roomC, startedAt, readings }: NewCoolDown,
  tauS: number | null,
): Promise<void> {
  await db.query(
    'insert into cool_down (device_id, spot, room_c, started_at, readings, tau_s) values ($1, $2, $3, $4, $5, $6)',
    [deviceId, spot, roomC, startedAt, JSON.stringify(readings), tauS],
  );
}

/** Cool-downs of a device that planning looks at: the latest. */
const OWN_COOL_DOWNS = 50;

/** Time constants of devices' own latest fitted cool-downs, seconds, the earliest first. */
export async function readCoolTaus(
  db: Queryable,
  deviceIds: string[],
): Promise<{ deviceId: string; tauS: number }[]> {
  return (
    await db.query<{ deviceId: string; tauS: number }>(
      `select "deviceId", "tauS" from (
         select device_id as "deviceId", tau_s as "tauS", started_at, id, row_number() over (partition by device_id order by started_at desc, id desc) as back
         from cool_down where device_id = any($1) and tau_s is not null
       ) as own where back <= $2 order by started_at, own.id`,
      [deviceIds, OWN_COOL_DOWNS],
    )
  ).rows;
}

const SELECT_WATCH = `select cool_down.id, device.name as device, spot, room_c as "roomC", ready_c as "readyC",
  (select percentile_cont(0.5) within group (order by tau_s) from cool_down other where other.device_id = cool_down.device_id and other.id <> cool_down.id and tau_s is not null) as "knownTauS",
  extract(epoch from started_at)::float8 * 1000 as "startedAt", readings from cool_down join device on device.id = device_id`;

/** Cool-downs that someone watches, the earliest first. */
export async function listWatched(db: Queryable): Promise<CoolWatch[]> {
  return (await db.query<CoolWatch>(`${SELECT_WATCH} where watched order by started_at`)).rows;
}

/** One that is watched, and nobody else changes it until the transaction ends. */
export async function lockWatched(db: Queryable, id: string): Promise<CoolWatch | null> {
  return (
    (
      await db.query<CoolWatch>(
        `${SELECT_WATCH} where cool_down.id = $1 and watched for update of cool_down`,
        [id],
      )
    ).rows[0] ?? null
  );
}

export async function insertWatch(
  db: Queryable,
  deviceId: string,
  { id, spot, roomC, readyC, startedAt }: Omit<CoolWatch, 'device' | 'readings' | 'knownTauS'>,
): Promise<void> {
  await db.query(
    `insert into cool_down (id, device_id, spot, room_c, ready_c, started_at, readings, watched) values ($1, $2, $3, $4, $5, to_timestamp($6), '[]', true) on conflict (id) do nothing`,
    [id, deviceId, spot, roomC, readyC, startedAt / 1000],
  );
}

export async function updateWatch(
  db: Queryable,
  id: string,
  readings: CoolWatch['readings'],
  tauS: number | null,
): Promise<void> {
  await db.query('update cool_down set readings = $2, tau_s = $3 where id = $1', [
    id,
    JSON.stringify(readings),
    tauS,
  ]);
}

export async function setReadyLine(db: Queryable, id: string, readyC: number): Promise<void> {
  await db.query('update cool_down set ready_c = $2 where id = $1', [id, readyC]);
}

/** Nobody watches it any more; one without readings says nothing and goes. */
export async function endWatch(db: Queryable, id: string): Promise<void> {
  await db.query(`update cool_down set watched = false where id = $1`, [id]);
  await db.query(`delete from cool_down where id = $1 and readings = '[]'`, [id]);
}

/** @returns false where this change was made before */
export async function noteCoolChange(db: Queryable, coolDownId: string, id: string): Promise<boolean> {
  return (
    (
      await db.query('insert into cool_change (id, cool_down_id) values ($1, $2) on conflict do nothing', [
        id,
        coolDownId,
      ])
    ).rowCount === 1
  );
}
