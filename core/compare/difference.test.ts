import ttest2 from '@stdlib/stats-ttest2';
import fc from 'fast-check';
import { differenceOf, runsNeeded } from './difference';
import { SeededRandom } from '../numbers/random';
import { orderCertainty, rateRun, USUAL_WEIGHTS, type RatingParts } from './rating';
import { at, figuresOf } from '../testing';
import type { EntryLine } from '../runFile/lines';

const runs = (...averages: number[]): { averages: number[]; pace: null } => ({ averages, pace: null });
const oneRun = (pace: number[]): { averages: number[]; pace: Float64Array } => ({
  averages: [pace.reduce((sum, value) => sum + value, 0) / pace.length],
  pace: Float64Array.from(pace),
});

describe('difference between two sides', () => {
  it('gives Welch’s interval of a worked example', () => {
    // by hand: A = 52, 54, 56 (mean 54, s² = 4), B = 57, 60, 63 (mean 60, s² = 9); error √(4/3 + 9/3) = 2.0817;
    // freedom (13/3)² / ((4/3)²/2 + 3²/2) = 3.484; t(0.975; 3.484) = 2.9467 (between the tables’ 3.182 and 2.776)
    const { difference, interval, clear, withinOneRun } = differenceOf(
      runs(52, 54, 56),
      runs(57, 60, 63),
      1,
    )!;
    expect(difference).toBe(6);
    expect(interval[1] - 6).toBeGreaterThan(2.776 * 2.0817);
    expect(interval[1] - 6).toBeLessThan(3.182 * 2.0817);
    expect(6 - interval[0]).toBeCloseTo(interval[1] - 6, 9);
    expect({ clear, withinOneRun }).toEqual({ clear: false, withinOneRun: false });
  });
  it('agrees with a general-purpose library on any runs (second opinion: @stdlib/stats-ttest2, Welch)', () => {
    const averages = fc.array(fc.double({ min: 20, max: 120, noNaN: true }), { minLength: 2, maxLength: 8 });
    fc.assert(
      fc.property(averages, averages, (a, b) => {
        fc.pre(Math.max(...a) - Math.min(...a) > 0.1 && Math.max(...b) - Math.min(...b) > 0.1);
        const other = ttest2(b, a, { variance: 'unequal', alpha: 0.05 });
        const { interval } = differenceOf(runs(...a), runs(...b), 1)!;
        expect(interval[0]).toBeCloseTo(other.ci[0]!, 6);
        expect(interval[1]).toBeCloseTo(other.ci[1]!, 6);
      }),
    );
  });
  it('calls a frame more no difference, and says how many runs would settle it', () => {
    const result = differenceOf(runs(58.2, 59.9, 58.9), runs(59.5, 60.4, 60.1), 1)!;
    expect(result.clear).toBe(false);
    expect(result.runsPerSide).toBeGreaterThan(3);
    expect(differenceOf(runs(40, 41, 40.5), runs(59.5, 60.4, 60.1), 1)).toMatchObject({
      clear: true,
      runsPerSide: null,
    });
  });
  it('draws blocks of a lone run, seeded, and says so', () => {
    const random = new SeededRandom(5);
    const noisy = (level: number): number[] =>
      Array.from({ length: 900 }, (_, i) => level + 3 * Math.sin(i / 40) + random.uniform());
    const [a, b] = [oneRun(noisy(50)), oneRun(noisy(50.1))];
    const result = differenceOf(a, b, 7)!;
    expect(result).toEqual(differenceOf(a, b, 7));
    expect(result).toMatchObject({ withinOneRun: true, clear: false });
    expect(differenceOf(a, oneRun(noisy(58)), 7)).toMatchObject({ withinOneRun: true, clear: true });
  });
  it('needs a run on each side', () => expect(differenceOf(runs(), runs(60), 1)).toBeNull());

  // two-sample t-test, 5 %, 80 % power: 17 a side for a difference of one standard deviation, 64 for half of one (tables of Cohen, 1988; from memory)
  it.each([
    [1, 17],
    [0.5, 64],
  ])('a difference of %d deviations takes %d runs', (difference, n) =>
    expect(runsNeeded(difference, 1)).toBe(n),
  );
  it('has no number for no difference', () => expect(runsNeeded(0, 1)).toBeNull());
});

