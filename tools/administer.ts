import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { SERVER_DIST } from './paths';
import { Advice } from './processes';

/**
 * Runs one of the server's own tasks on a database, beside a server that runs
 * there or without one.
 *
 * @param input what it reads, for instance a passcode: no argument of a process is a secret
 * @throws Advice where it failed; its own words stand above
 */
export async function administer(url: string, args: string[], input = ''): Promise<void> {
  const child = spawn(
    process.execPath,
    ['--enable-source-maps', join(SERVER_DIST, 'administer.mjs'), ...args],
    {
      env: { ...process.env, DATABASE_URL: url },
      stdio: ['pipe', 'inherit', 'inherit'],
    },
  );
  // one that needs nothing may have ended before it is written
  child.stdin.on('error', () => undefined);
  child.stdin.end(input);
  const code = await new Promise<number | null>((resolve) => child.on('exit', resolve));
  if (code !== 0) throw new Advice('Nothing was changed.');
}
