import {
  deviceHabits,
  taskHabits,
  USUAL_DEMAND,
  type DeviceHabits,
  type DeviceKind,
  type OwnFigures,
  type TaskHabits,
} from './habits';
import type { PlannedRun } from './planDay';
import {
  DEMANDS,
  PlanRefused,
  type DayDevice,
  type DayHand,
  type DayProblem,
  type DayTask,
  type Demand,
} from './problem';

/** A test card as the planner reads it; temperatures in °C, times in minutes from midnight. */
export interface PlanCard {
  steps: PlanStep[];
  rules: {
    startOverRoomC: number;
    startPercent: number;
    floorPercent: number;
    chargeBelowC: number;
    prepareMin: number;
    restMin: number;
    stretchMin: number;
    handsRest: boolean;
  };
  day: {
    startMin: number;
    finishByMin: number | null;
    hands: 1 | 2;
    parallel: boolean;
    order: 'light-to-heavy' | 'as-listed';
    roomC: number | null;
    devices: StartState[];
  };
}

export interface PlanStep {
  id: string;
  device: string | null;
  title: string;
  setup: string | null;
  minutes: number;
  repeats: number;
  attended: boolean;
  wanted: number;
  after: string[];
  pluggedIn: boolean;
  /** Titles that are played straight after it, within its minutes. */
  then?: { title: string; minutes: number }[];
}

/** How a device stands when the day begins; null where nobody looked. */
export interface StartState {
  device: string;
  skinC: number | null;
  percent: number | null;
}

/** What is known of a device of the card. */
export interface PlanDevice {
  name: string;
  kind: DeviceKind;
  batteryWh: number | null;
  chargerW: number | null;
  own: OwnFigures;
}

/** What happened on the day, in the order of its telling. */
export type DayEvent =
  | { kind: 'started'; stepId: string; repeat: number; atMin: number }
  | { kind: 'ended'; stepId: string; repeat: number; atMin: number; how: 'done' | 'crashed' | 'skipped' }
  | { kind: 'reading'; device: string; atMin: number; skinC: number | null; percent: number | null };

/** Assumed where nobody looked at the thermometer, °C. */
export const ASSUMED_ROOM_C = 20;
/** Assumed where nobody looked at the battery. */
const ASSUMED_PERCENT = 100;
/** Past work of hands that counts towards a rest. */
const OVERNIGHT: DayHand = { freeMin: 0, work: null };

export const taskId = (stepId: string, repeat: number): string => `${stepId}#${repeat}`;

/** Where a run of the card stands. */
export interface RunState {
  taskId: string;
  stepId: string;
  repeat: number;
  state: 'open' | 'running' | 'done' | 'crashed' | 'skipped';
  startMin: number | null;
  endMin: number | null;
}

/**
 * Where each run of the card stands after what happened.
 *
 * @param steps of the card, in its order
 * @param events in the order of their telling; of two that contradict, the later counts
 */
export function runStates(steps: Pick<PlanStep, 'id' | 'repeats'>[], events: DayEvent[]): RunState[] {
  const states = steps.flatMap(({ id, repeats }) =>
    Array.from({ length: repeats }, (_, i): RunState => ({
      taskId: taskId(id, i + 1),
      stepId: id,
      repeat: i + 1,
      state: 'open',
      startMin: null,
      endMin: null,
    })),
  );
  for (const event of events) {
    if (event.kind === 'reading') continue;
    const one = states.find((state) => state.stepId === event.stepId && state.repeat === event.repeat);
    if (!one) continue;
    if (event.kind === 'started')
      Object.assign(one, { state: 'running', startMin: event.atMin, endMin: null });
    else Object.assign(one, { state: event.how, endMin: event.atMin });
  }
  return states;
}

/** The problem that a card poses, and where its figures come from. */
export interface PosedDay {
  problem: DayProblem;
  states: RunState[];
  devices: (DeviceHabits & { name: string })[];
  tasks: (TaskHabits & { taskId: string })[];
  /** The room was given, not assumed. */
  roomKnown: boolean;
}

/**
 * Poses the planner's problem: what is left of the card, from where the
 * devices and hands stand after what happened.
 *
 * @param devices what is known of the card's devices, by name
 * @param demandOf a title's demand, where someone said it
 * @param events what happened so far
 * @param planned runs of the plan that was followed: what is assumed of a run's start where nobody looked
 * @throws PlanRefused where a step has no device, or one that is not known
 * @source docs/method.md, "The day's plan"
 */
