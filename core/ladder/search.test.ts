import { SeededRandom } from '../numbers/random';
import { climb, type Probe } from './ladder';
import {
  probeSpeed,
  minutesToGo,
  sayNext,
  searchState,
  siblingPrior,
  type LadderProbe,
  type LadderSearch,
} from './search';

const probe = (rung: string, more: Partial<LadderProbe>): LadderProbe => ({
  id: `${rung} ${JSON.stringify(more)}`,
  rung,
  percent: null,
  fps: null,
  holds: null,
  firstPlay: false,
  watts: null,
  note: '',
  ...more,
});
const search = (probes: LadderProbe[], more: Partial<LadderSearch> = {}): LadderSearch => ({
  axis: 'internal resolution',
  rungs: ['1×', '2×', '3×', '4×'].map((name) => ({ name, pixels: null })),
  outputPixels: null,
  full: 60,
  prior: null,
  probes,
  ...more,
});
const say = (one: LadderSearch): string => sayNext(one, searchState(one)).replaceAll('\u00a0', ' ');

describe('what a probe shows', () => {
  it.each<[Partial<LadderProbe>, number | null, number | null]>([
    [{ percent: 98 }, 60, 0.98],
    [{ fps: 57 }, 60, 0.95],
    [{ fps: 57 }, null, null],
    [{ holds: true }, null, 1],
    [{ holds: false }, 60, 0.95],
  ])('%o of %s is %s', (more, full, speed) => expect(probeSpeed(probe('1×', more), full)).toEqual(speed));
});

describe('a search', () => {
  it('is the climb of its probes; a first play is none', () => {
    const probes = [probe('2×', { percent: 100 }), probe('3×', { percent: 80 })];
    const { posterior, best } = searchState(
      search([...probes, probe('4×', { percent: 20, firstPlay: true })]),
    );
    const climbed = climb(4, null, [
      { rung: 2, speed: 1 },
      { rung: 3, speed: 0.8 },
    ]);
    expect(posterior).toEqual(climbed.posterior);
    expect(best).toBe(2);
  });

  it('says what to do next, and at the end to confirm it', () => {
    expect(say(search([]))).toMatch(
      /^Test 2× next: it halves what is still open; probably [234] more tests\.$/,
    );
    const sure = search([
      probe('2×', { percent: 100 }),
      probe('3×', { percent: 80 }),
      probe('2×', { percent: 100 }),
    ]);
    expect(say(sure)).toMatch(/^2× is the highest that holds \(9\d % sure\)\. Confirm it/);
    expect(say({ ...sure, axis: 'power limit' })).toMatch(/^2× is the lowest limit that holds/);
    expect(minutesToGo(searchState(sure), 4, false)).toBe(15);
    expect(minutesToGo(searchState(sure), 4, true)).toBe(1);
  });

  it('sends to another backend where the easiest comes near', () => {
    const near = search([1, 2, 3, 4].map((i) => probe('1×', { fps: 57.5, note: String(i) })));
    expect(say(near)).toMatch(/is close: 57\.5 of 60\. Try another backend first\.$/);
    const far = search([1, 2].map((i) => probe('1×', { fps: 30, note: String(i) })));
    expect(say(far)).toMatch(/^Even the easiest setting, 1×, does not hold full speed \(\d+ % sure\)\.$/);
  });

  it('leaves out of the search what the screen cannot show', () => {
    const rungs = [
      { name: '1×', pixels: 300_000 },
      { name: '2×', pixels: 1_200_000 },
      { name: '3×', pixels: 2_700_000 },
      { name: '4×', pixels: 4_800_000 },
    ];
    const { wasted, posterior, next } = searchState(
      search([], { rungs, outputPixels: 2_000_000, prior: [1, 1, 1, 1, 1] }),
    );
    expect(wasted).toEqual([false, false, true, true]);
    expect(posterior.slice(3)).toEqual([0, 0]);
    // what was thought of the wasted ones counts as the last that can be seen
    expect(posterior[2]).toBeCloseTo(3 / 5, 12);
    expect(next).toBe(2);
  });

  it('refuses a probe of a rung that is not there', () =>
    expect(() => searchState(search([probe('9×', { percent: 100 })]))).toThrow(RangeError));

  it('expects fewer probes the more is known', () => {
    const left = [
      [],
      [probe('2×', { percent: 100 })],
      [probe('2×', { percent: 100 }), probe('4×', { percent: 60 })],
    ].map((probes) => searchState(search(probes)).left!);
    expect(left[0]).toBeGreaterThan(left[1]!);
    expect(left[1]).toBeGreaterThan(left[2]!);
  });
});

describe('simulated: 8 rungs, 1 % noise, a capped title, 2,000 searches', () => {
  /** Each rung asks for a quarter more, and the last that holds has some share of that to spare; a cap hides what is left. */
  const seen = (truth: number, spare: number, rung: number, random: SeededRandom): number =>
    Math.min(1, 0.99 * 1.25 ** (truth - rung + spare) * (1 + 0.01 * random.normal()));
  const SEARCHES = 2000;
  const run = (
    prior: ((truth: number, random: SeededRandom) => number[]) | null,
  ): { right: number; probes: number } => {
    const random = new SeededRandom(7);
    let [right, spent] = [0, 0];
    for (let i = 0; i < SEARCHES; i++) {
      const [truth, spare] = [random.below(9), random.uniform()];
      const before = prior?.(truth, random) ?? null;
      const probes: Probe[] = [];
      let state = climb(8, before, probes);
      while (state.next !== null && probes.length < 30) {
        probes.push({ rung: state.next, speed: seen(truth, spare, state.next, random) });
        state = climb(8, before, probes);
      }
      if (state.best === truth) right++;
      spent += probes.length;
    }
    return { right: right / SEARCHES, probes: spent / SEARCHES };
  };
  /** Upwards until one does not hold. */
  const sweep = (): { right: number; probes: number } => {
    const random = new SeededRandom(7);
    let [right, spent] = [0, 0];
    for (let i = 0; i < SEARCHES; i++) {
      const [truth, spare] = [random.below(9), random.uniform()];
      let rung = 1;
      for (; rung <= 8; rung++) {
        spent++;
        if (seen(truth, spare, rung, random) < 0.99) break;
      }
      if (rung - 1 === truth) right++;
    }
    return { right: right / SEARCHES, probes: spent / SEARCHES };
  };
  /** A sibling that ended one rung off at most. */
  const sibling = (truth: number, random: SeededRandom): number[] => {
    const near = Math.min(8, Math.max(0, truth + random.below(3) - 1));
    return siblingPrior(Array.from({ length: 9 }, (_, k) => (k === near ? 0.95 : 0.05 / 8)));
  };

  it('finds the right rung in 95 of 100, with fewer probes than the sweep; with a sibling with fewer still', () => {
    const [alone, up, helped] = [run(null), sweep(), run(sibling)];
    expect(alone.right).toBeGreaterThanOrEqual(0.95);
    expect(alone.probes).toBeLessThan(up.probes);
    expect(helped.right).toBeGreaterThanOrEqual(0.95);
    expect(helped.probes).toBeLessThan(alone.probes);
    // as docs/method.md has them
    expect([alone, up, helped].map(({ right, probes }) => [right.toFixed(3), probes.toFixed(2)])).toEqual([
      ['0.982', '3.44'],
      ['0.969', '4.77'],
      ['0.984', '2.13'],
    ]);
  });
});

it('a sibling’s posterior is smoothed', () => {
  const e = Math.exp(-1);
  expect(siblingPrior([0, 1, 0])).toEqual([e, 1, e].map((p) => p / (1 + 2 * e)));
});
