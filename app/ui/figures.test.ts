import { bytes, count, fps, fpsColumn, ms, NONE, percent } from './figures';

describe('figures as they are said', () => {
  it('never say zero for nothing', () =>
    expect([fps(null), fpsColumn(null), percent(null), ms(null)]).toEqual(Array(4).fill(NONE)));
  it.each([
    [0.5, '50 %'],
    [0.9961, '99.6 %'],
    [1, '100 %'],
    [0, '0 %'],
    [0.974, '97 %'],
  ])('percent %d', (share, text) => expect(percent(share)).toBe(text));
  it.each([
    [12, '12 bytes'],
    [2048, '2 KB'],
    [20_971_520, '20.0 MB'],
  ])('bytes %d', (size, text) => expect(bytes(size)).toBe(text));
  it('count one and many', () =>
    expect([count(1, 'row'), count(1200, 'row'), count(2, 'battery', 'batteries')]).toEqual([
      '1 row',
      '1,200 rows',
      '2 batteries',
    ]));
});
