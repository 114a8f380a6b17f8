import { findBreaks } from './breaks';
import { evenness } from './evenness';
import { prepareSession, type SpanUs } from './session';

const FRAME = 16_000;
const ordinary = (count: number): number[] => Array<number>(count).fill(FRAME);
const session = (
  frames: number[],
  excluded: SpanUs[] = [],
  gapBefore: number | null = null,
): ReturnType<typeof prepareSession> =>
  prepareSession(
    {
      frameUs: Int32Array.from(frames),
      gaps: gapBefore === null ? [] : [{ beforeFrame: gapBefore, lengthUs: 2_000_000 }],
    },
    excluded,
  );
const kinds = (...args: Parameters<typeof session>): [string, number][] =>
  findBreaks(session(...args)).map((found) => [found.kind, found.lengthUs]);

describe('findBreaks', () => {
  it('needs two and a half times the frames around it, and 40 ms', () => {
    expect(kinds([...ordinary(50), 40_000, ...ordinary(50)])).toEqual([['stutter', 40_000]]);
    expect(kinds([...ordinary(50), 39_999, ...ordinary(50)])).toEqual([]);
    // around 33 ms it takes 82.5
    const slow = Array<number>(50).fill(33_000);
    expect(kinds([...slow, 82_499, ...slow])).toEqual([]);
    expect(kinds([...slow, 82_500, ...slow])).toEqual([['stutter', 82_500]]);
  });

  it('names a break by its length', () => {
    const around = (us: number): [string, number][] => kinds([...ordinary(50), us, ...ordinary(50)]);
    expect(around(249_999)[0]![0]).toBe('stutter');
    expect(around(250_000)[0]![0]).toBe('stall');
    expect(around(999_999)[0]![0]).toBe('stall');
    expect(around(1_000_000)[0]![0]).toBe('freeze');
  });

  it('joins long frames with fewer than three ordinary ones between', () => {
    expect(kinds([...ordinary(50), 600_000, ...ordinary(2), 600_000, ...ordinary(50)])).toEqual([
      ['freeze', 1_200_000],
    ]);
    expect(kinds([...ordinary(50), 600_000, ...ordinary(3), 600_000, ...ordinary(50)])).toEqual([
      ['stall', 600_000],
      ['stall', 600_000],
    ]);
    // shorter than 100 ms: each its own
    expect(kinds([...ordinary(50), 99_000, 99_000, ...ordinary(50)])).toHaveLength(2);
    expect(kinds([...ordinary(50), 600_000, 60_000, 600_000, ...ordinary(50)])).toEqual([
      ['freeze', 1_200_000],
      ['stutter', 60_000],
    ]);
  });

  it('joins nothing over a gap or an excluded frame', () => {
    const frames = [...ordinary(50), 600_000, FRAME, 600_000, ...ordinary(50)];
    const between = 50 * FRAME + 600_000 + 1;
    expect(kinds(frames)).toHaveLength(1);
    expect(kinds(frames, [], 52)).toHaveLength(2);
    expect(kinds(frames, [{ fromUs: between, toUs: between + 10 }])).toHaveLength(2);
  });

  it('keeps the window of the local median across an excluded span', () => {
    // ten frames before the span and ten behind it are one neighbourhood
    const frames = [...ordinary(10), 50_000, ...Array<number>(10).fill(50_000), ...ordinary(60)];
    const start = 10 * FRAME + 50_000;
    expect(kinds(frames, [{ fromUs: start, toUs: start + 500_000 }])).toEqual([['stutter', 50_000]]);
  });

  it('takes the mean of the middle two where the window is even', () => {
    // at the end the window holds 31 frames, at the last but one 32
    const frames = [...ordinary(40), 40_000, FRAME];
    expect(kinds(frames)).toEqual([['stutter', 40_000]]);
  });

  it('places a break on the clock, gaps included, and counts the time lost', () => {
    const found = findBreaks(session([...ordinary(50), 216_000, ...ordinary(50)], [], 50));
    expect(found).toEqual([
      {
        kind: 'stutter',
        atUs: 50 * FRAME + 2_000_000,
        endUs: 50 * FRAME + 2_216_000,
        lengthUs: 216_000,
        lostUs: 200_000,
      },
    ]);
  });
});

describe('evenness', () => {
  it('takes differences of neighbours only', () => {
    const frames = [10_000, 20_000, 40_000, 10_000];
    expect(evenness(session(frames), [], null).successiveMs).toBeCloseTo((10 + 20 + 30) / 3, 12);
    expect(evenness(session(frames, [], 2), [], null).successiveMs).toBeCloseTo((10 + 30) / 2, 12);
    // the third frame is excluded: its neighbours are no neighbours of each other
    expect(evenness(session(frames, [{ fromUs: 31_000, toUs: 32_000 }]), [], null).successiveMs).toBe(10);
  });

  it('counts as late what takes more than one and a half target frames', () => {
    expect(evenness(session([25_000, 25_001, 10_000, 10_000]), [], 60).late).toBe(0.25);
    expect(evenness(session([25_000]), [], null).late).toBeNull();
  });

  it('is null without frames, and has no deviation for one', () => {
    expect(evenness(session([]), [], 60)).toMatchObject({
      sdMs: null,
      late: null,
      stutters: null,
      lostMs: null,
    });
    expect(evenness(session([10_000]), [], null)).toMatchObject({
      sdMs: null,
      successiveMs: null,
      stutters: 0,
    });
  });
});
