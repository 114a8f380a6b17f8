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
  run: { key: string; value: Followed & { keptAt: number } };
}

/** A burst of changes is kept once. */
const PAUSE_MS = 1000;
/** What nobody has followed for so long is let go. */
const DAYS = 3;

/**
 * Runs as this browser last saw them, so that a page that is loaded anew while
 * nobody answers can go on with its run. The server's word replaces it.
 */
export class KeptRuns {
  private readonly opening: Promise<IDBPDatabase<Store> | null>;
  private readonly due = new Map<string, { timer: ReturnType<typeof setTimeout>; followed: Followed }>();

  constructor(
    name = 'pace-check-followed',
    private readonly pauseMs = PAUSE_MS,
  ) {
    // without a store there is nothing to go on with: the bench says so
    this.opening = openOrNone(() => openDB<Store>(name, 1, { upgrade: (db) => void db.createObjectStore('run') }));
    void this.letGo();
  }

  async read(runId: string): Promise<Followed | null> {
    const kept = await (await this.opening)?.get('run', runId);
    return kept ? { recording: kept.recording, entries: kept.entries, change: kept.change } : null;
  }

  /** Recordings of the runs that are kept. */
  async recordings(): Promise<Recording[]> {
    const kept = (await (await this.opening)?.getAll('run')) ?? [];
    return kept.flatMap(({ recording }) => recording ?? []);
  }

  /** Keeps it soon. */
  keep(runId: string, followed: Followed): void {
    const waiting = this.due.get(runId);
    if (waiting) waiting.followed = followed;
    else this.due.set(runId, { followed, timer: setTimeout(() => void this.write(runId), this.pauseMs) });
  }

  private async write(runId: string): Promise<void> {
    const waiting = this.due.get(runId);
    this.due.delete(runId);
    if (waiting) await (await this.opening)?.put('run', { ...waiting.followed, keptAt: Date.now() }, runId);
  }

  /** The server has said that it has no such run. */
  async forget(runId: string): Promise<void> {
    clearTimeout(this.due.get(runId)?.timer);
    this.due.delete(runId);
    await (await this.opening)?.delete('run', runId);
  }

  private async letGo(): Promise<void> {
    const db = await this.opening;
    if (!db) return;
    const oldest = Date.now() - DAYS * 24 * 3600 * 1000;
    for (const runId of await db.getAllKeys('run')) {
      const kept = await db.get('run', runId);
      if (kept && kept.keptAt < oldest) await db.delete('run', runId);
    }
  }
}
