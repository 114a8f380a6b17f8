import * as fc from 'fast-check';
import { WebVTTParser } from 'webvtt-parser';
import { readCutList, sayCutList } from './cutList';
import { chapterCues, chapterList, chaptersOf, findMoments } from './moments';
import { laneOf } from '../../figures/lane';
import { at, figuresOf } from '../../testing';
import { USUAL_VOICE } from '../../words/headline';
import { overlayBand, overlaySvg } from './overlaySvg';
import { readTimeline } from './readTimeline';
import { readTimeCode, vttTime } from './timeCode';
import { type PlacedCut, inRun, inVideo, placeCuts, timelineProblems, type Clip, type Cut } from './timeline';
import { webVtt } from './webVtt';
import { calledAt, overlayAt, overlayCues, writeVideo } from './written';

const clip = (name: string, more: Partial<Clip> = {}): Clip => ({
  name,
  runId: name,
  lengthS: 3600,
  syncs: [{ clipS: 10, runS: 0 }],
  ...more,
});
const cut = (of: string, fromS: number, toS: number, speed = 1): Cut => ({ clip: of, fromS, toS, speed });

describe('times', () => {
  it.each<[string, number | null, number | null]>([
    ['62.5', null, 62.5],
    ['1:02,5', null, 62.5],
    ['1:02:03', null, 3723],
    ['01:02:03:12', 24, 3723.5],
    ['01:02:03:24', 24, null],
    ['01:02:03:12', null, null],
    ['1:60', null, null],
    ['1:61:00', null, null],
    ['soon', null, null],
    ['-5', null, null],
    ['', null, null],
  ])('%s with %s frames is %s', (text, fps, seconds) => expect(readTimeCode(text, fps)).toBe(seconds));

  it('are written to the millisecond, carried over', () => {
    expect(vttTime(59.9996)).toBe('00:01:00.000');
    expect(vttTime(360_000)).toBe('100:00:00.000');
  });
});

/** By hand: a repeat, a removed stretch and double speed. */
describe('a cut list', () => {
  const clips = [clip('a'), clip('b', { syncs: [{ clipS: 0, runS: 5 }] })];
  // a from run second 0 to 60, then 100 to 160 in half the time, b from 5 to 35, and a's first 20 s once more
  const cuts = [cut('a', 10, 70), cut('a', 110, 170, 2), cut('b', 0, 30), cut('a', 10, 30)];
  const placed = placeCuts(clips, cuts);

  it('lies end to end', () => {
    expect(placed.map(({ atS, endS }) => [atS, endS])).toEqual([
      [0, 60],
      [60, 90],
      [90, 120],
      [120, 140],
    ]);
  });
  it.each<[string, number, number[]]>([
    ['a', 0, [0, 120]],
    ['a', 15, [15, 135]],
    ['a', 30, [30]],
    ['a', 80, []],
    ['a', 130, [75]],
    ['b', 20, [105]],
    ['b', 40, []],
  ])('%s at %s s is at %j', (run, runS, videoS) => expect(inVideo(placed, run, runS)).toEqual(videoS));

  it('has a chapter wherever another title of a sitting comes on, in the video’s time', () => {
    const cut = (runFromS: number, runToS: number, atS: number, speed = 1): PlacedCut => ({
      runId: 's',
      clip: 'c',
      atS,
      endS: atS + (runToS - runFromS) / speed,
      runFromS,
      runToS,
      speed,
    });
    const titles = [
      { runId: 's', atS: 0, title: 'Saltmarsh Drift' },
      { runId: 's', atS: 600, title: 'Hexgarden' },
    ];
    // the second at twice the speed, after a piece was cut away
    const chapters = chaptersOf(
      [cut(100, 200, 0), cut(500, 700, 100, 2), cut(700, 720, 200)],
      () => 'On deck',
      titles,
    );
    expect(chapters).toEqual([
      { atS: 0, title: 'Saltmarsh Drift' },
      { atS: 150, title: 'Hexgarden' },
    ]);
    expect(calledAt({ name: 'On deck', titles }, 599)).toBe('Saltmarsh Drift');
    expect(calledAt({ name: 'On deck' }, 599)).toBe('On deck');
  });
  it('has a chapter wherever another run comes on', () => {
    const chapters = chaptersOf(placed, (run) => `Run ${run}`);
    expect(chapterList(chapters)).toBe('0:00 Run a\n1:30 Run b\n2:00 Run a\n');
    expect(chapterCues(chapters, 140).map(({ fromS, toS }) => [fromS, toS])).toEqual([
      [0, 90],
      [90, 120],
      [120, 140],
    ]);
  });
  it('lists a moment that repeats twice, and one that was cut away not at all', () => {
    const moments = [
      { runId: 'a', atS: 15, says: 'stutter' },
      { runId: 'a', atS: 80, says: 'freeze' },
    ];
    expect(findMoments(placed, moments).map(({ videoS, says }) => [videoS, says])).toEqual([
      [15, 'stutter'],
      [135, 'stutter'],
    ]);
  });
  it('through which a run goes on without a break doubles nothing', () => {
    const through = placeCuts(clips, [cut('a', 10, 40), cut('a', 40, 70)]);
    expect(inVideo(through, 'a', 30)).toEqual([30]);
  });

  it('run → video → run gives the same moment', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            clip: fc.constantFrom('a', 'b'),
            fromS: fc.integer({ min: 0, max: 3000 }),
            length: fc.integer({ min: 1, max: 500 }),
            speed: fc.constantFrom(0.25, 0.5, 1, 2, 8),
          }),
          { minLength: 1, maxLength: 12 },
        ),
        fc.constantFrom('a', 'b'),
        fc.integer({ min: 0, max: 3500 }),
        (lines, run, runS) => {
          const all = placeCuts(
            clips,
            lines.map(({ length, ...line }) => ({ ...line, toS: line.fromS + length })),
          );
          for (const videoS of inVideo(all, run, runS)) {
            const back = inRun(all, videoS);
            // on a cut itself two runs meet
            const onCut = all.some(({ atS, endS }) => videoS === atS || videoS === endS);
            if (onCut) continue;
            expect(back!.runId).toBe(run);
            expect(back!.runS).toBeCloseTo(runS, 6);
          }
        },
      ),
    ));
});

