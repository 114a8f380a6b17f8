import fc from 'fast-check';
import { SCENARIOS, simulate, type Scenario } from '@pace-check/rig';
import { FrameBatches } from '@pace-check/core';
import { CHUNK_FRAMES, fromChunks, packFrames, toChunks, unpackFrames } from './chunkCodec';

describe('chunk codec', () => {
  it('gives back any frame times', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 600_000_000 }), { maxLength: 500 }), (us) => {
        const frames = Int32Array.from(us);
        expect(unpackFrames(packFrames(frames), frames.length)).toEqual(frames);
      }),
    );
  });

  it('keeps gaps wherever they fall, over the border of a chunk too', () => {
    const frameUs = new Int32Array(CHUNK_FRAMES + 10).map((_, i) => 10_000 + (i % 7));
    const gaps = [0, 5, CHUNK_FRAMES - 1, CHUNK_FRAMES, CHUNK_FRAMES + 9].map((beforeFrame) => ({
      beforeFrame,
      lengthUs: 1000 + beforeFrame,
    }));
    const chunks = toChunks({ frameUs, gaps });
    expect(chunks.map((chunk) => chunk.frames)).toEqual([CHUNK_FRAMES, 10]);
    expect(fromChunks(chunks)).toEqual({ frameUs, gaps });
  });

  it('notices a chunk that holds another number of frames', () =>
    expect(() => unpackFrames(packFrames(Int32Array.of(1, 2)), 3)).toThrow(/3 frames/));

  it.each(Object.values<Scenario>(SCENARIOS).map((scenario) => [scenario.name, scenario] as const))(
    'needs at most 2.5 bytes a frame for the demo’s run “%s”',
    (_, scenario) => {
      const batches = new FrameBatches();
      for (const line of simulate(scenario, 7)) if (line.type === 'frames') batches.add(line, 1);
      const track = batches.track();
      const bytes = toChunks(track).reduce((sum, chunk) => sum + chunk.packed.length, 0);
      expect(bytes / track.frameUs.length).toBeLessThanOrEqual(2.5);
    },
  );
});
