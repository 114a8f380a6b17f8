import { v5 as uuidOf } from 'uuid';
import type { RecordingRow } from '../sql/recordings';
import { serverNow } from './serverClock';

/** Timers hold no more, ms; a later end is looked at again. */
const LONGEST_MS = 2 ** 31 - 1;

/** The line with which a run ends by itself: the same, whoever makes it. */
export const plannedEndId = (runId: string): string => uuidOf('planned-end', runId);

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
      console.error(`A run could not be ended as planned: ${String(error)}`),
    );
  }

  close(): void {
    for (const timer of this.timers.values()) clearTimeout(timer);
  }
}

/** Where a run that goes on ends by itself, ms on its clock; null where it does not. */
export const plannedEndMs = ({ status, plan: { minutes, endsItself } }: RecordingRow): number | null =>
  status === 'running' && endsItself && minutes !== null ? minutes * 60_000 : null;
