import { at, figuresOf } from '../testing';
import { capAdvice } from './cap';

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
