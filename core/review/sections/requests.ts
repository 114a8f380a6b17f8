import { linesBlock, type SectionOf } from '../blocks';
import { sayRequest } from './notTested';

/** What viewers asked for, and whether it is answered. */
export const REQUESTS: SectionOf = {
  kind: 'requests',
  title: 'Your requests',
  blocks: ({ requests }) =>
    linesBlock(
      requests.map((one) => `${sayRequest(one)}, ${one.answered ? 'answered here' : 'not answered yet'}.`),
    ),
};
