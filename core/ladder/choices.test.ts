import { Archive } from '../compare/spread';
import { SeededRandom } from '../numbers/random';
import { choiceState, sayChoice, sayCost, type Choice, type ChoiceProbe } from './choices';

const NONE = new Archive();
let ids = 0;
const probe = (option: string, percent: number, more: Partial<ChoiceProbe> = {}): ChoiceProbe => ({
  id: String(ids++),
  option,
  percent,
  fps: null,
  glitches: null,
  peakC: null,
  firstPlay: false,
  ...more,
});
const choice = (probes: ChoiceProbe[], options = ['first', 'second'], full: number | null = 30): Choice => ({
  options,
  full,
  probes,
});
const state = (...args: Parameters<typeof choice>): ReturnType<typeof choiceState> =>
  choiceState(choice(...args), NONE);

describe('a choice between two backends', () => {
  // 4 % apart, neither at full speed, by hand: ln(0.979/0.942) = 0.0385. Without repeats s = 0.02 with 4 degrees of freedom, half
  // 2.776·0.02·√2 = 0.0785; two each without spread ν = 6, half 2.447·0.0163·1 = 0.0400; three each ν = 8, half
  // 2.306·0.0141·√(2/3) = 0.0266
  const seen = (n: number): ChoiceProbe[] =>
    Array.from({ length: n }, () => [probe('first', 94.2), probe('second', 97.9)]).flat();

  it('stays open until a third probe of each makes it clear', () => {
    for (const n of [1, 2]) {
      const open = state(seen(n));
      expect([open.best, open.take, open.unbeaten]).toEqual([null, null, ['first', 'second']]);
      expect(sayChoice(open)).toMatch(
        /^Not decided between first and second: neither is clearly faster\. Test first again/,
      );
    }
    const clear = state(seen(3));
    expect([clear.best, clear.take]).toEqual(['second', { option: 'second', by: 'speed' }]);
    expect(sayChoice(clear)).toBe('Choose second: it is clearly faster than every other option.');
    expect(sayCost(clear.options[0]!)).toBe('4\u00a0% slower (1 to 6\u00a0%)');
    expect(clear.next).toBeNull();
  });

  it('is settled by one probe each where one holds full speed and the other falls short', () => {
    // 58 of 60 and 60 of 60
    const one = state([probe('first', 96.7), probe('second', 100)]);
    expect([one.take, one.next]).toEqual([{ option: 'second', by: 'full speed' }, null]);
    expect(sayChoice(one)).toBe(
      'Choose second: it holds full speed in every test; no other option reaches it.',
    );
    // 98.5 is neither
    expect(state([probe('first', 98.5), probe('second', 100)]).take).toBeNull();
    // once it fell short it does not hold
    expect(state([probe('first', 96.7), probe('second', 100), probe('second', 97)]).take).toBeNull();
  });

  it('begins with what was not tried, and does not count a first play', () => {
    expect(state([]).next).toBe('first');
    expect(sayChoice(state([]))).toBe('No tests yet. Start with first.');
    const begun = state([probe('first', 97), probe('second', 60, { firstPlay: true })]);
    expect([begun.next, begun.take, begun.options[1]!.probes]).toEqual(['second', null, 0]);
    expect(sayChoice(begun)).toBe('Not decided: second not tested yet. Test second next.');
  });

  it('at full speed both is settled by glitches, then by warmth', () => {
    const full = (option: string, glitches: number | null, peakC: number | null): ChoiceProbe =>
      probe(option, 100, { glitches, peakC });
    expect(state([full('first', 3, 40), full('second', 0, 44)]).take).toEqual({
      option: 'second',
      by: 'glitches',
    });
    const warm = state([full('first', 1, 40), full('second', 1, 41.5)]);
    expect(warm.take).toEqual({ option: 'first', by: 'warmth' });
    expect(sayCost(warm.options[1]!)).toBe('equally fast, at full speed');
    // less than a degree is nothing, and what nobody noted settles nothing
    expect(state([full('first', 1, 40), full('second', 1, 40.5)]).take).toBeNull();
    expect(state([full('first', null, 40), full('second', 0, null)]).take).toBeNull();
  });

  it('is compared by rates where full speed is not known', () => {
    const fps = (option: string, rate: number): ChoiceProbe => probe(option, 0, { percent: null, fps: rate });
    const by = state([fps('first', 31), fps('second', 52)], undefined, null);
    expect([by.shares, by.best]).toEqual([false, 'second']);
    expect(by.options[1]!.speed).toBeCloseTo(52, 9);
    expect(state([fps('first', 15), fps('second', 30)]).options[0]!.speed).toBeCloseTo(0.5, 9);
  });
});

describe('a choice between several', () => {
  const three = ['a', 'b', 'c'];
  it('is only best if clear against every other one', () => {
    const seen = state([probe('a', 60), probe('b', 80), probe('c', 81)], three);
    expect([seen.best, seen.unbeaten, seen.take]).toEqual([null, ['b', 'c'], null]);
    expect(state([probe('a', 60), probe('b', 80), probe('c', 99)], three).best).toBe('c');
  });
  it('does not depend on the order of its options or probes', () => {
    const random = new SeededRandom(5);
    for (let round = 0; round < 40; round++) {
      const probes = Array.from({ length: 9 }, (_, i) =>
        probe(three[i % 3]!, 70 + 30 * random.uniform(), { glitches: Math.floor(3 * random.uniform()) }),
      );
      const forth = choiceState(choice(probes, three), NONE);
      const back = choiceState(choice([...probes].reverse(), [...three].reverse()), NONE);
      expect(back.best).toBe(forth.best);
      expect(back.take).toEqual(forth.take);
      expect([...back.unbeaten].reverse()).toEqual(forth.unbeaten);
    }
  });
  it('refuses an option twice, and a probe of one that is not there', () => {
    expect(() => state([], ['a', 'a'])).toThrow('the option “a” is listed twice');
    expect(() => state([probe('z', 100)])).toThrow('There is no option “z”');
  });
});

it('a library whose runs differ much keeps a choice open', () => {
  const probes = [0, 1, 2].flatMap(() => [probe('first', 94.2), probe('second', 97.9)]);
  const wild = new Archive([{ key: 'x', spread: { average: { n: 9, squares: 8 * 0.1 ** 2 } } }]);
  expect(choiceState(choice(probes), wild).best).toBeNull();
});

it('the wrong answer is rare: two that are alike are called clear in about one of twenty at most', () => {
  const random = new SeededRandom(11);
  let clear = 0;
  const rounds = 1000;
  for (let round = 0; round < rounds; round++) {
    const probes = [0, 1, 2].flatMap(() =>
      ['first', 'second'].map((one) => probe(one, 80 * Math.exp(0.02 * random.normal()))),
    );
    if (choiceState(choice(probes), NONE).best !== null) clear++;
  }
  expect(clear / rounds).toBeLessThan(0.07);
});
