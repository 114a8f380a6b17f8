/** A stretch of values with one mean: indices [from, to). */
export interface Piece {
  from: number;
  to: number;
  mean: number;
}

/**
 * Parts a series into stretches of constant mean, optimally: the least sum of
 * squared deviations from the stretches' means plus `penalty` for each change.
 *
 * @param x values, n of them
 * @param penalty price of a change, in the values' unit squared, at least 0
 * @param shortest fewest values in a stretch
 * @returns stretches in order; one when n < 2 · shortest; none when n = 0
 * @source Killick, Fearnhead and Eckley (2012), "Optimal detection of changepoints with a linear computational cost": the plain dynamic programme that their search prunes
 * @example
 * optimalPartition(Float64Array.of(1, 1, 1, 9, 9, 9), 1, 2); // [{ from: 0, to: 3, mean: 1 }, { from: 3, to: 6, mean: 9 }]
 */
export function optimalPartition(x: Float64Array, penalty: number, shortest: number): Piece[] {
  const n = x.length;
  if (n === 0) return [];
  // sums about the first value keep their digits
  const sums = new Float64Array(n + 1);
  const squares = new Float64Array(n + 1);
  for (let i = 0; i < n; i++) {
    const value = x[i]! - x[0]!;
    sums[i + 1] = sums[i]! + value;
    squares[i + 1] = squares[i]! + value * value;
  }
  const cost = (from: number, to: number): number => {
    const sum = sums[to]! - sums[from]!;
    return squares[to]! - squares[from]! - (sum * sum) / (to - from);
  };
  const best = new Float64Array(n + 1).fill(Infinity);
  const cut = new Int32Array(n + 1);
  best[0] = -penalty;
  for (let to = Math.min(shortest, n); to <= n; to++) {
    for (let from = 0; from <= to - shortest || from === 0; from++) {
      const total = best[from]! + cost(from, to) + penalty;
      if (total < best[to]!) {
        best[to] = total;
        cut[to] = from;
      }
    }
  }
  const pieces: Piece[] = [];
  for (let to = n; to > 0; to = cut[to]!)
    pieces.unshift({ from: cut[to]!, to, mean: x[0]! + (sums[to]! - sums[cut[to]!]!) / (to - cut[to]!) });
  return pieces;
}
