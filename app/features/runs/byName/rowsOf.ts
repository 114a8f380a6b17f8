import type { ChoiceSummary, LadderSummary, Outcomes, RunSummary } from '@pace-check/contract';
import { latestOutcomes, type CountedOutcome, type RunOutcomeStatus } from '@pace-check/core';

/** What a page is of: one device with its titles, or one title with its devices. */
export type ByName = 'device' | 'title';
export const otherOf = (of: ByName): ByName => (of === 'device' ? 'title' : 'device');

/** One title of a device, or one device of a title, with all that is known. */
export interface NameRow {
  name: string;
  /** The latest with figures first; runs that are being recorded are left out. */
  runs: RunSummary[];
  ladders: LadderSummary[];
  choices: ChoiceSummary[];
  /** The latest of each layer, of those that were entered without a run. */
  results: CountedOutcome<RunOutcomeStatus>[];
}

/** Brings together what runs, searches and results say, by the name on the other side; most runs first. */
export function rowsOf(
  of: ByName,
  name: string,
  runs: readonly RunSummary[],
  ladders: readonly LadderSummary[],
  choices: readonly ChoiceSummary[],
  outcomes: Outcomes | undefined,
): NameRow[] {
  const other = otherOf(of);
  const rows = new Map<string, NameRow>();
  const row = (of: string): NameRow => {
    const known = rows.get(of) ?? { name: of, runs: [], ladders: [], choices: [], results: [] };
    rows.set(of, known);
    return known;
  };
  for (const run of runs)
    if (run[of] === name && run.recording === null && !run.isSitting) row(run[other]).runs.push(run);
  for (const ladder of ladders) if (ladder[of] === name) row(ladder[other]).ladders.push(ladder);
  for (const choice of choices) if (choice[of] === name) row(choice[other]).choices.push(choice);
  for (const one of latestOutcomes<CountedOutcome<RunOutcomeStatus>>(outcomes?.outcomes ?? []))
    if (one[of] === name) row(one[other]).results.push(one);
  return [...rows.values()].sort((a, b) => b.runs.length - a.runs.length || a.name.localeCompare(b.name));
}

/** Best settings that were found, in words: "3× internal resolution". */
export function settingsOf({ ladders, choices }: NameRow): string[] {
  return [
    ...ladders.flatMap(({ best, axis, sure, confirmed }) =>
      best === null
        ? []
        : [`${best} ${axis}${confirmed ? ', confirmed' : `, ${Math.round(sure * 100)} % sure`}`],
    ),
    ...choices.flatMap(({ take, axis }) => (take === null ? [] : [`${axis}: ${take}`])),
  ];
}
