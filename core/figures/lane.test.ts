import { LONGEST_RUN_S } from '../limits';
import { at, figuresOf, type Case } from '../testing';
import { laneOf, type Lane } from './lane';

const lane = (run: Case, target: number | null): Lane =>
  laneOf(figuresOf({ ...run, facts: { target } }), target);

describe('the lane of a run', () => {
  const frames = [...at(60, 60), ...at(30, 60)];

  it('is as high as the share of the target that was held, split by split, and never higher', () => {
    const { cells, measures, seconds } = lane({ frames }, 50);
    expect(measures).toBe('target');
    expect(seconds).toBeCloseTo(120, 2);
    expect(cells.map(({ height }) => height)).toEqual([1, expect.closeTo(0.6, 3)]);
  });
  it('is as high as the hold where nothing was aimed at', () => {
    const { cells, measures } = lane({ frames }, null);
    expect(measures).toBe('hold');
    for (const { height } of cells) expect(height).toBeCloseTo(1, 2);
  });
  it('has each break in the split that it begins in, the last split’s end included', () => {
    const broken = [...at(60, 30), 1_500_000, ...at(60, 60), 200_000];
    const { cells } = lane({ frames: broken }, 60);
    expect(cells.map(({ breaks }) => breaks.map(({ freeze }) => freeze))).toEqual([[true], [false]]);
    expect(cells[0]!.breaks[0]!.atS).toBeCloseTo(30, 1);
  });
  it('has the warmth and the charge that were read by then', () => {
    const { cells } = lane(
      {
        frames,
        entries: [
          { type: 'skin', atMs: 30_000, spot: 'back', c: 31, by: 'infrared' },
          { type: 'skin', atMs: 90_000, spot: 'back', c: 36, by: 'infrared' },
          { type: 'skin', atMs: 95_000, spot: 'front', c: 34, by: 'infrared' },
          { type: 'battery', atMs: 0, percent: 90 },
          { type: 'battery', atMs: 100_000, percent: 88 },
        ],
      },
      60,
    );
    expect(cells.map(({ hottestC, percentAtEnd }) => [hottestC, percentAtEnd])).toEqual([
      [31, 90],
      [36, 88],
    ]);
  });
  it('says how the run ended, and is never longer than a run may be', () => {
    const { end, seconds, cells } = lane(
      { entries: [{ type: 'end', atMs: 1.795e12, reason: 'would-not-start' }] },
      60,
    );
    expect({ end, seconds, cells }).toEqual({ end: 'would-not-start', seconds: LONGEST_RUN_S, cells: [] });
  });
});
