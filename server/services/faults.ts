import { codeOf } from '../sql/database';
import { Problem } from './problem';

/** Words of errors that have no code: a connection that broke, or none that came free in time. */
const AWAY =
  /Connection terminated|Client has encountered a connection error|timeout exceeded when trying to connect|timeout expired/;
/** Shut down, starting, refused or broken: the same request may do well in a moment. */
const AWAY_CODES = /^(57P0[123]|08\d\d\d|53300|ECONNREFUSED|ECONNRESET|EPIPE)$/;
/** A statement, a lock or a transaction that took longer than it may. */
const BUSY_CODES = /^(57014|55P03|25P03|25P04|40P01|40001)$/;
/** No room on the disk, or none in the memory, of the database or of this machine. */
const FULL_CODES = /^(53100|53200|53400|58030|ENOSPC|EDQUOT)$/;

/**
 * What a failure that is nobody's fault here means for who asked; null for one
 * that is a fault of this program.
 */
export function problemOf(error: unknown): Problem | null {
  if (error instanceof Problem) return error;
  const code = codeOf(error);
  if (FULL_CODES.test(code))
    return new Problem(507, {
      code: 'disk-full',
      message: 'The server’s disk is full.',
      remedy:
        'Nothing was stored. Free some space on the server; unsent entries are sent automatically afterwards.',
    });
  if (BUSY_CODES.test(code))
    return new Problem(503, {
      code: 'busy',
      message: 'The database is too busy.',
      remedy: 'Nothing was changed. Try again in a moment.',
    });
  if (AWAY_CODES.test(code) || (error instanceof Error && AWAY.test(error.message)))
    return new Problem(503, {
      code: 'database-away',
      message: 'The database does not answer.',
      remedy: 'Nothing was changed. Try again in a moment.',
    });
  // values that its types do not hold, and references to what is not there
  if (/^22/.test(code))
    return new Problem(400, {
      code: 'bad-request',
      message: 'A value cannot be stored: it is out of range or not valid text.',
      remedy: 'Nothing was changed. Correct it and send it again.',
    });
  if (code === '23503')
    return new Problem(409, {
      code: 'gone',
      message: 'Part of this request refers to something that no longer exists.',
      remedy: 'Nothing was changed. Reload the page and do it again.',
    });
  if (/^23/.test(code))
    return new Problem(409, {
      code: 'conflict',
      message: 'The request does not match the stored data.',
      remedy: 'Nothing was changed. Reload the page and do it again.',
    });
  return null;
}
