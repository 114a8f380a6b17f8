import { report } from './logs';
import { plannedEndMs } from '@pace-check/core';
import type { RecordingRow } from '../sql/recordings';
import { serverNow } from './serverClock';

/** Timers hold no more, ms; a later end is looked at again. */
const LONGEST_MS = 2 ** 31 - 1;

/** Runs that were asked to end by themselves, each with its timer: no screen need be open. */
export class PlannedEnds {
  private readonly timers = new Map<string, NodeJS.Timeout>();

  constructor(private readonly end: (runId: string) => Promise<void>) {}

  /** Looks at a recording that was begun, changed or ended. */
  watch(row: RecordingRow): void {
    clearTimeout(this.timers.get(row.runId));
    this.timers.delete(row.runId);
    const { startedMs, speed } = row;
    const atMs = plannedEndMs(row);
    if (atMs === null || startedMs === null) return;
    const waitMs = startedMs + atMs / speed - serverNow();
    this.timers.set(
      row.runId,
      setTimeout(
        () => (waitMs > LONGEST_MS ? this.watch(row) : this.fire(row.runId)),
        Math.min(LONGEST_MS, Math.max(0, waitMs)),
      ),
    );
  }

  private fire(runId: string): void {
    this.timers.delete(runId);
    this.end(runId).catch((error: unknown) =>
      report(`A run could not be ended as planned: ${String(error)}`),
    );
  }

  close(): void {
    for (const timer of this.timers.values()) clearTimeout(timer);
  }
}
