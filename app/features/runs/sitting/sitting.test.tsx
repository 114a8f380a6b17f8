import type { EntryLine } from '@pace-check/core';
import { fireEvent, screen, within } from '@testing-library/react';
import { at, runWith, show, until } from '../../../testing/render';
import { standInServer } from '../../../testing/server';
import { NoteSwitch } from '../NoteSwitch';
import { scale } from '../../../charts/scale';
import { SwitchBars } from './SwitchBars';
import { PartOf, SittingSection } from './SittingSection';
import { HoursOfPlay, LevelList, SittingCautions } from './told';

jest.mock('expo-router', () => ({
  Link: ({ href, children, ...props }: { href: string; children: React.ReactNode }) => (
    <a href={href} {...props}>
      {children}
    </a>
  ),
}));

const MIN = 60_000;
const title = (minute: number, name: string): EntryLine => ({
  type: 'title',
  atMs: minute * MIN,
  title: name,
});
const battery = (minute: number, percent: number): EntryLine => ({
  type: 'battery',
  atMs: minute * MIN,
  percent,
});

describe('titles and switches', () => {
  it('are nothing to speak of in a run of one title', async () => {
    await show(<SittingSection run={runWith({ frames: at(60, 300) })} />);
    expect(screen.queryByText('Titles and changes')).toBeNull();
  });

  it('stand end to end with what each took, and say where the titles are not told apart', async () => {
    const lines = [title(0, 'Aurelune'), title(10, 'Hexgarden'), battery(0, 90), battery(20, 80)];
    await show(<SittingSection run={runWith({ frames: at(60, 1200), entries: lines })} />);
    const list = within(screen.getByRole('list', { name: 'Titles in the session' }));
    expect(list.getAllByRole('listitem').map((row) => row.textContent)).toEqual([
      'Aurelune0:00 to 10:0060 fps',
      'Hexgarden10:00 to 20:0060 fps',
    ]);
    expect(screen.getByText(/^The readings do not separate the titles/)).toBeTruthy();
  });

  it('say what a switch did, against the same title without it', async () => {
    const lines: EntryLine[] = [{ type: 'span', fromMs: 10 * MIN, toMs: 20 * MIN, kind: 'case' }];
    await show(<SittingSection run={runWith({ frames: at(60, 1800), entries: lines })} />);
    const done = within(screen.getByRole('list', { name: 'Effect of each change' }));
    expect(done.getByText('case: pace the same in practice.')).toBeTruthy();
    expect(done.getByText('on for 10 minutes')).toBeTruthy();
  });

  it('are noted afterwards by their times, and not backwards', async () => {
    const sent: unknown[] = [];
    standInServer(({ method, path, body }) => {
      if (path === '/api/kit') return { body: { titles: [], devices: [], accessories: [] } };
      if (method === 'POST') sent.push(body);
      return { body: runWith({ frames: at(60, 300) }) };
    });
    await show(<NoteSwitch run={runWith({ frames: at(60, 300) })} />);
    fireEvent.click(screen.getByRole('button', { name: 'Add a change during the run' }));
    const form = within(screen.getByRole('form', { name: 'What was turned on' }));
    const type = (label: string, text: string): void =>
      void fireEvent.change(
        form.getByLabelText(label.startsWith('O') ? `${label}, minutes and seconds` : label),
        { target: { value: text } },
      );
    type('On at', '4:00');
    type('Off at', '2:00');
    expect(form.getByText('The end must be later than the start.')).toBeTruthy();
    type('Off at', '5:00');
    type('Cooler position', 'over the chip');
    fireEvent.click(form.getByRole('button', { name: 'Add change' }));
    await until(() => sent.length === 1);
    expect(sent[0]).toEqual({
      entries: [{ type: 'span', fromMs: 240_000, toMs: 300_000, kind: 'cooler', place: 'over the chip' }],
    });
    fireEvent.click(form.getByRole('radio', { name: 'another title' }));
    type('Title from this time on', 'Hexgarden');
    type('On at', '3:00');
    fireEvent.click(form.getByRole('button', { name: 'Add change' }));
    await until(() => sent.length === 2);
    expect(sent[1]).toEqual({ entries: [{ type: 'title', atMs: 180_000, title: 'Hexgarden' }] });
  });

  it('lead to the run that each title is, and a run of that kind back to its place', async () => {
    const run = runWith({ frames: at(60, 1200), entries: [title(10, 'Hexgarden')] });
    await show(
      <SittingSection
        run={{
          ...run,
          parts: [
            { id: 'a', name: 'A' },
            { id: 'b', name: 'B' },
          ],
        }}
      />,
    );
    expect(screen.getByRole('link', { name: 'Open Hexgarden as a single run' }).getAttribute('href')).toBe(
      '/runs/b',
    );
    await show(
      <PartOf
        run={{
          part: { sittingId: 's', sittingName: 'On deck', fromMs: 20 * MIN, toMs: 44 * MIN, last: true },
        }}
      />,
    );
    expect(screen.getByText(/^20:00 to 44:00 of/).textContent).toMatch(
      /of “On deck”: it started warm from the titles before\./,
    );
  });
});

