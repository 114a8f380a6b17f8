import type { RunSummary } from '@pace-check/contract';

/** A title that all chosen devices have, with the run of each that is taken. */
export interface SharedTitle {
  title: string;
  runs: RunSummary[];
}

/**
 * The titles that all devices have run, each with one run a device: of the
 * setup that most devices share where there is one, the latest of it; else the latest.
 *
 * @param byDevice runs of each device, in the order in which they are compared
 */
export function sharedTitles(byDevice: readonly (readonly RunSummary[])[]): SharedTitle[] {
  const usable = byDevice.map((runs) =>
    runs.filter((run) => run.recording === null && !run.isSitting && run.headline !== null).sort(latestFirst),
  );
  const [first = [], ...others] = usable;
  const titles = [...new Set(first.map((run) => run.title))].filter((title) =>
    others.every((runs) => runs.some((run) => run.title === title)),
  );
  return titles.map((title) => {
    const own = usable.map((runs) => runs.filter((run) => run.title === title));
    const setup = shared(own);
    return {
      title,
      runs: own.map((runs) => runs.find((run) => (run.setup ?? '') === setup) ?? runs[0]!),
    };
  });
}

/** The setup that most of the devices have a run with; the latest of the first device decides between equals. */
function shared(own: readonly (readonly RunSummary[])[]): string {
  const setups = [...new Set(own.flatMap((runs) => runs.map((run) => run.setup ?? '')))];
  const having = (setup: string): number =>
    own.filter((runs) => runs.some((run) => (run.setup ?? '') === setup)).length;
  return setups.reduce((best, one) => (having(one) > having(best) ? one : best), own[0]?.[0]?.setup ?? '');
}

const timeOf = ({ startedAt, importedAt }: RunSummary): string => startedAt ?? importedAt;
const latestFirst = (a: RunSummary, b: RunSummary): number => timeOf(b).localeCompare(timeOf(a));
