import type { LadderDetail, LadderDoc } from '@pace-check/contract';
import { fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { LadderScreen } from './LadderScreen';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: jest.fn() }),
}));

const ladder = (doc: Partial<LadderDoc> = {}, more: Partial<LadderDetail> = {}): LadderDetail => ({
  id: 'l',
  revision: 2,
  doc: {
    device: 'Velm 5',
    title: 'Rook Tower',
    scene: 'the stair',
    setup: '',
    axis: 'internal resolution',
    rungs: ['1×', '2×', '3×'].map((name) => ({ name, pixels: null })),
    outputPixels: null,
    full: 60,
    prior: null,
    probes: [],
    confirmed: null,
    ...doc,
  },
  siblings: [],
  runs: [],
  ...more,
});

function server(first: LadderDetail): { docs: LadderDoc[] } {
  let stored = first;
  const state = { docs: [] as LadderDoc[] };
  standInServer(({ method, body }) => {
    if (method !== 'PUT') return { body: stored };
    const { doc, revision } = body as { revision: number; doc: LadderDoc };
    state.docs.push(doc);
    stored = { ...stored, doc, revision: revision + 1 };
    return { body: stored };
  });
  return state;
}

const probe = (rung: string, percent: number): LadderDoc['probes'][number] => ({
  id: `${rung} ${percent} ${Math.random()}`,
  rung,
  percent,
  fps: null,
  holds: null,
  firstPlay: false,
  note: '',
  at: null,
  runId: null,
});
const rung = (name: RegExp): HTMLElement =>
  within(screen.getByRole('list', { name: 'Rungs' })).getByRole('listitem', { name });

describe('a ladder', () => {
  it('takes a word for a speed, moves on, and keeps it', async () => {
    const state = server(ladder());
    await show(<LadderScreen id="l" />);
    expect(await screen.findByText(/^Probe 2× next: it splits what is left/)).toBeTruthy();
    fireEvent.click(screen.getByRole('radio', { name: 'by word' }));
    fireEvent.click(screen.getByRole('button', { name: 'Does not' }));
    expect(screen.getByText(/^Probe 1× next/)).toBeTruthy();
    expect(screen.getByText('2×: does not hold')).toBeTruthy();
    await until(() => state.docs.length === 1);
    expect(state.docs[0]!.probes[0]).toMatchObject({ rung: '2×', holds: false, percent: null });
  });

  it('probes the rung that is tapped, and takes nothing that is no number', async () => {
    server(ladder());
    await show(<LadderScreen id="l" />);
    await screen.findByText(/^Probe 2× next/);
    fireEvent.click(rung(/^3×:/));
    const pad = within(screen.getByRole('group', { name: 'Probe of 3×' }));
    fireEvent.change(pad.getByLabelText('Speed, %'), { target: { value: '5000' } });
    expect(pad.getByText('A number from 0 to 1000.')).toBeTruthy();
    expect(pad.getByRole('button', { name: 'Note it' }).getAttribute('aria-disabled')).toBe('true');
  });

  it('begins with what a sibling found, and without it again', async () => {
    const says = 'Rook Tower on Oru Fold (the same chip, Tarn T4): 3× held';
    server(ladder({}, { siblings: [{ id: 's', says, weights: [0.02, 0.08, 0.2, 0.7] }] }));
    await show(<LadderScreen id="l" />);
    fireEvent.click(await screen.findByRole('button', { name: `Begin with ${says}` }));
    expect(rung(/^3×: 70 %/)).toBeTruthy();
    // a prior alone ends no search
    expect(screen.getByText(/^Probe 3× next/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Take out what is known beforehand' }));
    expect(rung(/^3×: 25 %/)).toBeTruthy();
  });

  it('is not confirmed by a run that throttles: that is a probe, and the search goes on', async () => {
    const state = server(
      ladder(
        { probes: [probe('2×', 100), probe('3×', 70), probe('2×', 100)] },
        {
          runs: [
            { id: 'r', name: 'A long one', says: 'closes at 75 % of full speed', speed: 0.75, holds: null },
          ],
        },
      ),
    );
    await show(<LadderScreen id="l" />);
    expect(await screen.findByText(/^2× is the highest that holds/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'It was A long one' }));
    expect(screen.getByText('2×: 75 % of full speed · it throttles: A long one')).toBeTruthy();
    expect(screen.queryByText(/^2× is the highest that holds/)).toBeNull();
    await until(() => state.docs.length === 1);
    expect(state.docs[0]!.confirmed).toBeNull();
  });
});
