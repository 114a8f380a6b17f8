import type { SectionOf } from '../blocks';

/** What viewers are asked: words alone. */
export const QUESTIONS: SectionOf = { kind: 'questions', title: 'Questions for you', blocks: () => [] };
