import { checkRunLine } from '@pace-check/contract';
import { analyse } from '../figures/analyse';
import type { Figures, RunFacts } from '../figures/model';
import { RunFileReader } from '../runFile/readRunFile';
import { factsOf, runInput } from '../runFile/runInput';
import { endsOf, meanEnds } from './ends';

/** Figures of a run file that is written out as text, so that digits count as they stand. */
function figuresOf(lines: string[], facts: Partial<RunFacts> = {}): Figures {
  const reader = new RunFileReader(checkRunLine);
  reader.push(new TextEncoder().encode(lines.join('\n')));
  const file = reader.finish();
  return analyse(
    runInput(
      file.track,
      { dropped: 0, cutOff: file.cutOff, entries: file.entries },
      { ...factsOf(file.header), ...facts },
    ),
  ).figures;
}

const RUN = '{"type":"run","version":1}';
const END = '{"type":"end","atMs":1800000,"reason":"planned"}';
const rate = (atMs: number, fps: number | string, by = 'overlay'): string =>
  `{"type":"rate","atMs":${atMs},"fps":${fps},"by":"${by}"}`;
const close = (ends: { low: number; high: number | null } | null, low: number, high: number): void => {
  expect(ends!.low).toBeCloseTo(low, 10);
  expect(ends!.high).toBeCloseTo(high, 10);
};

describe('the ends of a value', () => {
  // worked out by hand from docs/method.md, "Read off, not logged"
  it.each([
    ['58', 57.5, 58.5],
    ['58.0', 57.95, 58.05],
    ['58.25', 58.245, 58.255],
    ['6e1', 55, 65],
    ['0.2', 0.15, 0.25],
    ['0', 0, 0.5],
  ])('%s off an overlay is half a unit of its last digit wide', (written, low, high) => {
    const { seen } = figuresOf([RUN, rate(0, written)]).pace;
    expect([seen!.low, seen!.high]).toEqual([expect.closeTo(low, 10), expect.closeTo(high, 10)]);
  });
  it('by eye is a fifth, or five', () => {
    expect(endsOf({ value: 40, by: 'eye' }, null)).toEqual({ low: 32, high: 48, value: 40 });
    expect(endsOf({ value: 20, by: 'eye' }, null)).toEqual({ low: 15, high: 25, value: 20 });
    expect(endsOf({ value: 3, by: 'eye' }, null)).toEqual({ low: 0, high: 8, value: 3 });
    // as far as the panel goes, or what was written
    expect(endsOf({ value: 55, by: 'eye' }, 60)!.high).toBe(60);
    expect(endsOf({ value: 70, by: 'eye' }, 60)!.high).toBe(70);
    expect(endsOf({ value: 60, by: 'overlay' }, 60)!.high).toBe(60.5);
  });
  it('are as written; one alone reaches to 0 or to the panel', () => {
    expect(endsOf({ value: 52, low: 50, high: 55, by: 'eye' }, null)).toEqual({
      low: 50,
      high: 55,
      value: 52,
    });
    expect(endsOf({ high: 60, by: 'overlay' }, 120)).toEqual({ low: 0, high: 60, open: 'low' });
    expect(endsOf({ low: 40, by: 'overlay' }, 120)).toEqual({ low: 40, high: 120, open: 'high' });
    expect(endsOf({ low: 40, by: 'overlay' }, null)).toEqual({ low: 40, high: null, open: 'high' });
    expect(
      meanEnds([
        { low: 40, high: null },
        { low: 50, high: 55 },
      ]),
    ).toEqual({ low: 45, high: null });
  });
});

