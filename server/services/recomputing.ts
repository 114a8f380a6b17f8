import { availableParallelism, hostname } from 'node:os';
import { setTimeout as sleep } from 'node:timers/promises';
import type pg from 'pg';
import PgBoss from 'pg-boss';
import { asker } from '../sql/database';
import { alone, holdSlot, type Slot } from '../sql/slots';
import { problemOf } from './faults';
import { report } from './logs';

const QUEUE = 'figures';
/** Runs that are taken from the queue at once; they are computed one after the other. */
const AT_ONCE = 10;
/** A process that died with runs in its hands: after so long others take them. */
const EXPIRE_S = 20 * 60;
/** Where nothing waits, or nothing can be done, it is looked again so often, ms. */
const AGAIN_MS = 2000;
/** Whether figures are of before is looked at so often, ms: most are found when a server starts. */
const LOOK_EVERY_MS = 10 * 60_000;

/** A process computes with one thread; as many of them as are half of the machine's processors do so at once. */
const halfOfMachine = (): number => Math.max(1, Math.floor(availableParallelism() / 2));

interface FiguresJob {
  run: string;
}

/**
 * Brings figures up to date in the background: a queue in PostgreSQL that all
 * server processes on a database share. A process that stops, or dies, leaves
 * what it has not done to the others, or to the next one.
 */
export class Recomputing {
  private readonly boss: PgBoss;
  private slot: Slot | null = null;
  private looking: NodeJS.Timeout | undefined;
  private readonly stopped = new AbortController();
  /** Null until it is begun. */
  private beginning: Promise<void> | null = null;
  private working: Promise<void> = Promise.resolve();

  /**
   * @param stale runs whose figures are not there, or of before
   * @param compute brings those of a run up to date
   */
  constructor(
    private readonly pool: pg.Pool,
    private readonly stale: () => Promise<string[]>,
    private readonly compute: (run: string) => Promise<void>,
  ) {
    this.boss = new PgBoss({
      // the database is asked as by everybody else
      db: { executeSql: asker(pool) },
      schema: 'queue',
      schedule: false,
    });
    this.boss.on('error', (error) => this.tell(error));
  }

  private tell(error: unknown): void {
    // a database that is away is told of by the requests that need it
    if (!this.stopped.signal.aborted && problemOf(error)?.status !== 503)
      report('Recalculating outdated figures failed:', error);
  }

  begin(): Promise<void> {
    this.beginning = this.untilStarted();
    return this.beginning;
  }

  /** The database may go away while it starts. */
  private async untilStarted(): Promise<void> {
    while (!this.stopped.signal.aborted) {
      try {
        return await this.start();
      } catch (error) {
        this.tell(error);
        await this.pause();
      }
    }
  }

  private async start(): Promise<void> {
    // two processes that lay its tables at once would get into each other's way
    await alone(this.pool, 'queue', async () => {
      await this.boss.start();
      // one that waits is not put there again; one that somebody computes may be: it may have changed since
      await this.boss.createQueue(QUEUE, {
        name: QUEUE,
        policy: 'short',
        retryLimit: 2,
        expireInSeconds: EXPIRE_S,
      });
    });
    if (this.stopped.signal.aborted) return;
    await this.look();
    this.looking = setInterval(
      () => void this.look().catch((error: unknown) => this.tell(error)),
      LOOK_EVERY_MS,
    );
    this.working = this.work();
  }

  /** Many runs came at once. */
  lookSoon(): void {
    // one that has not begun looks when it does
    this.beginning?.then(() => this.look()).catch((error: unknown) => this.tell(error));
  }

  private async look(): Promise<void> {
    const runs = await this.stale();
    if (runs.length > 0)
      await this.boss.insert(runs.map((run) => ({ name: QUEUE, data: { run }, singletonKey: run })));
  }

  private async work(): Promise<void> {
    while (!this.stopped.signal.aborted) {
      try {
        if (!(await this.someDone())) await this.pause();
      } catch (error) {
        this.tell(error);
        await this.pause();
      }
    }
  }

  /** Computes a few. @returns false where none waits, or others use what this machine gives */
  private async someDone(): Promise<boolean> {
    if (!this.slot?.held) this.slot = await holdSlot(this.pool, hostname(), halfOfMachine());
    if (!this.slot) return false;
    const jobs = await this.boss.fetch<FiguresJob>(QUEUE, { batchSize: AT_ONCE });
    for (const { id, data } of jobs) {
      if (this.stopped.signal.aborted) break;
      try {
        await this.compute(data.run);
      } catch (error) {
        // what is not done is done by another process
        if (this.stopped.signal.aborted) break;
        report(`The figures of run ${data.run} could not be calculated: ${String(error)}`);
      }
      // one that cannot be computed is told where it is opened; trying again would not help it
      await this.boss.complete(QUEUE, id);
    }
    if (jobs.length < AT_ONCE) await this.letGo();
    return jobs.length > 0;
  }

  /** Others of this machine may have the slot. */
  private async letGo(): Promise<void> {
    const { slot } = this;
    this.slot = null;
    await slot?.release();
  }

  private async pause(): Promise<void> {
    // it is over sooner where the server stops
    await sleep(AGAIN_MS, undefined, { signal: this.stopped.signal }).catch(() => undefined);
  }

  async close(): Promise<void> {
    this.stopped.abort();
    await this.beginning?.catch(() => undefined);
    clearInterval(this.looking);
    await this.letGo().catch(() => undefined);
    await this.boss.stop({ graceful: false, wait: false }).catch(() => undefined);
    await this.working;
  }
}
