import fc from 'fast-check';
import { LiveRun } from './live';
import type { EntryLine } from '../runFile/lines';
import { figuresOf } from '../testing';

/** A run with noise, slow waves, a fall, and long frames here and there. */
const frames = Array.from({ length: 40_000 }, (_, i) =>
  Math.round((i < 20_000 ? 16_700 : 25_000) + 900 * Math.sin(i / 37) + ((i * 7919) % 601) - 300),
).flatMap((us, i) => (i % 1700 === 1699 ? [us, 60_000 + (i % 900) * 1000] : [us]));

function liveRun(batch: number): LiveRun {
  const run = new LiveRun(1);
  for (let i = 0; i < frames.length; i += batch) run.push(frames.slice(i, i + batch));
  return run;
}
const live = (batch: number): ReturnType<LiveRun['figures']> => liveRun(batch).figures();

describe('a run that is still going on', () => {
  const exact = figuresOf({ frames, facts: { splitMinutes: 1 } });
  const now = live(1000);

  it('has the same average, frames and length', () => {
    expect(now).toMatchObject({ frames: exact.frames.count, seconds: exact.frames.seconds });
    expect(now.average).toBeCloseTo(exact.pace.average!, 9);
  });
  it('has median, hold and lows nearly, and says which', () => {
    expect(now.median! / exact.pace.median!).toBeCloseTo(1, 2);
    expect(now.hold).toBeCloseTo(exact.pace.hold!, 2);
    expect(now.onePercentLow! / exact.lows.onePercent.quantile!).toBeCloseTo(1, 2);
    expect(now.tenthPercentLow! / exact.lows.tenthPercent.quantile!).toBeCloseTo(1, 1);
    expect(now.approximate).toEqual(['median', 'hold', 'onePercentLow', 'tenthPercentLow', 'opening']);
  });
  it('has the same breaks, but for those of the last thirty frames', () => {
    const settled = exact.breaks.filter((found) => found.endUs < exact.frames.seconds * 1e6 - 1e6);
    expect(settled.length).toBeGreaterThan(15);
    expect(liveRun(1000).breaks.slice(0, settled.length)).toEqual(settled);
    const counted = now.breaks.stutter + now.breaks.stall + now.breaks.freeze;
    expect(counted).toBeGreaterThanOrEqual(settled.length);
    expect(counted).toBeLessThanOrEqual(exact.breaks.length);
  });
  it('is told in as few words however often it broke', () => {
    const broken = new LiveRun(5);
    for (let i = 0; i < 5000; i++) broken.push([...Array<number>(40).fill(16_667), 150_000]);
    expect(broken.breaks.length).toBeGreaterThan(4900);
    expect(JSON.stringify(broken.figures()).length).toBeLessThan(5000);
  });
  it('has the same splits as far as they are whole', () => {
    const whole = exact.splits.slice(0, -1);
    expect(whole.length).toBeGreaterThan(8);
    whole.forEach((split, i) => {
      expect(now.splits[i]!.average).toBeCloseTo(split.average!, 9);
      expect(now.splits[i]!.onePercentLow! / split.onePercentLow!).toBeCloseTo(1, 2);
    });
  });
  it('does not depend on how the frames come in', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), (batch) => expect(live(batch)).toEqual(now)),
      { numRuns: 5 },
    ));
  it('knows nothing before the first frame', () =>
    expect(new LiveRun(5).figures()).toMatchObject({
      average: null,
      median: null,
      hold: null,
      onePercentLow: null,
      splits: [],
    }));
});

describe('a run with gaps and excluded spans', () => {
  const gaps = [
    { beforeFrame: 9000, lengthUs: 3_400_000 },
    { beforeFrame: 20_000, lengthUs: 700_000 },
  ];
  const excluded = [
    { fromUs: 40_000_000, toUs: 52_500_000 },
    { fromUs: 300_000_000, toUs: 301_000_000 },
  ];
  const entries = excluded.map(({ fromUs, toUs }): EntryLine => ({
    type: 'span',
    fromMs: fromUs / 1000,
    toMs: toUs / 1000,
    kind: 'menu',
  }));
  const exact = figuresOf({ frames, gaps, entries, facts: { splitMinutes: 1 } });
  const run = new LiveRun(1, excluded);
  let from = 0;
  for (const { beforeFrame, lengthUs } of [...gaps, { beforeFrame: frames.length, lengthUs: 0 }]) {
    run.push(frames.slice(from, beforeFrame));
    if (lengthUs > 0) run.gap(lengthUs);
    from = beforeFrame;
  }
  const now = run.figures();

  it('has the same averages, frames and length', () => {
    expect(now.frames).toBe(exact.frames.count);
    expect(now.average).toBeCloseTo(exact.pace.average!, 9);
    expect(now.median! / exact.pace.median!).toBeCloseTo(1, 2);
    exact.splits
      .slice(0, -1)
      .forEach((split, i) => expect(now.splits[i]!.average).toBeCloseTo(split.average!, 9));
  });
  it('has the same breaks', () => {
    const settled = exact.breaks.filter((found) => found.endUs < exact.frames.seconds * 1e6 - 1e6);
    expect(run.breaks.slice(0, settled.length)).toEqual(settled);
  });
  it('has the same opening and trail, and no pace for a second without data', () => {
    expect(now.opening).toBeCloseTo(exact.stamina.opening!, 9);
    const early = new LiveRun(1);
    early.push(Array<number>(150).fill(20_000));
    early.gap(1_500_000);
    early.push(Array<number>(100).fill(10_000));
    expect(early.figures().recent.map((pace) => pace && Math.round(pace))).toEqual([50, 50, 50, null, null]);
  });
  it('lets a span that is not over take all that follows', () => {
    const menu = new LiveRun(1, [{ fromUs: 1_000_000, toUs: Infinity }]);
    menu.push(Array<number>(300).fill(10_000));
    expect(menu.figures()).toMatchObject({
      frames: 100,
      seconds: 3,
      recent: [expect.closeTo(100, 6), null, null],
    });
  });
});
