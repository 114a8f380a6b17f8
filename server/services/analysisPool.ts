import { Piscina } from 'piscina';
import type { StoredAnalysis } from '../sql/analyses';
import type { AnalyseTask, JoinResult, JoinTask, ReadAnswer, ReadTask } from '../workers/tasks';

/** Worker threads for all that is heavy; the server's own thread only passes things on. */
export class AnalysisPool {
  private readonly threads: Piscina;

  constructor(workerFile: string) {
    // a thread that has been idle for a while gives its memory back
    this.threads = new Piscina({ filename: workerFile, minThreads: 0, maxThreads: 2, idleTimeout: 15_000 });
  }

  read(task: ReadTask, signal: AbortSignal): Promise<ReadAnswer> {
    return this.threads.run(task, { signal });
  }

  analyse(task: AnalyseTask): Promise<StoredAnalysis> {
    return this.threads.run(task);
  }

  join(task: JoinTask): Promise<JoinResult> {
    return this.threads.run(task);
  }

  close(): Promise<void> {
    return this.threads.destroy();
  }
}
