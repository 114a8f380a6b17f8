import type {
  BenchEntry,
  BenchPlan,
  BenchSource,
  Recording,
  SourceKind,
  SourceRefusal,
} from '@pace-check/contract';
import {
  lineTimeMs,
  type EndReason,
  type EntryLine,
  type PresentAnchor,
  type RecordedLine,
  type RecordedRun,
  type SourceUse,
} from '@pace-check/core';
import type { Queryable } from './database';

export interface RecordingRow extends RecordedRun<BenchPlan> {
  runId: string;
  step: Recording['step'];
  /** Number of the last change of the run or its lines. */
  change: number;
  used: SourceUse[];
  settled: boolean;
}

const SELECT = `select run_id as "runId", status, started_ms as "startedMs", case when end_ms is not null then json_build_object('atMs', end_ms, 'reason', end_reason) end as "end", speed, plan, step, change::float8 as change, used, settled from recording`;

const LOCKS = { none: '', share: ' for share', change: ' for no key update' };

/**
 * @param lock `change`: others wait until the transaction ends, and changes of a run are numbered one after the
 *   other; `share`: whoever wants to change it waits, those who share it do not
 */
export async function readRecording(
  db: Queryable,
  runId: string,
  lock: keyof typeof LOCKS = 'none',
): Promise<RecordingRow | null> {
  return (await db.query<RecordingRow>(`${SELECT} where run_id = $1${LOCKS[lock]}`, [runId])).rows[0] ?? null;
}

/** Number of the last change of a run or its lines; null where it is not recorded. */
export async function readChange(db: Queryable, runId: string): Promise<number | null> {
  return (
    (
      await db.query<{ change: number }>('select change::float8 as change from recording where run_id = $1', [
        runId,
      ])
    ).rows[0]?.change ?? null
  );
}

export async function insertRecording(
  db: Queryable,
  runId: string,
  speed: number,
  plan: BenchPlan,
  step: Recording['step'],
): Promise<void> {
  await db.query('insert into recording (run_id, speed, plan, step) values ($1, $2, $3, $4)', [
    runId,
    speed,
    JSON.stringify(plan),
    step && JSON.stringify(step),
  ]);
}

/** What a change may change of the row. */
export type RecordingChange = Partial<
  Pick<RecordingRow, 'status' | 'startedMs' | 'end' | 'plan' | 'used' | 'settled'>
>;

/** Changes the row; it counts as a change of the run. */
export async function updateRecording(db: Queryable, runId: string, change: RecordingChange): Promise<void> {
  const columns: Record<string, unknown> = {
    status: change.status,
    started_ms: change.startedMs,
    end_ms: change.end?.atMs,
    end_reason: change.end?.reason,
    plan: change.plan && JSON.stringify(change.plan),
    used: change.used && JSON.stringify(change.used),
    settled: change.settled,
  };
  const said = Object.entries(columns).filter(([, value]) => value !== undefined);
  const endedAt = {
    ended: ', ended_at = coalesce(ended_at, now())',
    running: ', ended_at = null',
    ready: '',
  };
  await db.query(
    `update recording set change = change + 1${change.status ? endedAt[change.status] : ''}${said.map(([column], i) => `, ${column} = $${i + 2}`).join('')} where run_id = $1`,
    [runId, ...said.map(([, value]) => value)],
  );
}

/** Recordings that are not over, or ended since then, the latest first. */
export async function listRecordings(db: Queryable, sinceHours: number): Promise<RecordingRow[]> {
  return (
    await db.query<RecordingRow>(
      `${SELECT} join run on run.id = run_id where deleted_at is null and (status <> 'ended' or opened_at > now() - make_interval(hours => $1)) order by opened_at desc limit 40`,
      [sinceHours],
    )
  ).rows;
}

/** Recordings that ended before all their lines were joined, for instance because the server died. */
export async function unsettledRuns(db: Queryable): Promise<string[]> {
  return (
    await db.query<{ id: string }>(
      `select run_id as id from recording join run on run.id = run_id where status = 'ended' and not settled and deleted_at is null`,
    )
  ).rows.map((row) => row.id);
}

export async function readRunning(db: Queryable): Promise<RecordingRow[]> {
  return (
    await db.query<RecordingRow>(
      `${SELECT} join run on run.id = run_id where status = 'running' and deleted_at is null`,
    )
  ).rows;
}

