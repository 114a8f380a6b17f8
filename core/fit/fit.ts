import tQuantile from '@stdlib/stats-base-dists-t-quantile';
import { leastSquares, type LeastSquares } from '../numbers/leastSquares';

/** An approach to a final temperature: y = final − (final − start)·exp(−t/τ). */
export interface ApproachFit {
  final: number;
  start: number;
  /** Time constant, in the unit of t. */
  tau: number;
  /** Standard errors; `start` is null where it was given. */
  se: { final: number; start: number | null; tau: number };
  /** Residual sum of squares. */
  rss: number;
  /** Readings less parameters. */
  degreesOfFreedom: number;
}

/** An approach to one level after another, with one time constant. */
export interface SwitchedFit extends ApproachFit {
  /** Where each level would settle, with its standard error, in the order of their numbers. */
  levels: { settles: number; se: number }[];
  /** Covariance of two levels. */
  covariance: (a: number, b: number) => number;
}

/** When the level changes, and to which. */
export interface Switches {
  /** Times at which a stretch ends and the next begins, ascending; a reading at the very time is the earlier one's. */
  at: number[];
  /** Number of the level of each stretch, from 0: stretches may share one. Left out: each has its own. */
  levels?: number[];
}

/** Which way a fit may go: warming up or cooling down. */
export type Direction = 'up' | 'down';

/** τ is looked for between these parts of the time between first and last reading. */
const TAU_RANGE = 1000;
const GRID = 300;
/** So many readings are looked at while τ is scanned. */
const SCANNED = 2000;
/** What is left of a column's square beside the others, when rounding is all of it. */
const SINGULAR = 1e-13;
/** Of a weight, when the reading says nothing of it. */
const NOTHING_LEFT = 1e-30;
/** Steps of the last refinement at most; five are usual. */
const MOST_STEPS = 40;

/**
 * Fits an exponential approach by least squares.
 *
 * @param t times, any unit, ascending, on the run's clock
 * @param y values, °C
 * @param start the value at t = 0 where it is known; null to fit it
 * @param direction 'up' asks for a last value above the first and a final above the start; 'down' the reverse
 * @returns the fit, or null where the readings do not carry one
 * @source docs/method.md, "Warm-up fit"; separable least squares after Golub and Pereyra (1973); standard errors from the covariance s²(JᵀJ)⁻¹
 * @example
 * Math.round(fitApproach([0, 300, 600, 900, 1200], [20, 30.3, 36.5, 40.3, 42.5], null)?.final); // 46
 */
export function fitApproach(
  t: number[],
  y: number[],
  start: number | null,
  direction: Direction = 'up',
): SwitchedFit | null {
  const sign = direction === 'up' ? 1 : -1;
  if (t.length === 0 || sign * (y.at(-1)! - y[0]!) <= 0) return null;
  const fit = fitSwitched(t, y, { at: [] }, start);
  return fit && sign * (fit.final - fit.start) > 0 ? fit : null;
}

/**
 * Fits an approach whose level changes at known times: heat follows with one
 * time constant τ, towards a level that is constant within a stretch.
 *
 * For a given τ start and levels follow by linear least squares. The sum of
 * squares is scanned over τ, its lowest inner minimum is refined, and the whole
 * is brought to rest by Gauss and Newton's method on the analytic Jacobian.
 * Where the sum has no minimum inside the range of τ, the readings do not tell
 * where it goes, and there is no fit.
 *
 * @param t times, any unit, ascending, on the run's clock
 * @param y values, °C
 * @param switches each stretch with a reading of its own (`joinStretches`)
 * @param start the value at t = 0 where it is known; null to fit it
 * @returns the fit, `final` being the last stretch's level; null where the readings do not carry one
 * @shown settles at, with its ±
 * @source docs/method.md, "Warm-up fit"; separable least squares after Golub and Pereyra (1973)
 * @example
 * const t = [0, 300, 600, 900, 1200, 1500, 1800];
 * const y = [20, 30.3, 36.5, 40.3, 39.2, 38.5, 38.1];
 * fitSwitched(t, y, { at: [900] }, null)?.levels.map((level) => Math.round(level.settles)); // [46, 37]
 */
export function fitSwitched(
  t: number[],
  y: number[],
  switches: Switches,
  start: number | null,
): SwitchedFit | null {
  const n = t.length;
  const span = n > 0 ? t[n - 1]! - t[0]! : 0;
  const levels = levelsOf(switches);
  const parameters = levels + (start === null ? 2 : 1);
  if (n < parameters + 1 || span <= 0) return null;
  const problem: Problem = { t, y, switches, start, levels };
  const scanned = bestTau(problem, span);
  if (scanned === null) return null;
  const fit = refine(problem, scanned);
  return Number.isFinite(fit.start) ? withErrors(problem, fit) : null;
}

