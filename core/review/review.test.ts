import * as fc from 'fast-check';
import { sideRun, type SideCase } from '../compare/testing';
import { laneOf } from '../figures/lane';
import { at, figuresOf } from '../testing';
import { USUAL_VOICE } from '../words/headline';
import { runChangesSince } from './changes';
import { toCsvText } from './csv';
import { writeRecipe } from '../setup/recipe';
import { chartSvg } from './charts/chart';
import { reviewGaps } from './gaps';
import { figuresIn, figureState, fillFigures, liveFigures } from './liveFigures';
import type { ReviewEvidence, ReviewRun, SectionKind } from './model';
import { laneSvg } from './laneSvg';
import { reviewHtml, reviewMarkdown, type WrittenReview } from './page';
import type { LimitFindings } from '../figures/limits';
import type { Sitting } from '../session/model';
import { SECTIONS } from './sections';
import { evidenceOf } from './testing';
import { titleTable } from './titleTable';

const run = (
  name: string,
  { demand = null, caveats = [], ...rest }: SideCase & Partial<Pick<ReviewRun, 'demand' | 'caveats'>> = {},
): ReviewRun => {
  const { stated, figures } = sideRun({
    ...rest,
    stated: { device: 'Velm 5', title: name, ...rest.stated },
  });
  const lane = laneOf(figuresOf(rest), rest.facts?.target ?? null);
  return {
    id: name,
    name,
    startedAt: null,
    kind: null,
    demand,
    stated,
    figures,
    caveats,
    confidences: { pace: 'A', warmth: 'A', drain: 'A' },
    lane,
  };
};
const plain = (text: string): string => text.replaceAll('\u00a0', ' ');
const NOTHING = { comparisons: 0, openRequests: 0, verdictGiven: true };
const warm = (c: number) => [{ type: 'skin' as const, atMs: 60_000, spot: 'back', c, by: 'infrared' }];

describe('what is missing', () => {
  const codes = (...args: Parameters<typeof reviewGaps>): string[] =>
    reviewGaps(...args).map((gap) => gap.code);
  it('follows the template', () => {
    const short = run('a', { frames: at(60, 60) });
    expect(codes('quick look', [short], NOTHING)).toEqual([]);
    expect(codes('full review', [short], NOTHING)).toEqual(['no-heavy', 'skin', 'battery']);
    expect(codes('versus', [short], NOTHING)).toContain('no-comparison');
    expect(codes('emulation special', [short], NOTHING)).toContain('no-emulated');
    expect(codes('quick look', [], { ...NOTHING, openRequests: 4, verdictGiven: false })).toEqual([
      'no-runs',
      'requests',
      'verdict',
    ]);
  });
  it('counts the runs, and leads to the first', () => {
    const all = [run('a', { entries: warm(40) }), run('b', { entries: warm(40), stated: { roomC: 18 } })];
    expect(reviewGaps('quick look', all, NOTHING)).toEqual([
      { code: 'room', says: 'Room temperature unknown in 1 of 2.', runId: 'a' },
    ]);
  });
  it('a sustained run of a heavy title is enough', () =>
    expect(
      codes('full review', [run('a', { frames: at(50, 1000), demand: 'heavy' })], NOTHING),
    ).not.toContain('no-heavy'));
});

describe('the table of titles', () => {
  it('takes repeats together, and says how each ended', () => {
    const rows = titleTable(
      [
        run('Aurelune', { frames: at(50, 1000) }),
        { ...run('Aurelune', { frames: at(50, 1000) }), id: 'again' },
        run('Night Ferry', { entries: [{ type: 'end', atMs: 5000, reason: 'would-not-start' }] }),
      ],
      'average-and-lows',
    );
    expect(rows.map(({ title, runs, ended }) => [title, runs, ended])).toEqual([
      ['Aurelune', 2, null],
      ['Night Ferry', 1, 'DNS'],
    ]);
    expect(rows[0]!.lead).toBeCloseTo(50, 9);
  });
});

/** What a section says in sentences. */
const evidenceLines = (kind: SectionKind, runs: ReviewRun[], voice = USUAL_VOICE): string =>
  SECTIONS[kind]
    .blocks(evidenceOf(runs), voice)
    .flatMap((block) => (block.is === 'lines' ? block.lines : []))
    .join('\n');

