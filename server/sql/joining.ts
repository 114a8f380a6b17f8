import type { EntryLine } from '@pace-check/core';
import type { Queryable } from './database';

/** As SQL: a line of a run as it stands so much later, on the clock of what it is joined into. */
const later = (entry: string, by: string): string => `${entry}.line || case when ${entry}.type = 'span'
  then jsonb_build_object('fromMs', (${entry}.line ->> 'fromMs')::float8 + ${by}, 'toMs', (${entry}.line ->> 'toMs')::float8 + ${by})
  else jsonb_build_object('atMs', (${entry}.line ->> 'atMs')::float8 + ${by})
    || case when ${entry}.line ? 'lowMs' then jsonb_build_object('lowMs', (${entry}.line ->> 'lowMs')::float8 + ${by}) else '{}' end
    || case when ${entry}.line ? 'highMs' then jsonb_build_object('highMs', (${entry}.line ->> 'highMs')::float8 + ${by}) else '{}' end end`;

/** As SQL: lines of a run that are joined, its end only as the last of all. */
const joined = (withEnd: string): string =>
  `o.used and not o.taken_back and (o.type <> 'end' or ${withEnd}) and (o.type = 'span' or o.line ? 'atMs')`;

/** Appends the lines of a run to another, so much later; its end and lines without a time stay behind. @returns how many lines without a time stayed */
export async function appendLines(
  db: Queryable,
  { from, to, afterMs, withEnd }: { from: string; to: string; afterMs: number; withEnd: boolean },
): Promise<number> {
  await db.query(
    `insert into entry (run_id, seq, type, at_ms, line, source, copied_from)
     select $2, (select coalesce(max(seq), -1) from entry where run_id = $2) + row_number() over (order by o.seq), o.type, o.at_ms + $3, ${later('o', '$3')}, o.source, o.id
     from entry o where o.run_id = $1 and ${joined('$4')}`,
    [from, to, afterMs, withEnd],
  );
  const left = await db.query<{ count: number }>(
    "select count(*)::int as count from entry where run_id = $1 and used and not taken_back and type <> 'span' and not line ? 'atMs'",
    [from],
  );
  return left.rows[0]!.count;
}

/** Notes that joining wrote these lines itself: those without an origin that are there by now. */
export async function markByJoining(db: Queryable, sitting: string): Promise<void> {
  await db.query('update entry set by_joining = true where run_id = $1 and copied_from is null', [sitting]);
}

/** A line as it stands at a sitting, and where it is from. */
export interface SittingLine {
  id: string;
  line: EntryLine;
}

/** Lines that somebody wrote at a sitting after it was joined. */
export async function readAdded(db: Queryable, sitting: string): Promise<SittingLine[]> {
  return (
    await db.query<SittingLine>(
      'select id, line from entry where run_id = $1 and used and not taken_back and copied_from is null and not by_joining order by at_ms, seq',
      [sitting],
    )
  ).rows;
}

/** Titles as joining wrote them, or as they were corrected there. */
export async function readJoinedTitles(
  db: Queryable,
  sitting: string,
): Promise<Extract<EntryLine, { type: 'title' }>[]> {
  return (
    await db.query<{ line: Extract<EntryLine, { type: 'title' }> }>(
      "select line from entry where run_id = $1 and type = 'title' and by_joining order by at_ms, seq",
      [sitting],
    )
  ).rows.map(({ line }) => line);
}

/** Lines of a run that were changed at the sitting. @returns them as they stand there, under the ids that they have at the run */
export async function readCorrected(
  db: Queryable,
  { from, to, afterMs }: { from: string; to: string; afterMs: number },
): Promise<SittingLine[]> {
  return (
    await db.query<SittingLine>(
      `select o.id, e.line from entry e join entry o on o.run_id = $1 and o.id = e.copied_from where e.run_id = $2 and e.line <> (${later('o', '$3')}) order by e.at_ms, e.seq`,
      [from, to, afterMs],
    )
  ).rows;
}

/** Takes lines out of a run that were taken out of the sitting. */
export async function takeOutMissing(
  db: Queryable,
  { from, to, afterMs, withEnd }: { from: string; to: string; afterMs: number; withEnd: boolean },
): Promise<void> {
  await db.query(
    `delete from entry o where o.run_id = $1 and ${joined('$4')}
       and not exists (select 1 from entry e where e.run_id = $2 and (e.copied_from = o.id or e.line = (${later('o', '$3')})))`,
    [from, to, afterMs, withEnd],
  );
}