interface Problem {
  t: number[];
  y: number[];
  switches: Switches;
  start: number | null;
  levels: number;
}
interface Parameters {
  start: number;
  levels: number[];
  tau: number;
  rss: number;
}

const levelsOf = ({ at, levels }: Switches): number =>
  levels === undefined ? at.length + 1 : Math.max(...levels) + 1;

/** How much of the start and of each level is in each reading, and how that changes with τ. */
interface Weights {
  start: Float64Array;
  levels: Float64Array[];
}

/**
 * @param origin the time at which `start` holds
 * @param byTau derivatives with respect to τ instead of the weights themselves
 */
function weights({ t, switches, levels }: Problem, tau: number, origin: number, byTau: boolean): Weights {
  const n = t.length;
  const { at } = switches;
  const of: Weights = {
    start: new Float64Array(n),
    levels: Array.from({ length: levels }, () => new Float64Array(n)),
  };
  // what is left after so long, and its derivative; what has not begun is whole
  const left = (since: number): number => {
    if (since <= 0) return byTau ? 0 : 1;
    const decay = Math.exp(-since / tau);
    return byTau ? (decay * since) / tau ** 2 : decay;
  };
  for (let i = 0; i < n; i++) {
    const time = t[i]!;
    // before the origin the first stretch's curve goes on backwards
    const first = time - origin;
    const decay = Math.exp(-first / tau);
    let now = byTau ? (decay * first) / tau ** 2 : decay;
    of.start[i] = now;
    for (let k = 0; k <= at.length; k++) {
      const next = k === at.length ? (byTau ? 0 : 1) : left(time - at[k]!);
      of.levels[switches.levels?.[k] ?? k]![i]! += next - now;
      now = next;
    }
  }
  return of;
}

/** Start and levels that fit best with a τ; null where the readings say nothing of one of them. */
function solve(problem: Problem, tau: number): Parameters | null {
  const { t, y, start } = problem;
  // from the first reading on, so that a small τ does not drive all terms to one number
  const origin = start === null ? t[0]! : 0;
  const { start: ofStart, levels } = weights(problem, tau, origin, false);
  const solved: LeastSquares | null =
    start === null
      ? leastSquares([ofStart, ...levels], y)
      : leastSquares(
          levels,
          y.map((value, i) => value - start * ofStart[i]!),
        );
  if (!solved) return null;
  const found = start === null ? solved.x.slice(1) : solved.x;
  const first = found[problem.switches.levels?.[0] ?? 0]!;
  return {
    start: start ?? first - (first - solved.x[0]!) * Math.exp(origin / tau),
    levels: found,
    tau,
    rss: solved.rss,
  };
}

/** τ of the lowest sum of squares, or null where that lies at the end of the range. */
function bestTau(problem: Problem, span: number): number | null {
  const low = Math.log(span / TAU_RANGE);
  const step = (2 * Math.log(TAU_RANGE)) / GRID;
  const few = new Scan(thinned(problem));
  const grid = Array.from({ length: GRID + 1 }, (_, i) => few.rssAt(Math.exp(low + i * step)));
  const lowest = grid.reduce((best, rss, i) => (rss < grid[best]! ? i : best), 0);
  if (lowest === 0 || lowest === GRID || !Number.isFinite(grid[lowest]!)) return null;
  const all = new Scan(problem);
  // where few stand for many, the lowest of all may lie a step beside
  const around = problem.t.length > SCANNED ? 3 : 1;
  return Math.exp(
    goldenSection(
      (logTau) => all.rssAt(Math.exp(logTau)),
      low + (lowest - around) * step,
      low + (lowest + around) * step,
    ),
  );
}

/** Of many readings every so manieth, and the first of each stretch: enough to see where the lowest sum lies. */
function thinned(problem: Problem): Problem {
  const every = Math.ceil(problem.t.length / SCANNED);
  if (every === 1) return problem;
  const { t, switches } = problem;
  const begins = (i: number): boolean => switches.at.some((at) => t[i - 1]! <= at && at < t[i]!);
  const kept = t.flatMap((_, i) => (i % every === 0 || begins(i) ? [i] : []));
  return { ...problem, t: kept.map((i) => problem.t[i]!), y: kept.map((i) => problem.y[i]!) };
}

/**
 * Sums of squares for many τ, quickly: by the normal equations, of values about
 * their mean (the weights of a reading add up to one, so that nothing else
 * changes), with the residuals summed themselves. What is found is solved anew
 * with all its digits.
 */
class Scan {
  private readonly y: Float64Array;
  private readonly origin: number;
  private readonly size: number;
  /** Of one reading after the other: its weights. */
  private readonly rows: Float64Array;
  private readonly used: Int32Array;
  private readonly stretches: Int32Array;
  private readonly normal: Float64Array;
  private readonly decays: Float64Array;
  private readonly given: number;

