import AsyncStorage from '@react-native-async-storage/async-storage';
import { RUNS_A_PAGE, type RunSummary } from '@pace-check/contract';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { at, runWith, show } from '../../testing/render';
import { RunsScreen } from './RunsScreen';
import { standInServer } from '../../testing/server';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: jest.fn() }),
  useLocalSearchParams: () => ({}),
}));

const run = (name: string, frames: number[], end?: 'crash'): RunSummary => ({
  ...runWith({
    frames,
    entries: end ? [{ type: 'end', atMs: 100_000, reason: end }] : [],
    facts: { target: 60 },
  }),
  id: name,
  name,
});
const answer = (runs: RunSummary[]): void => {
  standInServer(({ path }) => {
    const words = (new URL(path, 'http://localhost').searchParams.get('q') ?? '').split(' ');
    return { body: runs.filter(({ name }) => words.every((word) => name.toLowerCase().includes(word))) };
  });
};

beforeEach(() => AsyncStorage.clear());

describe('the list of runs', () => {
  it('gives each run its headline and the figure that leads', async () => {
    answer([run('Aurelune on Velm 5', at(52, 1000)), run('Night Ferry on Oru Fold', at(43, 100), 'crash')]);
    await show(<RunsScreen />);
    expect(await screen.findByText('Opens at 52 fps and holds 52.')).toBeTruthy();
    expect(screen.getByText(/^DNF: crashed at 1:40; averages 43 fps/)).toBeTruthy();
    expect(screen.getAllByText('fps average')).toHaveLength(2);
  });

  it('lets the median lead for those who think so', async () => {
    await AsyncStorage.setItem('pace-check.voice', JSON.stringify({ school: 'median-and-hold' }));
    answer([run('Aurelune on Velm 5', [...at(60, 90), ...at(40, 30)])]);
    await show(<RunsScreen />);
    expect(await screen.findByText('fps median')).toBeTruthy();
    expect(screen.getByText(/^Median 60 fps, 75\s% near it\.$/)).toBeTruthy();
  });

  it('is not spoiled by a browser’s store that holds something else', async () => {
    await AsyncStorage.setItem('pace-check.voice', 'not json');
    answer([run('Aurelune on Velm 5', at(60, 90))]);
    await show(<RunsScreen />);
    expect(await screen.findByText('fps average')).toBeTruthy();
  });

  it('finds by every word typed, and says when nothing fits', async () => {
    answer(
      [
        'Aurelune on Velm 5',
        'Aurelune on Velm 4',
        'Skiff 120 on Brask',
        'Hexgarden on Oru',
        'Pico Harbour on Oru',
        'Glass Canyon on Oru',
      ].map((name) => run(name, at(60, 30))),
    );
    await show(<RunsScreen />);
    const search = await screen.findByLabelText('Search runs by device or title');
    fireEvent.change(search, { target: { value: 'velm 4' } });
    expect(screen.queryByText('Aurelune on Velm 5')).toBeNull();
    expect(screen.getByText('Aurelune on Velm 4')).toBeTruthy();
    fireEvent.change(search, { target: { value: 'nowhere' } });
    expect(screen.getByText('No matching runs')).toBeTruthy();
    fireEvent.click(screen.getByText('Clear filters'));
    expect(screen.getByText('Skiff 120 on Brask')).toBeTruthy();
  });

  it('asks for the next page behind the last run, and for what was chosen', async () => {
    const named = (i: number): RunSummary => ({ ...run(`Run ${i}`, at(60, 5)), id: `id-${i}` });
    const page = Array.from({ length: RUNS_A_PAGE }, (_, i) => named(i));
    answer(page);
    await show(<RunsScreen />);
    fireEvent.click(await screen.findByText('Show more runs'));
    const asked = (): string[] => jest.mocked(global.fetch).mock.calls.map(([address]) => String(address));
    await waitFor(() => expect(asked()).toContain(`/api/runs?after=id-${RUNS_A_PAGE - 1}`));
    fireEvent.click(screen.getByRole('button', { name: 'Filter and sort' }));
    fireEvent.change(screen.getByLabelText('Stamina'), { target: { value: 'fades' } });
    fireEvent.change(screen.getByLabelText('Sort by'), { target: { value: 'warmth' } });
    await waitFor(() => expect(asked()).toContain('/api/runs?stamina=fades&sort=warmth'));
  });

  it('has no more heads over its lanes than can be read, however long a run is', async () => {
    Object.defineProperty(document.documentElement, 'clientWidth', { value: 1280, configurable: true });
    fireEvent(window, new Event('resize'));
    const long = run('Aurelune on Velm 5', at(60, 90));
    answer([{ ...long, lane: { ...long.lane, seconds: 48 * 3600 } }]);
    await show(<RunsScreen />);
    await screen.findByText('Title and device');
    const heads = screen.getAllByText(/^(0 min|\d+)$/).map((head) => head.textContent);
    expect(heads[0]).toBe('0 min');
    expect(heads.length).toBeGreaterThan(5);
    expect(heads.length).toBeLessThan(24);
    Object.defineProperty(document.documentElement, 'clientWidth', { value: 0, configurable: true });
    fireEvent(window, new Event('resize'));
  });

  it('says what to do when there are none yet', async () => {
    answer([]);
    await show(<RunsScreen />);
    expect(await screen.findByText('No runs yet. What do you have?')).toBeTruthy();
    for (const name of ['I have a log', 'I read numbers off a screen', 'I plan a test day'])
      expect(screen.getByRole('button', { name })).toBeTruthy();
  });

  it('says that figures are on their way after a change of method', async () => {
    answer([{ ...run('Aurelune on Velm 5', at(60, 30)), headline: null, confidences: null }]);
    await show(<RunsScreen />);
    expect(await screen.findByText(/being recalculated/)).toBeTruthy();
  });

  it('says when the server does not answer, and asks again', async () => {
    standInServer(() => null);
    await show(<RunsScreen />);
    // asked twice before it gives up
    await waitFor(() => expect(screen.getByText('Cannot reach the server')).toBeTruthy(), {
      timeout: 5000,
    });
    answer([run('Aurelune on Velm 5', at(60, 30))]);
    fireEvent.click(screen.getByText('Try again'));
    expect(await screen.findByText('Aurelune on Velm 5')).toBeTruthy();
  });
});
