import * as fc from 'fast-check';
import { at } from '../testing';
import { fieldAnswer, matrixAnswer, sayStanding } from '../words/compareWords';
import { arrange, sideNames, type RunToArrange } from './arrange';
import { rankField } from './field';
import { warmthSideBySide } from './sideBySide';
import { standingOf } from './standing';
import { averaging, sideRun } from './testing';

const plain = (text: string | null): string | null => text?.replaceAll('\u00a0', ' ') ?? null;

describe('a field', () => {
  it('is clear only where the best beats every other', () => {
    const { average } = rankField([[averaging(60)], [averaging(40)], [], [averaging(59)]], {});
    expect(average.order).toEqual([0, 3, 1]);
    expect(average.clear).toBe(false);
    expect(average.places[2]).toBeNull();
    expect(average.places[1]!.against).toMatchObject({ verdict: 'first better' });
    expect(plain(fieldAnswer('average', average, ['A', 'B', 'C', 'D'], 'C'))).toBe(
      'No device is clearly the fastest: A (60 fps) does not differ clearly from D (59 fps).',
    );
    expect(rankField([[averaging(60)], [averaging(40)]], {}).average.clear).toBe(true);
  });

  it('does not call one the best of other work', () => {
    const { average } = rankField(
      [[averaging(60, { scenes: ['town'] })], [averaging(40, { scenes: ['sea'] })]],
      {},
    );
    expect(average.clear).toBe(false);
    expect(average.places[1]!.otherWork).toEqual(['scene']);
    expect(plain(fieldAnswer('average', average, ['A', 'B'], 'C'))).toBe(
      'A (60 fps) is ahead, but under other test conditions than B.',
    );
  });

  it('of one, or of none, says so', () => {
    const { average, watts } = rankField([[averaging(60)], []], {});
    expect(plain(fieldAnswer('average', average, ['A', 'B'], 'C'))).toBe(
      'Only A (60 fps) has a value for this measure.',
    );
    expect(fieldAnswer('watts', watts, ['A', 'B'], 'C')).toBe('Nothing was measured yet.');
  });

  it('over several titles is summed up', () => {
    const row = (...fps: number[]) =>
      rankField(
        fps.map((value) => [averaging(value)]),
        {},
      ).average;
    const names = ['A', 'B'];
    expect(matrixAnswer('average', [row(60, 40), row(60, 30), row(20, 40), row(50, 50)], names)).toBe(
      'A is clearly the fastest in 2 of 4 titles in common, B in 1.',
    );
    expect(matrixAnswer('average', [row(50, 50)], names)).toBe(
      'No device is clearly the fastest in the one shared title.',
    );
    expect(matrixAnswer('average', [row(50)], names)).toBe('The devices have no title in common.');
  });
});

describe('where a run stands', () => {
  it('counts by what is better, and leaves out what is no measure for it', () => {
    const of = (fps: number, roomC = 18, title = 'Aurelune') => averaging(fps, { title, roomC });
    const standing = standingOf(
      of(50),
      [of(60), of(40), of(45, 31), of(55, 19), of(90, 18, 'Skiff 120')],
      'title',
    );
    expect(standing.measures[0]).toMatchObject({ measure: 'average', place: 3, of: 4 });
    expect(standing.leftOut).toEqual([
      { why: 'room', count: 1 },
      { why: 'title', count: 1 },
    ]);
    expect(sayStanding(standing.measures)).toBe('Rank 3 of 4 in pace.');
    expect(sayStanding(standingOf(of(50), [], 'title').measures)).toBeNull();
    // a first place is one where it is clear
    expect(sayStanding(standingOf(of(60), [of(40)], 'title').measures)).toMatch(/^Fastest of 2/);
    expect(sayStanding(standingOf(of(60), [of(59.5)], 'title').measures)).toMatch(
      /^Not told apart from the other one in pace/,
    );
  });

  it('its place is one more than how many are better, whatever the others are', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 90 }),
        fc.array(fc.integer({ min: 1, max: 90 })),
        (own, others) => {
          const [average] = standingOf(
            averaging(own),
            others.map((fps) => averaging(fps)),
            'setup',
          ).measures;
          expect(average!.place).toBe(1 + others.filter((fps) => fps > own).length);
        },
      ),
    ));
});

