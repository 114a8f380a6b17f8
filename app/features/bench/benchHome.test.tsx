import 'fake-indexeddb/auto';
import type { CardSummary, CoolWatch, Recording } from '@pace-check/contract';
import AsyncStorage from '@react-native-async-storage/async-storage';
import { fireEvent, screen, within } from '@testing-library/react';
import { randomUUID } from 'node:crypto';
import type { ReactNode } from 'react';
import { keptRuns, outbox, toBench } from '../../outbox';
import { RECORDING } from '../../testing/bench';
import { show, until } from '../../testing/render';
import { BenchHome } from './BenchHome';
import { standInServer } from '../../testing/server';

const mockNavigate = jest.fn();
jest.mock('expo-router', () => ({
  Link: ({ href, children }: { href: string; children: ReactNode }) => <a href={href}>{children}</a>,
  useRouter: () => ({ navigate: mockNavigate }),
}));

let answers: {
  '/api/bench': Recording[];
  '/api/cards': Partial<CardSummary>[];
  '/api/cool-downs': CoolWatch[];
  '/api/kit': object;
};
let reached: boolean;
let taken: { id: string; kind: string }[];
/** What the server says of a change, where it takes it not. */
let refusal: string | null;
beforeEach(async () => {
  await AsyncStorage.clear();
  answers = {
    '/api/bench': [],
    '/api/cards': [],
    '/api/cool-downs': [],
    '/api/kit': { devices: [], titles: [], setups: [], accessories: [], instruments: [] },
  };
  reached = true;
  taken = [];
  refusal = null;
  mockNavigate.mockClear();
  standInServer(({ method, path, body }) => {
    if (!reached) return null;
    if (method !== 'POST') return { body: answers[path as keyof typeof answers] };
    const changes = body.changes as typeof taken;
    if (refusal === null) taken.push(...changes);
    return {
      body: {
        done: refusal === null ? changes.map(({ id }) => id) : [],
        refused: refusal === null ? [] : changes.map(({ id }) => ({ id, reason: refusal })),
        now: Date.now(),
      },
    };
  });
});
afterEach(async () => {
  for (const { n } of outbox.snapshot().waiting) await outbox.drop(n);
});

const run = (name: string, more: Partial<Recording> = {}): Recording => ({
  ...RECORDING,
  runId: randomUUID(),
  name,
  startedAt: Date.now() - 60_000,
  ...more,
});
const page = (): string => document.body.textContent!.replaceAll('\u00a0', ' ');

