import type { SyntheticRecord } from '@pace-check/contract';
import { fireEvent, screen, within } from '@testing-library/react';
import { show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { readParts, readScores } from './synthetic';
import { SyntheticScreen } from './SyntheticScreen';

jest.mock('expo-router', () => ({ Link: ({ children }: { children: unknown }) => children }));

describe('what is typed', () => {
  it.each<[string, number[]]>([
    ['4100', [4100]],
    ['4,100', [4100]],
    ['4 100; 3 950', [4100, 3950]],
    ['4,100, 3,950, 3,700', [4100, 3950, 3700]],
    ['1,234,567\n800', [1234567, 800]],
  ])('“%s” are scores', (text, scores) => expect(readScores(text)).toEqual(scores));
  it('what is no number is told as none', () => expect(readScores('four')).toEqual([NaN]));
  it('parts are a name and a number a line', () =>
    expect(readParts('graphics: 2,000\nprocessor 2100\n')).toEqual([
      { name: 'graphics', score: 2000 },
      { name: 'processor', score: 2100 },
    ]));
});

const RECORD: SyntheticRecord = {
  id: '00000000-0000-4000-8000-00000000000a',
  doc: {
    device: 'Velm 5',
    tool: 'Plumb Line',
    version: '3',
    scores: [4100, 3075],
    parts: [{ name: 'graphics', score: 2000 }],
    coldC: 22,
    hotC: 36,
    roomC: null,
    date: null,
    note: '',
  },
  loop: { first: 4100, last: 3075, lowest: 3075, ratio: 0.75 },
  riseC: 14,
  question: '3.0 times the best score of its class (Velm 4): another version, or a typing error?',
};

it('a score stands with its loop, its rise and why it is questioned', async () => {
  standInServer(({ path }) => ({ body: path.includes('/kit') ? { devices: [] } : [RECORD] }));
  await show(<SyntheticScreen />);
  await until(() => screen.queryByRole('list', { name: 'Synthetic scores' }) !== null);
  const row = within(screen.getByRole('list', { name: 'Synthetic scores' })).getByRole('listitem');
  expect(row.textContent).toContain('Velm 5, Plumb Line 34,100');
  expect(row.textContent).toContain('graphics 2,000 · 2 passes: 4,100 to 3,075, 75 % left');
  expect(row.textContent!.replaceAll('\u00a0', ' ')).toContain('from 22.0 °C · 14.0 °C warmer afterwards');
  expect(row.textContent).toContain('Doubtful: 3.0 times the best score of its class (Velm 4)');
});

it('one is noted; what is no number is pointed at, and stays typed', async () => {
  const sent: unknown[] = [];
  standInServer(({ method, path, body }) => {
    if (method === 'POST') sent.push(body);
    return { body: path.includes('/kit') ? { devices: [] } : method === 'POST' ? RECORD : [] };
  });
  await show(<SyntheticScreen />);
  await until(() => screen.queryByText('No scores yet.') !== null);
  fireEvent.click(screen.getByRole('button', { name: 'Add score' }));
  const form = within(screen.getByRole('form', { name: 'New score' }));
  const type = (label: string, value: string): void =>
    void fireEvent.change(form.getByLabelText(label), { target: { value } });
  type('Device', 'Velm 5');
  type('Tool', 'Plumb Line');
  type('Score (for a loop, one per pass)', 'four');
  fireEvent.click(form.getByRole('button', { name: 'Save score' }));
  expect(form.getByRole('alert').textContent).toMatch(/^scores: /);
  expect(sent).toEqual([]);
  type('Score (for a loop, one per pass)', '4,100, 3,075');
  fireEvent.click(form.getByRole('button', { name: 'Save score' }));
  await until(() => sent.length === 1);
  expect(sent[0]).toMatchObject({ doc: { device: 'Velm 5', tool: 'Plumb Line', scores: [4100, 3075] } });
});
