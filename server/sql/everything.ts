import pg from 'pg';
import type { Queryable } from './database';

/** A row of a table, as PostgreSQL writes it as JSON. */
export type Row = Record<string, unknown>;

/** How a table's rows travel. */
export interface TravellingTable {
  table: string;
  /** Columns that tell a row from others. */
  key: string[];
  /** Another row that is the same: columns of it, as SQL. Its id then stands for the one that came. */
  same?: string[];
  /** Rows come and stay with those of another table. */
  with?: { table: string; column: string };
  /** What its records are called; null where nobody counts them. */
  what: string | null;
  /** Rows are only ever added to a record: those that came later are added to one that is here. What they are called. */
  grows?: string;
  /** Columns that stay behind. */
  without?: string[];
  /** As SQL: rows that travel. */
  where?: string;
  order?: string;
}

const child = (table: string, parent: string, column: string, key: string[]): TravellingTable => ({
  table,
  key,
  with: { table: parent, column },
  what: null,
});
const named = (table: string, what: string): TravellingTable => ({
  table,
  key: ['id'],
  same: ['lower(name)'],
  what,
});
const own = (table: string, what: string): TravellingTable => ({ table, key: ['id'], what });

/** Everything that was measured, planned and written, each table behind those that it refers to. Figures are computed anew; what lets people in, and what a machine remembers of itself, stays behind. */
export const TRAVELLING: TravellingTable[] = [
  named('device', 'devices'),
  named('title', 'titles'),
  named('accessory', 'accessories'),
  named('instrument', 'instruments'),
  { table: 'setup', key: ['id'], same: ['title_id::text', 'lower(name)'], what: 'setups' },
  { table: 'run', key: ['id'], what: 'runs', order: 'sitting_id nulls first' },
  child('recording', 'run', 'run_id', ['run_id']),
  // a key is good in the house that gave it
  { ...child('source', 'run', 'run_id', ['id']), without: ['key_sha256', 'session_id'] },
  child('entry', 'run', 'run_id', ['run_id', 'seq']),
  child('source_batch', 'run', 'run_id', ['run_id', 'source_id', 'seq']),
  child('bench_change', 'run', 'run_id', ['id']),
  { table: 'picture', key: ['id'], what: 'pictures', without: ['jpeg', 'small'] },
  {
    table: 'viewer_request',
    key: ['id'],
    same: ['title_id::text', "coalesce(device_id::text, '')"],
    what: 'requests',
  },
  {
    table: 'refusal',
    key: ['id'],
    same: ['device_id::text', 'title_id::text', "coalesce(setup_id::text, '')"],
    what: 'titles that did not run',
  },
  own('weak_value', 'figures of others'),
  { table: 'spot_place', key: ['device_id', 'spot'], what: null },
  own('cool_down', 'cool-downs'),
  child('cool_change', 'cool_down', 'cool_down_id', ['id']),
  own('comparison', 'comparisons'),
  child('comparison_side', 'comparison', 'comparison_id', ['comparison_id', 'place']),
  child('comparison_run', 'comparison', 'comparison_id', ['comparison_id', 'side', 'place']),
  own('ladder', 'ladders'),
  own('choice', 'choices'),
  own('outcome', 'outcomes'),
  own('claim', 'claims'),
  own('synthetic', 'synthetic scores'),
  { table: 'layer_version', key: ['layer', 'version'], what: null },
  // whoever may read it there may not here: that is said again in each house
  { ...own('review', 'reviews'), without: ['shown_at', 'changes'] },
  {
    ...child('publication', 'review', 'review_id', ['review_id', 'revision']),
    grows: 'published revisions',
    without: ['request_id'],
  },
  own('card', 'cards'),
  child('card_step', 'card', 'card_id', ['id']),
  {
    ...child('card_event', 'card', 'card_id', ['id']),
    grows: 'events of days',
    without: ['seq'],
    order: 'seq',
  },
  { table: 'setting', key: ['key'], what: 'settings', where: "key in ('bars')" },
];

const PAGE_ROWS = 500;

/** Rows of a table in their order, some hundreds at a time, within the transaction that stands. */
export async function* readRows(
  db: Queryable,
  { table, key, without = [], where = 'true', order }: TravellingTable,
): AsyncGenerator<Row[]> {
  const cursor = `rows_of_${table}`;
  await db.query(
    `declare ${cursor} no scroll cursor for select to_jsonb(t) - $1::text[] as row from ${table} t where ${where} order by ${[order, ...key].filter(Boolean).join(', ')}`,
    [without],
  );
  for (;;) {
    const { rows } = await db.query<{ row: Row }>(`fetch ${PAGE_ROWS} from ${cursor}`);
    if (rows.length > 0) yield rows.map(({ row }) => row);
    if (rows.length < PAGE_ROWS) break;
  }
  await db.query(`close ${cursor}`);
}

