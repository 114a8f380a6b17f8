import { METHOD_VERSION, SUSTAINED_S, type EndReason } from '@pace-check/core';
import type { Queryable } from './database';

/** Chip of each device, system and demand of each title, by name. */
export async function readKin(
  db: Queryable,
): Promise<Record<'chips' | 'systems' | 'demands', Map<string, string>>> {
  const facts = async (table: 'device' | 'title', fact: string): Promise<Map<string, string>> =>
    new Map(
      (
        await db.query<{ name: string; fact: string }>(
          `select name, facts ->> '${fact}' as fact from ${table} where facts ->> '${fact}' is not null`,
        )
      ).rows.map((row) => [row.name, row.fact]),
    );
  return {
    chips: await facts('device', 'chip'),
    systems: await facts('title', 'system'),
    demands: await facts('title', 'demand'),
  };
}

/** A run as a search may use it. */
export interface TriedRow {
  id: string;
  name: string;
  setup: string | null;
  seconds: number;
  median: number | null;
  closing: number | null;
  /** Of an emulated title. */
  speed: number | null;
  fullSpeed: boolean | null;
  firstPlay: boolean;
  glitches: number;
  peakC: number | null;
  watts: number | null;
  ended: EndReason | null;
}

/** Runs of a device and title, the latest first. */
export async function readTried(db: Queryable, device: string, title: string): Promise<TriedRow[]> {
  return (
    await db.query<TriedRow>(
      `select run.id, run.name, setup.name as setup, coalesce((comparing ->> 'seconds')::float8, 0) as seconds,
         coalesce((comparing -> 'values' -> 'median' ->> 'value')::float8, (comparing -> 'values' -> 'average' ->> 'value')::float8) as median,
         (figures -> 'stamina' ->> 'closing')::float8 as closing, (figures -> 'emulation' ->> 'speed')::float8 as speed, (figures -> 'emulation' ->> 'fullSpeed')::boolean as "fullSpeed",
         'first-play' = any(run.conditions) as "firstPlay", (comparing ->> 'peakC')::float8 as "peakC", (comparing -> 'values' -> 'watts' ->> 'value')::float8 as watts, comparing ->> 'ended' as ended,
         (select count(*)::int from entry where run_id = run.id and used and not taken_back and line ->> 'type' = 'mark' and line ->> 'kind' = 'glitch') as glitches
       from run join device on device.id = device_id join title on title.id = title_id left join setup on setup.id = setup_id
       join analysis on run_id = run.id and analysis.revision = run.revision and analysis.method_version = ${METHOD_VERSION}
       where run.deleted_at is null and comparing is not null and lower(device.name) = lower($1) and lower(title.name) = lower($2)
       order by coalesce(run.started_at, run.imported_at) desc, run.id limit 30`,
      [device, title],
    )
  ).rows;
}

/** Whether a run was long enough for the heat to show. */
export const isSustained = ({ seconds }: TriedRow): boolean => seconds >= SUSTAINED_S;
