import { chartBlocks, type SectionOf } from '../blocks';
import { lanesChart } from '../charts/lanesChart';

/** The runs that held best and worst, as lanes on one clock. */
export const LANES: SectionOf = {
  kind: 'lanes',
  title: 'Best and worst lanes',
  blocks: ({ runs }, voice) => chartBlocks([lanesChart(runs, voice)]),
};
