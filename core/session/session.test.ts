import type { EntryLine, RunHeader } from '../runFile/lines';
import { factsOf, runInput } from '../runFile/runInput';
import { at } from '../testing';
import { sessionFigures } from './session';
import { titleStretches } from './titles';

const HEADER: RunHeader = { type: 'run', version: 1, title: 'A' };
const MIN = 60_000;
const figures = (
  entries: EntryLine[],
  endMin: number,
  frames: number[] = [],
  header: RunHeader | null = HEADER,
) =>
  sessionFigures(
    runInput(
      { frameUs: Int32Array.from(frames), gaps: [] },
      { dropped: 0, cutOff: false, entries },
      factsOf(header),
    ),
    header,
    entries,
    endMin * 60,
  );
const title = (minute: number, name: string, setup?: string): EntryLine => ({
  type: 'title',
  atMs: minute * MIN,
  title: name,
  ...(setup === undefined ? {} : { setup }),
});

describe('titles', () => {
  it('follow one another; one that repeats changes nothing, another setup begins anew', () => {
    const entries = [title(0, 'A'), title(10, 'B'), title(20, 'B'), title(30, 'B', 'low'), title(50, 'A')];
    expect(
      titleStretches(HEADER, entries, 3600).map(({ title: name, fromS, toS }) => [name, fromS, toS]),
    ).toEqual([
      ['A', 0, 600],
      ['B', 600, 1800],
      ['B', 1800, 3000],
      ['A', 3000, 3600],
    ]);
  });
  it('before the first line nobody knows what is played, without a title of the run', () =>
    expect(titleStretches(null, [title(5, 'B')], 600).map((stretch) => stretch.title)).toEqual([null, 'B']));

  it('have the average of their own frames, or of what was read in them', () => {
    const frames = [...at(60, 600), ...at(30, 600)];
    expect(figures([title(10, 'B')], 20, frames).titles.map(({ average }) => Math.round(average!))).toEqual([
      60, 30,
    ]);
    const read = figures(
      [title(10, 'B'), { type: 'rate', atMs: 12 * MIN, fps: 40, low: 38, high: 44, by: 'overlay' }],
      20,
    );
    expect(read.titles.map(({ average }) => average)).toEqual([null, 40]);
  });
});

/** A battery that is read whenever it shows a new percent. */
function battery(rates: [toMin: number, percentPerHour: number][], from = 100, startMin = 0): EntryLine[] {
  const lines: EntryLine[] = [{ type: 'battery', atMs: startMin * MIN, percent: from }];
  let [percent, minute] = [from, startMin];
  for (const [toMin, rate] of rates)
    while (minute + 60 / rate <= toMin + 1e-9) {
      minute += 60 / rate;
      lines.push({ type: 'battery', atMs: minute * MIN, percent: --percent });
    }
  return lines;
}

describe('drain by title', () => {
  it('gives each title its own rate back', () => {
    const { drain } = figures(
      [
        title(60, 'B'),
        ...battery([
          [60, 10],
          [120, 20],
        ]),
      ],
      120,
    );
    expect(drain!.separable).toBe(true);
    expect(drain!.rates.map(({ title: name }) => name)).toEqual(['A', 'B']);
    expect(drain!.rates[0]!.percentPerHour).toBeCloseTo(10, 6);
    expect(drain!.rates[1]!.percentPerHour).toBeCloseTo(20, 6);
    // a gauge of whole percents is no surer than that, however straight the line
    expect(drain!.rates[1]!.interval![0]).toBeLessThan(20);
  });

  it('counts over a top-up in between: an intercept for each stretch of discharge', () => {
    const entries: EntryLine[] = [
      title(60, 'B'),
      ...battery([[60, 12]]),
      { type: 'span', kind: 'charging', fromMs: 60 * MIN, toMs: 90 * MIN },
      ...battery([[150, 24]], 97, 90.5),
    ];
    const { drain } = figures(entries, 150);
    expect(drain!.rates.map(({ percentPerHour }) => Math.round(percentPerHour! * 1e6) / 1e6)).toEqual([
      12, 24,
    ]);
  });

  it('says when they are not told apart: one rate for all', () => {
    // all that fell, fell in A; B was played until nothing more had fallen
    const entries: EntryLine[] = [
      title(60, 'B'),
      ...battery([[60, 10]]),
      { type: 'battery', atMs: 63 * MIN, percent: 90 },
    ];
    const { drain } = figures(entries, 63);
    expect(drain!.separable).toBe(false);
    expect(drain!.rates.map(({ percentPerHour }) => percentPerHour!.toFixed(3))).toEqual([
      '10.000',
      '10.000',
    ]);
  });

  it('a title without an hour of discharge has none, and spoils no other', () => {
    const { drain } = figures([...battery([[60, 10]]), title(60, 'B')], 90);
    expect(drain).toMatchObject({
      separable: true,
      rates: [{ title: 'A' }, { title: 'B', percentPerHour: null, interval: null }],
    });
    expect(drain!.rates[0]!.percentPerHour).toBeCloseTo(10, 6);
  });

  it('is nothing where the battery says nothing', () =>
    expect(figures([title(5, 'B')], 10).drain).toBeNull());
});

describe('warmth by state', () => {
  /** Skin that follows levels with one time constant, read every two minutes. */
  function skin(levels: [toMin: number, settles: number][], tauMin: number, startC: number): EntryLine[] {
    const lines: EntryLine[] = [];
    let [c, minute] = [startC, 0];
    for (const [toMin, settles] of levels)
      for (; minute <= toMin; minute += 2) {
        if (minute > 0) c = settles + (c - settles) * Math.exp(-2 / tauMin);
        lines.push({ type: 'skin', atMs: minute * MIN, spot: 'back', c, by: 'infrared' });
      }
    return lines;
  }

  it('finds time constant and level of each state again, one that comes back being one', () => {
    const entries: EntryLine[] = [
      ...skin(
        [
          [20, 42],
          [40, 36],
          [60, 42],
          [80, 39],
        ],
        6,
        20,
      ),
      { type: 'span', kind: 'cooler', fromMs: 20 * MIN, toMs: 40 * MIN },
      title(60, 'B'),
    ];
    const back = figures(entries, 80).warmth.get('back')!;
    expect(back.tauS).toBeCloseTo(360, 3);
    expect(back.levels.map(({ state }) => state)).toEqual([['A'], ['A', 'cooler'], ['B']]);
    [42, 36, 39].forEach((c, i) => {
      expect(back.levels[i]!.settlesC).toBeCloseTo(c, 4);
      expect(back.levels[i]!.interval[0]).toBeLessThanOrEqual(c + 1e-6);
    });
  });

  it('of one state is a warm-up; too few readings are no fit', () => {
    expect(figures(skin([[40, 42]], 6, 20), 40).warmth.get('back')!.levels).toHaveLength(1);
    expect(figures(skin([[4, 42]], 6, 20), 4).warmth.get('back')).toBeNull();
  });
});
