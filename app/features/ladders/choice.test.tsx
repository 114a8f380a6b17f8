import type { ChoiceDetail, ChoiceDoc } from '@pace-check/contract';
import { fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { ChoiceScreen } from './ChoiceScreen';

const mockNavigate = jest.fn();
jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: mockNavigate }),
}));

const choice = (doc: Partial<ChoiceDoc> = {}, more: Partial<ChoiceDetail> = {}): ChoiceDetail => ({
  id: 'c',
  revision: 0,
  doc: {
    device: 'Velm 5',
    title: 'Rook Tower',
    scene: 'the stair',
    setup: '',
    axis: 'backend',
    options: ['Glim', 'Ember'],
    full: 30,
    probes: [],
    ...doc,
  },
  spread: { squares: 0, n: 1 },
  runs: [],
  elsewhere: [],
  ...more,
});

function server(first: ChoiceDetail): { docs: ChoiceDoc[] } {
  let stored = first;
  const state = { docs: [] as ChoiceDoc[] };
  standInServer(({ method, body }) => {
    if (method !== 'PUT') return { body: stored };
    const { doc, revision } = body as { revision: number; doc: ChoiceDoc };
    state.docs.push(doc);
    stored = { ...stored, doc, revision: revision + 1 };
    return { body: stored };
  });
  return state;
}
const type = (within_: ReturnType<typeof within>, label: string, value: string): void =>
  void fireEvent.change(within_.getByLabelText(label), { target: { value } });

describe('a choice', () => {
  it('takes speed, glitches and warmth of an option, and asks for the other one next', async () => {
    const state = server(choice());
    await show(<ChoiceScreen id="c" />);
    expect(await screen.findByText('No tests yet. Start with Glim.')).toBeTruthy();
    const pad = within(screen.getByRole('group', { name: 'Test of Glim' }));
    type(pad, 'Speed, %', '96.5');
    type(pad, 'Glitches', '1.5');
    expect(pad.getByText('Enter a whole number.')).toBeTruthy();
    expect(pad.getByRole('button', { name: 'Save result' }).getAttribute('aria-disabled')).toBe('true');
    type(pad, 'Glitches', '2');
    type(pad, 'Highest temperature, °C', '40.1');
    fireEvent.click(pad.getByRole('button', { name: 'Save result' }));
    expect(screen.getByText('Not decided: Ember not tested yet. Test Ember next.')).toBeTruthy();
    expect(screen.getByText('Glim: 96.5 % of full speed · 2 glitches · 40.1 °C')).toBeTruthy();
    await until(() => state.docs.length === 1);
    expect(state.docs[0]!.probes[0]).toMatchObject({
      option: 'Glim',
      percent: 96.5,
      glitches: 2,
      peakC: 40.1,
    });
  });

  it('takes a run for what was tried, once, and leads to the bench for another', async () => {
    const run = {
      id: 'r',
      name: 'Five minutes of it',
      setup: 'Lantern, native',
      says: 'at 93 % of full speed, 5 min',
      sustained: false,
      fps: 28,
      speed: 0.93,
      holds: false,
      firstPlay: false,
      glitches: 3,
      peakC: 39.5,
      watts: null,
    };
    const state = server(choice({}, { runs: [run] }));
    await show(<ChoiceScreen id="c" />);
    fireEvent.click(await screen.findByRole('button', { name: 'Option used: Glim Five minutes of it' }));
    expect(
      screen.getByText(/^Glim: 93 % of full speed · 3 glitches · 39\.5 °C · as in Five minutes/),
    ).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Option used: .*Five minutes/ })).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Record a run of 3 min at the bench' }));
    expect(mockNavigate).toHaveBeenCalledWith('/bench/new?device=Velm+5&title=Rook+Tower&minutes=3');
    await until(() => state.docs.length === 1);
    expect(state.docs[0]!.probes[0]).toMatchObject({ runId: 'r', percent: 93 });
  });

  it('shows the same question elsewhere: never one answer for all', async () => {
    server(choice({}, { elsewhere: [{ id: 'd', says: 'Glass Canyon on Quill Deck: Ember' }] }));
    await show(<ChoiceScreen id="c" />);
    expect(await screen.findByText('Glass Canyon on Quill Deck: Ember')).toBeTruthy();
    expect(
      screen.getByText(/^Valid for Rook Tower on Velm 5 only, always at the same scene: the stair\./),
    ).toBeTruthy();
  });
});
