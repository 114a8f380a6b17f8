import type { Caveat } from '../vocabulary';
import type { EntryLine } from '../runFile/lines';
import { at, figuresOf, type Case } from '../testing';

/** Quarter of an hour at 52 frames per second: sustained, at no cap, nothing to say against it. */
const LONG = at(52, 900);
const caveats = (run: Case): Caveat[] => figuresOf({ frames: LONG, ...run }).caveats;
const skin = (...readings: [second: number, c: number, spot?: string][]): EntryLine[] =>
  readings.map(([second, c, spot = 'back']) => ({
    type: 'skin',
    atMs: second * 1000,
    spot,
    c,
    by: 'infrared',
  }));
const FOUR = skin([10, 20], [300, 30], [600, 35], [890, 37]);

describe('caveats', () => {
  it('are none for a good run', () =>
    expect(figuresOf({ frames: LONG, entries: FOUR, facts: { roomC: 19 } })).toMatchObject({
      caveats: [],
      confidence: 'A',
    }));

  it.each<[Caveat, Case, Case]>([
    [
      'short-run',
      { frames: at(52, 890) },
      { frames: [], entries: [{ type: 'end', atMs: 1000, reason: 'would-not-start' }] },
    ],
    [
      'warm-start',
      { entries: skin([60, 22.1]), facts: { roomC: 19 } },
      { entries: skin([60, 22]), facts: { roomC: 19 } },
    ],
    ['warm-start', { entries: skin([5, 30.1]) }, { entries: skin([61, 40]) }],
    [
      'read-off',
      { frames: [], entries: [{ type: 'rate', atMs: 0, fps: 50, by: 'in-title' }] },
      { entries: [{ type: 'rate', atMs: 0, fps: 50, by: 'in-title' }] },
    ],
    [
      'eye-estimate',
      { frames: [], entries: [{ type: 'rate', atMs: 0, fps: 50, by: 'eye' }] },
      { entries: [{ type: 'rate', atMs: 0, fps: 50, by: 'overlay' }] },
    ],
    [
      'charged-during',
      { entries: [{ type: 'span', fromMs: 0, toMs: 5, kind: 'charging' }] },
      {
        entries: [{ type: 'span', fromMs: 0, toMs: 5, kind: 'charging' }],
        facts: { conditions: ['plugged-in'] },
      },
    ],
    [
      'charged-during',
      { entries: [{ type: 'battery', atMs: 0, percent: 50, charging: true }] },
      { entries: [{ type: 'battery', atMs: 0, percent: 50 }] },
    ],
    ['implausible-sensor', { entries: skin([5, 0.02], [10, 71]) }, { entries: skin([5, 20], [16, 26]) }],
    [
      'implausible-sensor',
      { entries: skin([5, 20], [15, 25.1]) },
      { entries: skin([5, 20], [15, 25.1, 'front']) },
    ],
    [
      'implausible-sensor',
      { entries: [{ type: 'load', atMs: 0, cpu: 0.02, gpu: 70 }] },
      { entries: [{ type: 'load', atMs: 0, cpu: 0.5, gpu: 70 }] },
    ],
    [
      'implausible-sensor',
      { entries: [{ type: 'load', atMs: 0, gpu: 101 }] },
      { frames: [], entries: [{ type: 'load', atMs: 0, cpu: 0.02 }] },
    ],
    [
      'crashed',
      { entries: [{ type: 'end', atMs: 900_000, reason: 'crash' }] },
      { entries: [{ type: 'end', atMs: 900_000, reason: 'stopped' }] },
    ],
    [
      'crashed',
      { entries: [{ type: 'mark', atMs: 500_000, kind: 'crash' }] },
      { entries: [{ type: 'mark', atMs: 500_000, kind: 'stutter' }] },
    ],
    ['room-unknown', { entries: FOUR }, { entries: FOUR, facts: { roomC: 19 } }],
    ['room-unknown', { entries: FOUR }, {}],
    ['few-readings', { entries: FOUR.slice(1) }, { entries: [...FOUR, ...skin([5, 19, 'front'])] }],
    ['capped', { frames: at(60, 900) }, {}],
    ['rows-dropped', { dropped: 1 }, {}],
    ['rows-dropped', { cutOff: true }, {}],
    [
      'gap',
      { gaps: [{ beforeFrame: 100, lengthUs: 1_000_001 }] },
      { gaps: [{ beforeFrame: 100, lengthUs: 1_000_000 }] },
    ],
    ['gap', { frames: [...LONG, 60_000_000] }, { frames: [...LONG, 59_999_999] }],
    [
      'dimmed',
      { entries: [{ type: 'mark', atMs: 0, kind: 'dim' }] },
      { entries: [{ type: 'mark', atMs: 0, kind: 'note' }] },
    ],
    [
      'excluded',
      {
        entries: [
          { type: 'span', fromMs: 0, toMs: 60_000, kind: 'menu' },
          { type: 'span', fromMs: 50_000, toMs: 91_000, kind: 'advert' },
        ],
      },
      {
        entries: [
          { type: 'span', fromMs: 0, toMs: 60_000, kind: 'menu' },
          { type: 'span', fromMs: 30_000, toMs: 89_000, kind: 'advert' },
        ],
      },
    ],
  ])('%s', (caveat, with_, without) => {
    expect(caveats(with_)).toContain(caveat);
    expect(caveats(without)).not.toContain(caveat);
  });

  it.each<Caveat>([
    'plugged-in',
    'streamed',
    'pre-release',
    'title-not-updated',
    'first-play',
    'aspect',
    'boosted',
  ])('%s is stated', (caveat) => expect(caveats({ facts: { conditions: [caveat] } })).toEqual([caveat]));

  describe('counter-is-refresh', () => {
    const counter = (fps: number, by: 'overlay' | 'in-title' = 'overlay'): EntryLine[] => [
      { type: 'rate', atMs: 450_000, fps, by },
    ];
    it('questions a counter that shows the panel’s rate while the frames are slower by a fifth', () => {
      expect(caveats({ entries: counter(120), facts: { refreshHz: 120 } })).toContain('counter-is-refresh');
      expect(caveats({ entries: counter(120, 'in-title'), facts: { refreshHz: 120 } })).not.toContain(
        'counter-is-refresh',
      );
      expect(caveats({ entries: counter(65), facts: { refreshHz: 65 } })).toContain('counter-is-refresh');
      expect(caveats({ entries: counter(64), facts: { refreshHz: 64 } })).not.toContain('counter-is-refresh');
    });
    it('goes by target or native rate where there are no frames, and leaves the rate out of the average', () => {
      const run: Case = {
        frames: [],
        entries: [...counter(120), { type: 'rate', atMs: 60_000, fps: 97, by: 'in-title' }],
        facts: { refreshHz: 120, target: 60 },
      };
      expect(caveats(run)).toContain('counter-is-refresh');
      expect(figuresOf(run).pace.average).toBe(97);
      expect(caveats({ ...run, facts: { refreshHz: 120, target: 90 } })).not.toContain('counter-is-refresh');
      // another counter saw no more than four fifths of it
      const other = [...counter(120), { type: 'rate', atMs: 60_000, fps: 61, by: 'in-title' }] as EntryLine[];
      expect(caveats({ ...run, entries: other, facts: { refreshHz: 120, target: 90 } })).toContain(
        'counter-is-refresh',
      );
    });
  });

  it('weigh two points or one: A up to 1, B up to 3, C up to 5, D from 6', () => {
    const letter = (...conditions: string[]): string =>
      figuresOf({ frames: LONG, facts: { conditions } }).confidence!;
    expect(letter('boosted')).toBe('A');
    expect(letter('boosted', 'aspect')).toBe('B');
    expect(letter('boosted', 'aspect', 'streamed')).toBe('C');
    expect(letter('boosted', 'aspect', 'streamed', 'plugged-in')).toBe('D');
  });
});

