import { readNotebook, type PaperLine } from './notebook';
import { figuresOf } from '../testing';

const one = (text: string, unit: 'C' | 'F' = 'C'): PaperLine => readNotebook(text, { unit })[0]!;

describe('readings on paper', () => {
  it.each<[string, object[]]>([
    ['8:00 back 36.5', [{ type: 'skin', atMs: 480_000, spot: 'back', c: 36.5, by: 'infrared' }]],
    ['13 min front 106 F', [{ type: 'skin', atMs: 780_000, spot: 'front', c: 41.11, by: 'infrared' }]],
    ['13min, front: 106°F', [{ type: 'skin', atMs: 780_000, spot: 'front', c: 41.11, by: 'infrared' }]],
    ['100% 0:00', [{ type: 'battery', atMs: 0, percent: 100 }]],
    ['1:05:30 97 %', [{ type: 'battery', atMs: 3_930_000, percent: 97 }]],
    ['20:00 81% charging', [{ type: 'battery', atMs: 1_200_000, percent: 81, charging: true }]],
    [
      '8:00 back by the camera 38,4 front middle 36',
      [
        { type: 'skin', atMs: 480_000, spot: 'back by the camera', c: 38.4, by: 'infrared' },
        { type: 'skin', atMs: 480_000, spot: 'front middle', c: 36, by: 'infrared' },
      ],
    ],
    ['8:00 36.5 back', [{ type: 'skin', atMs: 480_000, spot: 'back', c: 36.5, by: 'infrared' }]],
    ['8:00 sensor back 41', [{ type: 'skin', atMs: 480_000, spot: 'back', c: 41, by: 'battery sensor' }]],
    ['5:00 58 fps', [{ type: 'rate', atMs: 300_000, fps: 58, by: 'overlay' }]],
    ['5:00 about 40 fps ± 8', [{ type: 'rate', atMs: 300_000, fps: 40, low: 32, high: 48, by: 'eye' }]],
    ['5:00 own counter 30 fps', [{ type: 'rate', atMs: 300_000, fps: 30, by: 'in-title' }]],
    ['8:12 crash', [{ type: 'end', atMs: 492_000, reason: 'crash' }]],
    ['41:00 dims', [{ type: 'mark', atMs: 2_460_000, kind: 'dim' }]],
    [
      '30 s back 25 80%',
      [
        { type: 'skin', atMs: 30_000, spot: 'back', c: 25, by: 'infrared' },
        { type: 'battery', atMs: 30_000, percent: 80 },
      ],
    ],
  ])('“%s”', (text, entries) => expect(one(text).entries).toEqual(entries));

  it('take the scale of the person where none is named', () => {
    expect(one('8:00 back 98.6', 'F').entries).toMatchObject([{ c: 37 }]);
    expect(one('8:00 back 37 C', 'F').entries).toMatchObject([{ c: 37 }]);
  });

  it.each([
    ['8:75 back 36.5', /is not a time/],
    ['8:00 106', /spot for 106 is missing/],
    ['8:00 back 106', /If it is Fahrenheit, write 106 F/],
    ['8:00 back 36.5 37', /spot for 37 is missing/],
    ['18:00 back', /There is no number for “back”\. Write, for example, 18:00 back 36\.5/],
    ['8:00 back 36.5 not 40', /Is 40 a temperature or a rate/],
    ['8:00 120 %', /cannot be above 100/],
  ])('“%s” is unclear, and says how to write it', (text, problem) => {
    expect(one(text)).toMatchObject({
      entries: [],
      understood: null,
      problem: expect.stringMatching(problem),
    });
  });

  it('keep their line numbers, and pass over notes', () => {
    expect(
      readNotebook('# bench, evening\n\n8:00 back 36\nran into that again\n', { unit: 'C' }).map(
        ({ line, problem }) => [line, problem !== null],
      ),
    ).toEqual([
      [3, false],
      [4, true],
    ]);
  });

  it('say how they were understood', () =>
    expect(one('5:00 ~40 fps').understood).toBe('5:00: about 40 fps, by eye'));

  it('give a run without a log the figures that they allow', () => {
    const lines = readNotebook(
      '0:10 back 20\n8:00 back 36.5\n13:00 back 40.7\n18:00 back 41.7\n0:00 100%\n18:00 92%\n6:00 41 fps\n12:00 about 35 fps',
      { unit: 'C' },
    );
    const figures = figuresOf({ entries: lines.flatMap((line) => line.entries), facts: { roomC: 20 } });
    expect(figures.pace).toMatchObject({ source: 'read', average: 41 });
    expect(figures.warmth).toMatchObject({ peakC: 41.7, spots: [{ fit: { startC: expect.any(Number) } }] });
    expect(figures.drain).toMatchObject({ from: 'percent' });
    expect(figures.caveats).toEqual(['read-off']);
  });
});
