import { fireEvent, screen } from '@testing-library/react';
import { show } from '../testing/render';
import { RemoveButton } from './RemoveButton';

type Told = { onSuccess?: () => void; onError: (error: Error) => void };

async function shown(
  mutate: (what: { id: string; restore?: boolean }, told: Told) => void,
): Promise<{ onGone: jest.Mock }> {
  const onGone = jest.fn();
  await show(
    <RemoveButton
      title="Delete it"
      gone="It is deleted."
      removal={{ mutate, isPending: false }}
      id="one"
      onGone={onGone}
    />,
  );
  return { onGone };
}

it('deletes, leaves the page, and brings it back when asked', async () => {
  const asked: { id: string; restore?: boolean }[] = [];
  const { onGone } = await shown((what, { onSuccess }) => {
    asked.push(what);
    onSuccess?.();
  });
  fireEvent.click(await screen.findByRole('button', { name: 'Delete it' }));
  expect(onGone).toHaveBeenCalledTimes(1);
  expect(screen.getByText('It is deleted.')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: /undo/i }));
  expect(asked).toEqual([{ id: 'one' }, { id: 'one', restore: true }]);
});

it('stays where it could not be done, and says why', async () => {
  const { onGone } = await shown((_, { onError }) => onError(new Error('The disk is full.')));
  fireEvent.click(await screen.findByRole('button', { name: 'Delete it' }));
  expect(screen.getByText('Not done: The disk is full.')).toBeTruthy();
  expect(onGone).not.toHaveBeenCalled();
});
