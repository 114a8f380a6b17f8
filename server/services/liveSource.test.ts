import type { FramesLine, RunLine } from '@pace-check/core';
import { framesText } from '../frames/batchCodec';
import type { BatchRow, SourceRow } from '../sql/recordings';
import { checkLines, excludedSpans, LiveSource, shifted, timeOf } from './liveSource';

const frames = (atMs: number, count: number, us = 20_000): FramesLine => ({
  type: 'frames',
  atMs,
  us: Array<number>(count).fill(us),
});
const row = (next = 0): SourceRow => ({
  id: 's',
  runId: 'r',
  name: 'logger',
  kind: 'other',
  standIn: false,
  offsetMs: null,
  next,
  frames: 0,
  lines: 0,
  refused: 0,
  refusals: [],
  ended: null,
  anchor: null,
  heardMs: null,
  revoked: false,
  keyEnded: null,
  fence: 0,
});
const stored = (seq: number, lines: FramesLine[]): BatchRow => ({
  seq,
  through: seq,
  frames: Buffer.from(framesText(lines)),
  deflated: false,
  digests: null,
});
const figures = (source: LiveSource): { frames: number; seconds: number } | null => {
  const pace = source.pace();
  return pace && { frames: pace.figures.frames, seconds: pace.figures.seconds };
};

describe('a batch, line by line', () => {
  const reasons = (text: string): (string | null)[] => checkLines(text).map(({ reason }) => reason);
  it('says of each line what it is, by its number; blank lines count', () => {
    const lines = checkLines('{"type":"power","atMs":1,"mw":5}\n\n{"type":"power","atMs":1}');
    expect(lines.map(({ number }) => number)).toEqual([1, 3]);
    expect(lines[1]!.reason).toContain('"mw"');
  });
  it('neither takes nor refuses what is unknown', () =>
    expect(checkLines('{"type":"humidity"}\n{"type":"span","fromMs":0,"toMs":5,"kind":"nap"}')).toEqual([
      { number: 1, line: null, reason: null },
      { number: 2, line: null, reason: null },
    ]));
  it('refuses frames most of which cannot be, and takes those with a few that cannot', () => {
    expect(reasons('{"type":"frames","atMs":0,"us":[0,-1,16000]}')[0]).toMatch(
      /most frame times are impossible/,
    );
    expect(reasons('{"type":"frames","atMs":0,"us":[16000,null,16000]}')).toEqual([null]);
  });
  it('refuses what is no object, and goes on', () =>
    expect(reasons('[1]\nhello\n{"type":"battery","atMs":1,"percent":50}')).toEqual([
      expect.any(String),
      'it is not a JSON object',
      null,
    ]));
});

describe('times', () => {
  it.each<[RunLine, number | null, object]>([
    [{ type: 'power', atMs: 100, mw: 1 }, 100, { atMs: 150 }],
    [frames(100, 1), 100, { atMs: 150 }],
    [{ type: 'span', fromMs: 100, toMs: 200, kind: 'menu' }, 100, { fromMs: 150, toMs: 250 }],
    [{ type: 'run', version: 1 }, null, { type: 'run' }],
  ])('of %j', (line, time, moved) => {
    expect(timeOf(line)).toBe(time);
    expect(shifted(line, 50)).toMatchObject(moved);
    expect(shifted(line, 0)).toBe(line);
  });
  it('are the run’s however far from it the source’s own clock is, and are held to it then', () => {
    const since1970 = 1_795_000_000_000;
    const told = [since1970 + 5000, since1970 - 1, since1970 + 49 * 3_600_000]
      .map((atMs) => JSON.stringify({ type: 'power', atMs, mw: 1 }))
      .join('\n');
    expect(
      checkLines(told, -since1970).map(({ line, reason }) => reason ?? (line as { atMs: number }).atMs),
    ).toEqual([5000, 'it is before the start of the run', expect.stringContaining('48 h')]);
    expect(checkLines(told)[0]!.reason).toContain('not since 1970');
  });
  it('of a span do not lie before the start', () =>
    expect(shifted({ type: 'span', fromMs: 100, toMs: 200, kind: 'menu' }, -150)).toMatchObject({
      fromMs: 0,
      toMs: 50,
    }));
});

describe('a source while its run goes on', () => {
  it('counts a batch when its turn comes, and all that waited for it', () => {
    const source = new LiveSource(row(), [], []);
    source.take(2, [frames(4000, 100)], 100);
    source.take(1, [frames(2000, 100)], 100);
    expect([source.held, source.row.next, figures(source)]).toEqual([2, 0, null]);
    source.take(0, [frames(0, 100)], 100);
    expect([source.held, source.row.next, figures(source)]).toEqual([0, 3, { frames: 300, seconds: 6 }]);
  });
  it('refuses frames that overlap, at once or when their turn comes', () => {
    const source = new LiveSource(row(), [], []);
    expect(source.take(0, [frames(0, 100), frames(500, 100)], 100)).toEqual([
      { line: frames(500, 100), reason: expect.stringContaining('before the previous ones') },
    ]);
    source.take(2, [frames(1000, 10)], 100);
    expect(source.row.refused).toBe(0);
    source.take(1, [], 100);
    expect(source.row.refusals).toEqual([{ batch: 2, line: 0, reason: expect.any(String) }]);
    expect(figures(source)).toEqual({ frames: 100, seconds: 2 });
  });
  it('is the same after the server was started anew', () => {
    const all = [[frames(0, 100)], [frames(2000, 50), frames(9000, 50, 10_000)], [frames(9500, 100)]];
    const before = new LiveSource(row(), [], []);
    all.forEach((lines, seq) => before.take(seq, lines, 100));
    const after = new LiveSource(
      { ...row(3), frames: before.row.frames },
      all.map((lines, seq) => stored(seq, lines)),
      [],
    );
    expect(after.pace()).toEqual(before.pace());
  });
  it('still waits, after that, for the batch that was missing', () => {
    const source = new LiveSource(row(0), [stored(1, [frames(2000, 100)])], []);
    expect(source.held).toBe(1);
    source.take(0, [frames(0, 100)], 100);
    expect(source.row.next).toBe(2);
  });
  it('leaves out what a span takes out, also one that is told later', () => {
    const told = new LiveSource(row(), [], [{ fromUs: 1e6, toUs: 2e6 }]);
    const later = new LiveSource(row(), [], []);
    for (const source of [told, later])
      for (let seq = 0; seq < 3; seq++) source.take(seq, [frames(seq * 3000, 100)], 100);
    later.exclude([{ fromUs: 1e6, toUs: 2e6 }]);
    expect(later.pace()).toEqual(told.pace());
    expect(figures(told)).toEqual({ frames: 250, seconds: 8 });
  });
  it('keeps the last few refusals, and counts all', () => {
    const source = new LiveSource(row(), [], []);
    for (let batch = 0; batch < 20; batch++) source.refuse(batch, 1, 'no');
    expect([source.row.refused, source.row.refusals.length, source.row.refusals.at(-1)!.batch]).toEqual([
      20, 8, 19,
    ]);
  });
});

describe('spans', () => {
  it('take frames out while they go on; charging never does', () => {
    const span = (kind: string, open: boolean): { line: RunLine & { type: 'span' }; open: boolean } => ({
      line: { type: 'span', fromMs: 1, toMs: 2, kind },
      open,
    });
    expect(excludedSpans([span('menu', false), span('loading', true), span('charging', true)])).toEqual([
      { fromUs: 1000, toUs: 2000 },
      { fromUs: 1000, toUs: Infinity },
    ]);
  });
});
