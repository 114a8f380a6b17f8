import type { KitTitle, Outcome, RunOutcome } from '@pace-check/contract';
import { latestOutcomes, sayBuild, type Demand, type RunOutcomeStatus } from '@pace-check/core';

/** How a title went: as it was noted, or as a run says. */
export type Seen = Outcome | RunOutcome;
/** Whether nobody noted it: it was run. */
export const wasRun = (one: Seen): one is RunOutcome => 'runId' in one;

/** A title with its latest outcome on each device. */
export interface MatrixRow {
  title: string;
  outcomes: Seen[];
  system: string | null;
  demand: Demand | null;
  /** What it is found by. */
  words: string;
}

/** Which titles are shown. */
export interface MatrixFilter {
  q: string;
  status: RunOutcomeStatus | null;
  system: string | null;
  demand: Demand | null;
  /** Name and version of an emulator or layer, as they are said; null for the latest of any. */
  under: string | null;
}
export const NO_MATRIX_FILTER: MatrixFilter = {
  q: '',
  status: null,
  system: null,
  demand: null,
  under: null,
};

/** Titles in their order, each with the latest outcome on each device, under one version or under any. */
export function matrixRows(
  outcomes: readonly Seen[],
  titles: readonly KitTitle[],
  under: string | null,
): MatrixRow[] {
  const known = new Map(titles.map((one) => [one.name.toLowerCase(), one.facts]));
  const byTitle = new Map<string, Seen[]>();
  const latest = latestOutcomes(
    under === null ? outcomes : outcomes.filter((one) => sayBuild(one) === under),
  );
  for (const one of latest) {
    const own = byTitle.get(one.title);
    if (own) own.push(one);
    else byTitle.set(one.title, [one]);
  }
  return [...byTitle]
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([title, own]) => {
      const facts = known.get(title.toLowerCase()) ?? {};
      return {
        title,
        outcomes: own.sort((a, b) => a.device.localeCompare(b.device)),
        system: facts.system ?? null,
        demand: facts.demand ?? null,
        words: [title, ...own.map(sayBuild), facts.system ?? ''].join(' ').toLowerCase(),
      };
    });
}

/** Rows that a filter lets through. */
export function filtered(
  rows: readonly MatrixRow[],
  { q, status, system, demand }: MatrixFilter,
): MatrixRow[] {
  const words = q.toLowerCase().split(/\s+/).filter(Boolean);
  return rows.filter(
    (row) =>
      words.every((word) => row.words.includes(word)) &&
      (status === null || row.outcomes.some((one) => one.status === status)) &&
      (system === null || row.system === system) &&
      (demand === null || row.demand === demand),
  );
}

/** What can be chosen, in its order. */
export const distinct = (values: readonly (string | null)[]): string[] =>
  [...new Set(values.filter((value): value is string => value !== null && value !== ''))].sort((a, b) =>
    a.localeCompare(b),
  );