describe('lines from the evidence', () => {
  const voice = USUAL_VOICE;
  it('say what was measured, and nothing else', () => {
    const logged = run('Aurelune', { frames: at(50, 1000), entries: warm(41.2), facts: { roomC: 18 } });
    const read = run('Hexgarden', { entries: [{ type: 'rate', fps: 25, by: 'eye' }] });
    expect(plain(evidenceLines('warmth', [logged], voice))).toBe(
      'The highest reading is 41.2 °C at back (infrared), in Aurelune on Velm 5, in a room at 18.0 °C.',
    );
    expect(plain(evidenceLines('method', [logged, read], voice))).toMatch(
      /^2 runs on Velm 5, 16:40 in all \(1 of unknown length left aside\)\. Frames logged in 1, rates estimated by eye in 1\. Skin temperatures by infrared\. Room temperature 18\.0 °C, unknown in 1\./,
    );
    expect(evidenceLines('drain', [logged], voice)).toBe('');
    expect(evidenceLines('verdict', [logged], voice)).toBe('');
  });
  it('name what did not run and each caveat with its count', () => {
    const crashed = run('Night Ferry', {
      frames: at(40, 492),
      entries: [{ type: 'end', atMs: 492_000, reason: 'crash' }],
      caveats: ['short-run', 'crashed'],
    });
    expect(evidenceLines('not-run', [crashed], voice)).toBe('Night Ferry on Velm 5 crashed after 8:12.');
    expect(evidenceLines('caveats', [crashed, run('a')], voice)).toMatch(
      /not sustained pace \(1 of 2\)\.\nThe title crashed \(1 of 2\)\.$/,
    );
  });
});

describe('live figures', () => {
  const before = run('Aurelune', { frames: at(50, 1000), entries: warm(41) });
  const figures = liveFigures([before, { ...before, id: 'twin' }], USUAL_VOICE);
  it('are offered only where there is one, each under a name of its own', () => {
    expect(figures.map(({ name }) => name)).toContain('Aurelune, average (2)');
    expect(figures.some(({ measure }) => measure === 'watts')).toBe(false);
    expect(new Set(figures.map(({ name }) => name)).size).toBe(figures.length);
  });
  it('stand for their names in a text; what is none stays as it is written', () => {
    const kept = [
      { name: 'Aurelune, average', runId: 'Aurelune', measure: 'average' as const, accepted: '50 fps' },
    ];
    const text = 'It gives @{Aurelune, average}, and @{another}.';
    expect(figuresIn(text)).toEqual(['Aurelune, average', 'another']);
    expect(fillFigures(text, kept)).toBe('It gives 50 fps, and @{another}.');
  });
  it('say when their run has changed, or is gone', () => {
    const kept = { name: 'x', runId: 'Aurelune', measure: 'average' as const, accepted: '51\u00a0fps' };
    expect(figureState(kept, figures)).toEqual({ state: 'changed', was: '51\u00a0fps', now: '50\u00a0fps' });
    expect(figureState({ ...kept, accepted: '50\u00a0fps' }, figures)).toEqual({ state: 'same' });
    expect(figureState({ ...kept, runId: 'b' }, figures)).toEqual({ state: 'gone', was: '51\u00a0fps' });
  });
});

it('changes are said in words, and only where they are said differently', () => {
  const then = [run('a', { frames: at(50, 1000) }), run('gone', { frames: at(50, 1000) })];
  const now = [run('a', { frames: at(45, 1000) }), run('new')];
  expect(runChangesSince(then, now, USUAL_VOICE).map(plain)).toEqual([
    'a, average: 50 fps → 45 fps',
    'a, median: 50 fps → 45 fps',
    'a, closing pace: 50 fps → 45 fps',
    'a, 1 % low: 50 fps → 45 fps',
    'gone: removed',
    'new: added',
  ]);
  expect(runChangesSince(then, then, USUAL_VOICE)).toEqual([]);
});

