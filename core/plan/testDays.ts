import { SeededRandom } from '../numbers/random';
import {
  DEMANDS,
  type DayDevice,
  type DayHand,
  type DayProblem,
  type DayRules,
  type DayTask,
} from './problem';

/** Days for tests: the plain parts, and random whole ones. */

export const RULES: DayRules = {
  startOverRoomC: 3,
  startPercent: 40,
  floorPercent: 15,
  chargeOverRoomC: 16,
  hands: { restMin: 10, stretchMin: 90 },
};

export const device = (id: string, more: Partial<DayDevice> = {}): DayDevice => ({
  id,
  name: id,
  fromMin: 0,
  overRoomC: 0,
  percent: 100,
  coolTauMin: 12,
  warmTauMin: 9,
  chargePercentPerMin: 1,
  chargeRiseC: 5,
  ...more,
});

export const task = (id: string, deviceId: string, more: Partial<DayTask> = {}): DayTask => ({
  id,
  deviceId,
  name: id,
  minutes: 20,
  prepareMin: 3,
  attended: true,
  riseC: 20,
  percentPerMin: 0.4,
  demand: 'medium',
  wanted: 3,
  after: [],
  ...more,
});

export const freshHand = (): DayHand => ({ freeMin: 0, work: null });

export const day = (devices: DayDevice[], tasks: DayTask[], more: Partial<DayProblem> = {}): DayProblem => ({
  fromMin: 0,
  finishByMin: null,
  devices,
  tasks,
  rules: RULES,
  hands: [freshHand()],
  parallel: true,
  order: 'light-to-heavy',
  ...more,
});

/** A random day: the same for the same seed. */
export function randomDay(seed: number, devices: number, tasks: number): DayProblem {
  const random = new SeededRandom(seed);
  const between = (low: number, high: number): number => low + random.below(high - low + 1);
  const kit = Array.from({ length: devices }, (_, d) =>
    device(`d${d}`, {
      overRoomC: random.uniform() < 0.4 ? between(0, 22) : 0,
      percent: between(45, 100),
      coolTauMin: between(6, 20),
      warmTauMin: between(5, 15),
      chargePercentPerMin: random.uniform() < 0.85 ? between(5, 15) / 10 : null,
      chargeRiseC: between(0, 8),
      fromMin: random.uniform() < 0.3 ? between(0, 30) : 0,
    }),
  );
  const steps = Array.from({ length: tasks }, (_, i) =>
    task(`t${i}`, `d${random.below(devices)}`, {
      minutes: between(4, 45),
      prepareMin: between(0, 5),
      attended: random.uniform() < 0.8,
      riseC: between(6, 26),
      percentPerMin: between(1, 9) / 10,
      demand: DEMANDS[random.below(4)]!,
      wanted: between(1, 9),
      after: i > 0 && random.uniform() < 0.15 ? [`t${random.below(i)}`] : [],
    }),
  );
  return day(kit, steps, {
    rules: { ...RULES, hands: random.uniform() < 0.7 ? RULES.hands : null },
    hands: random.uniform() < 0.7 ? [freshHand()] : [freshHand(), freshHand()],
    parallel: random.uniform() < 0.8,
    order: random.uniform() < 0.7 ? 'light-to-heavy' : 'as-listed',
  });
}
