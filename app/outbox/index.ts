import type { BenchChange, CoolChange, DayChange, RunChangeInput } from '@pace-check/contract';
import { useSyncExternalStore } from 'react';
import { v4 as uuid } from 'uuid';
import { KeptRuns } from './keptRuns';
import { Outbox, type Done, type OutboxState } from './outbox';

/** The one outbox of this browser. */
export const outbox = new Outbox();

/** Runs as this browser last saw them. */
export const keptRuns = new KeptRuns();

if (typeof window !== 'undefined') window.addEventListener('online', () => outbox.send());

export const useOutbox = (): OutboxState =>
  useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.snapshot);

/** Of each of several, what is left without its id; one may bring an id of its own, so that it is done once whoever does it. */
export type WithoutId<T> = T extends unknown ? Omit<T, 'id'> & { id?: string } : never;

const named = <T extends object>(change: T): T & { id: string } => ({ id: uuid(), ...change });

/** Something done to a run at the bench. */
export const toBench = (id: string, change: WithoutId<BenchChange>): Done => ({
  to: 'bench',
  id,
  change: named(change),
});
/** Something done to a cool-down that is watched. */
export const toCoolDown = (id: string, change: WithoutId<CoolChange>): Done => ({
  to: 'cool-down',
  id,
  change: named(change),
});
/** Something done to the day of a card. */
export const toCard = (id: string, change: WithoutId<DayChange>): Done => ({
  to: 'card',
  id,
  change: named(change),
});

/** Something done to a run without a recording: made, or shown by a picture. */
export const toRun = (id: string, change: WithoutId<RunChangeInput>): Done => ({
  to: 'run',
  id,
  change: named(change),
});

export type { Followed } from './keptRuns';
export { steadyClock } from './steadyClock';
export { useNow } from './useNow';
export { waitingFor, type Done, type OutboxState, type Waiting } from './outbox';
