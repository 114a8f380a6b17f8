import { randomUUID } from 'node:crypto';
import type { Preflight, RunPart, RunSummary } from '@pace-check/contract';
import {
  CONDITIONS,
  type Bars,
  type Caveat,
  type Trust,
  type Need,
  type RunHeader,
  type SplitMinutes,
  type UnreadableRow,
} from '@pace-check/core';
import type { Queryable } from './database';

/** A run as it is stored, without its frames and figures. */
export interface RunRow {
  id: string;
  name: string;
  deviceId: string;
  titleId: string;
  setupId: string | null;
  target: number | null;
  refresh: number | null;
  native: number | null;
  need: Need | null;
  roomC: number | null;
  batteryWh: number | null;
  conditions: string[];
  splitMinutes: SplitMinutes | null;
  startedAt: string | null;
  /** Null where the run was written down by hand. */
  fileName: string | null;
  fileBytes: number | null;
  fileSha256: string | null;
  contentSha256: string | null;
  rowsTotal: number;
  rowsDropped: number;
  droppedList: UnreadableRow[];
  passedOver: number;
  cutOff: boolean;
  preflight: Preflight;
  /** Place of the title that is played from the start. */
  scene: string | null;
  /** Facts that came from the kit. */
  fromKit: string[];
  /** What each need asked for when the run was made; null for the usual. */
  bars: Bars | null;
}

/** A run with the names of what it belongs to. */
export interface NamedRun extends RunRow {
  device: string;
  title: string;
  setup: string | null;
  importedAt: string;
  /** Goes up with every change of the run or its lines. */
  revision: number;
  /** While it is recorded. */
  recording: 'ready' | 'running' | null;
  /** The stretch of a sitting that it is; null for a run of its own. */
  part: RunPart | null;
  /** Several titles were played: its stretches are runs, too. */
  isSitting: boolean;
  /** The revision that its stretches were made of. */
  partsRevision: number | null;
  /** It was joined from other runs, which are put away. */
  joined: boolean;
}

const COLUMNS: Record<Exclude<keyof RunRow, 'id'>, string> = {
  name: 'name',
  deviceId: 'device_id',
  titleId: 'title_id',
  setupId: 'setup_id',
  target: 'target_fps',
  refresh: 'refresh_hz',
  native: 'native_fps',
  need: 'need',
  roomC: 'room_c',
  batteryWh: 'battery_wh',
  conditions: 'conditions',
  splitMinutes: 'split_minutes',
  startedAt: 'started_at',
  fileName: 'file_name',
  fileBytes: 'file_bytes',
  fileSha256: 'file_sha256',
  contentSha256: 'content_sha256',
  rowsTotal: 'rows_total',
  rowsDropped: 'rows_dropped',
  droppedList: 'dropped_list',
  passedOver: 'passed_over',
  cutOff: 'cut_off',
  preflight: 'preflight',
  scene: 'scene',
  fromKit: 'from_kit',
  bars: 'bars',
};
type Column = keyof typeof COLUMNS;
const NAMES = Object.keys(COLUMNS) as Column[];

const JSON_COLUMNS = new Set<Column>(['droppedList', 'preflight', 'bars']);
const toSql = (name: Column, value: unknown): unknown =>
  JSON_COLUMNS.has(name) && value !== null ? JSON.stringify(value) : value;

/**
 * @param id its name, where its maker has given it one
 * @returns null where a run of that name is there
 */
export async function insertRun(
  db: Queryable,
  run: Omit<RunRow, 'id'>,
  id: string = randomUUID(),
): Promise<string | null> {
  const result = await db.query<{ id: string }>(
    `insert into run (id, ${NAMES.map((name) => COLUMNS[name]).join(', ')}) values ($1, ${NAMES.map((_, i) => `$${i + 2}`).join(', ')}) on conflict (id) do nothing returning id`,
    [id, ...NAMES.map((name) => toSql(name, run[name]))],
  );
  return result.rows[0]?.id ?? null;
}

