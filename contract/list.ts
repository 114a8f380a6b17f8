import type { StaminaWord } from '@pace-check/core';

/** The list of runs: which of them, and in which order. Kept apart from its schema, so that the app’s first page need not carry that. */

/** How the list may be ordered: the latest, the fastest, the hottest first, or by name. */
export const RUN_ORDERS = ['latest', 'name', 'pace', 'warmth'] as const;
export type RunOrder = (typeof RUN_ORDERS)[number];

/** Runs of a page, where nobody says. */
export const RUNS_A_PAGE = 30;

export interface RunsQuery {
  /** Words that name, device, title or setup hold, all of them. */
  q: string;
  device: string | null;
  title: string | null;
  stamina: StaminaWord | null;
  sort: RunOrder;
  /** The last run of the page before. */
  after: string | null;
  limit: number;
}
/** A page’s place left aside. */
export type RunFilter = Omit<RunsQuery, 'after' | 'limit'>;
export const NO_FILTER: RunFilter = { q: '', device: null, title: null, stamina: null, sort: 'latest' };