/** @returns false where this change was made before */
export async function noteChange(db: Queryable, runId: string, id: string): Promise<boolean> {
  return (
    (
      await db.query('insert into bench_change (id, run_id) values ($1, $2) on conflict do nothing', [
        id,
        runId,
      ])
    ).rowCount === 1
  );
}

/**
 * Lines that changed after a number, in the order of their changes. What people
 * wrote is all there; of each series that a source tells the latest, and of
 * those before it so many, evenly: a screen that comes late need not hear of
 * every second.
 *
 * @param most lines of a series
 */
export async function readChangedEntries(
  db: Queryable,
  runId: string,
  after: number,
  most: number,
): Promise<BenchEntry[]> {
  return (
    await db.query<BenchEntry>(
      `select id, line, open, source as source, writer, "takenBack" from (
       select id, line, open, source_id as source, writer, taken_back as "takenBack", change, seq,
         row_number() over series as back, count(*) over (partition by source_id, type, line ->> 'spot') as all_of_it
       from entry where run_id = $1 and change > $2
       window series as (partition by source_id, type, line ->> 'spot' order by at_ms desc, seq desc)
     ) as changed
     where source is null or all_of_it <= $3 or (back - 1) % ceil(all_of_it::float8 / $3)::bigint = 0 order by change, seq`,
      [runId, after, most],
    )
  ).rows;
}

const SELECT_LINE =
  'select id, line, open, source_id as source, writer, taken_back as "takenBack" from entry where run_id = $1';

/** Lines of a run by their ids, taken back or not. */
export async function readLines(db: Queryable, runId: string, ids: string[]): Promise<RecordedLine[]> {
  return (await db.query<RecordedLine>(`${SELECT_LINE} and id = any($2)`, [runId, ids])).rows;
}

/** Spans of a run that are going on. */
export async function readOpenSpans(db: Queryable, runId: string): Promise<RecordedLine[]> {
  return (await db.query<RecordedLine>(`${SELECT_LINE} and open and not taken_back`, [runId])).rows;
}

/** The latest that an earlier server's clock showed while a run was recorded that still is, ms since 1970; null where none is. */
export async function lastHeardMs(db: Queryable): Promise<number | null> {
  return (
    (
      await db.query<{ at: number | null }>(
        `select greatest(max(started_ms), max(heard_ms), (select (value ->> 'ms')::float8 from setting where key = 'clock')) as at
       from recording join run on run.id = recording.run_id left join source on source.run_id = recording.run_id where status = 'running' and deleted_at is null having count(*) > 0`,
      )
    ).rows[0]?.at ?? null
  );
}

/** Keeps what the server's clock shows. */
export async function keepClock(db: Queryable, ms: number): Promise<void> {
  await db.query(
    `insert into setting (key, value) values ('clock', jsonb_build_object('ms', $1::float8)) on conflict (key) do update set value = excluded.value`,
    [ms],
  );
}

/** The number of the next change of a run, which must be locked. */
async function nextChange(db: Queryable, runId: string): Promise<number> {
  return (
    await db.query<{ change: number }>(
      'update recording set change = change + 1 where run_id = $1 returning change::float8 as change',
      [runId],
    )
  ).rows[0]!.change;
}

export interface PutEntry {
  id: string;
  line: EntryLine;
  open?: boolean;
  sourceId?: string;
  writer?: string | null;
  takenBack?: boolean;
}

/** Writes lines; one that is there is changed. The run must be locked. @returns ids of those that were taken back, which stay so */
export async function putEntries(db: Queryable, runId: string, entries: PutEntry[]): Promise<string[]> {
  if (entries.length === 0) return [];
  const change = await nextChange(db, runId);
  const rows = entries.map(
    ({ id, line, open = false, sourceId = null, writer = null, takenBack = false }) => ({
      id,
      type: line.type,
      at: lineTimeMs(line),
      line,
      open,
      sourceId,
      writer,
      takenBack,
    }),
  );
  const result = await db.query<{ id: string }>(
    `insert into entry (run_id, seq, id, type, at_ms, line, source, source_id, writer, open, taken_back, change)
     select $1, (select coalesce(max(seq), -1) from entry where run_id = $1) + place, (item ->> 'id')::uuid, item ->> 'type', (item ->> 'at')::float8, item -> 'line',
       case when item ->> 'sourceId' is null then 'hand' else 'source' end, (item ->> 'sourceId')::uuid, item ->> 'writer', (item ->> 'open')::boolean, (item ->> 'takenBack')::boolean, $3
     from jsonb_array_elements($2::jsonb) with ordinality as lines (item, place)
     on conflict (run_id, id) do update set type = excluded.type, at_ms = excluded.at_ms, line = excluded.line, open = excluded.open, taken_back = excluded.taken_back, change = excluded.change where not entry.taken_back
     returning id`,
    [runId, JSON.stringify(rows), change],
  );
  const written = new Set(result.rows.map((row) => row.id));
  return entries.map((entry) => entry.id).filter((id) => !written.has(id));
}

