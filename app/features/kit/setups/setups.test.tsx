import type { Kit, KitSetup, KitTitle } from '@pace-check/contract';
import { fireEvent, screen, within } from '@testing-library/react';
import { show, until } from '../../../testing/render';
import { standInServer } from '../../../testing/server';
import { RecipeScreen } from './RecipeScreen';
import { Setups } from './Setups';

const mockNavigate = jest.fn();
jest.mock('expo-router', () => ({ useRouter: () => ({ navigate: mockNavigate }) }));

const TITLE: KitTitle = { id: 't', name: 'Iron Orchard', facts: { kind: 'translated' }, runs: 0 };
const set = (key: string, value: string, unit = ''): { key: string; value: string; unit: string } => ({
  key,
  value,
  unit,
});
const SAFE: KitSetup = {
  id: 'safe',
  titleId: 't',
  name: 'safe',
  facts: { pairs: [set('layer', 'Gangway'), set('cap', '40', 'fps')] },
  whole: [set('layer', 'Gangway'), set('cap', '40', 'fps')],
};
const FAST: KitSetup = {
  id: 'fast',
  titleId: 't',
  name: 'fast',
  facts: {
    from: 'safe',
    pairs: [set('CPU preset', 'fast')],
    steps: [{ says: 'Choose it.', undo: '', source: 'a reader', dated: '2026-05-03', needs: ['root'] }],
  },
  whole: [...SAFE.whole, set('CPU preset', 'fast')],
};
const kit = (setups: KitSetup[]): Kit => ({
  devices: [],
  accessories: [],
  instruments: [],
  titles: [TITLE],
  setups,
  refusals: [],
});
const replaced = (): { sent: { facts: object }[] } => {
  const sent: { facts: object }[] = [];
  standInServer(({ method, body }) => {
    if (method === 'PUT') sent.push(body as { facts: object });
    return method === 'PUT' ? { body: { followed: 0 } } : { body: kit([FAST, SAFE]) };
  });
  return { sent };
};

describe('setups of a title', () => {
  it('stand behind what they are derived from, and say what differs', async () => {
    replaced();
    await show(<Setups kit={kit([FAST, SAFE])} title={TITLE} />);
    const rows = screen
      .getAllByRole('button', { expanded: false })
      .map((row) => row.textContent!.replaceAll('\u00a0', ' '));
    expect(rows).toEqual(['safelayer Gangway, cap 40 fps', 'fastsame as safe, except CPU preset fast']);
    const differs = within(screen.getByRole('table', { name: 'Differences' }));
    expect(
      differs
        .getAllByRole('row')
        .slice(1)
        .map((row) => row.textContent),
    ).toEqual(['CPU presetnot setfast']);
  });

  it('are kept with what was typed, in its order, with what is left out', async () => {
    const { sent } = replaced();
    await show(<Setups kit={kit([FAST, SAFE])} title={TITLE} />);
    fireEvent.click(screen.getByRole('button', { name: /^fast/ }));
    const form = within(screen.getByRole('form', { name: 'Setup fast' }));
    const type = (label: string, value: string): void =>
      void fireEvent.change(form.getByLabelText(label), { target: { value } });
    expect((form.getByLabelText('Layer') as HTMLInputElement).placeholder).toBe('Gangway');
    fireEvent.click(form.getByRole('button', { name: 'Clear Cap' }));
    expect((form.getByLabelText('Cap, fps') as HTMLInputElement).placeholder).toBe('not set');
    type('Setting name', 'Layer');
    expect(form.getByText('“Layer” is already listed above.')).toBeTruthy();
    type('Setting name', 'fog');
    type('Value', '200');
    type('Unit', 'm');
    fireEvent.click(form.getByRole('button', { name: 'Add setting' }));
    fireEvent.click(form.getByRole('button', { name: 'Save setup' }));
    await until(() => sent.length === 1);
    expect(sent[0]!.facts).toMatchObject({
      from: 'safe',
      pairs: [set('CPU preset', 'fast'), { key: 'cap', value: null, unit: 'fps' }, set('fog', '200', 'm')],
    });
  });
});

describe('a recipe', () => {
  it('has its cautions before its steps, all that is set, and says where no way back was noted', async () => {
    replaced();
    await show(<RecipeScreen id="fast" />);
    await until(() => screen.queryByRole('heading', { name: 'Iron Orchard: fast' }) !== null);
    const text = document.body.textContent!.replaceAll('\u00a0', ' ');
    expect(text.indexOf('Root or superuser rights')).toBeLessThan(text.indexOf('1. Choose it.'));
    expect(text).toContain('Packages from outside the official store');
    expect(text).toContain('from a reader, tried 3 May 2026');
    const list = (name: string): (string | null)[] =>
      within(screen.getByRole('list', { name }))
        .getAllByRole('listitem')
        .map((row) => row.textContent!.replaceAll('\u00a0', ' '));
    expect(list('Settings of this setup')).toEqual(['layer: Gangway', 'cap: 40 fps', 'CPU preset: fast']);
    expect(list('How to undo it')).toEqual(['Step 1: no undo recorded.']);
    fireEvent.click(screen.getByRole('button', { name: 'Back' }));
    expect(mockNavigate).toHaveBeenCalledWith('/kit/title/t');
  });
  it('of a setup that is gone says so', async () => {
    replaced();
    await show(<RecipeScreen id="gone" />);
    await until(() => screen.queryByText('Not found in Kit') !== null);
  });
});
