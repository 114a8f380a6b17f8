import type { LadderSummary, Outcomes, RunSummary } from '@pace-check/contract';
import { screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { at, runWith, show } from '../../../testing/render';
import { standInServer } from '../../../testing/server';
import { NameScreen } from './NameScreen';
import { rowsOf, settingsOf } from './rowsOf';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: jest.fn() }),
}));

const run = (id: string, device: string, title: string): RunSummary => ({
  ...runWith({ frames: at(50, 1000), facts: { target: 60 } }),
  id,
  device,
  title,
  name: id,
});
const LADDER = {
  id: 'l',
  device: 'Velm 5',
  title: 'Rook Tower',
  axis: 'internal resolution',
  best: '3×',
  sure: 0.91,
  confirmed: false,
} as LadderSummary;
const OUTCOMES = {
  runs: [],
  outcomes: [
    { device: 'Velm 5', title: 'Night Ferry', with: '', version: '', status: 'crashes', date: '2026-05-01' },
    { device: 'Velm 4', title: 'Night Ferry', with: '', version: '', status: 'slow', date: '2026-05-01' },
  ],
  claims: [],
  versions: [],
} as unknown as Outcomes;
const RUNS = [
  run('one', 'Velm 5', 'Aurelune'),
  run('two', 'Velm 5', 'Aurelune'),
  run('three', 'Velm 5', 'Skiff 120'),
  { ...run('now', 'Velm 5', 'Hexgarden'), recording: 'running' as const },
];

describe('a device', () => {
  it('has its titles with runs, settings and results together; what is being recorded waits', () => {
    const rows = rowsOf('device', 'Velm 5', RUNS, [LADDER], [], OUTCOMES);
    expect(rows.map(({ name, runs, results }) => [name, runs.length, results.length])).toEqual([
      ['Aurelune', 2, 0],
      ['Skiff 120', 1, 0],
      ['Night Ferry', 0, 1],
      ['Rook Tower', 0, 0],
    ]);
    expect(settingsOf(rows[3]!)).toEqual(['3× internal resolution, 91 % sure']);
  });

  it('is a page: the latest run of each title in a sentence, earlier ones below', async () => {
    standInServer(({ path }) => ({
      body: path.startsWith('/api/runs')
        ? RUNS
        : path.startsWith('/api/ladders')
          ? [LADDER]
          : path.startsWith('/api/outcomes')
            ? OUTCOMES
            : [],
    }));
    await show(<NameScreen of="device" name="Velm 5" />);
    const titles = within(await screen.findByRole('list', { name: 'Titles' }));
    await screen.findByText('Best setting: 3× internal resolution, 91 % sure');
    expect(screen.getByText('4 titles, 3 runs. Each shows its latest run.')).toBeTruthy();
    const aurelune = within(titles.getByRole('listitem', { name: 'Aurelune' }));
    expect(aurelune.getByText(/^Holds 50 fps/)).toBeTruthy();
    expect(aurelune.getByText('Earlier runs on this title:')).toBeTruthy();
    expect(titles.getByText('crashes, 1 May 2026')).toBeTruthy();
  });
});
