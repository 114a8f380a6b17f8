import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import tQuantile from '@stdlib/stats-base-dists-t-quantile';

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

/** Which way a fit may go: warming up or cooling down. */
export type Direction = 'up' | 'down';

/** τ is looked for between these parts of the time between first and last reading. */
const TAU_RANGE = 1000;
const GRID = 600;

/**
 * Fits an exponential approach by least squares.
 *
 * The sum of squares is scanned over τ (for a given τ the other parameters are
 * a straight line), its lowest inner minimum is refined, and the whole is left
 * to Levenberg and Marquardt's method. Where the sum has no minimum inside the
 * range of τ, the readings do not tell a final temperature, and there is no fit.
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
): ApproachFit | null {
  const n = t.length;
  const span = n > 0 ? t[n - 1]! - t[0]! : 0;
  const sign = direction === 'up' ? 1 : -1;
  if (n < (start === null ? 4 : 3) || span <= 0 || sign * (y[n - 1]! - y[0]!) <= 0) return null;
  const tau = bestTau(t, y, start, span);
  if (tau === null) return null;
  const refined = refine(t, y, start, tau);
  if (!Number.isFinite(refined.start) || sign * (refined.final - refined.start) <= 0) return null;
  return withErrors(t, y, start, refined);
}

interface Parameters {
  final: number;
  start: number;
  tau: number;
}

/** The straight line in 1 − exp(−t/τ) that fits best, and its sum of squares. */
function lineAt(t: number[], y: number[], start: number | null, tau: number): Parameters & { rss: number } {
  // from the first reading on, so that a small τ does not drive all terms to one number
  const origin = start === null ? t[0]! : 0;
  const f = t.map((time) => -Math.expm1(-(time - origin) / tau));
  const n = t.length;
  let offset: number;
  let rise: number;
  if (start === null) {
    const meanF = f.reduce((sum, value) => sum + value, 0) / n;
    const meanY = y.reduce((sum, value) => sum + value, 0) / n;
    let ff = 0;
    let fy = 0;
    f.forEach((value, i) => {
      ff += (value - meanF) ** 2;
      fy += (value - meanF) * (y[i]! - meanY);
    });
    rise = fy / ff;
    offset = meanY - rise * meanF;
  } else {
    rise =
      f.reduce((sum, value, i) => sum + value * (y[i]! - start), 0) /
      f.reduce((sum, value) => sum + value * value, 0);
    offset = start;
  }
  const rss = f.reduce((sum, value, i) => sum + (y[i]! - offset - rise * value) ** 2, 0);
  const final = offset + rise;
  return { final, start: start ?? final - rise * Math.exp(origin / tau), tau, rss };
}

/** τ of the lowest sum of squares, or null where that lies at the end of the range. */
function bestTau(t: number[], y: number[], start: number | null, span: number): number | null {
  const low = Math.log(span / TAU_RANGE);
  const step = (2 * Math.log(TAU_RANGE)) / GRID;
  const rssAt = (logTau: number): number => {
    const { rss } = lineAt(t, y, start, Math.exp(logTau));
    return Number.isNaN(rss) ? Infinity : rss;
  };
  const grid = Array.from({ length: GRID + 1 }, (_, i) => rssAt(low + i * step));
  const lowest = grid.reduce((best, rss, i) => (rss < grid[best]! ? i : best), 0);
  if (lowest === 0 || lowest === GRID || !Number.isFinite(grid[lowest]!)) return null;
  return Math.exp(goldenSection(rssAt, low + (lowest - 1) * step, low + (lowest + 1) * step));
}

