import { planDay, type DayDevice, type DayProblem, type DayTask, type Demand } from '@pace-check/core';

const DEMANDS: Demand[] = ['light', 'medium', 'heavy'];
const DEVICES = 6;
const STEPS = 60;

/** A long weekend's bench: six devices, sixty steps, one pair of hands. */
function longDay(finishByMin: number | null): DayProblem {
  const devices = Array.from({ length: DEVICES }, (_, d): DayDevice => ({
    id: `d${d}`,
    name: `Device ${d}`,
    fromMin: 540,
    overRoomC: d % 2 ? 6 : 0,
    percent: 70 + 5 * d,
    coolTauMin: 8 + 2 * d,
    warmTauMin: 7 + d,
    chargePercentPerMin: 1 + 0.2 * d,
    chargeRiseC: 5,
  }));
  const tasks = Array.from({ length: STEPS }, (_, i): DayTask => ({
    id: `t${i}`,
    deviceId: `d${i % DEVICES}`,
    name: `Step ${i}`,
    minutes: 10 + ((i * 7) % 26),
    prepareMin: 3,
    attended: i % 5 !== 0,
    riseC: 12 + 5 * (i % 3),
    percentPerMin: 0.25 + 0.1 * (i % 3),
    demand: DEMANDS[i % 3]!,
    wanted: 1 + ((i * 5) % 9),
    after: [],
  }));
  return {
    fromMin: 540,
    finishByMin,
    devices,
    tasks,
    rules: {
      startOverRoomC: 3,
      startPercent: 50,
      floorPercent: 20,
      chargeOverRoomC: 16,
      hands: { restMin: 10, stretchMin: 90 },
    },
    hands: [{ freeMin: 540, work: null }],
    parallel: true,
    order: 'light-to-heavy',
  };
}

export interface PlannerFigures {
  ms: number;
  finishMin: number;
  boundMin: number;
  dropped: number;
}

/** How long the planner takes for such a day, and how far it ends from the bound. */
export function measurePlanner(finishByMin: number | null): PlannerFigures {
  const start = performance.now();
  const { finishMin, boundMin, dropped } = [...planDay(longDay(finishByMin))].at(-1)!;
  return { ms: performance.now() - start, finishMin, boundMin, dropped: dropped.length };
}
