import AsyncStorage from '@react-native-async-storage/async-storage';
import type { ComparisonDetail, RunDetail } from '@pace-check/contract';
import {
  comparableOf,
  compareAnswer,
  compareSides,
  otherWork,
  rankField,
  rateDevices,
  RatingDraws,
  turningPoints,
  USUAL_VOICE,
  type RatedDevice,
  type RatingWeights,
  type RunOfSide,
} from '@pace-check/core';
import { fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { at, runWith, show } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { ComparisonScreen } from './ComparisonScreen';
import { drawn } from './differences';
import { matrixRows } from './matrixRows';
import type { RatingAnswer } from './rating.worker';
import { RatingSection } from './RatingSection';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: jest.fn() }),
}));
// the same core, without a thread
const mockRating = (devices: RatedDevice[], weights: RatingWeights): RatingAnswer => ({
  turn: 1,
  rated: rateDevices(devices, weights),
  places: new RatingDraws(devices.length, devices).places(weights),
  points: turningPoints(devices, weights),
});
jest.mock('./useRating', () => ({
  useRating: (devices: RatedDevice[], weights: RatingWeights) => mockRating(devices, weights),
}));

beforeEach(() => AsyncStorage.clear());

interface Made {
  run: RunDetail;
  side: RunOfSide;
}
function made(device: string, fps: number | null, more: Partial<RunOfSide['stated']> = {}): Made {
  const run = {
    ...runWith({
      frames: fps === null ? [] : at(fps, 1000),
      facts: { target: 60 },
      entries: fps === null ? [{ type: 'end', atMs: 5000, reason: 'would-not-start' }] : [],
    }),
    id: `${device} ${fps}`,
    device,
    title: more.title ?? 'Aurelune',
  };
  return {
    run,
    side: {
      stated: {
        device,
        title: run.title,
        setup: null,
        scenes: [],
        target: 60,
        roomC: 18,
        batteryWh: null,
        conditions: [],
        told: true,
        preflight: {},
        ...more,
      },
      figures: comparableOf(run.figures),
    },
  };
}

const side = (name: string, runs: Made[]): ComparisonDetail['side'][number] => ({
  name,
  given: null,
  runs: runs.map(({ run, side: { figures } }) => ({
    id: run.id,
    name: run.name,
    device: name,
    title: run.title,
    setup: null,
    startedAt: null,
    seconds: 1000,
    ended: null,
    word: figures.word,
    preflight: {},
    headline: run.headline!,
    lane: run.lane,
  })),
});

const frame = (more: Partial<ComparisonDetail>): ComparisonDetail => ({
  id: 'c',
  name: 'A comparison',
  given: null,
  kind: 'pair',
  kept: false,
  sides: [],
  runs: 2,
  changedAt: '2026-05-09T10:00:00Z',
  margin: 0.03,
  anyway: false,
  answer: null,
  answerThen: null,
  gone: 0,
  side: [],
  pair: null,
  rows: [],
  rating: null,
  weak: [],
  ...more,
});

function pairOf(first: Made, second: Made, more: Partial<ComparisonDetail> = {}): ComparisonDetail {
  const comparison = compareSides([first.side], [second.side]);
  const names = [first.run.device, second.run.device] as const;
  const other = otherWork(comparison.mismatches);
  return frame({
    side: [side(names[0], [first]), side(names[1], [second])],
    answer: other.length > 0 ? null : compareAnswer(comparison, names, USUAL_VOICE),
    pair: {
      comparison,
      otherWork: other,
      splits: [first.run.figures.splits, second.run.figures.splits],
      warmth: [],
    },
    ...more,
  });
}

const open = async (comparison: ComparisonDetail): Promise<void> => {
  standInServer(() => ({ body: comparison }));
  await show(<ComparisonScreen id="c" />);
};