describe('the first page of the bench', () => {
  it('says what is recorded, what ended, and which cards go on', async () => {
    const going = run('Aurelune on Velm 5');
    answers['/api/bench'] = [
      going,
      run('Hexgarden on Velm 4', { status: 'ended', end: { atMs: 480_000, reason: 'crash' } }),
    ];
    answers['/api/cards'] = [
      { id: 'c', name: 'Small against large', template: false, runs: 8, ended: 3 },
      { id: 'd', name: 'All done', template: false, runs: 2, ended: 2 },
      { id: 'e', name: 'A template', template: true, runs: 4, ended: 0 },
    ];
    await show(<BenchHome />);
    await until(() => page().includes('Small against large'));
    expect(screen.getByText('Aurelune on Velm 5').closest('a')!.getAttribute('href')).toBe(
      `/bench/${going.runId}`,
    );
    expect(page()).toContain('Ended today');
    expect(page()).toContain('Hexgarden on Velm 4');
    expect(page()).toContain('Small against large: 5 of 8 runs left');
    expect(page()).not.toMatch(/All done|A template/);
  });

  it('with nothing recorded says what to do', async () => {
    await show(<BenchHome />);
    await until(() => page().includes('No recording in progress'));
    fireEvent.click(screen.getByRole('link', { name: 'Record live' }));
    expect(mockNavigate).toHaveBeenCalledWith('/bench/new');
    expect(page()).toContain('No device is being tracked.');
  });

  it('without a server shows the runs that this browser has followed and those that were begun here', async () => {
    const followed = run('Iron Orchard on Quill Deck');
    keptRuns.keep(followed.runId, { recording: followed, entries: [], change: 4 });
    const kept = (): Promise<boolean> => keptRuns.recordings().then((all) => all.length > 0);
    while (!(await kept())) await new Promise((resolve) => setTimeout(resolve, 20));
    reached = false;
    const begun = randomUUID();
    await outbox.add(
      toBench(begun, {
        kind: 'open',
        facts: { device: 'Oru Fold', title: 'Night Ferry', setup: null, target: null, refresh: null },
        preflight: {},
        plan: RECORDING.plan,
        speed: 1,
        step: null,
      }),
    );
    await show(<BenchHome />);
    await until(() => page().includes('Iron Orchard on Quill Deck'));
    expect(screen.getByText('Night Ferry on Oru Fold').closest('a')!.getAttribute('href')).toBe(
      `/bench/${begun}`,
    );
    expect(page()).toContain('One change is saved on this device and waiting to send.');
    expect(page()).toContain('The list of tracked devices could not be loaded. Trying again automatically.');
    await keptRuns.forget(followed.runId);
  });

  it('tells what the server did not take, and drops it when that is wanted', async () => {
    refusal = 'This recording does not exist.';
    await outbox.add(toBench(randomUUID(), { kind: 'start', at: 1 }));
    await show(<BenchHome />);
    await until(() => screen.queryByRole('alert') !== null);
    expect(screen.getByRole('alert').textContent).toContain(
      'Not accepted (start): This recording does not exist.',
    );
    fireEvent.click(screen.getByRole('button', { name: 'Discard' }));
    await until(() => screen.queryByRole('alert') === null);
    expect(outbox.snapshot().waiting).toEqual([]);
  });
});

describe('devices that cool', () => {
  const minutes = (count: number): number => count * 60_000;
  it('are each shown with their readings and when they are ready; a reading is kept at once', async () => {
    // so that it is ready in the middle of a minute: no clock that goes on changes what is shown
    const startedAt = Math.floor(Date.now() / minutes(1)) * minutes(1) - minutes(4) + 15_000;
    answers['/api/cool-downs'] = [
      {
        id: randomUUID(),
        device: 'Velm 5',
        spot: 'back',
        knownTauS: 420,
        roomC: 18,
        readyC: 21,
        startedAt,
        readings: [{ id: 'a', atS: 0, c: 41 }],
      },
    ];
    await show(<BenchHome />);
    await until(() => screen.queryByRole('group', { name: 'Velm 5: cool-down' }) !== null);
    const watch = screen.getByRole('group', { name: 'Velm 5: cool-down' });
    // 420 s · ln(23 / 3) after the reading: Newton's law of cooling
    const ready = new Date(startedAt + 420_000 * Math.log(23 / 3));
    expect(watch.textContent).toContain(
      new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' }).format(ready),
    );
    expect(watch.textContent).toContain('ready (from earlier cool-downs)');
    fireEvent.change(within(watch).getByLabelText('Skin temperature now, °C'), { target: { value: '20.5' } });
    fireEvent.click(within(watch).getByRole('button', { name: 'Save the reading of Velm 5' }));
    await until(() => watch.textContent!.includes('target reached'));
    await until(() => taken.length === 1);
    expect(taken[0]).toMatchObject({ kind: 'reading', c: 20.5 });
  });
  it('are begun by name, with the room', async () => {
    await show(<BenchHome />);
    fireEvent.click(screen.getByRole('button', { name: 'Track a device' }));
    fireEvent.change(screen.getByLabelText('Device'), { target: { value: 'Oru Fold' } });
    fireEvent.change(screen.getByLabelText('Room temperature, °C'), { target: { value: '' } });
    expect(screen.getByRole('button', { name: 'Start tracking' }).getAttribute('aria-disabled')).toBe('true');
    fireEvent.change(screen.getByLabelText('Room temperature, °C'), { target: { value: '31' } });
    fireEvent.click(screen.getByRole('button', { name: 'Start tracking' }));
    await until(() => taken.length === 1);
    expect(taken[0]).toMatchObject({ kind: 'watch', device: 'Oru Fold', roomC: 31, readyC: 34 });
  });
});