describe('what cannot be', () => {
  const lengths = new Map([['a', 1800]]);
  it.each<[string, Clip[], Cut[], RegExp]>([
    ['backwards', [clip('a')], [cut('a', 30, 10)], /end is not later than the start/],
    ['an unknown clip', [clip('a')], [cut('x', 0, 10)], /no clip named “x”/],
    ['past the end', [clip('a', { lengthS: 60 })], [cut('a', 0, 90)], /only 60\.0 s long/],
    ['no speed', [clip('a')], [cut('a', 0, 10, 0)], /Speed 0 is not possible/],
    ['two of a name', [clip('a'), clip('a')], [], /is used twice/],
    ['no moment in common', [clip('a', { syncs: [] })], [], /not synchronised with its run/],
    [
      'moments that contradict',
      [
        clip('a', {
          syncs: [
            { clipS: 0, runS: 0 },
            { clipS: 10, runS: 15 },
          ],
        }),
      ],
      [],
      /differ by 5\.0 s/,
    ],
    [
      'a clip after its run',
      [clip('a', { syncs: [{ clipS: 0, runS: 2000 }] })],
      [],
      /after the end of its run/,
    ],
  ])('%s is said with its place and a remedy', (_, clips, cuts, message) => {
    const [problem] = timelineProblems(clips, cuts, lengths);
    expect(problem!.message).toMatch(message);
    expect(problem!.remedy).not.toBe('');
    expect(problem!.place).toMatch(/^(clip|line) [12]$/);
  });
  it('a list without faults has none; a stretch may be shown twice', () =>
    expect(timelineProblems([clip('a')], [cut('a', 10, 20), cut('a', 10, 20)], lengths)).toEqual([]));
});

describe('a cut list as it is typed', () => {
  it('is read, and lines that are none are pointed at', () => {
    const { cuts, problems } = readCutList(
      '# the deck\ndeck one 0:00 - 5:00\n\ndeck one\t12:30\t20:00\tx2\nshed 1:00:00 to 1:10:00 0.5x\nsomething else\n',
      null,
    );
    expect(cuts).toEqual([
      cut('deck one', 0, 300),
      cut('deck one', 750, 1200, 2),
      cut('shed', 3600, 4200, 0.5),
    ]);
    expect(problems.map(({ place }) => place)).toEqual(['line 6']);
  });

  it('is written so that it is read back', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            clip: fc.constantFrom('deck', 'shed two', 'c'),
            fromMs: fc.integer({ min: 0, max: 4_000_000 }),
            length: fc.integer({ min: 1, max: 100_000 }),
            speed: fc.constantFrom(0.5, 1, 2, 16),
          }),
        ),
        (lines) => {
          const cuts = lines.map(({ clip: of, fromMs, length, speed }) =>
            cut(of, fromMs / 1000, (fromMs + length) / 1000, speed),
          );
          const back = readCutList(sayCutList(cuts), null);
          expect(back.problems).toEqual([]);
          back.cuts.forEach((one, i) => {
            expect(one.fromS).toBeCloseTo(cuts[i]!.fromS, 9);
            expect(one.toS).toBeCloseTo(cuts[i]!.toS, 9);
            expect([one.clip, one.speed]).toEqual([cuts[i]!.clip, cuts[i]!.speed]);
          });
          expect(back.cuts).toHaveLength(cuts.length);
        },
      ),
    ));
});

