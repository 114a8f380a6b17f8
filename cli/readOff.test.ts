import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { analyseFile, toJson } from './analyse';
import { compareFiles, comparisonJson } from './compare';
import { sessionFile, sessionJson } from './session';

/**
 * Worked examples of what was read off, from the checks of the method: values
 * that a second program, written by others from docs/method.md, gives too.
 */

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'pace-check-read-off-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

let files = 0;
const written = async (lines: string[], header = ''): Promise<string> => {
  const path = join(folder, `${files++}.pace.ndjson`);
  await writeFile(
    path,
    [`{"type":"run","version":1,"device":"Velm 5","title":"Aurelune"${header}}`, ...lines].join('\n'),
  );
  return path;
};
const end = (s: number): string => `{"type":"end","atMs":${s * 1000},"reason":"planned"}`;
const rate = (s: number | null, fps: number | string, by = 'overlay', more = ''): string =>
  `{"type":"rate",${s === null ? '' : `"atMs":${s * 1000},`}"fps":${fps},"by":"${by}"${more}}`;
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what is printed is examined field by field
const analysed = async (lines: string[], header = ''): Promise<any> =>
  toJson(await analyseFile(await written(lines, header), {}).then(({ analysis }) => analysis));
const near = (values: readonly (number | null)[]): unknown[] =>
  values.map((value) => (value === null ? null : expect.closeTo(value, 2)));

it('a counter of the panel is left out, and the eye leads', async () => {
  const json = await analysed(
    [rate(240, 120), rate(250, 60, 'eye'), rate(1400, 50, 'eye'), end(1500)],
    ',"refresh":120,"target":60',
  );
  expect(json.pace).toMatchObject({
    source: 'eye',
    average: expect.closeTo(55, 2),
    interval: near([40, 72]),
    seen: [40, 72],
  });
  expect(json.stamina).toMatchObject({
    opening: 60,
    closing: 50,
    retention: near([0.5556, 1.25]),
    retained: expect.closeTo(0.8333, 4),
    word: null,
  });
  expect([json.caveats, json.confidence]).toEqual([['eye-estimate', 'counter-is-refresh'], 'C']);
});

it('glances are not averaged over what they span', async () => {
  const json = await analysed([rate(40, 53), rate(700, 30), rate(1450, 25), end(1500)]);
  expect(json.pace).toMatchObject({
    source: 'read',
    average: expect.closeTo(34.05, 2),
    interval: near([25.71, 42.39]),
    seen: [24.5, 53.5],
  });
  expect(json.stamina).toMatchObject({
    opening: 53,
    closing: 25,
    retention: near([0.4579, 0.4857]),
    retained: expect.closeTo(0.4717, 4),
    word: 'buckles',
  });
  expect([json.caveats, json.confidence]).toEqual([['read-off'], 'B']);
});

it.each([
  [',"refresh":90', [43.5, 90]],
  ['', [43.5, null]],
])('a floor has no middle, and no upper end but the panel’s (%s)', async (header, interval) => {
  const json = await analysed(
    ['{"type":"rate","atMs":100000,"low":50,"by":"overlay"}', rate(1190, 44), end(1200)],
    header,
  );
  expect(json.pace).toMatchObject({ average: null, interval, seen: [43.5, null] });
  expect(json.stamina).toMatchObject({
    opening: null,
    closing: 44,
    retention: header === '' ? [0, 0.89] : near([0.4833, 0.89]),
    retained: null,
    word: 'falls',
  });
  expect([json.caveats, json.confidence]).toEqual([['read-off'], 'B']);
});

it('rates without a time are the least and the most that was read', async () => {
  const json = await analysed([
    rate(null, 57, 'overlay', ',"scene":"quay"'),
    rate(null, 38, 'overlay', ',"scene":"moor"'),
    rate(null, 33, 'in-title', ',"scene":"moor"'),
    end(1000),
  ]);
  expect(json.pace).toMatchObject({ average: 45, interval: [32.5, 57.5], seen: [32.5, 57.5] });
  expect(json.stamina).toMatchObject({ opening: null, closing: null, word: null });
  expect(json.confidence).toBe('B');
});

