import { figuresOf } from '../testing';
import { laneOf, onOneScale, type Lane } from './lane';

const lane = (fps: number, target: number | null = null): Lane =>
  laneOf(
    figuresOf({
      entries: [
        { type: 'rate', low: fps, high: fps, by: 'overlay' },
        { type: 'end', atMs: 1_200_000, reason: 'planned' },
      ],
    }),
    target,
  );
const heights = (runs: { title: string; lane: Lane }[]): (number | null)[] =>
  onOneScale(runs).map((run) => run.lane.cells[0]!.height);

describe('lanes that are drawn together', () => {
  it('share the highest rate of their title where nobody set a target', () => {
    expect(lane(36)).toMatchObject({ measures: 'highest', top: 36, cells: [{ height: 1 }] });
    expect(
      heights([
        { title: 'Hexgarden', lane: lane(36) },
        { title: 'Hexgarden', lane: lane(60) },
        { title: 'Aurelune', lane: lane(30) },
      ]),
    ).toEqual([expect.closeTo(0.6, 9), 1, 1]);
  });
  it('share the target of their title where one has it', () =>
    expect(
      heights([
        { title: 'Hexgarden', lane: lane(36) },
        { title: 'Hexgarden', lane: lane(45, 90) },
      ]),
    ).toEqual([expect.closeTo(0.4, 9), expect.closeTo(0.5, 9)]));
  it('stay as they are where a height is no share of a rate, or of figures of before', () => {
    const logged = laneOf(figuresOf({ frames: Array<number>(3600).fill(16_667) }), null);
    const { top: _, ...before } = lane(36);
    const runs = [
      { title: 'Hexgarden', lane: logged },
      { title: 'Hexgarden', lane: before as Lane },
      { title: 'Hexgarden', lane: lane(60) },
    ];
    expect(onOneScale(runs).slice(0, 2)).toEqual(runs.slice(0, 2));
  });
});
