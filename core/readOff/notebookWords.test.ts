import fc from 'fast-check';
import type { EntryLine } from '../runFile/lines';
import {
  CHIP_PARTS,
  END_REASONS,
  FEEL_WORDS,
  POWER_PLACES,
  SUMMARY_FACTS,
  RATE_SOURCES,
  SMOOTH_WORDS,
  SPAN_KINDS,
} from '../vocabulary';
import { sayLine } from '../words/sayLine';
import { NUMBER_WORDS } from './bookWords';
import { readNotebook } from './notebook';

/** What a reviewer's page may hold, and what a person would take it for; null where nobody could say. */
const PAGE: [line: string, entries: (Partial<EntryLine> & { type: string })[] | null][] = [
  // rates: a value, a spread, a range, one end, with a place, with or without a time
  ['10 min about 40 ± 8 fps', [{ type: 'rate', atMs: 600_000, fps: 40, low: 32, high: 48, by: 'eye' }]],
  ['8:00 fps 60', [{ type: 'rate', atMs: 480_000, fps: 60, by: 'overlay' }]],
  ['8:00 58.0 fps', [{ type: 'rate', atMs: 480_000, fps: 58, by: 'overlay', digits: { fps: 1 } }]],
  ['50–55 fps in the town', [{ type: 'rate', low: 50, high: 55, by: 'overlay', scene: 'the town' }]],
  ['50 to 55 fps', [{ type: 'rate', low: 50, high: 55, by: 'overlay' }]],
  ['12:30 between 50 and 55 fps', [{ type: 'rate', atMs: 750_000, low: 50, high: 55, by: 'overlay' }]],
  ['up to 60 fps', [{ type: 'rate', high: 60, by: 'overlay' }]],
  ['5:00 at least 40 fps, by eye', [{ type: 'rate', atMs: 300_000, low: 40, by: 'eye' }]],
  [
    'smooth, around forty I think',
    [
      { type: 'smooth', word: 'none', by: 'eye' },
      { type: 'rate', fps: 40, by: 'eye' },
    ],
  ],
  ['~30fps the whole time', [{ type: 'rate', fps: 30, by: 'eye' }]],
  ['3 min own counter 59 fps', [{ type: 'rate', atMs: 180_000, fps: 59, by: 'in-title' }]],
  ['8:00 frame rate 47 fps', [{ type: 'rate', atMs: 480_000, fps: 47, by: 'overlay' }]],
  ['8:00 58', null],
  ['8:00 town 55', null],
  ['8:00 harbour 48 fps', [{ type: 'rate', atMs: 480_000, fps: 48, by: 'overlay', scene: 'harbour' }]],
  // a place may be called as half a day is
  ['8:00 scene “Am”', [{ type: 'scene', atMs: 480_000, scene: 'Am' }]],
  ['8:00 am 48 fps', null],
  ['± 8 fps', null],
  ['55–50 fps', null],
  // end pages
  [
    'end page: average 58.2, median 59, hold 97 %, lowest 41, highest 60, 1 % low 44, length 12 min',
    [
      {
        type: 'summary',
        by: 'tool',
        average: 58.2,
        median: 59,
        hold: 0.97,
        lowest: 41,
        highest: 60,
        onePercent: 44,
        minutes: 12,
      },
    ],
  ],
  ['avg 52, 1% low 38', [{ type: 'summary', by: 'tool', average: 52, onePercent: 38 }]],
  ['min 41 max 60 fps', [{ type: 'summary', by: 'tool', lowest: 41, highest: 60 }]],
  [
    'median 59.0 fps, 97 % hold',
    [{ type: 'summary', by: 'tool', median: 59, hold: 0.97, digits: { median: 1 } }],
  ],
  ['average 40, 1 % low 52', null],
  ['hold 120 %', null],
  ['0.1 % low 20', null],
  // emulators
  ['speed 98 %', [{ type: 'speed', percent: 98, by: 'in-title' }]],
  [
    '4:00 speed 95–99 % in Rook Tower',
    [{ type: 'speed', atMs: 240_000, low: 95, high: 99, by: 'in-title', scene: 'Rook Tower' }],
  ],
  ['full speed nearly everywhere', null],
  // how often it stumbles
  ['stutters now and then', [{ type: 'smooth', word: 'occasional', by: 'eye' }]],
  ['9:00 stutters often', [{ type: 'smooth', atMs: 540_000, word: 'frequent', by: 'eye' }]],
  ['plays: good', [{ type: 'feel', word: 'good' }]],
  ['9:00 unplayable', [{ type: 'feel', atMs: 540_000, word: 'unplayable' }]],
  ['flawless in the town', [{ type: 'feel', word: 'flawless', scene: 'the town' }]],
  ['no stutter', [{ type: 'smooth', word: 'none', by: 'eye' }]],
  ['stutters all the time', [{ type: 'smooth', word: 'constant', by: 'eye' }]],
  // warmth
  [
    '8:00 back by the camera 38,4',
    [{ type: 'skin', atMs: 480_000, spot: 'back by the camera', c: 38.4, by: 'infrared' }],
  ],
  [
    '18 min front 41.8 C, back 41.7 C',
    [
      { type: 'skin', spot: 'front', c: 41.8 },
      { type: 'skin', spot: 'back', c: 41.7 },
    ],
  ],
  ['13:00 hinge 106F', [{ type: 'skin', atMs: 780_000, spot: 'hinge', c: 41.11 }]],
  ['peak 42.8 at back', [{ type: 'skin', spot: 'back', c: 42.8, peak: true }]],
  ['38–41 °C back', [{ type: 'skin', spot: 'back', c: 41, peak: true }]],
  ['8:00 38–41 °C back', null],
  ['back 36.5', [{ type: 'skin', spot: 'back', c: 36.5, peak: true }]],
  ['20:00 cpu 78.5 °C', [{ type: 'chip', atMs: 1_200_000, c: 78.5, part: 'cpu' }]],
  ['20:00 cpu 78', null],
  ['8:00 warm, not hot', [{ type: 'mark', atMs: 480_000, kind: 'warmth', note: 'warm, not hot' }]],
  ['8:00 room 18.5 back 36', null],
  // power and loads
  ['8:00 10.5 W', [{ type: 'power', atMs: 480_000, mw: 10_500 }]],
  ['8:00 chip 10.5 W', [{ type: 'power', atMs: 480_000, mw: 10_500, of: 'chip' }]],
  [
    '8:00 wall 28 W, chip 20 W',
    [
      { type: 'power', atMs: 480_000, mw: 28_000, of: 'wall' },
      { type: 'power', atMs: 480_000, mw: 20_000, of: 'chip' },
    ],
  ],
  [
    '8:00 cpu 24 %, gpu 71 %, memory 1569 MB',
    [{ type: 'load', atMs: 480_000, cpu: 24, gpu: 71, memoryMb: 1569 }],
  ],
  ['8:00 ram 1.5 GB', [{ type: 'load', atMs: 480_000, memoryMb: 1536 }]],
  ['8:00 panel at 120 Hz', [{ type: 'refresh', atMs: 480_000, hz: 120 }]],
  // battery and length
  ['100% 0:00', [{ type: 'battery', atMs: 0, percent: 100 }]],
  ['30:00 battery 81 %, charging', [{ type: 'battery', atMs: 1_800_000, percent: 81, charging: true }]],
  ['81 %', null],
  ['8:00 brightness 80 %', null],
  ['played 45 min', [{ type: 'end', atMs: 2_700_000, reason: 'planned' }]],
  [
    'played about three to four hours',
    [{ type: 'end', atMs: 12_600_000, lowMs: 10_800_000, highMs: 14_400_000, reason: 'planned' }],
  ],
  ['45 min', [{ type: 'end', atMs: 2_700_000, reason: 'planned' }]],
  // what happened
  ['8:12 crashed', [{ type: 'end', atMs: 492_000, reason: 'crash' }]],
  [
    '8:12 crashed, 41 fps',
    [
      { type: 'end', atMs: 492_000, reason: 'crash' },
      { type: 'rate', atMs: 492_000, fps: 41 },
    ],
  ],
  ['would not start', [{ type: 'end', atMs: 0, reason: 'would-not-start' }]],
  [
    '12:30 froze for 2 s near the bridge',
    [{ type: 'mark', atMs: 750_000, kind: 'freeze', note: 'froze for 2 s near the bridge' }],
  ],
  ['41:00 dims', [{ type: 'mark', atMs: 2_460_000, kind: 'dim' }]],
  [
    '5:00 note the gulls are back',
    [{ type: 'mark', atMs: 300_000, kind: 'note', note: 'the gulls are back' }],
  ],
  ['0:00 loading until 0:35', [{ type: 'span', fromMs: 0, toMs: 35_000, kind: 'loading' }]],
  ['20:00 scene hard track', [{ type: 'scene', atMs: 1_200_000, scene: 'hard track' }]],
  ['8:75 back 36', null],
  ['2:32 pm back 36', null],
  ['8:00 9:00 back 36', null],
];

