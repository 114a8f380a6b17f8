import { checkRunLine } from '@pace-check/contract';
import fc from 'fast-check';
import { analyse, LISTED_BREAKS } from './figures/analyse';
import { withinLongest } from './frames/track';
import {
  LONGEST_LINE_BYTES,
  LONGEST_ROW_BYTES,
  LONGEST_RUN_MS,
  LONGEST_RUN_US,
  MOST_FRAMES,
  MOST_LINES,
  MOST_SHELL_BYTES,
  MOST_SPOTS,
} from './limits';
import { LogReader } from './log/readLog';
import { LogRefused } from './log/refused';
import { readRun } from './log/readRun';
import { chargesAt, chargesBetween } from './figures/plausible';
import { FrameBatches } from './runFile/batches';
import { factsOf, runInput } from './runFile/runInput';
import type { EntryLine } from './runFile/lines';
import { figuresOf } from './testing';
import { greatest, thin } from './numbers/thin';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
async function* pieces(parts: Iterable<string>): AsyncGenerator<Uint8Array> {
  for (const part of parts) yield bytes(part);
}
const readText = (...parts: string[]): ReturnType<typeof readRun> =>
  readRun(pieces(parts), { reading: null, checkLine: checkRunLine, largest: 1e9 });
function* times(count: number, part: string): Generator<string> {
  for (let i = 0; i < count; i++) yield part;
}
const logOf = (
  text: string,
  kind: 'frame-time' | 'timestamp',
  unit: 'ms' | 's' | 'us',
): ReturnType<LogReader['finish']> => {
  const reader = new LogReader({ delimiter: ',', decimalMark: '.', firstLine: 1 }, { column: 0, kind, unit });
  reader.push(bytes(text));
  return reader.finish();
};
const refusal = (code: string, message: RegExp, remedy: RegExp, line?: number): unknown =>
  expect.objectContaining({
    code,
    message: expect.stringMatching(message),
    remedy: expect.stringMatching(remedy),
    ...(line === undefined ? {} : { line }),
  });

describe('a run is at most 48 hours long', () => {
  it('refuses stamps that jump from 0 to those since 1970, with a hint at the clock', () => {
    const rows = [
      ...Array.from({ length: 60 }, (_, i) => i * 16),
      ...Array.from({ length: 60 }, (_, i) => 1_795_000_000_000 + i * 16),
    ];
    expect(() => logOf(rows.join('\n'), 'timestamp', 'ms')).toThrow(
      refusal(
        'too-long',
        /57 years/,
        /choose another column or unit. If the unit is right, the device clock was changed/,
        61,
      ) as Error,
    );
  });
  it('refuses µs that are read as ms, with a hint at the unit', () => {
    expect(() => logOf('16667\n'.repeat(100_000), 'frame-time', 'ms')).toThrow(
      refusal('too-long', /48 hours/, /microseconds/) as Error,
    );
    expect(() =>
      logOf(Array.from({ length: 1000 }, (_, i) => i * 16_667).join('\n'), 'timestamp', 's'),
    ).toThrow(refusal('too-long', /48 hours/, /read as seconds: choose microseconds if/) as Error);
  });
  it('refuses frames a year apart in a run file', async () => {
    await expect(
      readText(
        '{"type":"frames","atMs":0,"us":[16667]}\n',
        '{"type":"frames","atMs":31536000000,"us":[16667]}\n',
      ),
    ).rejects.toEqual(refusal('bad-line', /Line 2:.*48 h.*not since 1970/, /Correct/, 2));
    const batches = new FrameBatches();
    expect(() => batches.add({ type: 'frames', atMs: LONGEST_RUN_MS - 1, us: [16_667] }, 9)).toThrow(
      refusal('too-long', /Line 9.*48 h/, /units/, 9) as Error,
    );
    expect(batches.track().frameUs).toHaveLength(0);
  });
  it('takes one of just 48 hours', () => {
    expect(logOf('600\n'.repeat(288), 'frame-time', 's').track.frameUs).toHaveLength(288);
    expect(() => logOf(`${'600\n'.repeat(288)}0.01\n`, 'frame-time', 's')).toThrow(LogRefused);
  });
  it('leaves out of a stored one what lies beyond', () => {
    const frameUs = Int32Array.of(10, 10, 10);
    expect(withinLongest({ frameUs, gaps: [] }).frameUs).toBe(frameUs);
    expect(
      withinLongest({
        frameUs,
        gaps: [
          { beforeFrame: 1, lengthUs: 5 },
          { beforeFrame: 2, lengthUs: LONGEST_RUN_US },
        ],
      }),
    ).toEqual({ frameUs: Int32Array.of(10, 10), gaps: [{ beforeFrame: 1, lengthUs: 5 }] });
  });
});

