import * as fc from 'fast-check';
import { fileKind } from '../log/sniff';
import { readRun, viewHead, type ReadRun } from '../log/readRun';
import type { RunLine } from '../runFile/lines';
import { isShellText } from './shellFile';

const bytes = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
const within = (value: unknown): RunLine => {
  const line = value as RunLine;
  if (line.type === 'skin' && (line.c < -60 || line.c > 120)) throw new Error('no skin');
  return line;
};
/** In pieces, as a file comes. */
async function read(text: string, piece = 7): Promise<ReadRun> {
  async function* pieces(): AsyncGenerator<Uint8Array> {
    for (let from = 0; from < text.length; from += piece) yield bytes(text.slice(from, from + piece));
  }
  return readRun(pieces(), { reading: null, checkLine: within, largest: 1e6 });
}

/** Rows of three columns, as the platform prints them, of frames shown at those times, ns. */
const rows = (shown: bigint[]): string =>
  shown.map((ns) => `${ns - 9_000_000n}\t${ns}\t${ns - 2_000_000n}`).join('\n');
const from = 84_215_000_000_000n;
const every = (count: number, ns: bigint, start = from): bigint[] =>
  Array.from({ length: count }, (_, i) => start + BigInt(i) * ns);

describe('what is a shell’s text', () => {
  it('is told by times, periods, timestamps and known values', () => {
    expect(isShellText('at 1795686223\nlevel: 87\nstatus: 3')).toBe(true);
    expect(isShellText(`16666666\n0\t0\t0\n${rows(every(3, 16_666_666n))}`)).toBe(true);
    expect(isShellText('skin-therm 38400\nback-therm 36000')).toBe(true);
    expect(fileKind(bytes('level: 87\nstatus: 3\n'))).toBe('shell-text');
    expect(viewHead(bytes('level: 87\nstatus: 3\n'), true)).toEqual({ kind: 'shell-text' });
  });
  it('is no delimited log, whatever stands before its rows', () => {
    expect(isShellText('frame_time_ms\n16.6\n16.7\n16.6')).toBe(false);
    expect(isShellText('16667\n16667\n16667')).toBe(false);
    expect(isShellText(every(5, 16_666_666n).join('\n'))).toBe(false);
    expect(isShellText(`wanted\tshown\tready\n${rows(every(5, 16_666_666n))}`)).toBe(false);
    expect(isShellText('level: 87\ndevice,frame\n1,16.6\n2,16.7\n3,16.6')).toBe(false);
    expect(isShellText('')).toBe(false);
  });
});

describe('a file of shell text', () => {
  it('becomes a run that begins with the first thing it tells', async () => {
    // two dumps a second apart: the second still holds the end of the first
    const all = every(181, 16_666_666n);
    const text = [
      'at 1795686221',
      'level: 87',
      'status: 3',
      '16666666',
      rows(all.slice(0, 121)),
      'at 1795686222',
      'level: 86',
      'status: 3',
      'skin-therm 38400',
      '16666666',
      rows(all.slice(60)),
      'something else',
    ].join('\n');
    const run = await read(text);
    expect(run.kind).toBe('shell-text');
    expect(run.track.frameUs.length).toBe(180);
    expect(run.track.gaps).toEqual([]);
    expect(run.passedOver).toBe(1);
    // 2 s of frames end when the first dump was printed
    const [first, second] = run.entries.filter((line) => line.type === 'battery');
    expect(first).toMatchObject({ percent: 87, charging: false });
    expect(first!.type === 'battery' && first!.atMs).toBeCloseTo(2000, 0);
    expect(second).toMatchObject({ percent: 86 });
    expect(second!.type === 'battery' && second!.atMs).toBeCloseTo(3000, 0);
    expect(run.entries).toContainEqual(
      expect.objectContaining({ type: 'skin', spot: 'skin-therm', c: 38.4, by: 'device sensor' }),
    );
    expect(run.header).toEqual({ type: 'run', version: 1, startedAt: '2026-11-26T09:43:39.000Z' });
  });
  it('without a time begins at 0 and does not say when', async () => {
    const run = await read(`16666666\n${rows(every(4, 16_666_666n))}\nlevel: 50`);
    expect(run.header).toBeNull();
    expect([...run.track.frameUs]).toEqual([16_667, 16_667, 16_666].map(() => expect.any(Number)));
    expect([...run.track.frameUs].reduce((sum, us) => sum + us, 0)).toBeCloseTo(50_000, -1);
    expect(run.entries.filter((line) => line.type === 'battery')).toEqual([
      { type: 'battery', atMs: expect.closeTo(50, 1), percent: 50, charging: false },
    ]);
  });
  it('leaves out what no skin can be', async () => {
    const run = await read('level: 87\nstatus: 3\nskin-therm 838400');
    expect(run.entries).toEqual([{ type: 'battery', atMs: 0, percent: 87, charging: false }]);
    expect(run.passedOver).toBe(1);
  });
  it('that tells nothing of a run is refused with the remedy', async () => {
    await expect(read('at 1795686223\nat 1795686224')).rejects.toMatchObject({
      code: 'not-a-log',
      message: 'No frames or readings found in the shell output.',
    });
  });
  it('has the same frames however it is cut into dumps that overlap', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.bigInt(4_000_000n, 60_000_000n), { minLength: 40, maxLength: 120 }),
        fc.integer({ min: 10, max: 30 }),
        async (times, step) => {
          const shown = times.reduce((all, ns) => [...all, all.at(-1)! + ns], [from]);
          const dumps: string[] = [];
          for (let end = step; end < shown.length + step; end += step)
            dumps.push(
              `at ${1_795_686_000 + end}\n16666666\n${rows(shown.slice(Math.max(0, end - step - 1), end))}`,
            );
          const whole = await read(`at 1795686000\n16666666\n${rows(shown)}`, 4096);
          const cut = await read(dumps.join('\n'), 4096);
          expect([...cut.track.frameUs]).toEqual([...whole.track.frameUs]);
          expect(whole.track.frameUs.length).toBe(times.length);
        },
      ),
      { numRuns: 25 },
    );
  });
});
