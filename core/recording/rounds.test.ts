import { nextReading } from './rounds';

const EVERY = 300_000;
const spots = ['back', 'front'];

describe('the next reading', () => {
  it('is the first spot cold, at the start', () =>
    expect(nextReading(spots, [], EVERY, 0)).toEqual({ spot: 'back', dueMs: 0 }));
  it('goes through the round, then waits for the next', () => {
    expect(nextReading(spots, [{ spot: 'back', atMs: 4000 }], EVERY, 9000)).toEqual({
      spot: 'front',
      dueMs: 0,
    });
    const cold = [
      { spot: 'back', atMs: 4000 },
      { spot: 'front', atMs: 8000 },
    ];
    expect(nextReading(spots, cold, EVERY, 9000)).toEqual({ spot: 'back', dueMs: EVERY });
  });
  it('takes a reading that is a little early as the one that is due', () =>
    expect(nextReading(['back'], [{ spot: 'back', atMs: 280_000 }], EVERY, 290_000)).toEqual({
      spot: 'back',
      dueMs: 2 * EVERY,
    }));
  it('lets a missed round go once the next is nearer', () => {
    expect(nextReading(spots, [], EVERY, 440_000)).toEqual({ spot: 'back', dueMs: EVERY });
    expect(nextReading(spots, [], EVERY, 460_000)).toEqual({ spot: 'back', dueMs: 2 * EVERY });
  });
  it('is none without spots', () => expect(nextReading([], [], EVERY, 0)).toBeNull());
});
