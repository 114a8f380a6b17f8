import { figuresOf } from '../testing';
import type { Drain } from './drain';
import type { EntryLine } from '../runFile/lines';

const minutes = (...readings: [minute: number, percent: number, charging?: boolean][]): EntryLine[] =>
  readings.map(([minute, percent, charging]) => ({
    type: 'battery',
    atMs: minute * 60_000,
    percent,
    charging,
  }));
const power = (...samples: [second: number, mw: number][]): EntryLine[] =>
  samples.map(([second, mw]) => ({ type: 'power', atMs: second * 1000, mw }));
const drain = (entries: EntryLine[], batteryWh: number | null = null): Drain | null =>
  figuresOf({ entries, facts: { batteryWh } }).drain;

describe('percent per hour', () => {
  it('is the slope through the first reading of each percent', () => {
    // 99 from minute 6, 98 from 12, 97 from 18: 10 an hour, however often each is read
    expect(
      drain(minutes([0, 100], [3, 100], [6, 99], [9, 99], [12, 98], [18, 97], [20, 97]))!.percentPerHour,
    ).toBeCloseTo(10, 9);
  });
  it('has one slope through several stretches, each with its own height', () => {
    const entries = minutes([0, 60], [6, 59], [12, 58], [20, 58, true], [30, 80], [36, 79], [42, 78]);
    expect(drain(entries)!.percentPerHour).toBeCloseTo(10, 9);
  });
  it('carries the interval of Student’s t', () => {
    // x = 0, 0.1, 0.2, 0.3 h; y = 99, 98, 96, 95, when each was new: slope −14, residual sum of squares 0.2, 2 degrees of freedom; t = 4.3027 (table)
    const { percentPerHour, range } = drain(minutes([0, 100], [6, 99], [12, 98], [18, 96], [24, 95]))!;
    expect(percentPerHour).toBeCloseTo(14, 9);
    const half = 4.30265 * Math.sqrt(0.2 / 2 / 0.05);
    expect(range![1] - 14).toBeCloseTo(half, 3);
    expect(14 - range![0]).toBeCloseTo(half, 3);
  });
  it('is what fell over the time where fewer than three points are there, as a range of one percent', () => {
    expect(drain(minutes([0, 100], [60, 88]))).toMatchObject({
      percentPerHour: 12,
      range: [11, 13],
      hoursFromFull: 100 / 12,
    });
    expect(drain(minutes([0, 100], [30, 94], [31, 94, true], [60, 97], [90, 91]))).toMatchObject({
      percentPerHour: 12,
    });
  });
  it('leaves more open where a percent was written as “about”', () => {
    const [first, last] = minutes([0, 100], [60, 88]);
    expect(drain([first!, { ...last!, about: true } as EntryLine])).toMatchObject({
      percentPerHour: 12,
      range: [9.5, 14.5],
    });
  });
  it('is unknown from one reading', () => expect(drain(minutes([0, 100]))).toBeNull());
  it('has no hours from full where it does not fall', () =>
    expect(drain(minutes([0, 80], [60, 80]))).toMatchObject({ percentPerHour: 0, hoursFromFull: null }));
});

describe('stretches', () => {
  it('begin anew where a percent rises for good, and leave a lone one out', () => {
    const risen = figuresOf({ entries: minutes([0, 50], [6, 49], [12, 70], [18, 69], [24, 68]) });
    expect(risen.drain!.percentPerHour).toBeCloseTo(10, 9);
    expect(risen.doubtful.battery).toEqual([]);
    const lone = figuresOf({ entries: minutes([0, 50], [6, 49], [12, 70], [18, 47.99], [24, 46]) });
    expect(lone.doubtful.battery).toMatchObject([{ percent: 70 }]);
    expect(lone.caveats).toContain('implausible-sensor');
  });
  it('doubt a fall of more than five points within a minute', () => {
    const figures = figuresOf({ entries: minutes([0, 50], [1, 20], [6, 49], [12, 48]) });
    expect(figures.doubtful.battery).toMatchObject([{ percent: 20 }]);
    expect(figures.drain!.percentPerHour).toBeCloseTo(10, 9);
  });
  it('end where a charging span lies between two readings', () => {
    const span: EntryLine = { type: 'span', fromMs: 7 * 60_000, toMs: 9 * 60_000, kind: 'charging' };
    // without the span the rise would be a fall of nothing
    expect(
      drain([...minutes([0, 50], [6, 49], [12, 49], [18, 48], [24, 47]), span])!.percentPerHour,
    ).toBeCloseTo(10, 9);
  });
});