describe('pace', () => {
  it('is what lies under straight lines, wider by how much neighbours differ, never past what was read', () => {
    const { pace, caveats } = figuresOf([RUN, rate(0, 58), rate(1_200_000, 51), END]);
    expect(pace).toMatchObject({ source: 'read', average: 54.5, median: null, hold: null, slow: null });
    // √(7²/2) = 4.95 about 54 to 55, cut at 50.5 and 58.5
    close(pace.interval, 50.5, 58.5);
    expect(caveats).toContain('read-off');
    // of several pages without their minutes the least and the most
    close(
      figuresOf([
        RUN,
        ...['57', '59'].map((average) => `{"type":"summary","by":"tool","average":${average}}`),
      ]).pace.interval,
      56.5,
      59.5,
    );
    // with them, by minutes
    const paged = (average: number, minutes: number): string =>
      `{"type":"summary","by":"tool","average":${average},"minutes":${minutes}}`;
    expect(figuresOf([RUN, paged(60, 30), paged(30, 10)]).pace.average).toBeCloseTo(52.5, 9);
    // one of less than half the run gives way to two timed rates
    expect(figuresOf([RUN, paged(30, 10), rate(0, 60), rate(1_800_000, 60), END]).pace.average).toBe(60);
    expect(figuresOf([RUN, paged(30, 15), rate(0, 60), rate(1_800_000, 60), END]).pace.average).toBe(30);
  });
  it('goes by end pages where there are any, and says what they say', () => {
    const figures = figuresOf([
      RUN,
      rate(0, 20, 'eye'),
      '{"type":"summary","by":"tool","average":58.2,"lowest":41,"highest":60}',
      '{"type":"summary","by":"tool","average":58.0,"median":59,"hold":0.97,"onePercent":44,"minutes":12}',
    ]);
    expect(figures.pace).toMatchObject({ source: 'read', median: 59, hold: 0.97 });
    // one does not say how long it was: the least and the most of both
    close(figures.pace.interval, 57.95, 58.25);
    expect(figures.lows.onePercent).toEqual({ quantile: 44, worstMean: null, timeShare: null });
    close(figures.read!.hold, 0.965, 0.975);
    expect(figures.read).toMatchObject({ lowest: { value: 41 }, highest: { value: 60 } });
    expect(figures.frames.seconds).toBe(720);
    expect(figures.caveats).toContain('read-off');
    expect(figures.caveats).not.toContain('eye-estimate');
    // the eye's is not mixed in, and stands beside
    expect(figures.read!.beside).toMatchObject({ by: 'eye', said: { timed: { first: { atS: 0 } } } });
  });
  it('takes a fact of an end page as it stands, down to nothing', () =>
    expect(
      figuresOf([RUN, '{"type":"summary","by":"tool","median":0,"hold":0,"onePercent":0}']),
    ).toMatchObject({
      pace: { median: 0, hold: 0, average: null },
      lows: { onePercent: { quantile: 0 } },
    }));
  it('has no middle without an upper end', () => {
    const { pace } = figuresOf([RUN, '{"type":"rate","low":40,"by":"overlay"}']);
    expect(pace).toMatchObject({ source: 'read', average: null, interval: { low: 40, high: null } });
  });
  it('leaves out what is the panel’s', () =>
    expect(
      figuresOf([RUN, rate(0, 120), rate(60_000, 50, 'in-title')], { refreshHz: 120, target: 60 }).pace
        .average,
    ).toBe(50));
  it('keeps a counter that shows more than the panel’s rate', () =>
    // 50 is neither 120 nor 120 over a whole number: it counts
    expect(
      figuresOf([RUN, rate(0, 120), rate(60_000, 50)], { refreshHz: 120, target: 60 }).caveats,
    ).not.toContain('counter-is-refresh'));
  it('leaves out what lies in a menu', () =>
    expect(
      figuresOf([RUN, rate(0, 90), rate(60_000, 45), '{"type":"span","fromMs":0,"toMs":30000,"kind":"menu"}'])
        .pace.seen,
    ).toEqual({ low: 44.5, high: 45.5 }));
  it('is the eye’s where counters were looked at for less than half as long', () => {
    const eye = [rate(0, 60, 'eye'), rate(1_000_000, 40, 'eye')];
    expect(figuresOf([RUN, ...eye, rate(0, 58), rate(500_000, 50), END]).pace.source).toBe('read');
    expect(figuresOf([RUN, ...eye, rate(0, 58), rate(499_000, 50), END]).pace.source).toBe('eye');
    const glance = '{"type":"rate","fps":50,"by":"overlay"}';
    expect(figuresOf([RUN, ...eye, glance, END]).pace.source).toBe('eye');
    expect(figuresOf([RUN, '{"type":"rate","fps":50,"by":"eye"}', glance, END]).pace.source).toBe('read');
  });
  it('is nothing of a run that nobody read', () =>
    expect(figuresOf([RUN, END]).pace).toMatchObject({ source: null, average: null, interval: null }));
});

