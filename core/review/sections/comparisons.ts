import { chartBlocks, type SectionOf } from '../blocks';
import { comparisonChart } from '../charts/comparisonChart';

/** What came of the comparisons that it holds. */
export const COMPARISONS: SectionOf = {
  kind: 'comparisons',
  title: 'Comparisons',
  blocks: ({ comparisons }, voice) =>
    comparisons.length === 0
      ? []
      : [
          { is: 'named', rows: comparisons.map(({ name, answer }) => ({ name, text: answer })) },
          ...chartBlocks(comparisons.map((one, i) => comparisonChart(one, i, voice))),
        ],
};
