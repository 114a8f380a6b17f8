import { SUSTAINED_S } from '../figures/splits';
import { SeededRandom } from '../numbers/random';
import { rate } from '../words/headline';
import { climb, type LadderState, type Probe } from './ladder';

/** What is raised or lowered. */
export const LADDER_AXES = [
  'internal resolution',
  'detail',
  'power limit',
  'frame cap',
  'filter',
  'upscaling',
  'other',
] as const;
export type LadderAxis = (typeof LADDER_AXES)[number];

/** Rungs that one usually tries, the easiest for the device first. */
export const USUAL_RUNGS: Record<LadderAxis, readonly string[]> = {
  'internal resolution': ['1×', '2×', '3×', '4×', '5×', '6×', '8×', '10×'],
  detail: ['Low', 'Middle', 'High', 'Highest'],
  'power limit': ['25 W', '20 W', '15 W', '12 W', '10 W', '8 W', '6 W'],
  'frame cap': ['30', '40', '45', '60', '90', '120'],
  filter: ['none', 'linear', 'anisotropic 4×', 'anisotropic 16×'],
  upscaling: ['none', 'quality', 'balanced', 'performance'],
  other: [],
};

export interface Rung {
  name: string;
  /** Pixels that it draws; null where nobody noted it. */
  pixels: number | null;
}

/** What was seen on a rung: one of the three. */
export interface LadderProbe {
  id: string;
  rung: string;
  /** Speed of an emulator, percent. */
  percent: number | null;
  fps: number | null;
  holds: boolean | null;
  /** Shaders were compiled: it warms up, and is no probe. */
  firstPlay: boolean;
  /** What the device took meanwhile, W; null where nobody measured. */
  watts: number | null;
  note: string;
}

/** A search as it is written down. */
export interface LadderSearch {
  axis: LadderAxis;
  rungs: readonly Rung[];
  /** Pixels of the screen; null where nobody noted them. */
  outputPixels: number | null;
  /** Native or target rate, fps; null where it is not known. */
  full: number | null;
  /** Weights of none, the first rung and so on; null for even ones. */
  prior: readonly number[] | null;
  probes: readonly LadderProbe[];
}

/** Where a search stands. */
export interface SearchState extends LadderState {
  /** Rungs that draw more than the screen shows: offered last, and not searched. */
  wasted: boolean[];
  /** Probes that are still to come, on average; null at the end. */
  left: number | null;
  /** Speed of each rung as it was last seen, 1 is full; null where it was not tried. */
  seen: (number | null)[];
}

/** What stands for a speed where only "holds" or "does not" is known. */
const BY_WORD = { holds: 1, fails: 0.95 };

/** The speed that a probe shows; null where it cannot be told. */
export function probeSpeed({ percent, fps, holds }: LadderProbe, full: number | null): number | null {
  if (percent !== null) return percent / 100;
  if (fps !== null && full !== null && full > 0) return fps / full;
  return holds === null ? null : holds ? BY_WORD.holds : BY_WORD.fails;
}

/** A search over the rungs that can be seen, as {@link climb} takes it. */
interface Climb {
  wasted: boolean[];
  useful: number;
  prior: readonly number[] | null;
  probes: Probe[];
}

function toClimb({ rungs, outputPixels, full, probes, prior }: LadderSearch): Climb {
  const wasted = rungs.map(({ pixels }) => pixels !== null && outputPixels !== null && pixels > outputPixels);
  // the search goes over what can be seen; where nothing can, over all
  const useful = wasted.every(Boolean) ? rungs.length : usefulCount(wasted);
  const counted = probes.flatMap((probe): Probe[] => {
    const rung = 1 + rungs.findIndex((one) => one.name === probe.rung);
    if (rung === 0) throw new RangeError(`there is no setting “${probe.rung}”`);
    const speed = probeSpeed(probe, full);
    return probe.firstPlay || speed === null || rung > useful
      ? []
      : [{ rung, speed, holds: probe.holds ?? undefined }];
  });
  return { wasted, useful, prior: prior === null ? null : folded(prior, useful), probes: counted };
}

/** As likely as each rung is the one, over all of them. */
const overAll = (posterior: readonly number[], rungs: readonly Rung[]): number[] => [
  ...posterior,
  ...Array<number>(rungs.length + 1 - posterior.length).fill(0),
];

/**
 * What the probes of a search say by themselves, whatever was thought beforehand.
 *
 * @returns null where none counts
 * @throws RangeError as {@link climb}, and for a probe of a rung that is not there
 * @source docs/method.md, "Ladders"
 */
export function ownPosterior(search: LadderSearch): number[] | null {
  const { useful, probes } = toClimb({ ...search, prior: null });
  return probes.length === 0 ? null : overAll(climb(useful, null, probes).posterior, search.rungs);
}

/**
 * Where a search stands: what is known, what to try next, and how much is left.
 *
 * A rung that draws more pixels than the screen has is left out of the search
 * ("offered last"): what it would show cannot be seen.
 *
 * @throws RangeError as {@link climb}, and for a probe of a rung that is not there
 * @shown the ladder
 * @source docs/method.md, "Ladders"
 */
export function searchState(search: LadderSearch): SearchState {
  const { wasted, useful, prior, probes } = toClimb(search);
  const state = climb(useful, prior, probes);
  const seen = search.rungs.map(({ name }) => {
    const last = search.probes.findLast((probe) => probe.rung === name && !probe.firstPlay);
    return last ? probeSpeed(last, search.full) : null;
  });
  return {
    ...state,
    posterior: overAll(state.posterior, search.rungs),
    wasted,
    left: state.next === null ? null : probesLeft(useful, prior, probes),
    seen,
  };
}

