import * as z from 'zod';
import { name } from './names';

/** Who somebody is here, the one that may least first: each may what those before it may. */
export const ROLES = ['reader', 'bench', 'reviewer'] as const;
export type Role = (typeof ROLES)[number];

/** The least that an address asks for: a role, a source's key, or nothing. */
export type Need = Role | 'source' | 'anyone';

/**
 * Whether somebody may what asks for this; `null` is somebody who is not known.
 * A source is known by its key alone, and the address itself looks at it.
 *
 * @example
 * mayDo('bench', 'reader'); // true
 */
export const mayDo = (role: Role | null, need: Need): boolean =>
  need === 'anyone' || need === 'source' || (role !== null && ROLES.indexOf(role) >= ROLES.indexOf(need));

/** Whoever asks. */
export interface Me {
  role: Role;
  /** What the session is called; null where the server asks nobody who they are. */
  name: string | null;
  /** Whether it asks for a passcode: others than its own machine reach it. */
  closed: boolean;
}

/** Somebody who was let in, by passcode or by a code that joins. */
export interface SessionSummary {
  id: string;
  role: Role;
  name: string;
  /** ISO 8601. */
  madeAt: string;
  /** To the minute. */
  usedAt: string;
  /** The one that asks. */
  own: boolean;
}

export interface Sessions {
  closed: boolean;
  /** Where others reach the server, as far as it knows by itself; empty where only its own machine does. */
  addresses: string[];
  sessions: SessionSummary[];
}

export const newJoinCode = z.strictObject({ role: z.enum(ROLES), name });
export type NewJoinCode = z.infer<typeof newJoinCode>;

/** What lets one more in, once. */
export interface JoinCode {
  /** Six digits, to be typed at /join. */
  code: string;
  /** For an address that is not typed: /join?token=TOKEN. */
  token: string;
  /** From now on, s. */
  livesS: number;
}

/** A passcode has at least so many characters. */
export const LEAST_PASSCODE = 12;
export const MOST_PASSCODE = 200;
