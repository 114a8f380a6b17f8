import type { Role } from '@pace-check/contract';
import type { Queryable } from './database';

/** A passcode as it is kept: what scrypt made of it, and what it was asked to spend. */
export interface StoredPasscode {
  salt: Buffer;
  hash: Buffer;
  n: number;
  r: number;
  p: number;
}

export interface SessionRow {
  id: string;
  role: Role;
  name: string;
  madeAt: Date;
  usedAt: Date;
}

const SESSION = 'id, role, name, made_at as "madeAt", used_at as "usedAt"';

export async function readPasscode(db: Queryable): Promise<StoredPasscode | null> {
  const { rows } = await db.query<StoredPasscode>('select salt, hash, n, r, p from passcode');
  return rows[0] ?? null;
}

export async function writePasscode(db: Queryable, { salt, hash, n, r, p }: StoredPasscode): Promise<void> {
  await db.query(
    `insert into passcode (salt, hash, n, r, p) values ($1, $2, $3, $4, $5)
     on conflict (one) do update set (salt, hash, n, r, p, set_at) = ($1, $2, $3, $4, $5, now())`,
    [salt, hash, n, r, p],
  );
}

export async function insertSession(
  db: Queryable,
  session: { id: string; tokenHash: Buffer; role: Role; name: string },
): Promise<void> {
  await db.query('insert into session (id, token_hash, role, name) values ($1, $2, $3, $4)', [
    session.id,
    session.tokenHash,
    session.role,
    session.name,
  ]);
}

/**
 * Who has this token, and that it was used now (to the minute: a page asks
 * many times).
 *
 * @param idleDays a session that was not used for so long is none any more
 */
export async function useSession(
  db: Queryable,
  tokenHash: Buffer,
  idleDays: number,
): Promise<SessionRow | null> {
  const { rows } = await db.query<SessionRow & { stale: boolean }>({
    name: 'use-session',
    text: `select ${SESSION}, used_at < now() - interval '1 minute' as stale from session
           where token_hash = $1 and used_at > now() - make_interval(days => $2)`,
    values: [tokenHash, idleDays],
  });
  const [row] = rows;
  if (row?.stale) await db.query('update session set used_at = now() where id = $1', [row.id]);
  return row ?? null;
}

/** Whether a session is still one: its streams end where it is not. */
export async function hasSession(db: Queryable, id: string): Promise<boolean> {
  return ((await db.query('select 1 from session where id = $1', [id])).rowCount ?? 0) > 0;
}

/** Those that are sessions, the last used first. */
export async function readSessions(db: Queryable, idleDays: number): Promise<SessionRow[]> {
  const { rows } = await db.query<SessionRow>(
    `select ${SESSION} from session where used_at > now() - make_interval(days => $1)
     order by used_at desc, made_at desc, id`,
    [idleDays],
  );
  return rows;
}

export async function deleteSession(db: Queryable, id: string): Promise<boolean> {
  return ((await db.query('delete from session where id = $1', [id])).rowCount ?? 0) > 0;
}

/** Ends all of them, and what would let more in. */
export async function deleteAllSessions(db: Queryable): Promise<void> {
  await db.query('delete from session');
  await db.query('delete from join_code');
}

/** @returns false where another that is open has these digits */
export async function insertJoinCode(
  db: Queryable,
  code: { codeHash: Buffer; tokenHash: Buffer; role: Role; name: string; until: Date },
): Promise<boolean> {
  await db.query('delete from join_code where until <= now()');
  const { rowCount } = await db.query(
    `insert into join_code (code_hash, token_hash, role, name, until) values ($1, $2, $3, $4, $5)
     on conflict do nothing`,
    [code.codeHash, code.tokenHash, code.role, code.name, code.until],
  );
  return (rowCount ?? 0) > 0;
}

/** Uses a code up: of two who bring it at once one gets it. */
export async function takeJoinCode(
  db: Queryable,
  hash: Buffer,
): Promise<{ role: Role; name: string } | null> {
  const { rows } = await db.query<{ role: Role; name: string }>(
    `delete from join_code where (code_hash = $1 or token_hash = $1) and until > now()
     returning role, name`,
    [hash],
  );
  return rows[0] ?? null;
}

/** Remembers who added something. */
export async function noteMadeBy(db: Queryable, session: string, ids: string[]): Promise<void> {
  await db.query(
    'insert into made_by (id, session_id) select unnest($2::uuid[]), $1 on conflict (id) do nothing',
    [session, ids],
  );
}

/** Of these ids those that a session added. */
export async function idsMadeBy(db: Queryable, session: string, ids: string[]): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    'select id from made_by where session_id = $1 and id = any($2::uuid[])',
    [session, ids],
  );
  return rows.map(({ id }) => id);
}

/** Sessions that nobody has used for so long, and wrong tries that are forgiven. */
export async function purgeAccess(db: Queryable, idleDays: number): Promise<void> {
  await db.query('delete from session where used_at <= now() - make_interval(days => $1)', [idleDays]);
  await db.query('delete from made_by where not exists (select from session where session.id = session_id)');
  await db.query('delete from join_code where until <= now()');
  await db.query('delete from tries where expire < $1', [Date.now()]);
}
