import type { BenchEntry, Recording } from '@pace-check/contract';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { openOrNone } from './openOrNone';

/** What the server has told of a run that a screen follows. */
export interface Followed {
  recording: Recording | null;
  entries: BenchEntry[];
  /** Number of the last change that is in it; -1 before any. */
  change: number;
}

interface Store extends DBSchema {
  run: { key: string; value: Omit<Followed, 'entries'> & { keptAt: number } };
  /** By run and line: of an hour's lines only those that changed are written. */
  line: { key: [string, string]; value: BenchEntry };
}

/** A burst of changes is kept once. */
const PAUSE_MS = 1000;
/** What nobody has followed for so long is let go. */
const DAYS = 3;

/** All lines of a run: an array comes after every string. */
const linesOf = (runId: string): IDBKeyRange => IDBKeyRange.bound([runId], [runId, []]);

/**
 * Runs as this browser last saw them, so that a page that is loaded anew while
 * nobody answers can go on with its run. The server's word replaces it.
 */
export class KeptRuns {
  private readonly opening: Promise<IDBPDatabase<Store> | null>;
  private readonly due = new Map<
    string,
    { timer: ReturnType<typeof setTimeout>; told: Followed; lines: Map<string, BenchEntry> }
  >();

  constructor(
    name = 'pace-check-followed',
    private readonly pauseMs = PAUSE_MS,
  ) {
    // without a store there is nothing to go on with: the bench says so
    this.opening = openOrNone(() =>
      openDB<Store>(name, 1, {
        upgrade: (db) => {
          db.createObjectStore('run');
          db.createObjectStore('line');
        },
      }),
    );
    void this.letGo();
  }

  async read(runId: string): Promise<Followed | null> {
    const transaction = (await this.opening)?.transaction(['run', 'line']);
    const run = await transaction?.objectStore('run').get(runId);
    if (!transaction || !run) return null;
    return {
      recording: run.recording,
      entries: await transaction.objectStore('line').getAll(linesOf(runId)),
      change: run.change,
    };
  }

  /** Recordings of the runs that are kept. */
  async recordings(): Promise<Recording[]> {
    const kept = (await (await this.opening)?.getAll('run')) ?? [];
    return kept.flatMap(({ recording }) => recording ?? []);
  }

  /**
   * Keeps what the server has told, soon.
   *
   * @param told with the lines that changed
   */
  keep(runId: string, told: Followed): void {
    const waiting = this.due.get(runId) ?? {
      timer: setTimeout(() => void this.write(runId), this.pauseMs),
      told,
      lines: new Map<string, BenchEntry>(),
    };
    waiting.told = told;
    for (const entry of told.entries) waiting.lines.set(entry.id, entry);
    this.due.set(runId, waiting);
  }

  private async write(runId: string): Promise<void> {
    const waiting = this.due.get(runId);
    this.due.delete(runId);
    const transaction = (await this.opening)?.transaction(['run', 'line'], 'readwrite');
    if (!waiting || !transaction) return;
    const { recording, change } = waiting.told;
    void transaction.objectStore('run').put({ recording, change, keptAt: Date.now() }, runId);
    for (const entry of waiting.lines.values())
      void transaction.objectStore('line').put(entry, [runId, entry.id]);
    await transaction.done;
  }

  /** The server has said that it has no such run. */
  async forget(runId: string): Promise<void> {
    clearTimeout(this.due.get(runId)?.timer);
    this.due.delete(runId);
    const transaction = (await this.opening)?.transaction(['run', 'line'], 'readwrite');
    if (!transaction) return;
    void transaction.objectStore('run').delete(runId);
    void transaction.objectStore('line').delete(linesOf(runId));
    await transaction.done;
  }

  private async letGo(): Promise<void> {
    const db = await this.opening;
    const oldest = Date.now() - DAYS * 24 * 3600 * 1000;
    for (const runId of (await db?.getAllKeys('run')) ?? []) {
      if ((await db!.get('run', runId))!.keptAt < oldest) await this.forget(runId);
    }
  }
}
