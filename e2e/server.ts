import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readdir, readFile } from 'node:fs/promises';
import { createInterface } from 'node:readline';

/** Processes that a process has started and that still run. */
export async function childrenOf(pid: number): Promise<number[]> {
  const all = (await readdir('/proc')).filter((name) => /^\d+$/.test(name));
  // one that has just ended has no file any more
  const parents = await Promise.all(
    all.map((name) =>
      readFile(`/proc/${name}/stat`, 'utf8').then(
        (stat) => Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]),
        () => null,
      ),
    ),
  );
  return all.filter((_, i) => parents[i] === pid).map(Number);
}

/** Whether a process runs; one that has ended and that nobody has asked after does not. */
export async function isAlive(pid: number): Promise<boolean> {
  const stat = await readFile(`/proc/${pid}/stat`, 'utf8').catch(() => null);
  return stat !== null && !stat.slice(stat.lastIndexOf(')') + 2).startsWith('Z');
}

/** A logger of its own process, as a reviewer's is: it goes on whatever becomes of the server. */
export class Logger {
  private readonly child: ChildProcess;

  constructor(address: string, key: string, words: string[]) {
    this.child = spawn(
      process.execPath,
      [process.env['PACE_COMMAND']!, 'simulate', ...words, '--live', address],
      { env: { ...process.env, PACE_KEY: key }, stdio: ['ignore', 'ignore', 'inherit'] },
    );
  }

  stop(): void {
    this.child.kill('SIGKILL');
  }
}

/** A server on a journey's database, which may be killed and come back. */
export class OwnServer {
  private child: ChildProcess | null = null;
  /** Port 0 is any free one; a server that comes back takes the same. */
  private port = '0';
  private readonly heard: string[] = [];
  address = '';

  constructor(readonly database: string) {}

  async start(more: Record<string, string> = {}): Promise<void> {
    const env = { ...process.env, DATABASE_URL: this.database, PORT: this.port, ...more };
    const child = spawn(process.execPath, [process.env['PACE_E2E_SERVER']!], {
      env,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.child = child;
    child.stderr.on('data', (text: Buffer) => this.heard.push(text.toString()));
    const address = await new Promise<string>((resolve, reject) => {
      child.once('exit', () =>
        reject(new Error(`The server ended before it listened. It said:\n${this.said()}`)),
      );
      createInterface({ input: child.stdout }).on('line', (line) => {
        this.heard.push(`${line}\n`);
        if (line.startsWith('listening ')) resolve(line.slice('listening '.length));
      });
    });
    // one that listens on every address is asked on this machine's own
    this.address = address.replace('0.0.0.0', '127.0.0.1');
    this.port = new URL(this.address).port;
  }

  /** All that it has said since its first start. */
  said(): string {
    return this.heard.join('');
  }

  get pid(): number {
    return this.child!.pid!;
  }

  /** As if the machine had lost its power: nothing is finished, nobody is told. */
  async kill(): Promise<void> {
    await this.end('SIGKILL');
  }

  async stop(): Promise<void> {
    await this.end('SIGTERM');
  }

  private async end(signal: NodeJS.Signals): Promise<void> {
    const child = this.child!;
    if (child.exitCode !== null || child.signalCode !== null) return;
    child.kill(signal);
    await once(child, 'exit');
  }
}