  constructor(private readonly problem: Problem) {
    const { t, y, start, levels, switches } = problem;
    const mean = y.reduce((sum, value) => sum + value, 0) / y.length;
    this.y = Float64Array.from(y, (value) => value - mean);
    this.given = start === null ? 0 : start - mean;
    this.origin = start === null ? t[0]! : 0;
    this.size = levels + 1;
    this.rows = new Float64Array(t.length * this.size);
    this.used = new Int32Array(t.length);
    this.normal = new Float64Array(this.size * (this.size + 1));
    this.decays = new Float64Array(switches.at.length);
    let stretch = 0;
    this.stretches = Int32Array.from(t, (time) => {
      while (stretch < switches.at.length && switches.at[stretch]! < time) stretch++;
      return stretch;
    });
  }

  rssAt(tau: number): number {
    const { t, start } = this.problem;
    const { rows, size, y, used } = this;
    // the start is a coefficient like the levels where it is free
    const first = start === null ? 0 : 1;
    const p = size - first;
    const { normal } = this;
    normal.fill(0);
    this.decay(tau);
    for (let i = 0; i < t.length; i++) {
      this.weigh(i, tau);
      const from = i * size + first;
      const own = used[i]! - first;
      const value = y[i]! - first * this.given * rows[i * size]!;
      for (let a = 0; a < own; a++) {
        const row = a * (p + 1);
        const weight = rows[from + a]!;
        if (weight === 0) continue;
        for (let b = a; b < own; b++) normal[row + b]! += weight * rows[from + b]!;
        normal[row + p]! += weight * value;
      }
    }
    const x = solveSymmetric(normal, p);
    if (!x) return Infinity;
    let rss = 0;
    for (let i = 0; i < t.length; i++) {
      const from = i * size + first;
      const own = used[i]! - first;
      let rest = y[i]! - first * this.given * rows[i * size]!;
      for (let a = 0; a < own; a++) rest -= x[a]! * rows[from + a]!;
      rss += rest * rest;
    }
    return Number.isNaN(rss) ? Infinity : rss;
  }

  /** A reading says nothing of levels that come after it: so many of its row are used. */
  private weigh(i: number, tau: number): void {
    const { rows, size, origin, decays } = this;
    const { t, switches } = this.problem;
    const at = i * size;
    rows.fill(0, at, at + size);
    const stretch = this.stretches[i]!;
    // what is left of each stretch's end, from the last backwards: one exponential a reading
    let left = Math.exp(-(t[i]! - (stretch === 0 ? origin : switches.at[stretch - 1]!)) / tau);
    if (left < NOTHING_LEFT) left = 0;
    let after = 1;
    let used = 1;
    for (let k = stretch; k >= 0; k--) {
      const level = 1 + (switches.levels?.[k] ?? k);
      rows[at + level] = rows[at + level]! + after - left;
      if (level >= used) used = level + 1;
      after = left;
      if (k > 0) left *= decays[k - 1]!;
      // numbers too small to be held whole are slow to reckon with
      if (left < NOTHING_LEFT) left = 0;
    }
    rows[at] = after;
    this.used[i] = used;
  }

  /** What a stretch leaves of what was before it. */
  private decay(tau: number): void {
    const { at } = this.problem.switches;
    for (let k = 0; k < at.length; k++)
      this.decays[k] = Math.exp(-(at[k]! - (k === 0 ? this.origin : at[k - 1]!)) / tau);
  }
}

/** Cholesky's way with the upper half of a symmetric matrix, by rows of p and their right side; null where it is singular. */
function solveSymmetric(rows: Float64Array, p: number): Float64Array | null {
  const width = p + 1;
  for (let k = 0; k < p; k++) {
    const own = k * width;
    const before = rows[own + k]!;
    for (let i = 0; i < k; i++) {
      const above = i * width;
      const share = rows[above + k]! / rows[above + i]!;
      for (let j = k; j <= p; j++) rows[own + j]! -= share * rows[above + j]!;
    }
    if (!(rows[own + k]! > SINGULAR * before)) return null;
  }
  const x = new Float64Array(p);
  for (let k = p - 1; k >= 0; k--) {
    let sum = rows[k * width + p]!;
    for (let j = k + 1; j < p; j++) sum -= rows[k * width + j]! * x[j]!;
    x[k] = sum / rows[k * width + k]!;
  }
  return x;
}

/** The minimum of a function between two points (Kiefer, 1953). */
function goldenSection(f: (x: number) => number, a: number, b: number): number {
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [left, right] = [b - ratio * (b - a), a + ratio * (b - a)];
  let [fLeft, fRight] = [f(left), f(right)];
  // near enough for steps by derivatives to bring it to rest
  for (let i = 0; i < 24; i++) {
    if (fLeft <= fRight) {
      b = right;
      [right, fRight] = [left, fLeft];
      left = b - ratio * (b - a);
      fLeft = f(left);
    } else {
      a = left;
      [left, fLeft] = [right, fRight];
      right = a + ratio * (b - a);
      fRight = f(right);
    }
  }
  return (a + b) / 2;
}

