import type { ComparisonKind, WeakSource } from '@pace-check/core';
import type { WeakMeasure, WeakValue } from '@pace-check/contract';
import type { Queryable } from './database';

/** A comparison as it is stored. */
export interface ComparisonRow {
  id: string;
  /** Null: as its sides tell. */
  name: string | null;
  kind: ComparisonKind;
  margin: number;
  anyway: boolean;
  kept: boolean;
  answerThen: string | null;
  changedAt: string;
}

/** A run's place in a comparison. */
export interface PlacedRun {
  comparisonId: string;
  side: number;
  /** Name that the side was given. */
  given: string | null;
  /** Null for a side of which no run is left. */
  runId: string | null;
  deleted: boolean;
}

const COLUMNS =
  'id, name, kind, margin, anyway, kept, answer_then as "answerThen", changed_at as "changedAt"';
type Stored = Omit<ComparisonRow, 'changedAt'> & { changedAt: Date };
const toRow = (row: Stored): ComparisonRow => ({ ...row, changedAt: row.changedAt.toISOString() });

/** @returns false where one of that id is there */
export async function insertComparison(
  db: Queryable,
  { id, name, kind, margin, anyway }: Pick<ComparisonRow, 'id' | 'name' | 'kind' | 'margin' | 'anyway'>,
): Promise<boolean> {
  const result = await db.query(
    'insert into comparison (id, name, kind, margin, anyway) values ($1, $2, $3, $4, $5) on conflict (id) do nothing',
    [id, name, kind, margin, anyway],
  );
  return result.rowCount === 1;
}

/** @param lock keeps others from changing it until the transaction ends */
export async function readComparison(db: Queryable, id: string, lock = false): Promise<ComparisonRow | null> {
  const { rows } = await db.query<Stored>(
    `select ${COLUMNS} from comparison where id = $1 and deleted_at is null ${lock ? 'for update' : ''}`,
    [id],
  );
  return rows[0] ? toRow(rows[0]) : null;
}

/** Comparisons in a list at most. */
const MOST_LISTED = 200;

/** @param runId only those that it stands in */
export async function listComparisons(db: Queryable, runId: string | null = null): Promise<ComparisonRow[]> {
  const { rows } = await db.query<Stored>(
    `select ${COLUMNS} from comparison where deleted_at is null and ($1::uuid is null or exists (select from comparison_run where comparison_id = comparison.id and run_id = $1))
     order by kept desc, changed_at desc, id limit ${MOST_LISTED}`,
    [runId],
  );
  return rows.map(toRow);
}

export async function updateComparison(
  db: Queryable,
  { id, name, kind, margin, anyway, kept, answerThen }: Omit<ComparisonRow, 'changedAt'>,
): Promise<void> {
  await db.query(
    'update comparison set name = $2, kind = $3, margin = $4, anyway = $5, kept = $6, answer_then = $7, changed_at = now() where id = $1',
    [id, name, kind, margin, anyway, kept, answerThen],
  );
}

/** Puts sides with their runs in the place of those that were there. */
export async function replaceSides(
  db: Queryable,
  id: string,
  sides: readonly { name: string | null; runs: readonly string[] }[],
): Promise<void> {
  await db.query('delete from comparison_side where comparison_id = $1', [id]);
  await db.query(
    'insert into comparison_side (comparison_id, place, name) select $1, place - 1, name from unnest($2::text[]) with ordinality as side (name, place)',
    [id, sides.map((side) => side.name)],
  );
  const placed = sides.flatMap((side, i) => side.runs.map((run, place) => ({ side: i, place, run })));
  await db.query(
    'insert into comparison_run (comparison_id, side, place, run_id) select $1, side, place, run_id from unnest($2::int[], $3::int[], $4::uuid[]) as placed (side, place, run_id)',
    [id, placed.map((one) => one.side), placed.map((one) => one.place), placed.map((one) => one.run)],
  );
}

/** Runs of comparisons in their places, those that are deleted too. */
export async function readPlaced(db: Queryable, ids: string[]): Promise<PlacedRun[]> {
  const { rows } = await db.query<PlacedRun>(
    `select side.comparison_id as "comparisonId", side.place as side, side.name as given, placed.run_id as "runId", run.deleted_at is not null as deleted
     from comparison_side side left join comparison_run placed on placed.comparison_id = side.comparison_id and placed.side = side.place left join run on run.id = placed.run_id
     where side.comparison_id = any($1) order by side.comparison_id, side.place, placed.place`,
    [ids],
  );
  return rows;
}

/** Runs among these that are there. */
export async function knownRuns(db: Queryable, ids: string[]): Promise<Set<string>> {
  const { rows } = await db.query<{ id: string }>(
    'select id from run where id = any($1) and deleted_at is null',
    [ids],
  );
  return new Set(rows.map((row) => row.id));
}

export async function setComparisonDeleted(db: Queryable, id: string, deleted: boolean): Promise<boolean> {
  const result = await db.query(
    `update comparison set deleted_at = ${deleted ? 'now()' : 'null'} where id = $1 and deleted_at is ${deleted ? '' : 'not '}null`,
    [id],
  );
  return result.rowCount === 1;
}

/** Removes what was deleted, or never kept, and not touched for that many days. */
export async function purgeComparisons(db: Queryable, days: number): Promise<void> {
  await db.query(
    'delete from comparison where deleted_at < now() - make_interval(days => $1) or (not kept and changed_at < now() - make_interval(days => $1))',
    [days],
  );
}

interface WeakRow extends Omit<WeakValue, 'measure' | 'source'> {
  measure: WeakMeasure;
  source: WeakSource;
}

/** @returns false where one of that id is there */
export async function insertWeakValue(
  db: Queryable,
  { id, measure, value, low, high, source, who, dated }: WeakValue,
  of: { deviceId: string; titleId: string; setupId: string | null },
): Promise<boolean> {
  const result = await db.query(
    'insert into weak_value (id, device_id, title_id, setup_id, measure, value, low, high, source, who, dated) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) on conflict (id) do nothing',
    [id, of.deviceId, of.titleId, of.setupId, measure, value, low, high, source, who, dated],
  );
  return result.rowCount === 1;
}

/** Values of titles that nobody measured here. */
export async function readWeakValues(db: Queryable, titleIds: string[]): Promise<WeakValue[]> {
  const { rows } = await db.query<WeakRow>(
    `select weak_value.id, device.name as device, title.name as title, setup.name as setup, measure, value, low, high, source, who, dated::text as dated
     from weak_value join device on device.id = device_id join title on title.id = weak_value.title_id left join setup on setup.id = setup_id
     where weak_value.title_id = any($1) order by title.name, device.name, added_at`,
    [titleIds],
  );
  return rows;
}

export async function deleteWeakValue(db: Queryable, id: string): Promise<boolean> {
  return (await db.query('delete from weak_value where id = $1', [id])).rowCount === 1;
}