describe('stamina', () => {
  it('widens opening and closing by the standard error of the middles, and tells two words apart or not', () => {
    const { stamina, read } = figuresOf([
      RUN,
      ...[0, 60, 120, 180].map((s, i) => rate(s * 1000, [60, 58, 60, 58][i]!)),
      ...[1500, 1560, 1620, 1800].map((s, i) => rate(s * 1000, [50, 48, 50, 48][i]!)),
      END,
    ]);
    // middles 60, 58, 60, 58: s = √(4/3), /√4 = 0.57735…
    const error = Math.sqrt(4 / 3) / 2;
    close(read!.opening, 58.5 - error, 59.5 + error);
    close(read!.closing, 48.5 - error, 49.5 + error);
    close(read!.retention, (48.5 - error) / (59.5 + error), (49.5 + error) / (58.5 - error));
    // 0.798 to 0.864
    expect(stamina).toMatchObject({
      opening: 59,
      closing: 49,
      word: 'eases or fades',
      onsetS: null,
      segments: [],
    });
  });
  it('says one word where the interval lies in one band, none where it meets three', () => {
    const run = (opening: string, closing: string): string | null =>
      figuresOf([RUN, opening, closing, END]).stamina.word;
    expect(run(rate(0, 60), rate(1_700_000, 60))).toBe('holds');
    expect(run(rate(0, 60), rate(1_700_000, 30))).toBe('buckles');
    expect(run(rate(0, 60, 'eye'), rate(1_700_000, 50, 'eye'))).toBeNull();
  });
  it('has no closing below a quarter of an hour, and DNF whatever the length', () => {
    const short = figuresOf([
      RUN,
      rate(0, 60),
      rate(800_000, 30),
      '{"type":"end","atMs":800000,"reason":"crash"}',
    ]);
    expect(short.stamina).toMatchObject({ opening: 60, closing: null, word: 'DNF' });
    expect(short.read!.retention).toBeNull();
  });
  it('counts both ends of the first and of the last 300 seconds', () => {
    const { read } = figuresOf([
      RUN,
      rate(0, 60),
      rate(300_000, 10),
      rate(1_500_000, 40),
      rate(1_800_000, 40),
      END,
    ]);
    // 60 and 10: 25 more on both sides of 34.5 to 35.5, never past what was read
    close(read!.opening, 9.5, 60.5);
    close(read!.closing, 39.5, 40.5);
  });
  it('goes by the first and the last rate where the edges have none, and not too far', () => {
    const of = (first: number, last: number, more: Partial<RunFacts> = {}): Figures =>
      figuresOf([RUN, rate(first * 1000, 60), rate(last * 1000, 57), END], more);
    expect(of(600, 1800).read).toMatchObject({ fromS: 600, retained: 0.95 });
    expect(of(601, 1800).read).toMatchObject({ opening: null, retention: null });
    expect(of(0, 1200).read).toMatchObject({ fromS: null, retained: 0.95 });
    expect(of(0, 1199).read!.closing).toBeNull();
    // from then on it holds; what it did before nobody saw
    expect(of(600, 1800).stamina.word).toBeNull();
    expect(of(600, 1800, { target: 60 }).stamina.word).toBe('holds or eases');
    expect(figuresOf([RUN, rate(600_000, 60), rate(1_800_000, 30), END]).stamina.word).toBe('buckles');
  });
  it('compares scenes with the same scenes alone', () => {
    const there = (s: number, fps: number, scene: string): string =>
      `{"type":"rate","atMs":${s * 1000},"fps":${fps},"by":"overlay","scene":"${scene}"}`;
    const moor = figuresOf([RUN, there(0, 60, 'quay'), there(100, 50, 'moor'), there(1700, 25, 'moor'), END]);
    expect(moor.read).toMatchObject({ retained: 0.5 });
    const apart = figuresOf([RUN, there(0, 60, 'quay'), there(1700, 25, 'moor'), END]);
    expect([apart.read!.retention, apart.stamina.word]).toEqual([null, null]);
  });
});

describe('an emulator’s speed', () => {
  const full = (...lines: string[]): unknown => figuresOf([RUN, ...lines], { native: 30 }).emulation;
  it('is full, not full, or not settled', () => {
    expect(full('{"type":"speed","percent":99,"by":"in-title"}')).toEqual({ speed: 0.99, fullSpeed: true });
    expect(full('{"type":"speed","percent":98,"by":"in-title"}')).toEqual({ speed: 0.98, fullSpeed: false });
    expect(full('{"type":"speed","percent":98.9,"by":"in-title"}')).toMatchObject({ fullSpeed: false });
    // 95 to 105: the middle would do, the low end does not
    expect(full('{"type":"speed","low":95,"high":105,"by":"in-title"}')).toMatchObject({ fullSpeed: null });
  });
  it('comes from the rates where nobody read a percent', () => {
    // a look at 0:00 and one at 10:00: 29.5 to 30.5 of 30
    expect(full(rate(0, 30), rate(600_000, 30))).toMatchObject({ speed: 1, fullSpeed: true });
    expect(full(rate(0, 28), rate(600_000, 28))).toMatchObject({ fullSpeed: false });
    // one glance says a tenth less
    expect(full(rate(0, 30))).toMatchObject({ speed: 1, fullSpeed: null });
    expect(full(rate(0, 30, 'eye'))).toMatchObject({ fullSpeed: null });
  });
  it('needs no native rate where a percent was read', () =>
    expect(figuresOf([RUN, '{"type":"speed","percent":100.0,"by":"overlay"}']).emulation).toEqual({
      speed: 1,
      fullSpeed: true,
    }));
});

