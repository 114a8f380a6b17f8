import AsyncStorage from '@react-native-async-storage/async-storage';
import { fireEvent, screen, within } from '@testing-library/react';
import { readNotebook } from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { show } from '../../testing/render';
import { linesKept, PaperCount, PaperNotes, roomOf } from './PaperNotes';
import { usePaper } from './usePaper';

function Sheet(): ReactNode {
  const [text, setText] = useState('');
  const paper = usePaper(text);
  return (
    <>
      <PaperNotes text={text} onText={setText} paper={paper} />
      <PaperCount lines={paper.lines} />
    </>
  );
}

const write = (text: string): void =>
  void fireEvent.change(screen.getByLabelText('Readings, one per line'), { target: { value: text } });
const understood = (): (string | null)[] =>
  within(screen.getByRole('list', { name: 'How each line is read' }))
    .queryAllByRole('listitem')
    .map((item) => item.textContent);

beforeEach(() => AsyncStorage.clear());

describe('what is kept of a page', () => {
  it('is every line: the unclear ones are notes in their own words', () => {
    const lines = readNotebook('8:00 back 36.5\nran into that again\nroom 18.5', { unit: 'C' });
    expect(linesKept(lines)).toEqual([
      { type: 'skin', atMs: 480_000, spot: 'back', c: 36.5, by: 'infrared' },
      { type: 'mark', atMs: 480_000, whole: true, kind: 'note', note: 'ran into that again' },
    ]);
    expect(roomOf(lines)).toBe(18.5);
  });
});

describe('the notebook', () => {
  it('says of every line how it is understood, by its number', async () => {
    await show(<Sheet />);
    write('8:00 back 36.5\n\n# by the window\n9:00 98%');
    expect(understood()).toEqual(['18:00: 36.5 °C at back, infrared', '49:00: battery 98 %']);
    expect(screen.getByRole('status').textContent).toBe('2 of 2 lines are clear.');
  });
  it('asks about what can hardly be, and keeps nobody from it', async () => {
    await show(<Sheet />);
    write('8:00 back 68');
    expect(understood()[0]).toMatch(/68\.0\s°C at back.*Skin at 68\.0\s°C\? 68 °F would be 20\.0\s°C\./);
    expect(screen.getAllByRole('status').at(-1)!.textContent).toBe('1 of 1 lines are clear.');
  });
  it('points at a line that is unclear, keeps it, and is content once it is mended', async () => {
    await show(<Sheet />);
    write('8:00 back\n9:00 98%');
    expect(understood()[0]).toMatch(/Line “8:00 back” is not clear: There is no number for “back”/);
    expect(screen.getByRole('status').textContent).toBe(
      '1 of 2 lines is not clear and will be saved as a note. To use it as readings, correct it above.',
    );
    write('8:00 back 36\n9:00 98%');
    expect(screen.getByRole('status').textContent).toBe('2 of 2 lines are clear.');
  });
  it('takes and says bare numbers in the reader’s scale', async () => {
    await AsyncStorage.setItem('pace-check.voice', JSON.stringify({ unit: 'F' }));
    await show(<Sheet />);
    write('8:00 back 98.6');
    expect(understood()).toEqual(['18:00: 98.6 °F at back, infrared']);
  });
});
