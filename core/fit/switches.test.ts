import fc from 'fast-check';
import { Matrix, pseudoInverse } from 'ml-matrix';
import { leastSquares } from '../numbers/leastSquares';
import { SeededRandom } from '../numbers/random';
import { fitApproach, fitSwitched, tWidth } from './fit';
import { joinStretches } from './switches';

/** The model as METHOD writes it, term by term. */
const curve =
  (start: number, levels: number[], at: number[], tau: number) =>
  (time: number): number => {
    const e = (since: number): number => Math.exp(-Math.max(0, since) / tau);
    const ends = [...at.map((b) => e(time - b)), 1];
    return levels.reduce(
      (sum, level, k) => sum + level * (ends[k]! - (k === 0 ? Math.exp(-time / tau) : ends[k - 1]!)),
      start * Math.exp(-time / tau),
    );
  };
const EVERY_MINUTE = Array.from({ length: 31 }, (_, i) => i * 60);

describe('an approach with switches', () => {
  it('finds its parameters again from exact readings', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 15, max: 30, noNaN: true }),
        fc.array(fc.double({ min: 30, max: 55, noNaN: true }), { minLength: 2, maxLength: 4 }),
        fc.double({ min: 120, max: 900, noNaN: true }),
        (start, levels, tau) => {
          const at = levels.slice(1).map((_, k) => ((k + 1) * 1800) / levels.length);
          // levels that hardly differ say little of τ
          fc.pre(levels.every((level, k) => Math.abs(level - (levels[k - 1] ?? start)) > 2));
          const fit = fitSwitched(
            EVERY_MINUTE,
            EVERY_MINUTE.map(curve(start, levels, at, tau)),
            { at },
            null,
          )!;
          expect(fit.tau / tau).toBeCloseTo(1, 5);
          expect(fit.start).toBeCloseTo(start, 4);
          fit.levels.forEach(({ settles }, k) => expect(settles).toBeCloseTo(levels[k]!, 3));
          expect(fit.final).toBe(fit.levels.at(-1)!.settles);
        },
      ),
      { numRuns: 60 },
    ));

  it('with no switch is the plain approach, with a given start too', () => {
    const y = EVERY_MINUTE.map((time, i) => curve(20, [44], [], 500)(time) + (i % 3) / 10);
    for (const start of [null, 20]) {
      const { levels, covariance: _, ...plain } = fitSwitched(EVERY_MINUTE, y, { at: [] }, start)!;
      expect(fitApproach(EVERY_MINUTE, y, start)).toMatchObject(plain);
      expect(levels).toEqual([{ settles: plain.final, se: plain.se.final }]);
    }
  });

  it('lets stretches share a level: a cooler that is clipped on, off and on again', () => {
    const at = [500, 900, 1300];
    const levels = [45, 36, 45, 36];
    const y = EVERY_MINUTE.map(curve(22, levels, at, 300));
    const fit = fitSwitched(EVERY_MINUTE, y, { at, levels: [0, 1, 0, 1] }, null)!;
    expect(fit.levels).toHaveLength(2);
    expect(fit.levels[0]!.settles).toBeCloseTo(45, 5);
    expect(fit.levels[1]!.settles).toBeCloseTo(36, 5);
    expect(fit.degreesOfFreedom).toBe(31 - 4);
  });

  it('needs a reading more than it has parameters, and one in each stretch', () => {
    const y = curve(20, [40, 30], [600], 300);
    const four = [0, 300, 600, 900];
    expect(fitSwitched(four, four.map(y), { at: [600] }, null)).toBeNull();
    const five = [0, 300, 600, 900, 1200];
    expect(fitSwitched(five, five.map(y), { at: [600] }, null)).not.toBeNull();
    expect(fitSwitched(four, four.map(y), { at: [600] }, 20)).not.toBeNull();
    // nothing was read of the second level
    expect(fitSwitched(five, five.map(y), { at: [1300] }, null)).toBeNull();
  });

  it('meets true levels within their 95 % intervals about as often as it says', () => {
    const [start, levels, at, tau] = [21, [46, 40], [840], 420] as const;
    const y = curve(start, [...levels], [...at], tau);
    let met = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const random = new SeededRandom(seed);
      // a sum of twelve: near enough to normal, 0.2 °C
      const noise = (): number =>
        0.2 * (Array.from({ length: 12 }, () => random.uniform()).reduce((a, b) => a + b) - 6);
      const fit = fitSwitched(
        EVERY_MINUTE,
        EVERY_MINUTE.map((time) => y(time) + noise()),
        { at: [...at] },
        null,
      )!;
      const half = tWidth(fit.degreesOfFreedom);
      if (fit.levels.every(({ settles, se }, k) => Math.abs(settles - levels[k]!) <= half * se)) met++;
    }
    // both at once: two intervals of 95 %
    expect(met).toBeGreaterThanOrEqual(86);
  });
});

describe('stretches', () => {
  it('without a reading join the next, the last the one before; of one state they are one', () => {
    const states = (t: number[]): [string, number][] =>
      joinStretches(t, [
        { to: 100, state: 'plain' },
        { to: 200, state: 'cooler' },
        { to: Infinity, state: 'plain' },
      ]).map(({ state, to }) => [state, to]);
    expect(states([50, 150, 250])).toEqual([
      ['plain', 100],
      ['cooler', 200],
      ['plain', Infinity],
    ]);
    // a reading at the very time of a switch is the earlier stretch's
    expect(states([100, 200])).toEqual([
      ['plain', 100],
      ['cooler', Infinity],
    ]);
    expect(states([50, 250])).toEqual([['plain', Infinity]]);
    expect(states([150, 250])).toEqual([
      ['cooler', 200],
      ['plain', Infinity],
    ]);
    expect(states([])).toEqual([]);
  });
});

describe('least squares', () => {
  it('agree with another library’s pseudoinverse (second opinion: ml-matrix)', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 4 }), (seed, p) => {
        const random = new SeededRandom(seed);
        const columns = Array.from({ length: p }, () =>
          Array.from({ length: 9 }, () => random.uniform() - 0.5),
        );
        const y = Array.from({ length: 9 }, () => random.uniform());
        const solved = leastSquares(columns, y)!;
        const a = new Matrix(columns).transpose();
        const expected = pseudoInverse(a).mmul(Matrix.columnVector(y)).to1DArray();
        solved.x.forEach((value, j) => expect(value).toBeCloseTo(expected[j]!, 7));
        const inverse = pseudoInverse(a.transpose().mmul(a)).to2DArray();
        solved.inverse.forEach((row, i) =>
          row.forEach((value, j) =>
            expect(value / (1 + Math.abs(inverse[i]![j]!))).toBeCloseTo(
              inverse[i]![j]! / (1 + Math.abs(inverse[i]![j]!)),
              6,
            ),
          ),
        );
      }),
    ));
  it('say nothing where a column is made of the others', () => {
    expect(
      leastSquares(
        [
          [1, 1, 1],
          [2, 2, 2],
        ],
        [1, 2, 3],
      ),
    ).toBeNull();
    expect(
      leastSquares(
        [
          [1, 1, 1],
          [0, 0, 0],
        ],
        [1, 2, 3],
      ),
    ).toBeNull();
  });
});