describe('a page of a notebook', () => {
  it.each(PAGE)('“%s”', (line, entries) => {
    const [read] = readNotebook(line, { unit: 'C' });
    if (entries === null) {
      expect(read).toMatchObject({ entries: [], understood: null });
      // it says what to write instead
      expect(read!.problem!.length).toBeGreaterThan(20);
    } else {
      expect(read!.problem).toBeNull();
      expect(read!.entries).toHaveLength(entries.length);
      expect(read!.entries).toMatchObject(entries);
    }
  });
  it('has sixty lines and more, of all kinds', () => {
    expect(PAGE.length).toBeGreaterThanOrEqual(60);
    const kinds = new Set(PAGE.flatMap(([, entries]) => (entries ?? []).map((entry) => entry.type)));
    expect(kinds.size).toBeGreaterThanOrEqual(12);
  });
  it('tells times of day once it is said when the run began', () => {
    const lines = readNotebook(
      'started 14:20\n14:28 back 36.5\n2:33 pm back 40.7\n00:10 back 41\n7:00 back 41',
      { unit: 'C' },
    );
    expect(lines.map((line) => line.entries[0] && 'atMs' in line.entries[0] && line.entries[0].atMs)).toEqual(
      [undefined, 480_000, 780_000, 35_400_000, undefined],
    );
    expect(lines[4]!.problem).toMatch(/7:00 is not within 16 hours/);
  });
  it('puts a peak without a time at the end of the run', () => {
    const read = (lengthMs: number | null): unknown =>
      readNotebook('peak 42.8 at back\n18:00 front 40', { unit: 'C', lengthMs })[0]!.entries[0];
    expect(read(null)).toMatchObject({ atMs: 1_080_000, peak: true });
    expect(read(1_800_000)).toMatchObject({ atMs: 1_800_000, peak: true });
  });
  it('knows the spots of the device by any name', () =>
    expect(readNotebook('8:00 lantern 36.5', { unit: 'C', spots: ['Lantern'] })[0]!.entries).toMatchObject([
      { spot: 'lantern', c: 36.5 },
    ]));
});

