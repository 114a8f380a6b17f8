import { shadeAt, usualPlace } from './bodyMap';

describe('shading between spots', () => {
  const two = [
    { x: 0.5, y: 0.2, c: 42 },
    { x: 0.5, y: 0.8, c: 36 },
  ];
  it('is the reading at a spot, and between two readings in the middle', () => {
    expect(shadeAt(two, 0.5, 0.2)).toBe(42);
    expect(shadeAt(two, 0.5, 0.5)).toBeCloseTo(39, 9);
  });
  it('makes nothing up beyond the spots, nor from one alone', () => {
    expect(shadeAt(two, 0.9, 0.5)).toBeNull();
    expect(shadeAt(two, 0.5, 0.95)).toBeNull();
    expect(shadeAt(two.slice(1), 0.5, 0.8)).toBeNull();
  });
  it('fills the triangle of three', () => {
    const three = [...two, { x: 0.1, y: 0.5, c: 38 }];
    expect(shadeAt(three, 0.3, 0.5)).toBeGreaterThan(36);
    expect(shadeAt(three, 0.3, 0.9)).toBeNull();
  });
});

describe('usual places', () => {
  it.each([
    ['back by the camera', 'back', 0.2],
    ['front middle', 'front', 0.5],
    ['left grip', 'front', 0.5],
    ['port', 'back', 0.82],
  ])('%s', (spot, side, y) => expect(usualPlace(spot)).toMatchObject({ side, y }));
});