describe('tables', () => {
  /** A plain reader of RFC 4180, to read back what was written. */
  const parse = (text: string): string[][] => {
    const rows: string[][] = [[]];
    let [cell, quoted] = ['', false];
    for (let i = 0; i < text.length; i++) {
      const c = text[i]!;
      if (quoted) {
        if (c === '"' && text[i + 1] === '"') cell += text[++i];
        else if (c === '"') quoted = false;
        else cell += c;
      } else if (c === '"') quoted = true;
      else if (c === ',') {
        rows.at(-1)!.push(cell);
        cell = '';
      } else if (c === '\r' && text[i + 1] === '\n') {
        i++;
        rows.at(-1)!.push(cell);
        cell = '';
        rows.push([]);
      } else cell += c;
    }
    return rows.slice(0, -1);
  };
  it('are read back equal, but for the quote before what may be a formula', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.array(fc.oneof(fc.string(), fc.constantFrom('=1+1', '@x', '-2', 'a"b', 'c,d', 'e\r\nf')), {
            minLength: 1,
          }),
          { minLength: 1 },
        ),
        (rows) => {
          const back = parse(toCsvText(rows));
          rows.forEach((row, r) =>
            row.forEach((cell, c) => {
              const found = back[r]![c]!;
              expect(found === cell || found === `'${cell}`).toBe(true);
              expect(/^[=+@\t]/.test(found)).toBe(false);
            }),
          );
        },
      ),
    ));
});

describe('the page', () => {
  const logged = run('x', { frames: at(50, 1000) });
  const written = (name: string, text: string): WrittenReview => ({
    name,
    revision: 1,
    voice: null,
    published: '2026-05-20',
    ...evidenceOf([{ ...logged, name: name === '' ? 'x' : name, stated: { ...logged.stated, title: name } }]),
    video: null,
    verdict: { state: 'provisional', until: name },
    sections: [
      { kind: 'verdict', text },
      { kind: 'titles', text: '' },
      { kind: 'lanes', text: '' },
      { kind: 'comparisons', text: '' },
    ],
    comparisons: [{ name, answer: text, pair: null }],
    corrections: [text],
  });
  it('holds nobody’s markup, whatever the names and words are', () =>
    fc.assert(
      fc.property(fc.string(), fc.string(), (name, text) => {
        const html = reviewHtml(written(`<i>${name}`, `${text}<script>&"`), USUAL_VOICE);
        expect(html).not.toMatch(/<(script|i|img)\b/);
        // every tag that opens is one of the page's own
        expect(
          [...html.matchAll(/<([a-z][a-z0-9]*)/g)].every(([, tag]) =>
            [
              'html',
              'head',
              'meta',
              'title',
              'style',
              'body',
              'main',
              'h1',
              'h2',
              'p',
              'bdi',
              'section',
              'strong',
              'div',
              'table',
              'thead',
              'tbody',
              'tr',
              'th',
              'td',
              'ul',
              'li',
              'figure',
              'figcaption',
              'svg',
              'desc',
              'defs',
              'pattern',
              'path',
              'rect',
              'text',
              'g',
              'circle',
            ].includes(tag!),
          ),
        ).toBe(true);
        expect(html).not.toContain('\0');
      }),
    ));
  it('gives every picture of it an id of its own', () => {
    const read = (name: string): ReviewRun =>
      run(name, {
        entries: [
          { type: 'rate', atMs: 0, fps: 30, by: 'eye' },
          { type: 'end', atMs: 600_000, reason: 'planned' },
        ],
      });
    const html = reviewHtml({ ...written('a', ''), runs: [...'abcdefg'].map(read) }, USUAL_VOICE);
    const ids = [...html.matchAll(/ id="([^"]+)"/g)].map(([, id]) => id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids).toEqual(expect.arrayContaining(['hatch-0', 'hatch-1', 'read-lanes-0', 'read-lanes-1']));
    for (const id of ids) expect(html).toContain(`url(#${id})`);
  });
  it('says how final the verdict is, and in small print what the table rests on', () => {
    for (const page of [
      reviewHtml(written('the patch', 'Good.'), USUAL_VOICE),
      reviewMarkdown(written('the patch', 'Good.'), USUAL_VOICE),
    ]) {
      expect(page).toContain('This verdict is provisional until the patch.');
      expect(page).toContain('Average: frames divided by time; 1 % low: percentile of the frame times');
      expect(page).toContain('Corrections');
    }
  });
});

