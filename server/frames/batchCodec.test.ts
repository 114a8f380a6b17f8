import type { FramesLine } from '@pace-check/core';
import type { BatchRow } from '../sql/recordings';
import { framesOf, framesText, packBatches } from './batchCodec';

const line = (atMs: number): FramesLine => ({ type: 'frames', atMs, us: [16_667, null, 16_660] });
const batch = (seq: number): BatchRow => ({
  seq,
  through: seq,
  frames: Buffer.from(framesText([line(seq * 50)])),
  deflated: false,
  digests: null,
});

describe('batches in one row', () => {
  it('hold the same lines in the same order', () => {
    const [packed] = packBatches([0, 1, 2].map(batch));
    expect(packed).toMatchObject({ seq: 0, through: 2, deflated: true });
    expect(framesOf(packed!)).toEqual([line(0), line(50), line(100)]);
  });
  it('take further batches in later on', () => {
    const [first] = packBatches([0, 1].map(batch));
    const [second] = packBatches([first!, batch(2)]);
    expect(second).toMatchObject({ seq: 0, through: 2 });
    expect(framesOf(second!)).toEqual([line(0), line(50), line(100)]);
  });
  it('end before the first that is missing: what waits behind it stays as it came', () => {
    expect(packBatches([0, 1, 3, 4].map(batch))).toEqual([expect.objectContaining({ seq: 0, through: 1 })]);
    expect(packBatches([1, 2].map(batch))).toEqual([]);
  });
  it('are none where there is nothing to pack', () => {
    expect(packBatches([])).toEqual([]);
    expect(packBatches([batch(0)])).toEqual([]);
  });
  it('are much smaller than their text', () => {
    const many = Array.from({ length: 200 }, (_, i) => batch(i));
    expect(packBatches(many)[0]!.frames.length).toBeLessThan(
      many.reduce((sum, one) => sum + one.frames.length, 0) / 4,
    );
  });
});
