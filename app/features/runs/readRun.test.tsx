import 'fake-indexeddb/auto';
import AsyncStorage from '@react-native-async-storage/async-storage';
import type { Kit, RunDetail } from '@pace-check/contract';
import type { EntryLine } from '@pace-check/core';
import { fireEvent, screen, within } from '@testing-library/react';
import { outbox } from '../../outbox';
import { at, runWith, show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { DoingSection } from './DoingSection';
import { Measures } from './Measures';
import { QuickResultScreen } from './results/QuickResultScreen';
import { TypedScreen } from './typed/TypedScreen';
import { ScenesSection } from './ScenesSection';
import { Spans } from './Spans';
import { SplitTable } from './SplitTable';
import { Verdict } from './Verdict';

const mockNavigate = jest.fn();
jest.mock('expo-router', () => ({
  useRouter: () => ({ navigate: mockNavigate }),
  useLocalSearchParams: () => ({}),
  Link: ({ children }: { children: unknown }) => children,
}));

const KIT: Kit = {
  devices: [],
  accessories: [],
  instruments: [],
  titles: [
    {
      id: '1',
      name: 'Aurelune',
      runs: 1,
      facts: { scenes: [{ name: 'hard track', weight: 'hard' }] },
    },
  ],
  setups: [],
  refusals: [],
};
let sent: { method: string; path: string; body: unknown }[];
beforeEach(async () => {
  await AsyncStorage.clear();
  mockNavigate.mockClear();
  sent = [];
  standInServer(({ method, path, body }) => {
    sent.push({ method, path, body });
    if (path.includes('/kit')) return { body: KIT };
    // results stay in the outbox: there the test looks at them
    if (method === 'POST') return null;
    if (/^\/api\/runs(\?|$)/.test(path)) return { body: [summary()] };
    return { body: {} };
  });
});
afterEach(async () => {
  for (const { n } of outbox.snapshot().waiting) await outbox.drop(n);
});

const rate = (minute: number, fps: number): EntryLine => ({
  type: 'rate',
  atMs: minute * 60_000,
  fps,
  by: 'overlay',
});
const fading = (): RunDetail =>
  runWith({
    entries: [
      rate(0, 60),
      rate(1, 58),
      rate(26, 48),
      rate(28, 50),
      { type: 'end', atMs: 1_800_000, reason: 'planned' },
    ],
    facts: { need: 'action', target: 60 },
  });
const summary = (): RunDetail => ({ ...fading(), setup: 'Highest' });

describe('a run that was read off', () => {
  it('says its stamina between two ends, and the bar that it was judged by', async () => {
    await show(
      <>
        <Measures run={fading()} />
        <Verdict run={fading()} />
      </>,
    );
    expect(screen.getByText(/^79 to 88\s%$/)).toBeTruthy();
    expect(screen.getByText('eases or fades')).toBeTruthy();
    expect(screen.getByText(/^for action: average at least 45, 1\s%\slow at least 30$/)).toBeTruthy();
  });
  it('is not settled where its ends lie on both sides of the bars', async () => {
    await show(
      <Verdict
        run={runWith({ entries: [{ type: 'rate', fps: 45, by: 'eye' }], facts: { need: 'action' } })}
      />,
    );
    expect(screen.getByText('unclear')).toBeTruthy();
  });
  it('says what each letter rests on', async () => {
    await show(<Verdict run={runWith({ entries: [{ type: 'rate', fps: 45, by: 'overlay' }] })} />);
    expect(screen.getByText('C')).toBeTruthy();
    expect(screen.getByText('pace: rough (counter readings, length unknown)')).toBeTruthy();
  });
  it('is told as it was written, and what the eye said beside it', async () => {
    await show(
      <Measures
        run={runWith({
          entries: [
            { type: 'rate', atMs: 300_000, low: 51, high: 55, by: 'overlay' },
            { type: 'rate', atMs: 1_680_000, low: 20, high: 30, by: 'overlay' },
            { type: 'rate', atMs: 60_000, fps: 60, by: 'eye' },
            { type: 'feel', word: 'barely' },
            { type: 'end', atMs: 1_800_000, reason: 'planned' },
          ],
        })}
      />,
    );
    expect(screen.getByText('51 to 55 → 20 to 30')).toBeTruthy();
    expect(screen.getByText(/^51 to 55\sfps at 5:00, 20 to 30 at 28:00$/)).toBeTruthy();
    expect(screen.getByText(/^60\sfps at 1:00$/)).toBeTruthy();
    expect(screen.getByText('barely')).toBeTruthy();
    expect(screen.getByText('of the opening pace: buckles')).toBeTruthy();
  });
  it('has splits with their ends', async () => {
    await show(<SplitTable run={fading()} />);
    const rows = screen.getAllByRole('row').map((row) => row.textContent);
    expect(rows[1]).toContain('58.5 to 59.5');
    // a split in which nothing was read is no row
    expect(rows.every((row) => /\d to \d/.test(row ?? '') || /from/.test(row ?? ''))).toBe(true);
  });
  it('shows its scenes, and which of them are hard', async () => {
    const entries: EntryLine[] = [{ type: 'rate', low: 44, high: 48, by: 'overlay', scene: 'hard track' }];
    await show(<ScenesSection run={runWith({ entries })} />);
    expect(await screen.findByText('hard track (hard)')).toBeTruthy();
    expect(screen.getByText('44 to 48')).toBeTruthy();
  });
});

describe('what a device was doing', () => {
  it('is one picture for each thing and place, doubtful values apart', async () => {
    const entries: EntryLine[] = [
      { type: 'load', atMs: 0, cpu: 0.02, gpu: 70 },
      { type: 'load', atMs: 1000, cpu: 0.02, gpu: 72 },
      { type: 'power', atMs: 0, mw: 4000 },
      { type: 'power', atMs: 0, mw: 9000, of: 'wall' },
    ];
    await show(<DoingSection run={runWith({ frames: at(60, 60), entries })} />);
    const pictures = screen.getAllByRole('img').map((one) => one.getAttribute('aria-label'));
    expect(pictures).toEqual([
      'cpu: mean –, most – %',
      'gpu: mean 71.0, most 72.0 %',
      'power, device: mean 4.0, most 4.0 W',
      'power, wall: mean 9.0, most 9.0 W',
    ]);
    expect(screen.getByText(/crosses are impossible values/)).toBeTruthy();
  });
});

describe('a line of a run', () => {
  it('is corrected in words, and not turned into another kind', async () => {
    const run = {
      ...fading(),
      entries: [
        {
          id: '7',
          source: 'hand' as const,
          line: { type: 'mark', atMs: 60_000, kind: 'stutter' } as EntryLine,
        },
      ],
    };
    await show(<Spans run={run} drawn={null} />);
    fireEvent.click(screen.getByRole('button', { name: 'Edit 1:00: marker: stutter' }));
    const field = screen.getByLabelText('Entry as text');
    fireEvent.change(field, { target: { value: '1:00 58 fps' } });
    expect(screen.getByText(/another type/)).toBeTruthy();
    fireEvent.change(field, { target: { value: '1:05 froze on the bridge' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save entry' }));
    await until(() => sent.some((one) => one.method === 'PUT'));
    expect(sent.find((one) => one.method === 'PUT')).toMatchObject({
      path: expect.stringContaining('/entries/7'),
      body: { line: { type: 'mark', atMs: 65_000, kind: 'freeze', note: 'froze on the bridge' } },
    });
  });
});

describe('a quick result', () => {
  const tap = (...names: string[]): void =>
    names.forEach((name) => fireEvent.click(screen.getByRole('button', { name, exact: true } as object)));
  it('offers what was played last, takes what is tapped, points at what cannot be, and keeps it', async () => {
    await show(<QuickResultScreen />);
    fireEvent.click(await screen.findByRole('button', { name: /Aurelune on Velm 5/ }));
    expect(screen.getByRole('button', { name: 'Save' }).getAttribute('aria-disabled')).toBe('true');
    tap('5', '0', 'To (range)', '5', '5');
    // it was something else, or not: what was typed stays
    fireEvent.click(screen.getByRole('button', { name: 'Change title, device or setup' }));
    fireEvent.click(await screen.findByRole('button', { name: /Aurelune on Velm 5/ }));
    tap('Next');
    tap('6', '0');
    fireEvent.click(screen.getByRole('radio', { name: /^Near median/ }));
    expect(screen.getByRole('alert').textContent).toMatch(/1 % low: The 1 % low is above the average/);
    fireEvent.click(screen.getByRole('radio', { name: /^1 % low/ }));
    tap('Delete a digit', 'Delete a digit', '4', '4', 'Save');
    await until(() => mockNavigate.mock.calls.length > 0);
    expect(mockNavigate).toHaveBeenCalledWith('/');
    const [kept] = outbox.snapshot().waiting;
    expect(kept).toMatchObject({
      to: 'run',
      change: {
        kind: 'make',
        run: {
          facts: { device: 'Velm 5', title: 'Aurelune', setup: 'Highest' },
          fromKit: true,
          entries: [
            { type: 'rate', low: 50, high: 55, by: 'overlay' },
            { type: 'summary', by: 'overlay', onePercent: 44 },
          ],
        },
      },
    });
  });
});

describe('a sitting', () => {
  it('takes a pasted table, points at a cell, and keeps all rows once it is mended', async () => {
    await show(<TypedScreen />);
    fireEvent.click(screen.getByRole('radio', { name: 'a table of several' }));
    fireEvent.change(screen.getByLabelText('Table from a spreadsheet'), {
      target: { value: 'title\tfps\t1% low\nAurelune\t50–55\t70\nHexgarden\t25 ± 3\t' },
    });
    expect(screen.getByText('2 rows added to the table.')).toBeTruthy();
    expect(screen.getByLabelText('low, row 1').getAttribute('aria-invalid')).toBe('true');
    fireEvent.change(screen.getByLabelText('Device'), { target: { value: 'Velm 4' } });
    fireEvent.change(screen.getByLabelText('low, row 1'), { target: { value: '38' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save 2 results' }));
    await until(() => outbox.snapshot().waiting.length === 2);
    expect(within(document.body).queryByRole('alert')).toBeNull();
  });
});
