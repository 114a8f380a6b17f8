import { createHash, randomBytes, randomInt, randomUUID } from 'node:crypto';
import type { JoinCode, NewJoinCode, Role, SessionSummary } from '@pace-check/contract';
import type pg from 'pg';
import {
  deleteAllSessions,
  deleteSession,
  hasSession,
  insertJoinCode,
  insertSession,
  readPasscode,
  readSessions,
  takeJoinCode,
  useSession,
  writePasscode,
  type SessionRow,
} from '../sql/access';
import { inTransaction } from '../sql/database';
import { hashPasscode, isPasscode } from './passcode';
import { notFound, Problem } from './problem';
import { Tries } from './tries';

/** A session that nobody uses ends after so long. */
export const IDLE_DAYS = 30;
/** A code that joins lives so long. */
const JOIN_WITHIN_MS = 2 * 60_000;
const TOKEN_BYTES = 32;
const CODE_DIGITS = 6;
/** Six digits that another open code has are drawn anew. */
const MOST_DRAWS = 20;

const hashOf = (secret: string): Buffer => createHash('sha256').update(secret).digest();

/** Who may come in, and who is in. */
export class Access {
  private readonly tries: Tries;

  constructor(private readonly pool: pg.Pool) {
    this.tries = new Tries(pool);
  }

  async hasPasscode(): Promise<boolean> {
    return (await readPasscode(this.pool)) !== null;
  }

  /** Sets the passcode; who came in by the one before is put out. @throws Problem 422 for a weak one */
  async setPasscode(passcode: string): Promise<void> {
    const stored = await hashPasscode(passcode);
    await inTransaction(this.pool, async (db) => {
      await writePasscode(db, stored);
      await deleteAllSessions(db);
    });
  }

  /**
   * Lets in, as reviewer, who knows the passcode.
   *
   * @returns what the browser keeps; null for a wrong one
   * @throws Problem 429 after too many wrong ones
   */
  enter(passcode: string, address: string, name: string): Promise<string | null> {
    return this.tries.attempt('passcode', address, async () => {
      const stored = await readPasscode(this.pool);
      const right = stored !== null && (await isPasscode(passcode, stored));
      return right ? this.begin('reviewer', name) : null;
    });
  }

  /**
   * Lets in who brings six digits or a token, once.
   *
   * @returns what the browser keeps; null where there is no such code, or no longer
   * @throws Problem 429 after too many wrong ones
   */
  join(codeOrToken: string, address: string): Promise<string | null> {
    return this.tries.attempt('join', address, async () => {
      const code = await takeJoinCode(this.pool, hashOf(codeOrToken.replace(/\s/g, '')));
      return code && this.begin(code.role, code.name);
    });
  }

  private async begin(role: Role, name: string): Promise<string> {
    const token = randomBytes(TOKEN_BYTES).toString('base64url');
    await insertSession(this.pool, { id: randomUUID(), tokenHash: hashOf(token), role, name });
    return token;
  }

  /** Whose token this is; asked at every request, so that an ended session ends everywhere at once. */
  async who(token: string): Promise<SessionRow | null> {
    return useSession(this.pool, hashOf(token), IDLE_DAYS);
  }

  /** Whether a session that follows something may go on following. */
  isIn(id: string): Promise<boolean> {
    return hasSession(this.pool, id);
  }

  /** @param own the session that asks */
  async sessions(own: string | null): Promise<SessionSummary[]> {
    return (await readSessions(this.pool, IDLE_DAYS)).map(({ id, role, name, madeAt, usedAt }) => ({
      id,
      role,
      name,
      madeAt: madeAt.toISOString(),
      usedAt: usedAt.toISOString(),
      own: id === own,
    }));
  }

  async revoke(id: string): Promise<void> {
    if (!(await deleteSession(this.pool, id))) throw notFound('session');
  }

  async invite({ role, name }: NewJoinCode): Promise<JoinCode> {
    const token = randomBytes(TOKEN_BYTES).toString('base64url');
    const until = new Date(Date.now() + JOIN_WITHIN_MS);
    for (let draw = 0; draw < MOST_DRAWS; draw++) {
      const code = String(randomInt(10 ** CODE_DIGITS)).padStart(CODE_DIGITS, '0');
      const kept = { codeHash: hashOf(code), tokenHash: hashOf(token), role, name, until };
      if (await insertJoinCode(this.pool, kept)) return { code, token, livesS: JOIN_WITHIN_MS / 1000 };
    }
    throw new Problem(503, {
      code: 'busy',
      message: 'No code is available right now.',
      remedy: 'Codes are valid for two minutes. Try again in a moment.',
    });
  }
}