export function poseDay(
  card: PlanCard,
  devices: PlanDevice[],
  demandOf: (title: string) => Demand | null,
  events: DayEvent[] = [],
  planned: PlannedRun[] = [],
): PosedDay {
  const { day, rules } = card;
  const roomC = day.roomC ?? ASSUMED_ROOM_C;
  const states = runStates(card.steps, events);
  const nowMin = Math.max(day.startMin, ...events.map((event) => event.atMin));
  const known = new Map(devices.map((device) => [device.name.toLowerCase(), device]));
  const used = [...new Set(card.steps.map((step) => deviceOf(step, known)))];
  const habits = new Map(
    used.map((device) => [device, deviceHabits(device.kind, device.batteryWh, device.chargerW, device.own)]),
  );

  const posed = card.steps.flatMap((step) => {
    const device = deviceOf(step, known);
    const { found, demand } = habitsOfStep(step, device, habits.get(device)!.batteryWh, demandOf);
    const { chargeRiseC } = habits.get(device)!;
    return states
      .filter((state) => state.stepId === step.id)
      .map(
        (
          state,
        ): { state: RunState; step: PlanStep; habits: TaskHabits & { taskId: string }; task: DayTask } => ({
          state,
          step,
          habits: { ...found, taskId: state.taskId },
          task: {
            id: state.taskId,
            deviceId: device.name,
            name: nameOf(step, state.repeat),
            minutes: step.minutes,
            prepareMin: rules.prepareMin,
            attended: step.attended,
            // on the charger it keeps its percent and gets warmer
            riseC: found.riseC + (step.pluggedIn ? chargeRiseC : 0),
            percentPerMin: step.pluggedIn ? 0 : found.percentPerMin,
            demand,
            wanted: step.wanted,
            after: step.after.flatMap((id) =>
              card.steps
                .filter((other) => other.id === id)
                .flatMap((other) => Array.from({ length: other.repeats }, (_, i) => taskId(id, i + 1))),
            ),
          },
        }),
      );
  });

  const body = (device: PlanDevice): DayDevice => {
    const { coolTauMin, warmTauMin, chargePercentPerMin, chargeRiseC } = habits.get(device)!;
    const start = day.devices.find((one) => one.device.toLowerCase() === device.name.toLowerCase());
    const state = {
      fromMin: day.startMin,
      overRoomC: Math.max(0, (start?.skinC ?? roomC) - roomC),
      percent: start?.percent ?? ASSUMED_PERCENT,
    };
    const cooled = (minutes: number): number =>
      state.overRoomC * Math.exp(-Math.max(0, minutes) / coolTauMin);
    const happened = posed.filter(
      ({ step, state: run }) =>
        deviceOf(step, known) === device && run.startMin !== null && run.state !== 'open',
    );
    const told = events.filter(
      (event) => event.kind === 'reading' && event.device.toLowerCase() === device.name.toLowerCase(),
    );
    const moments = [
      ...happened.map((one) => ({ atMin: one.state.startMin!, one, event: null })),
      ...told.map((event) => ({ atMin: event.atMin, one: null, event })),
    ].sort((a, b) => a.atMin - b.atMin);
    for (const { atMin, one, event } of moments) {
      const overRoomC = cooled(atMin - state.fromMin);
      if (one) {
        const plan = planned.find((run) => run.taskId === one.state.taskId);
        const endMin = one.state.endMin ?? Math.max(atMin + one.task.minutes, nowMin);
        const minutes = Math.max(0, endMin - atMin);
        const from = plan
          ? { x: plan.startOverRoomC, p: plan.startPercent }
          : { x: overRoomC, p: state.percent };
        Object.assign(state, {
          fromMin: endMin,
          overRoomC: one.task.riseC + (from.x - one.task.riseC) * Math.exp(-minutes / warmTauMin),
          percent: Math.max(0, from.p - one.task.percentPerMin * minutes),
        });
      } else if (event?.kind === 'reading' && atMin >= state.fromMin) {
        Object.assign(state, {
          fromMin: atMin,
          overRoomC: event.skinC === null ? overRoomC : Math.max(0, event.skinC - roomC),
          percent: event.percent ?? state.percent,
        });
      }
    }
    return {
      id: device.name,
      name: device.name,
      ...state,
      coolTauMin,
      warmTauMin,
      chargePercentPerMin,
      chargeRiseC,
    };
  };

  const open = posed.filter(({ state }) => state.state === 'open');
  const openIds = new Set(open.map(({ task }) => task.id));
  const skipped = new Set(posed.filter(({ state }) => state.state === 'skipped').map(({ task }) => task.id));
  return {
    states,
    devices: used.map((device) => ({ name: device.name, ...habits.get(device)! })),
    tasks: posed.map((one) => one.habits),
    roomKnown: day.roomC !== null,
    problem: {
      fromMin: nowMin,
      finishByMin: day.finishByMin,
      devices: used.map(body),
      // what has ended, or will not be, keeps nobody waiting
      tasks: open.map(({ task }) => ({
        ...task,
        after: task.after.filter((id) => openIds.has(id) && !skipped.has(id)),
      })),
      rules: {
        startOverRoomC: rules.startOverRoomC,
        startPercent: rules.startPercent,
        floorPercent: rules.floorPercent,
        chargeOverRoomC: rules.chargeBelowC - roomC,
        hands: rules.handsRest ? { restMin: rules.restMin, stretchMin: rules.stretchMin } : null,
      },
      hands: handsNow(card, posed, planned, nowMin),
      parallel: day.parallel,
      order: day.order,
    },
  };
}

