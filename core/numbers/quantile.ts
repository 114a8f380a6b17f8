/**
 * Quantile of an ascending sequence, linear between order statistics.
 *
 * @param sorted ascending values, any unit
 * @param p probability in [0, 1]
 * @returns the quantile in the values' unit, or null when there are none
 * @throws RangeError when p is outside [0, 1]
 * @source Hyndman and Fan (1996), "Sample Quantiles in Statistical Packages", type 7
 * @example
 * quantile([10, 20, 30, 40], 0.5); // 25
 */
export function quantile(sorted: ArrayLike<number>, p: number): number | null {
  if (!(p >= 0 && p <= 1)) throw new RangeError(`p must be between 0 and 1, not ${p}`);
  const n = sorted.length;
  if (n === 0) return null;
  const position = (n - 1) * p;
  const lower = Math.floor(position);
  const fraction = position - lower;
  const a = sorted[lower]!;
  if (fraction === 0 || lower + 1 >= n) return a;
  return a + fraction * (sorted[lower + 1]! - a);
}

/**
 * Median of values in any order.
 *
 * @param values numbers without NaN, any unit; left as they are
 * @returns the median in the values' unit, or null when there are none
 * @source the type 7 quantile at 0.5
 * @example
 * median([3, 1, 2]); // 2
 */
export function median(values: ArrayLike<number>): number | null {
  return quantile((values instanceof Float64Array ? values.slice() : Float64Array.from(values)).sort(), 0.5);
}
