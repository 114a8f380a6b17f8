import { pathOf, scale } from './scale';

describe('scale', () => {
  it('puts values in their place, also upside down', () => {
    expect(scale([20, 40], [100, 0])(25)).toBe(75);
    expect(scale([0, 10], [4, 24])(5)).toBe(14);
  });
  it('of a span of nothing puts everything at its beginning', () =>
    expect(scale([3, 3], [0, 50])(3)).toBe(0));
});

describe('path', () => {
  it('goes through its points and breaks where there is none', () => {
    expect(pathOf([[0, 1], [2, 3.26], null, [4, 5], [6, 7]])).toBe('M0,1L2,3.3M4,5L6,7');
    expect(pathOf([])).toBe('');
  });
});