/** Rows that are there under the keys of others, as they travel. */
export async function readSameKeys(
  db: Queryable,
  { table, key, without = [] }: TravellingTable,
  rows: Row[],
): Promise<Row[]> {
  const { rows: found } = await db.query<{ row: Row }>(
    `select to_jsonb(t) - $2::text[] as row from ${table} t join jsonb_populate_recordset(null::${table}, $1) as came on ${key.map((column) => `t.${column} = came.${column}`).join(' and ')}`,
    [JSON.stringify(rows), without],
  );
  return found.map(({ row }) => row);
}

/** Rows that are the same as others under another id, in place of the other's id. */
export async function readSame(
  db: Queryable,
  { table, same, without = [] }: TravellingTable,
  rows: Row[],
): Promise<{ cameId: string; row: Row }[]> {
  if (!same) return [];
  const { rows: found } = await db.query<{ cameId: string; row: Row }>(
    `select came.id as "cameId", to_jsonb(t) - $2::text[] as row
     from (select id, ${same.map((column, i) => `${column} as same_${i}`).join(', ')} from jsonb_populate_recordset(null::${table}, $1)) as came
     join (select *, ${same.map((column, i) => `${column} as same_${i}`).join(', ')} from ${table}) as t on ${same.map((_, i) => `t.same_${i} = came.same_${i}`).join(' and ')}`,
    [JSON.stringify(rows), without],
  );
  const keys = same.map((_, i) => `same_${i}`);
  return found.map(({ cameId, row }) => ({
    cameId,
    row: Object.fromEntries(Object.entries(row).filter(([column]) => !keys.includes(column))),
  }));
}

/** Adds rows; columns that they do not have keep what the table gives. */
export async function insertRows(db: Queryable, table: string, rows: Row[]): Promise<void> {
  if (rows.length === 0) return;
  const columns = Object.keys(rows[0]!).map((column) => pg.escapeIdentifier(column));
  await db.query(
    `insert into ${table} (${columns.join(', ')}) select ${columns.join(', ')} from jsonb_populate_recordset(null::${table}, $1)`,
    [JSON.stringify(rows)],
  );
}

/** Sources get a key that nobody has: who wants to send on adds one anew. */
export const insertSources = (db: Queryable, rows: Row[]): Promise<void> =>
  insertRows(
    db,
    'source',
    rows.map((row) => ({ ...row, key_sha256: `brought in ${String(row['id'])}` })),
  );

/** A run that was joined into another may have come before it. */
export async function setJoinedInto(db: Queryable, runs: { id: string; into: string }[]): Promise<void> {
  await db.query(
    'update run set joined_into = pair."into" from jsonb_to_recordset($1) as pair (id uuid, "into" uuid) where run.id = pair.id',
    [JSON.stringify(runs)],
  );
}

/** Runs that may be the same as one under another id: of the same file, or of the same name, device and title. */
export async function likelyTwins(db: Queryable, run: Row): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select id from run where sitting_id is null and deleted_at is null and device_id = $1 and title_id = $2
     and (content_sha256 = $3 or (content_sha256 is not distinct from $3 and name = $4)) order by imported_at limit 20`,
    [run['device_id'], run['title_id'], run['content_sha256'], run['name']],
  );
  return rows.map(({ id }) => id);
}

/** The stretch of a sitting that begins at the same time; null where none is a run. */
export async function partAt(db: Queryable, sittingId: string, fromMs: number): Promise<string | null> {
  const { rows } = await db.query<{ id: string }>(
    'select id from run where sitting_id = $1 and part_from_ms = $2',
    [sittingId, fromMs],
  );
  return rows[0]?.id ?? null;
}

/** Bytes of a picture and its thumbnail. */
export async function readPictureBytes(db: Queryable, id: string): Promise<{ jpeg: Buffer; small: Buffer }> {
  return (
    await db.query<{ jpeg: Buffer; small: Buffer }>('select jpeg, small from picture where id = $1', [id])
  ).rows[0]!;
}

export async function hasEntry(db: Queryable, runId: string, entryId: unknown): Promise<boolean> {
  const { rowCount } = await db.query('select 1 from entry where run_id = $1 and id = $2', [runId, entryId]);
  return (rowCount ?? 0) > 0;
}

export async function insertPictureRow(
  db: Queryable,
  row: Row,
  { jpeg, small }: { jpeg: Buffer; small: Buffer },
): Promise<void> {
  await insertRows(db, 'picture', [
    { ...row, jpeg: `\\x${jpeg.toString('hex')}`, small: `\\x${small.toString('hex')}` },
  ]);
}

export async function countRows(db: Queryable, table: string): Promise<number> {
  return (await db.query<{ count: number }>(`select count(*)::int as count from ${table}`)).rows[0]!.count;
}

/** Any number, the same for every process. */
const BRINGING_IN_LOCK = 726_002;

/** Waits until nobody else brings anything in; until the connection ends nobody else does. @param onWait told where it has to wait */
export async function onlyOneBringsIn(db: Queryable, onWait: () => void): Promise<void> {
  const { rows } = await db.query<{ free: boolean }>('select pg_try_advisory_lock($1) as free', [
    BRINGING_IN_LOCK,
  ]);
  if (rows[0]!.free) return;
  onWait();
  await db.query('select pg_advisory_lock($1)', [BRINGING_IN_LOCK]);
}
