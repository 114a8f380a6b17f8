import 'fake-indexeddb/auto';
import { randomUUID } from 'node:crypto';
import type { BenchEntry, BenchState, Recording } from '@pace-check/contract';
import AsyncStorage from '@react-native-async-storage/async-storage';
import { act, fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { RECORDING, skin } from '../../testing/bench';
import { show, until } from '../../testing/render';
import { KeysProvider } from '../../ui/Keys';
import { RoleProvider } from '../../ui/Role';
import { BenchScreen } from './BenchScreen';
import { standInServer } from '../../testing/server';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: mockNavigate }),
}));
const mockNavigate = jest.fn();

/** Each test has a run of its own: the outbox is one for all. */
let RUN: string;
const CARD = {
  cardId: '22222222-2222-4222-8222-222222222222',
  stepId: '33333333-3333-4333-8333-333333333333',
  repeat: 1,
  atMin: 540,
};

/** What the browser's stream of events is, as far as the bench uses it. */
class Stream extends EventTarget {
  static readonly CLOSED = 2;
  static all: Stream[] = [];
  readyState = 1;
  onerror: (() => void) | null = null;
  constructor(readonly url: string) {
    super();
    Stream.all.push(this);
  }
  close(): void {
    this.readyState = 2;
  }
}

/** A change of the bench, or an event of a card's day. */
type Sent = { id: string; kind: string; entry?: string };
let sent: { path: string; change: Sent }[];
let reached: boolean;
let status: number;
beforeEach(async () => {
  await AsyncStorage.clear();
  RUN = randomUUID();
  sent = [];
  reached = true;
  status = 200;
  Stream.all = [];
  mockNavigate.mockClear();
  (global as { EventSource?: unknown }).EventSource = Stream;
  standInServer(({ method, path, body }) => {
    if (!reached) return null;
    if (path.startsWith('/api/kit')) return { body: { devices: [], titles: [], setups: [] } };
    if (method !== 'POST') return { status, body: {} };
    const changes = body.changes as Sent[];
    sent.push(...changes.map((change) => ({ path, change })));
    // taken, and not told of yet
    return { body: { done: changes.map(({ id }) => id), refused: [], now: Date.now(), change: told + 1 } };
  });
});

/** Number of the last change that the screen has heard of. */
let told = 0;
const entry = (id: string, line: BenchEntry['line'], more: Partial<BenchEntry> = {}): BenchEntry => ({
  id,
  line,
  open: false,
  source: null,
  writer: 'another',
  takenBack: false,
  ...more,
});
/** The server says how things stand. */
const say = (recording: Partial<Recording>, entries: BenchEntry[] = [], change = 1): Promise<void> =>
  act(async () => {
    told = change;
    const state: BenchState = {
      recording: { ...RECORDING, runId: RUN, startedAt: Date.now() - 600_000, ...recording },
      entries,
      live: null,
      change,
      now: Date.now(),
    };
    Stream.all.at(-1)!.dispatchEvent(new MessageEvent('state', { data: JSON.stringify(state) }));
  });
const tap = (name: string | RegExp): void => void fireEvent.click(screen.getByRole('button', { name }));
const connection = (): string => screen.getByRole('status', { name: 'Connection' }).textContent!;
const changes = (kind: string): Sent[] =>
  sent.flatMap(({ change }) => (change.kind === kind ? [change] : []));

async function bench(): Promise<void> {
  await show(
    <KeysProvider>
      <BenchScreen runId={RUN} />
    </KeysProvider>,
  );
  await until(() => Stream.all.length > 0);
}