/** Derivatives of every reading by start (where it is free), levels and τ. */
function jacobian(problem: Problem, { start, levels, tau }: Parameters): Float64Array[] {
  const of = weights(problem, tau, 0, false);
  const change = weights(problem, tau, 0, true);
  const byTau = change.start.map((value, i) =>
    levels.reduce((sum, level, k) => sum + level * change.levels[k]![i]!, start * value),
  );
  return problem.start === null ? [of.start, ...of.levels, byTau] : [...of.levels, byTau];
}

function residuals(problem: Problem, { start, levels, tau }: Parameters): Float64Array {
  const of = weights(problem, tau, 0, false);
  return of.start.map(
    (value, i) =>
      problem.y[i]! - levels.reduce((sum, level, k) => sum + level * of.levels[k]![i]!, start * value),
  );
}

/** Gauss and Newton's steps in τ, with the rest solved anew, for as long as they gain anything. */
function refine(problem: Problem, tau: number): Parameters {
  let best = solve(problem, tau)!;
  for (let step = 0; step < MOST_STEPS; step++) {
    const towards = leastSquares(jacobian(problem, best), residuals(problem, best));
    const change = towards?.x.at(-1);
    if (change === undefined || !Number.isFinite(change) || best.tau + change <= 0) return best;
    const next = solve(problem, best.tau + change);
    if (!next || next.rss >= best.rss || next.tau === best.tau) return best;
    best = next;
  }
  return best;
}

function withErrors(problem: Problem, fit: Parameters): SwitchedFit | null {
  const free = problem.start === null;
  const errors = residuals(problem, fit);
  const rss = errors.reduce((sum, value) => sum + value * value, 0);
  const spread = leastSquares(jacobian(problem, fit), errors);
  if (!spread) return null;
  const parameters = fit.levels.length + (free ? 2 : 1);
  const degreesOfFreedom = problem.t.length - parameters;
  const variance = rss / degreesOfFreedom;
  const covariance = (a: number, b: number): number => variance * spread.inverse[a]![b]!;
  const se = (i: number): number => Math.sqrt(covariance(i, i));
  const firstLevel = free ? 1 : 0;
  const last = problem.switches.levels?.at(-1) ?? fit.levels.length - 1;
  return {
    final: fit.levels[last]!,
    start: fit.start,
    tau: fit.tau,
    se: { final: se(firstLevel + last), start: free ? se(0) : null, tau: se(parameters - 1) },
    rss,
    degreesOfFreedom,
    levels: fit.levels.map((settles, k) => ({ settles, se: se(firstLevel + k) })),
    covariance: (a, b) => covariance(firstLevel + a, firstLevel + b),
  };
}

/**
 * Half the width of a two-sided interval in standard errors.
 *
 * @param degreesOfFreedom at least 1
 * @param level for instance 0.95
 * @source Student's t
 * @example
 * tWidth(10); // 2.228…
 */
export function tWidth(degreesOfFreedom: number, level = 0.95): number {
  return tQuantile(1 - (1 - level) / 2, degreesOfFreedom);
}

/** What a fit is good for. */
export interface FitVerdict {
  /** The last reading lies three time constants in, or later. */
  settled: boolean;
  /** The final value may be told: enough of the curve was seen, and τ is known to better than itself. */
  forecast: boolean;
}

/**
 * @param lastT time of the last reading, since the last switch
 * @shown whether a forecast is told
 * @source docs/method.md, "Warm-up fit"
 */
export function judgeFit(fit: ApproachFit, lastT: number): FitVerdict {
  const width = 2 * tWidth(fit.degreesOfFreedom) * fit.se.tau;
  return {
    settled: lastT >= 3 * fit.tau - 1e-9,
    forecast: lastT >= 0.7 * fit.tau - 1e-9 && width <= fit.tau + 1e-9,
  };
}

/**
 * When a warm-up reaches a line.
 *
 * @param line in the unit of y
 * @returns time on the fit's clock, or null where the line lies at or above the final value, or below the start
 * @shown 43 °C at
 * @source the model solved for t: τ·ln((final − start)/(final − line))
 * @example
 * timeToReach({ final: 45, start: 20, tau: 600 }, 43); // 1515.4…
 */
export function timeToReach(fit: Pick<ApproachFit, 'final' | 'start' | 'tau'>, line: number): number | null {
  const left = (fit.final - fit.start) / (fit.final - line);
  return left >= 1 && Number.isFinite(left) ? fit.tau * Math.log(left) : null;
}
