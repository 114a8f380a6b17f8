import type { LimitFindings } from '@pace-check/core';
import { fireEvent, screen, within } from '@testing-library/react';
import { show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { ChooseBar } from './ChooseBar';
import { LimitsSection } from './LimitsSection';

const mockNavigate = jest.fn();
jest.mock('expo-router', () => ({ useRouter: () => ({ navigate: mockNavigate }) }));
beforeEach(() => mockNavigate.mockClear());

describe('what limits a run', () => {
  const findings: LimitFindings = {
    candidates: [
      { limit: 'cap', for: [], against: [{ sign: 'no-cap' }], open: [] },
      { limit: 'graphics', for: [], against: [], open: [{ sign: 'part-busy', percent: 71 }] },
      { limit: 'heat', for: [{ sign: 'hot-inside', c: 93 }], against: [], open: [] },
      { limit: 'processor', for: [], against: [], open: [] },
    ],
    likely: ['heat'],
    notRuledOut: ['graphics', 'processor'],
  };

  it('is told in a sentence, then by what was seen; one of which nothing was seen is not listed', async () => {
    standInServer(() => ({ body: findings }));
    await show(<LimitsSection run={{ id: 'r' }} />);
    await until(() => screen.queryByRole('heading', { name: 'What limits performance?' }) !== null);
    screen.getByText('Heat, according to this run; graphics and the processor are also possible.');
    const rows = within(screen.getByRole('list', { name: /^Evidence for and against/ })).getAllByRole(
      'listitem',
    );
    expect(rows.map((row) => row.textContent!.replaceAll('\u00a0', ' '))).toEqual([
      'the frame capagainst: no frame cap found',
      'graphicsno evidence: 71 % load does not prove spare capacity',
      'heatfor: chip temperature 93.0 °C',
    ]);
  });

  it('is no section where nothing was seen', async () => {
    const asked = standInServer(() => ({
      body: { candidates: [{ ...findings.candidates[3] }], likely: [], notRuledOut: ['processor'] },
    }));
    await show(<LimitsSection run={{ id: 'r' }} />);
    await until(() => asked.length === 1);
    expect(screen.queryByRole('heading')).toBeNull();
  });
});

describe('runs that are chosen', () => {
  const run = (id: string, device: string, startedAt: string | null) => ({
    id,
    device,
    title: `T${id}`,
    setup: null,
    startedAt,
  });
  const [first, second] = [
    run('1', 'Velm 5', '2026-05-09T10:00:00Z'),
    run('2', 'Velm 5', '2026-05-09T11:00:00Z'),
  ];

  it('of one device, each with its start, are joined, and the sitting is opened', async () => {
    const asked = standInServer(() => ({ status: 201, body: { id: 's', parts: [] } }));
    await show(<ChooseBar chosen={[first, second]} />);
    fireEvent.click(screen.getByRole('button', { name: 'Join into one session' }));
    await until(() => mockNavigate.mock.calls.length === 1);
    expect(asked[0]).toMatchObject({ path: '/api/runs/join', body: { runs: ['1', '2'] } });
    expect(mockNavigate).toHaveBeenCalledWith('/runs/s/sitting');
  });

  it('that are refused stay chosen, with the reason', async () => {
    standInServer(() => ({
      status: 422,
      body: { code: 'no-sitting', message: '“A” starts before “B” has ended.', remedy: '' },
    }));
    await show(<ChooseBar chosen={[first, second]} />);
    fireEvent.click(screen.getByRole('button', { name: 'Join into one session' }));
    await until(() => screen.queryByText(/^Not joined: “A” starts before/) !== null);
    expect(mockNavigate).not.toHaveBeenCalled();
  });

  it.each([
    ['one alone', [first]],
    ['two devices', [first, { ...second, device: 'Velm 4' }]],
    ['one without a start', [first, { ...second, startedAt: null }]],
  ])('%s cannot be joined', async (_case, chosen) => {
    await show(<ChooseBar chosen={chosen} />);
    expect(screen.queryByRole('button', { name: 'Join into one session' })).toBeNull();
  });
});
