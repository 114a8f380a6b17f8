import fc from 'fast-check';
import { firstAtLeast, prepareSession } from './session';
import { frameStartsUs } from '../frames/track';

const track = (
  frames: number[],
  gaps: [before: number, us: number][] = [],
): Parameters<typeof prepareSession>[0] => ({
  frameUs: Int32Array.from(frames),
  gaps: gaps.map(([beforeFrame, lengthUs]) => ({ beforeFrame, lengthUs })),
});
const list = (values: ArrayLike<number>): number[] => Array.from(values);

describe('frames on the clock', () => {
  it('start where the one before ended, gaps in between', () => {
    expect(list(frameStartsUs(track([10, 20, 30])))).toEqual([0, 10, 30, 60]);
    expect(
      list(
        frameStartsUs(
          track(
            [10, 20, 30],
            [
              [0, 5],
              [2, 100],
            ],
          ),
        ),
      ),
    ).toEqual([5, 15, 135, 165]);
    expect(list(frameStartsUs(track([])))).toEqual([0]);
  });
  it('end at the sum of frames and gaps (law)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 1_000_000 }), { minLength: 1, maxLength: 60 }),
        fc.array(fc.tuple(fc.nat(59), fc.integer({ min: 1, max: 1e7 })), { maxLength: 5 }),
        (frames, gaps) => {
          const inside = [...new Map(gaps.filter(([before]) => before < frames.length))].sort(
            (a, b) => a[0] - b[0],
          );
          const expected = [...frames, ...inside.map(([, us]) => us)].reduce((sum, us) => sum + us, 0);
          expect(prepareSession(track(frames, inside)).endUs).toBe(expected);
        },
      ),
    );
  });
});

describe('excluded spans', () => {
  const frames = track([10, 10, 10, 10, 10]);
  it('take out every frame that they overlap, and touch none that they only meet', () => {
    expect(list(prepareSession(frames, [{ fromUs: 10, toUs: 20 }]).leftStartsUs)).toEqual([0, 20, 30, 40]);
    expect(list(prepareSession(frames, [{ fromUs: 9, toUs: 21 }]).leftStartsUs)).toEqual([30, 40]);
    expect(list(prepareSession(frames, [{ fromUs: 50, toUs: 90 }]).leftStartsUs)).toHaveLength(5);
  });
  it('may overlap, touch and come in any order', () => {
    const { excluded, leftUs } = prepareSession(frames, [
      { fromUs: 30, toUs: 35 },
      { fromUs: 5, toUs: 8 },
      { fromUs: 8, toUs: 12 },
    ]);
    expect(excluded).toEqual([
      { fromUs: 5, toUs: 12 },
      { fromUs: 30, toUs: 35 },
    ]);
    expect(leftUs).toHaveLength(2);
  });
  it('of no length exclude nothing', () =>
    expect(prepareSession(frames, [{ fromUs: 15, toUs: 15 }]).leftUs).toHaveLength(5));
  it('part the frames on their two sides, as gaps do', () => {
    expect(prepareSession(frames, [{ fromUs: 12, toUs: 13 }]).partings).toEqual([1]);
    expect(prepareSession(track([10, 10, 10], [[1, 5]])).partings).toEqual([1]);
    expect(prepareSession(track([10, 10, 10], [[0, 5]])).partings).toEqual([]);
    // a gap within an excluded stretch parts once
    expect(prepareSession(track([10, 10, 10, 10], [[2, 5]]), [{ fromUs: 11, toUs: 28 }]).partings).toEqual([
      1,
    ]);
  });
  it('may take out everything', () =>
    expect(prepareSession(frames, [{ fromUs: 0, toUs: 50 }])).toMatchObject({
      leftTotalUs: 0,
      partings: [],
      endUs: 50,
    }));
  it('leave the given frames alone', () => {
    const given = track([10, 20, 30]);
    prepareSession(given, [{ fromUs: 0, toUs: 5 }]);
    expect(list(given.frameUs)).toEqual([10, 20, 30]);
  });
});

describe('firstAtLeast', () => {
  it('finds the first that is not below', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -50, max: 50 })),
        fc.integer({ min: -60, max: 60 }),
        (values, target) => {
          const ascending = [...values].sort((a, b) => a - b);
          const found = ascending.findIndex((value) => value >= target);
          expect(firstAtLeast(ascending, target)).toBe(found < 0 ? ascending.length : found);
        },
      ),
    );
  });
});
