import { analyse } from './analyse';
import type { RunInput } from './model';
import { factsOf, runInput } from '../runFile/runInput';
import { defaultSplitMinutes, splitEnds } from './splits';
import { EMPTY_TRACK } from '../frames/track';
import type { EntryLine } from '../runFile/lines';

const of = (
  frameUs: Int32Array,
  entries: EntryLine[] = [],
  facts: Partial<RunInput> = {},
): ReturnType<typeof analyse>['figures'] =>
  analyse({
    ...runInput({ frameUs, gaps: [] }, { dropped: 0, cutOff: false, entries }, factsOf(null)),
    ...facts,
  }).figures;

describe('splitEnds', () => {
  it('joins a last window shorter than a fifth to the one before', () => {
    expect(splitEnds(1800, 5)).toEqual([300, 600, 900, 1200, 1500, 1800]);
    expect(splitEnds(959.9, 5)).toEqual([300, 600, 959.9]);
    expect(splitEnds(960, 5)).toEqual([300, 600, 900, 960]);
    expect(splitEnds(30, 5)).toEqual([30]);
    expect(splitEnds(0, 5)).toEqual([]);
  });
  it('is five minutes for a run that counts as sustained, else one', () => {
    expect(defaultSplitMinutes(895)).toBe(5);
    expect(defaultSplitMinutes(894.9)).toBe(1);
  });
});

describe('splitTable', () => {
  it('gives a frame to the split in which it starts', () => {
    // 59.99 s of 10 ms, then a frame of 1 s across the border, then 10 ms again
    const frames = Int32Array.from([
      ...Array<number>(5999).fill(10_000),
      1_000_000,
      ...Array<number>(6001).fill(10_000),
    ]);
    const { splits } = of(frames, [], { splitMinutes: 1 });
    expect(splits.map((split) => split.toS)).toEqual([60, 121]);
    expect(splits[0]!.average).toBeCloseTo(6000 / 60.99, 9);
    expect(splits[1]!.average).toBeCloseTo(100, 9);
    expect(splits.map((split) => split.freezes)).toEqual([1, 0]);
  });

  it('says how far each split held, and its low', () => {
    const frames = Int32Array.from([
      ...Array<number>(3600).fill(16_667),
      ...Array<number>(1800).fill(33_333),
    ]);
    const [first, second] = of(frames, [], { splitMinutes: 1, target: 60 }).splits;
    expect(first).toMatchObject({ hold: 1, onTarget: 1 });
    expect(second).toMatchObject({ hold: 1 });
    expect(second!.onTarget).toBeLessThan(0.02);
    expect(second!.onePercentLow).toBeCloseTo(30, 2);
  });

  it('shows warmth, percent and watts of each split', () => {
    const frames = new Int32Array(120 * 50).fill(20_000);
    const entries: EntryLine[] = [
      { type: 'skin', atMs: 0, spot: 'back', c: 24, by: 'infrared' },
      { type: 'skin', atMs: 59_000, spot: 'back', c: 31, by: 'infrared' },
      { type: 'skin', atMs: 60_000, spot: 'back', c: 33.5, by: 'infrared' },
      { type: 'skin', atMs: 61_000, spot: 'back', c: 60, by: 'battery sensor' },
      { type: 'battery', atMs: 0, percent: 80 },
      { type: 'battery', atMs: 120_000, percent: 78 },
      { type: 'power', atMs: 0, mw: 4000 },
      { type: 'power', atMs: 60_000, mw: 6000 },
    ];
    const splits = of(frames, entries, { splitMinutes: 1, batteryWh: 18 }).splits;
    expect(splits.map((split) => split.hottestC)).toEqual([{ back: 31 }, { back: 33.5 }]);
    expect(splits.map((split) => split.percentUsed)).toEqual([1, 1]);
    // measured in the first; in the second by percent: 1 % of 18 Wh in a minute
    expect(splits[0]!.watts).toBe(5);
    expect(splits[1]!.watts).toBeCloseTo(18 * 0.01 * 60, 9);
  });

  it('leaves charging out of the percent used', () => {
    const entries: EntryLine[] = [
      { type: 'battery', atMs: 0, percent: 50 },
      { type: 'span', fromMs: 30_000, toMs: 90_000, kind: 'charging' },
      { type: 'battery', atMs: 60_000, percent: 60 },
      { type: 'battery', atMs: 120_000, percent: 59 },
    ];
    expect(
      of(new Int32Array(120 * 50).fill(20_000), entries).splits.map((split) => split.percentUsed),
    ).toEqual([null, null]);
  });
});

describe('analyse', () => {
  it('takes excluded spans out of the figures, and the seconds they touch', () => {
    const frames = Int32Array.from([
      ...Array<number>(600).fill(16_000),
      ...Array<number>(100).fill(100_000),
      ...Array<number>(600).fill(16_000),
    ]);
    const { frames: counted, pace } = of(frames, [
      { type: 'span', fromMs: 9600, toMs: 19_600, kind: 'menu' },
    ]);
    expect(counted).toMatchObject({ count: 1200, seconds: 29.2 });
    expect(pace.average).toBeCloseTo(62.5, 9);
    expect(pace.median).toBeCloseTo(62.5, 9);
  });

  it('has null figures for a run that would not start', () => {
    const figures = analyse(
      runInput(
        EMPTY_TRACK,
        { dropped: 0, cutOff: false, entries: [{ type: 'end', atMs: 5000, reason: 'would-not-start' }] },
        { ...factsOf(null), target: 60 },
      ),
    ).figures;
    expect(figures).toMatchObject({
      frames: { count: 0, seconds: 5 },
      splits: [],
      pace: { source: null, average: null, median: null },
      lows: { onePercent: { quantile: null } },
      evenness: { stutters: null },
    });
  });

  it('takes rates that were read off for what they are', () => {
    const rates: EntryLine[] = [
      { type: 'rate', atMs: 0, fps: 40, by: 'overlay' },
      { type: 'rate', atMs: 60_000, fps: 44, by: 'overlay' },
    ];
    expect(of(new Int32Array(0), rates).pace).toMatchObject({ source: 'read', average: 42, median: null });
    expect(
      of(new Int32Array(0), [...rates, { type: 'rate', atMs: 90_000, fps: 30, by: 'eye' }]).pace,
    ).toMatchObject({ source: 'read', average: 42 });
    expect(of(new Int32Array(0), rates).frames.seconds).toBe(60);
  });
});
