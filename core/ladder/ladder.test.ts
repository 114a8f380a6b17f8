import * as fc from 'fast-check';
import { SeededRandom } from '../numbers/random';
import { climb, type Probe } from './ladder';

const doubt = (speed: number): number =>
  Math.min(0.5, Math.max(0.02, 0.5 * Math.exp(-Math.abs(speed - 0.99) / 0.005)));
const probes = (rungs: number) =>
  fc.array(
    fc.record({
      rung: fc.integer({ min: 1, max: rungs }),
      speed: fc.double({ min: 0, max: 1.05, noNaN: true }),
    }),
    { maxLength: 8 },
  );

describe('the posterior', () => {
  it('equals direct enumeration: prior times the likelihood of every probe', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.01, max: 1, noNaN: true }), { minLength: 2, maxLength: 9 }),
        probes(1),
        fc.infiniteStream(fc.integer({ min: 0, max: 1000 })),
        (prior, some, numbers) => {
          const rungs = prior.length - 1;
          const all = some.map((probe) => ({ ...probe, rung: 1 + (numbers.next().value! % rungs) }));
          const weights = prior.map((p, k) =>
            all.reduce((product, { rung, speed }) => {
              const right = speed >= 0.99 - 1e-9 === rung <= k;
              return product * (right ? 1 - doubt(speed) : doubt(speed));
            }, p),
          );
          const total = weights.reduce((sum, w) => sum + w, 0);
          climb(rungs, prior, all).posterior.forEach((p, k) => expect(p).toBeCloseTo(weights[k]! / total, 9));
        },
      ),
    ));

  it('by hand: three rungs, the second at half speed', () => {
    // ε 0.02: none and the first 0.98, the second and third 0.02
    const { posterior, best, sure, stop } = climb(3, null, [{ rung: 2, speed: 0.5 }]);
    [0.49, 0.49, 0.01, 0.01].forEach((p, k) => expect(posterior[k]).toBeCloseTo(p, 12));
    expect([best, stop]).toEqual([0, false]);
    expect(sure).toBeCloseTo(0.49, 12);
  });

  it('learns nothing on the line itself, and goes by what frames show', () => {
    expect(climb(2, null, [{ rung: 1, speed: 0.99 }]).posterior[0]).toBeCloseTo(1 / 3, 12);
    const by = (holds: boolean) => climb(1, null, [{ rung: 1, speed: 1.2, holds }]).best;
    expect([by(true), by(false)]).toEqual([1, 0]);
  });
});

it('takes weights of any size', () => {
  expect(climb(2, [1e308, 1e308, 1e308], []).posterior[0]).toBeCloseTo(1 / 3, 12);
  expect(climb(2, [1e-320, 0, 0], []).posterior).toEqual([1, 0, 0]);
});

describe('the search', () => {
  it('halves what is left, the lower rung on a tie', () => {
    expect(climb(7, null, []).next).toBe(4);
    expect(climb(2, null, []).next).toBe(1);
  });
  it('ends when one is sure, and never by a prior alone', () => {
    const sure = climb(2, [0.01, 0.98, 0.01], []);
    expect([sure.stop, sure.next !== null]).toEqual([false, true]);
    expect(climb(2, [0.01, 0.98, 0.01], [{ rung: 1, speed: 1 }])).toMatchObject({
      stop: true,
      next: null,
      best: 1,
    });
  });

  it('next leaves the least expected entropy, by brute force', () =>
    fc.assert(
      fc.property(probes(5), (all: Probe[]) => {
        const { posterior, next } = climb(5, null, all);
        if (next === null) return;
        const h = (p: number[]): number => {
          const total = p.reduce((sum, x) => sum + x, 0);
          return p.reduce((sum, x) => (x > 0 ? sum - (x / total) * Math.log2(x / total) : sum), 0);
        };
        const expected = [1, 2, 3, 4, 5].map((rung) => {
          const yes = posterior.map((p, k) => p * (rung <= k ? 0.9 : 0.1));
          const no = posterior.map((p, k) => p * (rung <= k ? 0.1 : 0.9));
          const sum = (p: number[]): number => p.reduce((total, x) => total + x, 0);
          return sum(yes) * h(yes) + sum(no) * h(no);
        });
        expect(expected[next - 1]! - Math.min(...expected)).toBeLessThan(1e-8);
      }),
    ));

  // simulated: 8 rungs, 1 % noise, a capped title
  it('finds the rung in four or five probes, nine times of ten', () => {
    const random = new SeededRandom(3);
    let [right, spent] = [0, 0];
    const searches = 400;
    for (let i = 0; i < searches; i++) {
      const truth = random.below(9);
      const all: Probe[] = [];
      for (
        let state = climb(8, null, all);
        state.next !== null && all.length < 30;
        state = climb(8, null, all)
      ) {
        const rung = state.next;
        // each rung asks a quarter more; a cap hides what is left
        const capacity = 1.25 ** (truth - rung + 0.5) * (1 + 0.01 * random.normal());
        all.push({ rung, speed: Math.min(1, capacity) });
      }
      if (climb(8, null, all).best === truth) right++;
      spent += all.length;
    }
    expect(right / searches).toBeGreaterThan(0.9);
    expect(spent / searches).toBeGreaterThan(3);
    expect(spent / searches).toBeLessThan(5);
  });
});

it.each<[number, number[] | null, Probe[]]>([
  [2, [1, 1], []],
  [2, [1, -1, 1], []],
  [2, [0, 0, 0], []],
  [2, null, [{ rung: 3, speed: 1 }]],
  [2, null, [{ rung: 1, speed: -0.1 }]],
])('refuses %i rungs with %j and %j', (rungs, prior, all) =>
  expect(() => climb(rungs, prior, all)).toThrow(RangeError),
);
