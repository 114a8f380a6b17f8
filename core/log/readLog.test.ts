import { LogReader } from './readLog';
import { LogRefused } from './refused';
import type { ColumnChoice } from './guess';

const read = (
  text: string,
  choice: Partial<ColumnChoice> = {},
  layout: Partial<ConstructorParameters<typeof LogReader>[0]> = {},
): ReturnType<LogReader['finish']> => {
  const reader = new LogReader(
    { delimiter: ',', decimalMark: '.', firstLine: 1, ...layout },
    { column: 0, kind: 'frame-time', unit: 'ms', ...choice },
  );
  reader.push(new TextEncoder().encode(text));
  return reader.finish();
};
const many = (count: number, row = '20'): string => `${row}\n`.repeat(count);
const frames = (log: ReturnType<typeof read>): number[] => Array.from(log.track.frameUs);

describe('frame times', () => {
  it('keeps what can be read and lists the rest with line and reason', () => {
    const log = read(`${many(500)}0\n-3\nabc\n\n3600000\n${many(500)}`);
    expect(log.track.frameUs).toHaveLength(1000);
    expect(log.tally).toMatchObject({ total: 1004, unreadable: 4 });
    expect(log.tally.listed).toEqual([
      { line: 501, reason: 'the frame time 0 is zero' },
      { line: 502, reason: 'the frame time -3 is negative' },
      { line: 503, reason: 'column 1 contains “abc”, which is not a number' },
      { line: 505, reason: 'the frame time 3600000 is longer than 600 s' },
    ]);
  });

  it('counts what rounds to zero microseconds as zero', () =>
    expect(read(`0.0004\n${many(200)}`).tally.unreadable).toBe(1));
  it('takes 600 s and no more', () => {
    expect(frames(read('600\n', { unit: 's' }))).toEqual([600_000_000]);
    expect(() => read('600.0000005\n', { unit: 's' })).toThrow(LogRefused);
  });

  it('refuses more than one row in a hundred', () => {
    expect(read(`x\n${many(99)}`).tally.unreadable).toBe(1);
    expect(() => read(`x\n${many(98)}`)).toThrow(
      expect.objectContaining({
        code: 'too-many-unreadable',
        line: 1,
        message: expect.stringContaining('1 of 99 rows'),
        remedy: expect.stringContaining('milliseconds'),
      }),
    );
  });

  it('refuses a file without a frame', () =>
    expect(() => read('\n', {}, { firstLine: 1 })).toThrow(expect.objectContaining({ code: 'no-frames' })));
  it('passes over a byte order mark', () => expect(frames(read('\ufeff16.7\n'))).toEqual([16_700]));
  it('names a decimal mark that does not fit', () =>
    expect(() => read('16,7\n16,8\n', {}, { delimiter: ';' })).toThrow(
      /column 1 contains “16,7”, which is not a number/,
    ));
});

describe('timestamps', () => {
  const stamps = (...values: (number | string)[]): ReturnType<typeof read> =>
    read(`${values.join('\n')}\n`, { kind: 'timestamp', unit: 'us' });
  const long = Array.from({ length: 300 }, (_, i) => i * 100);

  it('rounds stamps first, then takes differences', () => {
    // 0.4, 1.6 and 3.4 µs become 0, 2 and 3: the second difference is 1, not the 2 that 1.8 would round to
    expect(frames(read('0.0000004\n0.0000016\n0.0000034\n', { kind: 'timestamp', unit: 's' }))).toEqual([
      2, 1,
    ]);
  });

  it('parts the time of unreadable stamps among the frames between', () => {
    const log = stamps(...long, 'x', 'y', 30_200);
    expect(frames(log).slice(299)).toEqual([100, 100, 100]);
    expect(frames(stamps(...long, 'x', 'y', 30_000)).slice(299)).toEqual([33, 33, 34]);
  });

  it('takes a stamp that runs backwards or repeats as unreadable', () => {
    const log = stamps(...long, 29_900, 29_850, 30_000);
    expect(frames(log).slice(299)).toEqual([33, 33, 34]);
    expect(log.tally.listed).toEqual([
      { line: 301, reason: 'the timestamp 29900 is not later than the previous one' },
      { line: 302, reason: 'the timestamp 29850 is not later than the previous one' },
    ]);
  });

  it('never makes a frame of no time', () =>
    expect(frames(stamps(...long, 29_900, 29_900, 29_901)).slice(299)).toEqual([1]));
  it('drops unreadable stamps before the first and after the last', () =>
    expect(frames(stamps('x', ...long, 'y'))).toHaveLength(299));

  it('leaves a gap where readable stamps lie more than 600 s apart', () => {
    const log = stamps(...long, 29_900 + 600_000_001, 29_900 + 600_000_101);
    expect(log.track.gaps).toEqual([{ beforeFrame: 299, lengthUs: 600_000_001 }]);
    expect(frames(log).at(-1)).toBe(100);
    expect(frames(stamps(...long, 29_900 + 600_000_000)).at(-1)).toBe(600_000_000);
  });
});
