import type { EntryLine } from '@pace-check/core';
import { fireEvent, screen, within } from '@testing-library/react';
import { at, runWith, show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { NoteSwitch } from './NoteSwitch';
import { SittingSection } from './SittingSection';

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
    expect(screen.queryByText('Titles and switches')).toBeNull();
  });

  it('stand end to end with what each took, and say where the titles are not told apart', async () => {
    const lines = [title(0, 'Aurelune'), title(10, 'Hexgarden'), battery(0, 90), battery(20, 80)];
    await show(<SittingSection run={runWith({ frames: at(60, 1200), entries: lines })} />);
    const list = within(screen.getByRole('list', { name: 'Titles of the sitting' }));
    expect(list.getAllByRole('listitem').map((row) => row.textContent)).toEqual([
      'Aurelune0:00 to 10:0060 fps',
      'Hexgarden10:00 to 20:0060 fps',
    ]);
    expect(screen.getByText(/^Inseparable: the readings do not tell the titles apart/)).toBeTruthy();
  });

  it('say what a switch did, against the same title without it', async () => {
    const lines: EntryLine[] = [{ type: 'span', fromMs: 10 * MIN, toMs: 20 * MIN, kind: 'case' }];
    await show(<SittingSection run={runWith({ frames: at(60, 1800), entries: lines })} />);
    const done = within(screen.getByRole('list', { name: 'What each switch did' }));
    expect(done.getByText('case: pace the same in practice.')).toBeTruthy();
    expect(done.getByText('on for 10 minutes')).toBeTruthy();
  });

  it('are noted afterwards by their times, and not backwards', async () => {
    const sent: unknown[] = [];
    standInServer(({ method, path, body }) => {
      if (path === '/api/kit') return { body: { titles: [] } };
      if (method === 'POST') sent.push(body);
      return { body: runWith({ frames: at(60, 300) }) };
    });
    await show(<NoteSwitch run={runWith({ frames: at(60, 300) })} />);
    fireEvent.click(screen.getByRole('button', { name: 'Something was switched' }));
    const form = within(screen.getByRole('form', { name: 'What was switched' }));
    const type = (label: string, text: string): void =>
      void fireEvent.change(
        form.getByLabelText(label.startsWith('O') ? `${label}, minutes and seconds` : label),
        { target: { value: text } },
      );
    type('On from', '4:00');
    type('Off at', '2:00');
    expect(form.getByText('It goes off before it comes on.')).toBeTruthy();
    type('Off at', '5:00');
    fireEvent.click(form.getByRole('button', { name: 'Note it' }));
    await until(() => sent.length === 1);
    expect(sent[0]).toEqual({ entries: [{ type: 'span', fromMs: 240_000, toMs: 300_000, kind: 'cooler' }] });
    fireEvent.click(form.getByRole('radio', { name: 'another title' }));
    type('Title from then on', 'Hexgarden');
    type('On from', '3:00');
    fireEvent.click(form.getByRole('button', { name: 'Note it' }));
    await until(() => sent.length === 2);
    expect(sent[1]).toEqual({ entries: [{ type: 'title', atMs: 180_000, title: 'Hexgarden' }] });
  });
});