export async function updateRun(
  db: Queryable,
  id: string,
  changes: Partial<Omit<RunRow, 'id'>>,
): Promise<void> {
  const names = NAMES.filter((name) => changes[name] !== undefined);
  if (names.length === 0) return;
  await db.query(
    `update run set ${names.map((name, i) => `${COLUMNS[name]} = $${i + 2}`).join(', ')} where id = $1`,
    [id, ...names.map((name) => toSql(name, changes[name]))],
  );
}

/** A run with the names of what it belongs to, by the columns of `NamedRun`. @param more columns, after a comma */
export const selectRun = (
  more = '',
): string => `select run.id, ${NAMES.map((name) => (name === 'fileBytes' ? 'run.file_bytes::float8 as "fileBytes"' : `run.${COLUMNS[name]} as "${name}"`)).join(', ')},
  run.imported_at as "importedAt", run.revision::float8 as revision, device.name as device, title.name as title, setup.name as setup, nullif(recording.status, 'ended') as recording, run.is_sitting as "isSitting", run.parts_revision::float8 as "partsRevision", exists (select from run other where other.joined_into = run.id) as joined,
  case when run.sitting_id is not null then jsonb_build_object('sittingId', run.sitting_id, 'sittingName', (select whole.name from run whole where whole.id = run.sitting_id), 'fromMs', run.part_from_ms, 'toMs', run.part_to_ms, 'last', run.part_last) end as part${more}
  from run join device on device.id = run.device_id join title on title.id = run.title_id left join setup on setup.id = run.setup_id left join recording on recording.run_id = run.id`;

export const isoTimes = (row: NamedRun): NamedRun => ({
  ...row,
  startedAt: iso(row.startedAt),
  importedAt: iso(row.importedAt)!,
});
const iso = (time: unknown): string | null => (time instanceof Date ? time.toISOString() : null);

/** Runs of a record of the kit that are not being recorded, deleted ones too, each locked, the oldest first: whoever locks several does so in one order. */
export async function lockRunsOf(
  db: Queryable,
  kind: 'device' | 'title' | 'setup',
  id: string,
): Promise<(NamedRun & { isThere: boolean })[]> {
  // setups of its title may be derived from it
  const where = {
    device: 'run.device_id = $1',
    title: 'run.title_id = $1',
    setup: 'run.title_id = (select title_id from setup where setup.id = $1) and run.setup_id is not null',
  }[kind];
  const { rows } = await db.query<NamedRun & { isThere: boolean }>(
    `${selectRun(', run.deleted_at is null as "isThere"')} where ${where} and coalesce(recording.status, 'ended') = 'ended' order by run.imported_at, run.id for no key update of run`,
    [id],
  );
  return rows.map((row) => ({ ...isoTimes(row), isThere: row.isThere }));
}

/** A run that is not deleted, or null. @param evenDeleted one that may be brought back too */
export async function readRun(db: Queryable, id: string, evenDeleted = false): Promise<NamedRun | null> {
  const row = (
    await db.query<NamedRun>(`${selectRun()} where run.id = $1 and (deleted_at is null or $2)`, [
      id,
      evenDeleted,
    ])
  ).rows[0];
  return row ? isoTimes(row) : null;
}

/** Lets nobody else change a run until the transaction ends; lines may refer to it meanwhile. A recording is locked after its run. */
export async function lockRun(db: Queryable, id: string): Promise<void> {
  await db.query('select 1 from run where id = $1 for no key update', [id]);
}

/** The run or its lines have changed: figures of before are of before. */
export async function raiseRevision(db: Queryable, id: string): Promise<void> {
  await db.query('update run set revision = revision + 1 where id = $1', [id]);
}

/** What the analysis gives for lists, stored beside the figures. */
export interface StoredSummary extends Pick<RunSummary, 'headline' | 'lane'> {
  /** Those of the run's own lines; the library knows of more. */
  caveats: Caveat[];
  trust: Trust;
  /** Scenes that something of it was played in. */
  scenes: string[];
}

/** A run of the same content that is not deleted. */
export async function runWithContent(
  db: Queryable,
  contentSha256: string,
): Promise<{ id: string; name: string } | null> {
  return (
    (
      await db.query<{ id: string; name: string }>(
        'select id, name from run where content_sha256 = $1 and deleted_at is null order by imported_at limit 1',
        [contentSha256],
      )
    ).rows[0] ?? null
  );
}

