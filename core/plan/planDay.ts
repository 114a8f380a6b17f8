import { DaySchedule, type Move } from './daySchedule';
import { Bounds } from './bound';
import { goodChoice, smallChoice, type Choice } from './drops';
import { PlanRefused, type DayProblem } from './problem';
import { improve, inOrder, type Layout } from './search';

/** A run of the plan. Times are minutes of the day's clock. */
export interface PlannedRun {
  taskId: string;
  deviceId: string;
  /** Which pair of hands sets it up, from 0. */
  hand: number;
  prepareMin: number;
  startMin: number;
  endMin: number;
  attended: boolean;
  startOverRoomC: number;
  startPercent: number;
  endOverRoomC: number;
  endPercent: number;
}

/** What a device does between runs. */
export interface PlannedPause {
  deviceId: string;
  kind: 'cool' | 'charge';
  fromMin: number;
  toMin: number;
}

export interface PlannedRest {
  hand: number;
  fromMin: number;
  toMin: number;
}

export interface DroppedTask {
  taskId: string;
  why: 'day-full' | 'battery' | 'after-dropped';
}

/** A day, laid out. */
export interface DayPlan {
  /** By their starts. */
  runs: PlannedRun[];
  pauses: PlannedPause[];
  rests: PlannedRest[];
  dropped: DroppedTask[];
  fromMin: number;
  finishMin: number;
  /** Minutes in which hands are at work, all pairs together. */
  handsOnMin: number;
  /** Minutes from the start to the finish in which no hands work or must rest, all pairs together. */
  waitingMin: number;
  /** No plan of these runs ends earlier than this. */
  boundMin: number;
  /** What the bound comes from: the hands, or a device's id. */
  boundFrom: 'hands' | string;
  /** No plan is better. */
  proven: boolean;
  /** Runs of earlier plans of the day that have begun: `carriedOver` keeps them. */
  past: PlannedRun[];
  /** The order in which runs were laid out: given to the next plan, so that it changes no more than it must. */
  order: { taskId: string; rest: boolean }[];
}

export interface PlanOptions {
  seed?: number;
  /** How long to look for something better, in rounds. */
  rounds?: number;
  /** The order of an earlier plan, kept where another gains less than five minutes. */
  previous?: { taskId: string; rest: boolean }[];
}

/** Standings kept a level for a plan's first layout. */
const WIDTH = 24;
const ROUNDS = 2500;
/** An earlier plan's order is left only for at least so much. */
const WORTH_MIN = 5;

/**
 * Lays out a day: who runs what when, between cooling, charging and rests.
 *
 * Loses as little as can be of what is wanted; then ends as early as can be.
 * Small days are solved for certain, larger ones as well as some rounds allow.
 *
 * @yields the best plan so far, each better than the one before
 * @returns the best plan
 * @throws PlanRefused where the day makes no sense, or nothing fits
 * @shown The day: finish, hands on, waiting, the bound
 * @source docs/method.md, "The day's plan"
 */
export function* planDay(
  problem: DayProblem,
  { seed = 1, rounds = ROUNDS, previous = [] }: PlanOptions = {},
): Generator<DayPlan, DayPlan> {
  const schedule = new DaySchedule(problem);
  const limitMin = problem.finishByMin ?? Infinity;
  const small = smallChoice(schedule, limitMin);
  let choice = small ?? goodChoice(schedule, limitMin, WIDTH);
  if (!choice.kept.some(Boolean)) throw nothingFits(schedule);
  const kept = schedule.with(choice.kept);
  if (!small) {
    yield toPlan(kept, choice);
    for (const layout of improve(kept, choice.layout, seed, rounds))
      yield toPlan(kept, (choice = { ...choice, layout }));
  }
  const steady = asBefore(kept, previous, limitMin);
  if (steady && steady.finishMin < choice.layout.finishMin + WORTH_MIN)
    choice = {
      ...choice,
      layout: steady,
      proven: choice.proven && steady.finishMin === choice.layout.finishMin,
    };
  const plan = toPlan(kept, choice);
  yield plan;
  return plan;
}

/** The day in an earlier plan's order, with what is new at its end. */
function asBefore(
  schedule: DaySchedule,
  previous: { taskId: string; rest: boolean }[],
  limitMin: number,
): Layout | null {
  if (previous.length === 0) return null;
  const place = new Map(schedule.tasks.map((task, i) => [task.id, i]));
  const left = new Set(schedule.orders.flat());
  const order: Pick<Move, 'task' | 'rest'>[] = [];
  for (const { taskId, rest } of previous) {
    const task = place.get(taskId);
    if (task !== undefined && left.delete(task)) order.push({ task, rest });
  }
  for (const task of schedule.orders.flat()) if (left.has(task)) order.push({ task, rest: false });
  const layout = inOrder(schedule, order);
  return layout && layout.finishMin <= limitMin ? layout : null;
}