/** The minimum of a function between two points (Kiefer, 1953). */
function goldenSection(f: (x: number) => number, a: number, b: number): number {
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [left, right] = [b - ratio * (b - a), a + ratio * (b - a)];
  let [fLeft, fRight] = [f(left), f(right)];
  for (let i = 0; i < 60; i++) {
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

const model =
  (final: number, start: number, tau: number) =>
  (time: number): number =>
    final - (final - start) * Math.exp(-time / tau);

function rssOf(t: number[], y: number[], { final, start, tau }: Parameters): number {
  const at = model(final, start, tau);
  return t.reduce((sum, time, i) => sum + (y[i]! - at(time)) ** 2, 0);
}

/** Levenberg–Marquardt from a start that is nearly there; the start itself where that gains nothing. */
function refine(t: number[], y: number[], start: number | null, tau: number): Parameters {
  const first = lineAt(t, y, start, tau);
  const free = start === null;
  const scale = Math.max(Math.abs(first.final - first.start), Number.MIN_VALUE);
  const fitted = levenbergMarquardt(
    { x: t, y },
    ([a, b, c]) => (free ? model(a!, c!, b!) : model(a!, start, b!)),
    {
      initialValues: free ? [first.final, first.tau, first.start] : [first.final, first.tau],
      gradientDifference: free ? [scale * 1e-6, tau * 1e-6, scale * 1e-6] : [scale * 1e-6, tau * 1e-6],
      centralDifference: true,
      damping: 1e-6,
      maxIterations: 100,
      errorTolerance: 0,
    },
  ).parameterValues;
  const refined: Parameters = { final: fitted[0]!, tau: fitted[1]!, start: free ? fitted[2]! : start };
  return refined.tau > 0 && rssOf(t, y, refined) < rssOf(t, y, first) ? refined : first;
}

function withErrors(
  t: number[],
  y: number[],
  given: number | null,
  { final, start, tau }: Parameters,
): ApproachFit {
  const rss = rssOf(t, y, { final, start, tau });
  const columns = t.map((time) => {
    const decay = Math.exp(-time / tau);
    const byTau = (-(final - start) * decay * time) / tau ** 2;
    return given === null ? [1 - decay, byTau, decay] : [1 - decay, byTau];
  });
  const parameters = columns[0]!.length;
  const degreesOfFreedom = t.length - parameters;
  const variances = inverseDiagonal(columns);
  const [seFinal, seTau, seStart] = variances.map((variance) =>
    Math.sqrt((variance * rss) / degreesOfFreedom),
  );
  return {
    final,
    start,
    tau,
    se: { final: seFinal!, start: seStart ?? null, tau: seTau! },
    rss,
    degreesOfFreedom,
  };
}

/** Diagonal of (JᵀJ)⁻¹, by way of J's columns made orthogonal: that keeps twice the digits of JᵀJ itself. */
function inverseDiagonal(rows: number[][]): number[] {
  const p = rows[0]!.length;
  const q = Array.from({ length: p }, (_, j) => rows.map((row) => row[j]!));
  const r = Array.from({ length: p }, () => new Array<number>(p).fill(0));
  const dot = (a: number[], b: number[]): number => a.reduce((sum, value, i) => sum + value * b[i]!, 0);
  for (let j = 0; j < p; j++) {
    for (let k = 0; k < j; k++) {
      r[k]![j] = dot(q[k]!, q[j]!);
      q[j] = q[j]!.map((value, i) => value - r[k]![j]! * q[k]![i]!);
    }
    r[j]![j] = Math.sqrt(dot(q[j]!, q[j]!));
    q[j] = q[j]!.map((value) => value / r[j]![j]!);
  }
  // rows of R⁻¹; the inverse's diagonal is the sum of their squares
  return Array.from({ length: p }, (_, i) => {
    const row = new Array<number>(p).fill(0);
    row[i] = 1 / r[i]![i]!;
    for (let j = i + 1; j < p; j++)
      row[j] =
        -Array.from({ length: j - i }, (_unused, m) => row[i + m]! * r[i + m]![j]!).reduce(
          (sum, value) => sum + value,
          0,
        ) / r[j]![j]!;
    return dot(row, row);
  });
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
 * @param lastT time of the last reading
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
 * @source the model solved for t: τ·ln((final − start)/(final − line))
 * @example
 * timeToReach({ final: 45, start: 20, tau: 600 }, 43); // 1515.4…
 */
export function timeToReach(fit: Pick<ApproachFit, 'final' | 'start' | 'tau'>, line: number): number | null {
  const left = (fit.final - fit.start) / (fit.final - line);
  return left >= 1 && Number.isFinite(left) ? fit.tau * Math.log(left) : null;
}
