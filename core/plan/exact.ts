import type { DaySchedule, Move, DayState } from './daySchedule';
import { Bounds } from './bound';
import { movesFrom, type Layout } from './search';

/** How many states may still be looked at. */
export interface Allowance {
  left: number;
}

/**
 * The quickest layout of all, by branch and bound.
 *
 * @param limitMin only layouts that end by then count
 * @param allowance used up as it goes; where it runs out, nothing is proved
 * @returns the layout, null where there is none by the limit, or 'unknown'
 * @source Land and Doig (1960), with the bounds of `Bounds`
 */
export function quickest(
  schedule: DaySchedule,
  limitMin: number,
  allowance: Allowance,
): Layout | null | 'unknown' {
  const bounds = new Bounds(schedule);
  const count = schedule.orders.reduce((sum, order) => sum + order.length, 0);
  const least = bounds.ofDay().finishMin;
  const path: Move[] = [];
  let best: Layout | null = null;
  const go = (state: DayState): void => {
    if (allowance.left-- <= 0) return;
    if (path.length === count) {
      if (state.finishMin < (best?.finishMin ?? Infinity) && state.finishMin <= limitMin)
        best = { moves: path.slice(), finishMin: state.finishMin, stuck: 0 };
      return;
    }
    const moves = movesFrom(schedule, state).sort((a, b) => a.start - b.start);
    for (const { move, start } of moves) {
      // nothing is quicker than the bound
      if (best !== null && best.finishMin <= least) return;
      const after = schedule.place(state, move, start);
      const bound = bounds.from(after).finishMin;
      if (bound > limitMin || (best !== null && bound >= best.finishMin)) continue;
      path.push(move);
      go(after);
      path.pop();
    }
  };
  if (least <= limitMin) go(schedule.start());
  return allowance.left < 0 ? 'unknown' : best;
}
