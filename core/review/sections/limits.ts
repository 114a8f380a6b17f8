import { sayLimits } from '../../words/limitWords';
import type { SectionOf } from '../blocks';

/** What limits each run, in a sentence; nothing of those that say nothing. */
export const LIMIT_LINES: SectionOf = {
  kind: 'limits',
  title: 'What limits performance',
  blocks: ({ limits }) => {
    const told = limits.filter(({ findings }) => findings.likely.length > 0);
    return told.length === 0
      ? []
      : [{ is: 'named', rows: told.map(({ name, findings }) => ({ name, text: sayLimits(findings) })) }];
  },
};
