import { act, render, screen } from '@testing-library/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ROUTES } from '@pace-check/contract';
import { ask } from '../api/client';
import { noteAnswer } from '../offline/lastSeen';
import { LAST_SEEN } from '../offline/lastSeenHeader';
import { LastSeen } from './LastSeen';
import { LookProvider } from './Look';
import { standInServer } from '../testing/server';

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
  expect(screen.getByRole('status').textContent).toContain('Offline: showing the last known data.');
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

test('a server that is away is called again until it answers; a request that was given up says nothing of it', async () => {
  jest.useFakeTimers();
  const called = jest.fn();
  let reached = false;
  standInServer(() => {
    called();
    return reached ? { body: [] } : null;
  });
  render(
    <QueryClientProvider client={new QueryClient()}>
      <LookProvider>
        <LastSeen />
      </LookProvider>
    </QueryClientProvider>,
  );
  await act(
    async () => void (await ask(ROUTES.runs, {}, { signal: AbortSignal.abort() }).catch(() => undefined)),
  );
  expect(screen.queryByRole('status')).toBeNull();
  await act(async () => void (await ask(ROUTES.runs, {}).catch(() => undefined)));
  expect(screen.getByRole('status')).toBeTruthy();
  called.mockClear();
  await act(async () => jest.advanceTimersByTimeAsync(9000));
  expect(called).toHaveBeenCalledTimes(2);
  reached = true;
  await act(async () => jest.advanceTimersByTimeAsync(4000));
  expect(screen.queryByRole('status')).toBeNull();
  await act(async () => jest.advanceTimersByTimeAsync(9000));
  expect(called).toHaveBeenCalledTimes(3);
  jest.useRealTimers();
});
