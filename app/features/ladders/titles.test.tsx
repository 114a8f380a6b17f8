import type { LadderDetail, LadderDoc, LadderSummary } from '@pace-check/contract';
import { ladderDoc } from '@pace-check/contract';
import { borrowedPrior, ownPosterior, searchState } from '@pace-check/core';
import { fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { newNames } from './OtherTitles';
import { TitlesScreen } from './TitlesScreen';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: jest.fn() }),
}));

const TOGETHER = '6a1f0c20-0320-4c1a-9b1e-000000000001';
const KIT = {
  devices: [],
  accessories: [],
  instruments: [],
  titles: [
    { id: 't', name: 'Mist Ferry', facts: { system: 'Lumo 64', nativeFps: 30 }, runs: 0 },
    { id: 'u', name: 'Rook Tower', facts: { system: 'Lumo 64' }, runs: 0 },
  ],
  setups: [],
  refusals: [],
};
const of = (title: string, probes: object[] = []): LadderDoc =>
  ladderDoc.parse({
    device: 'Oru Fold',
    title,
    axis: 'internal resolution',
    rungs: ['1×', '2×', '3×'].map((name) => ({ name })),
    full: 60,
    together: TOGETHER,
    probes,
  });
const probe = (n: number, rung: string, percent: number) => ({
  id: `6a1f0c20-0000-4c1a-9b1e-${String(n).padStart(12, '0')}`,
  rung,
  percent,
  at: `2026-05-02T10:0${n}:00Z`,
});

/** The server's side of it, as far as these titles need it. */
function server(docs: Record<string, LadderDoc>): { docs: Record<string, LadderDoc>; made: LadderDoc[] } {
  const made: LadderDoc[] = [];
  const borrowed = (id: string): LadderDetail['borrowed'] => {
    const own = docs[id]!;
    if (own.probes.length > 0 || own.prior) return null;
    const weights = borrowedPrior(
      Object.values(docs).flatMap((doc) =>
        (doc === own ? [] : (ownPosterior({ ...doc, prior: null }) ?? [])).length > 0
          ? [ownPosterior({ ...doc, prior: null })!]
          : [],
      ),
    );
    return weights === null ? null : { says: 'what was seen of the others', weights };
  };
  const row = (id: string): LadderSummary => {
    const doc = docs[id]!;
    const state = searchState({ ...doc, prior: doc.prior?.weights ?? borrowed(id)?.weights ?? null });
    return {
      id,
      ...doc,
      system: 'Lumo 64',
      demand: null,
      rungs: doc.rungs.map(({ name }) => name),
      probes: doc.probes.length,
      best: doc.probes.length === 0 || state.best === 0 ? null : doc.rungs[state.best - 1]!.name,
      sure: state.sure,
      ended: state.stop,
      confirmed: false,
      probesToGo: state.left,
      minutesToGo: 10,
      changedAt: '2026-05-02T10:00:00Z',
      standing: { posterior: state.posterior, next: state.next, lastAt: doc.probes.at(-1)?.at ?? null },
    };
  };
  standInServer(({ method, path, body }) => {
    if (path === '/api/kit') return { body: KIT };
    if (path === '/api/ladders') return { body: Object.keys(docs).map(row) };
    if (path === '/api/ladders/together') {
      for (const { id, doc } of (body as { ladders: { id: string; doc: LadderDoc }[] }).ladders) {
        docs[id] = doc;
        made.push(doc);
      }
      return { status: 201, body: Object.keys(docs).map(row) };
    }
    const id = path.split('/').at(-1)!;
    if (method === 'PUT') docs[id] = (body as { doc: LadderDoc }).doc;
    return {
      body: {
        id,
        revision: docs[id]!.probes.length,
        doc: docs[id]!,
        siblings: [],
        borrowed: borrowed(id),
        runs: [],
      } satisfies LadderDetail,
    };
  });
  return { docs, made };
}

const bar = (name: RegExp): HTMLElement =>
  within(screen.getByRole('list', { name: 'Results by title' })).getByRole('listitem', { name });

describe('one ladder over several titles', () => {
  it('goes on with the title that is loaded, ends it, and begins the next from what was seen', async () => {
    const state = server({
      a: of('Pico Harbour', [probe(1, '2×', 100)]),
      b: of('Rook Tower'),
    });
    await show(<TitlesScreen id={TOGETHER} />);
    expect(await screen.findByRole('heading', { name: 'Lumo 64 on Oru Fold' })).toBeTruthy();
    expect(await screen.findByText('Pico Harbour at 3×')).toBeTruthy();
    expect(screen.getByText(/^It is loaded and not decided yet\./)).toBeTruthy();
    expect(bar(/^Rook Tower: –, not started/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText('Speed, %'), { target: { value: '80' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save result' }));
    await until(() => state.docs.a!.probes.length === 2);
    // told at 2×: the other one begins there, not in the middle of nothing
    expect(await screen.findByText('Rook Tower at 2×')).toBeTruthy();
    expect(bar(/^Pico Harbour: 2×/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText('Speed, %'), { target: { value: '100' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save result' }));
    await until(() => state.docs.b!.probes.length === 1);
    expect(state.docs.b!.prior).toMatchObject({ from: null, says: 'what was seen of the others' });
  });

  it('probes the title that is tapped', async () => {
    server({ a: of('Pico Harbour', [probe(1, '2×', 100)]), b: of('Rook Tower') });
    await show(<TitlesScreen id={TOGETHER} />);
    await screen.findByText('Pico Harbour at 3×');
    fireEvent.click(bar(/^Rook Tower/));
    expect(await screen.findByText(/^Rook Tower at /)).toBeTruthy();
  });

  it('takes more titles of the system by one tap, each with what its kit says is full speed', async () => {
    const state = server({ a: of('Rook Tower') });
    await show(<TitlesScreen id={TOGETHER} />);
    fireEvent.click(await screen.findByRole('button', { name: 'All of Lumo 64 in the kit: 1 more' }));
    fireEvent.click(await screen.findByRole('button', { name: 'Add it' }));
    await until(() => state.made.length === 1);
    expect(state.made[0]).toMatchObject({ title: 'Mist Ferry', full: 30, together: TOGETHER, probes: [] });
    expect(await screen.findByText(/^0 of 2 decided/)).toBeTruthy();
  });

  it('says so where there is none', async () => {
    server({});
    await show(<TitlesScreen id={TOGETHER} />);
    expect(await screen.findByText('No such ladder')).toBeTruthy();
  });
});

it('takes each name once, whatever its case', () => {
  expect(newNames(['rook tower', 'A', ' a ', '', 'B'], ['Rook Tower'])).toEqual(['A', 'B']);
});
