import type { Bench, Move, Standing } from './bench';
import { Bounds } from './bound';
import { movesFrom, type Layout } from './search';

/** How many standings may still be looked at. */
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
export function quickest(bench: Bench, limitMin: number, allowance: Allowance): Layout | null | 'unknown' {
  const bounds = new Bounds(bench);
  const count = bench.orders.reduce((sum, order) => sum + order.length, 0);
  const least = bounds.ofDay().finishMin;
  const path: Move[] = [];
  let best: Layout | null = null;
  const go = (standing: Standing): void => {
    if (allowance.left-- <= 0) return;
    if (path.length === count) {
      if (standing.finishMin < (best?.finishMin ?? Infinity) && standing.finishMin <= limitMin)
        best = { moves: path.slice(), finishMin: standing.finishMin, stuck: 0 };
      return;
    }
    const moves = movesFrom(bench, standing).sort((a, b) => a.start - b.start);
    for (const { move, start } of moves) {
      // nothing is quicker than the bound
      if (best !== null && best.finishMin <= least) return;
      const after = bench.place(standing, move, start);
      const bound = bounds.from(after).finishMin;
      if (bound > limitMin || (best !== null && bound >= best.finishMin)) continue;
      path.push(move);
      go(after);
      path.pop();
    }
  };
  if (least <= limitMin) go(bench.start());
  return allowance.left < 0 ? 'unknown' : best;
}
