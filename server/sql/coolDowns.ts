import type { NewCoolDown } from '@pace-check/contract';
import type { Queryable } from './database';

export async function insertCoolDown(db: Queryable, deviceId: string, { spot, roomC, startedAt, readings }: NewCoolDown, tauS: number | null): Promise<void> {
  await db.query('insert into cool_down (device_id, spot, room_c, started_at, readings, tau_s) values ($1, $2, $3, $4, $5, $6)', [deviceId, spot, roomC, startedAt, JSON.stringify(readings), tauS]);
}

/** Time constants of a device's fitted cool-downs, seconds. */
export async function readCoolTaus(db: Queryable, deviceId: string): Promise<number[]> {
  return (await db.query<{ tau: number }>('select tau_s as tau from cool_down where device_id = $1 and tau_s is not null order by started_at', [deviceId])).rows.map((row) => row.tau);
}
