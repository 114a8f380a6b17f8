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
    together: null,
    prior: null,
    probeMin: 3,
    probes: [],
    confirmed: null,
    ...doc,
  },
  siblings: [],
  borrowed: null,
  runs: [],
  ...more,
});

const KIT = {
  devices: [
    { id: 'd', name: 'Velm 5', facts: { batteryWh: 18, powerW: 15, boostW: 25 }, spots: [], runs: 0 },
  ],
  accessories: [],
  instruments: [],
  titles: [],
  setups: [],
  refusals: [],
};

function server(first: LadderDetail): { docs: LadderDoc[] } {
  let stored = first;
  const state = { docs: [] as LadderDoc[] };
  standInServer(({ method, path, body }) => {
    if (path === '/api/kit') return { body: KIT };
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
  watts: null,
  note: '',
  at: null,
  runId: null,
});
const run = (more: Partial<LadderDetail['runs'][number]>): LadderDetail['runs'][number] => ({
  id: 'r',
  name: 'A run',
  setup: null,
  says: 'at 100 % of full speed, 3 min',
  sustained: false,
  fps: null,
  speed: null,
  holds: null,
  firstPlay: false,
  glitches: null,
  peakC: null,
  watts: null,
  ...more,
});
const rung = (name: RegExp): HTMLElement =>
  within(screen.getByRole('list', { name: 'Settings in this ladder' })).getByRole('listitem', { name });

describe('a ladder', () => {
  it('takes a word for a speed, moves on, and keeps it', async () => {
    const state = server(ladder());
    await show(<LadderScreen id="l" />);
    expect(await screen.findByText(/^Test 2× next: it halves what is still open/)).toBeTruthy();
    fireEvent.click(screen.getByRole('radio', { name: 'in words' }));
    fireEvent.click(screen.getByRole('button', { name: 'Does not hold' }));
    expect(screen.getByText(/^Test 1× next/)).toBeTruthy();
    expect(screen.getByText('2×: does not hold')).toBeTruthy();
    await until(() => state.docs.length === 1);
    expect(state.docs[0]!.probes[0]).toMatchObject({ rung: '2×', holds: false, percent: null });
  });

  it('probes the rung that is tapped, and takes nothing that is no number', async () => {
    server(ladder());
    await show(<LadderScreen id="l" />);
    await screen.findByText(/^Test 2× next/);
    fireEvent.click(rung(/^3×:/));
    const pad = within(screen.getByRole('group', { name: 'Test of 3×' }));
    fireEvent.change(pad.getByLabelText('Speed, %'), { target: { value: '5000' } });
    expect(pad.getByText('Enter a number from 0 to 1000.')).toBeTruthy();
    expect(pad.getByRole('button', { name: 'Save result' }).getAttribute('aria-disabled')).toBe('true');
  });

  it('begins with what a sibling found, and without it again', async () => {
    const says = 'Rook Tower on Oru Fold (the same chip, Tarn T4): 3× held';
    server(ladder({}, { siblings: [{ id: 's', says, weights: [0.02, 0.08, 0.2, 0.7] }] }));
    await show(<LadderScreen id="l" />);
    fireEvent.click(await screen.findByRole('button', { name: `Use ${says} as starting point` }));
    expect(rung(/^3×: 70 %/)).toBeTruthy();
    // a prior alone ends no search
    expect(screen.getByText(/^Test 3× next/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Remove earlier results' }));
    expect(rung(/^3×: 25 %/)).toBeTruthy();
  });

  it('takes a run of the bench as a probe, once', async () => {
    const state = server(
      ladder(
        {},
        { runs: [run({ name: 'At twofold', speed: 0.93, watts: 6.2 }), run({ id: 'x', name: 'Blank' })] },
      ),
    );
    await show(<LadderScreen id="l" />);
    expect(
      (await screen.findByRole('button', { name: 'Setting used: 2× Blank' })).getAttribute('aria-disabled'),
    ).toBe('true');
    fireEvent.click(screen.getByRole('button', { name: 'Setting used: 2× At twofold' }));
    expect(screen.getByText('2×: 93 % of full speed · 6.2 W · as in At twofold')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /: At twofold$/ })).toBeNull();
    await until(() => state.docs.length === 1);
    expect(state.docs[0]!.probes[0]).toMatchObject({ rung: '2×', percent: 93, watts: 6.2, runId: 'r' });
  });

  it('of power limits asks for watts, and says what each limit gives', async () => {
    const state = server(
      ladder({ axis: 'power limit', rungs: ['25 W', '15 W'].map((name) => ({ name, pixels: null })) }),
    );
    await show(<LadderScreen id="l" />);
    fireEvent.click(await screen.findByRole('listitem', { name: /^15 W:/ }));
    const pad = within(screen.getByRole('group', { name: 'Test of 15 W' }));
    fireEvent.change(pad.getByLabelText('Device power, W'), { target: { value: '12' } });
    fireEvent.change(pad.getByLabelText('Speed, %'), { target: { value: '100' } });
    fireEvent.click(pad.getByRole('button', { name: 'Save result' }));
    // 12 W at 60 fps: 200 mJ a frame; 18 Wh last an hour and a half; 15 W is what it is delivered with
    const table = within(screen.getByRole('table', { name: 'Power limits' }));
    await until(() => table.queryByText('1.5 h') !== null);
    const row = table.getByText('15 W, usual').parentElement!;
    expect([...row.children].map((cell) => cell.textContent)).toEqual([
      '15 W, usual',
      '100 %',
      '12.0 W',
      '200 mJ',
      '1.5 h',
    ]);
    await until(() => state.docs.length === 1);
    expect(state.docs[0]!.probes[0]!.watts).toBe(12);
  });

  it('is not confirmed by a run that throttles: that is a probe, and the search goes on', async () => {
    const state = server(
      ladder(
        { probes: [probe('2×', 100), probe('3×', 70)] },
        {
          runs: [
            run({ name: 'A long one', says: 'closes at 75 % of full speed', speed: 0.75, sustained: true }),
            run({ id: 'short', name: 'A short one', speed: 1 }),
          ],
        },
      ),
    );
    await show(<LadderScreen id="l" />);
    expect(await screen.findByText(/^2× is the highest that holds/)).toBeTruthy();
    expect(screen.queryByText('A short one')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Use as confirmation A long one' }));
    expect(screen.getByText('2×: 75 % of full speed · throttles: A long one')).toBeTruthy();
    expect(screen.queryByText(/^2× is the highest that holds/)).toBeNull();
    await until(() => state.docs.length === 1);
    expect(state.docs[0]!.confirmed).toBeNull();
  });
});
