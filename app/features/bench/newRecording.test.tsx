import 'fake-indexeddb/auto';
import type { Kit } from '@pace-check/contract';
import AsyncStorage from '@react-native-async-storage/async-storage';
import { fireEvent, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import { outbox } from '../../outbox';
import { show, until } from '../../testing/render';
import { NewRecordingScreen } from './NewRecordingScreen';
import { standInServer } from '../../testing/server';

let mockParams: Record<string, string>;
const mockReplace = jest.fn();
jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useLocalSearchParams: () => mockParams,
  useRouter: () => ({ replace: mockReplace, navigate: jest.fn() }),
}));

const KIT = {
  devices: [
    {
      id: 'd1',
      name: 'Velm 5',
      facts: { screens: [{ inches: 6.7, refreshHz: [60, 120] }] },
      spots: [{ spot: 'by the camera', side: 'back', x: 0.3, y: 0.2 }],
    },
    { id: 'd2', name: 'Quill Deck', facts: { screens: [{ inches: 7, refreshHz: [90] }] }, spots: [] },
  ],
  titles: [{ id: 't1', name: 'Copperline Squad', facts: { nativeFps: 60 } }],
  setups: [
    { id: 's1', titleId: 't1', name: 'Detail', facts: {}, whole: [{ key: 'cap', value: '40', unit: 'fps' }] },
  ],
  accessories: [],
  instruments: [],
} as unknown as Kit;

let reached: boolean;
beforeEach(async () => {
  await AsyncStorage.clear();
  mockParams = {};
  reached = true;
  mockReplace.mockClear();
  // changes stay in the outbox: there the test looks at them
  standInServer(({ method }) => (!reached || method === 'POST' ? null : { body: KIT }));
});

const field = (name: string): HTMLInputElement => screen.getByLabelText(name);
const fill = (name: string, value: string): void => void fireEvent.change(field(name), { target: { value } });
const opened = (): Record<string, unknown>[] =>
  outbox.snapshot().waiting.flatMap(({ change }) => (change.kind === 'open' ? [change] : []));
async function screenOf(): Promise<void> {
  await show(<NewRecordingScreen />);
  await until(() => screen.queryByLabelText('Device') !== null);
}

describe('a new recording', () => {
  it('has the panel, target and spots of what the kit knows, and what is typed oneself stays', async () => {
    await screenOf();
    fill('Device', 'velm 5');
    await until(() => field('Refresh rate, Hz').value === '120');
    expect(screen.getByRole('checkbox', { name: 'by the camera' }).getAttribute('aria-checked')).toBe('true');
    fill('Title', 'Copperline Squad');
    await until(() => field('Target rate, fps').value === '60');
    fill('Setup (optional)', 'Detail');
    await until(() => field('Target rate, fps').value === '40');
    fill('Device', 'Quill Deck');
    await until(() => field('Refresh rate, Hz').value === '90');
    fill('Refresh rate, Hz', '75');
    fill('Device', 'Velm 5');
    await until(() => screen.queryByRole('checkbox', { name: 'by the camera' }) !== null);
    expect(field('Refresh rate, Hz').value).toBe('75');
    fill('Refresh rate, Hz', '');
    fill('Device', 'A phone of nobody');
    await until(() => screen.queryByRole('checkbox', { name: 'by the camera' }) === null);
    expect(field('Refresh rate, Hz').value).toBe('');
  });

  it('is kept here before the server hears of it, with its plan, and goes to the bench', async () => {
    await screenOf();
    fill('Device', 'Velm 5');
    fill('Title', 'Copperline Squad');
    fill('Planned length, min', '20');
    fill('Stop at battery, %', '');
    fireEvent.click(screen.getByRole('radio', { name: 'end automatically' }));
    await until(() => field('Refresh rate, Hz').value === '120');
    fireEvent.click(screen.getByRole('button', { name: 'Continue to the bench' }));
    await until(() => mockReplace.mock.calls.length === 1);
    expect(opened().at(-1)).toMatchObject({
      facts: { device: 'Velm 5', title: 'Copperline Squad', setup: null, target: 60, refresh: 120 },
      plan: { minutes: 20, floorPercent: null, endsItself: true, spots: ['by the camera'] },
      speed: 1,
      step: null,
    });
    const { id } = outbox.snapshot().waiting.at(-1)!;
    expect(mockReplace).toHaveBeenCalledWith(`/bench/${id}`);
  });

  it('says what cannot be, and what is missing, and opens nothing', async () => {
    const before = opened().length;
    await screenOf();
    const go = screen.getByRole('button', { name: 'Continue to the bench' });
    fill('Remind every, min', '0');
    await until(() => go.getAttribute('aria-disabled') === 'true');
    expect(screen.getByText(/at least/)).toBeTruthy();
    fill('Remind every, min', '5');
    fill('Clock speed: 1 is real time; up to 60 for practice with simulated devices', '90');
    await until(() => screen.queryByText('1 to 60') !== null);
    fill('Clock speed: 1 is real time; up to 60 for practice with simulated devices', '60');
    await until(() => go.getAttribute('aria-disabled') !== 'true');
    fireEvent.click(go);
    await until(() => screen.queryAllByText(/required|at least|enter a/i).length > 0);
    expect(opened().length).toBe(before);
    expect(mockReplace).not.toHaveBeenCalled();
  });

  it('needs no kit: without a network what can be typed is enough', async () => {
    reached = false;
    await screenOf();
    fill('Device', 'Velm 5');
    fill('Title', 'Aurelune');
    fireEvent.click(screen.getByRole('button', { name: 'Continue to the bench' }));
    await until(() => mockReplace.mock.calls.length === 1);
    expect(opened().at(-1)).toMatchObject({
      facts: { device: 'Velm 5', title: 'Aurelune', target: null, refresh: null },
    });
  });

  it('for a card that cannot be read says so', async () => {
    reached = false;
    mockParams = {
      card: '22222222-2222-4222-8222-222222222222',
      step: '33333333-3333-4333-8333-333333333333',
    };
    await show(<NewRecordingScreen />);
    await until(() => screen.queryByRole('alert') !== null);
    expect(screen.getByRole('alert').textContent).toContain('Cannot reach the server');
  });
});
