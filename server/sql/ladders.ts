import type { LadderDoc } from '@pace-check/contract';
import type { Queryable } from './database';

/** A ladder as it is stored. */
export interface LadderRow {
  id: string;
  doc: LadderDoc;
  revision: number;
  changedAt: string;
}

type Stored = Omit<LadderRow, 'changedAt'> & { changedAt: Date };
const toRow = (row: Stored): LadderRow => ({ ...row, changedAt: row.changedAt.toISOString() });
const SELECT =
  'select id, doc, revision::float8 as revision, changed_at as "changedAt" from ladder where deleted_at is null';

/** One of that id stays as it is. */
export async function insertLadder(db: Queryable, id: string, doc: LadderDoc): Promise<void> {
  await db.query('insert into ladder (id, doc) values ($1, $2) on conflict (id) do nothing', [
    id,
    JSON.stringify(doc),
  ]);
}

export async function listLadders(db: Queryable): Promise<LadderRow[]> {
  return (await db.query<Stored>(`${SELECT} order by changed_at desc, id limit 500`)).rows.map(toRow);
}

export async function readLadder(db: Queryable, id: string): Promise<LadderRow | null> {
  const { rows } = await db.query<Stored>(`${SELECT} and id = $1`, [id]);
  return rows[0] ? toRow(rows[0]) : null;
}

/** @returns false where it is not of that revision any more */
export async function replaceLadder(
  db: Queryable,
  id: string,
  revision: number,
  doc: LadderDoc,
): Promise<boolean> {
  const result = await db.query(
    'update ladder set doc = $3, revision = revision + 1, changed_at = now() where id = $1 and revision = $2 and deleted_at is null',
    [id, revision, JSON.stringify(doc)],
  );
  return result.rowCount === 1;
}

/** @returns false where there is none */
export async function setLadderDeleted(db: Queryable, id: string, deleted: boolean): Promise<boolean> {
  const result = await db.query(
    `update ladder set deleted_at = ${deleted ? 'now()' : 'null'} where id = $1 and deleted_at is ${deleted ? '' : 'not '}null`,
    [id],
  );
  return result.rowCount === 1;
}

/** Removes for good what was deleted more than that many days ago. */
export async function purgeLadders(db: Queryable, days: number): Promise<void> {
  await db.query('delete from ladder where deleted_at < now() - make_interval(days => $1)', [days]);
}

/** Chip of each device and system of each title, by name. */
export async function readKin(
  db: Queryable,
): Promise<{ chips: Map<string, string>; systems: Map<string, string> }> {
  const facts = async (table: 'device' | 'title', fact: string): Promise<Map<string, string>> =>
    new Map(
      (
        await db.query<{ name: string; fact: string }>(
          `select name, facts ->> '${fact}' as fact from ${table} where facts ->> '${fact}' is not null`,
        )
      ).rows.map((row) => [row.name, row.fact]),
    );
  return { chips: await facts('device', 'chip'), systems: await facts('title', 'system') };
}

/** What a run may confirm a search by. */
export interface SustainedRun {
  id: string;
  name: string;
  setup: string | null;
  seconds: number;
  closing: number | null;
  /** Of an emulated title. */
  speed: number | null;
  fullSpeed: boolean | null;
}

/** Runs of a device and title that are long enough, the latest first. */
export async function readSustained(
  db: Queryable,
  device: string,
  title: string,
  seconds: number,
): Promise<SustainedRun[]> {
  return (
    await db.query<SustainedRun>(
      `select run.id, run.name, setup.name as setup, (figures -> 'frames' ->> 'seconds')::float8 as seconds,
         (figures -> 'stamina' ->> 'closing')::float8 as closing, (figures -> 'emulation' ->> 'speed')::float8 as speed, (figures -> 'emulation' ->> 'fullSpeed')::boolean as "fullSpeed"
       from run join device on device.id = device_id join title on title.id = title_id left join setup on setup.id = setup_id join analysis on run_id = run.id and analysis.revision = run.revision
       where run.deleted_at is null and lower(device.name) = lower($1) and lower(title.name) = lower($2) and (figures -> 'frames' ->> 'seconds')::float8 >= $3
       order by coalesce(run.started_at, run.imported_at) desc, run.id limit 30`,
      [device, title, seconds],
    )
  ).rows;
}
