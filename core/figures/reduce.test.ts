import fc from 'fast-check';
import { reduceSeries } from './reduce';

describe('reduceSeries', () => {
  it('keeps a short series as it is, void seconds as null', () =>
    expect(reduceSeries(Float64Array.of(60, NaN, 59), 600)).toEqual([
      [0, 60],
      [1, null],
      [2, 59],
    ]));

  it('keeps the least and the greatest value of any series within the limit', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 240, noNaN: true }), { minLength: 30, maxLength: 500 }),
        fc.integer({ min: 2, max: 20 }),
        (values, limit) => {
          const points = reduceSeries(Float64Array.from(values), limit);
          expect(points.length).toBeLessThanOrEqual(limit);
          const kept = points.map(([, value]) => value!);
          expect(Math.min(...kept)).toBe(Math.min(...values));
          expect(Math.max(...kept)).toBe(Math.max(...values));
          expect(points.map(([at]) => at)).toEqual(points.map(([at]) => at).sort((a, b) => a - b));
        },
      ),
    );
  });

  it('shows a stretch without data as one', () => {
    const values = new Float64Array(100).fill(60).fill(NaN, 50, 75);
    expect(reduceSeries(values, 8)).toContainEqual([50, null]);
  });
});
