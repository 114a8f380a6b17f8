import fc from 'fast-check';
import { Thermal } from './thermal';
import { device, RULES, task } from './testDays';

const at = (overRoomC: number, percent: number): { atMin: number; overRoomC: number; percent: number } => ({
  atMin: 100,
  overRoomC,
  percent,
});
const cold = (chargeRiseC: number, chargePercentPerMin: number | null = 1): Thermal =>
  new Thermal(device('d', { coolTauMin: 10, warmTauMin: 8, chargeRiseC, chargePercentPerMin }), RULES);

describe('a pause', () => {
  it('lasts until the skin is at the start line: τ·ln(x/3), in whole minutes', () => {
    expect(cold(5).shortestPause(at(20, 100), task('t', 'd'))).toBe(Math.ceil(10 * Math.log(20 / 3)));
    expect(cold(5).shortestPause(at(3, 100), task('t', 'd'))).toBe(0);
  });
  it('charges what the run needs, above 80 % at half the rate', () => {
    // a charger that does not warm: 70 to 80 in ten minutes, 80 to 90 in twenty
    const hungry = task('t', 'd', { minutes: 50, percentPerMin: 1.5 });
    expect(cold(0).needs(hungry)).toBe(90);
    expect(cold(0).shortestPause(at(0, 70), hungry)).toBe(30);
    expect(cold(0).spend(at(0, 70), 30)).toEqual({
      chargeFromMin: 100,
      chargeToMin: 130,
      overRoomC: 0,
      percent: 90,
    });
  });
  it('has no end where nothing can bring the battery to what is needed', () => {
    expect(cold(5, null).shortestPause(at(0, 30), task('t', 'd'))).toBe(Infinity);
    expect(cold(5).shortestPause(at(0, 90), task('t', 'd', { minutes: 100, percentPerMin: 1 }))).toBe(
      Infinity,
    );
  });
  it('does not charge into the heat: where the charger alone crosses the line it stops in time', () => {
    const hot = new Thermal(device('d', { coolTauMin: 10, chargeRiseC: 8, chargePercentPerMin: 1 }), {
      ...RULES,
      chargeOverRoomC: 5,
    });
    const { chargeFromMin, chargeToMin } = hot.spend(at(0, 20), 200);
    expect(8 * (1 - Math.exp(-(chargeToMin - chargeFromMin) / 10))).toBeLessThanOrEqual(5);
    expect(8 * (1 - Math.exp(-(chargeToMin - chargeFromMin + 1) / 10))).toBeGreaterThan(5);
  });
  it('that is longer than the shortest is long enough too, and leaves at least as much charge', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.integer({ min: 0, max: 100 }),
        fc.integer({ min: 0, max: 9 }),
        fc.integer({ min: 0, max: 90 }),
        (x, percent, rise, more) => {
          const heat = cold(rise);
          const one = task('t', 'd');
          const shortest = heat.shortestPause(at(x, percent), one);
          const [exact, longer] = [
            heat.spend(at(x, percent), shortest),
            heat.spend(at(x, percent), shortest + more),
          ];
          expect(longer.overRoomC).toBeLessThanOrEqual(RULES.startOverRoomC + 1e-6);
          expect(exact.percent).toBeGreaterThanOrEqual(heat.needs(one) - 1e-6);
          expect(longer.percent).toBeGreaterThanOrEqual(exact.percent - 1e-9);
        },
      ),
    );
  });
});

describe('a run', () => {
  it('warms towards its rise and takes its share of the battery', () => {
    const after = cold(5).play(2, 90, task('t', 'd', { minutes: 8, riseC: 20, percentPerMin: 0.5 }), 100);
    expect(after).toEqual({ atMin: 108, overRoomC: expect.closeTo(20 - 18 / Math.E, 9), percent: 86 });
  });
  it('leaves at least the pause of one that began at room temperature', () => {
    const before = task('t', 'd', { minutes: 25, riseC: 20 });
    for (const x of [0, 1, 3])
      expect(
        cold(5).shortestPause({ ...cold(5).play(x, 100, before, 0) }, task('u', 'd', { percentPerMin: 0 })),
      ).toBeGreaterThanOrEqual(cold(5).leastPause(before));
  });
});
