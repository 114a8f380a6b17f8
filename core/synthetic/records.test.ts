import { questionScore, stressLoop, type SyntheticScore } from './records';

const score = (device: string, best: number, more: Partial<SyntheticScore> = {}): SyntheticScore => ({
  device,
  kind: 'phone',
  tool: 'Plumb Line',
  version: '3',
  scores: [best],
  ...more,
});

it('a stress loop is told by its first, its last and what is left', () => {
  expect(stressLoop([5000, 4100, 3900, 4000])).toEqual({ first: 5000, last: 4000, lowest: 3900, ratio: 0.8 });
  expect(stressLoop([5000])).toBeNull();
  expect(stressLoop([])).toBeNull();
});

describe('a score is questioned', () => {
  const others = [score('B', 3000), score('C', 2500)];
  it('where no device of its class came near it', () =>
    expect(questionScore(score('A', 6000), others)).toEqual({ best: 'B', times: 2 }));
  it('not where one came near, nor where fewer than two were seen', () => {
    expect(questionScore(score('A', 5999), others)).toBeNull();
    expect(questionScore(score('A', 60_000), [score('B', 3000), score('B', 2900)])).toBeNull();
  });
  it('among its own class, tool and version alone', () => {
    expect(
      questionScore(score('A', 6000), [score('B', 3000), score('C', 9000, { kind: 'pocket-pc' })]),
    ).toBeNull();
    expect(questionScore(score('A', 6000), [score('B', 3000), score('C', 100, { version: '2' })])).toBeNull();
  });
});
