import {
  analyse,
  factsOf,
  FrameBatches,
  runInput,
  type EntryLine,
  type Figures,
  type RunLine,
} from '@pace-check/core';
import { checkRunLine } from '@pace-check/contract';
import { SCENARIOS, simulate, type Scenario, type ScenarioName } from './index';
import { Heat } from './heat';
import { Governor, LEVELS } from './governor';

const lines = new Map<string, RunLine[]>();
const figures = new Map<string, Figures>();
function figuresOf(name: ScenarioName): Figures {
  const scenario: Scenario = SCENARIOS[name];
  if (!lines.has(name)) lines.set(name, [...simulate(scenario, 7)]);
  const batches = new FrameBatches();
  const entries: EntryLine[] = [];
  lines.get(name)!.forEach((line, i) => {
    if (line.type === 'frames') batches.add(line, i + 1);
    else if (line.type !== 'run') entries.push(line);
  });
  if (!figures.has(name))
    figures.set(
      name,
      analyse(
        runInput(
          batches.track(),
          { dropped: 0, cutOff: false, entries },
          {
            ...factsOf(null),
            target: scenario.target,
            roomC: scenario.roomC,
            batteryWh: scenario.handset.batteryWh,
            refreshHz: scenario.handset.refreshHz,
            splitMinutes: 5,
          },
        ),
      ).figures,
    );
  return figures.get(name)!;
}
const averages = (name: ScenarioName): number[] => figuresOf(name).splits.map((split) => split.average!);
const peakC = (name: ScenarioName): number => figuresOf(name).warmth.peakC!;

describe('the stand-in handset', () => {
  it('says the same for the same seed, and something else for another', () => {
    const short: Scenario = { ...SCENARIOS.fades, seconds: 20 };
    expect([...simulate(short, 3)]).toEqual([...simulate(short, 3)]);
    expect([...simulate(short, 3)]).not.toEqual([...simulate(short, 4)]);
  });

  it('writes valid lines whose batches follow one another', () => {
    figuresOf('fades');
    for (const line of lines.get('fades')!)
      expect(checkRunLine(JSON.parse(JSON.stringify(line)))).not.toBeNull();
    expect(lines.get('fades')!.at(0)).toMatchObject({ type: 'run', device: 'Velm 5', title: 'Aurelune' });
    expect(lines.get('fades')!.at(-1)).toMatchObject({ type: 'end', reason: 'planned' });
  });

  // common practice: what reviewers see of heavy and light titles
  it('holds a light title at its cap', () => {
    for (const average of averages('holds')) expect(average).toBeCloseTo(60, 0);
    expect(figuresOf('holds').pace.hold).toBeGreaterThan(0.97);
    expect(peakC('holds')).toBeLessThan(36);
  });

  it('fades, and buckles, under a heavy one', () => {
    const fades = averages('fades');
    expect(fades.at(-1)! / fades[0]!).toBeGreaterThan(0.65);
    expect(fades.at(-1)! / fades[0]!).toBeLessThan(0.85);
    const buckles = averages('buckles');
    expect(buckles.at(-1)! / buckles[0]!).toBeLessThan(0.65);
    expect(peakC('buckles')).toBeGreaterThan(41);
    expect(peakC('buckles')).toBeLessThan(48);
  });

  it('saws up and down where the governor overshoots', () => {
    const minutes = analyseMinutes('sawtooth');
    const turns = minutes
      .slice(1, -1)
      .filter(
        (value, i) =>
          Math.sign(value - minutes[i]!) !== Math.sign(minutes[i + 2]! - value) &&
          Math.abs(value - minutes[i]!) > 3,
      );
    expect(turns.length).toBeGreaterThanOrEqual(3);
  });

  it('shows a cap of 40 on a panel of 60 Hz as frames of one and two refreshes in turn', () => {
    const { pace, lows } = figuresOf('capped-40');
    expect(pace.median).toBeCloseTo(40, 1);
    expect(lows.onePercent.quantile).toBeCloseTo(30, 0);
    const us = lines.get('capped-40')!.flatMap((line) => (line.type === 'frames' ? line.us : [])) as number[];
    const near = (ms: number): number =>
      us.filter((value) => Math.abs(value / 1000 - ms) < 1).length / us.length;
    expect(near(16.7)).toBeGreaterThan(0.45);
    expect(near(33.3)).toBeGreaterThan(0.45);
  });

  it('hides freezes of two seconds under a good average', () => {
    const { pace, evenness } = figuresOf('freezes');
    expect(pace.average).toBeGreaterThan(33);
    expect(evenness.freezes).toBeGreaterThanOrEqual(5);
  });

  it('crashes when told to', () => {
    const { end, frames } = figuresOf('crashes');
    expect(end).toMatchObject({ reason: 'crash' });
    expect(frames.seconds).toBeCloseTo(492, 0);
  });

  it('stutters on a first play more at the start than later', () => {
    const { breaks } = figuresOf('freezes');
    const inMinutes = (from: number, to: number): number =>
      breaks.filter((found) => found.atUs >= from * 6e7 && found.atUs < to * 6e7).length;
    expect(inMinutes(0, 5)).toBeGreaterThan(2 * inMinutes(10, 15));
  });
});

function analyseMinutes(name: ScenarioName): number[] {
  figuresOf(name);
  const batches = new FrameBatches();
  for (const line of lines.get(name)!) if (line.type === 'frames') batches.add(line, 1);
  return analyse(
    runInput(
      batches.track(),
      { dropped: 0, cutOff: false, entries: [] },
      { ...factsOf(null), splitMinutes: 1 },
    ),
  ).figures.splits.map((split) => split.average!);
}

describe('heat', () => {
  it('settles where what comes in goes out: skin at room + P·R, die above it by P·R', () => {
    const heat = new Heat(
      { dieJoulesPerK: 9, skinJoulesPerK: 120, dieToSkin: 3, skinToRoom: 4, spots: { camera: 1.1 } },
      20,
      20,
    );
    for (let second = 0; second < 20_000; second++) heat.step(5, 1, 1);
    expect(heat.skinC).toBeCloseTo(20 + 6 * 4, 6);
    expect(heat.dieC).toBeCloseTo(44 + 5 * 3, 6);
    expect(heat.spotC('camera')).toBeCloseTo(20 + 24 * 1.1, 6);
  });
});

describe('governor', () => {
  const rules = { tripC: 42, clearC: 40, down: 1, up: 1, restS: 10, lowest: 0.8 };
  it('slows at the trip, keeps still in between, and speeds up below the clear', () => {
    const governor = new Governor(rules);
    const after = (skinC: number, seconds: number): number => {
      for (let second = 0; second < seconds; second++) governor.step(skinC, 1);
      return governor.speed;
    };
    expect(after(42, 1)).toBe(LEVELS[1]);
    expect(after(41, 60)).toBe(LEVELS[1]);
    expect(after(43, 300)).toBe(0.8);
    expect(after(39.9, 10)).toBe(0.85);
  });
});
