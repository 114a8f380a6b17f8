import { problemOf } from './services/faults';
import { NoPasscode } from './settingsOfStart';
import { codeOf } from './sql/database';
import { ChangedMigration, NewerDatabase } from './sql/migrate';

const NOT_LISTENING = /^(EADDRINUSE|EACCES|EADDRNOTAVAIL)$/;
/** Nobody there, a wrong password, no such database, an address that is none. */
const NO_DATABASE =
  /^(ECONNREFUSED|ECONNRESET|ENOTFOUND|EAI_AGAIN|ETIMEDOUT|EHOSTUNREACH|ENETUNREACH|28\w{3}|3D000|57P0\d|08\d{3}|53300|ERR_INVALID_URL)$/;

/** Why a server, or a task beside it, cannot begin, in words; null for what nobody foresaw. */
export function reasonOf(error: unknown, url: string): string | null {
  if (error instanceof NewerDatabase || error instanceof ChangedMigration || error instanceof NoPasscode)
    return error.message;
  const says =
    error instanceof AggregateError
      ? error.errors.map(String).join('; ')
      : error instanceof Error
        ? error.message
        : String(error);
  if (NOT_LISTENING.test(codeOf(error)))
    return `The server cannot use ${process.env['HOST'] || '127.0.0.1'}, port ${process.env['PORT'] ?? '0'}: ${says}. Set another PORT=… or HOST=… .`;
  const where = url.replace(/\/\/[^@/]*@/, '//');
  if (NO_DATABASE.test(codeOf(error)) || problemOf(error)?.status === 503)
    return `The database at ${where} cannot be used: ${says}. Check DATABASE_URL, that PostgreSQL is running there, and that this user has access.`;
  return null;
}
