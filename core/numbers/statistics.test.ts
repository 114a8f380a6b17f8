import { quantileSorted } from 'd3-array';
import fc from 'fast-check';
import { sampleStandardDeviation } from 'simple-statistics';
import { distributionOf } from '../figures/distribution';
import { evenness } from '../figures/evenness';
import { lows, sortedFrames } from '../figures/lows';
import { median, quantile } from './quantile';
import { prepareSession } from '../figures/session';

const frameTimes = fc.array(fc.integer({ min: 1, max: 600_000_000 }), { minLength: 1000, maxLength: 1500 });
const sessionOf = (us: number[]): ReturnType<typeof prepareSession> =>
  prepareSession({ frameUs: Int32Array.from(us), gaps: [] });

describe('quantile (Hyndman and Fan 1996, type 7)', () => {
  it('agrees with a general-purpose library on any input (second opinion: d3-array, R-7)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer(), { minLength: 1 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (values, p) => {
          const sorted = values.sort((a, b) => a - b);
          const scale = Math.max(1, ...sorted.map(Math.abs));
          expect(quantile(sorted, p)! / scale).toBeCloseTo(quantileSorted(sorted, p)! / scale, 12);
        },
      ),
    );
  });
  it('is null for no values, and refuses a p outside [0, 1]', () => {
    expect(quantile([], 0.5)).toBeNull();
    expect(median([])).toBeNull();
    expect(() => quantile([1], 1.1)).toThrow(RangeError);
  });
});

describe('deviation', () => {
  // NIST StRD, univariate, NumAcc1: 10000001, 10000003, 10000002; mean 10000002, standard deviation 1 exactly. From memory.
  it('gives NIST’s NumAcc1', () =>
    expect(evenness(sessionOf([10_000_001, 10_000_003, 10_000_002]), [], null).sdMs! * 1000).toBeCloseTo(
      1,
      12,
    ));
  // NIST StRD, univariate, NumAcc2: 1.2, then 1.1 and 1.3 in turn, 1001 values; mean 1.2, standard deviation 0.1 exactly. From memory; here in units of 1e-5.
  it('gives NIST’s NumAcc2', () => {
    const values = [120_000, ...Array.from({ length: 1000 }, (_, i) => (i % 2 === 0 ? 110_000 : 130_000))];
    expect(evenness(sessionOf(values), [], null).sdMs! * 1000).toBeCloseTo(10_000, 8);
  });
  it('agrees with a general-purpose library on any frames (second opinion: simple-statistics)', () => {
    fc.assert(
      fc.property(frameTimes, (us) => {
        const other = sampleStandardDeviation(us) / 1000;
        expect(evenness(sessionOf(us), [], null).sdMs! / other).toBeCloseTo(1, 10);
      }),
      { numRuns: 20 },
    );
  });
});

describe('sortedFrames', () => {
  it('sorts as the runtime does, any number of frames of any length, and leaves the given ones alone', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 600_000_000 }), { minLength: 4000, maxLength: 4600 }),
        (us) => {
          const given = Int32Array.from(us);
          expect(sortedFrames(given)).toEqual(given.slice().sort());
          expect(given).toEqual(Int32Array.from(us));
        },
      ),
      { numRuns: 10 },
    );
    const short = new Int32Array(5000).map((_, i) => (i * 7919) % 2000);
    expect(sortedFrames(short)).toEqual(short.slice().sort());
  });
});

describe('distribution', () => {
  it('counts every frame once, and what lies far out together', () => {
    fc.assert(
      fc.property(frameTimes, (us) => {
        const { counts, beyond } = distributionOf(sortedFrames(Int32Array.from(us)))!;
        expect(counts.reduce((sum, count) => sum + count, beyond)).toBe(us.length);
        expect(counts.length).toBeLessThanOrEqual(62);
      }),
      { numRuns: 20 },
    );
    const { stepMs, counts, beyond } = distributionOf(
      Int32Array.from([...Array<number>(5000).fill(16_667), 900_000]),
    )!;
    expect(counts[Math.floor(16.667 / stepMs)]).toBe(5000);
    expect(beyond).toBe(1);
    expect(distributionOf(new Int32Array(0))).toBeNull();
  });
});

describe('lows', () => {
  const frames = (spec: [count: number, us: number][]): Int32Array =>
    Int32Array.from(spec.flatMap(([count, us]) => Array<number>(count).fill(us))).sort();

  it('gives the three definitions by hand', () => {
    // 990 frames of 10 ms and 10 of 100 ms; p = 1 %: Q(0.99) lies at position 989.01, one hundredth of the way from 10 to 100
    const low = lows(
      frames([
        [990, 10_000],
        [10, 100_000],
      ]),
      100,
    );
    expect(low.quantile).toBeCloseTo(1e6 / (10_000 + 0.01 * 90_000), 9);
    expect(low.worstMean).toBe(10);
    // total 10.9 s, 1 % of it 109 ms: the second long frame reaches it
    expect(low.timeShare).toBe(10);
  });

  it('stops the time share at the frame that reaches it', () => {
    // total 20 s; 1 % = 200 ms: 150 ms, then 10 ms frames: the sixth frame fills it
    expect(
      lows(
        frames([
          [1985, 10_000],
          [1, 150_000],
        ]),
        100,
      ).timeShare,
    ).toBe(100);
    // exactly reached by the longest frame alone
    expect(
      lows(
        frames([
          [1980, 10_000],
          [1, 200_000],
        ]),
        100,
      ).timeShare,
    ).toBe(5);
  });

  it('says nothing below ten frames in the tail', () => {
    expect(lows(frames([[900, 10_000]]), 100).quantile).toBeNull();
    expect(lows(frames([[901, 10_000]]), 100).quantile).toBe(100);
    expect(lows(frames([[9000, 10_000]]), 1000).worstMean).toBeNull();
    expect(lows(frames([[9001, 10_000]]), 1000).worstMean).toBe(100);
  });

  it('does not depend on the order of the frames (law)', () => {
    fc.assert(
      fc.property(frameTimes, (us) => {
        const turned = [...us.slice(us.length >> 1), ...us.slice(0, us.length >> 1)].reverse();
        expect(lows(sortedFrames(Int32Array.from(turned)), 100)).toEqual(
          lows(sortedFrames(Int32Array.from(us)), 100),
        );
      }),
      { numRuns: 20 },
    );
  });

  it('scales with time (law): frames twice as long, lows half as high', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 1_000_000 }), { minLength: 1000, maxLength: 1200 }),
        (us) => {
          const once = lows(sortedFrames(Int32Array.from(us)), 100);
          const twice = lows(sortedFrames(Int32Array.from(us, (value) => 2 * value)), 100);
          for (const key of ['quantile', 'worstMean', 'timeShare'] as const)
            expect(twice[key]! * 2).toBeCloseTo(once[key]!, 9);
        },
      ),
      { numRuns: 20 },
    );
  });
});