const cents = (most: number): fc.Arbitrary<number> =>
  fc.integer({ min: 0, max: most * 100 }).map((n) => n / 100);
const atMs = fc.integer({ min: 0, max: 7_200_000 });
const someTime = fc.option(atMs, { nil: undefined }).map((ms) => (ms === undefined ? {} : { atMs: ms }));
const by = fc.constantFrom(...RATE_SOURCES);
const free = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 20 })
  .filter((text) => text === text.trim() && !/[\r\u2028\u2029\u0085\v\f]/.test(text));
const scene = fc.option(free, { nil: undefined }).map((name) => (name === undefined ? {} : { scene: name }));
const pair = (most: number): fc.Arbitrary<{ low?: number; high?: number }> =>
  fc.tuple(cents(most), cents(most), fc.integer({ min: 0, max: 3 })).map(([a, b, which]) => ({
    ...(which & 1 ? { low: Math.min(a, b) } : {}),
    ...(which & 2 ? { high: Math.max(a, b) } : {}),
  }));
const withEnds = (name: 'fps' | 'percent', most: number): fc.Arbitrary<object> =>
  fc
    .tuple(fc.option(cents(most), { nil: undefined }), pair(most), cents(most))
    .map(([value, ends, fallback]) => ({
      ...(value !== undefined || Object.keys(ends).length === 0 ? { [name]: value ?? fallback } : {}),
      ...ends,
    }));
const facts = fc
  .record(
    {
      average: cents(200),
      median: cents(200),
      hold: cents(1),
      lowest: cents(200),
      highest: cents(200),
      onePercent: cents(200),
      minutes: cents(90),
    },
    { requiredKeys: [] },
  )
  .filter((all) => Object.keys(all).some((key) => key !== 'minutes'))
  .map((all) => {
    // as an end page would have it: no low above its average, none above the highest
    const { average, lowest, highest, onePercent } = all;
    const least = Math.min(average ?? 1000, highest ?? 1000);
    return {
      ...all,
      ...(lowest === undefined ? {} : { lowest: Math.min(lowest, least) }),
      ...(onePercent === undefined ? {} : { onePercent: Math.min(onePercent, average ?? 1000) }),
    };
  });