describe('WebVTT', () => {
  it('is read back by the W3C’s own parser, whatever the text holds', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            fromS: fc.integer({ min: 0, max: 7200 }),
            length: fc.integer({ min: 1, max: 600 }),
            text: fc.oneof(
              fc.string(),
              fc.constantFrom('a\n\nb', '<b>--></b>', 'NOTE', '&amp;', '\u202eabc', '🛶', '\0', ' '),
            ),
          }),
          { maxLength: 8 },
        ),
        (cues) => {
          const text = webVtt(
            cues.map(({ fromS, length, text: says }) => ({ fromS, toS: fromS + length, text: says })),
            'Chapters --> of\n\na review',
          );
          const { cues: found, errors } = new WebVTTParser().parse(text, 'metadata');
          expect(errors).toEqual([]);
          expect(found.map(({ startTime }) => startTime)).toEqual(
            cues.map(({ fromS }) => fromS).sort((a, b) => a - b),
          );
        },
      ),
    ));

  it('writes markup as text, and a cue of no time a thousandth of a second', () => {
    const [found] = new WebVTTParser().parse(webVtt([{ fromS: 1, toS: 1, text: 'a < b & c' }], null)).cues;
    expect(found).toMatchObject({ startTime: 1, endTime: 1.001, text: 'a &lt; b &amp; c' });
  });
});

it('a video ends: what would make it longer than half a day is named and left out', () => {
  const plan = {
    clips: [clip('a', { lengthS: null })],
    cuts: 'a 0:00 - 3600 x0.05\na 0:10 - 0:20',
    fps: null,
  };
  const { lengthS, problems, placed } = readTimeline(plan, new Map([['a', 3600]]));
  expect([lengthS, placed.length]).toEqual([10, 1]);
  expect(problems).toEqual([
    expect.objectContaining({ place: 'line 1', message: expect.stringMatching(/longer than 12 hours/) }),
  ]);
});

describe('what is written of a video', () => {
  const frames = [...at(60, 300), ...at(30, 300)];
  const run = {
    frames,
    facts: { target: 60 },
    entries: [
      { type: 'skin' as const, atMs: 120_000, spot: 'back', c: 39, by: 'infrared' },
      { type: 'skin' as const, atMs: 500_000, spot: 'back', c: 43, by: 'infrared' },
      { type: 'mark' as const, atMs: 30_000, kind: 'stutter', note: 'at the gate' },
      { type: 'battery' as const, atMs: 0, percent: 90, charging: false },
    ],
  };
  const figures = figuresOf(run);
  const source = {
    id: 'a',
    name: 'Aurelune on Velm 5',
    figures,
    lane: laneOf(figures, 60),
    perSecond: Float64Array.from({ length: 600 }, (_, i) => (i === 100 ? NaN : i < 300 ? 60 : 30)),
  };
  const video = writeVideo(
    {
      clips: [clip('deck', { runId: 'a', lengthS: null, syncs: [{ clipS: 0, runS: 0 }] })],
      cuts: 'deck 1:30 - 5:30\ndeck 0:00 - 1:00 x2',
      fps: null,
    },
    [source],
    USUAL_VOICE,
  );

  it('an overlay shows what was known by then, never what came later', () => {
    expect(overlayAt(video, 0)).toMatchObject({ atS: 90, pace: { fps: 60 }, skin: null, percent: 90 });
    expect(overlayAt(video, 10)).toMatchObject({ atS: 100, pace: null });
    expect(overlayAt(video, 31)).toMatchObject({ skin: { c: 39, spot: 'back' } });
    expect(overlayAt(video, 211)).toMatchObject({ atS: 301, pace: { fps: 30 } });
    // at double speed the run's clock goes two seconds a second
    expect(overlayAt(video, 245)).toMatchObject({ atS: 10 });
    expect(overlayAt(video, 271)).toBeNull();
  });

  it('moments that were cut away drop out', () => {
    // the mark at 0:30 lies in the second stretch, at double speed; the hottest reading in none
    expect(video.moments.map(({ videoS, says }) => [videoS, says])).toEqual([
      // five minutes into the run
      [210, 'throttling starts'],
      [240 + 15, 'stutter: at the gate'],
    ]);
  });

  it('its text track names each second once, and is read back', () => {
    const read = new WebVTTParser().parse(webVtt(overlayCues(video, USUAL_VOICE), null), 'metadata');
    expect(read.errors).toEqual([]);
    expect(read.cues.at(-1)!.endTime).toBe(270);
    for (const [i, cue] of read.cues.entries())
      if (i > 0) expect(cue.startTime).toBeGreaterThanOrEqual(read.cues[i - 1]!.endTime - 1e-9);
  });

  it.each([
    { width: 1280, height: 720 },
    { width: 1080, height: 1920 },
  ])('a picture of it keeps to its band (%o)', (size) => {
    const band = overlayBand(size);
    expect(band.y + band.height).toBeLessThan(size.height);
    const svg = overlaySvg(overlayAt(video, 200), band, USUAL_VOICE);
    expect(svg).toContain('>60</text>');
    for (const [, x, width] of svg.matchAll(/<rect x="([\d.-]+)" y="[\d.-]+" width="([\d.]+)"/g))
      expect(Number(x) + Number(width)).toBeLessThanOrEqual(band.width + 0.1);
    expect(overlaySvg(null, band, USUAL_VOICE)).not.toContain('<rect');
  });
});
