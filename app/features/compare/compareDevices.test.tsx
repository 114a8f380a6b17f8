import type { RunSummary } from '@pace-check/contract';
import { fireEvent, screen, within } from '@testing-library/react';
import { at, runWith, show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { CompareDevices } from './CompareDevices';
import { sharedTitles } from './sharedRuns';

const mockNavigate = jest.fn();
jest.mock('expo-router', () => ({ useRouter: () => ({ navigate: mockNavigate }) }));

const run = (id: string, device: string, title: string, setup: string | null, day: string): RunSummary => ({
  ...runWith({ frames: at(50, 60), facts: {} }),
  id,
  device,
  title,
  setup,
  name: `${title} on ${device}`,
  startedAt: `2026-05-${day}T10:00:00Z`,
});
const OLD = [
  run('a1', 'Velm 4', 'Aurelune', 'high', '01'),
  run('a2', 'Velm 4', 'Aurelune', 'high', '03'),
  run('a3', 'Velm 4', 'Aurelune', 'low', '05'),
  run('a4', 'Velm 4', 'Skiff 120', null, '02'),
  run('a5', 'Velm 4', 'Hexgarden', null, '02'),
];
const NEW = [
  run('b1', 'Velm 5', 'Aurelune', 'high', '04'),
  run('b2', 'Velm 5', 'Skiff 120', null, '06'),
  { ...run('b3', 'Velm 5', 'Hexgarden', null, '06'), recording: 'running' as const },
];

describe('titles that devices share', () => {
  it('are taken with the setup that all have, the latest of it; what is being recorded has none', () => {
    const shared = sharedTitles([OLD, NEW]);
    // the latest of Velm 4 has another setup than any of Velm 5
    expect(shared.map(({ title, runs }) => [title, ...runs.map(({ id }) => id)])).toEqual([
      ['Aurelune', 'a2', 'b1'],
      ['Skiff 120', 'a4', 'b2'],
    ]);
  });
  it('are none where a device has no run', () => expect(sharedTitles([OLD, []])).toEqual([]));
});

describe('comparing devices', () => {
  const sent: { path: string; body: unknown }[] = [];
  beforeEach(() => {
    sent.length = 0;
    standInServer(({ method, path, body }) => {
      if (method === 'POST') {
        sent.push({ path, body });
        return { body: { id: 'c' } };
      }
      if (path.startsWith('/api/kit'))
        return {
          body: {
            devices: ['Velm 4', 'Velm 5', 'Oru Fold'].map((name) => ({ id: name, name, runs: 1, facts: {} })),
            titles: [],
            accessories: [],
            instruments: [],
            setups: [],
          },
        };
      const device = new URL(path, 'http://localhost').searchParams.get('device');
      return { body: device === 'Velm 4' ? OLD : device === 'Velm 5' ? NEW : [] };
    });
  });
  const choose = async (name: string): Promise<void> => {
    fireEvent.change(screen.getByRole('combobox'), { target: { value: name } });
    fireEvent.click(screen.getByRole('option', { name }));
    await until(() => screen.queryByRole('button', { name: `Remove ${name}` }) !== null);
  };

  it('takes the titles in common by themselves, and any run can be exchanged', async () => {
    await show(<CompareDevices />);
    await until(() => screen.queryByRole('combobox') !== null);
    await choose('Velm 4');
    await choose('Velm 5');
    await screen.findByText(/^2 titles in common/);
    const aurelune = within(screen.getByRole('listitem', { name: 'Aurelune' }));
    fireEvent.change(aurelune.getByLabelText('Velm 4'), { target: { value: 'a1' } });
    fireEvent.click(screen.getByRole('button', { name: 'Compare' }));
    await until(() => sent.length === 1);
    expect(sent[0]!.body).toMatchObject({
      kind: 'matrix',
      sides: [{ runs: ['a1', 'a4'] }, { runs: ['b1', 'b2'] }],
    });
    await until(() => mockNavigate.mock.calls.length === 1);
  });

  it('waits for a tap, since a name that is typed may go on; nothing new is offered', async () => {
    await show(<CompareDevices />);
    await until(() => screen.queryByRole('combobox') !== null);
    fireEvent.change(screen.getByRole('combobox'), { target: { value: 'Velm 5' } });
    expect(screen.queryByRole('button', { name: 'Remove Velm 5' })).toBeNull();
    fireEvent.change(screen.getByRole('combobox'), { target: { value: 'Velm 77' } });
    expect(screen.queryAllByRole('option')).toEqual([]);
  });

  it('says so where nothing is in common', async () => {
    await show(<CompareDevices />);
    await until(() => screen.queryByRole('combobox') !== null);
    await choose('Velm 4');
    await choose('Oru Fold');
    await screen.findByText(/no title in common/);
    expect(screen.getByRole('button', { name: 'Compare' }).getAttribute('aria-disabled')).toBe('true');
  });
});