describe('playable, at both ends', () => {
  const page = (average: number, low?: number): string =>
    JSON.stringify({ type: 'summary', by: 'tool', average, onePercent: low, minutes: 10 });
  const judge = (...lines: string[]): string | null =>
    figuresOf([RUN, ...lines], { need: 'action' }).playable;
  it('is one word where both ends agree', () => {
    expect(judge(page(60, 40))).toBe('plays well');
    expect(judge(page(60, 20))).toBe('plays');
    expect(judge(page(40))).toBe('rough');
    expect(judge(page(30))).toBe('not playable');
  });
  it('is two neighbours, the worse first', () => {
    // the low that nobody read fails below and holds above
    expect(judge(page(60))).toBe('plays or plays well');
    // 29 to 43: 36 lies within
    expect(judge('{"type":"summary","by":"eye","average":36}')).toBe('not playable or rough');
  });
  it('is nothing further apart', () => expect(judge(rate(0, 45, 'eye'))).toBeNull());
  it('counts freeze marks by ten minutes, crashes, and smoothness by its worst', () => {
    const freeze = '{"type":"mark","atMs":60000,"kind":"freeze"}';
    expect(judge(page(60, 40), freeze)).toBe('plays');
    expect(judge(page(60, 40), freeze, freeze)).toBe('rough');
    expect(judge(page(60, 40), '{"type":"mark","atMs":60000,"kind":"crash"}')).toBe('rough');
    const smooth = (word: string): string => `{"type":"smooth","word":"${word}","by":"eye"}`;
    expect(judge(page(60, 40), smooth('occasional'))).toBe('plays well');
    expect(judge(page(60, 40), smooth('occasional'), smooth('frequent'))).toBe('plays');
    expect(judge(page(60, 40), smooth('constant'))).toBe('rough');
  });
  it('goes by the closing of a sustained run', () =>
    expect(figuresOf([RUN, rate(0, 60), rate(1_700_000, 30), END], { need: 'action' }).playable).toBe(
      'not playable',
    ));
  it('goes by the reviewer’s own bars', () => {
    const own = { average: 28, low: 0 };
    const bars = { reaction: own, action: own, story: own, slow: own };
    expect(figuresOf([RUN, page(30, 10)], { need: 'action', bars }).playable).toBe('plays well');
  });
  it('of boards and maps asks for 24 and 15', () =>
    expect(figuresOf([RUN, page(25, 16)], { need: 'slow' }).playable).toBe('plays well'));
});

describe('beside the figures', () => {
  it('splits have mean ends', () => {
    const { splits } = figuresOf([RUN, rate(0, 60), rate(100_000, 50), rate(400_000, 40), END]);
    expect(splits).toHaveLength(6);
    close(splits[0]!.interval, 54.5, 55.5);
    expect(splits[2]!.interval).toBeNull();
  });
  it('scenes are told apart, with a time or without', () => {
    const { scenes } = figuresOf([
      '{"type":"run","version":1,"scene":"start area"}',
      rate(30_000, 60),
      '{"type":"scene","atMs":60000,"scene":"hard track"}',
      rate(90_000, 40),
      '{"type":"rate","low":30,"high":34,"by":"overlay","scene":"big match"}',
      '{"type":"end","atMs":180000,"reason":"planned"}',
    ]);
    expect(scenes.map(({ scene, average, seconds }) => [scene, average, seconds])).toEqual([
      ['start area', 60, 60],
      ['hard track', 40, 120],
      ['big match', 32, null],
    ]);
  });
  it('scenes of a log have figures of their own frames', () => {
    const frames = (atMs: number, us: number, count: number): string =>
      JSON.stringify({ type: 'frames', atMs, us: Array<number>(count).fill(us) });
    const { scenes } = figuresOf([
      RUN,
      '{"type":"scene","atMs":0,"scene":"a"}',
      frames(0, 20_000, 3000),
      '{"type":"scene","atMs":60000,"scene":"b"}',
      frames(60_000, 25_000, 2400),
    ]);
    expect(scenes.map(({ average, hold, interval }) => [average, hold, interval])).toEqual([
      [50, 1, null],
      [40, 1, null],
    ]);
  });
  it('power is told by where it was measured, and only the device’s is drain', () => {
    const power = (atMs: number, mw: number, of?: string): string =>
      JSON.stringify({ type: 'power', atMs, mw, of });
    const { drain, doing, caveats } = figuresOf([
      RUN,
      ...[0, 1000, 2000].map((t) => power(t, 4000)),
      ...[0, 1000].map((t) => power(t, 9000, 'chip')),
      ...[0, 1000].map((t) => power(t, 90_000, 'wall')),
    ]);
    expect(drain).toMatchObject({ watts: 4, from: 'power' });
    expect(doing.map(({ of, mean }) => [of, mean])).toEqual([
      ['power, device', 4],
      ['power, chip', 9],
      ['power, wall', 90],
    ]);
    expect(caveats).not.toContain('implausible-sensor');
  });
});
