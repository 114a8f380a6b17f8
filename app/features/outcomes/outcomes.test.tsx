import type { NewOutcomes, Outcomes } from '@pace-check/contract';
import { fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { OutcomesScreen } from './OutcomesScreen';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: jest.fn() }),
  useLocalSearchParams: () => ({}),
}));

const NOTHING: Outcomes = { outcomes: [], claims: [], runs: [], versions: [] };
function server(first: Outcomes): { sent: NewOutcomes[]; refuse: boolean } {
  const state = { sent: [] as NewOutcomes[], refuse: false };
  standInServer(({ method, path, body }) => {
    if (path.startsWith('/api/kit'))
      return {
        body: { devices: [], titles: [], accessories: [], instruments: [], setups: [], refusals: [] },
      };
    if (method !== 'POST') return { body: first };
    if (state.refuse)
      return { status: 500, body: { code: 'internal', message: 'The disk is full.', remedy: 'Make room.' } };
    state.sent.push(body as NewOutcomes);
    return { body: { ...first, outcomes: (body as { outcomes: Outcomes['outcomes'] }).outcomes } };
  });
  return state;
}
const type = (label: string, value: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
};

describe('outcomes', () => {
  it('are noted by a tap; what it was tried on stays, what was typed of one goes', async () => {
    const state = server(NOTHING);
    await show(<OutcomesScreen />);
    fireEvent.click(await screen.findByRole('button', { name: 'Add' }));
    expect(screen.getByRole('button', { name: 'crashes' }).getAttribute('aria-disabled')).toBe('true');
    type('Device', 'Oru Fold');
    type('Title', 'Iron Orchard');
    type('Where it crashes, or what is wrong', 'after the mill');
    fireEvent.click(screen.getByRole('button', { name: 'crashes' }));
    await until(() => state.sent.length === 1);
    expect(state.sent[0]!.outcomes![0]).toMatchObject({
      device: 'Oru Fold',
      title: 'Iron Orchard',
      status: 'crashes',
      where: 'after the mill',
      glitches: [],
      stumbles: null,
    });
    await until(() => (screen.getByLabelText('Title') as HTMLInputElement).value === '');
    expect((screen.getByLabelText('Device') as HTMLInputElement).value).toBe('Oru Fold');
  });

  it('that are refused stay as they were typed', async () => {
    const state = server(NOTHING);
    state.refuse = true;
    await show(<OutcomesScreen />);
    fireEvent.click(await screen.findByRole('button', { name: 'Paste a table' }));
    type('Device', 'Oru Fold');
    type('Table of results', 'Iron Orchard;crashes;the mill\nNight Ferry;perhaps;');
    expect(screen.getByText(/^Line 2, status: “perhaps” is not a status/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Save 1 result' }));
    await until(() => screen.queryByText('Not saved: The disk is full.') !== null);
    expect((screen.getByLabelText('Table of results') as HTMLTextAreaElement).value).toContain(
      'Iron Orchard',
    );
  });

  it('are counted with what the share may be', async () => {
    const one = (title: string, status: 'crashes' | 'full speed') => ({
      id: title,
      device: 'Velm 5',
      title,
      with: '',
      version: '',
      status,
      where: '',
      glitches: [],
      stumbles: null,
      scene: '',
      firstPlay: false,
      date: '2026-05-01',
      source: 'own' as const,
      evidence: '',
      tried: '',
    });
    server({
      ...NOTHING,
      outcomes: [...'abcdefgh']
        .map((title) => one(title, 'full speed'))
        .concat(one('i', 'crashes'), one('j', 'crashes')),
    });
    await show(<OutcomesScreen />);
    const list = within(await screen.findByRole('list', { name: 'Share of titles that run' }));
    expect(list.getByText(/^8 of 10 \(49 to 94.%\)$/)).toBeTruthy();
  });
});