/** Any line that a person's notebook may hold. */
const anyLine = fc.oneof(
  fc
    .tuple(atMs, free, cents(60), fc.boolean(), free, fc.boolean())
    .map(([ms, spot, c, peak, instrument, about]) => ({
      type: 'skin',
      atMs: ms,
      spot,
      c,
      by: instrument,
      ...(peak ? { peak } : {}),
      ...(about ? { about } : {}),
    })),
  fc.tuple(atMs, cents(100), fc.boolean(), fc.boolean()).map(([ms, percent, charging, about]) => ({
    type: 'battery',
    atMs: ms,
    percent,
    ...(charging ? { charging } : {}),
    ...(about ? { about } : {}),
  })),
  fc
    .tuple(
      atMs,
      fc.integer({ min: 0, max: 60_000 }),
      fc.option(fc.constantFrom(...POWER_PLACES), { nil: undefined }),
    )
    .map(([ms, mw, of]) => ({ type: 'power', atMs: ms, mw, ...(of ? { of } : {}) })),
  fc
    .tuple(
      atMs,
      fc
        .record(
          { cpu: cents(100), gpu: cents(100), memoryMb: fc.integer({ min: 1, max: 9999 }) },
          { requiredKeys: [] },
        )
        .filter((load) => Object.keys(load).length > 0),
    )
    .map(([ms, load]) => ({ type: 'load', atMs: ms, ...load })),
  fc.tuple(atMs, fc.integer({ min: 1, max: 240 })).map(([ms, hz]) => ({ type: 'refresh', atMs: ms, hz })),
  fc
    .tuple(someTime, withEnds('fps', 200), by, scene)
    .map(([time, value, source, where]) => ({ type: 'rate', ...time, ...value, by: source, ...where })),
  fc
    .tuple(someTime, withEnds('percent', 120), by, scene)
    .map(([time, value, source, where]) => ({ type: 'speed', ...time, ...value, by: source, ...where })),
  fc
    .tuple(someTime, facts, by, scene, fc.subarray([...SUMMARY_FACTS]))
    .map(([time, all, source, where, doubted]) => {
      const about = doubted.filter((fact) => all[fact] !== undefined);
      return {
        type: 'summary',
        ...time,
        ...all,
        by: source,
        ...where,
        ...(about.length > 0 ? { about } : {}),
      };
    }),
  fc
    .tuple(someTime, fc.constantFrom(...SMOOTH_WORDS), by, scene)
    .map(([time, word, source, where]) => ({ type: 'smooth', ...time, word, by: source, ...where })),
  fc
    .tuple(someTime, fc.constantFrom(...FEEL_WORDS), scene)
    .map(([time, word, where]) => ({ type: 'feel', ...time, word, ...where })),
  fc
    .tuple(atMs, cents(99), fc.constantFrom(...CHIP_PARTS))
    .map(([ms, c, part]) => ({ type: 'chip', atMs: ms, c, part })),
  fc
    .tuple(
      atMs,
      free,
      fc.option(free, { nil: undefined }),
      fc.option(fc.integer({ min: 1, max: 240 }), { nil: undefined }),
    )
    .map(([ms, title, setup, target]) => ({
      type: 'title',
      atMs: ms,
      title,
      ...(setup === undefined ? {} : { setup }),
      ...(target === undefined ? {} : { target }),
    })),
  fc.tuple(atMs, free).map(([ms, name]) => ({ type: 'scene', atMs: ms, scene: name })),
  fc
    .tuple(
      atMs,
      fc.constantFrom('stutter', 'freeze', 'dim', 'glitch', 'crash', 'note', 'moment'),
      fc.option(free, { nil: undefined }),
    )
    .map(([ms, kind, note]) => ({ type: 'mark', atMs: ms, kind, ...(note === undefined ? {} : { note }) })),
  fc
    .tuple(atMs, atMs, fc.constantFrom(...SPAN_KINDS))
    .map(([a, b, kind]) => ({ type: 'span', fromMs: Math.min(a, b), toMs: Math.max(a, b), kind })),
  fc.tuple(atMs, fc.constantFrom(...END_REASONS), fc.boolean()).map(([ms, reason, roughly]) => ({
    type: 'end',
    atMs: ms,
    reason,
    ...(roughly ? { lowMs: Math.floor(ms / 2), highMs: ms * 2 } : {}),
  })),
) as fc.Arbitrary<EntryLine>;

