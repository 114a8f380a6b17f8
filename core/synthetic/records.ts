import type { DeviceKind } from '../plan/habits';

/** A score of a synthetic benchmark, as it was read. */
export interface SyntheticScore {
  device: string;
  /** Class of the device; null where the kit does not know. */
  kind: DeviceKind | null;
  tool: string;
  version: string;
  /** One score for each time it was run, in their order. */
  scores: readonly number[];
}

/** A stress loop: the same work over and over. */
export interface StressLoop {
  first: number;
  last: number;
  lowest: number;
  /** Last over first. */
  ratio: number;
}

/**
 * What is left of a score when the work is repeated.
 *
 * @param scores in their order, each above 0
 * @returns null for fewer than two
 * @shown Synthetic scores: loop
 * @source docs/method.md, "Synthetic scores"
 * @example
 * stressLoop([4000, 3600, 3000])?.ratio; // 0.75
 */
export function stressLoop(scores: readonly number[]): StressLoop | null {
  const [first] = scores;
  const last = scores.at(-1);
  if (scores.length < 2 || first === undefined || last === undefined) return null;
  return { first, last, lowest: Math.min(...scores), ratio: last / first };
}

/** A score so many times the best of its class is another tool's, or a slip of the pen. */
const BEYOND = 2;
/** Devices of the class that are asked for before anything is questioned. */
const LEAST_DEVICES = 2;

/**
 * Why a score is questioned: no device of its class that the same version of
 * the tool was run on came near it.
 *
 * @returns the device of the class that did best, and how many times as much this is; null where nothing is questioned
 * @shown Synthetic scores: questioned
 * @source docs/method.md, "Synthetic scores"; common practice
 * @example
 * questionScore({ device: 'A', kind: 'phone', tool: 'T', version: '1', scores: [9000] }, [{ device: 'B', kind: 'phone', tool: 'T', version: '1', scores: [3000] }, { device: 'C', kind: 'phone', tool: 'T', version: '1', scores: [2500] }]); // { best: 'B', times: 3 }
 */
export function questionScore(
  one: SyntheticScore,
  all: readonly SyntheticScore[],
): { best: string; times: number } | null {
  const own = Math.max(...one.scores);
  const others = new Map<string, number>();
  for (const other of all)
    if (
      other.device !== one.device &&
      other.tool === one.tool &&
      other.version === one.version &&
      other.kind === one.kind
    )
      others.set(other.device, Math.max(others.get(other.device) ?? 0, ...other.scores));
  if (others.size < LEAST_DEVICES) return null;
  const [best, most] = [...others].reduce((a, b) => (b[1] > a[1] ? b : a));
  return own >= BEYOND * most ? { best, times: own / most } : null;
}
