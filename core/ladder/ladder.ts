import { atLeast } from '../numbers/threshold';

/** What was tried on one rung. */
export interface Probe {
  /** Place of the rung, from 1. */
  rung: number;
  /** Median pace as a share of the native or target rate. */
  speed: number;
  /** Full speed as frames show it; left out where only the speed is known. */
  holds?: boolean | undefined;
}

/** What is known of how high a title may be set. */
export interface LadderState {
  /** Probability that each rung is the highest that holds; the first is that none does. */
  posterior: number[];
  /** The likeliest, from 1; 0 where none holds. */
  best: number;
  sure: number;
  stop: boolean;
  /** Rung to try next, from 1; null at the end. */
  next: number | null;
}

/** A speed from here on is full speed: it holds. */
export const FULL_SPEED = 0.99;
/** How quickly doubt falls away from that line. */
const NEAR = 0.003;
const LEAST_DOUBT = 0.02;
const MOST_DOUBT = 0.5;
/** The doubt of a probe that is only thought of. */
const USUAL_DOUBT = 0.1;
/** One this likely ends the search. */
const SURE = 0.9;
const TIE = 1e-9;

/**
 * The highest rung that holds, by what was probed, and what to probe next.
 *
 * Each probe weighs the rungs by how far its speed is from the line; the next
 * one is that whose result leaves the least to be told, on a tie the lower.
 *
 * @param rungs at least one
 * @param prior weights of none, the first, the second and so on; null for even ones
 * @throws RangeError for a prior of another length, with negatives or of zeros, a rung that is none, a speed below 0
 * @shown (command line) the ladder
 * @source bisection with noise: Horstein (1963); Waeber, Frazier and Henderson (2013); docs/method.md, "Ladders"
 * @example
 * climb(3, null, []).next; // 2
 */
export function climb(rungs: number, prior: readonly number[] | null, probes: readonly Probe[]): LadderState {
  let posterior = normalised(checkedPrior(rungs, prior));
  for (const probe of probes) {
    if (!Number.isInteger(probe.rung) || probe.rung < 1 || probe.rung > rungs)
      throw new RangeError(`there is no setting ${probe.rung}`);
    if (!(probe.speed >= 0)) throw new RangeError('a speed is at least 0');
    posterior = normalised(
      weigh(posterior, probe.rung, probe.holds ?? atLeast(probe.speed, FULL_SPEED), doubtOf(probe)),
    );
  }
  const best = posterior.reduce((found, p, k) => (p > posterior[found]! + TIE ? k : found), 0);
  const sure = posterior[best]!;
  const stop = probes.length > 0 && atLeast(sure, SURE);
  return { posterior, best, sure, stop, next: stop ? null : nextRung(posterior) };
}

function checkedPrior(rungs: number, prior: readonly number[] | null): number[] {
  if (prior === null) return Array<number>(rungs + 1).fill(1);
  if (prior.length !== rungs + 1)
    throw new RangeError(
      `the starting point has ${prior.length} numbers; ${rungs} settings and “none” need ${rungs + 1}`,
    );
  if (!prior.every((p) => p >= 0 && Number.isFinite(p)))
    throw new RangeError('the numbers of the prior are at least 0');
  if (!prior.some((p) => p > 0)) throw new RangeError('one number of the prior has to be above 0');
  return [...prior];
}

/** How likely a probe is to be wrong: the more so, the nearer its speed is to the line. */
const doubtOf = ({ speed }: Probe): number =>
  Math.min(MOST_DOUBT, Math.max(LEAST_DOUBT, MOST_DOUBT * Math.exp(-Math.abs(speed - FULL_SPEED) / NEAR)));

/** Where the highest rung may be, after a probe. */
const weigh = (p: readonly number[], rung: number, holds: boolean, doubt: number): number[] =>
  p.map((value, k) => value * (rung <= k === holds ? 1 - doubt : doubt));

function normalised(p: readonly number[]): number[] {
  // by the greatest first: the sum of large weights is no number any more
  const most = Math.max(...p);
  const scaled = p.map((value) => value / most);
  const sum = scaled.reduce((total, value) => total + value, 0);
  return scaled.map((value) => value / sum);
}

/**
 * The rung whose result leaves the least expected entropy.
 *
 * What is left after a result is what there was, less what the result tells
 * (chain rule of entropy), and how often a probe is wrong is the same on every
 * rung: so it is the rung whose result is hardest to foresee.
 */
function nextRung(posterior: readonly number[]): number | null {
  let [best, most]: [number | null, number] = [null, -Infinity];
  let holds = 1;
  for (let rung = 1; rung < posterior.length; rung++) {
    holds -= posterior[rung - 1]!;
    const tells = hardToForesee(holds);
    if (tells > most + TIE) [best, most] = [rung, tells];
  }
  return best;
}

/** Entropy of a probe's result, nats. @param holds how likely the rung holds */
function hardToForesee(holds: number): number {
  const seen = USUAL_DOUBT + (1 - 2 * USUAL_DOUBT) * holds;
  return -(seen * Math.log(seen) + (1 - seen) * Math.log(1 - seen));
}

/**
 * What a probe of a rung tells: the entropy of its result, in nats, less the
 * same doubt for every rung.
 *
 * @param rung from 1
 */
export const whatItTells = (posterior: readonly number[], rung: number): number =>
  hardToForesee(1 - posterior.slice(0, rung).reduce((sum, p) => sum + p, 0));
