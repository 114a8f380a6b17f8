import { condensation, dewPoint } from './dew';

describe('dew point', () => {
  // Magnus, WMO's constants, from memory: 25 °C at 50 %: 13.9 °C
  it('is 13.9 °C in air of 25 °C at 50 %', () => expect(dewPoint(25, 50)).toBeCloseTo(13.9, 1));
  it('is the air’s own temperature where that is full of water', () =>
    expect(dewPoint(18.5, 100)).toBeCloseTo(18.5, 9));
  it('is where the vapour of the air saturates', () => {
    const vapour = (c: number): number => 6.112 * Math.exp((17.62 * c) / (243.12 + c));
    for (const [airC, humidity] of [
      [31, 60],
      [18, 35],
      [5, 90],
    ] as const)
      expect(vapour(dewPoint(airC, humidity)!)).toBeCloseTo((vapour(airC) * humidity) / 100, 9);
  });
  it.each([0, -5, 101, NaN])('is not told of a humidity of %d %%', (humidity) =>
    expect(dewPoint(20, humidity)).toBeNull(),
  );
});

// common practice: a cooler's plate runs down to about 7 °C in open air, where water condenses
it.each([
  [7, 25, 50, 'wet'],
  [15, 25, 50, 'near'],
  [20, 25, 50, 'dry'],
] as const)('a plate of %d °C in air of %d °C at %d %% is %s', (plate, room, humidity, state) =>
  expect(condensation(plate, room, humidity)?.state).toBe(state),
);
it('says nothing where the air is not known', () => {
  expect(condensation(7, null, 50)).toBeNull();
  expect(condensation(7, 25, null)).toBeNull();
});
