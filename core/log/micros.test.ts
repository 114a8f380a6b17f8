import fc from 'fast-check';
import { parseMicros, type TimeUnit } from './micros';

const POINT = 46;
const COMMA = 44;
const parse = (text: string, unit: TimeUnit, mark = POINT): number => {
  const bytes = new TextEncoder().encode(`;${text};`);
  return parseMicros(bytes, 1, bytes.length - 1, unit, mark);
};

describe('parseMicros', () => {
  it.each<[string, TimeUnit, number]>([
    ['16.667', 'ms', 16_667],
    ['16.6675', 'ms', 16_668],
    ['16.6674999999999999999999', 'ms', 16_667],
    ['16.66749999999999999999995', 'ms', 16_667],
    ['0.0005', 'ms', 1],
    ['0.00049', 'ms', 0],
    ['25', 'ms', 25_000],
    ['0.0166675', 's', 16_668],
    ['.5', 's', 500_000],
    ['5.', 's', 5_000_000],
    ['16667', 'us', 16_667],
    ['16667.5', 'us', 16_668],
    ['16667499', 'ns', 16_667],
    ['16667500', 'ns', 16_668],
    ['499', 'ns', 0],
    ['500', 'ns', 1],
    ['1.6667e1', 'ms', 16_667],
    ['1667E-2', 'ms', 16_670],
    ['+16.7', 'ms', 16_700],
    [' 16.7\t', 'ms', 16_700],
    ['-16.7', 'ms', -16_700],
    // half up: towards +∞ at a tie
    ['-0.0005', 'ms', 0],
    ['-0.0015', 'ms', -1],
    ['-0.00151', 'ms', -2],
    // 19 digits, more than a double holds
    ['1747123456789012499', 'ns', 1_747_123_456_789_012],
    ['1747123456789012500', 'ns', 1_747_123_456_789_013],
  ])('reads %s in %s as %d µs', (text, unit, micros) => {
    expect(parse(text, unit)).toBe(micros);
  });

  it.each([
    '',
    ' ',
    '.',
    '-',
    'abc',
    '16.6.7',
    '16,7',
    '1e',
    '0x10',
    'NaN',
    'Infinity',
    '16 7',
    '12ms',
    '9'.repeat(80),
  ])('finds no number in “%s”', (text) => {
    expect(parse(text, 'ms')).toBeNaN();
  });

  it('takes a decimal comma, and then no point', () => {
    expect(parse('16,667', 'ms', COMMA)).toBe(16_667);
    expect(parse('16.667', 'ms', COMMA)).toBeNaN();
  });

  it('rounds any decimal as exact arithmetic does', () => {
    const units: Record<TimeUnit, bigint> = { s: 1_000_000n, ms: 1000n, us: 1n, ns: 1n };
    fc.assert(
      fc.property(
        fc.constantFrom<TimeUnit>('s', 'ms', 'us', 'ns'),
        fc.bigInt(0n, 10n ** 12n),
        fc.integer({ min: 0, max: 9 }),
        (unit, digits, places) => {
          const text = digits.toString().padStart(places + 1, '0');
          const decimal = places === 0 ? text : `${text.slice(0, -places)}.${text.slice(-places)}`;
          const divisor = 10n ** BigInt(places) * (unit === 'ns' ? 1000n : 1n);
          const exact = (2n * digits * units[unit] + divisor) / (2n * divisor);
          fc.pre(exact <= BigInt(Number.MAX_SAFE_INTEGER));
          expect(parse(decimal, unit)).toBe(Number(exact));
        },
      ),
    );
  });
});
