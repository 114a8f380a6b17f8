import type { KitTitle, Outcome } from '@pace-check/contract';
import { distinct, filtered, matrixRows, NO_MATRIX_FILTER } from './matrixRows';

const outcome = (title: string, device: string, more: Partial<Outcome> = {}): Outcome => ({
  id: `${title} ${device} ${more.version ?? ''}`,
  title,
  device,
  with: 'Gangway',
  version: '3.1',
  status: 'full speed',
  where: '',
  glitches: [],
  stumbles: null,
  scene: '',
  firstPlay: false,
  date: '2026-05-01',
  source: 'own',
  evidence: '',
  tried: '',
  ...more,
});
const TITLES = [
  { id: '1', name: 'Iron Orchard', runs: 0, facts: { demand: 'heavy' } },
  { id: '2', name: 'Rook Tower', runs: 0, facts: { demand: 'notorious', system: 'Lumo 64' } },
] as KitTitle[];
const ALL = [
  outcome('Rook Tower', 'Velm 5', { with: 'Lantern', version: '1.9', status: 'slow' }),
  outcome('Iron Orchard', 'Velm 5', { status: 'crashes' }),
  outcome('Iron Orchard', 'Velm 5', { version: '3.2', status: 'glitches', date: '2026-05-18' }),
  outcome('Iron Orchard', 'Kitto Mini'),
];
const titles = (rows: ReturnType<typeof matrixRows>): string[] => rows.map((row) => row.title);

describe('the matrix of outcomes', () => {
  it('has the latest of each title and device, or those under one version', () => {
    const said = (under: string | null): string[] =>
      matrixRows(ALL, TITLES, under).flatMap((row) =>
        row.outcomes.map((one) => `${row.title}, ${one.device}: ${one.status}`),
      );
    expect(said(null)).toEqual([
      'Iron Orchard, Kitto Mini: full speed',
      'Iron Orchard, Velm 5: glitches',
      'Rook Tower, Velm 5: slow',
    ]);
    expect(said('Gangway 3.1')).toEqual([
      'Iron Orchard, Kitto Mini: full speed',
      'Iron Orchard, Velm 5: crashes',
    ]);
  });
  it.each([
    [{ q: 'lantern rook' }, ['Rook Tower']],
    [{ q: 'lumo' }, ['Rook Tower']],
    [{ status: 'glitches' as const }, ['Iron Orchard']],
    [{ status: 'crashes' as const }, []],
    [{ system: 'Lumo 64' }, ['Rook Tower']],
    [{ demand: 'heavy' as const }, ['Iron Orchard']],
    [{}, ['Iron Orchard', 'Rook Tower']],
  ])('%j lets through %j', (filter, found) =>
    expect(titles(filtered(matrixRows(ALL, TITLES, null), { ...NO_MATRIX_FILTER, ...filter }))).toEqual(
      found,
    ),
  );
  it('offers each thing once', () => expect(distinct(['b', null, '', 'a', 'b'])).toEqual(['a', 'b']));
});
