import { guessColumns } from './guess';
import { LogRefused } from './refused';
import { fileKind, sniffLayout } from './sniff';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const refusal = (work: () => unknown): LogRefused => {
  try {
    work();
  } catch (error) {
    if (error instanceof LogRefused) return error;
    throw error;
  }
  throw new Error('it was not refused');
};
/** Rows about a frame time of 1/60 s. */
const wave = (unit: number, places: number, mark = '.'): string[] =>
  Array.from({ length: 40 }, (_, i) => ((16.667 + Math.sin(i)) * unit).toFixed(places).replace('.', mark));

describe('fileKind', () => {
  it('tells a run file from delimited text', () => {
    expect(fileKind(bytes('\ufeff{"type":"run"}'))).toBe('run-file');
    expect(fileKind(bytes('# made by hand\n16.7'))).toBe('delimited');
  });

  it.each([
    ['a PNG image', [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a], 'not-text'],
    ['a JPEG image', [0xff, 0xd8, 0xff, 0xe0], 'not-text'],
    ['a ZIP archive', [0x50, 0x4b, 0x03, 0x04], 'not-text'],
    ['UTF-16', [0xff, 0xfe, 0x31, 0x00], 'not-text'],
    ['is not text', [0x31, 0x32, 0x00, 0x33], 'not-text'],
    ['empty', [], 'empty'],
    ['blank lines', [0x0a, 0x20, 0x0a], 'empty'],
  ])('refuses what is %s, with a remedy', (words, content, code) => {
    const refused = refusal(() => fileKind(Uint8Array.from(content)));
    expect(refused).toMatchObject({ code, message: expect.stringContaining(words) });
    expect(refused.remedy.length).toBeGreaterThan(10);
  });
});

describe('sniffLayout and guessColumns', () => {
  const look = (
    text: string,
  ): { layout: ReturnType<typeof sniffLayout>; guess: ReturnType<typeof guessColumns>[0] | undefined } => {
    const layout = sniffLayout(bytes(text), true);
    return { layout, guess: guessColumns(layout)[0] };
  };

  it('finds a heading behind comments, and milliseconds by name', () => {
    const { layout, guess } = look(
      `# device: Velm 5\n# nothing else\n\nindex,frame_time_ms,fps\n${wave(1, 3)
        .map((d, i) => `${i},${d},60`)
        .join('\n')}`,
    );
    expect(layout).toMatchObject({ delimiter: ',', decimalMark: '.', headingLine: 4, firstLine: 5 });
    expect(guess).toMatchObject({ column: 1, kind: 'frame-time', unit: 'ms' });
  });

  it('reads semicolons with decimal commas', () => {
    const { layout, guess } = look(
      `Zeit;Dauer Bild (ms)\n${wave(1, 3, ',')
        .map((d, i) => `${i};${d}`)
        .join('\r\n')}`,
    );
    expect(layout).toMatchObject({ delimiter: ';', decimalMark: ',', firstLine: 2 });
    expect(guess).toMatchObject({ column: 1, kind: 'frame-time', unit: 'ms' });
  });

  it('reads a single column of decimal commas below its heading', () => {
    const { layout, guess } = look(`frame time\n${wave(1, 2, ',').join('\n')}`);
    expect(layout).toMatchObject({ decimalMark: ',', headings: ['frame time'] });
    expect(guess).toMatchObject({ column: 0, unit: 'ms' });
  });

  it('takes the unit from the values where the heading has none', () => {
    expect(look(`took\n${wave(0.001, 7).join('\n')}`).guess).toMatchObject({ kind: 'frame-time', unit: 's' });
    expect(look(`took\n${wave(1000, 0).join('\n')}`).guess).toMatchObject({ kind: 'frame-time', unit: 'us' });
    expect(look(`took\n${wave(1e6, 0).join('\n')}`).guess).toMatchObject({ kind: 'frame-time', unit: 'ns' });
  });

  it('believes the values where the heading’s unit cannot be', () => {
    expect(look(`frame time (ms)\n${wave(1000, 0).join('\n')}`).guess).toMatchObject({
      unit: 'us',
      why: expect.stringContaining('but the values fit'),
    });
  });

  it('takes rising values for timestamps, but not a row number', () => {
    const stamps = Array.from(
      { length: 40 },
      (_, i) => `${i}\t${1_747_000_000_000_000_000n + BigInt(i) * 16_666_667n}`,
    );
    expect(look(`n\tshown (ns)\n${stamps.join('\n')}`).guess).toMatchObject({
      column: 1,
      kind: 'timestamp',
      unit: 'ns',
    });
  });

  it('believes a heading that says frame time, though the values rise; but not where it says timestamp', () => {
    const rising = Array.from({ length: 40 }, (_, i) => (16 + i / 40).toFixed(3)).join('\n');
    expect(look(`frame time (ms)\n${rising}`).guess).toMatchObject({ kind: 'frame-time', unit: 'ms' });
    expect(
      look(`frame timestamp (ms)\n${Array.from({ length: 40 }, (_, i) => i * 16.7).join('\n')}`).guess,
    ).toMatchObject({ kind: 'timestamp', unit: 'ms' });
  });

  it('reads rows without a heading', () => {
    const { layout, guess } = look(wave(1, 2).join('\n'));
    expect(layout).toMatchObject({ headingLine: null, firstLine: 1, headings: ['column 1'] });
    expect(guess).toMatchObject({ column: 0, kind: 'frame-time', unit: 'ms' });
  });

  it('takes no row that lacks its number for the heading', () => {
    const { layout } = look(
      `# logged on deck, no promises\nframe_time_ms\n\nstart\n${wave(1, 2).join('\n')}`,
    );
    expect(layout).toMatchObject({ headings: ['frame_time_ms'], headingLine: 2, firstLine: 3 });
  });

  it('offers no column where none can hold frames', () => {
    expect(look('fps,temperature\n60,35.2\n60,35.3\n59,35.4\n').guess).toBeUndefined();
  });

  it('refuses prose', () => {
    expect(refusal(() => sniffLayout(bytes('Dear diary,\nit was smooth, I think.\n'), true)).code).toBe(
      'not-a-log',
    );
  });

  it('keeps to what the person has decided', () => {
    expect(sniffLayout(bytes('1,5\n2,5\n'), true, { delimiter: ';', decimalMark: ',' })).toMatchObject({
      delimiter: ';',
      rows: [['1,5'], ['2,5']],
    });
  });
});
