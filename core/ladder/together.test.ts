import { SeededRandom } from '../numbers/random';
import { climb, type Probe } from './ladder';
import { siblingPrior } from './search';
import { borrowedPrior, nextOfMany, type OneOfMany } from './together';

describe('what the other titles say beforehand', () => {
  it('is the smoothed mean of what each shows; nothing where nothing was probed', () => {
    expect(borrowedPrior([])).toBeNull();
    expect(borrowedPrior([[0, 0, 1]])).toEqual(siblingPrior([0, 0, 1]));
    const both = borrowedPrior([
      [0, 0, 1],
      [0, 1, 0],
    ])!;
    expect(both.reduce((sum, p) => sum + p, 0)).toBeCloseTo(1, 12);
    expect(both[1]).toBeCloseTo(both[2]!, 12);
    expect(both[0]).toBeLessThan(both[1]!);
  });
});

describe('the title that is probed next', () => {
  const one = (id: string, more: Partial<OneOfMany> = {}): OneOfMany => ({
    id,
    next: 1,
    posterior: [0.5, 0.5],
    lastAt: null,
    ...more,
  });
  it.each<[string, OneOfMany[], string | null, string | null]>([
    ['the first of equals', [one('a'), one('b')], 'a', 'tells most'],
    ['the one of which less is known', [one('a', { posterior: [0.1, 0.9] }), one('b')], 'b', 'tells most'],
    ['the one that is loaded', [one('a'), one('b', { lastAt: 5 }), one('c', { lastAt: 3 })], 'b', 'loaded'],
    [
      'one that was begun, where the loaded one is told',
      [one('a'), one('b', { lastAt: 5, next: null }), one('c', { lastAt: 3 })],
      'c',
      'begun',
    ],
    ['none where all are told', [one('a', { next: null, lastAt: 1 })], null, null],
    ['none of none', [], null, null],
  ])('is %s', (_, searches, id, why) => {
    const next = nextOfMany(searches);
    expect(next?.one.id ?? null).toBe(id);
    expect(next?.why ?? null).toBe(why);
  });
});

/** Fourteen titles of one system, most of which hold about the same; a probe is wrong once in fifty. */
function evening(seed: number, borrows: boolean): { probes: number; right: number } {
  const RUNGS = 8;
  const random = new SeededRandom(seed);
  const centre = 2 + Math.floor(random.uniform() * 4);
  const truths = Array.from({ length: 14 }, () =>
    Math.min(RUNGS, Math.max(0, Math.round(centre + 1.2 * (random.uniform() + random.uniform() - 1) * 2))),
  );
  const done: Probe[][] = [];
  let [probes, right] = [0, 0];
  for (const truth of truths) {
    const prior = borrows ? borrowedPrior(done.map((own) => climb(RUNGS, null, own).posterior)) : null;
    const own: Probe[] = [];
    let state = climb(RUNGS, prior, own);
    while (state.next !== null && own.length < 40) {
      const holds = state.next <= truth !== random.uniform() < 0.02;
      own.push({ rung: state.next, speed: holds ? 1 : 0.9 });
      state = climb(RUNGS, prior, own);
    }
    done.push(own);
    probes += own.length;
    if (state.best === truth) right++;
  }
  return { probes, right };
}

it('an evening over fourteen titles takes fewer probes than fourteen ladders, and is as often right', () => {
  const total = (borrows: boolean): { probes: number; right: number } =>
    Array.from({ length: 100 }, (_, seed) => evening(seed + 1, borrows)).reduce((sum, one) => ({
      probes: sum.probes + one.probes,
      right: sum.right + one.right,
    }));
  const [alone, together] = [total(false), total(true)];
  console.info(
    `100 evenings of 14 titles: alone ${alone.probes / 100} probes, ${alone.right / 14} % right; together ${together.probes / 100}, ${together.right / 14} % right`,
  );
  expect(together.probes).toBeLessThan(0.9 * alone.probes);
  expect(together.right).toBeGreaterThan(0.97 * alone.right);
});
