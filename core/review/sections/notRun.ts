import { clock } from '../../words/headline';
import { linesBlock, type SectionOf } from '../blocks';
import { titleOn } from './say';

/** What would not start, or crashed. */
export const NOT_RUN: SectionOf = {
  kind: 'not-run',
  title: 'What did not run',
  blocks: ({ runs }) =>
    linesBlock(
      runs.map((run) =>
        run.figures.ended === 'would-not-start'
          ? `${titleOn(run)} would not start.`
          : run.figures.ended === 'crash'
            ? `${titleOn(run)} crashed after ${clock(run.figures.seconds)}.`
            : null,
      ),
    ),
};
