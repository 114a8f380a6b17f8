import { LiveRun } from '@pace-check/core';

const HOUR_FRAMES = 3600 * 144;
const BATCH = 1000;
const BATCHES = 200;

/** Times of single batches of 1,000 frames, with all figures after each, when an hour at 144 Hz is in already; ascending, ms. */
export function measureLive(): number[] {
  const live = new LiveRun(5);
  const frames = (count: number): Int32Array =>
    Int32Array.from(
      { length: count },
      (_, i) => 6944 + ((i * 7919) % 601) - 300 + (i % 5000 === 4999 ? 90_000 : 0),
    );
  live.push(frames(HOUR_FRAMES));
  const batch = frames(BATCH);
  const times = Array.from({ length: BATCHES }, () => {
    const start = performance.now();
    live.push(batch);
    live.figures();
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b);
}