describe('what the program says', () => {
  it('is read back as the same entry', () =>
    fc.assert(
      fc.property(anyLine, (line) => {
        const [read] = readNotebook(sayLine(line, 'C'), { unit: 'C' });
        expect(read?.problem).toBeNull();
        expect(read?.entries).toEqual([line]);
      }),
      { numRuns: 3000 },
    ));
  it('with decimals that a number loses is read back with them', () => {
    const line: EntryLine = {
      type: 'summary',
      by: 'tool',
      average: 58,
      hold: 0.9,
      digits: { average: 2, hold: 3 },
    };
    expect(sayLine(line, 'C')).toBe('summary screen: average 58.00, near median 90.0 %, tool');
    expect(readNotebook(sayLine(line, 'C'), { unit: 'C' })[0]!.entries).toEqual([line]);
  });
});

/** All numbers that a line may give: as written, their sums for a spread, and in another unit. */
function allowed(line: string): Set<string> {
  // a comma behind a time parts it from what follows: "8:00,1 %" holds a 1
  const parts = [line, line.replaceAll(/\d+(?::\d\d)+/g, ' ')];
  const numbers = parts.flatMap((text) =>
    [...text.matchAll(/\d+(?:[.,]\d+)?(?:e[+-]?\d{1,2})?/gi)].map(([one]) => Number(one.replace(',', '.'))),
  );
  const small = Object.entries(NUMBER_WORDS).flatMap(([word, value]) =>
    line.toLowerCase().includes(word) ? [value] : [],
  );
  const all = [...numbers, ...small].flatMap((a) => [a, -a, ...numbers.flatMap((b) => [a + b, a - b])]);
  const units = all.flatMap((n) => [n, Math.max(0, n), n / 100, n * 1000, n * 1024, (n - 32) / 1.8]);
  return new Set(units.map((n) => n.toFixed(1)));
}

describe('any line at all', () => {
  const bits = fc.constantFrom(
    '8:00',
    '13 min',
    '1:05:30',
    '36.5',
    '40',
    '±',
    '8',
    '–',
    'to',
    '50',
    '55',
    'fps',
    '%',
    '°C',
    'F',
    'W',
    'about',
    'up to',
    'at least',
    'back',
    'front',
    'cpu',
    'speed',
    'average',
    'hold',
    '1 % low',
    'in',
    'the town',
    'crash',
    'froze',
    'stutters',
    'often',
    'as planned',
    'hours',
    'three',
    '(',
    ')',
    ',',
    '“',
    '”',
    'peak',
    'charging',
    'until',
    'loading',
    'scene',
    'title',
    'end',
    '0.1',
    '-5',
    '1e9',
    'Hz',
    'GB',
    'pm',
    'between',
    'and',
  );
  it('neither throws nor yields a number that does not stand in it', () =>
    fc.assert(
      fc.property(
        fc.oneof(
          fc.array(bits, { maxLength: 9 }).map((words) => words.join(' ')),
          fc.array(bits, { maxLength: 9 }).map((words) => words.join('')),
          fc.string({ unit: 'binary', maxLength: 40 }),
        ),
        (text) => {
          for (const { text: line, entries, problem } of readNotebook(text, { unit: 'C' })) {
            // a heading, a room and the start of the day say something of others
            expect(problem === null || entries.length === 0).toBe(true);
            expect(problem === null || problem.length > 20).toBe(true);
            const numbers = allowed(line);
            for (const entry of entries)
              for (const [key, value] of Object.entries(entry)) {
                if (typeof value !== 'number' || /Ms$/.test(key)) continue;
                expect(numbers).toContain(value.toFixed(1));
              }
          }
        },
      ),
      // an exponent with letters or digits behind it once fell apart into two numbers
      {
        numRuns: 5000,
        examples: [['8:00,1 % lowthe town'], ['8:00hold1e9F'], ['8:00 1e910.5 fps'], ['back 1e999F']],
      },
    ));
});
