import { report } from './logs';
import { fork, type ChildProcess } from 'node:child_process';
import type { BenchSource, NewStandIn } from '@pace-check/contract';
import type { LiveRuns } from './liveRuns';
import { Problem } from './problem';

const NAMES = {
  handset: 'Simulated phone',
  thermometer: 'Simulated thermometer',
  meter: 'Simulated power meter',
  link: 'Simulated network',
};
/** Stand-ins that play at one time. */
const MOST_PLAYING = 8;

/** Plays stand-ins, all in one process of the command line: they speak the live protocol, as any source does, and end with the server, however it ends. */
export class StandIns {
  private stage: ChildProcess | null = null;
  /** Ids of the sources that are played. */
  private readonly playing = new Set<string>();
  /** Those whose source is being made. */
  private starting = 0;

  /** @param command file of the command line; null where it is not there */
  constructor(
    private readonly live: LiveRuns,
    private readonly command: string | null,
  ) {}

  async start(
    runId: string,
    { kind, scenario, minutes, seed, misbehave }: NewStandIn,
    address: string,
  ): Promise<BenchSource> {
    if (this.command === null)
      throw new Problem(501, {
        code: 'no-stand-ins',
        message: 'This server was started without simulated devices.',
        remedy: 'Start it with `npm start`, or connect one with `pace simulate --live`.',
      });
    if (this.playing.size + this.starting >= MOST_PLAYING)
      throw new Problem(429, {
        code: 'too-many-stand-ins',
        message: `${MOST_PLAYING} simulated devices are already running.`,
        remedy: 'Wait until one has ended, or end its run.',
      });
    // its place is taken before anything is awaited: two may ask at once
    this.starting++;
    try {
      const { key, ...source } = await this.live.addSource(runId, { name: NAMES[kind], kind, standIn: true });
      this.playing.add(source.id);
      this.onStage(this.command).send({
        id: source.id,
        key,
        address,
        kind,
        scenario,
        minutes,
        seed,
        misbehave,
      });
      return source;
    } finally {
      this.starting--;
    }
  }

  private onStage(command: string): ChildProcess {
    if (this.stage) return this.stage;
    const stage = fork(command, ['stand-ins'], { stdio: ['ignore', 'ignore', 'inherit', 'ipc'] });
    this.stage = stage;
    stage.on('message', (ended) => {
      this.playing.delete(String(ended));
      if (this.playing.size === 0 && this.stage === stage) this.close();
    });
    stage.on('error', (error) => report(`Simulated devices could not be started: ${error.message}`));
    stage.on('exit', () => {
      if (this.stage !== stage) return;
      this.stage = null;
      this.playing.clear();
    });
    return stage;
  }

  /** It ends when nobody is connected to it any more. */
  close(): void {
    const stage = this.stage;
    this.stage = null;
    this.playing.clear();
    if (stage?.connected) stage.disconnect();
  }
}
