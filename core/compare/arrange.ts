import type { RunPreflight } from '../runFile/lines';

/** How sides may be set beside each other. */
export const COMPARISON_KINDS = ['pair', 'before-after', 'field', 'matrix'] as const;
export type ComparisonKind = (typeof COMPARISON_KINDS)[number];

/** Sides at most. */
export const MOST_SIDES = 12;

/** What is known of a run where sides are made of runs. */
export interface RunToArrange {
  id: string;
  device: string;
  title: string;
  setup: string | null;
  startedAt: string | null;
  preflight?: RunPreflight;
}

export interface Arrangement {
  kind: ComparisonKind;
  /** Runs of each side. */
  sides: string[][];
}

/**
 * Makes sides of the runs that somebody chose: two runs against each other, else a side for each device.
 *
 * @returns null where there is nothing to set beside each other, or too much
 * @example
 * arrange([{ id: '1', device: 'Velm 5', title: 'Aurelune', setup: null, startedAt: null }, { id: '2', device: 'Velm 4', title: 'Aurelune', setup: null, startedAt: null }]).kind; // 'pair'
 */
export function arrange(runs: readonly RunToArrange[]): Arrangement | null {
  const devices = [...new Set(runs.map((run) => run.device))];
  const titles = new Set(runs.map((run) => run.title));
  if (runs.length === 2)
    return {
      kind: devices.length === 1 ? 'before-after' : 'pair',
      sides: inTime(runs).map((run) => [run.id]),
    };
  if (devices.length > MOST_SIDES) return null;
  if (devices.length > 1)
    return {
      kind: titles.size > 1 ? 'matrix' : devices.length === 2 ? 'pair' : 'field',
      sides: devices.map((device) => runs.filter((run) => run.device === device).map((run) => run.id)),
    };
  const [first, ...rest] = statesOf(runs);
  return first && rest.length > 0
    ? { kind: 'before-after', sides: [first, rest.flat()].map((side) => side.map((run) => run.id)) }
    : null;
}

const inTime = <T extends RunToArrange>(runs: readonly T[]): T[] =>
  [...runs].sort((a, b) => (a.startedAt ?? '').localeCompare(b.startedAt ?? ''));

/** Runs of one device in the order of time, parted where its state or what was played changed; else the first and the others. */
function statesOf(runs: readonly RunToArrange[]): RunToArrange[][] {
  const groups = new Map<string, RunToArrange[]>();
  for (const run of inTime(runs)) {
    const key = JSON.stringify([run.setup, ...STATES.map((fact) => run.preflight?.[fact])]);
    groups.set(key, [...(groups.get(key) ?? []), run]);
  }
  const found = [...groups.values()];
  if (found.length > 1) return found;
  const [first, ...others] = inTime(runs);
  return first && others.length > 0 ? [[first], others] : [];
}

/** Conditions that one changes to see what they do, the likelier first. */
const STATES = [
  'cooler',
  'coolerName',
  'case',
  'mode',
  'power',
  'screen',
  'titleVersion',
  'layer',
  'driver',
  'system',
] as const;

/** How a condition is said of a side. */
const STATE_WORDS: Record<(typeof STATES)[number], (value: string) => string> = {
  cooler: (value) => `${value} cooler`,
  coolerName: (value) => `with ${value}`,
  case: (value) => `case ${value}`,
  mode: (value) => `${value} mode`,
  power: (value) => (value === 'battery' ? 'on battery' : value),
  screen: (value) => `${value} screen`,
  titleVersion: (value) => `version ${value}`,
  layer: (value) => value,
  driver: (value) => `driver ${value}`,
  system: (value) => `system ${value}`,
};

/**
 * What sides are called: by their device; where that is the same, by the first thing in which they differ, at last by their dates.
 *
 * @example
 * sideNames([[{ id: '1', device: 'Velm 5', title: 'Aurelune', setup: null, startedAt: null, preflight: { cooler: 'with' } }], [{ id: '2', device: 'Velm 5', title: 'Aurelune', setup: null, startedAt: null, preflight: { cooler: 'without' } }]])[0]; // 'Velm 5, with cooler'
 */
export function sideNames(sides: readonly (readonly RunToArrange[])[]): string[] {
  const devices = sides.map((side) => one(side.map((run) => run.device)));
  if (allKnown(devices) && new Set(devices).size === devices.length) return devices;
  const device = devices.map((name) => name ?? 'several devices');
  const tell = [
    ...STATES.map((fact) => ({
      of: (run: RunToArrange): string | null => {
        const value = run.preflight?.[fact];
        return value === undefined ? null : STATE_WORDS[fact](value);
      },
    })),
    { of: (run: RunToArrange) => run.setup },
    { of: (run: RunToArrange) => run.startedAt?.slice(0, 10) ?? null },
    { of: (run: RunToArrange) => run.title },
  ];
  for (const { of } of tell) {
    const words = sides.map((side) => one(side.map(of)));
    if (allKnown(words) && new Set(words.map((word, i) => `${device[i]} ${word}`)).size === words.length)
      return words.map((word, i) => `${device[i]}, ${word}`);
  }
  return device.map((name, i) => `${name}, side ${i + 1}`);
}

const allKnown = (words: (string | null)[]): words is string[] => words.every((word) => word !== null);

/** What all have in common; null where they differ or one is unknown. */
function one(words: readonly (string | null)[]): string | null {
  const [first, ...others] = new Set(words);
  return others.length > 0 ? null : (first ?? null);
}