/** Takes lines out of a run, by their ids. */
export async function takeOut(db: Queryable, runId: string, ids: string[]): Promise<void> {
  await db.query('delete from entry where run_id = $1 and id = any($2)', [runId, ids]);
}

/** Writes lines to a run behind those that it has. @returns their ids */
export async function giveBack(db: Queryable, runId: string, lines: EntryLine[]): Promise<string[]> {
  const ids: string[] = [];
  for (const line of lines) {
    const { rows } = await db.query<{ id: string }>(
      `insert into entry (run_id, seq, type, at_ms, line, source)
       values ($1, (select coalesce(max(seq), -1) + 1 from entry where run_id = $1), $2, $3, $4, 'hand') returning id`,
      [runId, line.type, line.type === 'span' ? line.fromMs : (line.atMs ?? 0), JSON.stringify(line)],
    );
    ids.push(rows[0]!.id);
  }
  return ids;
}

/** Gives pictures of a sitting's line to the line that it is now; null: to the run alone. */
export async function givePictures(
  db: Queryable,
  { from, entry }: { from: string; entry: string | null },
  { to, line }: { to: string; line: string | null },
): Promise<void> {
  await db.query(
    'update picture set run_id = $3, entry_id = $4 where run_id = $1 and entry_id is not distinct from $2',
    [from, entry, to, line],
  );
}

/** Gives pictures of lines that were joined to the lines that they are from. */
export async function givePicturesOfCopied(
  db: Queryable,
  { from, to }: { from: string; to: string },
): Promise<void> {
  await db.query(
    `update picture set run_id = $2, entry_id = e.copied_from
     from entry e where picture.run_id = $1 and e.run_id = $1 and e.id = picture.entry_id
       and exists (select 1 from entry o where o.run_id = $2 and o.id = e.copied_from)`,
    [from, to],
  );
}

/** How a run ended, by its line. */
export async function readEnd(
  db: Queryable,
  runId: string,
): Promise<Extract<EntryLine, { type: 'end' }> | null> {
  const found = await db.query<{ line: Extract<EntryLine, { type: 'end' }> }>(
    "select line from entry where run_id = $1 and type = 'end' and used and not taken_back order by seq desc limit 1",
    [runId],
  );
  return found.rows[0]?.line ?? null;
}

/** Puts runs away, with their stretches, as parts of what they were joined into. @param lengths of each run, ms */
export async function putAway(
  db: Queryable,
  lengths: ReadonlyMap<string, number>,
  joinedInto: string,
): Promise<void> {
  await db.query(
    'update run set deleted_at = now(), joined_into = $2 where (id = any($1) or sitting_id = any($1)) and deleted_at is null',
    [[...lengths.keys()], joinedInto],
  );
  for (const [id, lengthMs] of lengths)
    await db.query('update run set joined_ms = $2 where id = $1', [id, lengthMs]);
}

/** The runs that a sitting was joined from, without their stretches, and how long each was. */
export async function readJoined(
  db: Queryable,
  sitting: string,
): Promise<{ id: string; lengthMs: number | null }[]> {
  return (
    await db.query<{ id: string; lengthMs: number | null }>(
      'select id, joined_ms as "lengthMs" from run where joined_into = $1 and sitting_id is null order by started_at, id',
      [sitting],
    )
  ).rows;
}

/** Brings back the runs that were joined into one, and notes of it that they are there on their own. */
export async function bringBack(db: Queryable, sitting: string): Promise<void> {
  await db.query('update run set deleted_at = null, joined_into = null where joined_into = $1', [sitting]);
  await db.query('update run set taken_apart = true where id = $1', [sitting]);
}

/** How a run that may be brought back stands to sittings. */
export interface Standing {
  takenApart: boolean;
  /** The sitting that it was joined into, if it is there or may be brought back. */
  joinedInto: { id: string; name: string; deleted: boolean } | null;
  /** The sitting that it is or was a stretch of. */
  sitting: { id: string; name: string } | null;
}

export async function readStanding(db: Queryable, id: string): Promise<Standing | null> {
  const { rows } = await db.query<Standing>(
    `select run.taken_apart as "takenApart",
       case when whole.id is not null then jsonb_build_object('id', whole.id, 'name', whole.name, 'deleted', whole.deleted_at is not null) end as "joinedInto",
       case when sitting.id is not null then jsonb_build_object('id', sitting.id, 'name', sitting.name) end as sitting
     from run left join run whole on whole.id = run.joined_into left join run sitting on sitting.id = run.sitting_id where run.id = $1`,
    [id],
  );
  return rows[0] ?? null;
}
