import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import { join } from 'node:path';
import { Advice } from './processes';
import { SERVER_DIST } from './paths';

/** A running server of the project. */
export interface RunningServer {
  address: string;
  pid: number;
  stop: () => Promise<void>;
  ended: Promise<number | null>;
}

/** Starts the built server and waits until it listens. It ends with this process, however that ends: the channel between them breaks. */
export async function startServer(
  env: Record<string, string>,
  file = join(SERVER_DIST, 'main.mjs'),
): Promise<RunningServer> {
  const child = spawn(process.execPath, ['--enable-source-maps', file], {
    // pools of memory of every thread’s own would each keep what pictures took
    env: { MALLOC_ARENA_MAX: '2', ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    detached: true,
  });
  const ended = new Promise<number | null>((resolve) => child.on('exit', resolve));
  const address = await new Promise<string>((resolve, reject) => {
    void ended.then((code) =>
      reject(new Advice(`The server ended before it listened (status ${code}); its own words stand above.`)),
    );
    createInterface({ input: child.stdout! }).on('line', (line) => {
      if (line.startsWith('listening ')) resolve(line.slice('listening '.length));
      else console.log(line);
    });
  });
  return {
    address,
    pid: child.pid!,
    ended,
    stop: async () => {
      child.kill('SIGTERM');
      await ended;
    },
  };
}
