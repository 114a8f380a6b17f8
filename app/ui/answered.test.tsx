import { act, fireEvent, screen } from '@testing-library/react';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { ApiFailure } from '../api/client';
import { show } from '../testing/render';
import { Answered } from './states';

let answer: () => Promise<string>;
const failed = (status: number): ApiFailure =>
  new ApiFailure(status, { code: 'x', message: `status ${status}.`, remedy: 'Try again.' });
function Typed({ name }: { name: string }): ReactNode {
  const [text, setText] = useState('');
  return <input aria-label={name} value={text} onChange={(event) => setText(event.target.value)} />;
}
function Page(): ReactNode {
  const query = useQuery({ queryKey: ['page'], queryFn: () => answer() });
  return (
    <>
      <button onClick={() => void query.refetch()}>again</button>
      <Answered query={query} loading={{ rows: 2, height: 40, label: 'Loading the page' }}>
        {(name) => <Typed name={name} />}
      </Answered>
    </>
  );
}
const again = (name = 'again'): Promise<void> =>
  act(async () => void fireEvent.click(screen.getByRole('button', { name })));

test('is loading, then there; a later failure takes nothing away that was typed', async () => {
  let give: (name: string) => void = () => undefined;
  answer = () => new Promise((resolve) => (give = resolve));
  await show(<Page />);
  expect(screen.getByRole('status', { name: 'Loading the page' })).toBeTruthy();
  await act(async () => give('Name'));
  fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'Ferry' } });
  for (const status of [0, 503]) {
    answer = () => Promise.reject(failed(status));
    await again();
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Ferry');
  }
  // what is no longer there is not shown as if it were
  answer = () => Promise.reject(failed(404));
  await again();
  expect(screen.queryByLabelText('Name')).toBeNull();
  expect(screen.getByRole('alert').textContent).toContain('status 404. Try again.');
});

test('that never came says why, and trying again helps', async () => {
  answer = () => Promise.reject(failed(500));
  await show(<Page />);
  expect(screen.getByRole('alert').textContent).toContain('status 500.');
  answer = () => Promise.resolve('Name');
  await again('Try again');
  expect(screen.getByLabelText('Name')).toBeTruthy();
});
