import { checkRunLine } from '@pace-check/contract';
import { readRun, viewHead, type ReadRunOptions } from './readRun';
import { LogRefused } from './refused';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
/** A stream in pieces of a given size. */
async function* pieces(text: string, size = 1000): AsyncGenerator<Uint8Array> {
  const all = bytes(text);
  for (let at = 0; at < all.length; at += size) yield all.subarray(at, at + size);
}
const read = (
  text: string,
  options: Partial<ReadRunOptions> = {},
  size?: number,
): ReturnType<typeof readRun> =>
  readRun(pieces(text, size), { reading: null, checkLine: checkRunLine, largest: 1e9, ...options });

describe('readRun', () => {
  it('tells the two kinds of file apart by their first bytes', async () => {
    expect(await read('frame_time_ms\n16.7\n16.6\n')).toMatchObject({
      kind: 'delimited',
      header: null,
      entries: [],
    });
    expect(
      await read('{"type":"run","version":1,"device":"Velm 5"}\n{"type":"frames","atMs":0,"us":[16700]}\n'),
    ).toMatchObject({ kind: 'run-file', header: { device: 'Velm 5' } });
  });

  it('reads the same however the stream is cut, a head of many pieces too', async () => {
    const text = `# a comment\nindex;frame time (ms)\n${Array.from({ length: 9000 }, (_, i) => `${i};${(16 + (i % 50) / 10).toFixed(2).replace('.', ',')}`).join('\r\n')}\r\n`;
    const whole = await read(text, {}, 1e9);
    expect(whole.track.frameUs).toHaveLength(9000);
    for (const size of [7, 4096, 70_000])
      expect((await read(text, {}, size)).track.frameUs).toEqual(whole.track.frameUs);
  });

  it('goes by a decision, by a rule for the layout, or by its best guess', async () => {
    const text = `cpu frame time (ms),frame time (ms)\n${'8,16\n'.repeat(200)}`;
    const layout = { delimiter: ',', decimalMark: '.', firstLine: 2 } as const;
    const first = async (reading: ReadRunOptions['reading']): Promise<number> =>
      (await read(text, { reading })).track.frameUs[0]!;
    expect(await first({ layout, choice: { column: 1, kind: 'frame-time', unit: 'ms' } })).toBe(16_000);
    expect(
      await first(({ headings }) => ({ column: headings.length - 1, kind: 'frame-time', unit: 'us' })),
    ).toBe(16);
    expect(await first(null)).toBe(8000);
  });

  it('tells how far it has come, and stops where a file is too large', async () => {
    const steps: number[] = [];
    await read('16.7\n'.repeat(500), { onBytes: (count) => steps.push(count) });
    expect(steps).toEqual([1000, 2000, 2500]);
    await expect(read('16.7\n'.repeat(500), { largest: 2000 })).rejects.toMatchObject({ code: 'too-large' });
  });

  it('passes a rule’s refusal on', async () => {
    const refuse = (): never => {
      throw new LogRefused('no-usable-column', 'not this one', 'try another');
    };
    await expect(read('16.7\n16.6\n', { reading: refuse })).rejects.toMatchObject({
      code: 'no-usable-column',
    });
  });
});

describe('viewHead', () => {
  it('gives layout and guesses, or says that it is a run file', () => {
    expect(viewHead(bytes('{"type":"run","version":1}'), true)).toEqual({ kind: 'run-file' });
    expect(viewHead(bytes('frame_time_ms\n16.7\n16.6\n17\n'), true)).toMatchObject({
      kind: 'delimited',
      layout: { headings: ['frame_time_ms'] },
      guesses: [{ column: 0, unit: 'ms' }],
    });
  });
  it('does not count a last line that may be cut', () => {
    const view = viewHead(bytes('frame_time_ms\n16.7\n16.6\n1'), false);
    expect(view.kind === 'delimited' && view.layout.rows).toEqual([['16.7'], ['16.6']]);
  });
});