const nameOf = (step: PlanStep, repeat: number): string =>
  `${[step.title, ...(step.then ?? []).map((one) => one.title)].join(', then ')}${step.setup ? `, ${step.setup}` : ''} on ${step.device}${step.repeats > 1 ? ` (${repeat} of ${step.repeats})` : ''}`;

/** What a step takes; of one that plays several titles the warmest rise, and of the battery each its share. */
function habitsOfStep(
  step: PlanStep,
  device: PlanDevice,
  batteryWh: number,
  demandOf: (title: string) => Demand | null,
): { found: TaskHabits; demand: Demand } {
  const then = step.then ?? [];
  const own = step.minutes - then.reduce((sum, one) => sum + one.minutes, 0);
  const titles = [{ title: step.title, minutes: own }, ...then].map(({ title, minutes }) => {
    const demand = demandOf(title) ?? USUAL_DEMAND;
    return { minutes, demand, found: taskHabits(device.kind, batteryWh, { title, demand }, device.own) };
  });
  const hardest = titles.reduce((a, b) => (DEMANDS.indexOf(b.demand) > DEMANDS.indexOf(a.demand) ? b : a));
  return {
    demand: hardest.demand,
    found: {
      ...titles[0]!.found,
      riseC: Math.max(...titles.map((one) => one.found.riseC)),
      percentPerMin:
        titles.reduce((sum, one) => sum + one.minutes * one.found.percentPerMin, 0) / step.minutes,
    },
  };
}

function deviceOf(step: PlanStep, known: Map<string, PlanDevice>): PlanDevice {
  const device = step.device === null ? undefined : known.get(step.device.toLowerCase());
  if (device) return device;
  throw new PlanRefused(
    step.id,
    step.device === null
      ? `The step “${step.title}” has no device.`
      : `There is no device “${step.device}” in Kit.`,
    'Choose a device for the step.',
  );
}

/** Since when each pair of hands works, and until when, from the runs that have begun. */
function handsNow(
  { day, rules }: PlanCard,
  posed: { state: RunState; step: PlanStep }[],
  planned: PlannedRun[],
  nowMin: number,
): DayHand[] {
  const hands = Array.from({ length: day.hands }, (): DayHand => ({ ...OVERNIGHT, freeMin: day.startMin }));
  const begun = posed
    .filter(({ state }) => state.startMin !== null && state.state !== 'skipped')
    .sort((a, b) => a.state.startMin! - b.state.startMin!);
  for (const { state, step } of begun) {
    const hand = planned.find((run) => run.taskId === state.taskId)?.hand ?? 0;
    const before = hands[hand] ?? hands[0]!;
    const begin = state.startMin! - rules.prepareMin;
    const endMin = state.endMin ?? Math.max(state.startMin! + step.minutes, nowMin);
    const untilMin = step.attended ? endMin : state.startMin!;
    const rested = !before.work || begin - before.work.untilMin >= rules.restMin;
    hands[Math.min(hand, hands.length - 1)] = {
      freeMin: day.parallel || step.attended ? untilMin : endMin,
      work: { sinceMin: rested ? begin : before.work!.sinceMin, untilMin },
    };
  }
  return hands.map((hand) => ({ ...hand, freeMin: Math.max(hand.freeMin, nowMin) }));
}
