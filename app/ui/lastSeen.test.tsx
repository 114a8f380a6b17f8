import { act, render, screen } from '@testing-library/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { noteAnswer } from '../offline/lastSeen';
import { LAST_SEEN } from '../offline/lastSeenHeader';
import { LastSeen } from './LastSeen';
import { LookProvider } from './Look';

let mockPath = '/bench';
jest.mock('expo-router', () => ({ usePathname: () => mockPath }));

const answer = (kept: boolean): Headers => new Headers(kept ? { [LAST_SEEN]: '1' } : {});

test('what was kept from before is said to be, until the server answers: then all is asked for anew', async () => {
  const client = new QueryClient();
  const asked = jest.spyOn(client, 'invalidateQueries');
  const whole = (
    <QueryClientProvider client={client}>
      <LookProvider>
        <LastSeen />
      </LookProvider>
    </QueryClientProvider>
  );
  const { rerender } = render(whole);
  await act(async () => noteAnswer(answer(false)));
  expect(screen.queryByRole('status')).toBeNull();
  await act(async () => noteAnswer(answer(true)));
  expect(screen.getByRole('status').textContent).toContain('The server does not answer: lists are as last seen.');
  expect(asked).not.toHaveBeenCalled();
  // a run’s own screen says it in its head
  mockPath = '/bench/00000000-0000-4000-8000-000000000001';
  rerender(<div>{whole}</div>);
  expect(screen.queryByRole('status')).toBeNull();
  mockPath = '/bench/new';
  rerender(whole);
  expect(screen.getByRole('status')).toBeTruthy();
  await act(async () => noteAnswer(answer(false)));
  expect(screen.queryByRole('status')).toBeNull();
  expect(asked).toHaveBeenCalledTimes(1);
});