describe('a file holds no more than a run may', () => {
  it('refuses a row without an end as soon as it is too long', async () => {
    let told = 0;
    const endless = function* (): Generator<string> {
      yield 'frame_time_ms\n';
      for (const part of times(40, '1'.repeat(LONGEST_ROW_BYTES))) {
        told++;
        yield part;
      }
    };
    await expect(
      readRun(pieces(endless()), { reading: null, checkLine: checkRunLine, largest: 1e9 }),
    ).rejects.toEqual(expect.objectContaining({ code: 'not-a-log' }));
    const reader = new LogReader(
      { delimiter: ',', decimalMark: '.', firstLine: 2 },
      { column: 0, kind: 'frame-time', unit: 'ms' },
    );
    reader.push(bytes('frame_time_ms\n16\n'));
    expect(() => {
      for (const part of times(40, '1'.repeat(LONGEST_ROW_BYTES / 4))) {
        reader.push(bytes(part));
        told++;
      }
    }).toThrow(refusal('long-line', /Line 3 is longer than 1 MB/, /line breaks/, 3) as Error);
    expect(told).toBeLessThan(45);
  });
  it('refuses a line of a run file that is too long', async () => {
    await expect(
      readText('{"type":"run","version":1}\n', ...times(5, `"${'x'.repeat(LONGEST_LINE_BYTES / 4)}`)),
    ).rejects.toEqual(refusal('long-line', /Line 2 is longer than 16 MB/, /a few hundred frames/, 2));
  });
  it('refuses more lines beside the frames than a run has', async () => {
    const line = '{"type":"mark","atMs":5,"kind":"note"}\n';
    await expect(readText(line.repeat(MOST_LINES + 1))).rejects.toEqual(
      refusal('too-many', /Line 200001: .*200,000 lines/, /less often|split/, MOST_LINES + 1),
    );
  });
  it('refuses more bytes of them', async () => {
    const line = `{"type":"mark","atMs":5,"kind":"note","note":"${'w'.repeat(3900)}"}\n`;
    await expect(readText(line.repeat(9000))).rejects.toEqual(refusal('too-many', /32 MB/, /split/));
  });
  it('refuses more spots than a device has', async () => {
    const lines = Array.from(
      { length: MOST_SPOTS + 1 },
      (_, i) => `{"type":"skin","atMs":${i},"spot":"spot ${i}","c":30,"by":"infrared"}\n`,
    );
    await expect(readText(lines.join(''))).rejects.toEqual(
      refusal('too-many', /Line 101: “spot 100” is spot number 101/, /same name/, 101),
    );
  });
  it('refuses a shell’s text without an end', async () => {
    await expect(readText(...times(17, 'level: 87\n'.repeat(105_000)))).rejects.toEqual(
      refusal('too-many', new RegExp(`${MOST_SHELL_BYTES / 1024 / 1024} MB`), /parts/),
    );
  });
  it('refuses more frames than a run has, of each kind of file', () => {
    const rows = '0.001\n'.repeat(MOST_FRAMES + 1);
    expect(() => logOf(rows, 'frame-time', 'ms')).toThrow(
      refusal('too-many', /4,000,000 frames/, /parts/, MOST_FRAMES + 1) as Error,
    );
    const batches = new FrameBatches();
    const us = Array<number>(1_000_000).fill(1);
    for (let i = 0; i < 4; i++) batches.add({ type: 'frames', atMs: i * 1000, us }, i + 1);
    expect(() => batches.add({ type: 'frames', atMs: 4000, us: [1] }, 5)).toThrow(
      refusal('too-many', /Line 5: .*4,000,000 frames/, /parts/) as Error,
    );
  });
  it('shows characters that no text holds as dots where it lists a row', () => {
    const log = logOf(`${'16\n'.repeat(200)}a\u0000b\u0007c\n`, 'frame-time', 'ms');
    expect(log.tally.listed).toEqual([
      { line: 201, reason: 'column 1 contains “a·b·c”, which is not a number' },
    ]);
  });
});