/** All lines that were not taken back, for joining. */
export async function readBenchEntries(
  db: Queryable,
  runId: string,
): Promise<{ id: string; line: EntryLine; source: string | null; open: boolean }[]> {
  return (
    await db.query<{ id: string; line: EntryLine; source: string | null; open: boolean }>(
      'select id, line, source_id as source, open from entry where run_id = $1 and not taken_back order by seq',
      [runId],
    )
  ).rows;
}

/** Spans that were not taken back: they are looked at with every change. */
export async function readSpans(db: Queryable, runId: string): Promise<{ line: EntryLine; open: boolean }[]> {
  return (
    await db.query<{ line: EntryLine; open: boolean }>(
      "select line, open from entry where run_id = $1 and type = 'span' and not taken_back order by seq",
      [runId],
    )
  ).rows;
}

/** Marks which lines the figures leave aside for another source's. */
export async function markUnused(db: Queryable, runId: string, unused: string[]): Promise<void> {
  await db.query('update entry set used = not (id = any($2)) where run_id = $1 and used = (id = any($2))', [
    runId,
    unused,
  ]);
}

/** A logger that was out of reach sends what it has so long after the end of its run, min. */
const KEY_OUTLIVES_RUN_MIN = 15;

export interface SourceRow {
  id: string;
  runId: string;
  name: string;
  kind: SourceKind;
  standIn: boolean;
  offsetMs: number | null;
  next: number;
  frames: number;
  lines: number;
  refused: number;
  refusals: SourceRefusal[];
  ended: EndReason | null;
  anchor: PresentAnchor | null;
  heardMs: number | null;
  revoked: boolean;
  /** Why its key is good no longer, though nobody revoked it; null while it is. */
  keyEnded: 'session' | 'run' | null;
  /** Goes up with every batch, and with whatever else is kept of it. */
  fence: number;
}

const SOURCE = `id, run_id as "runId", name, kind, stand_in as "standIn", offset_ms as "offsetMs", next_seq::float8 as next, frames::float8 as frames, lines::float8 as lines,
  refused::float8 as refused, refusals, ended, anchor, heard_ms as "heardMs", revoked_at is not null as revoked, fence::float8 as fence,
  case when exists (select from recording where recording.run_id = source.run_id and ended_at < now() - interval '${KEY_OUTLIVES_RUN_MIN} minutes') then 'run'
    when not stand_in and (session_id is not null and not exists (select from session where session.id = session_id)
      or exists (select from passcode where set_at > created_at)) then 'session' end as "keyEnded"`;
const SELECT_SOURCE = `select ${SOURCE} from source`;

export async function insertSource(
  db: Queryable,
  runId: string,
  { name, kind, standIn }: Pick<BenchSource, 'name' | 'kind' | 'standIn'>,
  keySha256: string,
  sessionId: string | null,
): Promise<SourceRow> {
  const { id } = (
    await db.query<{ id: string }>(
      'insert into source (run_id, name, kind, stand_in, key_sha256, session_id) values ($1, $2, $3, $4, $5, $6) returning id',
      [runId, name, kind, standIn, keySha256, sessionId],
    )
  ).rows[0]!;
  return (await db.query<SourceRow>(`${SELECT_SOURCE} where id = $1`, [id])).rows[0]!;
}

export async function readSources(db: Queryable, runId: string): Promise<SourceRow[]> {
  return (await db.query<SourceRow>(`${SELECT_SOURCE} where run_id = $1 order by created_at, id`, [runId]))
    .rows;
}

/** Sources of several runs, each run’s in the order in which they were added, and how many batches wait for one before them. */
export async function readSourcesOf(
  db: Queryable,
  runIds: string[],
): Promise<(SourceRow & { held: number })[]> {
  return (
    await db.query<SourceRow & { held: number }>(
      `select ${SOURCE}, (select count(*)::int from source_batch where source_batch.run_id = source.run_id and source_id = source.id and seq > next_seq) as held
       from source where run_id = any($1) order by created_at, id`,
      [runIds],
    )
  ).rows;
}

