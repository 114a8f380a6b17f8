import { Thermal, type HeatState, type Pause } from './thermal';
import { deviceOrders } from './order';
import { checkProblem, type DayHand, type DayProblem, type DayTask } from './problem';

/** One decision: which task is next, in whose hands, and whether they rest first though they need not. */
export interface Move {
  task: number;
  hand: number;
  rest: boolean;
}

/** How things stand after some moves. */
export interface DayState {
  heat: HeatState[];
  hands: DayHand[];
  /** Tasks of each device that are laid out, counted. */
  next: number[];
  /** End of each task, minutes; NaN for those not laid out. */
  ends: Float64Array;
  finishMin: number;
}

/**
 * The day as a machine: a state, and moves that lay out one task after the
 * other, each as early as its device and a pair of hands allow.
 *
 * @source serial schedule generation (Kolisch, 1996): for every plan there is an order of moves that is no later
 */
export class DaySchedule {
  readonly tasks: DayTask[];
  /** Tasks of each device, in their order, as far as they are kept. */
  readonly orders: number[][];
  readonly heat: Thermal[];
  readonly deviceOf: number[];
  private readonly before: number[][];

  /** @throws PlanRefused */
  constructor(readonly problem: DayProblem) {
    checkProblem(problem);
    this.tasks = problem.tasks;
    this.orders = deviceOrders(problem);
    this.heat = problem.devices.map((device) => new Thermal(device, problem.rules));
    this.deviceOf = problem.tasks.map((task) =>
      problem.devices.findIndex((device) => device.id === task.deviceId),
    );
    const place = new Map(problem.tasks.map((task, i) => [task.id, i]));
    this.before = problem.tasks.map((task) => task.after.flatMap((id) => place.get(id) ?? []));
  }

  /** The same day with some of the tasks left out. */
  with(kept: readonly boolean[]): DaySchedule {
    return Object.assign(Object.create(DaySchedule.prototype) as DaySchedule, this, {
      orders: this.orders.map((order) => order.filter((task) => kept[task])),
    });
  }

  start(): DayState {
    const { devices, hands, fromMin } = this.problem;
    return {
      heat: devices.map((device) => ({
        atMin: device.fromMin,
        overRoomC: device.overRoomC,
        percent: device.percent,
      })),
      hands: this.crew(hands),
      next: devices.map(() => 0),
      ends: new Float64Array(this.tasks.length).fill(NaN),
      finishMin: fromMin,
    };
  }

  /** Where runs may not overlap there is one bench for all, and whoever is free serves it. */
  private crew(hands: DayHand[]): DayHand[] {
    const all = hands.map((hand) => ({ ...hand, freeMin: Math.max(hand.freeMin, this.problem.fromMin) }));
    return this.problem.parallel
      ? all
      : [all.reduce((last, hand) => (hand.freeMin > last.freeMin ? hand : last))];
  }

  /** Tasks that may come next. */
  ready(state: DayState): number[] {
    const found: number[] = [];
    for (let d = 0; d < this.orders.length; d++) {
      const task = this.orders[d]![state.next[d]!];
      if (task !== undefined && this.mayBeNext(state, task)) found.push(task);
    }
    return found;
  }

  mayBeNext(state: DayState, task: number): boolean {
    const d = this.deviceOf[task]!;
    if (this.orders[d]![state.next[d]!] !== task) return false;
    for (const earlier of this.before[task]!) if (Number.isNaN(state.ends[earlier]!)) return false;
    return true;
  }

  /** Minutes of work that a task is for the hands. */
  work(task: number): number {
    const { prepareMin, attended, minutes } = this.tasks[task]!;
    return prepareMin + (attended ? minutes : 0);
  }

  /**
   * The earliest start of a move's run.
   *
   * @returns whole minutes; Infinity where there is none
   */
  earliest(state: DayState, { task, hand, rest }: Move): number {
    const { prepareMin } = this.tasks[task]!;
    const { rules, fromMin } = this.problem;
    const d = this.deviceOf[task]!;
    const heat = state.heat[d]!;
    const { freeMin, work } = state.hands[hand]!;
    let start = Math.max(
      heat.atMin + this.heat[d]!.shortestPause(heat, this.tasks[task]!),
      fromMin,
      freeMin + prepareMin,
    );
    for (const earlier of this.before[task]!) start = Math.max(start, state.ends[earlier]!);
    if (rules.hands && work) {
      const begin = start - prepareMin;
      const stretch = begin + this.work(task) - work.sinceMin;
      const rested = begin - work.untilMin >= rules.hands.restMin;
      if (!rested && (rest || stretch > rules.hands.stretchMin - rules.hands.restMin))
        start = work.untilMin + rules.hands.restMin + prepareMin;
    }
    return start;
  }

  /** Whether resting before a move is a choice: the hands neither must nor do rest anyway. */
  mayRest(state: DayState, move: Move, start: number): boolean {
    const { rules } = this.problem;
    const { work } = state.hands[move.hand]!;
    return (
      rules.hands !== null &&
      work !== null &&
      start - this.tasks[move.task]!.prepareMin - work.untilMin < rules.hands.restMin
    );
  }

  /** How things stand when a run is laid out at its start. */
  place(state: DayState, move: Move, start: number): DayState {
    const { heat, hands, next, ends, finishMin } = state;
    const after = {
      heat: heat.slice(),
      hands: hands.slice(),
      next: next.slice(),
      ends: ends.slice(),
      finishMin,
    };
    this.advance(after, move, start);
    return after;
  }

  /** Lays a run out at its start, in the state itself. */
  advance(state: DayState, { task, hand }: Move, start: number): Pause {
    const d = this.deviceOf[task]!;
    const before = state.heat[d]!;
    const pause = this.heat[d]!.spend(before, start - before.atMin);
    const heat = this.heat[d]!.play(pause.overRoomC, pause.percent, this.tasks[task]!, start);
    state.heat[d] = heat;
    state.next[d]!++;
    state.ends[task] = heat.atMin;
    state.hands[hand] = this.worked(state.hands[hand]!, task, start);
    state.finishMin = Math.max(state.finishMin, heat.atMin);
    return pause;
  }

  private worked({ work }: DayHand, task: number, start: number): DayHand {
    const { prepareMin, minutes, attended } = this.tasks[task]!;
    const begin = start - prepareMin;
    const untilMin = begin + this.work(task);
    const restMin = this.problem.rules.hands?.restMin ?? Infinity;
    const sinceMin = work && begin - work.untilMin < restMin ? work.sinceMin : begin;
    // an unattended run lets the hands go, unless nothing else may run beside it
    return {
      freeMin: attended || this.problem.parallel ? untilMin : start + minutes,
      work: { sinceMin, untilMin },
    };
  }
}
