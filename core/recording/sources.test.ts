import type { EntryLine, FramesLine } from '../runFile/lines';
import { joinSources, type SourceLines } from './sources';

const batch = (atMs: number, count: number, us: number): FramesLine => ({
  type: 'frames',
  atMs,
  us: Array<number>(count).fill(us),
});
const source = (
  name: string,
  frames: FramesLine[],
  lines: EntryLine[] = [],
  byHand = false,
): SourceLines => ({ source: name, frames, entries: lines.map((line) => ({ line })), byHand });

describe('frames of several sources', () => {
  it('are the main source’s, and another’s where it has a gap', () => {
    // ten seconds, a gap of five, ten seconds; the other runs through at half the rate
    const main = source('main', [batch(0, 500, 20_000), batch(15_000, 500, 20_000)]);
    const other = source('other', [batch(2000, 325, 40_000)]);
    const { track, used } = joinSources([other, main], null);
    expect(used).toEqual([
      { measure: 'frames', source: 'main', fromMs: 0, toMs: 10_000 },
      { measure: 'frames', source: 'other', fromMs: 10_000, toMs: 15_000 },
      { measure: 'frames', source: 'main', fromMs: 15_000, toMs: 25_000 },
    ]);
    expect(track.frameUs).toHaveLength(500 + 125 + 500);
    expect(track.gaps).toEqual([
      { beforeFrame: 500, lengthUs: 0 },
      { beforeFrame: 625, lengthUs: 0 },
    ]);
  });
  it('follow one another: what the first did not see, the second tells', () => {
    const { track, used } = joinSources(
      [source('a', [batch(0, 1000, 20_000)]), source('b', [batch(18_000, 400, 25_000)])],
      null,
    );
    expect(used.map(({ source: name, fromMs, toMs }) => [name, fromMs, toMs])).toEqual([
      ['a', 0, 20_000],
      ['b', 20_000, 28_000],
    ]);
    expect(track.frameUs).toHaveLength(1000 + 320);
  });
  it('are left out from the end on, and where they overlap themselves', () => {
    expect(joinSources([source('a', [batch(0, 1000, 20_000)])], 10_010).track.frameUs).toHaveLength(501);
    expect(
      joinSources(
        [source('a', [batch(0, 100, 20_000), batch(500, 100, 20_000), batch(2000, 100, 20_000)])],
        null,
      ).track,
    ).toMatchObject({ gaps: [], frameUs: expect.objectContaining({ length: 200 }) });
  });
  it('are those of the file where there is one source', () => {
    const { track } = joinSources(
      [source('a', [batch(100, 50, 20_000), batch(1100, 50, 20_000), batch(3000, 5, 20_000)])],
      null,
    );
    expect(track.gaps).toEqual([
      { beforeFrame: 0, lengthUs: 100_000 },
      { beforeFrame: 100, lengthUs: 900_000 },
    ]);
  });
  it('may be none', () =>
    expect(joinSources([source('hand', [], [], true)], null).track.frameUs).toHaveLength(0));
});

describe('readings of several sources', () => {
  const percent = (atMs: number, value: number): EntryLine => ({ type: 'battery', atMs, percent: value });
  it('of the same kind come from the source with most, and another’s where it is silent', () => {
    const logger = source(
      'logger',
      [],
      [0, 60_000, 120_000].map((at) => percent(at, 90)),
    );
    const hand = source('hand', [], [percent(61_000, 89), percent(400_000, 85)], true);
    const { entries, unused, used } = joinSources([logger, hand], null);
    expect(entries.map(({ line }) => (line.type === 'battery' ? line.percent : null))).toEqual([
      90, 90, 90, 85,
    ]);
    expect(unused.map(({ line }) => line)).toEqual([percent(61_000, 89)]);
    expect(used).toEqual([
      { measure: 'battery', source: 'logger', fromMs: 0, toMs: 120_000 },
      { measure: 'battery', source: 'hand', fromMs: 400_000, toMs: 400_000 },
    ]);
  });
  it('of the skin are all kept: they name their instrument', () => {
    const skin = (by: string): EntryLine => ({ type: 'skin', atMs: 1000, spot: 'back', c: 30, by });
    expect(
      joinSources([source('a', [], [skin('infrared')]), source('b', [], [skin('battery sensor')])], null),
    ).toMatchObject({ entries: [{}, {}], unused: [] });
  });
  it('end as a person says, else as the last source does', () => {
    const end = (atMs: number, reason: 'planned' | 'crash'): EntryLine => ({ type: 'end', atMs, reason });
    expect(
      joinSources(
        [source('hand', [], [end(5000, 'planned')], true), source('a', [], [end(4000, 'crash')])],
        5000,
      ).entries,
    ).toEqual([{ line: end(5000, 'planned') }]);
    expect(joinSources([source('a', [], [end(4000, 'crash')])], null).entries).toEqual([
      { line: end(4000, 'crash') },
    ]);
  });
});
