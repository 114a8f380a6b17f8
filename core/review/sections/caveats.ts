import { caveatSentence } from '../../figures/caveats';
import { CAVEATS } from '../../vocabulary';
import { linesBlock, type SectionOf } from '../blocks';

/** What the numbers cannot say, the weightier first. */
export const CAVEAT_LINES: SectionOf = {
  kind: 'caveats',
  title: 'Limits of these results',
  blocks: ({ runs }) =>
    linesBlock(
      CAVEATS.map((caveat) => {
        const count = runs.filter((run) => run.caveats.includes(caveat)).length;
        return count === 0
          ? null
          : `${caveatSentence(caveat).replace(/\.$/, '')} (${count} of ${runs.length}).`;
      }),
    ),
};
