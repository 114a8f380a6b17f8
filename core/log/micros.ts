/** Units in which a log may hold times. */
export type TimeUnit = 's' | 'ms' | 'us' | 'ns';

/** Powers of ten from each unit to microseconds. */
const TO_MICROS: Record<TimeUnit, number> = { s: 6, ms: 3, us: 0, ns: -3 };

const SPACE = 32;
const TAB = 9;
const ZERO = 48;
/** Digits that a double holds whatever they are. */
const EXACT_DIGITS = 15;

/**
 * Reads a decimal number from bytes as whole microseconds, rounded half up from
 * its digits exactly: a nanosecond stamp of 19 digits loses nothing.
 *
 * @param bytes ASCII text; spaces and tabs around the number are passed over
 * @param from first byte of the field
 * @param to byte behind the field
 * @param unit unit of the number
 * @param decimalMark code of '.' or ','
 * @returns whole microseconds, or NaN when the field holds no number or more than a double can count
 * @source rounding half up (towards +∞ at a tie), as docs/method.md "Frames" asks
 * @example
 * parseMicros(new TextEncoder().encode('16.6675'), 0, 7, 'ms', 46); // 16668
 */
export function parseMicros(
  bytes: Uint8Array,
  from: number,
  to: number,
  unit: TimeUnit,
  decimalMark: number,
): number {
  while (from < to && (bytes[from] === SPACE || bytes[from] === TAB)) from++;
  while (to > from && (bytes[to - 1] === SPACE || bytes[to - 1] === TAB)) to--;
  const shift = TO_MICROS[unit];
  let i = from;
  let value = 0;
  let digit: number;
  while (i < to && (digit = bytes[i]! - ZERO) >= 0 && digit <= 9) {
    value = value * 10 + digit;
    i++;
  }
  const wholeDigits = i - from;
  // the plain cases in one pass; signs, exponents, long numbers and nanoseconds go the exact way round
  if (wholeDigits === 0 || shift < 0 || wholeDigits + shift > EXACT_DIGITS)
    return parseExactly(bytes, from, to, shift, decimalMark);
  if (i === to) return value * POWERS[shift]!;
  if (bytes[i] !== decimalMark) return parseExactly(bytes, from, to, shift, decimalMark);
  i++;
  let wanted = shift;
  while (wanted > 0 && i < to && (digit = bytes[i]! - ZERO) >= 0 && digit <= 9) {
    value = value * 10 + digit;
    wanted--;
    i++;
  }
  if (wanted > 0) value *= POWERS[wanted]!;
  else if (i < to && (digit = bytes[i]! - ZERO) >= 5 && digit <= 9) value++;
  while (i < to && (digit = bytes[i]! - ZERO) >= 0 && digit <= 9) i++;
  return i === to ? value : parseExactly(bytes, from, to, shift, decimalMark);
}

/** Characters; what is longer is no number that anybody logged. */
const LONGEST_NUMBER = 64;
const POWERS = [1, 10, 100, 1e3, 1e4, 1e5, 1e6];
const NUMBER = /^([+-]?)(\d*)(?:\.(\d*))?(?:[eE]([+-]?\d{1,3}))?$/;

function parseExactly(
  bytes: Uint8Array,
  from: number,
  to: number,
  shift: number,
  decimalMark: number,
): number {
  if (to - from > LONGEST_NUMBER) return NaN;
  let text = '';
  for (let i = from; i < to; i++) {
    const code = bytes[i]!;
    if (code === decimalMark) text += '.';
    else if (code === 46) return NaN;
    else text += String.fromCharCode(code);
  }
  const match = NUMBER.exec(text);
  if (!match) return NaN;
  const [, sign, whole = '', fraction = '', exponent = '0'] = match;
  if (whole === '' && fraction === '') return NaN;
  // value = digits × 10^(−places); microseconds drop what is behind the point
  const digits = whole + fraction;
  const places = fraction.length - Number(exponent) - shift;
  const magnitude = BigInt(digits);
  const rounded =
    places <= 0
      ? magnitude * 10n ** BigInt(-places)
      : roundHalfUp(sign === '-' ? -magnitude : magnitude, places);
  const signed = places <= 0 && sign === '-' ? -rounded : rounded;
  return signed > MAX_EXACT || signed < -MAX_EXACT ? NaN : Number(signed);
}

const MAX_EXACT = BigInt(Number.MAX_SAFE_INTEGER);

/** floor(value / 10^places + 1/2), exactly. */
function roundHalfUp(value: bigint, places: number): bigint {
  const unit = 10n ** BigInt(places);
  const doubled = 2n * value + unit;
  const quotient = doubled / (2n * unit);
  return doubled < 0n && doubled % (2n * unit) !== 0n ? quotient - 1n : quotient;
}
