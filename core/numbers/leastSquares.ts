/** A linear least squares problem solved: y ≈ Σ xⱼ·columnⱼ. */
export interface LeastSquares {
  /** Coefficients, in the order of the columns. */
  x: number[];
  /** Residual sum of squares. */
  rss: number;
  /** (AᵀA)⁻¹, by rows: the coefficients' covariance but for the variance of a reading. */
  inverse: number[][];
}

/** A column of which so little is left beside the others says nothing of its own. */
const DEPENDENT = 1e-10;

/**
 * Linear least squares by way of the columns made orthogonal (modified
 * Gram–Schmidt, twice): that keeps twice the digits of the normal equations.
 *
 * @param columns each as long as y
 * @returns null where a column is no column of its own: the readings say nothing of its coefficient
 * @source Björck (1967), "Solving linear least squares problems by Gram–Schmidt orthogonalization"
 * @example
 * leastSquares([[1, 1, 1], [0, 1, 2]], [1, 3, 5])?.x.map(Math.round); // [1, 2]
 */
export function leastSquares(columns: ArrayLike<number>[], y: ArrayLike<number>): LeastSquares | null {
  const p = columns.length;
  const n = y.length;
  const q = columns.map((column) => Float64Array.from(column));
  const r = Array.from({ length: p }, () => new Array<number>(p).fill(0));
  for (let j = 0; j < p; j++) {
    const own = q[j]!;
    const before = norm(own);
    // once more takes away what rounding has left of the others
    for (let pass = 0; pass < 2; pass++)
      for (let k = 0; k < j; k++) {
        const share = dot(q[k]!, own);
        r[k]![j]! += share;
        addTo(own, q[k]!, -share);
      }
    const left = norm(own);
    if (!(left > DEPENDENT * before)) return null;
    r[j]![j] = left;
    for (let i = 0; i < n; i++) own[i]! /= left;
  }
  const rest = Float64Array.from(y);
  const shares = q.map((own) => {
    const share = dot(own, rest);
    addTo(rest, own, -share);
    return share;
  });
  const inverseR = invertUpper(r);
  const x = inverseR.map((row) => row.reduce((sum, value, j) => sum + value * shares[j]!, 0));
  const inverse = inverseR.map((a) =>
    inverseR.map((b) => a.reduce((sum, value, j) => sum + value * b[j]!, 0)),
  );
  return { x, rss: dot(rest, rest), inverse };
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

const norm = (a: Float64Array): number => Math.sqrt(dot(a, a));

function addTo(a: Float64Array, b: Float64Array, times: number): void {
  for (let i = 0; i < a.length; i++) a[i]! += times * b[i]!;
}

/** The inverse of an upper triangle, row by row from below. */
function invertUpper(r: number[][]): number[][] {
  const p = r.length;
  const inverse = Array.from({ length: p }, () => new Array<number>(p).fill(0));
  for (let j = 0; j < p; j++) {
    inverse[j]![j] = 1 / r[j]![j]!;
    for (let i = j - 1; i >= 0; i--) {
      let sum = 0;
      for (let k = i + 1; k <= j; k++) sum += r[i]![k]! * inverse[k]![j]!;
      inverse[i]![j] = -sum / r[i]![i]!;
    }
  }
  return inverse;
}
