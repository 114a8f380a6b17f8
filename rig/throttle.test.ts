import { fitSwitched, tWidth } from '@pace-check/core';
import { Heat, type Body } from './heat';
import { Random } from './random';
import { HANDSETS } from './scenario';

/**
 * A handset that plays at full power, and from minute twenty on at half of it:
 * its skin is read once a minute to a fifth of a degree. Where it would settle
 * at either power follows from its heat alone. The fit knows one time constant:
 * it is right for a chip that warms the skin at once, and the stand-in's own
 * chip, which lags by half a minute, shows how far it is off where that fails.
 */
const { body } = HANDSETS.velm5;
const AT_ONCE = { ...body, dieJoulesPerK: 0.5 };
const ROOM_C = 18;
const REST_W = 1;
const THROTTLES_S = 1200;
const SECONDS = 3600;
const settles = (dieW: number): number => ROOM_C + (dieW + REST_W) * body.skinToRoom;

interface Met {
  within: boolean;
  missC: number;
}

function fitted(own: Body, seed: number, dieW: [number, number]): Met {
  const random = new Random(seed);
  const heat = new Heat(own, ROOM_C, ROOM_C);
  const [t, y]: [number[], number[]] = [[], []];
  for (let second = 0; second <= SECONDS; second++) {
    if (second % 60 === 0) {
      t.push(second);
      y.push(heat.skinC + 0.2 * random.normal());
    }
    heat.step(second < THROTTLES_S ? dieW[0] : dieW[1], REST_W, 1);
  }
  const fit = fitSwitched(t, y, { at: [THROTTLES_S] }, null)!;
  const width = tWidth(fit.degreesOfFreedom);
  const misses = fit.levels.map((level, k) => Math.abs(level.settles - settles(dieW[k]!)));
  return {
    within: misses.every((miss, k) => miss <= width * fit.levels[k]!.se),
    missC: Math.max(...misses),
  };
}

const seeds = (own: Body): Met[] => Array.from({ length: 100 }, (_, i) => fitted(own, i + 1, [5.5, 2.75]));

describe('a throttling run', () => {
  it('gives both levels back within their intervals, in at least 90 of 100 seeds (it is 92)', () =>
    expect(seeds(AT_ONCE).filter((met) => met.within).length).toBeGreaterThanOrEqual(90));
  it('is off by a degree and a half at most where the chip lags behind', () =>
    expect(Math.max(...seeds(body).map((met) => met.missC))).toBeLessThan(1.5));
});
