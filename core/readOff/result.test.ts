import fc from 'fast-check';
import { figuresOf } from '../testing';
import { headline, headlineFacts } from '../words/headline';
import { sayLine } from '../words/sayLine';
import { NO_RESULT, readResult, readSitting, type ResultContext, type ResultTexts } from './result';

const CONTEXT: ResultContext = { unit: 'C', by: 'overlay', spot: null, ended: null };
const read = (
  texts: Partial<ResultTexts>,
  context: Partial<ResultContext> = {},
): ReturnType<typeof readResult> => readResult({ ...NO_RESULT, ...texts }, { ...CONTEXT, ...context });

describe('a quick result', () => {
  it.each<[Partial<ResultTexts>, object[]]>([
    [{ average: '52' }, [{ type: 'summary', by: 'overlay', average: 52 }]],
    [{ average: '52.0' }, [{ type: 'summary', by: 'overlay', average: 52, digits: { average: 1 } }]],
    [{ average: '52 ± 3' }, [{ type: 'rate', fps: 52, low: 49, high: 55, by: 'overlay' }]],
    [{ average: '50–55' }, [{ type: 'rate', low: 50, high: 55, by: 'overlay' }]],
    // “about” of a counter stays the counter's
    [{ average: '~40' }, [{ type: 'rate', fps: 40, low: 38, high: 42, by: 'overlay' }]],
    [{ average: '~100' }, [{ type: 'rate', fps: 100, low: 95, high: 105, by: 'overlay' }]],
    [{ average: 'up to 60' }, [{ type: 'rate', high: 60, by: 'overlay' }]],
    [{ hold: '97', low: '44' }, [{ type: 'summary', by: 'overlay', onePercent: 44, hold: 0.97 }]],
    [{ speed: '98' }, [{ type: 'speed', percent: 98, by: 'overlay' }]],
    [{ smooth: 'occasional' }, [{ type: 'smooth', word: 'occasional', by: 'eye' }]],
    [{ peak: '428' }, [{ type: 'skin', atMs: 0, spot: 'hottest spot', c: 42.8, by: 'infrared', peak: true }]],
    [
      { peak: '109 F' },
      [{ type: 'skin', atMs: 0, spot: 'hottest spot', c: 42.78, by: 'infrared', peak: true }],
    ],
    [{ length: '12' }, [{ type: 'end', atMs: 720_000, reason: 'stopped' }]],
    [{ length: '1:05:00' }, [{ type: 'end', atMs: 3_900_000, reason: 'stopped' }]],
    [
      { fromPercent: '100', toPercent: '30', length: 'about 3 to 4 hours' },
      [
        { type: 'battery', atMs: 0, percent: 100 },
        { type: 'battery', atMs: 12_600_000, percent: 30 },
        { type: 'end', atMs: 12_600_000, lowMs: 10_800_000, highMs: 14_400_000, reason: 'stopped' },
      ],
    ],
    [{ load: '12' }, [{ type: 'mark', atMs: 0, kind: 'load', note: '12 s' }]],
  ])('%j is %j', (texts, entries) => expect(read(texts)).toEqual({ entries, problems: {} }));

  it.each<[Partial<ResultTexts>, keyof ResultTexts, RegExp]>([
    [{ average: 'fine' }, 'average', /not recognised/],
    [{ average: '40 W' }, 'average', /wrong unit\. Use fps/],
    [{ average: '55–50' }, 'average', /write the lower number first/],
    [{ average: '± 3' }, 'average', /± value has no reading before it/],
    [{ average: '40', low: '44' }, 'low', /above the average/],
    [{ average: '40', lowest: '44' }, 'lowest', /above the average/],
    [{ lowest: '50', highest: '40' }, 'highest', /below the lowest/],
    [{ hold: '120' }, 'hold', /highest possible value is 100/],
    [{ toPercent: '80' }, 'length', /Enter the length of the run as well/],
    [{ fromPercent: '50', toPercent: '80', length: '12' }, 'toPercent', /If it was charged/],
    [{ fromPercent: '101' }, 'fromPercent', /highest possible value is 100/],
    [{ smooth: 'meh' }, 'smooth', /Use one of: none, occasional/],
    [{ peak: '109' }, 'peak', /If it is Fahrenheit, write 109 F/],
  ])('%j is pointed at: %s', (texts, field, problem) => expect(read(texts).problems[field]).toMatch(problem));

  it('asks when it crashed, and needs nothing more where it would not start', () => {
    expect(read({}, { ended: 'crash' }).problems.length).toMatch(/how long it ran before the crash/);
    expect(read({}, { ended: 'would-not-start' }).entries).toEqual([
      { type: 'end', atMs: 0, reason: 'would-not-start' },
    ]);
  });

  it('has a drain with the doubt of its length', () => {
    const { entries } = read({ fromPercent: '100', toPercent: '30', length: '3–4 h' });
    // 70 ± 1 in 3 to 4 hours
    expect(figuresOf({ entries }).drain).toMatchObject({
      percentPerHour: 20,
      range: [expect.closeTo(69 / 4, 9), expect.closeTo(71 / 3, 9)],
    });
  });

  it('never throws, whatever is typed', () =>
    fc.assert(
      fc.property(
        fc.record(Object.fromEntries(Object.keys(NO_RESULT).map((field) => [field, fc.string()]))),
        (texts) => {
          expect(() => read(texts as Partial<ResultTexts>)).not.toThrow();
        },
      ),
    ));
});