describe('figures stay as small as what is shown', () => {
  it('of a run that breaks ten thousand times: the longest are listed, all are counted', () => {
    const frames = Array.from({ length: 10_000 }, (_, i) => [
      ...Array<number>(9).fill(16_000),
      i === 5000 ? 2_000_000 : 60_000 + (i % 100),
    ]).flat();
    const figures = figuresOf({ frames });
    expect(figures.evenness).toMatchObject({ stutters: 9999, freezes: 1 });
    expect(figures.breaks).toHaveLength(LISTED_BREAKS);
    expect(figures.breaks.some((found) => found.kind === 'freeze')).toBe(true);
    expect(figures.breaks.map((found) => found.atUs)).toEqual(
      figures.breaks.map((found) => found.atUs).toSorted((a, b) => a - b),
    );
    expect(figures.splits.reduce((sum, split) => sum + split.stutters + split.freezes, 0)).toBe(10_000);
  });
  it('of a run with tens of thousands of readings', () => {
    const entries: EntryLine[] = [];
    for (let i = 0; i < 12_000; i++) {
      const atMs = i * 14_000;
      entries.push(
        { type: 'skin', atMs, spot: 'back', c: 30 + (i % 7) / 10, by: 'infrared' },
        { type: 'battery', atMs, percent: 100 - Math.floor(i / 150), charging: i % 1200 === 0 },
        { type: 'power', atMs, mw: 4000 + (i % 9) },
        { type: 'span', fromMs: atMs, toMs: atMs + 10, kind: 'charging' },
      );
    }
    const { figures } = analyse(
      runInput(
        { frameUs: new Int32Array(0), gaps: [] },
        { dropped: 0, cutOff: false, entries },
        factsOf(null),
      ),
    );
    expect(figures.warmth.spots[0]).toMatchObject({ peakC: 30.6 });
    expect(figures.warmth.spots[0]!.readings.length).toBeLessThanOrEqual(2000);
    expect(figures.battery.length).toBeLessThanOrEqual(2000);
    // charging four times a minute leaves nothing to go by
    expect(figures.drain).toBeNull();
  });
  it('of a run with a gap in every second', () => {
    const gaps = Array.from({ length: 5000 }, (_, i) => ({ beforeFrame: i + 1, lengthUs: 1_500_000 }));
    const figures = figuresOf({ frames: Array<number>(6000).fill(16_000), gaps });
    expect(figures.coverage.length).toBeLessThanOrEqual(401);
    expect(figures.caveats).toContain('gap');
  });
  it('keeps first, last and extremes of what is thinned', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ noNaN: true }), { minLength: 1, maxLength: 300 }),
        fc.integer({ min: 4, max: 40 }),
        (values, most) => {
          const left = thin(values, most, (value) => value);
          expect(left.length).toBeLessThanOrEqual(most);
          expect([left[0], left.at(-1), greatest(left), -greatest(left.map((value) => -value))]).toEqual([
            values[0],
            values.at(-1),
            greatest(values),
            -greatest(values.map((value) => -value)),
          ]);
        },
      ),
    );
  });
});

describe('charging spans', () => {
  const span = fc
    .tuple(fc.integer({ min: 0, max: 50 }), fc.integer({ min: 0, max: 20 }))
    .map(([from, length]) => ({ fromUs: from * 1000, toUs: (from + length) * 1000 }));
  it('are found by halving as by looking at each', () => {
    fc.assert(
      fc.property(
        fc.array(span, { maxLength: 8 }),
        fc.integer({ min: 0, max: 80 }),
        fc.integer({ min: 0, max: 20 }),
        (spans, fromMs, lengthMs) => {
          const toMs = fromMs + lengthMs;
          expect(chargesAt(spans, fromMs)).toBe(
            spans.some(({ fromUs, toUs }) => fromMs * 1000 >= fromUs && fromMs * 1000 < toUs),
          );
          expect(chargesBetween(spans, fromMs, toMs)).toBe(
            spans.some(({ fromUs, toUs }) => fromUs < toMs * 1000 && toUs > fromMs * 1000),
          );
        },
      ),
    );
  });
});
