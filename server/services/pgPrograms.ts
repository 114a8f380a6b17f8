import { spawn } from 'node:child_process';
import { access, readdir } from 'node:fs/promises';
import { delimiter, join } from 'node:path';
import { createInterface } from 'node:readline';
import { Problem } from './problem';

/** Where Debian keeps PostgreSQL's programs, by version. */
const DEBIAN = '/usr/lib/postgresql';

/** One of PostgreSQL's own programs: the newest of Debian's, or one on the path. @throws Problem 501 where there is none */
export async function findProgram(name: 'pg_dump' | 'pg_restore'): Promise<string> {
  const versions = (await readdir(DEBIAN).catch(() => [])).sort((a, b) => Number(b) - Number(a));
  const places = [
    ...versions.map((version) => join(DEBIAN, version, 'bin')),
    ...(process.env['PATH'] ?? '').split(delimiter).filter(Boolean),
  ];
  for (const place of places) {
    const file = join(place, name);
    if (
      await access(file).then(
        () => true,
        () => false,
      )
    )
      return file;
  }
  throw new Problem(501, {
    code: 'no-program',
    message: `PostgreSQL’s ${name} is not installed on this machine.`,
    remedy: 'Install the Debian package postgresql-client in the version of the database or later.',
  });
}

/** Lines of a failure that are told. */
const MOST_LINES = 6;

/**
 * Runs one of them on a database to its end. The password goes by the
 * environment: anybody may read a process's arguments.
 *
 * @param onLine each line that it says of its progress
 * @throws Problem 500 with its own words where it fails; AbortError
 */
export async function runProgram(
  name: 'pg_dump' | 'pg_restore',
  url: string,
  args: string[],
  { onLine = () => undefined, signal }: { onLine?: (line: string) => void; signal?: AbortSignal } = {},
): Promise<void> {
  const { hostname, port, username, password, pathname, searchParams } = new URL(url);
  const plainHost = decodeURIComponent(hostname).replace(/^\[|\]$/g, '');
  const child = spawn(await findProgram(name), args, {
    signal,
    env: {
      ...process.env,
      PGHOST: plainHost || searchParams.get('host') || '',
      PGPORT: port || '5432',
      PGUSER: decodeURIComponent(username),
      PGPASSWORD: decodeURIComponent(password),
      PGDATABASE: decodeURIComponent(pathname.slice(1)),
      ...(searchParams.get('sslmode') ? { PGSSLMODE: searchParams.get('sslmode')! } : {}),
      LC_ALL: 'C.UTF-8',
    },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  const last: string[] = [];
  createInterface({ input: child.stderr }).on('line', (line) => {
    onLine(line);
    if (/error|fatal|hint|detail/i.test(line)) last.push(line.replace(/^pg_\w+: /, ''));
  });
  const code = await new Promise<number | null>((resolve, reject) => {
    child.on('error', reject);
    child.on('close', resolve);
  });
  if (code !== 0)
    throw new Problem(500, {
      code: 'program-failed',
      message: `${name} failed: ${last.slice(0, MOST_LINES).join(' ') || `status ${code}`}`,
      remedy:
        'Nothing was changed. See the message above; a PostgreSQL program older than the database cannot read it.',
    });
}