describe('a run at the bench', () => {
  it('is followed by a reader, who has nothing to type with and ends nothing', async () => {
    await show(
      <RoleProvider role="reader">
        <KeysProvider>
          <BenchScreen runId={RUN} />
        </KeysProvider>
      </RoleProvider>,
    );
    await until(() => Stream.all.length > 0);
    await say({ status: 'ready', startedAt: null });
    expect(screen.queryByRole('button', { name: 'Start recording' })).toBeNull();
    // its planned end is over: the server ends it
    await say({ status: 'running', startedAt: Date.now() - 24 * 3600_000 }, [], 2);
    expect(screen.getByText(/^You are signed in as a viewer/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Save reading' })).toBeNull();
    expect(screen.queryByRole('radio', { name: 'Markers' })).toBeNull();
    expect(sent).toEqual([]);
  });
  it('is started, typed to, marked and ended, and its card hears of it', async () => {
    await bench();
    await say({ status: 'ready', startedAt: null, step: CARD });
    expect(connection()).toBe('All sent');
    tap('Start recording');
    await until(() => changes('started').length === 1);
    expect(changes('start')).toHaveLength(1);
    expect(sent.find(({ change }) => change.kind === 'started')!.path).toBe(
      `/api/cards/${CARD.cardId}/changes`,
    );
    await say({ status: 'running', step: CARD }, [], 2);
    for (const digit of '412') tap(digit);
    tap('Save reading');
    await until(() => changes('put').length === 1);
    expect(changes('put')[0]).toMatchObject({
      line: { type: 'skin', spot: 'back', c: 41.2, by: 'infrared' },
      open: false,
    });
    const lastEntry = screen.getByRole('status', { name: 'Last entry' });
    await until(() => /41\.2.*on the server/.test(lastEntry.textContent!));
    fireEvent.click(screen.getByRole('radio', { name: 'Markers' }));
    tap('Stutter');
    await until(() => changes('put').length === 2);
    expect(changes('put')[1]).toMatchObject({ line: { type: 'mark', kind: 'stutter' } });
    // another title comes on: the day hears of it, and of its undoing
    tap('Changes and next title');
    fireEvent.change(screen.getByLabelText('Next title'), { target: { value: 'Hexgarden' } });
    tap('Starts now');
    await until(() => changes('title').length === 1);
    expect(changes('title')[0]).toMatchObject({
      title: 'Hexgarden',
      stepId: CARD.stepId,
      repeat: CARD.repeat,
    });
    await until(() =>
      /saved on the server/.test(screen.getByRole('status', { name: 'Last entry' }).textContent!),
    );
    tap('Undo last entry');
    await until(() => changes('take-back').length === 2);
    expect(changes('take-back')).toContainEqual(expect.objectContaining({ event: changes('title')[0]!.id }));
    fireEvent.click(screen.getByRole('radio', { name: 'Run' }));
    const end = screen.getByRole('group', { name: 'End recording' });
    fireEvent.click(within(end).getByRole('button', { name: 'crashed' }));
    await until(() => changes('ended').length === 1);
    expect(changes('end')).toEqual([expect.objectContaining({ reason: 'crash' })]);
    expect(changes('ended')[0]).toMatchObject({ how: 'crashed', stepId: CARD.stepId });
  });

  it('keeps what is typed while nobody answers, says so, and takes back the last entry', async () => {
    await bench();
    await say({});
    reached = false;
    await act(async () => Stream.all.at(-1)!.onerror!());
    for (const digit of '390') tap(digit);
    tap('Save reading');
    await until(() => connection() === 'Server not reached: 1 waiting to send');
    expect(screen.getByRole('status', { name: 'Last entry' }).textContent).toContain('saved on this device');
    tap('Undo last entry');
    await until(() => screen.queryByRole('status', { name: 'Last entry' }) === null);
    reached = true;
    await until(() => changes('take-back').length === 1);
    expect(changes('take-back')[0]).toMatchObject({ entry: changes('put')[0]!.entry });
  });

  it('shows what another screen types, and warns of what is hot', async () => {
    await bench();
    await say({}, [entry('a', skin(300_000, 43.2))]);
    await until(() => screen.queryByRole('alert')?.textContent?.includes('43.2') === true);
    await say({}, [entry('b', skin(360_000, 48.4))], 2);
    await until(() => /put the device down/i.test(screen.getByRole('alert').textContent!));
    await say({}, [entry('b', skin(360_000, 48.4), { takenBack: true }), entry('a', skin(300_000, 38.2))], 3);
    await until(() => screen.queryByRole('alert') === null);
  });

  it('ends by itself at its planned end with the line that the server would write, once', async () => {
    await bench();
    await say({
      plan: { ...RECORDING.plan, minutes: 10, endsItself: true },
      startedAt: Date.now() - 10 * 60_000 - 2000,
    });
    await until(() => changes('end').length > 0);
    await say(
      {
        plan: { ...RECORDING.plan, minutes: 10, endsItself: true },
        status: 'ended',
        end: { atMs: 600_000, reason: 'planned' },
        settled: false,
      },
      [],
      2,
    );
    expect(changes('end')).toEqual([
      expect.objectContaining({
        atMs: 600_000,
        reason: 'planned',
        entry: expect.stringMatching(/^[0-9a-f-]{36}$/),
      }),
    ]);
    expect(screen.getByText('The figures include everything received so far.')).toBeTruthy();
    await say({ status: 'ended', end: { atMs: 600_000, reason: 'planned' } }, [], 3);
    tap('Show figures');
    expect(mockNavigate).toHaveBeenCalledWith(`/runs/${RUN}`);
    // the cool-down begins with the bench's last reading
    await say(
      { status: 'ended', end: { atMs: 600_000, reason: 'planned' }, startedAt: 1_000_000 },
      [entry('h', skin(590_000, 41))],
      4,
    );
    tap('Track cool-down');
    await until(() => changes('reading').length === 1);
    expect(changes('watch')[0]).toMatchObject({
      device: 'Velm 5',
      spot: 'back',
      roomC: 18.5,
      readyC: 21.5,
      startedAt: 1_600_000,
    });
    expect(changes('reading')[0]).toMatchObject({ c: 41, at: 1_600_000 });
  });

  it('that the server has not says so', async () => {
    await bench();
    status = 404;
    await act(async () => Stream.all.at(-1)!.onerror!());
    await until(() => screen.queryByText('Recording not found') !== null);
  });
});