describe('messy truth', () => {
  it('a charging span, an excluded menu, dropped rows, a warm start and a crash at minute eight', () => {
    const entries: EntryLine[] = [
      ...skin([20, 27], [180, 33], [300, 36], [450, 38]),
      { type: 'span', fromMs: 60_000, toMs: 90_000, kind: 'menu' },
      { type: 'span', fromMs: 200_000, toMs: 260_000, kind: 'charging' },
      { type: 'battery', atMs: 0, percent: 60 },
      { type: 'battery', atMs: 180_000, percent: 58 },
      { type: 'battery', atMs: 270_000, percent: 61 },
      { type: 'battery', atMs: 450_000, percent: 59 },
      { type: 'end', atMs: 480_000, reason: 'crash' },
    ];
    // the menu runs at 100, play at 50
    const figures = figuresOf({
      frames: [...at(50, 60), ...at(100, 30), ...at(50, 390)],
      entries,
      dropped: 3,
      facts: { roomC: 18, target: 50 },
    });
    expect(figures.frames).toEqual({ count: 50 * 450, seconds: 480, dropped: 3 });
    expect(figures.pace).toMatchObject({ average: 50, median: 50, hold: 1, slow: 0 });
    expect(figures.stamina).toMatchObject({
      word: 'DNF',
      opening: 50,
      closing: null,
      retention: null,
      onTarget: 1,
    });
    expect(figures.warmth).toMatchObject({ peakC: 38, spots: [{ riseC: 20 }] });
    expect(figures.drain!.percentPerHour).toBeCloseTo(40, 9);
    expect(figures.caveats).toEqual([
      'short-run',
      'warm-start',
      'charged-during',
      'crashed',
      'capped',
      'rows-dropped',
    ]);
    expect(figures.confidence).toBe('D');
  });
});
