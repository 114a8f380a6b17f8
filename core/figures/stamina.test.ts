import fc from 'fast-check';
import { optimalPartition, type Piece } from '../numbers/partition';
import { stamina, type Stamina } from './stamina';
import type { Break } from './breaks';

const flat = (...stretches: [fps: number, seconds: number][]): Float64Array =>
  Float64Array.from(stretches.flatMap(([fps, seconds]) => Array<number>(seconds).fill(fps)));
const of = (
  pace: Float64Array,
  {
    breaks = [],
    target = null,
    end = null,
    seconds = pace.length,
  }: {
    breaks?: Break[];
    target?: number | null;
    end?: Parameters<typeof stamina>[2]['end'];
    seconds?: number;
  } = {},
): Stamina => stamina(pace, breaks, { seconds, target, end });
const freeze = (fromS: number, toS: number): Break => ({
  kind: 'freeze',
  atUs: fromS * 1e6,
  endUs: toS * 1e6,
  lengthUs: (toS - fromS) * 1e6,
  lostUs: 0,
});

describe('opening, closing and retention', () => {
  it('are the first two minutes from second 30 on, and the last five minutes', () => {
    const result = of(flat([10, 30], [60, 120], [50, 450], [30, 300]));
    expect(result).toMatchObject({ opening: 60, closing: 30, retention: 0.5, word: 'buckles' });
  });
  it('skip void seconds: the opening reaches on, the closing does not reach back', () => {
    const pace = flat([60, 150], [40, 750]).fill(NaN, 40, 60).fill(NaN, 700, 720);
    const result = of(pace);
    expect(result.opening).toBeCloseTo((100 * 60 + 20 * 40) / 120, 9);
    expect(result.closing).toBe(40);
  });
  it('leave out seconds that a freeze overlaps, but on target does not', () => {
    const pace = flat([60, 900]).fill(0, 50, 53);
    expect(of(pace, { breaks: [freeze(50.5, 52.9)], target: 60 })).toMatchObject({
      opening: 60,
      onTarget: 897 / 900,
    });
  });
  it.each([
    [0.95, 'holds'],
    [0.949, 'eases'],
    [0.85, 'eases'],
    [0.849, 'fades'],
    [0.65, 'fades'],
    [0.649, 'buckles'],
  ])('retention %d: %s', (retention, word) => {
    expect(of(flat([100, 200], [100 * retention, 700])).word).toBe(word);
  });
  it('need 895 s, less 1e-9', () => {
    expect(of(flat([60, 894]), { seconds: 894.999 })).toMatchObject({
      opening: 60,
      closing: null,
      retention: null,
      word: null,
    });
    expect(of(flat([60, 895])).word).toBe('holds');
    expect(of(flat([60, 894]), { seconds: 895 - 1e-10 }).word).toBe('holds');
  });
  it('do not matter for a crash and a run that would not start', () => {
    expect(of(flat([60, 480]), { end: 'crash' }).word).toBe('DNF');
    expect(of(flat([60, 1800]), { end: 'crash' }).word).toBe('DNF');
    expect(of(new Float64Array(0), { end: 'would-not-start' })).toMatchObject({
      word: 'DNS',
      segments: [],
      sawtooth: false,
      opening: null,
    });
  });
});

describe('steps', () => {
  it('are found where the pace changes', () => {
    const { segments, onsetS } = of(flat([60, 400], [45, 300], [30, 300]));
    expect(segments).toEqual([
      { fromS: 0, toS: 400, mean: 60 },
      { fromS: 400, toS: 700, mean: 45 },
      { fromS: 700, toS: 1000, mean: 30 },
    ]);
    expect(onsetS).toBe(400);
  });
  it('last a minute at least, however short the dip', () => {
    for (const { fromS, toS } of of(flat([60, 300], [30, 20], [60, 680])).segments)
      expect(toS - fromS).toBeGreaterThanOrEqual(60);
  });
  it('skip bins with fewer than five usable seconds, and leave out a last partial bin', () => {
    const { segments } = of(flat([60, 205]).fill(NaN, 0, 6).fill(NaN, 100, 105));
    expect(segments).toEqual([{ fromS: 10, toS: 200, mean: 60 }]);
  });
  it('are one below twelve bins', () =>
    expect(of(flat([60, 60], [30, 50])).segments).toEqual([
      { fromS: 0, toS: 110, mean: expect.closeTo((6 * 60 + 5 * 30) / 11, 9) },
    ]));
});

describe('onset', () => {
  it('is not before the first minute, nor where the pace comes back for five minutes', () => {
    expect(of(flat([60, 300], [40, 100], [60, 300], [40, 300])).onsetS).toBe(700);
    expect(of(flat([60, 300], [40, 100], [60, 290], [40, 300])).onsetS).toBe(300);
  });
  it('counts neighbouring stretches above the line together', () =>
    expect(of(flat([60, 300], [40, 100], [60, 160], [70, 160], [40, 300])).onsetS).toBe(720));
  it('needs 95 % of the opening or less', () => expect(of(flat([100, 400], [95.5, 600])).onsetS).toBeNull());
});

describe('sawtooth', () => {
  const saw = (...fps: number[]): Float64Array =>
    flat([60, 300], ...fps.map((one): [number, number] => [one, 100]));
  it('turns three times or more from the onset on', () => {
    expect(of(saw(40, 55, 40, 55, 40)).sawtooth).toBe(true);
    expect(of(saw(40, 55, 40, 50)).sawtooth).toBe(false);
  });
  it('passes over steps of less than 5 % of the opening', () =>
    expect(of(saw(40, 42, 40, 42, 40, 42)).sawtooth).toBe(false));
});

describe('optimalPartition', () => {
  /** All ways to part n values, tried one by one. */
  function exhaustive(x: number[], penalty: number, shortest: number): number {
    const cost = (part: number[]): number => {
      const mean = part.reduce((sum, value) => sum + value, 0) / part.length;
      return part.reduce((sum, value) => sum + (value - mean) ** 2, 0);
    };
    const best = (from: number): number => {
      let least = Infinity;
      for (let to = from + shortest; to <= x.length; to++) {
        if (to !== x.length && x.length - to < shortest) continue;
        least = Math.min(least, cost(x.slice(from, to)) + (to === x.length ? 0 : penalty + best(to)));
      }
      return least;
    };
    return best(0);
  }
  it('is as good as trying all ways', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 4, maxLength: 14 }),
        fc.integer({ min: 0, max: 400 }),
        (x, penalty) => {
          const pieces: Piece[] = optimalPartition(Float64Array.from(x), penalty, 2);
          const cost =
            pieces.reduce(
              (sum, { from, to, mean }) =>
                sum + x.slice(from, to).reduce((part, value) => part + (value - mean) ** 2, 0),
              0,
            ) +
            penalty * (pieces.length - 1);
          expect(cost).toBeCloseTo(exhaustive(x, penalty, 2), 6);
          expect(pieces.every(({ from, to }) => to - from >= 2)).toBe(true);
        },
      ),
    );
  });
});