function nothingFits({ tasks, problem, heat, deviceOf }: DaySchedule): PlanRefused {
  const flat = tasks.find((task, i) => heat[deviceOf[i]!]!.needs(task) > 100);
  if (flat && tasks.every((task, i) => heat[deviceOf[i]!]!.needs(task) > 100))
    return new PlanRefused(
      flat.id,
      `“${flat.name}” needs more than a full battery.`,
      'Shorten it, or plug the device in for this step.',
    );
  const shortest = tasks.reduce((least, task) =>
    task.minutes + task.prepareMin < least.minutes + least.prepareMin ? task : least,
  );
  return new PlanRefused(
    'finishBy',
    problem.finishByMin === null
      ? 'No step can start: no device gets cool enough with enough battery.'
      : `No step fits: ${Math.round(problem.finishByMin - problem.fromMin)} minutes are available, and the shortest, “${shortest.name}”, takes ${Math.round(shortest.minutes + shortest.prepareMin)} without cooling and charging.`,
    problem.finishByMin === null
      ? 'Charge the devices first, or lower the start percent.'
      : 'Finish later, shorten a step, or start with devices that are cool and charged.',
  );
}

/** Words and numbers for a layout. */
function toPlan(schedule: DaySchedule, { kept, layout, proven }: Choice): DayPlan {
  const { problem, tasks } = schedule;
  const state = schedule.start();
  const plan: Pick<DayPlan, 'runs' | 'pauses' | 'rests'> = { runs: [], pauses: [], rests: [] };
  for (const move of layout.moves) {
    const task = tasks[move.task]!;
    const d = schedule.deviceOf[move.task]!;
    const start = schedule.earliest(state, move);
    const { atMin: endedMin } = state.heat[d]!;
    const { work } = state.hands[move.hand]!;
    const pause = schedule.advance(state, move, start);
    const heat = state.heat[d]!;
    const deviceId = task.deviceId;
    const part = (kind: PlannedPause['kind'], fromMin: number, toMin: number): void =>
      void (toMin > fromMin && plan.pauses.push({ deviceId, kind, fromMin, toMin }));
    const charges = pause.chargeToMin > pause.chargeFromMin;
    part('cool', endedMin, charges ? pause.chargeFromMin : start);
    if (charges) {
      part('charge', pause.chargeFromMin, pause.chargeToMin);
      part('cool', pause.chargeToMin, start);
    }
    const begin = start - task.prepareMin;
    const restMin = problem.rules.hands?.restMin ?? Infinity;
    if (work && begin - work.untilMin >= restMin)
      plan.rests.push({ hand: move.hand, fromMin: work.untilMin, toMin: begin });
    plan.runs.push({
      taskId: task.id,
      deviceId,
      hand: move.hand,
      prepareMin: task.prepareMin,
      startMin: start,
      endMin: heat.atMin,
      attended: task.attended,
      startOverRoomC: pause.overRoomC,
      startPercent: pause.percent,
      endOverRoomC: heat.overRoomC,
      endPercent: heat.percent,
    });
  }
  plan.runs.sort((a, b) => a.startMin - b.startMin);
  const bound = new Bounds(schedule).ofDay();
  const handsOnMin = plan.runs.reduce(
    (sum, run) => sum + run.prepareMin + (run.attended ? run.endMin - run.startMin : 0),
    0,
  );
  const restedMin = plan.rests.reduce(
    (sum, rest) => sum + Math.min(rest.toMin - rest.fromMin, problem.rules.hands?.restMin ?? 0),
    0,
  );
  return {
    ...plan,
    dropped: tasks.flatMap((task, i): DroppedTask[] =>
      kept[i] ? [] : [{ taskId: task.id, why: why(schedule, kept, i) }],
    ),
    fromMin: problem.fromMin,
    finishMin: layout.finishMin,
    handsOnMin,
    waitingMin: Math.max(
      0,
      (layout.finishMin - problem.fromMin) * problem.hands.length - handsOnMin - restedMin,
    ),
    boundMin: bound.finishMin,
    boundFrom: bound.from,
    proven: proven || (kept.every(Boolean) && layout.finishMin <= bound.finishMin),
    past: [],
    order: layout.moves.map(({ task, rest }) => ({ taskId: tasks[task]!.id, rest })),
  };
}

function why(schedule: DaySchedule, kept: readonly boolean[], i: number): DroppedTask['why'] {
  const task = schedule.tasks[i]!;
  if (schedule.heat[schedule.deviceOf[i]!]!.needs(task) > 100) return 'battery';
  const dropped = new Set(schedule.tasks.filter((_, j) => !kept[j]).map((other) => other.id));
  if (task.after.some((id) => dropped.has(id))) return 'after-dropped';
  if (schedule.problem.finishByMin === null) return 'battery';
  return 'day-full';
}
