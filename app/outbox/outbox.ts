import {
  ROUTES,
  type BenchChange,
  type ChangesTaken,
  type CoolChange,
  type DayChange,
  type RunChangeInput,
} from '@pace-check/contract';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { ApiFailure, ask } from '../api/client';
import { openOrNone } from './openOrNone';
import { steadyClock } from './steadyClock';

/** What can be done at a desk, by what it is done to. */
interface Changes {
  bench: BenchChange;
  'cool-down': CoolChange;
  card: DayChange;
  run: RunChangeInput;
}
export type To = keyof Changes;

/** Something that is done to the run (at the bench, or without a recording), cool-down or card of this id. */
export type Done<T extends To = To> = { [K in T]: { to: K; id: string; change: Changes[K] } }[T];

/** Something that was done here and is on its way. */
export type Waiting<T extends To = To> = {
  [K in T]: {
    /** Its place in the line. */
    n: number;
    to: K;
    id: string;
    change: Changes[K];
    /** Why the server does not take it; null while it is on its way. */
    refused: string | null;
  };
}[T];

/** Of what waits, what is done to one thing. */
export const waitingFor = <T extends To>(
  waiting: Waiting[],
  to: T,
  id: string,
): Extract<Waiting, { to: T }>[] =>
  waiting.filter((one): one is Extract<Waiting, { to: T }> => one.to === to && one.id === id);

interface Store extends DBSchema {
  waiting: { key: number; value: Done & { refused: string | null; n?: number } };
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

/** @param at number of the run's last change, when the server had taken these */
export type SentListener = (sent: Waiting[], at: number) => void;

/** As an earlier version of the app kept it. */
interface EarlierWaiting {
  n: number;
  path: string;
  change: Waiting['change'];
  refused: string | null;
}

const EARLIER_PATHS: Record<string, To> = { bench: 'bench', 'cool-downs': 'cool-down', cards: 'card' };

/** What an earlier version left in the browser is sent too. */
function asNow(one: Waiting | EarlierWaiting): Waiting {
  if (!('path' in one)) return one;
  const [, to, id] = one.path.split('/');
  const { n, change, refused } = one;
  return { n, to: EARLIER_PATHS[to!], id, change, refused } as Waiting;
}

/** Sends changes of one thing. */
function send(batch: Waiting[], signal: AbortSignal): Promise<ChangesTaken> {
  const { to, id } = batch[0]!;
  const asked = { params: { id }, body: { changes: batch.map(({ change }) => change) as never[] } };
  if (to === 'bench') return ask(ROUTES.benchChanges, asked, { signal });
  if (to === 'run') return ask(ROUTES.runChanges, asked, { signal });
  return ask(to === 'card' ? ROUTES.cardChanges : ROUTES.coolChanges, asked, { signal });
}

/**
 * What was done on this device, kept in the browser's database before it is
 * shown as kept, and sent one after the other until the server has it. Each
 * change has an id of its own, so that sending twice does no harm.
 */
export class Outbox {
  private state: OutboxState = { waiting: [], durable: true, failing: false };
  private readonly listeners = new Set<() => void>();
  private readonly sentListeners = new Set<SentListener>();
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
    this.change({ waiting: ((await db.getAll('waiting')) as (Waiting | EarlierWaiting)[]).map(asNow) });
    this.send();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): OutboxState => this.state;

  /** Told of what the server has taken. */
  onSent(listener: SentListener): () => void {
    this.sentListeners.add(listener);
    return () => this.sentListeners.delete(listener);
  }

  private change(change: Partial<OutboxState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  /** Keeps changes, in their order; done when they are in the browser's database. */
  async add(...done: Done[]): Promise<void> {
    const db = await this.opening;
    const items = done.map((one) => ({ ...one, refused: null }));
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
    const end = open.findIndex(({ to, id }) => to !== open[0]!.to || id !== open[0]!.id);
    // where the server fails at something, it is found out at what; a picture is as much as a request holds
    const single =
      this.failures > 0 || open.slice(0, MOST_AT_ONCE).some(({ change }) => change.kind === 'picture');
    return open.slice(0, Math.min(single ? 1 : MOST_AT_ONCE, end < 0 ? open.length : end));
  }

  private async sendBatch(batch: Waiting[]): Promise<void> {
    let refused = new Map<string, string>();
    let taken: ChangesTaken | null = null;
    const late = new AbortController();
    const timer = setTimeout(() => late.abort(), ANSWER_WITHIN_MS);
    try {
      taken = await send(batch, late.signal);
      steadyClock.heard(taken.now);
      refused = new Map(taken.refused.map(({ id, reason }) => [id, reason]));
    } catch (error) {
      // a refusal of all of it; anything else may do well the next time
      if (!(error instanceof ApiFailure) || this.mayDoBetter(error)) throw error;
      refused = new Map(batch.map((one) => [one.change.id, `${error.message} ${error.problem.remedy}`]));
    } finally {
      clearTimeout(timer);
    }
    await this.settle(batch, refused, taken?.change ?? 0);
  }

  /** Whether the same may do well the next time. */
  private mayDoBetter({ offline, status }: ApiFailure): boolean {
    if (status === 500) return ++this.failures <= MOST_FAILURES;
    // 401: who was put out may be let in again, and what was noted goes then
    return offline || status > 500 || status === 429 || status === 401;
  }

  private async settle(batch: Waiting[], refused: Map<string, string>, at: number): Promise<void> {
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
    for (const listener of this.sentListeners) listener(sent, at);
    this.change({
      waiting: this.state.waiting
        .filter((one) => !gone.has(one.n))
        .map((one) => stay.find((other) => other.n === one.n) ?? one),
    });
  }
}
