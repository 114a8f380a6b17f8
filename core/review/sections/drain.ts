import { sayHours } from '../../words/headline';
import { hoursKnown } from '../../compare/comparable';
import { chartBlocks, linesBlock, type SectionOf } from '../blocks';
import { drainChart } from '../charts/drainChart';
import type { ReviewRun } from '../model';
import { titleOn } from './say';

/** How long it lasts. */
export const DRAIN: SectionOf = {
  kind: 'drain',
  title: 'Drain',
  blocks: ({ runs }, voice) => [...linesBlock([lastsLine(runs)]), ...chartBlocks([drainChart(runs, voice)])],
};

function lastsLine(runs: readonly ReviewRun[]): string | null {
  const known = runs
    .filter((run) => run.figures.values.hoursFromFull !== null && hoursKnown(run.figures) !== null)
    .sort((a, b) => a.figures.values.hoursFromFull!.value - b.figures.values.hoursFromFull!.value);
  const [shortest] = known;
  const longest = known.at(-1);
  if (!shortest || !longest) return null;
  const say = (run: ReviewRun): string => `${sayHours(hoursKnown(run.figures)!)} in ${titleOn(run)}`;
  return shortest === longest
    ? `A full battery would last ${say(shortest)}.`
    : `A full battery would last ${say(shortest)}, and ${say(longest)}.`;
}
