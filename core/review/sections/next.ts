import type { SectionOf } from '../blocks';

/** What comes next: words alone. */
export const NEXT: SectionOf = { kind: 'next', title: 'What comes next', blocks: () => [] };
