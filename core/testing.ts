import { analyse } from './figures/analyse';
import type { Figures, RunFacts } from './figures/model';
import type { EntryLine } from './runFile/lines';
import { factsOf, runInput } from './runFile/runInput';
import type { Gap } from './frames/track';

/** Helpers for the tests of core alone. */

/** Frame times at a steady pace for so many seconds. */
export const at = (fps: number, seconds: number): number[] =>
  Array<number>(Math.round(fps * seconds)).fill(Math.round(1e6 / fps));

export interface Case {
  frames?: number[];
  gaps?: Gap[];
  entries?: EntryLine[];
  facts?: Partial<RunFacts>;
  dropped?: number;
  cutOff?: boolean;
}

/** Figures of a run that is written down in a test. */
export function figuresOf({
  frames = [],
  gaps = [],
  entries = [],
  facts = {},
  dropped = 0,
  cutOff = false,
}: Case): Figures {
  return analyse(
    runInput(
      { frameUs: Int32Array.from(frames), gaps },
      { dropped, cutOff, entries },
      { ...factsOf(null), ...facts },
    ),
  ).figures;
}
