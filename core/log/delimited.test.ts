import fc from 'fast-check';
import { ColumnScanner, splitLine } from './delimited';

/** Scans text in pieces of a given size; fields as text, null where the row has no such column. */
function scan(
  text: string,
  column: number,
  { delimiter = ',', firstLine = 1, piece = Infinity } = {},
): [line: number, field: string | null][] {
  const found: [number, string | null][] = [];
  const scanner = new ColumnScanner(delimiter.charCodeAt(0), column, firstLine, (bytes, from, to, line) => {
    found.push([line, from < 0 ? null : new TextDecoder().decode(bytes.subarray(from, to))]);
  });
  const bytes = new TextEncoder().encode(text);
  for (let at = 0; at < bytes.length; at += piece)
    scanner.push(bytes.subarray(at, Math.min(at + piece, bytes.length)));
  scanner.end();
  return found;
}

describe('ColumnScanner', () => {
  it('hands over one column with its lines', () => {
    expect(scan('a,b\n1,2\n3,4\n', 1, { firstLine: 2 })).toEqual([
      [2, '2'],
      [3, '4'],
    ]);
  });

  it('takes CRLF, a last line without a break, and passes over blank lines', () => {
    expect(scan('1,2\r\n\r\n  \r\n3,4', 1)).toEqual([
      [1, '2'],
      [4, '4'],
    ]);
  });

  it('says when a row has no such column', () => {
    expect(scan('1,2\n3\n,\n', 1)).toEqual([
      [1, '2'],
      [2, null],
      [3, ''],
    ]);
  });

  it('reads quoted fields with delimiters, doubled quotes and line breaks', () => {
    expect(scan('"a,b",1\n"say ""hi""\nagain",2\nc,"3"\n', 1)).toEqual([
      [1, '1'],
      [2, '2'],
      [4, '3'],
    ]);
  });

  it('gives up on a quote that is never closed, and loses only that line', () => {
    const rows = scan(`1,1\n"open,2\n${'3,3\n'.repeat(3000)}`, 1);
    expect(rows.slice(0, 3)).toEqual([
      [1, '1'],
      [2, null],
      [3, '3'],
    ]);
    expect(rows).toHaveLength(3002);
  });

  it('reads the same however the bytes are cut', () => {
    const text = 'x;y\r\n"a;1";2\r\n\r\n3;"4 ""µ"" 5"\n6;7';
    const whole = scan(text, 1, { delimiter: ';' });
    expect(whole).toHaveLength(4);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), (piece) =>
        expect(scan(text, 1, { delimiter: ';', piece })).toEqual(whole),
      ),
    );
  });
});

describe('splitLine', () => {
  it('trims fields and keeps quoted delimiters', () =>
    expect(splitLine(' a , "b,c" ,d', ',')).toEqual(['a', '"b', 'c"', 'd']));
  it('splits at tabs', () => expect(splitLine('a\t"b\tc"', '\t')).toEqual(['a', 'b\tc']));
});
