import type { SectionOf } from '../blocks';
import type { VerdictState } from '../model';

const STATE_WORDS: Record<VerdictState, string> = {
  withheld: 'No verdict yet',
  provisional: 'This verdict is provisional',
  final: 'This verdict is final',
};

/** How final the verdict is; what it is stands in the words. */
export const VERDICT: SectionOf = {
  kind: 'verdict',
  title: 'Verdict',
  blocks: ({ verdict: { state, until } }) => [
    {
      is: 'lead',
      line: `${STATE_WORDS[state]}${state !== 'final' && until !== '' ? ` until ${until}` : ''}.`,
    },
  ],
};
