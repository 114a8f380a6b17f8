import type { Claim, LayerVersion, Outcome, Outcomes } from '@pace-check/contract';
import type { RunSeen, SmoothWord } from '@pace-check/core';
import type { Queryable } from './database';

/** Outcomes and claims that are read at most: 300 titles on 8 devices, some versions of each. */
const MOST_READ = 20_000;

export async function readOutcomes(db: Queryable): Promise<Omit<Outcomes, 'runs'>> {
  const docs = async <T>(table: 'outcome' | 'claim'): Promise<T[]> =>
    (
      await db.query<{ doc: T }>(
        `select doc from ${table} ${table === 'outcome' ? 'where deleted_at is null' : ''} order by doc ->> 'date' desc nulls last, noted_at desc, id limit ${MOST_READ}`,
      )
    ).rows.map((row) => row.doc);
  return {
    outcomes: await docs<Outcome>('outcome'),
    claims: await docs<Claim>('claim'),
    versions: (
      await db.query<LayerVersion>(
        `select layer as "with", version, to_char(came_on, 'YYYY-MM-DD') as date, fork_of as "forkOf" from layer_version order by layer, came_on, version`,
      )
    ).rows,
  };
}

/** A run as far as it says how it goes with its title. */
export interface SeenRun extends RunSeen {
  id: string;
  name: string;
  setup: string | null;
  title: string;
  device: string;
  setupId: string | null;
  date: string;
  firstPlay: boolean;
  stumbles: SmoothWord | null;
  breaks: { count: number; minutes: number } | null;
}

/** Runs that are over, the latest first; of a sitting its stretches. */
export async function readSeenRuns(db: Queryable): Promise<SeenRun[]> {
  return (
    await db.query<SeenRun>(
      `select run.id, run.name, setup.name as setup, title.name as title, device.name as device, setup_id as "setupId", to_char(coalesce(started_at, imported_at), 'YYYY-MM-DD') as date,
         'first-play' = any(conditions) as "firstPlay", figures -> 'end' ->> 'reason' as ended, (figures -> 'emulation' ->> 'fullSpeed')::boolean as "fullSpeed", figures ->> 'playable' as playable,
         coalesce(figures -> 'marks' @> '[{"kind": "crash"}]', false) as crashed,
         figures -> 'read' ->> 'smooth' as stumbles, nullif(comparing -> 'breaks', 'null') as breaks,
         (select count(*)::int from jsonb_array_elements(figures -> 'marks') as mark where mark ->> 'kind' = 'glitch') as glitches
       from run join device on device.id = device_id join title on title.id = title_id left join setup on setup.id = setup_id join analysis on run_id = run.id
       where deleted_at is null and not is_sitting and not exists (select 1 from recording where recording.run_id = run.id and status <> 'ended')
       order by coalesce(started_at, imported_at) desc, run.id limit ${MOST_READ}`,
    )
  ).rows;
}

/** Outcomes of a title on a device. */
export async function readOutcomesOf(db: Queryable, device: string, title: string): Promise<Outcome[]> {
  return (
    await db.query<{ doc: Outcome }>(
      `select doc from outcome where deleted_at is null and lower(doc ->> 'device') = lower($1) and lower(doc ->> 'title') = lower($2) limit ${MOST_READ}`,
      [device, title],
    )
  ).rows.map((row) => row.doc);
}

/** Notes them; one that is there under its id is replaced. */
async function insert(db: Queryable, table: 'outcome' | 'claim', all: { id: string }[]): Promise<void> {
  await db.query(
    `insert into ${table} (id, doc) select (one ->> 'id')::uuid, one from jsonb_array_elements($1::jsonb) as one
     on conflict (id) do update set doc = excluded.doc${table === 'outcome' ? ', deleted_at = null' : ''}`,
    [JSON.stringify(all)],
  );
}

export const insertOutcomes = (db: Queryable, all: Outcome[]): Promise<void> => insert(db, 'outcome', all);
export const insertClaims = (db: Queryable, all: Claim[]): Promise<void> => insert(db, 'claim', all);

/** Of these ids those that are there, deleted or not. */
export async function knownOutcomes(db: Queryable, ids: string[]): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    'select id from outcome where id = any($1::uuid[]) union all select id from claim where id = any($1::uuid[])',
    [ids],
  );
  return rows.map(({ id }) => id);
}

/** @param again one that is known takes the day that is given now */
export async function insertVersions(db: Queryable, all: LayerVersion[], again: boolean): Promise<void> {
  for (const { with: layer, version, date, forkOf } of all)
    await db.query(
      `insert into layer_version (layer, version, came_on, fork_of) values ($1, $2, $3, $4) on conflict (layer, version) do ${again ? 'update set came_on = excluded.came_on, fork_of = excluded.fork_of' : 'nothing'}`,
      [layer, version, date, forkOf === '' ? null : forkOf],
    );
}

/** @returns false where there is none */
export async function setOutcomeDeleted(db: Queryable, id: string, deleted: boolean): Promise<boolean> {
  const result = await db.query(
    `update outcome set deleted_at = ${deleted ? 'now()' : 'null'} where id = $1 and deleted_at is ${deleted ? '' : 'not '}null`,
    [id],
  );
  return result.rowCount === 1;
}

/** @returns false where there is none */
export async function deleteClaim(db: Queryable, id: string): Promise<boolean> {
  return (await db.query('delete from claim where id = $1', [id])).rowCount === 1;
}

/** Removes for good what was deleted more than that many days ago. */
export async function purgeOutcomes(db: Queryable, days: number): Promise<void> {
  await db.query('delete from outcome where deleted_at < now() - make_interval(days => $1)', [days]);
}