describe('watts', () => {
  // common practice: 1 Wh is 3,600 J; 4,700 mAh at 3.85 V are 18.095 Wh
  it('come from percent and the battery’s energy', () => {
    const result = drain(minutes([0, 100], [6, 98], [12, 96], [18, 94]), (4700 * 3.85) / 1000)!;
    expect(result).toMatchObject({ from: 'percent' });
    expect(result.watts).toBeCloseTo(18.095 * 0.2, 9);
  });
  it('come from power samples where there are any, by trapezoids', () => {
    const result = drain([...minutes([0, 100], [60, 80]), ...power([0, 4000], [10, 6000], [30, 6000])], 18)!;
    expect(result.watts).toBeCloseTo((5 * 10 + 6 * 20) / 30, 9);
    expect(result).toMatchObject({ from: 'power', percentPerHour: 20 });
  });
  it('leave out samples with charging at or between them', () => {
    const span: EntryLine = { type: 'span', fromMs: 12_000, toMs: 18_000, kind: 'charging' };
    expect(drain([...power([0, 4000], [10, 4000], [20, 9000], [30, 5000]), span])!.watts).toBeCloseTo(
      (4 * 10 + 7 * 10) / 20,
      9,
    );
    // what was read within a span is not flagged: it says nothing of what comes after the span
    const within: EntryLine = { type: 'battery', atMs: 15_000, percent: 50, charging: false };
    expect(drain([...power([0, 4000], [10, 4000], [20, 9000], [30, 5000]), span, within])!.watts).toBeCloseTo(
      (4 * 10 + 7 * 10) / 20,
      9,
    );
    const flagged: EntryLine[] = [
      { type: 'battery', atMs: 15_000, percent: 50, charging: true },
      { type: 'battery', atMs: 25_000, percent: 51 },
    ];
    expect(
      drain([...power([0, 4000], [10, 4000], [20, 9000], [30, 5000], [40, 5000]), ...flagged])!.watts,
    ).toBeCloseTo((4 * 10 + 5 * 10) / 20, 9);
  });
  it('are unknown from percent alone, and said to come from there', () =>
    expect(drain(minutes([0, 100], [60, 90]))).toMatchObject({ watts: null, from: 'percent' }));
  it('doubt what cannot be', () => {
    const figures = figuresOf({ entries: power([0, 4000], [10, 70_000], [20, 4000], [30, -5]) });
    expect(figures.drain!.watts).toBe(4);
    expect(figures.doubtful.power).toHaveLength(2);
  });
  it('give the energy of a frame', () =>
    expect(
      figuresOf({ frames: Array<number>(500).fill(20_000), entries: power([0, 5000], [10, 5000]) }).drain!
        .joulesPerFrame,
    ).toBeCloseTo(0.1, 9));
  // common practice: 100 → 55 % against 100 → 62 % in the same time, with 4,600 and 5,000 mAh: the first draws more watts too
  it('compare two batteries fairly', () => {
    const first = drain(minutes([0, 100], [120, 55]), (4600 * 3.85) / 1000)!.watts!;
    const second = drain(minutes([0, 100], [120, 62]), (5000 * 3.85) / 1000)!.watts!;
    expect(first).toBeCloseTo(3.985, 3);
    expect(second).toBeCloseTo(3.6575, 4);
  });
});

describe('the first reading of a stretch', () => {
  it('is no point: nobody saw its percent come', () => {
    // 99 when it was new at 6, 98 at 12, 97 at 18; 100 was read at 5 by chance
    expect(drain(minutes([5, 100], [6, 99], [12, 98], [18, 97]))!.percentPerHour).toBeCloseTo(10, 9);
  });
  it('is one where the next is lower by two or more', () => {
    // 100, 98, 96 at 0, 12, 24
    expect(drain(minutes([0, 100], [12, 98], [24, 96]))!).toMatchObject({
      percentPerHour: expect.closeTo(10, 9),
      // on one line, but a gauge of whole percents is off by 0.29: t(0.975, 1) = 12.706, Σ(t − t̄)² = 0.08 h²
      range: [
        expect.closeTo(10 - (12.706 * 0.29) / Math.sqrt(0.08), 2),
        expect.closeTo(10 + (12.706 * 0.29) / Math.sqrt(0.08), 2),
      ],
    });
    // without the first there are two points: what fell over the time
    expect(drain(minutes([0, 100], [12, 99], [24, 97]))!.percentPerHour).toBeCloseTo(7.5, 9);
  });
});

it('over a length that is only roughly known the range is wider', () => {
  const end = { type: 'end', atMs: 3.5 * 3_600_000, reason: 'stopped' } as const;
  const entries: EntryLine[] = [
    ...minutes([0, 100], [210, 30]),
    { ...end, lowMs: 3 * 3_600_000, highMs: 4 * 3_600_000 },
  ];
  // 70 ± 1 in 3 to 4 hours
  expect(drain(entries)).toMatchObject({
    percentPerHour: 20,
    range: [expect.closeTo(69 / 4, 9), expect.closeTo(71 / 3, 9)],
  });
});
