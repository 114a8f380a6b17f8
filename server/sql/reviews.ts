import type { Publication, ReviewDoc } from '@pace-check/contract';
import type { WrittenReview } from '@pace-check/core';
import type { Queryable } from './database';

/** A review as it is stored. */
export interface ReviewRow {
  id: string;
  doc: ReviewDoc;
  revision: number;
  changedAt: string;
  /** Since when others may read what was published; null where they may not. */
  shownAt: string | null;
  /** Number of the last publication; null before. */
  published: number | null;
}

type Stored = Omit<ReviewRow, 'changedAt' | 'shownAt'> & { changedAt: Date; shownAt: Date | null };
const toRow = (row: Stored): ReviewRow => ({
  ...row,
  changedAt: row.changedAt.toISOString(),
  shownAt: row.shownAt?.toISOString() ?? null,
});
const SELECT = `select id, doc, revision::float8 as revision, changed_at as "changedAt", shown_at as "shownAt",
  (select max(publication.revision) from publication where review_id = review.id) as published from review where deleted_at is null`;

/** @returns false where one of that id is there */
export async function insertReview(db: Queryable, id: string, doc: ReviewDoc): Promise<boolean> {
  const result = await db.query('insert into review (id, doc) values ($1, $2) on conflict (id) do nothing', [
    id,
    JSON.stringify(doc),
  ]);
  return result.rowCount === 1;
}

export async function listReviews(db: Queryable): Promise<ReviewRow[]> {
  return (await db.query<Stored>(`${SELECT} order by changed_at desc, id limit 200`)).rows.map(toRow);
}

export async function readReview(db: Queryable, id: string): Promise<ReviewRow | null> {
  const { rows } = await db.query<Stored>(`${SELECT} and id = $1`, [id]);
  return rows[0] ? toRow(rows[0]) : null;
}

/** Changes of a review that are remembered. */
const MOST_CHANGES = 200;

/** Parts of a review that were changed since a revision, each once. */
export async function readChangedSince(db: Queryable, id: string, revision: number): Promise<string[]> {
  const { rows } = await db.query<{ part: string }>(
    `select distinct part from review, jsonb_array_elements(changes) as one, jsonb_array_elements_text(one -> 'parts') as part
     where id = $1 and (one ->> 'from')::bigint >= $2 order by part`,
    [id, revision],
  );
  return rows.map(({ part }) => part);
}

/** @param changed parts that are not what they were. @returns false where it is not of that revision any more */
export async function replaceReview(
  db: Queryable,
  id: string,
  revision: number,
  doc: ReviewDoc,
  changed: string[],
): Promise<boolean> {
  const result = await db.query(
    `update review set doc = $3, revision = revision + 1, changed_at = now(),
       changes = (case when jsonb_array_length(changes) >= ${MOST_CHANGES} then changes - 0 else changes end) || jsonb_build_array(jsonb_build_object('from', $2::bigint, 'parts', $4::jsonb))
     where id = $1 and revision = $2 and deleted_at is null`,
    [id, revision, JSON.stringify(doc), JSON.stringify(changed)],
  );
  return result.rowCount === 1;
}

export async function setReviewDeleted(db: Queryable, id: string, deleted: boolean): Promise<boolean> {
  const result = await db.query(
    `update review set deleted_at = ${deleted ? 'now()' : 'null'} where id = $1 and deleted_at is ${deleted ? '' : 'not '}null`,
    [id],
  );
  return result.rowCount === 1;
}

/** Removes for good what was deleted more than that many days ago and never published. */
export async function purgeReviews(db: Queryable, days: number): Promise<void> {
  await db.query(
    'delete from review where deleted_at < now() - make_interval(days => $1) and not exists (select from publication where review_id = review.id)',
    [days],
  );
}

/** Lets nobody else change or publish a review until the transaction ends. @returns its revision; null where it is not there */
export async function lockReview(db: Queryable, id: string): Promise<number | null> {
  const { rows } = await db.query<{ revision: number }>(
    'select revision::float8 as revision from review where id = $1 and deleted_at is null for update',
    [id],
  );
  return rows[0]?.revision ?? null;
}

/** Whether a request has published already. */
export async function wasPublishedBy(db: Queryable, id: string, requestId: string): Promise<boolean> {
  const { rowCount } = await db.query('select 1 from publication where review_id = $1 and request_id = $2', [
    id,
    requestId,
  ]);
  return (rowCount ?? 0) > 0;
}

export async function insertPublication(
  db: Queryable,
  id: string,
  revision: number,
  written: WrittenReview,
  requestId: string,
): Promise<void> {
  await db.query(
    'insert into publication (review_id, revision, written, corrections, request_id) values ($1, $2, $3, $4, $5)',
    [id, revision, JSON.stringify(written), written.corrections, requestId],
  );
}

export async function listPublications(db: Queryable, id: string): Promise<Publication[]> {
  const { rows } = await db.query<Omit<Publication, 'publishedAt'> & { publishedAt: Date }>(
    'select revision, published_at as "publishedAt", corrections from publication where review_id = $1 order by revision',
    [id],
  );
  return rows.map((row) => ({ ...row, publishedAt: row.publishedAt.toISOString() }));
}

/** A publication as it is stored: one of an earlier version lacks what came since. */
type StoredPublication = Omit<WrittenReview, NewParts> & Partial<Pick<WrittenReview, NewParts>>;
type NewParts =
  | 'devices'
  | 'handling'
  | 'requests'
  | 'refusals'
  | 'ladders'
  | 'outcomes'
  | 'claims'
  | 'versions'
  | 'video'
  | 'voice';
export const wholePublication = (stored: StoredPublication): WrittenReview => ({
  devices: [],
  handling: [],
  requests: [],
  refusals: [],
  ladders: [],
  outcomes: [],
  claims: [],
  versions: [],
  video: null,
  voice: null,
  ...stored,
  comparisons: stored.comparisons.map((one) => ({ ...one, pair: one.pair ?? null })),
});

/** The last that was published, whole; null before. */
export async function readLastPublication(db: Queryable, id: string): Promise<WrittenReview | null> {
  const { rows } = await db.query<{ written: StoredPublication }>(
    'select written from publication where review_id = $1 order by revision desc limit 1',
    [id],
  );
  return rows[0] ? wholePublication(rows[0].written) : null;
}

/** What was published of a review that others may read. @param revision null for the last one */
export async function readShown(
  db: Queryable,
  id: string,
  revision: number | null,
): Promise<WrittenReview | null> {
  const { rows } = await db.query<{ written: StoredPublication }>(
    `select written from publication join review on review.id = review_id
     where review_id = $1 and shown_at is not null and deleted_at is null and ($2::int is null or publication.revision = $2) order by publication.revision desc limit 1`,
    [id, revision],
  );
  return rows[0] ? wholePublication(rows[0].written) : null;
}

/** @returns false where there is none */
export async function setReviewShown(db: Queryable, id: string, shown: boolean): Promise<boolean> {
  const result = await db.query(
    `update review set shown_at = ${shown ? 'coalesce(shown_at, now())' : 'null'} where id = $1 and deleted_at is null`,
    [id],
  );
  return result.rowCount === 1;
}