/** Marks a run as deleted, with the runs that are stretches of it, or takes the mark back; false where there is no such run. */
export async function setDeleted(db: Queryable, id: string, deleted: boolean): Promise<boolean> {
  const result = await db.query(
    deleted
      ? 'update run set deleted_at = now() where (id = $1 or sitting_id = $1) and deleted_at is null'
      : // stretches that were none any more before it was deleted stay away
        `update run set deleted_at = null
         where deleted_at is not null and (id = $1 or (sitting_id = $1 and deleted_at = (select deleted_at from run whole where whole.id = $1)))`,
    [id],
  );
  return result.rowCount! > 0;
}

/** Removes for good what was deleted more than that many days ago. What was joined is there as long as the sitting is, and as long again on its own. */
export async function purgeDeleted(db: Queryable, days: number): Promise<void> {
  await db.query(
    `update run set joined_into = null, deleted_at = now()
     where joined_into in (select id from run where deleted_at < now() - make_interval(days => $1) and joined_into is null)`,
    [days],
  );
  await db.query(
    'delete from run where deleted_at < now() - make_interval(days => $1) and joined_into is null',
    [days],
  );
}

/** Runs whose figures are not there, or of before. */
export async function staleRunIds(db: Queryable, methodVersion: number): Promise<string[]> {
  const result = await db.query<{ id: string }>(
    'select run.id from run left join analysis on analysis.run_id = run.id and analysis.method_version = $1 and analysis.revision = run.revision where analysis.run_id is null and deleted_at is null order by imported_at desc',
    [methodVersion],
  );
  return result.rows.map((row) => row.id);
}

/** All runs that are over, and those of them whose figures are not there, or of before. */
export async function countStale(
  db: Queryable,
  methodVersion: number,
): Promise<{ runs: number; stale: number }> {
  const { rows } = await db.query<{ runs: number; stale: number }>(
    `select count(*)::int as runs, count(*) filter (where analysis.run_id is null)::int as stale
     from run left join analysis on analysis.run_id = run.id and analysis.method_version = $1 and analysis.revision = run.revision
     where deleted_at is null and not exists (select 1 from recording where recording.run_id = run.id and recording.status <> 'ended')`,
    [methodVersion],
  );
  return rows[0]!;
}

/** Fills in what a source's header says and nobody has said before. */
export async function fillRun(
  db: Queryable,
  id: string,
  { target, refresh, native, need, room, batteryWh, conditions, scene }: RunHeader,
): Promise<void> {
  await db.query(
    `update run set target_fps = coalesce(target_fps, $2), refresh_hz = coalesce(refresh_hz, $3), native_fps = coalesce(native_fps, $4), need = coalesce(need, $5), room_c = coalesce(room_c, $6), battery_wh = coalesce(battery_wh, $7), scene = coalesce(scene, $9),
     conditions = (select coalesce(array_agg(distinct one), '{}') from unnest(conditions || $8::text[]) one) where id = $1`,
    [
      id,
      target,
      refresh,
      native,
      need,
      room,
      batteryWh,
      (conditions ?? []).filter((condition) => CONDITIONS.includes(condition)),
      scene,
    ],
  );
}

/** Whether the library has a run of this title on this device. */
export async function playedBefore(db: Queryable, device: string, title: string): Promise<boolean> {
  const found = await db.query(
    'select 1 from run join device on device.id = device_id join title on title.id = title_id where lower(device.name) = lower($1) and lower(title.name) = lower($2) and deleted_at is null limit 1',
    [device, title],
  );
  return found.rowCount! > 0;
}

/** A run that was begun at the bench has started. @param at ms since 1970 */
export async function setStarted(db: Queryable, id: string, at: number): Promise<void> {
  await db.query('update run set started_at = to_timestamp($2) where id = $1', [id, at / 1000]);
}

/** Several runs that are not deleted, in no order. */
export async function readRuns(db: Queryable, ids: string[]): Promise<NamedRun[]> {
  return (
    await db.query<NamedRun>(`${selectRun()} where run.id = any($1) and deleted_at is null`, [ids])
  ).rows.map(isoTimes);
}
