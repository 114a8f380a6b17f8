import { hoursAndMinutes } from '../../words/headline';
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
    .filter((run) => run.figures.values.hoursFromFull !== null)
    .sort((a, b) => a.figures.values.hoursFromFull!.value - b.figures.values.hoursFromFull!.value);
  const [shortest] = known;
  const longest = known.at(-1);
  if (!shortest || !longest) return null;
  const say = (run: ReviewRun): string =>
    `${hoursAndMinutes(run.figures.values.hoursFromFull!.value)} in ${titleOn(run)}`;
  return shortest === longest
    ? `From full it would last about ${say(shortest)}.`
    : `From full it would last from about ${say(shortest)} to about ${say(longest)}.`;
}
