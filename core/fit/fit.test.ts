import fc from 'fast-check';
import { studentt } from 'jstat';
import { correctEmissivity } from '../figures/emissivity';
import { fitApproach, judgeFit, timeToReach, tWidth } from './fit';
import { CAUTION_C, STOP_C, warmthBand, WARMTH_BANDS } from '../figures/touch';
import { warmthOf } from '../figures/warmth';

// NIST Statistical Reference Datasets, nonlinear regression, Misra1a: y = b1(1 − exp(−b2·x)). Certified values, from memory.
const MISRA1A = [
  [77.6, 10.07],
  [114.9, 14.73],
  [141.1, 17.94],
  [190.8, 23.93],
  [239.9, 29.61],
  [289.0, 35.18],
  [332.8, 40.02],
  [378.4, 44.82],
  [434.8, 50.76],
  [477.3, 55.05],
  [536.8, 61.01],
  [593.1, 66.4],
  [689.1, 75.47],
  [760.0, 81.78],
] as const;

describe('fitApproach', () => {
  it('gives NIST’s certified values for Misra1a to eight digits', () => {
    const fit = fitApproach(
      MISRA1A.map(([x]) => x),
      MISRA1A.map(([, y]) => y),
      0,
    )!;
    expect(fit.final / 238.94212918).toBeCloseTo(1, 8);
    expect(1 / fit.tau / 5.5015643181e-4).toBeCloseTo(1, 8);
    expect(fit.rss / 0.12455138894).toBeCloseTo(1, 8);
    // certified standard deviation of b1, from memory
    expect(fit.se.final / 2.7070075241).toBeCloseTo(1, 6);
    expect(fit).toMatchObject({ start: 0, se: { start: null }, degreesOfFreedom: 12 });
  });

  it('finds any curve again from exact readings', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 30, noNaN: true }),
        fc.double({ min: 60, max: 1500, noNaN: true }),
        fc.double({ min: 10, max: 30, noNaN: true }),
        (rise, tau, start) => {
          const t = [30, 240, 480, 780, 1080, 1500, 1790];
          const fit = fitApproach(
            t,
            t.map((time) => start + rise * (1 - Math.exp(-time / tau))),
            null,
          )!;
          expect(fit.final).toBeCloseTo(start + rise, 4);
          expect(fit.tau / tau).toBeCloseTo(1, 4);
          expect(fit.start).toBeCloseTo(start, 3);
        },
      ),
    );
  });

  it('cools down by the same form', () => {
    const t = [0, 120, 300, 600, 900];
    const fit = fitApproach(
      t,
      t.map((time) => 19 + 22 * Math.exp(-time / 350)),
      null,
      'down',
    )!;
    expect(fit.final).toBeCloseTo(19, 5);
    expect(fit.tau).toBeCloseTo(350, 3);
  });

  it.each<[string, number[], number[], number | null]>([
    ['fewer than four readings', [0, 300, 600], [20, 30, 35], null],
    ['fewer than three with a start', [300, 600], [30, 35], 20],
    ['a last one not above the first', [0, 300, 600, 900], [30, 34, 33, 30], null],
    ['a straight line', [0, 300, 600, 900], [20, 25, 30, 35], null],
    ['a curve that steepens', [0, 300, 600, 900], [20, 21, 25, 40], null],
    ['no time between them', [5, 5, 5, 5], [20, 21, 22, 23], null],
  ])('tells nothing from %s', (_, t, y, start) => expect(fitApproach(t, y, start)).toBeNull());

  // common practice: a small phone, front of the screen, room about 25: 39.0 at 8 min, 41.0 at 13, 41.8 at 18; it settles at 42 to 43
  it('settles where a reviewer’s small phone did', () => {
    const fit = fitApproach([480, 780, 1080], [39, 41, 41.8], 25)!;
    expect(fit.final).toBeGreaterThan(42);
    expect(fit.final).toBeLessThan(43.5);
  });

  it('speaks of the future only when enough of the curve was seen', () => {
    const curve = (times: number[], noise: number): ReturnType<typeof fitApproach> =>
      fitApproach(
        times,
        times.map((time, i) => 20 + 22 * (1 - Math.exp(-time / 600)) + (i % 2 === 0 ? noise : -noise)),
        null,
      );
    expect(judgeFit(curve([0, 100, 200, 300, 400], 0)!, 400)).toEqual({ settled: false, forecast: false });
    expect(judgeFit(curve([0, 200, 400, 600, 800, 1000], 0.05)!, 1000)).toEqual({
      settled: false,
      forecast: true,
    });
    expect(judgeFit(curve([0, 500, 1000, 1500, 2000, 2500], 0.05)!, 2500)).toEqual({
      settled: true,
      forecast: true,
    });
    expect(judgeFit(curve([0, 200, 400, 600, 800], 2)!, 800).forecast).toBe(false);
  });

  it('knows when a line is reached', () => {
    expect(timeToReach({ final: 45, start: 20, tau: 600 }, 43)).toBeCloseTo(600 * Math.log(25 / 2), 9);
    expect(timeToReach({ final: 42, start: 20, tau: 600 }, 43)).toBeNull();
    expect(timeToReach({ final: 42, start: 20, tau: 600 }, 19)).toBeNull();
  });

  it('takes the width of t as another library does (second opinion: jstat)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 200 }),
        fc.double({ min: 0.5, max: 0.99, noNaN: true }),
        (freedom, level) =>
          expect(tWidth(freedom, level) / studentt.inv(1 - (1 - level) / 2, freedom)).toBeCloseTo(1, 6),
      ),
    );
  });
  // Student's t, 97.5 %: 12.706 (1), 2.776 (4), 2.228 (10), 1.960 (many): any table, from memory
  it.each([
    [1, 12.706],
    [4, 2.776],
    [10, 2.228],
    [1e6, 1.96],
  ])('takes the width of t with %d degrees of freedom from the tables', (freedom, t) =>
    expect(tWidth(freedom)).toBeCloseTo(t, 2),
  );
});

