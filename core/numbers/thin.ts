/**
 * Leaves out what a picture cannot show of a long series: the first, the last
 * and the extremes of every stretch stay.
 *
 * @param items in order
 * @param most how many are left at most, at least 4
 * @param value what is drawn of each
 * @returns the items themselves where there are no more than that
 * @source min–max decimation, common practice in signal display
 * @example
 * thin([5, 1, 9, 5, 5, 5, 5, 5], 6, (value) => value); // [5, 1, 9, 5, 5]
 */
export function thin<T>(items: T[], most: number, value: (item: T) => number): T[] {
  const n = items.length;
  if (n <= most) return items;
  const stretches = Math.floor((most - 2) / 2);
  const kept = new Set([0, n - 1]);
  for (let stretch = 0; stretch < stretches; stretch++) {
    const from = Math.floor((stretch * n) / stretches);
    const to = Math.floor(((stretch + 1) * n) / stretches);
    let low = from;
    let high = from;
    for (let i = from; i < to; i++) {
      if (value(items[i]!) < value(items[low]!)) low = i;
      if (value(items[i]!) > value(items[high]!)) high = i;
    }
    kept.add(low).add(high);
  }
  return [...kept].sort((a, b) => a - b).map((i) => items[i]!);
}

/** The greatest of many values; −Infinity of none. (A spread into Math.max ends at some ten thousand.) */
export const greatest = (values: Iterable<number>): number => {
  let most = -Infinity;
  for (const value of values) if (value > most) most = value;
  return most;
};

/** The least of many values; Infinity of none. */
export const least = (values: Iterable<number>): number => {
  let most = Infinity;
  for (const value of values) if (value < most) most = value;
  return most;
};
