import fc from 'fast-check';
import { LiveRun } from './live';
import { figuresOf } from './testing';

/** A run with noise, slow waves, a fall, and long frames here and there. */
const frames = Array.from({ length: 40_000 }, (_, i) => Math.round((i < 20_000 ? 16_700 : 25_000) + 900 * Math.sin(i / 37) + ((i * 7919) % 601) - 300)).flatMap((us, i) => (i % 1700 === 1699 ? [us, 60_000 + (i % 900) * 1000] : [us]));

function live(batch: number): ReturnType<LiveRun['figures']> {
  const run = new LiveRun(1);
  for (let i = 0; i < frames.length; i += batch) run.push(frames.slice(i, i + batch));
  return run.figures();
}

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
    expect(now.approximate).toEqual(['median', 'hold', 'onePercentLow', 'tenthPercentLow']);
  });
  it('has the same breaks, but for those of the last thirty frames', () => {
    const settled = exact.breaks.filter((found) => found.endUs < exact.frames.seconds * 1e6 - 1e6);
    expect(settled.length).toBeGreaterThan(15);
    expect(now.breaks.slice(0, settled.length)).toEqual(settled);
  });
  it('has the same splits as far as they are whole', () => {
    const whole = exact.splits.slice(0, -1);
    expect(whole.length).toBeGreaterThan(8);
    whole.forEach((split, i) => {
      expect(now.splits[i]!.average).toBeCloseTo(split.average!, 9);
      expect(now.splits[i]!.onePercentLow! / split.onePercentLow!).toBeCloseTo(1, 2);
    });
  });
  it('does not depend on how the frames come in', () => fc.assert(fc.property(fc.integer({ min: 1, max: 5000 }), (batch) => expect(live(batch)).toEqual(now)), { numRuns: 5 }));
  it('knows nothing before the first frame', () => expect(new LiveRun(5).figures()).toMatchObject({ average: null, median: null, hold: null, onePercentLow: null, splits: [] }));
});
