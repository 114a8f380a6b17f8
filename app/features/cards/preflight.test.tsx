import 'fake-indexeddb/auto';
import type { Card, PreflightKnown } from '@pace-check/contract';
import AsyncStorage from '@react-native-async-storage/async-storage';
import { fireEvent, screen, within } from '@testing-library/react';
import { outbox } from '../../outbox';
import { show, until } from '../../testing/render';
import { PreflightScreen } from './PreflightScreen';
import { standInServer } from '../../testing/server';

const mockNavigate = jest.fn();
jest.mock('expo-router', () => ({ useRouter: () => ({ navigate: mockNavigate }) }));

const CARD = '22222222-2222-4222-8222-222222222222';
const STEP = '33333333-3333-4333-8333-333333333333';
const card = {
  id: CARD,
  name: 'Crossing',
  steps: [
    {
      id: STEP,
      device: 'Velm 5',
      title: 'Aurelune',
      setup: 'Highest',
      minutes: 30,
      repeats: 1,
      conditions: {},
    },
  ],
  day: { startMin: 540 },
  events: [],
} as unknown as Card;
const KIT = { devices: [], titles: [], setups: [], accessories: [], instruments: [], refusals: [] };
let known: PreflightKnown;
let reached: boolean;
beforeEach(async () => {
  await AsyncStorage.clear();
  known = { known: { roomC: 18, case: 'off' }, from: 'Saltmarsh Drift', seen: [] };
  reached = true;
  mockNavigate.mockClear();
  // changes stay in the outbox: there the test looks at them
  standInServer(({ method, path }) =>
    !reached || method === 'POST'
      ? null
      : { body: path.includes('preflight') ? known : path.includes('/kit') ? KIT : card },
  );
});
afterEach(async () => {
  for (const { n } of outbox.snapshot().waiting) await outbox.drop(n);
});

async function preflight(stepId = STEP): Promise<void> {
  await show(<PreflightScreen cardId={CARD} stepId={stepId} repeat={1} atMin={551} />);
  await until(
    () =>
      screen.queryByRole('heading', { name: 'Checks before the run' }) !== null ||
      screen.queryByText('Step not found') !== null,
  );
}
it('with a cooler it asks for its plate and the air, and says whether water gathers', async () => {
  known = { known: { roomC: 25, cooler: 'without', case: 'off' }, from: 'Saltmarsh Drift', seen: [] };
  await preflight();
  expect(screen.queryByLabelText('Humidity, %')).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Cooler: without' }));
  fireEvent.click(
    within(screen.getByRole('radiogroup', { name: 'Cooler' })).getByRole('radio', { name: 'with' }),
  );
  expect(screen.getByText(/^Water can condense on a cold plate/)).toBeTruthy();
  fireEvent.change(screen.getByLabelText('Humidity, %'), { target: { value: '50' } });
  fireEvent.change(screen.getByLabelText(/^Cooler plate temperature/), { target: { value: '7' } });
  expect(screen.getByText(/^Water condenses on the plate: plate 7\.0.°C, dew point 13\.9.°C/)).toBeTruthy();
});
it('says what was seen of the title before', async () => {
  known = { ...known, seen: ['Last result 2026-05-03: it started only without an overlay.'] };
  await preflight();
  expect(screen.getByRole('note', { name: 'Last known conditions' }).textContent).toContain(
    'without an overlay',
  );
});
const choose = (question: string, answer: string): void =>
  void fireEvent.click(
    within(screen.getByRole('radiogroup', { name: question })).getByRole('radio', { name: answer }),
  );

describe('preflight', () => {
  it('asks what is not known, shows what is, and asks that anew where it is different today', async () => {
    await preflight();
    expect(
      screen.getByText('From the last run on this device (Saltmarsh Drift). Change what is different today.'),
    ).toBeTruthy();
    expect(screen.queryByRole('radiogroup', { name: 'Case' })).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Case: off' }));
    choose('Case', 'on');
    const open = Number(
      /^(\d+) fields? /.exec(
        screen.getByText(/(field is|fields are) empty\. The run will show a caveat/).textContent!,
      )![1],
    );
    choose('Power', 'on battery');
    expect(
      screen.getByText(new RegExp(`^${open - 1} fields? (is|are) empty\\. The run will show a caveat`)),
    ).toBeTruthy();
  });

  it('cautions where the work can hurt, and refuses what cannot be without losing the rest', async () => {
    await preflight();
    expect(screen.queryByText(/Charging while playing/)).toBeNull();
    choose('Power', 'plugged in');
    expect(screen.getByText(/Charging during play adds about 5 °C/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText('Brightness, %'), { target: { value: '120' } });
    expect(screen.getByText('at most 100')).toBeTruthy();
    expect(
      within(screen.getByRole('radiogroup', { name: 'Power' }))
        .getByRole('radio', { name: 'plugged in' })
        .getAttribute('aria-checked'),
    ).toBe('true');
  });

  it('goes to the bench while nobody answers: what was said is kept and on its way', async () => {
    await preflight();
    reached = false;
    choose('Power', 'plugged in');
    fireEvent.click(screen.getByRole('button', { name: 'Continue to the bench' }));
    await until(() => mockNavigate.mock.calls.length === 1);
    expect(mockNavigate).toHaveBeenCalledWith(`/bench/new?card=${CARD}&step=${STEP}&repeat=1&at=551`);
    expect(outbox.snapshot().waiting).toEqual([
      expect.objectContaining({
        to: 'card',
        id: CARD,
        change: expect.objectContaining({
          kind: 'preflight',
          stepId: STEP,
          preflight: { roomC: 18, case: 'off', charging: 'plugged in' },
        }),
      }),
    ]);
  });

  it('starts the run at once while nobody answers: it is kept, and on its way', async () => {
    await preflight();
    reached = false;
    choose('Power', 'on battery');
    fireEvent.click(screen.getByRole('button', { name: /^Start at 09:11/ }));
    await until(() => mockNavigate.mock.calls.length === 1);
    expect(mockNavigate).toHaveBeenCalledWith(`/cards/${CARD}`);
    expect(outbox.snapshot().waiting.map(({ to, id, change }) => [to, id, change.kind])).toEqual([
      ['card', CARD, 'preflight'],
      ['card', CARD, 'started'],
    ]);
  });

  it('for a step that is gone says so', async () => {
    await preflight('44444444-4444-4444-8444-444444444444');
    expect(screen.getByText('The step may have been removed from the card.')).toBeTruthy();
  });
});
