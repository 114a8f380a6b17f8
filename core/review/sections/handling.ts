import type { SectionOf } from '../blocks';
import { upper } from './say';

/** What it is like in the hand: each thing with what shows it. */
export const HANDLING: SectionOf = {
  kind: 'handling',
  title: 'Handling',
  blocks: ({ handling }) =>
    handling.length === 0
      ? []
      : [
          {
            is: 'named',
            rows: handling.map(({ topic, says, evidence }) => ({
              name: upper(topic),
              text: evidence === '' ? says : `${says} (${evidence})`,
            })),
          },
        ],
};