describe('emissivity', () => {
  it('changes nothing where the setting was right', () =>
    expect(correctEmissivity(41.3, 0.95, 0.95, 20)).toBeCloseTo(41.3, 9));
  it('raises what a shiny surface showed', () => {
    // by hand: B = 293.15 K, R = 313.15 K; W = 0.95 · 9.61634e9 + 0.05 · 7.38515e9 = 9.50478e9; T⁴ = (W − 0.2 · 7.38515e9)/0.8 = 10.0347e9; T = 316.50 K
    expect(correctEmissivity(40, 0.95, 0.8, 20)).toBeCloseTo(43.35, 1);
  });
  it('solves the balance that it is made of', () => {
    const t = correctEmissivity(40, 0.95, 0.6, 25)! + 273.15;
    expect(0.6 * t ** 4 + 0.4 * 298.15 ** 4).toBeCloseTo(0.95 * 313.15 ** 4 + 0.05 * 298.15 ** 4, -2);
  });
  it('refuses an emissivity that cannot be, and has no answer below nothing', () => {
    expect(() => correctEmissivity(40, 0, 0.9, 20)).toThrow(RangeError);
    expect(correctEmissivity(-200, 0.5, 0.1, 60)).toBeNull();
  });
});

describe('warmth', () => {
  it.each([
    [35.9, 'cool'],
    [36, 'mild'],
    [40, 'warm'],
    [43, 'hot'],
    [48 - 1e-10, 'too hot to hold'],
  ])('%d °C is %s', (celsius, word) => expect(WARMTH_BANDS[warmthBand(celsius)]!.word).toBe(word));

  // ISO 13732-1, burn thresholds of any hot smooth surface: 8 h and longer 43 °C, 10 min 48 °C. IEC 62368-1, held for over a minute: 48 °C. From memory.
  it('draws the touch lines where the standards do', () => expect([CAUTION_C, STOP_C]).toEqual([43, 48]));

  it('never mixes instruments: the one with the most readings, on a tie the first', () => {
    const reading = (atMs: number, c: number, by: string): Parameters<typeof warmthOf>[0][0] => ({
      atMs,
      spot: 'back',
      c,
      by,
    });
    expect(
      warmthOf([reading(0, 24, 'infrared'), reading(1, 60, 'sensor'), reading(2, 30, 'infrared')], null)
        .spots[0],
    ).toMatchObject({ by: 'infrared', peakC: 30, riseC: null });
    expect(warmthOf([reading(5, 24, 'infrared'), reading(1, 36, 'sensor')], 20).spots[0]).toMatchObject({
      by: 'sensor',
      peakC: 36,
      riseC: 16,
    });
  });
  it('names the hottest spot, the spread and the peak in a room of 25 °C', () => {
    const readings = [
      { atMs: 0, spot: 'front', c: 37, by: 'infrared' },
      { atMs: 0, spot: 'back', c: 41, by: 'infrared' },
    ];
    expect(warmthOf(readings, 18)).toMatchObject({
      hottest: 'back',
      peakC: 41,
      spreadC: 4,
      normalisedPeakC: 48,
    });
    expect(warmthOf([], 18)).toMatchObject({ hottest: null, peakC: null });
  });
});
