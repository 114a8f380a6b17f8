/** What a title asks of a device, from light to notorious. */
export const DEMANDS = ['light', 'medium', 'heavy', 'notorious'] as const;
export type Demand = (typeof DEMANDS)[number];

/** A device as the day's plan sees it. Times are minutes of the day's clock, temperatures °C over the room. */
export interface DayDevice {
  id: string;
  name: string;
  /** From here on nothing runs on it. */
  fromMin: number;
  /** Skin over the room at `fromMin`. */
  overRoomC: number;
  /** Battery at `fromMin`, percent. */
  percent: number;
  /** Time constant of its cool-down. */
  coolTauMin: number;
  /** Time constant of its warm-up. */
  warmTauMin: number;
  /** Percent a minute on its charger, up to 80 %; half of it above. Null: it is not charged today. */
  chargePercentPerMin: number | null;
  /** What charging adds to the skin when it goes on for long. */
  chargeRiseC: number;
}

/** One run to be laid out: a step's repeat. */
export interface DayTask {
  id: string;
  deviceId: string;
  name: string;
  /** Length of the run. */
  minutes: number;
  /** Hands needed before it starts: setting up, cold readings. */
  prepareMin: number;
  /** Hands needed all the while. */
  attended: boolean;
  /** Skin over the room when it is played for long. */
  riseC: number;
  /** What it takes of the battery, percent a minute. */
  percentPerMin: number;
  demand: Demand;
  /** How much it is wanted: when the day is full the least wanted go first. */
  wanted: number;
  /** Ids of tasks that must have ended before. */
  after: string[];
}

export interface DayRules {
  /** Skin at a start, at most so much over the room. */
  startOverRoomC: number;
  /** Battery at a start, at least. */
  startPercent: number;
  /** Battery at an end, at least. */
  floorPercent: number;
  /** Charging begins and goes on only at most so much over the room. */
  chargeOverRoomC: number;
  /** Hands rest at least `restMin` in every `stretchMin`; null for no such rule. */
  hands: { restMin: number; stretchMin: number } | null;
}

/** Someone at the bench. */
export interface DayHand {
  /** Busy until then. */
  freeMin: number;
  /** When the work since the last rest began, and last ended; null after a rest. */
  work: { sinceMin: number; untilMin: number } | null;
}

/** All that a day's plan depends on. */
export interface DayProblem {
  /** Nothing starts before. */
  fromMin: number;
  /** Everything has ended by then; null for an open end. */
  finishByMin: number | null;
  devices: DayDevice[];
  /** In the card's order. */
  tasks: DayTask[];
  rules: DayRules;
  /** One or two. */
  hands: DayHand[];
  /** Whether runs on different devices may overlap. */
  parallel: boolean;
  order: 'light-to-heavy' | 'as-listed';
}

/** A day that cannot be planned as it stands. The message names the place, the remedy says what to do. */
export class PlanRefused extends Error {
  constructor(
    /** Which part: a device's or a task's id, or the name of a rule. */
    readonly place: string,
    message: string,
    readonly remedy: string,
  ) {
    super(message);
  }
}

/**
 * Refuses a day that makes no sense, before anything is computed.
 *
 * @throws PlanRefused
 */
export function checkProblem(problem: DayProblem): void {
  const { devices, tasks, rules, hands, fromMin, finishByMin } = problem;
  if (devices.length === 0)
    throw new PlanRefused('devices', 'The card has no device.', 'Add a device to the card.');
  if (tasks.length === 0)
    throw new PlanRefused('steps', 'All steps of the card are done.', 'Add a step, or choose a template.');
  if (hands.length < 1 || hands.length > 2)
    throw new PlanRefused(
      'hands',
      `A day can be planned for one or two people, not ${hands.length}.`,
      'Enter the number of people.',
    );
  if (finishByMin !== null && finishByMin <= fromMin)
    throw new PlanRefused(
      'finishBy',
      'The day ends before it starts.',
      'Enter a finish time after the start, or leave it empty.',
    );
  const known = new Set(devices.map((device) => device.id));
  for (const device of devices) checkDevice(device);
  if (rules.startOverRoomC <= 0)
    throw new PlanRefused(
      'startOverRoomC',
      'The start temperature must be above room temperature: a device never cools below it.',
      'Enter at least 1 °C above room; 3 °C is usual.',
    );
  for (const task of tasks) {
    if (!known.has(task.deviceId))
      throw new PlanRefused(task.id, `“${task.name}” has no device.`, 'Choose a device for the step.');
    if (!(task.minutes > 0))
      throw new PlanRefused(
        task.id,
        `“${task.name}” lasts ${task.minutes} minutes.`,
        'Give the step at least one minute.',
      );
    const work = task.prepareMin + (task.attended ? task.minutes : 0);
    if (rules.hands && work > rules.hands.stretchMin - rules.hands.restMin) {
      throw new PlanRefused(
        task.id,
        `“${task.name}” needs a person for ${work} minutes, which leaves no time for ${rules.hands.restMin} minutes of break in ${rules.hands.stretchMin}.`,
        'Split it into shorter steps, or turn off “Needs a person all the time”.',
      );
    }
  }
}

function checkDevice(device: DayDevice): void {
  if (!(device.percent >= 0 && device.percent <= 100))
    throw new PlanRefused(
      device.id,
      `${device.name} starts with ${device.percent} % of its battery.`,
      'Enter a percentage from 0 to 100.',
    );
  if (!(device.coolTauMin > 0 && device.warmTauMin > 0))
    throw new PlanRefused(
      device.id,
      `${device.name} has no valid cooling time.`,
      'Enter a cooling time above zero.',
    );
}
