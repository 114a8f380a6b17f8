import { useSyncExternalStore } from 'react';
import { v4 as uuid } from 'uuid';
import { KeptRuns } from './keptRuns';
import { Outbox, type OutboxState, type Waiting } from './outbox';

/** The one outbox of this browser. */
export const outbox = new Outbox();

/** Runs as this browser last saw them. */
export const keptRuns = new KeptRuns();

if (typeof window !== 'undefined') window.addEventListener('online', () => outbox.send());

export const useOutbox = (): OutboxState =>
  useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.snapshot);

/** Of each of several, what is left without its id. */
export type WithoutId<T> = T extends unknown ? Omit<T, 'id'> : never;

/** A change with an id of its own. */
export const changeOf = <T extends { kind: string }>(change: T): T & { id: string } & Waiting['change'] => ({
  id: uuid(),
  ...change,
});

export type { Followed } from './keptRuns';
export { steadyClock } from './steadyClock';
export type { OutboxState, Waiting } from './outbox';
