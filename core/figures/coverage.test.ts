import { at, figuresOf } from '../testing';

describe('what a run’s pace is known from', () => {
  it('is frames, then what was read off once the logger died', () => {
    const figures = figuresOf({
      frames: at(50, 480),
      entries: [
        { type: 'rate', atMs: 300_000, fps: 52, by: 'overlay' },
        { type: 'rate', atMs: 600_000, fps: 42, by: 'in-title' },
        { type: 'rate', atMs: 900_000, fps: 40, by: 'in-title' },
        { type: 'end', atMs: 1_200_000, reason: 'planned' },
      ],
    });
    expect(figures.coverage).toMatchObject([
      { fromS: 0, toS: 480, from: 'frames', average: 50, interval: null, readings: 0, said: null },
      {
        fromS: 480,
        toS: 1200,
        from: 'read',
        average: 41,
        interval: { low: 39.5, high: 42.5 },
        readings: 2,
        said: { timed: { first: { written: { bare: '42' } }, last: { written: { bare: '40' } } } },
      },
    ]);
    // the figures themselves stay those of the frames
    expect(figures.pace).toMatchObject({ source: 'frames', average: 50 });
  });
  it('is nothing in a gap that nobody filled, and by eye where anyone guessed', () => {
    const figures = figuresOf({
      frames: [...at(50, 60), ...at(50, 60)],
      gaps: [
        { beforeFrame: 3000, lengthUs: 30e6 },
        { beforeFrame: 4500, lengthUs: 20e6 },
      ],
      entries: [{ type: 'rate', atMs: 130_000, fps: 30, by: 'eye' }],
    });
    expect(figures.coverage.map(({ fromS, toS, from }) => [fromS, toS, from])).toEqual([
      [0, 60, 'frames'],
      [60, 90, 'none'],
      [90, 120, 'frames'],
      [120, 140, 'eye'],
      [140, 170, 'frames'],
    ]);
  });
  it('is one stretch where nothing is missing', () =>
    expect(figuresOf({ frames: at(40, 60) }).coverage).toEqual([
      { fromS: 0, toS: 60, from: 'frames', average: 40, interval: null, readings: 0, said: null },
    ]));
  it('is nothing where there is nothing', () => expect(figuresOf({}).coverage).toEqual([]));
});
