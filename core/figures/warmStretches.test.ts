import { at, figuresOf } from '../testing';
import type { EntryLine } from '../runFile/lines';
import { warmthAt } from './warmth';
import { warmStretches } from './warmStretches';

/** Skin that follows its levels with one time constant, from levels that begin at given times. */
function skin(
  levels: [fromS: number, c: number][],
  tauS: number,
  startC: number,
  everyS: number,
  endS: number,
): EntryLine[] {
  const lines: EntryLine[] = [];
  let c = startC;
  for (let second = 0; second <= endS; second++) {
    if (second % everyS === 0)
      lines.push({ type: 'skin', atMs: second * 1000, spot: 'back', c, by: 'infrared' });
    const level = levels.findLast(([fromS]) => fromS <= second)![1];
    c = level - (level - c) * Math.exp(-1 / tauS);
  }
  return lines;
}

describe('switches of a run', () => {
  it('are its onset, both ends of condition and charging spans, and changes of the title', () =>
    expect(
      warmStretches({
        onsetS: 600,
        conditions: [{ kind: 'cooler', fromUs: 300e6, toUs: 900e6 }],
        charging: [{ fromUs: 0, toUs: 100e6 }],
        titles: [
          { atS: 0, name: 'Hexgarden' },
          { atS: 1200, name: 'Skiff 120' },
        ],
      }),
    ).toEqual([
      { to: 100, state: 'Hexgarden, charging' },
      { to: 300, state: 'Hexgarden' },
      { to: 600, state: 'Hexgarden, cooler' },
      { to: 900, state: 'Hexgarden, cooler, throttled' },
      { to: 1200, state: 'Hexgarden, throttled' },
      { to: Infinity, state: 'Skiff 120, throttled' },
    ]));
});

describe('the warm-up of a run with switches', () => {
  it('finds both levels of a run that a cooler was clipped on to', () => {
    const entries: EntryLine[] = [
      ...skin(
        [
          [0, 46],
          [900, 38],
        ],
        400,
        20,
        60,
        1800,
      ),
      { type: 'span', fromMs: 900_000, toMs: 1_800_000, kind: 'cooler' },
      { type: 'end', atMs: 1_800_000, reason: 'planned' },
    ];
    const { fit } = figuresOf({ entries }).warmth.spots[0]!;
    expect(fit!.levels.map(({ fromS, settlesC }) => [fromS, Math.round(settlesC * 1e6) / 1e6])).toEqual([
      [0, 46],
      [900, 38],
    ]);
    expect(fit!.finalC).toBeCloseTo(38, 6);
    // the curve that is drawn goes through every reading, before and after the switch
    for (const line of entries)
      if (line.type === 'skin') expect(warmthAt(fit!, line.atMs / 1000)).toBeCloseTo(line.c, 6);
    expect(fit!.tauS).toBeCloseTo(400, 3);
    expect(fit!.levels[1]!.change!.c).toBeCloseTo(-8, 6);
    // 900 s since the switch are less than three time constants
    expect(fit!.settled).toBe(false);
    // it came from above: no line is reached
    expect(fit!.cautionAtS).toBeNull();
  });
  it('does not take a flag for a charging span, nor an idle switch for one', () => {
    const lines = skin([[0, 44]], 300, 20, 60, 1500);
    const flagged = figuresOf({
      entries: [...lines, { type: 'battery', atMs: 300_000, percent: 80, charging: true }],
    });
    expect(flagged.warmth.spots[0]!.fit!.levels).toHaveLength(1);
    // between two readings: nothing is read in it
    const idle = figuresOf({
      entries: [...lines, { type: 'span', fromMs: 301_000, toMs: 302_000, kind: 'fan' }],
    });
    expect(idle.warmth.spots[0]!.fit!.levels).toHaveLength(1);
  });
  it('parts at the onset of throttling', () => {
    const figures = figuresOf({
      frames: [...at(60, 600), ...at(40, 1200)],
      entries: skin(
        [
          [0, 45],
          [600, 40],
        ],
        300,
        20,
        60,
        1800,
      ),
    });
    expect(figures.stamina.onsetS).toBe(600);
    const levels = figures.warmth.spots[0]!.fit!.levels;
    expect(levels.map((level) => [level.fromS, Math.round(level.settlesC), level.state])).toEqual([
      [0, 45, ''],
      [600, 40, 'throttled'],
    ]);
  });
  it('leaves a peak without a time out of the curve, and not out of the peak', () => {
    const entries: EntryLine[] = [
      ...skin([[0, 44]], 300, 20, 120, 1200),
      { type: 'skin', atMs: 1_200_000, spot: 'back', c: 47, by: 'infrared', peak: true },
    ];
    const [spot] = figuresOf({ entries }).warmth.spots;
    expect(spot!.peakC).toBe(47);
    expect(spot!.fit!.finalC).toBeCloseTo(44, 6);
  });
});

describe('a title line', () => {
  const lines = (title: string, setup?: string): EntryLine[] => [
    ...skin(
      [
        [0, 44],
        [600, 40],
      ],
      300,
      20,
      60,
      1500,
    ),
    { type: 'title', atMs: 600_000, title, ...(setup ? { setup } : {}) },
  ];
  const levels = (entries: EntryLine[]): number =>
    figuresOf({ entries, facts: { played: 'Hexgarden (Highest)' } }).warmth.spots[0]!.fit!.levels.length;
  it('is a switch where another title, or another setup of it, begins; one that repeats it is none', () => {
    expect(levels(lines('Skiff 120'))).toBe(2);
    expect(levels(lines('Hexgarden', 'Lowest'))).toBe(2);
    expect(levels(lines('Hexgarden', 'Highest'))).toBe(1);
  });
});

describe('a run that is switched all the time', () => {
  const spans = (count: number): EntryLine[] =>
    Array.from({ length: count }, (_, i) => ({
      type: 'span',
      fromMs: i * 10_000,
      toMs: i * 10_000 + 5000,
      kind: 'fan',
    }));
  it('has no curve, and takes no time', () => {
    const readings = skin([[0, 44]], 300, 20, 2, 12_000);
    for (const count of [30, 600, 60_000])
      expect(figuresOf({ entries: [...readings, ...spans(count)] }).warmth.spots[0]!.fit).toBeNull();
  });
});

describe('conditions by span', () => {
  it('are caveats where they are of such a kind', () =>
    expect(
      figuresOf({
        frames: at(60, 30),
        entries: [
          { type: 'span', fromMs: 0, toMs: 1000, kind: 'boost' },
          { type: 'span', fromMs: 0, toMs: 1000, kind: 'dimmed' },
        ],
      }).caveats,
    ).toEqual(expect.arrayContaining(['boosted', 'dimmed'])));
});
