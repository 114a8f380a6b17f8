import { sayTemperature } from '../../words/headline';
import type { SectionOf } from '../blocks';

/** Scores of synthetic benchmarks: kept apart, and in no rating. */
export const SYNTHETIC: SectionOf = {
  kind: 'synthetic',
  title: 'Synthetic scores, apart',
  blocks: ({ synthetic }, { unit }) =>
    synthetic.length === 0
      ? []
      : [
          {
            is: 'table',
            label: 'Synthetic scores',
            heads: ['Device', 'Tool', 'Score', 'Parts', 'Loop', 'From cold', 'Rise'],
            rows: synthetic.map((one) => [
              one.device,
              one.tool,
              one.question === null ? one.score : `${one.score} (questioned: ${one.question})`,
              one.parts.map(({ name, score }) => `${name} ${score.toLocaleString('en-GB')}`).join('; ') ||
                '–',
              one.loop ?? '–',
              one.coldC === null ? '–' : sayTemperature(one.coldC, unit),
              one.riseC === null
                ? '–'
                : `${(unit === 'F' ? one.riseC * 1.8 : one.riseC).toFixed(1)}\u00a0°${unit}`,
            ]),
            small:
              'Scores of tools, not of titles: they say how a chip does a fixed piece of work, and enter no figure, no comparison and no rating here.',
          },
        ],
};
