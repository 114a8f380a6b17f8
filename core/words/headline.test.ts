import { analyse } from '../figures/analyse';
import type { RunInput } from '../figures/model';
import { clock, headline, headlineFacts, rate, type Voice } from './headline';
import { factsOf, runInput } from '../runFile/runInput';
import type { EntryLine } from '../runFile/lines';

const plain = (text: string): string => text.replaceAll('\u00a0', ' ');
const say = (
  frames: number[],
  entries: EntryLine[] = [],
  facts: Partial<RunInput> = {},
  voice?: Voice,
): string =>
  plain(
    headline(
      headlineFacts(
        analyse({
          ...runInput(
            { frameUs: Int32Array.from(frames), gaps: [] },
            { dropped: 0, cutOff: false, entries },
            { ...factsOf(null), target: 60 },
          ),
          ...facts,
        }).figures,
      ),
      voice,
    ),
  );
const at = (fps: number, seconds: number): number[] =>
  Array<number>(Math.round(fps * seconds)).fill(Math.round(1e6 / fps));

describe('headline', () => {
  it('says how a long run went from its opening to its closing, and since when', () =>
    expect(say([...at(54, 500), ...at(40, 200), ...at(31, 500)])).toBe(
      'Opens at 54 fps, buckles to 31 from minute 9.',
    ));
  it('names a dip between two ends that hold', () =>
    expect(say([...at(60, 900), ...at(30, 600), ...at(60, 900)])).toBe(
      'Holds 60 fps at the cap of 60, but for 30 from 15:00 to 25:00.',
    ));
  it('says between what a pace swings that nobody saw at its average', () =>
    expect(say(Array.from({ length: 10 }, () => [...at(60, 60), ...at(30, 60)]).flat())).toBe(
      'Swings between 30 and 60 fps.',
    ));
  it('begins with unevenness where a hundredth of the frames says so', () =>
    expect(say(Array.from({ length: 4000 }, () => [2000, 31_000]).flat())).toBe(
      'Uneven, 1 % low 32.3: averages 60.6 fps.',
    ));
  it('asks for a menu where the run begins well over its target', () =>
    expect(say([...at(240, 120), ...at(45, 900)])).toBe(
      'Ends at 45 fps, after 191, well over its target of 60: a menu that nobody marked?',
    ));
  it('says where it holds, and that a cap hides the rest', () => {
    expect(say(at(53, 900))).toBe('Opens at 53 fps and holds 53.');
    expect(say(at(60, 900))).toBe('Holds 60 fps at the cap of 60.');
  });
  it('names the titles of a sitting instead of a pace of all of them', () =>
    expect(
      say([...at(60, 600), ...at(40, 600)], [{ type: 'title', atMs: 600_000, title: 'Hexgarden' }]),
    ).toBe('2 titles: unknown title 60 fps, Hexgarden 40 fps.'));
  it('claims nothing sustained of a short run', () =>
    expect(say(at(60, 300))).toBe('Averages 60 fps, 1 % low 60.'));
  it('puts a freeze first, whatever the average', () =>
    expect(say([...at(60, 120), 2_300_000, ...at(60, 120)])).toMatch(/^One freeze of 2\.3 s; averages/));
  it('puts a crash before everything', () =>
    expect(say([...at(60, 100), 1_500_000], [{ type: 'end', atMs: 101_500, reason: 'crash' }])).toMatch(
      /^DNF: crashed at 1:41; one freeze of 1\.5 s; /,
    ));
  it('says what would not start', () =>
    expect(say([], [{ type: 'end', atMs: 0, reason: 'would-not-start' }])).toBe('DNS: would not start.'));
  it('does not claim to have measured what was read', () =>
    expect(say([], [{ type: 'rate', atMs: 0, fps: 41, by: 'eye' }])).toBe('41 fps at 0:00, by eye.'));
  it('names the hottest reading and the battery', () =>
    expect(
      say(at(60, 60), [
        { type: 'skin', atMs: 30_000, spot: 'back', c: 38.44, by: 'infrared' },
        ...Array.from({ length: 16 }, (_, i): EntryLine => ({
          type: 'battery',
          atMs: i * 360_000,
          percent: 90 - i,
        })),
      ]),
    ).toBe('Averages 60 fps, 1 % low 60; 38.4 °C at back; about 10 h 00 from a full battery.'));
  it('says a battery as surely as it was read', () => {
    const read = (...percents: [minute: number, percent: number][]): string =>
      say(
        [],
        percents.map(([minute, percent]) => ({ type: 'battery', atMs: minute * 60_000, percent })),
      );
    // one percent in two minutes is nothing
    expect(read([0, 100], [2, 99])).toBe('No data yet.');
    // two new percents: as a range
    expect(read([0, 100], [12, 98], [24, 97])).toBe('3 h 52 or more from a full battery.');
  });
  it('speaks as the reader’s school and scale would', () => {
    const warm: EntryLine[] = [{ type: 'skin', atMs: 0, spot: 'back', c: 43, by: 'infrared' }];
    expect(say([...at(60, 90), ...at(40, 10)], warm, {}, { school: 'median-and-hold', unit: 'F' })).toBe(
      'Median 60 fps, 90 % near it; 109.4 °F at back.',
    );
    expect(say([...at(60, 90), ...at(40, 10)], warm, {}, { school: 'average-and-lows', unit: 'C' })).toBe(
      'Averages 58 fps, 1 % low 40; 43.0 °C at back.',
    );
  });
  it('has words for nothing', () => expect(say([])).toBe('No data yet.'));
});

describe('words for figures', () => {
  it.each([
    [0, '0:00'],
    [485.9, '8:05'],
    [3600, '1:00:00'],
    [5025, '1:23:45'],
  ])('clock %d', (seconds, text) => expect(clock(seconds)).toBe(text));
  it.each([
    [59.96, '60'],
    [59.94, '59.9'],
    [30, '30'],
    [0.05, '0.05'],
    [0, '0'],
    [119.96, '120'],
    [99.96, '100'],
  ])('rate %d', (fps, text) => expect(rate(fps)).toBe(text));
});
