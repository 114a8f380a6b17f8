import { at, figuresOf } from '../testing';
import { capAdvice, heldCaps } from './cap';

/** So many seconds at a pace. */
const seconds = (...parts: [fps: number, count: number][]): Float64Array =>
  Float64Array.from(parts.flatMap(([fps, count]) => Array<number>(count).fill(fps)));

describe('a cap', () => {
  it('hides headroom only where half of the run sits at it', () => {
    const left = figuresOf({ frames: [...at(60, 400), ...at(45, 600)] });
    expect(left).toMatchObject({ cap: 60 });
    expect(left.capShare).toBeCloseTo(0.4, 2);
    expect(left.caveats).not.toContain('capped');
    const stayed = figuresOf({ frames: [...at(60, 500), ...at(45, 400)] });
    expect(stayed.capShare).toBeGreaterThan(0.5);
    expect(stayed.caveats).toContain('capped');
    expect(figuresOf({ frames: at(37, 60) })).toMatchObject({ cap: null, capShare: null });
  });
});

describe('what each cap would hold', () => {
  const held = (pace: Float64Array, refreshHz: number | null): Record<number, number> =>
    Object.fromEntries(
      heldCaps(pace, [], { seconds: pace.length, refreshHz }).map((one) => [one.cap, one.held]),
    );
  it('is the share of the seconds that come within 3 % of it, up to the panel’s rate', () => {
    // a quarter at 30, half at 45, a quarter at 61; 44 is within 3 % of 45, 43 is not
    const pace = seconds([30, 150], [44, 150], [45, 150], [61, 150]);
    expect(held(pace, 60)).toEqual({ 24: 1, 25: 1, 30: 1, 40: 0.75, 45: 0.75, 48: 0.25, 50: 0.25, 60: 0.25 });
    expect(held(seconds([43, 600]), 60)[45]).toBeUndefined();
    expect(held(pace, 48)).not.toHaveProperty('50');
    expect(held(pace, null)).toHaveProperty('60');
  });
  it('goes by the last five minutes of a sustained run, and tells nothing without frames', () => {
    expect(held(seconds([61, 600], [30, 300]), 60)).toEqual({ 24: 1, 25: 1, 30: 1 });
    expect(held(seconds([61, 500], [30, 300]), 60)).toHaveProperty('60');
    expect(held(seconds([NaN, 300]), 60)).toEqual({});
  });
  it('says whether each is even on the panel', () => {
    const even = heldCaps(seconds([61, 300]), [], { seconds: 300, refreshHz: 120 })
      .filter((one) => one.even)
      .map((one) => one.cap);
    expect(even).toEqual([24, 30, 40, 60]);
    expect(heldCaps(seconds([61, 300]), [], { seconds: 300, refreshHz: null })[0]!.even).toBeNull();
  });
});

describe('the cap that would hold', () => {
  const advise = (pace: Float64Array, refreshHz: number | null, s = pace.length): number | null =>
    capAdvice(pace, [], { seconds: s, refreshHz });
  it('is the greatest that the panel shows evenly and the pace holds', () => {
    expect(advise(seconds([37, 600]), 60)).toBe(30);
    // 120 over 40 is whole; 0.97 · 40 = 38.8
    expect(advise(seconds([38.8, 600]), 120)).toBe(40);
    expect(advise(seconds([38.7, 600]), 120)).toBe(30);
    expect(advise(seconds([61, 600]), 60)).toBe(60);
    expect(advise(seconds([20, 600]), 60)).toBeNull();
    expect(advise(seconds([60, 600]), null)).toBeNull();
    // 144 over 75 is not whole, over 72 it is
    expect(advise(seconds([80, 600]), 144)).toBe(72);
  });
  it('goes by the last five minutes of a sustained run, by all of a short one', () => {
    expect(advise(seconds([25, 600], [61, 300]), 60)).toBe(60);
    expect(advise(seconds([22, 500], [61, 300]), 60)).toBeNull();
  });
  it('leaves out seconds that a freeze overlaps', () => {
    const frozen = seconds([60, 300]);
    frozen[100] = 1;
    frozen[101] = 1;
    frozen[102] = 1;
    frozen[103] = 1;
    expect(advise(frozen, 60)).toBeNull();
    const freeze = { kind: 'freeze' as const, atUs: 100e6, endUs: 104e6, lengthUs: 4e6, lostUs: 4e6 };
    expect(capAdvice(frozen, [freeze], { seconds: 300, refreshHz: 60 })).toBe(60);
  });
});
