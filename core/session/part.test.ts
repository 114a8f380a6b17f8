import * as fc from 'fast-check';
import { analyse } from '../figures/analyse';
import { frameStartsUs } from '../frames/track';
import type { EntryLine } from '../runFile/lines';
import { factsOf, runInput } from '../runFile/runInput';
import { partOfLines, partOfTrack } from './part';

const track = fc
  .record({
    frames: fc.array(fc.integer({ min: 1, max: 50_000 }), { minLength: 1, maxLength: 60 }),
    gaps: fc.uniqueArray(fc.integer({ min: 0, max: 60 }), { maxLength: 4 }),
    lengthUs: fc.integer({ min: 1000, max: 90_000 }),
  })
  .map(({ frames, gaps, lengthUs }) => ({
    frameUs: Int32Array.from(frames),
    gaps: gaps
      .filter((at) => at < frames.length)
      .sort((a, b) => a - b)
      .map((beforeFrame) => ({ beforeFrame, lengthUs })),
  }));

describe('a stretch of a sitting', () => {
  it('has the frames that start in it, at the same moments', () =>
    fc.assert(
      fc.property(
        track,
        fc.integer({ min: 0, max: 800 }),
        fc.integer({ min: 1, max: 900 }),
        (whole, fromMs, length) => {
          const toMs = fromMs + length;
          const starts = frameStartsUs(whole);
          const inIt = Array.from(whole.frameUs.keys()).filter(
            (i) => starts[i]! >= fromMs * 1000 && starts[i]! < toMs * 1000,
          );
          const part = partOfTrack(whole, { fromMs, toMs, last: false });
          expect(Array.from(part.frameUs)).toEqual(inIt.map((i) => whole.frameUs[i]));
          expect(Array.from(frameStartsUs(part)).slice(0, -1)).toEqual(
            inIt.map((i) => starts[i]! - fromMs * 1000),
          );
        },
      ),
    ));

  it('end to end they are the whole again', () =>
    fc.assert(
      fc.property(track, fc.integer({ min: 1, max: 1500 }), (whole, atMs) => {
        const [a, b] = [
          partOfTrack(whole, { fromMs: 0, toMs: atMs, last: false }),
          partOfTrack(whole, { fromMs: atMs, toMs: atMs + 1, last: true }),
        ];
        expect([...a.frameUs, ...b.frameUs]).toEqual([...whole.frameUs]);
      }),
    ));

  const LINES: EntryLine[] = [
    { type: 'refresh', atMs: 0, hz: 120 },
    { type: 'skin', atMs: 30_000, spot: 'back', c: 33, by: 'infrared' },
    { type: 'span', fromMs: 40_000, toMs: 80_000, kind: 'cooler' },
    { type: 'title', atMs: 60_000, title: 'Hexgarden' },
    { type: 'skin', atMs: 60_000, spot: 'back', c: 36, by: 'infrared' },
    { type: 'rate', fps: 50, by: 'eye' },
    { type: 'mark', atMs: 70_000, kind: 'stutter' },
    { type: 'end', atMs: 90_000, reason: 'crash' },
  ];
  it('has its lines on its own clock: spans are cut at its ends, the panel’s rate holds on', () => {
    expect(partOfLines(LINES, { fromMs: 60_000, toMs: 90_000, last: true })).toEqual([
      { type: 'refresh', atMs: 0, hz: 120 },
      { type: 'span', fromMs: 0, toMs: 20_000, kind: 'cooler' },
      { type: 'skin', atMs: 0, spot: 'back', c: 36, by: 'infrared' },
      { type: 'mark', atMs: 10_000, kind: 'stutter' },
      { type: 'end', atMs: 30_000, reason: 'crash' },
    ]);
    expect(partOfLines(LINES, { fromMs: 0, toMs: 60_000, last: false })).toEqual([
      { type: 'refresh', atMs: 0, hz: 120 },
      { type: 'skin', atMs: 30_000, spot: 'back', c: 33, by: 'infrared' },
      { type: 'span', fromMs: 40_000, toMs: 60_000, kind: 'cooler' },
      { type: 'end', atMs: 60_000, reason: 'planned' },
    ]);
  });

  it('begins warm without blame', () => {
    const caveats = (inSitting: boolean): string[] =>
      analyse(
        runInput(
          { frameUs: new Int32Array(60).fill(16_667), gaps: [] },
          {
            dropped: 0,
            cutOff: false,
            entries: [{ type: 'skin', atMs: 0, spot: 'back', c: 36, by: 'infrared' }],
          },
          { ...factsOf(null), inSitting },
        ),
      ).figures.caveats;
    expect(caveats(false)).toContain('warm-start');
    expect(caveats(true)).not.toContain('warm-start');
  });
});
