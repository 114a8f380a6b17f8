import { fireEvent, screen } from '@testing-library/react';
import { useState, type ReactNode } from 'react';
import { show } from '../testing/render';
import { LongText } from './LongText';

const changed = jest.fn();
function Field({ first = '' }: { first?: string }): ReactNode {
  const [text, setText] = useState(first);
  return (
    <LongText
      label="Text"
      placeholder="at 1795686223"
      value={text}
      onChange={(next) => (changed(next), setText(next))}
    />
  );
}
const lines = (n: number): string => Array.from({ length: n }, (_, i) => `line ${i}`).join('\n');
const paste = (text: string): void =>
  void fireEvent.paste(screen.getByLabelText('Text'), { clipboardData: { getData: () => text } });

beforeEach(() => changed.mockReset());

test('a few lines are typed and pasted as in any field', async () => {
  await show(<Field />);
  expect(paste(lines(3))).toBeUndefined();
  // the browser does it itself
  expect(changed).not.toHaveBeenCalled();
  fireEvent.change(screen.getByLabelText('Text'), { target: { value: 'level: 87' } });
  expect(changed).toHaveBeenLastCalledWith('level: 87');
});

test('thousands of lines never enter the field: their beginning and number are shown, and other text can be given', async () => {
  await show(<Field first="at 1795686223" />);
  paste(lines(3000));
  expect(changed).toHaveBeenLastCalledWith(`at 1795686223\n${lines(3000)}`);
  const group = screen.getByRole('group', { name: 'Text' });
  expect(group.textContent).toContain('at 1795686223');
  expect(group.textContent).toContain('3,001 lines');
  expect(document.querySelector('textarea')).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Replace text' }));
  expect(document.querySelector('textarea')!.value).toBe('');
});
