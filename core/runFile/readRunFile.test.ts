import { checkRunLine } from '@pace-check/contract';
import { RunFileReader, type RunFile } from './readRunFile';

const read = (...lines: (string | object)[]): RunFile => {
  const reader = new RunFileReader(checkRunLine);
  const text = lines.map((line) => (typeof line === 'string' ? line : JSON.stringify(line))).join('\n');
  // in pieces, as a stream brings it
  const bytes = new TextEncoder().encode(text);
  for (let at = 0; at < bytes.length; at += 7) reader.push(bytes.subarray(at, at + 7));
  return reader.finish();
};
const run = { type: 'run', version: 1, device: 'Velm 5' };
const batch = (atMs: number, count: number, us = 10_000): object => ({
  type: 'frames',
  atMs,
  us: Array<number>(count).fill(us),
});

describe('batches of frames', () => {
  it('continue within 5 ms and 1 µs a frame', () => {
    expect(read(run, batch(0, 100), batch(1005.1, 10)).track.gaps).toEqual([]);
    expect(read(run, batch(0, 100), batch(1005.101, 10)).track.gaps).toEqual([
      { beforeFrame: 100, lengthUs: 5101 },
    ]);
    expect(read(run, batch(0, 100), batch(994.9, 10)).track.gaps).toEqual([]);
  });
  it('leave a gap before the first of them', () =>
    expect(read(run, batch(2000, 1)).track.gaps).toEqual([{ beforeFrame: 0, lengthUs: 2_000_000 }]));
  it('are held against the batch before, not against a clock that drifts', () =>
    expect(read(run, batch(0, 100), batch(1004, 100), batch(2008, 100)).track.gaps).toEqual([]));
  it('are refused where they overlap, with the line', () =>
    expect(() => read(run, batch(0, 100), batch(900, 10))).toThrow(
      expect.objectContaining({
        code: 'overlap',
        line: 3,
        message: expect.stringContaining('start at 900 ms, but the frames before end at 1000 ms'),
      }),
    ));
  it('drop frame times that cannot be, up to one in a hundred', () => {
    const file = read(run, {
      type: 'frames',
      atMs: 0,
      us: [...Array<number>(299).fill(10_000), 0, null, -5],
    });
    expect(file.track.frameUs).toHaveLength(299);
    expect(file.tally).toMatchObject({ total: 302, unreadable: 3 });
    expect(() => read(run, { type: 'frames', atMs: 0, us: [10_000, 700_000_000] })).toThrow(
      expect.objectContaining({ code: 'too-many-unreadable', line: 2 }),
    );
  });
});

describe('lines', () => {
  it('of unknown type, span kind or condition are passed over and counted', () => {
    const file = read(
      { ...run, conditions: ['boosted', 'haunted'] },
      { type: 'humidity', atMs: 0 },
      { type: 'span', fromMs: 0, toMs: 5, kind: 'nap' },
      { type: 'span', fromMs: 0, toMs: 5, kind: 'menu' },
    );
    expect(file).toMatchObject({
      passedOver: 3,
      header: { conditions: ['boosted'] },
      entries: [{ kind: 'menu' }],
    });
  });
  it('that are cut off at the end are dropped, and that is said', () => {
    expect(read(run, batch(0, 3), '{"type":"skin","atMs":48')).toMatchObject({ cutOff: true, entries: [] });
    expect(read(run, batch(0, 3))).toMatchObject({ cutOff: false });
  });
  it.each([
    ['that is no JSON', '{"type":"skin", oops}', /Line 2 is not a JSON object/],
    ['that is no object', '[1]', /Line 2 is not a JSON object/],
    ['without its type', '{"atMs":1}', /Line 2: the field "type" is missing/],
    [
      'without a field',
      '{"type":"skin","atMs":1,"c":30,"by":"infrared"}',
      /Line 2: the field "spot" of a "skin" line/,
    ],
    [
      'with a wrong value',
      '{"type":"battery","atMs":1,"percent":140}',
      /Line 2: the field "percent" of a "battery" line/,
    ],
    ['with another version', '{"type":"run","version":2}', /Line 2: the field "version" of a "run" line/],
  ])('%s in the middle are refused with their number', (_, line, message) => {
    expect(() => read(batch(0, 1), line, batch(10, 1))).toThrow(message);
  });
  it('that start a second run are refused', () =>
    expect(() => read(run, run)).toThrow(/Line 2: second "run" line/));
  it('at the end that are no object are refused too', () =>
    expect(() => read(run, 'so long')).toThrow(/Line 2 is not a JSON object/));
  it('may be none but a header: a run without frames is valid', () =>
    expect(read(run).track.frameUs).toHaveLength(0));
  it('of unknown type alone are no run', () =>
    expect(() => read({ type: 'mystery' })).toThrow(expect.objectContaining({ code: 'not-a-log' })));
});
