import type { CardStep, LadderSummary } from '@pace-check/contract';
import { fireEvent, screen } from '@testing-library/react';
import { show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { StepEditor } from './StepEditor';

const STEP: CardStep = {
  id: '00000000-0000-4000-8000-000000000001',
  device: 'Velm 5',
  title: 'Rook Tower',
  setup: null,
  minutes: 30,
  repeats: 1,
  attended: true,
  wanted: 5,
  after: [],
  conditions: {},
  requestId: null,
  ladderId: null,
  then: [],
  note: '',
};
const LADDER: LadderSummary = {
  id: '00000000-0000-4000-8000-000000000002',
  device: 'velm 5',
  title: 'Rook Tower',
  scene: 'the stair',
  setup: '',
  axis: 'internal resolution',
  system: 'Lumo 64',
  demand: 'notorious',
  rungs: ['1×', '2×'],
  probes: 1,
  best: null,
  sure: 0.5,
  ended: false,
  confirmed: false,
  probesToGo: 2.4,
  minutesToGo: 23,
  changedAt: '2026-05-02T10:00:00Z',
  together: null,
  standing: { posterior: [0.2, 0.5, 0.3], next: 2, lastAt: '2026-05-02T10:00:00Z' },
};

async function edit(ladders: LadderSummary[]): Promise<CardStep[][]> {
  standInServer(() => ({ body: ladders }));
  const kept: CardStep[][] = [];
  await show(
    <StepEditor
      step={STEP}
      steps={[STEP]}
      kit={undefined}
      onSteps={(steps) => kept.push(steps)}
      onDone={() => undefined}
    />,
  );
  return kept;
}

describe('a step of a card', () => {
  it('takes the minutes that its ladder still takes, and says what is to go', async () => {
    const kept = await edit([{ ...LADDER, title: 'Pico Harbour' }, LADDER]);
    await until(() => screen.queryByLabelText('Ladder to work on') !== null);
    const select = screen.getByLabelText('Ladder to work on') as HTMLSelectElement;
    // only that of its own device and title
    expect([...select.options].map((option) => option.text)).toEqual([
      'none',
      'internal resolution, the stair',
    ]);
    fireEvent.change(select, { target: { value: LADDER.id } });
    await until(
      () =>
        screen.queryByText(
          'About 2 tests left, and the confirming run: 23 min. The time follows the tests still needed.',
        ) !== null,
    );
    fireEvent.click(screen.getByRole('button', { name: 'Save step' }));
    await until(() => kept.length === 1);
    expect(kept[0]![0]).toMatchObject({ ladderId: LADDER.id, minutes: 23 });
  });

  it('is asked for no ladder where none fits', async () => {
    const kept = await edit([{ ...LADDER, device: 'Oru Fold' }]);
    fireEvent.click(screen.getByRole('button', { name: 'Save step' }));
    await until(() => kept.length === 1);
    expect(screen.queryByLabelText('Ladder to work on')).toBeNull();
    expect(kept[0]![0]).toMatchObject({ ladderId: null, minutes: 30 });
  });
});

describe('titles in a row', () => {
  const type = (text: string): void =>
    void fireEvent.change(screen.getByLabelText('Then play'), { target: { value: text } });
  const keep = (): void => void fireEvent.click(screen.getByRole('button', { name: 'Save step' }));

  it('are typed a line each, and kept with their minutes', async () => {
    const kept = await edit([]);
    type('Hexgarden 10\nSkiff 120, 12 min');
    await until(() => screen.queryByText(/^Counts within the step’s minutes/) !== null);
    keep();
    await until(() => kept.length === 1);
    expect(kept[0]![0]!.then).toEqual([
      { title: 'Hexgarden', minutes: 10 },
      { title: 'Skiff 120', minutes: 12 },
    ]);
  });

  it.each([
    ['Hexgarden', /^Then play: [Ee]nter/],
    ['Hexgarden 30', /these titles use all minutes of the step/],
  ])('“%s” is not kept, with its reason', async (text, reason) => {
    const kept = await edit([]);
    type(text);
    keep();
    await until(() => screen.queryByText(reason) !== null);
    expect(kept).toEqual([]);
  });
});
