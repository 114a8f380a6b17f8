import { figuresOf } from '../testing';
import { readNotebook } from './notebook';

const HALF_AN_HOUR = 30 * 60_000;
const figures = (text: string): ReturnType<typeof figuresOf> =>
  figuresOf({
    entries: readNotebook(text, { unit: 'C', lengthMs: HALF_AN_HOUR }).flatMap((line) => line.entries),
    facts: { need: 'story' },
  });
const doing = (text: string, of: string): object | undefined =>
  figures(text).doing.find((series) => series.of === of);

describe('what nobody timed', () => {
  it('is told of the whole run, and drawn nowhere', () => {
    expect(doing('cpu 40 %\nplayed 30 min', 'cpu')).toMatchObject({ mean: 40, most: 40, points: [] });
    expect(doing('8:00 cpu 20 %\ncpu 40 %\nplayed 30 min', 'cpu')).toMatchObject({
      mean: 30,
      most: 40,
      points: [{ atMs: 480_000, value: 20 }],
    });
  });
  it('the highest that was seen is no mean, and enters no drain', () => {
    expect(doing('chip up to 10.5 W\nplayed 30 min', 'power, chip')).toMatchObject({
      mean: null,
      most: 10.5,
      points: [],
    });
    const drained = figures('0:00 5 W\n30:00 5 W\npeak 12 W\nplayed 30 min');
    expect(drained.drain).toMatchObject({ watts: 5, from: 'power' });
    expect(drained.doing.find((series) => series.of === 'power, device')).toMatchObject({
      mean: 5,
      most: 12,
    });
  });
  it('a freeze counts whenever it was, and so does a crash', () => {
    const text = 'average 60 fps, 1% low 50\nplayed 30 min';
    expect(figures(text).playable).toBe('plays well');
    expect(figures(`${text}\nfroze twice`).playable).toBe('plays');
    expect(figures(`${text}\ncrashed twice`).caveats).toContain('crashed');
  });
  it('of a temperature a range keeps both ends, and the upper one is the peak', () => {
    const { warmth } = figures('middle 33-34\nplayed 30 min');
    expect(warmth.peakC).toBe(34);
    expect(warmth.spots[0]!.readings[0]).toMatchObject({ c: 34, low: 33, peak: true });
  });
  it('the hand’s words stand in no series', () => {
    const warm = figures('warm, not hot\n60 fps\nplayed 30 min');
    expect(warm.warmth.spots).toEqual([]);
    expect(warm.marks).toEqual([{ atMs: HALF_AN_HOUR, kind: 'warmth', note: 'warm, not hot', whole: true }]);
  });
});