describe('a pair', () => {
  it('says the answer first, then each measure with its verdict and what was not the same', async () => {
    await open(pairOf(made('Velm 5', 52), made('Velm 4', 40, { roomC: 31 })));
    expect(
      await screen.findByText(/^Velm 5 is faster: 52.fps against 40.fps\. But room temperature 18\.0/),
    ).toBeTruthy();
    const pace = within(screen.getByRole('group', { name: 'Pace' }));
    expect(pace.getAllByText('Velm 5 better')).toHaveLength(2);
    expect(pace.getByRole('img', { name: /^average: −23.%/ })).toBeTruthy();
    expect(
      within(screen.getByRole('group', { name: 'Drain' })).getByText('Not measured on both sides.'),
    ).toBeTruthy();
    const mismatches = within(screen.getByRole('list', { name: 'Different conditions' }));
    expect(mismatches.getByText('favours Velm 5')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Certainty' }));
    expect(pace.getAllByText(/^runs of the same kind differ by 2\.0 % \(from habit\)$/)).toHaveLength(2);
    const splits = within(screen.getByRole('table', { name: 'Splits side by side' }));
    expect(splits.getAllByText('−12.0').length).toBeGreaterThan(1);
  });

  it('lets the median lead for those who think so', async () => {
    await AsyncStorage.setItem('pace-check.voice', JSON.stringify({ school: 'median-and-hold', unit: 'F' }));
    await open(pairOf(made('Velm 5', 50), made('Velm 4', 51, { roomC: 31 })));
    expect(await screen.findByText(/^No clear difference in median/)).toBeTruthy();
    expect(screen.getByText(/^Room temperature 64\.4.°F against 87\.8.°F/)).toBeTruthy();
  });

  it('that is not the same work is not compared until somebody asks', async () => {
    await open(pairOf(made('Velm 5', 52), made('Velm 4', 40, { title: 'Skiff 120' })));
    expect(await screen.findByText('Not compared: the test conditions differ too much.')).toBeTruthy();
    expect(screen.getByText('title: Aurelune and Skiff 120')).toBeTruthy();
    expect(screen.queryByText('Five measures')).toBeNull();
    expect(screen.getByRole('button', { name: 'Compare anyway' })).toBeTruthy();
  });

  it('says what it said when it was kept, and what of it was deleted', async () => {
    await open(
      pairOf(made('Velm 5', 52), made('Velm 4', 40), { kept: true, answerThen: 'Something else.', gone: 1 }),
    );
    expect(await screen.findByText('Result when saved: “Something else.”')).toBeTruthy();
    expect(screen.getByText(/^One run of this comparison was deleted/)).toBeTruthy();
  });
});

describe('a difference as it is drawn', () => {
  it('has what is better for the second side to the right, whatever is measured', () => {
    const difference = { by: 2, interval: [1.5, 3] satisfies [number, number] };
    expect(drawn('average', difference, 0.03).at).toBeCloseTo(Math.log(2), 12);
    expect(drawn('watts', difference, 0.03)).toMatchObject({
      at: expect.closeTo(-Math.log(2), 12) as number,
      interval: [expect.closeTo(-Math.log(3), 12), expect.closeTo(-Math.log(1.5), 12)],
    });
    expect(drawn('peakRise', { by: 2, interval: [1, 3] }, 0.03)).toEqual({
      at: -2,
      interval: [-3, -1],
      margin: 1,
    });
  });
  it('has no end where there is none', () => {
    expect(drawn('average', { by: 1, interval: [null, null] }, 0.03).interval).toEqual([null, null]);
    expect(drawn('breaks', { by: 0, interval: [0, 0.5] }, 0.03)).toEqual({
      at: null,
      interval: [expect.closeTo(Math.log(2), 12), null],
      margin: null,
    });
  });
});

function matrix(): ComparisonDetail {
  const sides = [
    [made('A', 60), made('A', 59, { title: 'Hexgarden' })],
    [made('B', 40), made('B', null, { title: 'Night Ferry' })],
  ];
  const titles = ['Aurelune', 'Hexgarden', 'Night Ferry'];
  return frame({
    kind: 'matrix',
    side: sides.map((runs, i) => side(i === 0 ? 'A' : 'B', runs)),
    rows: titles.map((title) => {
      const own = sides.map((runs) => runs.filter(({ run }) => run.title === title));
      return {
        title,
        setup: null,
        cells: own.map((runs, i) => ({
          state: runs.length === 0 ? 'not tested' : runs[0]!.run.id === 'B null' ? 'DNS' : 'ran',
          runs: runs.map((one) => sides[i]!.indexOf(one)),
          word: null,
        })),
        measures: rankField(
          own.map((runs) => runs.map((one) => one.side)),
          {},
        ),
      };
    }),
  });
}

describe('the matrix', () => {
  it('marks the best only where it is clear, and keeps what has no figure apart', () => {
    const rows = matrixRows(matrix(), 'average', 'C', '');
    expect(rows.map((row) => row.cells.map((cell) => cell.says.replace('\u00a0', ' ')))).toEqual([
      ['60 fps', '40 fps'],
      ['59 fps', 'not tested'],
      ['not tested', 'DNS'],
    ]);
    expect(rows.map((row) => row.cells.map((cell) => cell.best))).toEqual([
      [true, false],
      [false, false],
      [false, false],
    ]);
  });
  it('is searched by title', () =>
    expect(matrixRows(matrix(), 'average', 'C', 'hex').map((row) => row.title)).toEqual(['Hexgarden']));
  it('is shown with its answer', async () => {
    await open({ ...matrix(), answer: 'x' });
    expect(await screen.findByText('A is clearly the fastest in the one shared title.')).toBeTruthy();
  });
});

describe('the rating', () => {
  const device = (name: string, pace: number, drain: number | null): RatedDevice => ({
    name,
    parts: { pace, evenness: null, stamina: null, warmth: null, drain },
    sd: {},
  });
  const rating = {
    devices: [device('A', 90, 30), device('B', 60, 80)],
    common: ['Aurelune'],
    leftOut: [{ title: 'Relay', reason: 'streamed' as const }],
  };
  const order = (): (string | null)[] =>
    within(screen.getByRole('list', { name: 'Ranking of the devices' }))
      .getAllByRole('heading')
      .map((heading) => heading.textContent);

  it('follows the weights, and says where the lead changes', async () => {
    await show(<RatingSection rating={rating} />);
    expect(order()).toEqual(['1  A', '2  B']);
    expect(screen.getByText(/^If drain counts for more than .* B is first\.$/)).toBeTruthy();
    fireEvent.change(screen.getByRole('slider', { name: 'Weight of Pace' }), { target: { value: '0' } });
    expect(order()).toEqual(['1  B', '2  A']);
    fireEvent.click(screen.getByRole('button', { name: 'Default weights' }));
    expect(order()).toEqual(['1  A', '2  B']);
    expect(screen.getByText('Not rated: Relay (streamed: tests the connection, not the chip).')).toBeTruthy();
  });

  it('keeps at least one weight, and tells what nothing can be rated by', async () => {
    await show(<RatingSection rating={rating} />);
    for (const part of ['Pace', 'Evenness', 'Stamina', 'Warmth', 'Drain'])
      fireEvent.change(screen.getByRole('slider', { name: `Weight of ${part}` }), { target: { value: '0' } });
    expect((screen.getByRole('slider', { name: 'Weight of Drain' }) as HTMLInputElement).value).toBe('10');
  });

  it('says where no title is in common', async () => {
    await show(<RatingSection rating={{ ...rating, common: [] }} />);
    expect(screen.getByText(/No title was rated on all devices/)).toBeTruthy();
    expect(screen.queryByRole('slider')).toBeNull();
  });
});