describe('on one clock', () => {
  const fan = {
    id: 'e1',
    source: 'hand' as const,
    line: { type: 'span' as const, fromMs: 4 * MIN, toMs: 8 * MIN, kind: 'fan' },
  };
  const skin = Array.from({ length: 20 }, (_, i): EntryLine => ({
    type: 'skin',
    atMs: i * MIN,
    spot: 'back',
    c: 30 + i / 4,
    by: 'infrared',
  }));
  const x = scale([0, 1200], [0, 360]);

  it('an end of a switch is moved by keys, and what it was is put back', async () => {
    const sent: { path: string; body: unknown }[] = [];
    const run = { ...runWith({ frames: at(60, 1200), entries: [...skin, fan.line] }), entries: [fan] };
    standInServer(({ method, path, body }) => {
      if (method === 'PUT') sent.push({ path, body });
      return { body: run };
    });
    await show(<SwitchBars run={run} x={x} seconds={1200} fixed={run.part !== null} />);
    await until(() => screen.queryByRole('slider', { name: 'fan, off at' }) !== null);
    const off = screen.getByRole('slider', { name: 'fan, off at' });
    expect(off.getAttribute('aria-valuetext')).toBe('8:00');
    fireEvent.keyDown(off, { key: 'ArrowRight', shiftKey: true });
    await until(() => sent.length === 1);
    expect(sent[0]).toEqual({
      path: `/api/runs/${run.id}/entries/e1`,
      body: { line: { type: 'span', fromMs: 4 * MIN, toMs: 9 * MIN, kind: 'fan' } },
    });
    await until(() => screen.queryByText('fan: on from 4:00 to 9:00.') !== null);
    fireEvent.click(screen.getByRole('button', { name: 'Undo' }));
    await until(() => sent.length === 2);
    expect(sent[1]!.body).toEqual({ line: fan.line });
  });

  it('an end never passes the other one, nor leaves the run', async () => {
    const sent: { line: { fromMs: number; toMs: number } }[] = [];
    const short = { ...fan, line: { ...fan.line, fromMs: 0, toMs: 8000 } };
    const run = { ...runWith({ frames: at(60, 1200), entries: [short.line] }), entries: [short] };
    standInServer(({ method, body }) => {
      if (method === 'PUT') sent.push(body as never);
      return { body: run };
    });
    await show(<SwitchBars run={run} x={x} seconds={1200} fixed={run.part !== null} />);
    await until(() => screen.queryByRole('slider', { name: 'fan, on from' }) !== null);
    fireEvent.keyDown(screen.getByRole('slider', { name: 'fan, on from' }), { key: 'ArrowLeft' });
    await until(() => sent.length === 1);
    expect(sent[0]!.line).toMatchObject({ fromMs: 0, toMs: 8000 });
    fireEvent.keyDown(screen.getByRole('slider', { name: 'fan, on from' }), { key: 'ArrowRight' });
    await until(() => sent.length === 2);
    expect(sent[1]!.line).toMatchObject({ fromMs: 3000, toMs: 8000 });
  });

  it('a stretch of a sitting has nothing to move', async () => {
    const run = {
      ...runWith({ frames: at(60, 1200), entries: [fan.line] }),
      entries: [fan],
      part: { sittingId: 's', sittingName: 'S', fromMs: 0, toMs: MIN, last: false },
    };
    await show(<SwitchBars run={run} x={x} seconds={1200} fixed={run.part !== null} />);
    await until(() => screen.queryByRole('img', { name: 'fan on from 4:00 to 8:00' }) !== null);
    expect(screen.queryByRole('slider')).toBeNull();
  });
});

describe('beside the numbers', () => {
  it('hours on and off are told with both peaks', async () => {
    await show(
      <HoursOfPlay
        play={{
          playedS: 12_000,
          pausedS: 2400,
          pauses: 2,
          longestS: 5400,
          continuousPeak: { spot: 'back', c: 43.2, atS: 4800 },
          afterBreakPeak: null,
          dimmedAtS: [9000],
          playedUntilDimS: 7200,
        }}
      />,
    );
    const rows = within(screen.getByRole('list', { name: 'Long-play summary' })).getAllByRole('listitem');
    expect(rows.map((row) => row.textContent)).toEqual([
      'Played3:20:00, with 2 breaks of 40:00 in all',
      'Hottest in one stretch43.2\u00a0°C, back, at 1:20:00',
      'Hottest after a breakno reading',
      'Longest stretch1:30:00',
      'The screen dimmedafter 2:00:00 of play',
    ]);
  });

  it('cautions are told where they apply: water at the plate, charged while hot', async () => {
    const cool: EntryLine = { type: 'span', fromMs: 0, toMs: MIN, kind: 'cooler' };
    const charge: EntryLine = { type: 'span', fromMs: 2 * MIN, toMs: 4 * MIN, kind: 'charging' };
    const hot: EntryLine = { type: 'skin', atMs: 3 * MIN, spot: 'back', c: 44, by: 'infrared' };
    const run = runWith({ frames: at(60, 300), entries: [cool, charge, hot] });
    await show(<SittingCautions run={{ ...run, roomC: 25, preflight: { plateC: 7, humidity: 50 } }} />);
    expect(screen.getByText(/^Water condenses on the plate/)).toBeTruthy();
    expect(screen.getByText(/^Charged while hot: back at 44\.0.°C, at 3:00\./)).toBeTruthy();
  });

  it('levels are told by what was on', async () => {
    const lines: EntryLine[] = [{ type: 'span', fromMs: 20 * MIN, toMs: 40 * MIN, kind: 'cooler' }];
    let c = 24;
    for (let minute = 0; minute <= 60; minute += 2) {
      lines.push({ type: 'skin', atMs: minute * MIN, spot: 'back', c, by: 'infrared' });
      for (let s = 0; s < 120; s++) c += ((minute >= 20 && minute < 40 ? 34 : 38) - c) / 240;
    }
    const { figures } = runWith({ frames: at(60, 3600), entries: lines });
    await show(<LevelList sitting={figures.sitting!} />);
    const rows = within(screen.getByRole('list', { name: 'Where back levels off' })).getAllByRole('listitem');
    expect(rows.map((row) => row.textContent!.slice(0, 30))).toEqual([
      expect.stringMatching(/^title only38\.0/),
      expect.stringMatching(/^title only \+ cooler34\.0/),
    ]);
  });
});
