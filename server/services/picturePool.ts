import { Piscina } from 'piscina';
import type { DrawTask, FontsTask } from '../workers/tasks';

/** Threads that draw: one for each core of a small machine. */
const THREADS = 2;
/** A thread that has nothing to draw for so long ends, ms: most of the time nobody draws. */
const IDLE_MS = 15_000;

/** Worker threads that draw what goes out; the server's own thread only passes pictures on. */
export class PicturePool {
  private readonly threads: Piscina;
  private fonts: Promise<string> | null = null;

  constructor(workerFile: string) {
    this.threads = new Piscina({
      filename: workerFile,
      minThreads: 0,
      maxThreads: THREADS,
      idleTimeout: IDLE_MS,
    });
  }

  /** @param on the larger picture that it lies in; null for none */
  async png(svg: string, on: DrawTask['on']): Promise<Uint8Array> {
    const task: DrawTask = { kind: 'draw', svg, on };
    return (await this.threads.run(task)) as Uint8Array;
  }

  /** The fonts of pictures, inside a style sheet. */
  fontSheet(): Promise<string> {
    const task: FontsTask = { kind: 'fonts' };
    this.fonts ??= (this.threads.run(task) as Promise<string>).catch((error: unknown) => {
      this.fonts = null;
      throw error;
    });
    return this.fonts;
  }

  async close(): Promise<void> {
    await this.threads.destroy();
  }
}