describe('the skin of two runs', () => {
  const spots = (readings: [number, number][]) => [
    {
      spot: 'back',
      by: 'infrared',
      peakC: 0,
      riseC: null,
      fit: null,
      readings: readings.map(([minute, c]) => ({ atMs: minute * 60_000, spot: 'back', c, by: 'infrared' })),
    },
  ];
  it('stands beside each other at the same minute: read, between two readings, or not at all', () => {
    const [back] = warmthSideBySide(
      spots([
        [0, 20],
        [10, 40],
      ]),
      spots([
        [5, 31],
        [20, 45],
      ]),
    );
    expect(back!.rows).toEqual([
      { atS: 300, first: { c: 30, how: 'between' }, second: { c: 31, how: 'read' } },
      {
        atS: 600,
        first: { c: 40, how: 'read' },
        second: { c: expect.closeTo(35.667, 3) as number, how: 'between' },
      },
    ]);
    expect(
      warmthSideBySide(
        spots([
          [0, 20],
          [30, 40],
        ]),
        spots([[10, 31]]),
      )[0]!.rows,
    ).toEqual([]);
  });
});

describe('sides of what was chosen', () => {
  const run = (id: string, device: string, more: Partial<RunToArrange> = {}): RunToArrange => ({
    id,
    device,
    title: 'Aurelune',
    setup: null,
    startedAt: `2026-05-0${id}T10:00:00Z`,
    ...more,
  });
  it.each<[string, RunToArrange[], ReturnType<typeof arrange>]>([
    ['nothing', [], null],
    ['one', [run('1', 'A')], null],
    ['two devices', [run('2', 'B'), run('1', 'A')], { kind: 'pair', sides: [['1'], ['2']] }],
    ['one device twice', [run('2', 'A'), run('1', 'A')], { kind: 'before-after', sides: [['1'], ['2']] }],
    [
      'repeats on two',
      [run('1', 'A'), run('2', 'B'), run('3', 'A')],
      { kind: 'pair', sides: [['1', '3'], ['2']] },
    ],
    [
      'three devices',
      [run('1', 'A'), run('2', 'B'), run('3', 'C')],
      { kind: 'field', sides: [['1'], ['2'], ['3']] },
    ],
    [
      'two devices, two titles',
      [run('1', 'A'), run('2', 'B'), run('3', 'A', { title: 'Skiff 120' })],
      { kind: 'matrix', sides: [['1', '3'], ['2']] },
    ],
    [
      'one device in two setups',
      [run('1', 'A', { setup: 'x' }), run('2', 'A', { setup: 'y' }), run('3', 'A', { setup: 'x' })],
      { kind: 'before-after', sides: [['1', '3'], ['2']] },
    ],
    ['thirteen devices', [...'abcdefghijklm'].map((device, i) => run(String(i), device)), null],
  ])('%s', (_, runs, expected) => expect(arrange(runs)).toEqual(expected));

  it('are called by their devices, else by what they differ in', () => {
    expect(sideNames([[run('1', 'A')], [run('2', 'B')]])).toEqual(['A', 'B']);
    expect(sideNames([[run('1', 'A', { setup: 'x' })], [run('2', 'A', { setup: 'y' })]])).toEqual([
      'A, x',
      'A, y',
    ]);
    expect(sideNames([[run('1', 'A')], [run('2', 'A')]])).toEqual(['A, 2026-05-01', 'A, 2026-05-02']);
    expect(sideNames([[run('1', 'A')], [run('1', 'A')]])).toEqual(['A, side 1', 'A, side 2']);
    expect(sideNames([[run('1', 'A'), run('2', 'B')], []])).toEqual([
      'several devices, side 1',
      'several devices, side 2',
    ]);
  });
});

it('a run that was timed by frames has its breaks and its length', () => {
  const { figures } = sideRun({ frames: at(60, 1000) });
  expect(figures.breaks).toEqual({ count: 0, minutes: expect.closeTo(16.67, 2) as number });
});
