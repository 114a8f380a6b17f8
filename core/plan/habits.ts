import { median } from '../numbers/quantile';
import { DEMANDS, type Demand } from './problem';

export const DEVICE_KINDS = ['phone', 'foldable', 'tablet', 'pocket-pc'] as const;
export type DeviceKind = (typeof DEVICE_KINDS)[number];

/** What is usual for a class of devices, for as long as a device has no runs of its own. */
interface ClassHabits {
  coolTauMin: number;
  warmTauMin: number;
  batteryWh: number;
  chargerW: number;
  /** Skin over the room when played for long, light to notorious, °C. */
  riseC: Record<Demand, number>;
  /** Draw of the whole device, light to notorious, W. */
  watts: Record<Demand, number>;
}

const byDemand = (
  light: number,
  medium: number,
  heavy: number,
  notorious: number,
): Record<Demand, number> => ({ light, medium, heavy, notorious });

/** Common practice, no source. Replaced by a device's own figures as soon as there are some. */
export const CLASS_HABITS: Record<DeviceKind, ClassHabits> = {
  phone: {
    coolTauMin: 11,
    warmTauMin: 8,
    batteryWh: 18,
    chargerW: 25,
    riseC: byDemand(13, 17, 22, 24),
    watts: byDemand(3, 4.5, 6, 7),
  },
  foldable: {
    coolTauMin: 11,
    warmTauMin: 8,
    batteryWh: 17,
    chargerW: 25,
    riseC: byDemand(12, 16, 21, 23),
    watts: byDemand(3.5, 5, 6.5, 7.5),
  },
  tablet: {
    coolTauMin: 16,
    warmTauMin: 12,
    batteryWh: 32,
    chargerW: 30,
    riseC: byDemand(9, 13, 17, 19),
    watts: byDemand(4.5, 6.5, 9, 10),
  },
  'pocket-pc': {
    coolTauMin: 8,
    warmTauMin: 6,
    batteryWh: 45,
    chargerW: 45,
    riseC: byDemand(12, 17, 22, 25),
    watts: byDemand(9, 13, 18, 22),
  },
};

/** What charging adds to the back of a phone when it goes on for long, °C. (Common practice, no source.) */
export const CHARGE_RISE_C = 5;
/** What of a charger's watts arrives in the battery. (Common practice, no source.) */
const CHARGE_SHARE = 0.8;

/** What a device's own runs and cool-downs say. */
export interface OwnFigures {
  /** Time constants of fitted cool-downs, minutes. */
  coolTauMin: number[];
  runs: OwnRun[];
}

export interface OwnRun {
  title: string;
  demand: Demand;
  /** Time constant of the hottest spot's warm-up, minutes; null without a fit that may be told. */
  warmTauMin: number | null;
  /** Where the hottest spot settles or, without a fit, its peak, over the room; null where either is unknown. */
  riseC: number | null;
  percentPerHour: number | null;
}

/** Where a figure of the plan comes from. */
export type CoolingFrom = 'own-cool-downs' | 'own-warm-ups' | 'class';
export type TaskFrom = 'own-title' | 'own-demand' | 'class';

export interface DeviceHabits {
  coolTauMin: number;
  warmTauMin: number;
  coolingFrom: CoolingFrom;
  /** Cool-downs or warm-ups that it comes from, counted. */
  coolingOf: number;
  chargePercentPerMin: number;
  chargeRiseC: number;
  batteryWh: number;
}

const middle = (values: number[]): number | null => (values.length === 0 ? null : median(values));
const known = (values: (number | null)[]): number[] => values.filter((value) => value !== null);

/**
 * How a device cools and charges: from its own cool-downs, else from its own
 * warm-ups (one body, one time constant), else from its class.
 *
 * @param batteryWh energy of its battery, or null where unknown
 * @param chargerW its charger's power, or null where unknown
 * @source Newton's law of cooling; medians over runs; class values are common practice
 * @example
 * deviceHabits('phone', 18, 25, { coolTauMin: [9, 12, 10], runs: [] }).coolTauMin; // 10
 */
export function deviceHabits(
  kind: DeviceKind,
  batteryWh: number | null,
  chargerW: number | null,
  own: OwnFigures,
): DeviceHabits {
  const usual = CLASS_HABITS[kind];
  const warmTaus = known(own.runs.map((run) => run.warmTauMin));
  const cool = middle(own.coolTauMin);
  const warm = middle(warmTaus);
  const wh = batteryWh ?? usual.batteryWh;
  return {
    coolTauMin: cool ?? warm ?? usual.coolTauMin,
    warmTauMin: warm ?? usual.warmTauMin,
    coolingFrom: cool !== null ? 'own-cool-downs' : warm !== null ? 'own-warm-ups' : 'class',
    coolingOf: cool !== null ? own.coolTauMin.length : warmTaus.length,
    chargePercentPerMin: (((chargerW ?? usual.chargerW) * CHARGE_SHARE) / wh / 60) * 100,
    chargeRiseC: CHARGE_RISE_C,
    batteryWh: wh,
  };
}

export interface TaskHabits {
  riseC: number;
  percentPerMin: number;
  riseFrom: TaskFrom;
  drainFrom: TaskFrom;
}

/**
 * What a title does to a device: from its own runs of that title, else of that
 * demand, else from its class.
 *
 * @param batteryWh energy of its battery, as `deviceHabits` says
 * @source medians over runs; class values are common practice
 * @example
 * taskHabits('phone', 18, { title: 'Aurelune', demand: 'heavy' }, { coolTauMin: [], runs: [] }).riseC; // 22
 */
export function taskHabits(
  kind: DeviceKind,
  batteryWh: number,
  task: { title: string; demand: Demand },
  own: OwnFigures,
): TaskHabits {
  const usual = CLASS_HABITS[kind];
  const same = own.runs.filter((run) => run.title.toLowerCase() === task.title.toLowerCase());
  const alike = own.runs.filter((run) => run.demand === task.demand);
  const find = (of: (run: OwnRun) => number | null, otherwise: number): { value: number; from: TaskFrom } => {
    const byTitle = middle(known(same.map(of)));
    if (byTitle !== null) return { value: byTitle, from: 'own-title' };
    const byDemands = middle(known(alike.map(of)));
    return byDemands !== null
      ? { value: byDemands, from: 'own-demand' }
      : { value: otherwise, from: 'class' };
  };
  const rise = find((run) => run.riseC, usual.riseC[task.demand]);
  const drain = find((run) => run.percentPerHour, (usual.watts[task.demand] / batteryWh) * 100);
  return {
    riseC: Math.max(0, rise.value),
    percentPerMin: Math.max(0, drain.value) / 60,
    riseFrom: rise.from,
    drainFrom: drain.from,
  };
}

/** Which demand a title is held for while nobody said. */
export const USUAL_DEMAND: Demand = DEMANDS[1];
