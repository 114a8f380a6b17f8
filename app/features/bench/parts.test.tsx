import type { BenchSource } from '@pace-check/contract';
import { LiveRun, type EntryLine } from '@pace-check/core';
import AsyncStorage from '@react-native-async-storage/async-storage';
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react';
import { useState, type ReactNode } from 'react';
import { show } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { Log } from './Log';
import { Marks } from './Marks';
import type { ShownEntry } from './merge';
import { Pad } from './Pad';
import { PaceNow } from './PaceNow';
import { Latest, Warnings } from './Latest';
import { benchView, tellOf } from './view';
import { RECORDING as recording, skin } from '../../testing/bench';

let mockPace: object | null = null;
jest.mock('./useBench', () => ({
  writer: 'me',
  runClock: () => 600_000,
  usePace: () => mockPace,
}));

const NOW = 600_000;
const shown = (id: string, line: EntryLine, more: Partial<ShownEntry> = {}): ShownEntry => ({
  id,
  line,
  open: false,
  source: null,
  writer: 'me',
  takenBack: false,
  kept: 'sent',
  refused: null,
  n: null,
  ...more,
});
/** What an element says, with plain spaces. */
const said = (element: HTMLElement): string => element.textContent!.replaceAll('\u00a0', ' ');
const tap = (name: string | RegExp): void => void fireEvent.click(screen.getByRole('button', { name }));

beforeEach(() => AsyncStorage.clear());

describe('the pad', () => {
  let kept: EntryLine[];
  const pad = async (lines: EntryLine[] = [], charging = false): Promise<void> => {
    kept = [];
    await show(
      <Pad
        recording={recording}
        view={benchView(recording, tellOf(lines, null), NOW)}
        charging={charging}
        onLine={(line) => kept.push(line(NOW))}
      />,
    );
  };
  it('takes a temperature at the spot that is due, with tenths without a point', async () => {
    await pad([skin(NOW, 40)]);
    for (const digit of '412') tap(digit);
    expect(screen.getByLabelText('Entered value').textContent).toBe('41.2');
    tap('Save reading');
    expect(kept).toEqual([{ type: 'skin', atMs: NOW, spot: 'front', c: 41.2, by: 'infrared' }]);
    expect(screen.getByLabelText('Entered value').textContent).toBe('–');
  });
  it('asks once about what can hardly be, and keeps it on a second tap', async () => {
    await pad([skin(NOW, 40)]);
    for (const digit of '68') tap(digit);
    tap('Save reading');
    expect(kept).toEqual([]);
    expect(said(screen.getByRole('alert'))).toBe(
      'Skin at 68.0 °C? 68 °F would be 20.0 °C. Correct it, or tap “Keep it”: it is saved as doubtful and not counted.',
    );
    tap('Save reading');
    expect(kept).toMatchObject([{ type: 'skin', c: 68 }]);
    // another value is another question
    expect(screen.queryByRole('alert')).toBeNull();
  });
  it('does not change what is read while a number is typed', async () => {
    kept = [];
    const Bench = (): ReactNode => {
      const [lines, setLines] = useState([skin(NOW, 40)]);
      return (
        <>
          <button onClick={() => setLines([...lines, skin(NOW, 39, 'front')])}>
            someone reads the front
          </button>
          <Pad
            recording={recording}
            view={benchView(recording, tellOf(lines, null), NOW)}
            charging={false}
            onLine={(line) => kept.push(line(NOW))}
          />
        </>
      );
    };
    await show(<Bench />);
    tap('3');
    tap('someone reads the front');
    tap('9');
    tap('Save reading');
    expect(kept).toEqual([expect.objectContaining({ type: 'skin', spot: 'front', c: 39 })]);
  });
  it('takes percent, rates and estimates, each as what it is', async () => {
    await pad([], true);
    fireEvent.click(screen.getByRole('radio', { name: 'Battery percent' }));
    for (const digit of '87') tap(digit);
    tap('Save reading');
    fireEvent.click(screen.getByRole('radio', { name: 'Rate from a counter' }));
    fireEvent.click(screen.getByRole('radio', { name: 'in-game counter' }));
    for (const digit of '58') tap(digit);
    tap('Save reading');
    fireEvent.click(screen.getByRole('radio', { name: 'Rate estimated by eye' }));
    for (const digit of '40') tap(digit);
    tap('Save reading');
    expect(kept).toEqual([
      { type: 'battery', atMs: NOW, percent: 87, charging: true },
      { type: 'rate', atMs: NOW, fps: 58, by: 'in-title' },
      { type: 'rate', atMs: NOW, fps: 40, by: 'eye' },
    ]);
  });
  it('does not keep what cannot be, and says so', async () => {
    await pad();
    fireEvent.click(screen.getByRole('radio', { name: 'Battery percent' }));
    for (const digit of '187') tap(digit);
    expect(screen.getByText('impossible value')).toBeTruthy();
    tap('Save reading');
    expect(kept).toEqual([]);
    tap('Delete a digit');
    tap('Save reading');
    expect(kept).toHaveLength(1);
  });
  it('is typed on by keys where there are some', async () => {
    await pad();
    for (const key of ['3', '9', '.', '5']) fireEvent.keyDown(document, { key });
    fireEvent.keyDown(document, { key: 'Enter' });
    expect(kept).toEqual([expect.objectContaining({ c: 39.5, spot: 'back' })]);
  });
  it('thinks in the reader’s scale', async () => {
    await AsyncStorage.setItem('pace-check.voice', JSON.stringify({ unit: 'F' }));
    await pad();
    for (const digit of '1040') tap(digit);
    tap('Save reading');
    expect(kept).toEqual([expect.objectContaining({ c: 40 })]);
  });
});

