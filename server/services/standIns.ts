import { spawn, type ChildProcess } from 'node:child_process';
import type { BenchSource, NewStandIn } from '@pace-check/contract';
import type { LiveRuns } from './liveRuns';
import { Problem } from './problem';

const NAMES = { handset: 'Stand-in handset', thermometer: 'Stand-in thermometer', meter: 'Stand-in power meter', link: 'Stand-in link' };

/** Starts stand-ins as processes of their own: they speak the live protocol, as any source does. */
export class StandIns {
  private readonly running = new Set<ChildProcess>();

  /** @param command file of the command line; null where it is not there */
  constructor(
    private readonly live: LiveRuns,
    private readonly command: string | null,
  ) {}

  async start(runId: string, { kind, scenario, minutes, seed, misbehave }: NewStandIn, address: string): Promise<BenchSource> {
    if (this.command === null) throw new Problem(501, { code: 'no-stand-ins', message: 'This server was started without stand-ins.', remedy: 'Start it with `npm start`, or connect one with `pace simulate --live`.' });
    const { key, ...source } = await this.live.addSource(runId, NAMES[kind], kind, true);
    const words = ['simulate', scenario, '--live', address, '--as', kind, '--seed', String(seed), ...(minutes === null ? [] : ['--minutes', String(minutes)]), ...misbehave.flatMap((one) => ['--misbehave', one])];
    // of a group of its own: where the server is killed, it goes on like a real logger
    const child = spawn(process.execPath, [this.command, ...words], { env: { ...process.env, PACE_KEY: key }, stdio: ['ignore', 'ignore', 'inherit'], detached: true });
    this.running.add(child);
    child.on('error', (error) => console.error(`A stand-in could not be started: ${error.message}`));
    child.on('exit', () => this.running.delete(child));
    child.unref();
    return source;
  }

  close(): void {
    for (const child of this.running) child.kill();
  }
}
