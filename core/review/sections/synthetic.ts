import { sayTemperature } from '../../words/headline';
import type { SectionOf } from '../blocks';

/** Scores of synthetic benchmarks: kept apart, and in no rating. */
export const SYNTHETIC: SectionOf = {
  kind: 'synthetic',
  title: 'Synthetic scores (separate)',
  blocks: ({ synthetic }, { unit }) =>
    synthetic.length === 0
      ? []
      : [
          {
            is: 'table',
            label: 'Synthetic scores',
            heads: ['Device', 'Tool', 'Score', 'Sub-scores', 'Loop', 'From a cool start', 'Rise'],
            rows: synthetic.map((one) => [
              one.device,
              one.tool,
              one.question === null ? one.score : `${one.score} (doubtful: ${one.question})`,
              one.parts.map(({ name, score }) => `${name} ${score.toLocaleString('en-GB')}`).join('; ') ||
                '–',
              one.loop ?? '–',
              one.coldC === null ? '–' : sayTemperature(one.coldC, unit),
              one.riseC === null
                ? '–'
                : `${(unit === 'F' ? one.riseC * 1.8 : one.riseC).toFixed(1)}\u00a0°${unit}`,
            ]),
            small:
              'Scores of benchmark tools, not of titles. They do not count in any figure, comparison or rating here.',
          },
        ],
};