describe('rating', () => {
  const entries: EntryLine[] = [
    { type: 'skin', atMs: 0, spot: 'back', c: 22, by: 'infrared' },
    { type: 'skin', atMs: 800_000, spot: 'back', c: 35, by: 'infrared' },
    { type: 'battery', atMs: 0, percent: 100 },
    { type: 'battery', atMs: 900_000, percent: 95 },
  ];
  it('is linear between the ends, part by part', () => {
    const rating = rateRun(figuresOf({ frames: at(45, 900), entries, facts: { target: 60, roomC: 19 } }), 60);
    // 45 of 60 is halfway from 0.5 to 1; a peak of 35 in 19 is 41 in 25; 5 % in a quarter of an hour are 5 h
    expect(rating.parts.pace).toBeCloseTo(50, 1);
    expect(rating.parts.evenness).toBe(100);
    expect(rating.parts.stamina).toBeCloseTo(100, 6);
    expect(rating.parts.warmth).toBeCloseTo((48 - 41) / 0.12, 9);
    expect(rating.parts.drain).toBeCloseTo((5 - 1.5) / 0.065, 9);
    expect(rating.partial).toBe(false);
    const { pace, evenness, stamina, warmth, drain } = rating.parts as Record<string, number>;
    expect(rating.overall).toBeCloseTo(
      (25 * pace! + 20 * evenness! + 30 * stamina! + 15 * warmth! + 10 * drain!) / 100,
      9,
    );
  });
  it('takes breaks and late frames from evenness', () => {
    // ten minutes with one freeze: −20; all frames late: −60 more
    const frames = [...at(60, 300), 1_200_000, ...at(60, 298.8)];
    expect(rateRun(figuresOf({ frames, facts: { target: 60 } }), 60).parts.evenness).toBeCloseTo(
      100 - 20 - (60 * (1 / frames.length)) / 0.1,
      1,
    );
    expect(rateRun(figuresOf({ frames: at(30, 600), facts: { target: 60 } }), 60).parts.evenness).toBe(40);
  });
  it('guesses no part that is missing', () => {
    const rating = rateRun(figuresOf({ frames: at(60, 900), facts: { target: 60 } }), 60);
    expect(rating).toMatchObject({
      partial: true,
      overall: expect.closeTo(100, 1),
      parts: { warmth: null, drain: null },
    });
    expect(rateRun(figuresOf({}), null)).toMatchObject({ overall: null, partial: true });
  });
  it('follows the reviewer’s weights', () => {
    const figures = figuresOf({ frames: at(45, 900), entries, facts: { target: 60, roomC: 19 } });
    expect(
      rateRun(figures, 60, { ...USUAL_WEIGHTS, evenness: 0, stamina: 0, warmth: 0, drain: 0 }).overall,
    ).toBeCloseTo(50, 1);
  });
});

describe('order certainty', () => {
  const parts = (pace: number, other: number): RatingParts => ({
    pace,
    evenness: other,
    stamina: other,
    warmth: other,
    drain: other,
  });
  it('is whole where one device leads in everything', () =>
    expect(orderCertainty([parts(80, 80), parts(90, 90)], 1)).toEqual([0, 1]));
  it('is shared by equals', () =>
    expect(orderCertainty([parts(80, 80), parts(80, 80)], 1)).toEqual([0.5, 0.5]));
  it('is the share of weightings: one part against four leads where its weight is above a half, (1/2)⁴ of them', () => {
    const [first, second] = orderCertainty([parts(100, 50), parts(50, 100)], 3);
    expect(first).toBeCloseTo(1 / 16, 2);
    expect(first! + second!).toBeCloseTo(1, 9);
  });
});
