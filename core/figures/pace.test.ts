import fc from 'fast-check';
import { averagePace, onTarget, perSecondPace, steadiness } from './pace';
import { prepareSession, type SpanUs } from './session';
import type { Gap } from '../frames/track';

const session = (
  frameUs: number[],
  excluded: SpanUs[] = [],
  gaps: Gap[] = [],
): ReturnType<typeof prepareSession> => prepareSession({ frameUs: Int32Array.from(frameUs), gaps }, excluded);
const same = (count: number, us: number): number[] => Array<number>(count).fill(us);
const list = (pace: Float64Array): (number | null)[] =>
  Array.from(pace, (value) => (Number.isNaN(value) ? null : value));

describe('perSecondPace', () => {
  it('gives exactly 40 for frame times of 25 ms, wherever they start', () => {
    expect(list(perSecondPace(session(same(120, 25_000))))).toEqual([40, 40, 40]);
    expect(perSecondPace(session([10_000, ...same(120, 25_000)])).at(1)).toBeCloseTo(40, 12);
  });

  it('shares a frame out over the seconds that it lies in', () => {
    // 0.5 s, then a freeze of 2 s, then 0.5 s: the freeze gives each of its halves and its whole second their share
    expect(list(perSecondPace(session([500_000, 2_000_000, 500_000])))).toEqual([1.25, 0.5, 1.25]);
  });

  it('leaves out a last, partial second', () =>
    expect(perSecondPace(session(same(59, 25_000)))).toHaveLength(1));
  it('has no seconds without frames', () => expect(perSecondPace(session([]))).toHaveLength(0));

  it('voids seconds that an excluded span or a gap overlaps', () => {
    const frames = same(200, 25_000);
    expect(list(perSecondPace(session(frames, [{ fromUs: 1_000_000, toUs: 2_000_000 }])))).toEqual([
      40,
      null,
      40,
      40,
      40,
    ]);
    expect(list(perSecondPace(session(frames, [{ fromUs: 999_999, toUs: 2_000_001 }])))).toEqual([
      null,
      null,
      null,
      40,
      40,
    ]);
    expect(list(perSecondPace(session(frames, [], [{ beforeFrame: 60, lengthUs: 1_000_000 }])))).toEqual([
      40,
      null,
      null,
      40,
      40,
      40,
    ]);
    // before the first frame
    expect(
      list(perSecondPace(session(same(80, 25_000), [], [{ beforeFrame: 0, lengthUs: 1_000_000 }]))),
    ).toEqual([null, 40, 40]);
  });

  it('counts every frame of the whole seconds once (law: Σq = N)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 500, max: 3_000_000 }), { minLength: 1, maxLength: 300 }),
        (frames) => {
          const total = frames.reduce((sum, us) => sum + us, 0);
          // one more frame fills the last second up
          const whole = [...frames, 1_000_000 - (total % 1_000_000)];
          const q = perSecondPace(session(whole));
          expect(q).toHaveLength(Math.floor(total / 1_000_000) + 1);
          expect(q.reduce((sum, value) => sum + value, 0)).toBeCloseTo(whole.length, 8);
        },
      ),
    );
  });
});

describe('averagePace', () => {
  it('divides frames by time', () => expect(averagePace(3, 75_000)).toBe(40));
  it('is null without frames', () => expect(averagePace(0, 0)).toBeNull());
  it('is no mean of rates: a long frame weighs by its time', () =>
    expect(averagePace(2, 10_000 + 90_000)).toBe(20));
});

describe('steadiness', () => {
  it('counts a fifth to either side as held, the edge included', () =>
    expect(steadiness(Float64Array.of(60, 60, 60, 48, 72, 47.9))).toMatchObject({ median: 60, hold: 5 / 6 }));
  it('counts as slow only what is below half', () =>
    expect(steadiness(Float64Array.of(60, 60, 60, 30, 29.9)).slow).toBe(1));
  it('takes rounding for equality', () =>
    expect(steadiness(Float64Array.of(60, 60, 60, 48 - 1e-10))).toMatchObject({ hold: 1 }));
  it('leaves void seconds out', () =>
    expect(steadiness(Float64Array.of(NaN, 50, NaN, 50))).toEqual({ median: 50, hold: 1, slow: 0 }));
  it('is null without seconds', () =>
    expect(steadiness(Float64Array.of(NaN))).toEqual({ median: null, hold: null, slow: null }));
});

describe('onTarget', () => {
  it('needs 95 % of the target', () => expect(onTarget(Float64Array.of(57, 56.9, NaN), 60)).toBe(0.5));
  it('is null without a target', () => expect(onTarget(Float64Array.of(60), null)).toBeNull());
});
