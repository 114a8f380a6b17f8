import { SeededRandom } from '../numbers/random';
import type { DaySchedule, Move, DayState } from './daySchedule';
import { Bounds } from './bound';

/** Moves that lay out every kept task, and when the last has ended. */
export interface Layout {
  moves: Move[];
  finishMin: number;
  /** Tasks that could not be laid out: their battery cannot be brought to what they need. */
  stuck: number;
}

/** The moves that are worth a thought from a state: each ready task, in each different pair of hands, with and without a rest that is a choice. */
export function movesFrom(schedule: DaySchedule, state: DayState): { move: Move; start: number }[] {
  const found: { move: Move; start: number }[] = [];
  const different = state.hands.length > 1 && sameHands(state) ? state.hands.slice(0, 1) : state.hands;
  for (const task of schedule.ready(state)) {
    different.forEach((_, hand) => {
      const move = { task, hand, rest: false };
      const start = schedule.earliest(state, move);
      if (!Number.isFinite(start)) return;
      found.push({ move, start });
      if (!schedule.mayRest(state, move, start)) return;
      const rested = { ...move, rest: true };
      found.push({ move: rested, start: schedule.earliest(state, rested) });
    });
  }
  return found;
}

function sameHands({ hands: [a, b] }: DayState): boolean {
  return (
    a!.freeMin === b!.freeMin &&
    a!.work?.sinceMin === b!.work?.sinceMin &&
    a!.work?.untilMin === b!.work?.untilMin
  );
}

interface Node {
  state: DayState;
  score: number;
  spent: number;
  move: Move | null;
  parent: Node | null;
}

/** Of states with the same tasks laid out, so many are kept. */
const ALIKE = 3;

/**
 * Lays out level by level, keeping the most promising states.
 *
 * @param width states kept a level
 * @source beam search (Ow and Morton, 1988), led by the lower bound
 */
export function beam(schedule: DaySchedule, width: number): Layout {
  const bounds = new Bounds(schedule);
  const count = schedule.orders.reduce((sum, order) => sum + order.length, 0);
  let level: Node[] = [{ state: schedule.start(), score: 0, spent: 0, move: null, parent: null }];
  for (let laid = 0; laid < count; laid++) {
    const grown: Node[] = [];
    for (const node of level) {
      for (const { move, start } of movesFrom(schedule, node.state)) {
        const state = schedule.place(node.state, move, start);
        grown.push({
          state,
          score: bounds.from(state).finishMin,
          spent: state.hands.reduce((sum, hand) => sum + hand.freeMin, 0) + start / 1000,
          move,
          parent: node,
        });
      }
    }
    if (grown.length === 0) return layout(level[0]!, count - laid);
    grown.sort((a, b) => a.score - b.score || a.spent - b.spent);
    const seen = new Map<string, number>();
    level = [];
    for (const node of grown) {
      const key = node.state.next.join();
      const alike = seen.get(key) ?? 0;
      if (alike === ALIKE) continue;
      seen.set(key, alike + 1);
      level.push(node);
      if (level.length === width) break;
    }
  }
  return layout(level[0]!, 0);
}

function layout(node: Node, stuck: number): Layout {
  const moves: Move[] = [];
  for (let at: Node | null = node; at?.move; at = at.parent) moves.unshift(at.move);
  return { moves, finishMin: node.state.finishMin, stuck };
}

/**
 * Lays tasks out in a given order, each in the hands that can begin first.
 *
 * @returns null where the order breaks a device's own, or a task can never start
 */
export function inOrder(schedule: DaySchedule, order: readonly Pick<Move, 'task' | 'rest'>[]): Layout | null {
  const state = schedule.start();
  const moves: Move[] = [];
  for (const { task, rest } of order) {
    if (!schedule.mayBeNext(state, task)) return null;
    let best: { move: Move; start: number } | null = null;
    for (let hand = 0; hand < state.hands.length; hand++) {
      const move = { task, hand, rest };
      const start = schedule.earliest(state, move);
      // of two that can begin at once, whoever became free last: the other stays free
      if (
        !best ||
        start < best.start ||
        (start === best.start && state.hands[hand]!.freeMin > state.hands[best.move.hand]!.freeMin)
      )
        best = { move, start };
    }
    if (!best || !Number.isFinite(best.start)) return null;
    schedule.advance(state, best.move, best.start);
    moves.push(best.move);
  }
  return { moves, finishMin: state.finishMin, stuck: 0 };
}

/**
 * Improves a layout by moving single runs and rests about.
 *
 * @yields every layout that is better than all before
 * @source local search with a cooling share of setbacks (Kirkpatrick, Gelatt and Vecchi, 1983)
 */
export function* improve(
  schedule: DaySchedule,
  from: Layout,
  seed: number,
  rounds: number,
): Generator<Layout> {
  const random = new SeededRandom(seed);
  const target = new Bounds(schedule).ofDay().finishMin;
  let best = from;
  let now = from;
  for (let round = 0; round < rounds && best.finishMin > target; round++) {
    const order: Pick<Move, 'task' | 'rest'>[] = now.moves.map(({ task, rest }) => ({ task, rest }));
    if (order.length < 2) return;
    const place = random.below(order.length);
    if (schedule.problem.rules.hands && random.uniform() < 0.2)
      order[place] = { ...order[place]!, rest: !order[place]!.rest };
    else {
      const [moved] = order.splice(place, 1);
      order.splice(Math.max(0, Math.min(order.length, place + 1 + random.below(9) - 5)), 0, moved!);
    }
    const found = inOrder(schedule, order);
    if (!found) continue;
    const setback = 8 * (1 - round / rounds);
    if (found.finishMin <= now.finishMin + setback * random.uniform() * random.uniform()) now = found;
    if (found.finishMin < best.finishMin) yield (best = found);
  }
}
