import { Piscina } from 'piscina';
import type { KeptAnalysis } from '../sql/analyses';
import type { AnalyseTask, JoinResult, JoinTask, ReadAnswer, ReadTask, SecondsTask } from '../workers/tasks';
import { Problem } from './problem';

/** A file that is read, or a run that is analysed, for longer than this is given up; as much again for each before it. */
const READ_WITHIN_MS = 120_000;
const ANALYSE_WITHIN_MS = 120_000;
/** Files that wait to be read at most; each lies on the disk meanwhile. */
const MOST_WAITING = 8;
/** Objects in a thread's memory; the arrays of frames are counted by the limits of the readers. */
const THREAD_MB = 320;

/**
 * Worker threads for all that is heavy; the server's own thread only passes
 * things on. Files that arrive have one thread, runs that are stored another:
 * a correction, or the end of a recorded run, never waits behind an import.
 */
export class AnalysisPool {
  private readonly reading: Piscina;
  private readonly figures: Piscina;

  constructor(workerFile: string) {
    // begun with its first task, it stays; where it is stopped in the middle of a file, another takes its place
    const thread = {
      filename: workerFile,
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: Infinity,
      resourceLimits: { maxOldGenerationSizeMb: THREAD_MB },
    };
    this.reading = new Piscina({ ...thread, maxQueue: MOST_WAITING });
    this.figures = new Piscina(thread);
  }

  /** @param signal aborted when nobody waits for the answer any more */
  async read(task: ReadTask, signal: AbortSignal): Promise<ReadAnswer> {
    const withinMs = READ_WITHIN_MS * (1 + ahead(this.reading));
    const late = AbortSignal.timeout(withinMs);
    try {
      return (await this.reading.run(task, { signal: AbortSignal.any([signal, late]) })) as ReadAnswer;
    } catch (error) {
      if (late.aborted && !signal.aborted)
        throw new Problem(422, {
          code: 'too-slow',
          message: `Reading the file took longer than ${withinMs / 1000} s.`,
          remedy: 'Nothing was stored. Try again when the server is less busy, or split the file.',
        });
      if (isOutOfMemory(error))
        throw new Problem(422, {
          code: 'too-much',
          message: 'The file needs more memory than the server has.',
          remedy: 'Nothing was stored. Split the file and import the parts.',
        });
      if (error instanceof Error && error.message === 'Task queue is at limit')
        throw new Problem(429, {
          code: 'busy',
          message: `${MOST_WAITING} files are already waiting.`,
          remedy: 'Nothing was stored. Send it again in a minute.',
        });
      throw error;
    }
  }

  analyse(task: AnalyseTask): Promise<KeptAnalysis> {
    return this.inTime(task) as Promise<KeptAnalysis>;
  }

  /** Pace of each second, NaN where one is void. */
  seconds(task: SecondsTask): Promise<Float64Array> {
    return this.inTime(task) as Promise<Float64Array>;
  }

  join(task: JoinTask): Promise<JoinResult> {
    return this.inTime(task) as Promise<JoinResult>;
  }

  private async inTime(task: AnalyseTask | JoinTask | SecondsTask): Promise<unknown> {
    const withinMs = ANALYSE_WITHIN_MS * (1 + ahead(this.figures));
    const late = AbortSignal.timeout(withinMs);
    try {
      return await this.figures.run(task, { signal: late });
    } catch (error) {
      if (!late.aborted && !isOutOfMemory(error)) throw error;
      throw new Problem(500, {
        code: 'no-figures',
        message: `The run is stored, but its figures could not be calculated (${late.aborted ? `not within ${withinMs / 1000} s` : 'not enough memory'}).`,
        remedy: 'Exclude parts that do not belong to the run, or split its file and import the parts.',
      });
    }
  }

  async close(): Promise<void> {
    await Promise.all([this.reading.destroy(), this.figures.destroy()]);
  }
}

/** Tasks that are done before one that comes now. */
const ahead = (pool: Piscina): number => pool.queueSize + pool.threads.length - pool.idleThreads;

const isOutOfMemory = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';
