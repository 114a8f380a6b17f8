import { SUSTAINED_S } from '../figures/splits';
import { atLeast } from '../numbers/threshold';
import type { ReviewRun, ReviewTemplate } from './model';

/** What is still missing in a review. */
export interface ReviewGap {
  code:
    | 'no-runs'
    | 'no-heavy'
    | 'no-emulated'
    | 'no-comparison'
    | 'room'
    | 'skin'
    | 'battery'
    | 'repeats'
    | 'requests'
    | 'verdict';
  says: string;
  /** Run at which it is mended; null where it is mended elsewhere. */
  runId: string | null;
}

/** What a gap is told by, beside the runs. */
export interface ReviewRest {
  comparisons: number;
  /** Requests for its titles that no run answers. */
  openRequests: number;
  verdictGiven: boolean;
}

/**
 * What is missing in a review of this template, the weightier first.
 *
 * @source common practice
 */
export function reviewGaps(
  template: ReviewTemplate,
  runs: readonly ReviewRun[],
  rest: ReviewRest,
): ReviewGap[] {
  const gaps: ReviewGap[] = [];
  const say = (code: ReviewGap['code'], says: string, runId: string | null = null): void => {
    gaps.push({ code, says, runId });
  };
  if (runs.length === 0) say('no-runs', 'No runs yet.');
  const sustained = runs.filter((run) => atLeast(run.figures.seconds, SUSTAINED_S));
  const heavy = (run: ReviewRun): boolean => run.demand === 'heavy' || run.demand === 'notorious';
  if (runs.length > 0 && template !== 'quick look' && !sustained.some(heavy))
    say('no-heavy', 'No run of 15 minutes or more with a heavy title.');
  if (template === 'emulation special' && !runs.some((run) => run.kind === 'emulated'))
    say('no-emulated', 'No emulated title.');
  if (template === 'versus' && rest.comparisons === 0) say('no-comparison', 'No comparison.');
  const lacking = (code: ReviewGap['code'], what: string, lacks: (run: ReviewRun) => boolean): void => {
    const without = runs.filter(lacks);
    if (without.length > 0) say(code, `${what} in ${without.length} of ${runs.length}.`, without[0]!.id);
  };
  lacking(
    'room',
    'Room temperature unknown',
    (run) => run.stated.roomC === null && run.figures.spots.length > 0,
  );
  if (template !== 'quick look') {
    lacking('skin', 'No skin temperature', (run) => run.figures.spots.length === 0);
    lacking('battery', 'Drain unknown', (run) => run.figures.values.hoursFromFull === null);
    lacking('repeats', 'Only one run', (run) => run.caveats.includes('single-run'));
  }
  if (rest.openRequests > 0) say('requests', `Open requests: ${rest.openRequests}.`);
  if (!rest.verdictGiven) say('verdict', 'No verdict yet.');
  return gaps;
}