/** @param lock other batches of the source wait until the transaction ends, whichever process has them */
export async function sourceByKey(db: Queryable, keySha256: string, lock = false): Promise<SourceRow | null> {
  return (
    (
      await db.query<SourceRow>(`${SELECT_SOURCE} where key_sha256 = $1${lock ? ' for no key update' : ''}`, [
        keySha256,
      ])
    ).rows[0] ?? null
  );
}

export async function revokeSource(db: Queryable, runId: string, id: string): Promise<boolean> {
  return (
    (
      await db.query(
        'update source set revoked_at = coalesce(revoked_at, now()), fence = fence + 1 where run_id = $1 and id = $2',
        [runId, id],
      )
    ).rowCount === 1
  );
}

/**
 * Keeps where a source stands, and raises its fence.
 *
 * @returns false, and nothing is kept, where another process has kept something since `fence` was read
 */
export async function updateSource(
  db: Queryable,
  { id, offsetMs, next, frames, lines, refused, refusals, ended, anchor, heardMs, fence }: SourceRow,
): Promise<boolean> {
  const { rowCount } = await db.query(
    'update source set offset_ms = $2, next_seq = $3, frames = $4, lines = $5, refused = $6, refusals = $7, ended = $8, anchor = $9, heard_ms = $10, fence = fence + 1 where id = $1 and fence = $11',
    [
      id,
      offsetMs,
      next,
      frames,
      lines,
      refused,
      JSON.stringify(refusals),
      ended,
      anchor === null ? null : JSON.stringify(anchor),
      heardMs,
      fence,
    ],
  );
  return rowCount === 1;
}

/** A source by what its batches are found by. */
type OfSource = Pick<SourceRow, 'id' | 'runId'>;

/** @returns false where a batch of this number is there */
export async function insertBatch(
  db: Queryable,
  { id, runId }: OfSource,
  seq: number,
  frames: string,
  digest: Buffer,
): Promise<boolean> {
  return (
    (
      await db.query(
        'insert into source_batch (run_id, source_id, seq, through, frames, digests) values ($1, $2, $3, $3, $4, $5) on conflict do nothing',
        [runId, id, seq, Buffer.from(frames), digest],
      )
    ).rowCount === 1
  );
}

/**
 * What a stored batch is known by.
 *
 * @param bytes of a digest
 * @returns null where there is no such batch, or it was stored before digests were kept
 */
export async function readDigest(
  db: Queryable,
  { id, runId }: OfSource,
  seq: number,
  bytes: number,
): Promise<Buffer | null> {
  const found = await db.query<{ digest: Buffer | null }>(
    'select substring(digests from ($3 - seq)::int * $4 + 1 for $4) as digest from source_batch where run_id = $1 and source_id = $2 and seq <= $3 and through >= $3',
    [runId, id, seq, bytes],
  );
  return found.rows[0]?.digest ?? null;
}

export interface BatchRow {
  seq: number;
  through: number;
  frames: Uint8Array;
  deflated: boolean;
  /** Of each batch in the row, one after the other; null where one was stored before they were kept. */
  digests: Uint8Array | null;
}

/** @param from number of the first that is wanted; it may stand in a row with others before it */
export async function readBatches(db: Queryable, { id, runId }: OfSource, from = 0): Promise<BatchRow[]> {
  return (
    await db.query<BatchRow>(
      'select seq::float8 as seq, through::float8 as through, frames, deflated, digests from source_batch where run_id = $1 and source_id = $2 and through >= $3 order by seq',
      [runId, id, from],
    )
  ).rows;
}

const bufferOf = (bytes: Uint8Array): Buffer => Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** Puts one row in the place of many. */
export async function replaceBatches(db: Queryable, { id, runId }: OfSource, batch: BatchRow): Promise<void> {
  await db.query('delete from source_batch where run_id = $1 and source_id = $2 and seq between $3 and $4', [
    runId,
    id,
    batch.seq,
    batch.through,
  ]);
  await db.query(
    'insert into source_batch (run_id, source_id, seq, through, frames, deflated, digests) values ($1, $2, $3, $4, $5, $6, $7)',
    [
      runId,
      id,
      batch.seq,
      batch.through,
      bufferOf(batch.frames),
      batch.deflated,
      batch.digests && bufferOf(batch.digests),
    ],
  );
}
