import type { BatchTaken, LiveStatus } from '@pace-check/contract';
import { type Mischief } from './misbehave';
import type { TimedLine } from './standIn';

export interface SenderOptions {
  /** Where the server is, without a path. */
  address: string;
  key: string;
  mischief: Mischief;
  /** Called when something is worth telling. */
  onTold?: (text: string) => void;
  /** Called with each batch that was acknowledged, and how far behind its last line that was on the run's clock. */
  onTaken?: (batch: BatchTaken, behindMs: number) => void;
}

export interface SentSummary {
  batches: number;
  lines: number;
  frames: number;
  /** Lines that were refused. */
  refused: number;
  why: 'done' | 'ended' | 'shut-out' | 'given-up';
}

/** Lines that are due go out together this often. */
const SEND_EVERY_MS = 150;
const SHORTEST_WAIT_MS = 200;
const LONGEST_WAIT_MS = 2000;
/** Without an answer for so long a source gives up. */
const GIVE_UP_MS = 15 * 60_000;
/** An answer that takes longer does not come any more. */
const ANSWER_WITHIN_MS = 30_000;
/** Lines in a batch at most. */
const BATCH_LINES = 2000;

const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Sends lines over the live protocol as they become known on the run's clock:
 * numbered batches, each kept until it is acknowledged and sent again after any
 * failure.
 */
export class LiveSender {
  private clock = { runMs: 0, at: 0, speed: 1 };
  private seq = 0;
  private readonly queue: { seq: number; text: string; lastMs: number }[] = [];
  private heardAt = performance.now();
  private readonly sent: SentSummary = { batches: 0, lines: 0, frames: 0, refused: 0, why: 'done' };

  constructor(private readonly options: SenderOptions) {}

  private get runMs(): number {
    return this.clock.runMs + (performance.now() - this.clock.at) * this.clock.speed;
  }

  async send(lines: Iterator<TimedLine>): Promise<SentSummary> {
    const status = await this.untilStarted();
    if (status === null) return this.sent;
    this.seq = status.next;
    let next = lines.next();
    while (!next.done || this.queue.length > 0) {
      const due: TimedLine[] = [];
      while (!next.done && next.value.dueMs <= this.runMs && due.length < BATCH_LINES) {
        due.push(next.value);
        next = lines.next();
      }
      if (due.length > 0) this.enqueue(due);
      if (!this.options.mischief.unreachable(this.runMs) && !(await this.flush())) return this.sent;
      if (due.length < BATCH_LINES) await wait(SEND_EVERY_MS);
    }
    return this.sent;
  }

  private enqueue(due: TimedLine[]): void {
    this.queue.push({
      seq: this.seq++,
      text: this.options.mischief.text(due),
      lastMs: due.reduce((last, { dueMs }) => Math.max(last, dueMs), 0),
    });
    this.sent.lines += due.length;
    for (const { line } of due) if (line.type === 'frames') this.sent.frames += line.us.length;
  }

  private async untilStarted(): Promise<LiveStatus | null> {
    for (;;) {
      const status = await this.ask<LiveStatus>('GET', '');
      if (status === null || status.status === 'running') return status;
      if (status.status === 'ended') return this.stop('ended');
      await wait(SHORTEST_WAIT_MS);
    }
  }

  /** Sends what waits, the first first. @returns false where there is no use in going on */
  private async flush(): Promise<boolean> {
    for (let batch = this.queue[0]; batch; batch = this.queue[0]) {
      const taken = await this.ask<BatchTaken>('POST', `?seq=${batch.seq}`, batch.text);
      if (taken === null) return false;
      if (this.options.mischief.again()) await this.ask('POST', `?seq=${batch.seq}`, batch.text);
      this.queue.shift();
      this.sent.batches++;
      this.sent.refused += taken.refused.length;
      this.options.onTaken?.(taken, this.runMs - batch.lastMs);
      if (taken.status === 'ended' && this.queue.length === 0) return this.stop('ended') !== null;
    }
    return true;
  }

  private stop(why: SentSummary['why']): null {
    this.sent.why = why;
    return null;
  }

  /** Asks until there is an answer. @returns null where the source is not wanted, or nobody answers for long */
  private async ask<T extends LiveStatus>(
    method: 'GET' | 'POST',
    query: string,
    body?: string,
  ): Promise<T | null> {
    for (let pauseMs = SHORTEST_WAIT_MS; ; pauseMs = Math.min(LONGEST_WAIT_MS, pauseMs * 2)) {
      const at = performance.now();
      const response = await fetch(`${this.options.address}/api/live${query}`, {
        method,
        body,
        headers: { authorization: `Bearer ${this.options.key}`, 'content-type': 'application/x-ndjson' },
        // a request that nobody ever answers is sent again
        signal: AbortSignal.timeout(ANSWER_WITHIN_MS),
      }).catch(() => null);
      if (response?.ok) {
        const answer = (await response.json().catch(() => null)) as T | null;
        if (answer) {
          this.heardAt = performance.now();
          // as if the answer had been made half way
          if (answer.runMs !== null && answer.status === 'running')
            this.clock = { runMs: answer.runMs, at: (at + this.heardAt) / 2, speed: answer.speed };
          return answer;
        }
      } else if (response) {
        const problem = (await response.json().catch(() => ({}))) as { message?: string };
        // 409: another one sends with this key, and each would undo the other's numbers
        if (response.status === 401 || response.status === 403 || response.status === 409) {
          this.options.onTold?.(problem.message ?? 'The key is not accepted.');
          return this.stop('shut-out');
        }
      }
      if (performance.now() - this.heardAt > GIVE_UP_MS) {
        this.options.onTold?.('Nobody answers any more.');
        return this.stop('given-up');
      }
      await wait(pauseMs);
    }
  }
}
