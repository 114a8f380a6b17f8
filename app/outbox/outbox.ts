import type { ChangesTaken } from '@pace-check/contract';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { ApiFailure, api } from '../api/client';
import { openOrNone } from './openOrNone';
import { steadyClock } from './steadyClock';

/** What the server calls the list of what is sent. */
export type Field = 'changes' | 'events';

/** Something that was done here and is on its way. */
export interface Waiting {
  /** Its place in the line. */
  n: number;
  path: string;
  field: Field;
  change: { id: string; kind: string } & Record<string, unknown>;
  /** Why the server does not take it; null while it is on its way. */
  refused: string | null;
}

interface Store extends DBSchema {
  waiting: { key: number; value: Omit<Waiting, 'n'> & { n?: number } };
}

export interface OutboxState {
  waiting: Waiting[];
  /** False where the browser keeps nothing: what waits is lost when the page is closed. */
  durable: boolean;
  /** The last attempt failed; it is tried again by itself. */
  failing: boolean;
}

const MOST_AT_ONCE = 100;
const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 4000;
/** What the server fails at so often is set aside, so that it does not hold up the rest; it stays, and is told. */
const MOST_FAILURES = 6;
/** A network that is gone may leave a request hanging. */
const ANSWER_WITHIN_MS = 15_000;

/**
 * What was done on this device, kept in the browser's database before it is
 * shown as kept, and sent one after the other until the server has it. Each
 * change has an id of its own, so that sending twice does no harm.
 */
export class Outbox {
  private state: OutboxState = { waiting: [], durable: true, failing: false };
  private readonly listeners = new Set<() => void>();
  private readonly sentListeners = new Set<(sent: Waiting[]) => void>();
  private readonly opening: Promise<IDBPDatabase<Store> | null>;
  private sending: Promise<void> | null = null;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private pauseMs: number;
  private inMemory = 0;
  /** Times in a row that the server failed at the first in the line. */
  private failures = 0;

  /** @param firstPauseMs before a second attempt; each further pause is twice as long */
  constructor(
    name = 'pace-check',
    private readonly firstPauseMs = FIRST_PAUSE_MS,
  ) {
    this.pauseMs = firstPauseMs;
    this.opening = openOrNone(() =>
      openDB<Store>(name, 1, {
        upgrade: (db) => void db.createObjectStore('waiting', { keyPath: 'n', autoIncrement: true }),
      }),
    );
    void this.load();
  }

  /** What was left by an earlier page, or by another one. */
  private async load(): Promise<void> {
    const db = await this.opening;
    if (!db) return this.change({ durable: false });
    this.change({ waiting: (await db.getAll('waiting')) as Waiting[] });
    this.send();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): OutboxState => this.state;

  /** Told of what the server has taken. */
  onSent(listener: (sent: Waiting[]) => void): () => void {
    this.sentListeners.add(listener);
    return () => this.sentListeners.delete(listener);
  }

  private change(change: Partial<OutboxState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  /** Keeps changes, in their order; done when they are in the browser's database. */
  async add(path: string, field: Field, changes: Waiting['change'][]): Promise<void> {
    const db = await this.opening;
    const items = changes.map((change) => ({ path, field, change, refused: null }));
    const kept: Waiting[] = [];
    if (db) {
      const transaction = db.transaction('waiting', 'readwrite');
      for (const item of items) kept.push({ ...item, n: await transaction.store.add(item) });
      await transaction.done;
    } else for (const item of items) kept.push({ ...item, n: --this.inMemory });
    this.change({ waiting: [...this.state.waiting, ...kept] });
    this.send();
  }

  /** Takes something out of the line that was refused. */
  async drop(n: number): Promise<void> {
    await (await this.opening)?.delete('waiting', n);
    this.change({ waiting: this.state.waiting.filter((one) => one.n !== n) });
  }

  /** Sends now, for instance because the network is back. */
  send(): void {
    clearTimeout(this.retry);
    this.sending ??= this.sendAll().then((more) => {
      this.sending = null;
      // something was added just when all was sent
      if (more && this.nextBatch().length > 0) this.send();
    });
  }

  /** @returns false where it is tried again later */
  private async sendAll(): Promise<boolean> {
    for (let next = this.nextBatch(); next.length > 0; next = this.nextBatch()) {
      try {
        await this.sendBatch(next);
        this.failures = 0;
        this.pauseMs = this.firstPauseMs;
        this.change({ failing: false });
      } catch {
        // nobody answered, or not sensibly: it stays and is tried again
        this.change({ failing: true });
        this.retry = setTimeout(() => this.send(), this.pauseMs);
        this.pauseMs = Math.min(LONGEST_PAUSE_MS, this.pauseMs * 2);
        return false;
      }
    }
    return true;
  }

  /** The first in the line, with those behind it that go the same way. */
  private nextBatch(): Waiting[] {
    const open = this.state.waiting.filter((one) => one.refused === null);
    const end = open.findIndex((one) => one.path !== open[0]!.path);
    // where the server fails at something, it is found out at what
    return open.slice(0, Math.min(this.failures > 0 ? 1 : MOST_AT_ONCE, end < 0 ? open.length : end));
  }

  private async sendBatch(batch: Waiting[]): Promise<void> {
    const { path, field } = batch[0]!;
    let refused = new Map<string, string>();
    const late = new AbortController();
    const timer = setTimeout(() => late.abort(), ANSWER_WITHIN_MS);
    try {
      const taken = await api<Partial<ChangesTaken>>(path, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ [field]: batch.map((one) => one.change) }),
        signal: late.signal,
      });
      if (taken.now !== undefined) steadyClock.heard(taken.now);
      refused = new Map((taken.refused ?? []).map(({ id, reason }) => [id, reason]));
    } catch (error) {
      // a refusal of all of it; anything else may do well the next time
      if (!(error instanceof ApiFailure) || this.mayDoBetter(error)) throw error;
      refused = new Map(batch.map((one) => [one.change.id, `${error.message} ${error.problem.remedy}`]));
    } finally {
      clearTimeout(timer);
    }
    await this.settle(batch, refused);
  }

  /** Whether the same may do well the next time. */
  private mayDoBetter({ offline, status }: ApiFailure): boolean {
    if (status === 500) return ++this.failures <= MOST_FAILURES;
    // 401: the server asks for its code, which is typed on another page
    return offline || status > 500 || status === 429 || status === 401;
  }

  private async settle(batch: Waiting[], refused: Map<string, string>): Promise<void> {
    const db = await this.opening;
    const sent = batch.filter((one) => !refused.has(one.change.id));
    const stay = batch
      .filter((one) => refused.has(one.change.id))
      .map((one) => ({ ...one, refused: refused.get(one.change.id)! }));
    if (db) {
      const transaction = db.transaction('waiting', 'readwrite');
      for (const one of sent) await transaction.store.delete(one.n);
      for (const one of stay) await transaction.store.put(one);
      await transaction.done;
    }
    const gone = new Set(sent.map((one) => one.n));
    for (const listener of this.sentListeners) listener(sent);
    this.change({
      waiting: this.state.waiting
        .filter((one) => !gone.has(one.n))
        .map((one) => stay.find((other) => other.n === one.n) ?? one),
    });
  }
}
