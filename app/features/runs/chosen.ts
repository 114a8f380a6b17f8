import type { RunSummary } from '@pace-check/contract';
import { useSyncExternalStore } from 'react';

/** A run that was chosen to be compared. */
export type ChosenRun = Pick<RunSummary, 'id' | 'device' | 'title' | 'setup' | 'startedAt'>;

/** Which runs are chosen; null while nobody is choosing. It outlives the screen, so that one may look at a run in between. */
let chosen: ChosenRun[] | null = null;
const listeners = new Set<() => void>();

function set(next: ChosenRun[] | null): void {
  chosen = next;
  for (const listener of listeners) listener();
}

export const startChoosing = (first?: ChosenRun): void => set(first ? [first] : (chosen ?? []));
export const stopChoosing = (): void => set(null);

/** Takes a run in, or out again. */
export function choose({ id, device, title, setup, startedAt }: ChosenRun): void {
  const before = chosen ?? [];
  set(
    before.some((run) => run.id === id)
      ? before.filter((run) => run.id !== id)
      : [...before, { id, device, title, setup, startedAt }],
  );
}

export const useChosen = (): ChosenRun[] | null =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => chosen,
  );
