import { cadence } from './cadence';
import { frameCap } from './cap';
import { emulation, NEEDS, playable } from './playable';
import { findBreaks } from './breaks';
import { prepareSession } from './session';
import { at, figuresOf } from '../testing';

const mixture = (...parts: [us: number, count: number][]): Int32Array =>
  Int32Array.from(parts.flatMap(([us, count]) => Array<number>(count).fill(us)));

describe('cadence', () => {
  it.each<[string, Int32Array, number]>([
    ['even', mixture([16_667, 100]), 60],
    ['even', mixture([33_333, 95], [16_667, 5]), 60],
    ['alternating', mixture([16_667, 50], [33_333, 50]), 60],
    ['alternating', mixture([16_667, 75], [33_333, 25]), 60],
    ['mixed', mixture([16_667, 85], [33_333, 15]), 60],
    ['mixed', mixture([16_667, 50], [50_000, 50]), 60],
    ['variable', mixture([16_667, 59], [23_000, 41]), 60],
    // all stand for one refresh, but 3 % too long: the title has a clock of its own
    ['variable', mixture([17_200, 100]), 60],
    // 90 Hz on a panel of 60: 0.667 refreshes, off beat
    ['variable', mixture([11_111, 100]), 60],
  ])('%s', (kind, frames, hz) => expect(cadence(frames, hz).kind).toBe(kind));

  it('counts a frame of no refresh as one, and says how many are on beat', () => {
    expect(cadence(mixture([16_667, 60], [23_000, 40]), 60).onBeat).toBe(0.6);
    expect(cadence(mixture([1000, 10]), 60).onBeat).toBe(0);
  });
  it('shows neighbouring frames from the middle as they stood', () => {
    const turns = Int32Array.from({ length: 200 }, (_, i) => (i % 2 === 0 ? 16_667 : 33_333));
    expect(cadence(turns, 60).sample.map(Math.round)).toEqual(
      Array.from({ length: 16 }, (_, i) => 1 + (i % 2)),
    );
    expect(cadence(mixture([16_667, 3]), 60).sample).toHaveLength(3);
  });
  it('is unknown without a panel or frames', () => {
    expect(cadence(mixture([16_667, 10]), null)).toMatchObject({ kind: null, onBeat: null });
    expect(cadence(mixture(), 60)).toMatchObject({ kind: null, onBeat: null });
  });
  it('goes by the first refresh line where nobody says the panel’s rate', () => {
    const entries = [
      { type: 'refresh' as const, atMs: 0, hz: 90 },
      { type: 'refresh' as const, atMs: 5, hz: 60 },
    ];
    expect(figuresOf({ frames: at(90, 5), entries })).toMatchObject({
      refreshHz: 90,
      cadence: { kind: 'even' },
    });
    expect(figuresOf({ frames: at(90, 5), entries, facts: { refreshHz: 60 } })).toMatchObject({
      refreshHz: 60,
      cadence: { kind: 'variable' },
    });
  });
});

describe('frame cap', () => {
  it.each<[number[], number | null]>([
    [[59.8, 60, 60, 60.1], 60],
    [[40, 40, 39.6, 30], 40],
    [[59.4], 60],
    [[59.39], null],
    [[118.8], 120],
    [[118.7], null],
    [[52.3, 52.1], null],
  ])('of %j is %s', (pace, cap) => expect(frameCap(Float64Array.from(pace))).toBe(cap));
  it('is none where the fastest seconds run above it', () =>
    expect(
      frameCap(Float64Array.from([...Array<number>(95).fill(60), ...Array<number>(5).fill(64)])),
    ).toBeNull());
});

describe('playable', () => {
  const judge = (frames: number[], need: 'reaction' | 'action' | 'story'): string | null => {
    const session = prepareSession({ frameUs: Int32Array.from(frames), gaps: [] });
    return playable(session, findBreaks(session), NEEDS[need], false);
  };
  it('takes average and low, by need', () => {
    expect(judge(at(60, 60), 'reaction')).toBe('plays well');
    expect(judge(at(50, 60), 'reaction')).toBe('rough');
    expect(judge(at(45, 60), 'reaction')).toBe('not playable');
    expect(judge(at(45.1, 60), 'action')).toBe('plays well');
    expect(judge([...at(60, 60), ...Array<number>(60).fill(40_000)], 'action')).toBe('plays');
  });
  it('does not take a low that too few frames carry for a good one', () =>
    expect(judge(at(60, 10), 'story')).toBe('plays'));
  it('goes by the last five minutes of a sustained run', () => {
    expect(judge([...at(60, 1200), ...at(25, 300)], 'story')).toBe('rough');
    expect(judge([...at(25, 1200), ...at(60, 301)], 'story')).toBe('plays well');
  });
  it('counts freezes and stalls of the whole run', () => {
    const stalls = (count: number): number[] => [
      ...Array.from({ length: count }, () => [...at(60, 60), 300_000]).flat(),
      ...at(60, 600 - 60 * count),
    ];
    expect(judge(stalls(2), 'action')).toBe('plays well');
    expect(judge(stalls(3), 'action')).toBe('plays');
  });

  // common practice: average 34 with good lows and a freeze of 2 to 3 s every few minutes: average and lows look fine, the run does not play well
  it('is not fooled by an average that hides freezes', () => {
    const frames = Array.from({ length: 8 }, () => [...at(34.5, 200), 2_500_000]).flat();
    const figures = figuresOf({ frames, facts: { need: 'story' } });
    expect(figures.pace.average).toBeGreaterThan(34);
    expect(figures.lows.onePercent.quantile).toBeGreaterThan(30);
    expect(figures.playable).toBe('rough');
    expect(figuresOf({ frames: [...at(34.5, 900), 2_500_000], facts: { need: 'story' } }).playable).toBe(
      'plays',
    );
    expect(figuresOf({ frames: [...at(34.5, 900), 10_000_000], facts: { need: 'story' } }).playable).toBe(
      'rough',
    );
  });
  it('is unknown without a need or frames', () => {
    expect(figuresOf({ frames: at(60, 60) }).playable).toBeNull();
    expect(figuresOf({ facts: { need: 'story' } }).playable).toBeNull();
  });
});

describe('emulation', () => {
  // common practice: 25–28 where native is 30 is not full speed
  it('is full speed at 99 % of native with 95 % of the seconds near it', () => {
    expect(emulation(new Float64Array(100).fill(29.7), 30)).toEqual({ speed: 0.99, fullSpeed: true });
    expect(emulation(new Float64Array(100).fill(28), 30)!.fullSpeed).toBe(false);
    expect(emulation(new Float64Array(100).fill(30).fill(20, 0, 6), 30)!.fullSpeed).toBe(false);
    expect(emulation(new Float64Array(100).fill(30).fill(20, 0, 5), 30)!.fullSpeed).toBe(true);
  });
  it('is nothing without a native rate', () =>
    expect(emulation(new Float64Array(100).fill(30), null)).toBeNull());
});