const REST = { onChange: () => undefined, of: { device: 'Velm 5', roomC: 18 } };

describe('marks', () => {
  it('are a tap each; spans are on until they are tapped again', async () => {
    const lines: { line: EntryLine; open: boolean }[] = [];
    const closed: string[] = [];
    const going = shown('m', { type: 'span', fromMs: 1000, toMs: 1000, kind: 'menu' }, { open: true });
    await show(
      <Marks
        entries={[going]}
        nowMs={() => NOW}
        onLine={(line, open = false) => lines.push({ line: line(NOW), open })}
        onClose={(entry) => closed.push(entry.id)}
        {...REST}
      />,
    );
    tap('Freeze');
    fireEvent.click(screen.getByRole('switch', { name: 'Charging' }));
    fireEvent.click(screen.getByRole('switch', { name: 'Menu' }));
    expect(lines).toEqual([
      { line: { type: 'mark', atMs: NOW, kind: 'freeze' }, open: false },
      { line: { type: 'span', fromMs: NOW, toMs: NOW, kind: 'charging' }, open: true },
    ]);
    expect(closed).toEqual(['m']);
  });
  it('put the device into a state and begin another title, without stopping the clock', async () => {
    const lines: { line: EntryLine; open: boolean }[] = [];
    const closed: string[] = [];
    const going = shown('c', { type: 'span', fromMs: 60_000, toMs: 60_000, kind: 'cooler' }, { open: true });
    standInServer(() => ({ body: { titles: [{ name: 'Hexgarden' }], devices: [], accessories: [] } }));
    await show(
      <Marks
        entries={[going]}
        nowMs={() => NOW}
        onLine={(line, open = false) => lines.push({ line: line(NOW), open })}
        onClose={(entry) => closed.push(entry.id)}
        {...REST}
      />,
    );
    // what is on is seen without opening anything
    tap('On now: cooler');
    const states = within(screen.getByRole('group', { name: 'Changes during the run' }));
    expect(states.getByRole('switch', { name: 'Turn cooler on or off' }).getAttribute('aria-checked')).toBe(
      'true',
    );
    expect(states.getByText('on since 1:00')).toBeTruthy();
    fireEvent.click(states.getByRole('switch', { name: 'Turn cooler on or off' }));
    fireEvent.click(states.getByRole('switch', { name: 'Turn boost on or off' }));
    expect(screen.getByRole('button', { name: 'Starts now' }).getAttribute('aria-disabled')).toBe('true');
    fireEvent.change(screen.getByLabelText('Next title'), { target: { value: 'Hexgarden' } });
    tap('Starts now');
    expect(closed).toEqual(['c']);
    expect(lines).toEqual([
      { line: { type: 'span', fromMs: NOW, toMs: NOW, kind: 'boost' }, open: true },
      { line: { type: 'title', atMs: NOW, title: 'Hexgarden' }, open: false },
    ]);
    expect((screen.getByLabelText('Next title') as HTMLInputElement).value).toBe('');
  });
  it('begin a title that was played before, which loads, at its first play', async () => {
    const lines: { line: EntryLine; open: boolean }[] = [];
    const played = {
      id: 't',
      line: { type: 'title' as const, atMs: 0, title: 'Hexgarden' },
      open: false,
      kept: 'kept' as const,
    };
    await show(
      <Marks
        entries={[played as never]}
        nowMs={() => NOW}
        onLine={(line, open = false) => lines.push({ line: line(NOW), open })}
        onClose={() => undefined}
        {...REST}
      />,
    );
    tap('Changes and next title');
    tap('Hexgarden');
    fireEvent.click(screen.getByRole('switch', { name: 'First play' }));
    tap('Loads first');
    expect(lines).toEqual([
      { line: { type: 'title', atMs: NOW, title: 'Hexgarden', firstPlay: true }, open: false },
      { line: { type: 'span', fromMs: NOW, toMs: NOW, kind: 'loading' }, open: true },
    ]);
  });
  it('ask where the cooler sits once it is on, and warn of water', async () => {
    const changed: EntryLine[] = [];
    const going = shown('c', { type: 'span', fromMs: 60_000, toMs: 60_000, kind: 'cooler' }, { open: true });
    standInServer(() => ({
      body: {
        ...{ titles: [], setups: [], instruments: [], refusals: [] },
        devices: [{ id: 'd', name: 'Velm 5', facts: {}, spots: [{ spot: 'back by the vent' }], runs: 0 }],
        accessories: [{ id: 'a', name: 'Clip', facts: { contactSpot: 'back middle' }, runs: 0 }],
      },
    }));
    await show(
      <Marks
        entries={[going]}
        nowMs={() => NOW}
        onLine={() => undefined}
        onClose={() => undefined}
        {...REST}
        onChange={(_, line) => changed.push(line)}
      />,
    );
    tap('On now: cooler');
    const asked = within(screen.getByRole('group', { name: 'The cooler' }));
    expect(asked.getByRole('note').textContent).toMatch(/Water can condense on a cold plate/);
    fireEvent.change(asked.getByLabelText('Cooler position'), { target: { value: ' over the chip ' } });
    fireEvent.change(asked.getByLabelText('Cooler plate temperature, °C'), { target: { value: '9.5' } });
    tap('Add cooler position');
    expect(changed).toEqual([
      { type: 'span', fromMs: 60_000, toMs: 60_000, kind: 'cooler', place: 'over the chip', plateC: 9.5 },
    ]);
  });
  it('take a note, once, of the moment at which it was begun', async () => {
    const lines: EntryLine[] = [];
    let now = NOW;
    await show(
      <Marks
        entries={[]}
        nowMs={() => now}
        onLine={(line) => lines.push(line(now))}
        onClose={() => undefined}
        {...REST}
      />,
    );
    tap('Add note');
    now += 25_000;
    const field = screen.getByLabelText('Note');
    fireEvent.change(field, { target: { value: 'gulls' } });
    fireEvent.blur(field);
    expect(lines).toEqual([{ type: 'mark', atMs: NOW, kind: 'note', note: 'gulls' }]);
  });
});