/** Rungs up to the last that can be seen: the order of a ladder is one of load. */
const usefulCount = (wasted: readonly boolean[]): number => wasted.lastIndexOf(false) + 1;

/** A prior over fewer rungs: what lies above the last one counts as that one. */
function folded(prior: readonly number[], rungs: number): number[] {
  const kept = prior.slice(0, rungs + 1);
  for (const more of prior.slice(rungs + 1)) kept[rungs] = (kept[rungs] ?? 0) + more;
  return kept;
}

const SIMULATED = 60;
const MOST_PROBES = 30;
/** As often a probe shows the wrong thing. */
const WRONG = 0.05;

/** Searches whose end was thought through before: a list of ladders asks for each of them every time. */
const thought = new Map<string, number>();
const REMEMBERED = 2000;

/** How many probes are still to come, on average over seeded searches from here. */
function probesLeft(rungs: number, prior: readonly number[] | null, probes: readonly Probe[]): number {
  const key = JSON.stringify([rungs, prior, probes]);
  const before = thought.get(key);
  if (before !== undefined) return before;
  const left = simulated(rungs, prior, probes);
  if (thought.size >= REMEMBERED) thought.clear();
  thought.set(key, left);
  return left;
}

function simulated(rungs: number, prior: readonly number[] | null, probes: readonly Probe[]): number {
  const random = new SeededRandom(1);
  let spent = 0;
  // many rungs take long to think about: fewer searches tell enough
  const searches = Math.max(8, Math.floor(SIMULATED / Math.max(1, (rungs / 12) ** 2)));
  for (let i = 0; i < searches; i++) {
    let state = climb(rungs, prior, probes);
    const truth = drawn(state.posterior, random.uniform());
    for (let n = 0; state.next !== null && n < MOST_PROBES; n++) {
      const holds = state.next <= truth !== random.uniform() < WRONG;
      // what is known so far is the next search's prior: the same posterior, without doing it all again
      state = climb(rungs, state.posterior, [
        { rung: state.next, speed: holds ? BY_WORD.holds : BY_WORD.fails },
      ]);
      spent++;
    }
  }
  return spent / searches;
}

/**
 * Minutes that a search still takes: the probes to go, and the sustained run that confirms.
 *
 * @param probeMin how long one probe takes
 * @returns at least 1
 * @shown the step of a card that a ladder is climbed in
 * @source docs/method.md, "Ladders"
 */
export function minutesToGo({ left, stop, best }: SearchState, probeMin: number, confirmed: boolean): number {
  const sustainedMin = confirmed || (stop && best === 0) ? 0 : Math.ceil(SUSTAINED_S / 60);
  return Math.max(1, Math.ceil((left ?? 0) * probeMin) + sustainedMin);
}

/** The place at which a share of the probability is reached. */
function drawn(posterior: readonly number[], share: number): number {
  let sum = 0;
  for (const [k, p] of posterior.entries()) {
    sum += p;
    if (share < sum) return k;
  }
  return posterior.length - 1;
}

/**
 * What a sibling's search says beforehand: its posterior, smoothed.
 *
 * @source docs/method.md, "Ladders": p(k) ∝ Σ post(i)·e^(−|k−i|)
 * @example
 * siblingPrior([0, 1]).map((p) => Math.round(p * 100) / 100); // [0.27, 0.73]
 */
export function siblingPrior(posterior: readonly number[]): number[] {
  const weights = posterior.map((_, k) =>
    posterior.reduce((sum, p, i) => sum + p * Math.exp(-Math.abs(k - i)), 0),
  );
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  return weights.map((weight) => weight / total);
}

/** What a search is after: of power limits the lowest, of all else the highest. */
export const extremeOf = (axis: LadderAxis): 'lowest limit' | 'highest' =>
  axis === 'power limit' ? 'lowest limit' : 'highest';

/** A rung that comes so near to full speed is worth another backend. */
const NEARLY = 0.95;

/**
 * What to do next, and why.
 *
 * @source docs/method.md, "Ladders"
 */
export function sayNext(search: LadderSearch, state: SearchState): string {
  const { rungs, full } = search;
  const name = (k: number): string => rungs[k - 1]!.name;
  if (state.stop) {
    const sure = `${Math.round(state.sure * 100)}\u00a0%`;
    const first = state.seen[0];
    if (state.best === 0)
      return first !== null && first !== undefined && first >= NEARLY
        ? `Even the easiest setting, ${name(1)}, does not hold full speed (${sure} sure), but it is close${full === null ? '' : `: ${rate(first * full)} of ${rate(full)}`}. Try another backend first.`
        : `Even the easiest setting, ${name(1)}, does not hold full speed (${sure} sure).`;
    return `${name(state.best)} is the ${extremeOf(search.axis)} that holds (${sure} sure). Confirm it with one run of at least 15 minutes.`;
  }
  const more = state.left === null ? 0 : Math.max(1, Math.round(state.left));
  const probes = `probably ${more} more test${more === 1 ? '' : 's'}`;
  const why =
    state.seen[state.next! - 1] === null
      ? 'it halves what is still open'
      : 'the last result was close, so test it again';
  return `Test ${name(state.next!)} next: ${why}; ${probes}.`;
}