describe('a sitting that is pasted', () => {
  it('has its headings recognised, whatever they are called and in whichever order', () => {
    const { rows, unknown, problem } = readSitting(
      'Settings\tGame\tAvg FPS\t1% low\tMood\tPeak\nHighest\tAurelune\t50–55\t38\tgood\t42.8\n\tHexgarden\t25 ± 3\t\t\t\n',
    );
    expect(problem).toBeNull();
    expect(unknown).toEqual(['Mood']);
    expect(rows).toMatchObject([
      { title: 'Aurelune', setup: 'Highest', texts: { average: '50–55', low: '38', peak: '42.8', hold: '' } },
      { title: 'Hexgarden', setup: '', texts: { average: '25 ± 3' } },
    ]);
  });
  it('needs a heading “title”, and has at most 200 rows', () => {
    expect(readSitting('a\tb\n1\t2').problem).toMatch(/including “title”/);
    expect(readSitting(`title\n${'x\n'.repeat(201)}`).problem).toMatch(/201 rows/);
    expect(readSitting('')).toEqual({ rows: [], unknown: [], problem: null });
  });
});

describe('a table', () => {
  const rows = (text: string): object[] => readSitting(text).rows;
  const taken = [
    { title: 'Aurelune', setup: '', texts: { average: '52', low: '38', peak: '42.8' } },
    { title: 'Hexgarden', setup: 'cap 40', texts: { average: '40', low: '', peak: '39' } },
  ];
  it.each([
    ['commas', 'Title,Setup,fps,1% low,Peak\nAurelune,,52,38,42.8\nHexgarden,cap 40,40,,39'],
    [
      'commas and quotes',
      '"Title","Peak","fps","1% low","Setup"\n"Aurelune",42.8,52,38,\n"Hexgarden",39,40,,"cap 40"',
    ],
    ['semicolons', 'title;average;1 % low;peak;setup\nAurelune;52;38;42.8;\nHexgarden;40;;39;cap 40'],
    ['tabs', 'title\tfps\tlow\tpeak\tsetup\nAurelune\t52\t38\t42.8\nHexgarden\t40\t\t39\tcap 40'],
  ])('is read with %s', (_, text) => expect(rows(text)).toMatchObject(taken));
  it('is read with several spaces, as a phone types it', () =>
    expect(rows('title      fps   peak\nAurelune   52    42.8\nRook Tower   30   40\n')).toMatchObject([
      { title: 'Aurelune', texts: { average: '52', peak: '42.8' } },
      { title: 'Rook Tower', texts: { average: '30', peak: '40' } },
    ]));
  it('keeps decimal commas where semicolons part it', () =>
    expect(rows('title;peak\nAurelune;42,8')).toMatchObject([{ texts: { peak: '42,8' } }]));
  it('knows what the screen calls its values, targets and needs too', () =>
    expect(
      rows(
        'Title,Target,Need,Median,Near median,At first,Later,After,Battery start,Battery end,Loading time\nA,60,action,59,87,60,45,20,100,65,12',
      ),
    ).toMatchObject([
      {
        target: '60',
        need: 'action',
        texts: {
          median: '59',
          hold: '87',
          first: '60',
          later: '45',
          laterAt: '20',
          fromPercent: '100',
          toPercent: '65',
          load: '12',
        },
      },
    ]));
});

describe('two timed rates', () => {
  it('are at first and later, each as it was written', () =>
    expect(read({ first: '60', later: '40–45', laterAt: '20' }).entries).toEqual([
      { type: 'rate', atMs: 0, fps: 60, by: 'overlay' },
      { type: 'rate', atMs: 1_200_000, low: 40, high: 45, by: 'overlay' },
    ]));
  it('later is the end where nothing else is said', () =>
    expect(read({ later: '36', length: '7:47' }).entries).toMatchObject([
      { type: 'rate', atMs: 467_000, fps: 36 },
      { type: 'end', atMs: 467_000 },
    ]));
  it('need a time, and a rate', () => {
    expect(read({ later: '36' }).problems.laterAt).toMatch(/After how long/);
    expect(read({ laterAt: '20' }).problems.later).toMatch(/Which rate/);
    expect(read({ later: '36', laterAt: '20', length: '10' }).problems.laterAt).toMatch(/later than the end/);
  });
  it('are “about” where they were written so, percents, temperatures and facts of an end page too', () => {
    const { entries } = read({
      average: '60',
      median: '~58',
      hold: 'about 87',
      peak: '~42',
      fromPercent: '100',
      toPercent: '~65',
      length: '30',
    });
    expect(entries).toMatchObject([
      { type: 'summary', average: 60, median: 58, hold: 0.87, about: ['median', 'hold'] },
      { type: 'skin', c: 42, about: true },
      { type: 'battery', percent: 100 },
      { type: 'battery', percent: 65, about: true },
      { type: 'end' },
    ]);
    expect(entries[2]).not.toHaveProperty('about');
    const figures = figuresOf({ entries });
    expect(figures.read?.median).toMatchObject({ low: 55.1, high: 60.9 });
    expect(headline(headlineFacts(figures))).toContain('about 42.0\u00a0°C at hottest spot');
    expect(entries.map((line) => sayLine(line, 'C'))).toEqual([
      'summary screen: average 60, median about 58, near median about 87 %, overlay',
      '30:00: peak about 42.0 °C at “hottest spot”, infrared',
      '0:00: battery 100 %',
      '30:00: battery about 65 %',
      '30:00: end, stopped early',
    ]);
  });
  it('a length that is about so long has its ends, a peak that is a range too', () => {
    expect(read({ length: '~30' }).entries).toEqual([
      { type: 'end', atMs: 1_800_000, lowMs: 1_620_000, highMs: 1_980_000, reason: 'stopped' },
    ]);
    expect(read({ peak: '41–42' }).entries).toMatchObject([{ c: 42, low: 41, peak: true }]);
  });
});