describe('the pace now', () => {
  const splits = [{ average: 58 }, { average: 51.4 }];
  const pace = (heardMs: number): object => ({ source: 's', heardMs, figures: new LiveRun(5, []).figures() });
  const figures = (heardMs: number): object => ({
    ...pace(heardMs),
    figures: {
      ...(pace(heardMs) as { figures: object }).figures,
      recent: [58, null, 51.37],
      splits,
      opening: 59.9,
      onePercentLow: 44,
    },
  });
  const shownNow = async (lines: EntryLine[] = []): Promise<string> => {
    await show(<PaceNow recording={recording} view={benchView(recording, tellOf(lines, null), NOW)} />);
    return screen.getByLabelText('Current pace').textContent!;
  };
  afterEach(() => (mockPace = null));
  it('is the last second that was heard, beside split, split before and opening', async () => {
    mockPace = figures(NOW - 900);
    expect(await shownNow()).toBe('51.4');
    expect(said(document.body)).toMatch(/split 251\.4previous split58\.0opening59\.9/);
    expect(screen.queryByText(/no frames since/)).toBeNull();
  });
  it('is none where no frame has come for a while, and what was read off since then where something was', async () => {
    mockPace = figures(480_000);
    expect(await shownNow([{ type: 'rate', atMs: 470_000, fps: 60, by: 'overlay' }])).toBe('–');
    expect(screen.getByText('no frames since 8:00')).toBeTruthy();
    cleanup();
    expect(await shownNow([{ type: 'rate', atMs: 540_000, fps: 43, by: 'in-title' }])).toBe('43');
    expect(screen.getByText('fps, entered at 9:00')).toBeTruthy();
  });
});