it('an end page leads, and the eye beside it is not mixed in', async () => {
  const json = await analysed(
    [
      '{"type":"summary","by":"tool","average":47.3,"lowest":29,"highest":61,"onePercent":31,"minutes":20}',
      rate(600, 40, 'eye'),
    ],
    ',"refresh":60',
  );
  expect(json.pace).toMatchObject({
    source: 'read',
    average: 47.3,
    interval: near([47.25, 47.35]),
    seen: [28.5, 61.5],
  });
  expect(json.lows.onePercent.quantile).toBe(31);
  expect(json.frames.seconds).toBe(1200);
  expect([json.caveats, json.confidence]).toEqual([['read-off'], 'B']);
});

it('timed speeds of an emulator count as rates', async () => {
  const speed = (s: number, percent: number): string =>
    `{"type":"speed","atMs":${s * 1000},"percent":${percent},"by":"in-title"}`;
  const json = await analysed([speed(50, 100), speed(800, 92), speed(1600, 85), end(1700)], ',"native":60');
  expect(json.pace).toMatchObject({
    average: expect.closeTo(55.28, 2),
    interval: near([52.73, 57.82]),
    seen: near([50.7, 60.3]),
  });
  expect(json.stamina).toMatchObject({
    opening: 60,
    closing: 51,
    retention: near([0.8408, 0.8593]),
    retained: expect.closeTo(0.85, 9),
    word: 'eases or fades',
  });
  expect(json.emulation).toEqual({ speed: expect.closeTo(0.9233, 4), fullSpeed: false });
});

it('one glance is a tenth wider than it was written, as far as the panel goes', async () => {
  const one = await analysed([rate(380, 58), end(1200)], ',"refresh":60');
  expect(one.pace).toMatchObject({ average: 58, interval: near([51.7, 60]), seen: [57.5, 58.5] });
  expect(one.stamina.opening).toBe(58);
  const together = await analysed([rate(200, 48), rate(200, 51, 'in-title'), end(900)]);
  expect(together.pace).toMatchObject({
    average: 49.5,
    interval: near([44.05, 54.95]),
    seen: [47.5, 51.5],
  });
  expect(together.stamina.opening).toBe(49.5);
});

it('peaks are compared where nobody noted the room', async () => {
  const peak = (c: number): Promise<string> =>
    written([`{"type":"skin","atMs":600000,"spot":"back","c":${c},"by":"infrared"}`]);
  const files = await Promise.all([41.2, 42.0, 37.0, 37.6].map(peak));
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- as above
  const { measures }: any = comparisonJson(
    await compareFiles({ first: files.slice(0, 2), second: files.slice(2), margin: 0.03 }),
  );
  expect(measures.peak).toEqual({
    first: expect.closeTo(41.6, 9),
    second: expect.closeTo(37.3, 9),
    difference: expect.closeTo(-4.3, 9),
    interval: [expect.closeTo(-7.379, 3), expect.closeTo(-1.221, 3)],
    verdict: 'second better',
    small: false,
    runsPerSide: null,
  });
  expect(measures.peakRise).toBeNull();
});

it('a switch stands beside what was read before and after it', async () => {
  const skin = (s: number, c: number): string =>
    `{"type":"skin","atMs":${s * 1000},"spot":"back-top","c":${c},"by":"infrared"}`;
  const json = sessionJson(
    await sessionFile(
      await written([
        ...(
          [
            [580, 36.8],
            [1000, 34.1],
            [1400, 33.2],
            [2400, 37.9],
          ] as const
        ).map(([s, c]) => skin(s, c)),
        '{"type":"span","fromMs":640000,"toMs":2000000,"kind":"cooler"}',
        end(2500),
      ]),
    ),
  );
  expect(json).toMatchObject({
    asRead: [
      { atS: 640, spot: 'back-top', kinds: ['cooler'], on: true, beforeC: 36.8, afterC: 33.2, overS: 820 },
      { atS: 2000, spot: 'back-top', kinds: ['cooler'], on: false, beforeC: 33.2, afterC: 37.9, overS: 1000 },
    ],
  });
});
