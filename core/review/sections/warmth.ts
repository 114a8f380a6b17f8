import { sayTemperature, type Voice } from '../../words/headline';
import { chartBlocks, linesBlock, type SectionOf } from '../blocks';
import { warmthChart } from '../charts/warmthChart';
import type { ReviewRun } from '../model';
import { titleOn } from './say';

/** How warm it got, and where. */
export const WARMTH: SectionOf = {
  kind: 'warmth',
  title: 'Warmth',
  blocks: ({ runs, devices }, voice) => [
    ...linesBlock([hottestLine(runs, voice)]),
    ...chartBlocks([warmthChart(runs, devices, voice)]),
  ],
};

function hottestLine(runs: readonly ReviewRun[], { unit }: Voice): string | null {
  const [hottest] = runs
    .filter((run) => run.figures.peakC !== null)
    .sort((a, b) => b.figures.peakC! - a.figures.peakC!);
  if (!hottest) return null;
  const { peakC, peakAbout, spots } = hottest.figures;
  const spot = spots.find((one) => one.peakC === peakC);
  const room =
    hottest.stated.roomC === null
      ? 'a room of unknown temperature'
      : `a room at ${sayTemperature(hottest.stated.roomC, unit)}`;
  return `The highest reading is ${peakAbout ? 'about ' : ''}${sayTemperature(peakC!, unit)}${spot ? ` at ${spot.spot} (${spot.by})` : ''}, in ${titleOn(hottest)}, in ${room}.`;
}