describe('what was noted', () => {
  const source: BenchSource = {
    id: 's',
    name: 'probe',
    kind: 'other',
    standIn: false,
    revoked: false,
    ended: null,
    frames: 0,
    lines: 1,
    refused: 0,
    refusals: [],
    held: 0,
    heardAt: null,
  };
  const entries = [
    shown('a', skin(60_000, 30)),
    shown('b', skin(120_000, 31, 'front'), { kept: 'here' }),
    shown('c', skin(180_000, 32), { source: 's', writer: null }),
    shown('d', { type: 'power', atMs: 1, mw: 5 }, { source: 's' }),
    shown('e', { type: 'mark', atMs: 200_000, kind: 'dim' }, { writer: 'other' }),
  ];
  const log = async (more: Partial<Parameters<typeof Log>[0]> = {}): Promise<void> => {
    await show(
      <Log
        entries={entries}
        sources={[source]}
        onChange={() => undefined}
        onTakeBack={() => undefined}
        onDrop={() => undefined}
        {...more}
      />,
    );
  };
  it('stands with the latest first, who wrote it, and how far it has come', async () => {
    await log();
    const rows = within(screen.getByRole('list', { name: 'Entries' })).getAllByRole('listitem');
    expect(rows.map(said)).toEqual([
      '3:20marker: dimanother screen',
      '3:0032.0 °C at back, infraredprobe',
      '2:0031.0 °C at front, infraredthis screen',
      '1:0030.0 °C at back, infraredthis screen',
    ]);
    expect(within(rows[2]!).getByRole('img', { name: 'saved here, waiting to send' })).toBeTruthy();
    expect(within(rows[3]!).getByRole('img', { name: 'saved on the server' })).toBeTruthy();
  });
  it('is taken back, but not what a source sent', async () => {
    const back: string[] = [];
    await log({ onTakeBack: (entry) => back.push(entry.id) });
    expect(screen.queryByRole('button', { name: /^Delete 32/ })).toBeNull();
    tap(/^Delete 30/);
    expect(back).toEqual(['a']);
  });
  it('is corrected in its value and its time', async () => {
    const changes: EntryLine[] = [];
    await log({ onChange: (_entry, line) => changes.push(line) });
    tap(/^Edit 30/);
    fireEvent.change(screen.getByLabelText('Value'), { target: { value: '30,5' } });
    fireEvent.change(screen.getByLabelText('Time, minutes and seconds'), { target: { value: '1:30' } });
    tap('Save');
    expect(changes).toEqual([skin(90_000, 30.5)]);
  });
  it('does not take a correction that is none', async () => {
    const changes: EntryLine[] = [];
    await log({ onChange: (_entry, line) => changes.push(line) });
    tap(/^Edit 30/);
    fireEvent.change(screen.getByLabelText('Value'), { target: { value: 'warm' } });
    tap('Save');
    expect(changes).toEqual([]);
  });
  it('says why it was refused, and can be dropped', async () => {
    const dropped: string[] = [];
    await log({
      entries: [shown('a', skin(1, 30), { kept: 'refused', refused: 'the field “line.c”', n: 4 })],
      onDrop: (entry) => dropped.push(entry.id),
    });
    expect(screen.getByRole('alert').textContent).toContain('the field “line.c”');
    tap('Discard');
    expect(dropped).toEqual(['a']);
  });
});

describe('how it stands', () => {
  it('shows the last readings, the hottest first, and what they foretell', async () => {
    const lines = [
      ...[0, 2, 5, 8].map((minute) =>
        skin(minute * 60_000, 44 - 24 * Math.exp(-minute / 6) + (minute % 2 ? 0.05 : -0.05)),
      ),
      skin(595_000, 39.7),
      skin(590_000, 45.1, 'front'),
    ];
    await show(<Latest recording={recording} view={benchView(recording, tellOf(lines, null), NOW)} />);
    expect(
      within(screen.getByRole('list', { name: 'Latest readings' }))
        .getAllByRole('listitem')
        .map(said),
    ).toEqual(['45.1°0:10front', '39.7°nowback']);
    expect(said(screen.getByRole('note'))).toMatch(
      /^back will level off at 44\.\d °C ± \d\.\d in \d+ min; 43\.0 °C at \d+:\d\d\.$/,
    );
  });
  it('warns with the reason', async () => {
    await show(<Warnings view={benchView(recording, tellOf([skin(1, 48.4)], null), NOW)} />);
    await act(async () => undefined);
    expect(said(screen.getByRole('alert'))).toMatch(/48\.4 °C: stop and put the device down.*skin can burn/);
  });
});
