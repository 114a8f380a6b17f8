/** A point of a reduced series: seconds on the run's clock and a value, null where there is none. */
export type SeriesPoint = [atS: number, value: number | null];

/**
 * Reduces a per-second series to at most `limit` points for a chart, keeping
 * the least and the greatest value of every stretch, so that a short freeze
 * stays visible in an hour.
 *
 * @param perSecond values, NaN where a second is void
 * @param limit how many points at most, at least 2
 * @returns points in order of time, two for each stretch of equal length where the series is longer than the limit; null where a stretch is void
 * @shown points of the pace chart
 * @source min–max decimation, common practice in signal display
 * @example
 * reduceSeries(Float64Array.of(60, 60, 0, 60), 2); // [[0, 60], [2, 0]]
 */
export function reduceSeries(perSecond: Float64Array, limit: number): SeriesPoint[] {
  const point = (second: number): SeriesPoint => [
    second,
    Number.isNaN(perSecond[second]!) ? null : perSecond[second]!,
  ];
  if (perSecond.length <= limit) return Array.from(perSecond, (_, second) => point(second));
  const stretches = Math.floor(limit / 2);
  const points: SeriesPoint[] = [];
  for (let stretch = 0; stretch < stretches; stretch++) {
    const from = Math.floor((stretch * perSecond.length) / stretches);
    const to = Math.floor(((stretch + 1) * perSecond.length) / stretches);
    let low = -1;
    let high = -1;
    for (let second = from; second < to; second++) {
      const value = perSecond[second]!;
      if (Number.isNaN(value)) continue;
      if (low < 0 || value < perSecond[low]!) low = second;
      if (high < 0 || value > perSecond[high]!) high = second;
    }
    // always two points a stretch, so that a chart may space them evenly
    if (low < 0) points.push([from, null], [to - 1, null]);
    else if (low === high) points.push([from, perSecond[low]!], [to - 1, perSecond[low]!]);
    else points.push(point(Math.min(low, high)), point(Math.max(low, high)));
  }
  return points;
}
