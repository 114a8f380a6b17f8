import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createInterface } from 'node:readline';

/** A server of one journey's own, on the database of all, that may be killed. */
export class OwnServer {
  private child: ChildProcess | null = null;
  /** Port 0 is any free one; a server that comes back takes the same. */
  private port = '0';
  address = '';

  async start(): Promise<void> {
    const env = { ...process.env, DATABASE_URL: process.env['PACE_E2E_DATABASE'], PORT: this.port };
    this.child = spawn(process.execPath, [process.env['PACE_E2E_SERVER']!], { env, stdio: ['ignore', 'pipe', 'inherit'] });
    const lines = createInterface({ input: this.child.stdout! });
    for await (const line of lines) {
      if (!line.startsWith('listening ')) continue;
      this.address = line.slice('listening '.length);
      this.port = new URL(this.address).port;
      return;
    }
    throw new Error('The server ended before it listened.');
  }

  /** As if the machine had lost its power: nothing is finished, nobody is told. */
  async kill(): Promise<void> {
    const child = this.child!;
    child.kill('SIGKILL');
    await once(child, 'exit');
  }

  async stop(): Promise<void> {
    if (this.child?.exitCode !== null || this.child.signalCode !== null) return;
    this.child.kill('SIGTERM');
    await once(this.child, 'exit');
  }
}
