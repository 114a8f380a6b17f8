import { anyAmount, measured, number } from './numbers';

describe('numbers that come in', () => {
  it.each([
    [5e-324, 0],
    [-5e-324, 0],
    [-0, 0],
    [1 / 3, 0.333333],
    [18.5, 18.5],
    [41.2, 41.2],
    [1e12, 1e12],
  ])('are rounded to a millionth: %s', (given, kept) => expect(number().parse(given)).toBe(kept));
  it('of lines keep three decimals more', () => expect(measured().parse(1 / 3)).toBe(0.333333333));
  it('above 0 are above 0 when they are rounded', () =>
    expect(number().positive('above 0').safeParse(1e-300).success).toBe(false));
  it('without limits of their own are a thousand million at most', () => {
    expect(anyAmount().safeParse(1.7e308).success).toBe(false);
    expect(anyAmount().parse(-8e8)).toBe(-8e8);
  });
  it('say what is needed where they are none', () =>
    expect(number('enter a number').safeParse('x').error!.issues[0]!.message).toBe('enter a number'));
});