describe('a lane as a picture', () => {
  it('is as high as what was held, and says so to those who do not see it', () => {
    const { lane } = run('Aurelune', { frames: [...at(60, 900), ...at(30, 900)], facts: { target: 60 } });
    const svg = laneSvg(lane, { width: 600, height: 54, scaleS: 1800, says: 'Aurelune <on> "Velm 5"' });
    expect(svg).toContain('<title>Aurelune &lt;on&gt; &quot;Velm 5&quot;</title>');
    expect(svg).toMatch(
      /<desc>0:00: 100 % of the target; 5:00: 100 % .*; 25:00: 50 % of the target\.<\/desc>/,
    );
    const heights = [...svg.matchAll(/height="([\d.]+)" fill="#1f6685"/g)].map(([, height]) =>
      Number(height),
    );
    expect(heights).toHaveLength(6);
    expect(heights[5]! / heights[0]!).toBeCloseTo(0.5, 2);
  });
  it('shows how a run ended before its time, and the ends of what was read off', () => {
    const end = (reason: 'crash' | 'would-not-start' | 'planned') =>
      laneSvg(
        run('x', {
          entries: [
            { type: 'rate', atMs: 0, low: 30, high: 40, by: 'overlay' },
            { type: 'end', atMs: reason === 'would-not-start' ? 0 : 480_000, reason },
          ],
        }).lane,
        { width: 400, height: 60, scaleS: 1800, says: 'x' },
      );
    expect(end('crash')).toMatch(/>DNF<\/text>/);
    expect(end('crash')).toContain('It crashed.');
    expect(end('would-not-start')).toMatch(/>DNS<\/text>/);
    expect(end('planned')).not.toMatch(/<text/);
    // a bar from the lower to the upper end
    expect(end('planned')).toMatch(/stroke="#182025" stroke-width="2"/);
  });
  it('is hatched where it was read off, and holds no character that XML forbids', () => {
    const { lane } = run('x', { entries: [{ type: 'rate', atMs: 0, fps: 30, by: 'eye' }] });
    expect(laneSvg(lane, { width: 600, height: 54, scaleS: 60, says: '\0\ud800a\u0008' })).toMatch(
      /<title>\ufffd\ufffda\ufffd<\/title>.*url\(#hatch\)/,
    );
  });
});

describe('settings that hold, and what runs', () => {
  const ladder = (title: string, best: string | null, more: object = {}) => ({
    device: 'Velm 5',
    title,
    scene: '',
    setup: 'Lantern 1.9',
    axis: 'internal resolution' as const,
    best,
    sure: 0.95,
    ended: true,
    confirmed: false,
    probes: 4,
    ...more,
  });
  const blocks = (kind: SectionKind, more: Partial<ReviewEvidence>) =>
    SECTIONS[kind].blocks({ ...evidenceOf([]), ...more }, USUAL_VOICE);

  it('names what most titles hold, and the exceptions', () => {
    const [table, lines] = blocks('settings', {
      ladders: [
        ladder('Pico Harbour', '3×'),
        ladder('Glass Canyon', '3×'),
        ladder('Rook Tower', null),
        ladder('X', '2×', { ended: false }),
      ],
    });
    expect(table).toMatchObject({ is: 'table' });
    if (table?.is !== 'table' || lines?.is !== 'lines') throw new Error('a table and a line are wanted');
    expect(table.rows.map((row) => row[3])).toEqual(['3×', '3×', 'none', 'typical so far: 2×']);
    expect(lines.lines).toEqual(['Velm 5, internal resolution: 3× for 2 of 3; not Rook Tower (none).']);
    expect(blocks('settings', {})).toEqual([]);
  });

  it('tells a system’s titles by how hard they are, and draws how far up each holds', () => {
    const lumo = (title: string, best: string | null, demand: 'light' | 'notorious', at: number) =>
      ladder(title, best, { system: 'Lumo 64', demand, place: { at, of: 8 } });
    const [, lines, chart] = blocks('settings', {
      ladders: [lumo('Pico Harbour', '4×', 'light', 4), lumo('Rook Tower', null, 'notorious', 0)],
    });
    if (lines?.is !== 'lines' || chart?.is !== 'chart') throw new Error('lines and a picture are wanted');
    expect(lines.lines).toEqual(['Lumo 64 on Velm 5, internal resolution: easy titles: 4×, hard ones none.']);
    expect(plain(chart.chart.alt)).toBe(
      'Velm 5, internal resolution, Pico Harbour: 4×, 95 % sure. Velm 5, internal resolution, Rook Tower: none, 95 % sure.',
    );
    // one half up: the bar is half as long as its track
    const bars = [
      ...chartSvg(chart.chart, null).matchAll(/<rect x="4" [^>]*width="([\d.]+)"[^>]*fill="([^"]+)"/g),
    ];
    const track = bars.find(([, , fill]) => fill === '#d9dfe3')!;
    const bar = bars.find(([, , fill]) => fill === '#1f6685')!;
    expect(Number(bar[1]) / Number(track[1])).toBeCloseTo(0.5, 2);
  });

  it('says what a wrong choice costs, each title by itself', () => {
    const [named, table] = blocks('choices', {
      choices: [
        {
          device: 'Velm 5',
          title: 'Glass Canyon',
          scene: '',
          setup: '',
          axis: 'backend',
          says: 'Take Ember: it is clearly faster than every other one.',
          take: 'Ember',
          options: [
            { name: 'Glim', probes: 2, speed: '82 %', cost: '18 % slower (12 to 24 %)' },
            { name: 'Ember', probes: 2, speed: '100 %', cost: null },
          ],
        },
      ],
    });
    if (named?.is !== 'named' || table?.is !== 'table') throw new Error('names and a table are wanted');
    expect(named.rows).toEqual([
      {
        name: 'Glass Canyon on Velm 5, backend',
        text: 'Take Ember: it is clearly faster than every other one.',
      },
    ]);
    expect(table.rows).toEqual([
      ['Glass Canyon', 'Velm 5', 'Glim', '82 %', '2', '18 % slower (12 to 24 %)'],
      ['Glass Canyon', 'Velm 5', 'Ember (recommended)', '100 %', '2', '–'],
    ]);
    expect(blocks('choices', {})).toEqual([]);
  });

  it('tells a sitting end to end, with what each switch did and where it would settle', () => {
    const sitting: Sitting = {
      titles: [
        { title: 'Saltmarsh Drift', setup: null, fromS: 0, toS: 1200, average: 60, loadS: 31 },
        { title: 'Hexgarden', setup: null, fromS: 1200, toS: 2400, average: null, loadS: null },
      ],
      drain: {
        separable: false,
        rates: [
          { title: 'Saltmarsh Drift', percentPerHour: 20, interval: null },
          { title: 'Hexgarden', percentPerHour: 20, interval: null },
        ],
      },
      warmth: [
        {
          spot: 'back',
          tauS: 300,
          levels: [{ state: ['Hexgarden', 'fan'], settlesC: 36, interval: [35, 37] }],
        },
      ],
      asRead: [{ atS: 1500, spot: 'back', kinds: ['fan'], on: true, beforeC: 37, afterC: 33.5, overS: 720 }],
      switches: [
        {
          kind: 'fan',
          minutes: 10,
          pace: null,
          watts: null,
          warmth: [{ spot: 'back', withoutC: 40, by: -4, interval: [-5, -3], verdict: 'second better' }],
        },
      ],
      spans: [],
      remarks: [],
    };
    const longPlay = {
      playedS: 2100,
      pausedS: 300,
      pauses: 1,
      longestS: 1200,
      continuousPeak: { spot: 'back', c: 41, atS: 60 },
      afterBreakPeak: null,
      dimmedAtS: [],
      playedUntilDimS: null,
    };
    const told = blocks('sittings', { sittings: [{ name: 'On deck', device: 'Velm 5', sitting, longPlay }] });
    expect(told.map((one) => one.is)).toEqual(['lead', 'table', 'lines', 'table', 'lines']);
    const [, titles, did, levels, hours] = told;
    if (titles?.is !== 'table' || levels?.is !== 'table' || did?.is !== 'lines' || hours?.is !== 'lines')
      throw new Error('tables and lines are wanted');
    expect(titles.rows).toEqual([
      ['Saltmarsh Drift', '0:00', '20:00', '60 fps', '31 s', '20.0 %/h'],
      ['Hexgarden', '20:00', '40:00', '–', '–', '20.0 %/h'],
    ]);
    expect(titles.small).toMatch(/started warm\. The battery readings do not separate the titles/);
    expect(did.lines.map(plain)).toEqual([
      'fan: back 4.0 °C ± 1.0 cooler.',
      'As read, 25:00 fan on: back 37.0 → 33.5 °C in 12 min.',
    ]);
    expect(levels.rows.map((row) => row.map(plain))).toEqual([
      ['Hexgarden + fan', 'back', '36.0 °C', '35.0 °C to 37.0 °C'],
    ]);
    expect(plain(hours.lines[0]!)).toBe('Played for 35:00 with 1 break; at most 41.0 °C in one stretch.');
    expect(blocks('sittings', {})).toEqual([]);
  });

  it('says what limits a run, of those that say anything', () => {
    const findings: LimitFindings = { candidates: [], likely: ['heat'], notRuledOut: [] };
    expect(
      blocks('limits', {
        limits: [
          { name: 'Aurelune on Velm 5', findings },
          { name: 'Hexgarden on Velm 5', findings: { ...findings, likely: [] } },
        ],
      }),
    ).toEqual([{ is: 'named', rows: [{ name: 'Aurelune on Velm 5', text: 'Heat.' }] }]);
  });

  it('keeps synthetic scores apart, and says where one is questioned', () => {
    const [table] = blocks('synthetic', {
      synthetic: [
        {
          device: 'Velm 5',
          tool: 'Plumb Line 3',
          score: '4,100',
          parts: [{ name: 'graphics', score: 2000 }],
          loop: '20 times, 4,100 to 3,075: 75 % left',
          coldC: 22,
          riseC: 14,
          question: 'too much',
        },
      ],
    });
    if (table?.is !== 'table') throw new Error('a table is wanted');
    expect(table.rows[0]!.map(plain)).toEqual([
      'Velm 5',
      'Plumb Line 3',
      '4,100 (doubtful: too much)',
      'graphics 2,000',
      '20 times, 4,100 to 3,075: 75 % left',
      '22.0 °C',
      '14.0 °C',
    ]);
    expect(table.small).toMatch(/not count in any figure, comparison or rating/);
  });

  it('gives the lowest limit that holds, with the energy of a frame over the limits', () => {
    const row = (rung: string, speed: number | null, watts: number | null, perFrameMj: number | null) => ({
      rung,
      limitW: Number.parseInt(rung, 10),
      mark: rung === '15 W' ? ('usual' as const) : null,
      speed,
      watts,
      perFrameMj,
      hours: watts === null ? null : 45 / watts,
    });
    const [lines, chart, table] = blocks('power', {
      power: [
        {
          device: 'Quill Deck',
          title: 'Glass Canyon',
          scene: 'the long bridge',
          lowest: '10 W',
          rows: [
            row('15 W', 1, 18, 300),
            row('10 W', 1, 13.5, 225),
            row('8 W', 0.88, null, null),
            row('6 W', null, null, null),
          ],
        },
      ],
    });
    if (lines?.is !== 'lines' || chart?.is !== 'chart' || table?.is !== 'table')
      throw new Error('three blocks');
    expect(lines.lines).toEqual([
      'Glass Canyon on Quill Deck: 10 W is the lowest limit that holds full speed, 3.3 h from a full battery.',
    ]);
    // what was not tried has no row; what was not measured a dash
    expect(table.rows.map((cells) => cells.map(plain).join(' | '))).toEqual([
      'Glass Canyon | Quill Deck | 15 W, usual | 100 % | 18.0 W | 300 mJ | 2.5 h',
      'Glass Canyon | Quill Deck | 10 W | 100 % | 13.5 W | 225 mJ | 3.3 h',
      'Glass Canyon | Quill Deck | 8 W | 88 % | – | – | –',
    ]);
    const svg = chartSvg(chart.chart, { width: 1920, height: 1080 });
    expect(svg).toContain('300\u00a0mJ');
    expect(svg).not.toContain('6 W');
  });

  it('prints a recipe with its cautions before its steps', () => {
    const recipe = writeRecipe(
      [{ key: 'layer', value: 'Gangway', unit: '' }],
      [{ says: 'Sideload it.', undo: '', source: 'its notes', dated: null, needs: [] }],
    );
    const found = blocks('recipes', { setups: [{ title: 'Iron Orchard', name: 'safe', recipe }] });
    expect(found.map((block) => block.is)).toEqual(['lead', 'lines', 'lines', 'table']);
    const [, cautions, , steps] = found;
    if (cautions?.is !== 'lines' || steps?.is !== 'table') throw new Error('lines and a table are wanted');
    expect(cautions.lines[0]).toContain('Packages from outside the official store');
    expect(steps.rows).toEqual([['1', 'Sideload it.', 'not recorded', 'from its notes']]);
    expect(steps.small).toBe('Set: layer: Gangway.');
  });

  it('publishes the run of a layer’s title, what was noted of it, and its recipe together', () => {
    const recipe = writeRecipe([{ key: 'layer', value: 'Gangway', unit: '' }], []);
    const first = run('Iron Orchard', {
      stated: { setup: 'safe' },
      entries: [{ type: 'rate', low: 36, high: 44, by: 'overlay' }],
    });
    const outcome = {
      title: 'Iron Orchard',
      device: first.stated.device!,
      with: 'Gangway',
      firstPlay: false,
      scene: '',
    };
    const more = {
      runs: [first],
      setups: [{ title: 'Iron Orchard', name: 'safe', recipe }],
      outcomes: [
        {
          ...outcome,
          runId: first.id,
          version: '3.1',
          status: 'crashes' as const,
          date: '2026-05-01',
          where: '',
          tried: 'safe',
        },
        {
          ...outcome,
          version: '3.2',
          status: 'glitches' as const,
          date: '2026-05-18',
          where: 'leaves are squares',
          tried: '',
        },
        { ...outcome, with: 'Other', version: '', status: 'slow' as const, date: '', where: '', tried: '' },
      ],
    };
    const [lead, came] = blocks('recipes', more);
    if (lead?.is !== 'lead' || came?.is !== 'lines') throw new Error('a lead and lines are wanted');
    expect(lead.line).toBe('Iron Orchard: safe');
    expect(came.lines[0]).toMatch(/^Run this way on Velm 5: crashes, 36 to 44 fps/);
    expect(came.lines.slice(1)).toEqual([
      'Tested with Gangway 3.2 on Velm 5: glitches, leaves are squares, 2026-05-18.',
    ]);
    const against = blocks('what-runs', more).at(-1);
    if (against?.is !== 'table') throw new Error('a table of two versions is wanted');
    expect([against.label, against.rows]).toEqual([
      'Gangway 3.2 against Gangway 3.1',
      [['Iron Orchard', 'Velm 5', 'crashes', 'glitches', 'fewer problems']],
    ]);
  });

  it('tells what stands beside the figures where it was said, once', () => {
    const preflight = { withGenerated: '58', withoutGenerated: '31 to 34', noise: 'the fan is heard' };
    const all = [run('Aurelune', { preflight }), run('Aurelune', { preflight }), run('Hexgarden')];
    const lines = blocks('titles', { runs: all }).flatMap((block) =>
      block.is === 'lines' ? block.lines : [],
    );
    expect(lines).toEqual([
      'Aurelune on Velm 5, with generated frames: 58 fps.',
      'Aurelune on Velm 5, no generated frames: 31 to 34 fps.',
      'Aurelune on Velm 5, fan and speaker noise: the fan is heard.',
    ]);
  });

  it('says nothing of what runs where runs were only played', () => {
    const played = { title: 'A', device: 'Velm 5', with: '', version: '', date: '', firstPlay: false };
    expect(
      blocks('what-runs', {
        outcomes: [{ ...played, runId: 'r', status: 'runs', where: '', scene: '', tried: '' }],
      }),
    ).toEqual([]);
  });

  it('counts what runs, against what is claimed and over versions', () => {
    const outcome = (title: string, status: 'crashes' | 'full speed', version: string) => ({
      title,
      device: 'Velm 5',
      with: 'Gangway',
      version,
      status,
      date: `2026-05-0${version}`,
      firstPlay: false,
      where: '',
      scene: '',
      tried: '',
    });
    const [lines, shares, table, versions] = blocks('what-runs', {
      outcomes: [outcome('A', 'crashes', '1'), outcome('A', 'full speed', '2'), outcome('B', 'crashes', '2')],
      claims: ['A', 'B'].map((title) => ({ title, device: '', level: 'runs well' as const })),
      versions: ['1', '2'].map((version) => ({ with: 'Gangway', version })),
    });
    if (table?.is !== 'table' || lines?.is !== 'lines' || shares?.is !== 'chart')
      throw new Error('lines, a picture and a table are wanted');
    expect(plain(shares.chart.alt)).toBe('Velm 5, Gangway: 1 of 2 (9 to 91 %).');
    expect(lines.lines.map(plain)).toEqual([
      'Velm 5: 1 of 2 (9 to 91 %) run.',
      'Claimed “runs well”: 1 of 2 (9 to 91 %) did.',
    ]);
    // told once, in the table of the two versions
    if (versions?.is !== 'table') throw new Error('a table of two versions is wanted');
    expect([versions.label, versions.rows]).toEqual([
      'Gangway 2 against Gangway 1',
      [['A', 'Velm 5', 'crashes', 'full speed', 'fixed']],
    ]);
    expect(table.rows.map((row) => row[2])).toEqual(['full speed', 'crashes']);
  });
});
