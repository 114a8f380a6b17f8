import { USUAL_RULES, type Card, type CardStep } from '@pace-check/contract';
import { layTemplate, planDay, TEMPLATES, type DayPlan } from '@pace-check/core';
import { minutesOf } from '../../ui/Field';
import { span, timeOfDay } from '../../ui/figures';
import { found } from '../kit/KitScreen';
import { pruned } from '../kit/fields';
import { dayRows, nameOf, nextRow, stepOfTask } from './dayRows';
import { sayChanges } from './DayView';
import { copied, emptyCard, newStep, stepOf, stepsOf } from './newCard';
import { preflightAnswers } from '../../forms/Preflight';
import { posed } from './usePlanner';

jest.mock('expo-router', () => ({
  Link: () => null,
  useRouter: () => ({}),
  useLocalSearchParams: () => ({}),
}));

const id = (n: number): string => `00000000-0000-4000-8000-00000000000${n}`;
const step = (n: number, more: Partial<CardStep> = {}): CardStep =>
  newStep('Aurelune', { id: id(n), device: 'Velm 5', minutes: 20, ...more });
const card = (steps: CardStep[], more: Partial<Card> = {}): Card => ({
  ...emptyCard('Crossing'),
  id: id(9),
  revision: 0,
  steps,
  rules: USUAL_RULES,
  plan: null,
  planIsOld: false,
  events: [],
  linked: [],
  known: ['Velm 5', 'Kitto Mini'].map((name) => ({
    name,
    kind: 'phone',
    batteryWh: 18,
    chargerW: 25,
    own: { coolTauMin: [], runs: [] },
  })),
  ...more,
});
function planned(of: Card): Card {
  const day = posed(of, () => 'medium');
  if (!('problem' in day)) throw new Error(day.message);
  return { ...of, plan: [...planDay(day.problem)].at(-1)! };
}

describe('times of day', () => {
  it.each([
    ['9:30', 570],
    ['0930', 570],
    ['9', 540],
    ['23.59', 1439],
    ['', null],
    ['soon', 'soon'],
    ['12:75', '12:75'],
    ['99', '99'],
  ])('“%s” is read as %s', (text, minutes) => expect(minutesOf(text)).toBe(minutes));
  it('are said, also past midnight', () =>
    expect([timeOfDay(545), timeOfDay(1445), span(59), span(125)]).toEqual([
      '09:05',
      '00:05 +1',
      '59 min',
      '2 h 05',
    ]));
});

describe('finding in the kit', () => {
  const rows = Array.from({ length: 500 }, (_, i) => ({
    name: `Ferry Game ${i}`,
    says: i % 2 ? 'light' : 'heavy',
  }));
  it('takes words in any order, from name and facts', () => {
    expect(found(rows, 'game 437')).toHaveLength(1);
    expect(found(rows, 'HEAVY ferry 4').every((row) => row.says === 'heavy' && row.name.includes('4'))).toBe(
      true,
    );
    expect(found(rows, ' ')).toBe(rows);
  });
  it('puts names that begin so first', () =>
    expect(found([{ name: 'Night Ferry', says: '' }, ...rows], 'ferry')[0]!.name).toBe('Ferry Game 0'));
});

describe('records', () => {
  it('are checked without what stands empty', () =>
    expect(
      pruned({
        name: 'V',
        facts: { chip: '', batteryMah: null, screens: [{ inches: 6, name: '' }], caps: [] },
      }),
    ).toEqual({ name: 'V', facts: { screens: [{ inches: 6 }] } }));
});

describe('steps', () => {
  it('of a template keep what they come after', () => {
    const steps = stepsOf(
      layTemplate(
        TEMPLATES.find((one) => one.key === 'cooler-pair')!,
        ['Velm 5'],
        { heavy: ['Aurelune'] },
        [],
      ),
    );
    expect(steps[1]).toMatchObject({ after: [steps[0]!.id], conditions: { cooler: 'with' } });
  });
  it('are copied to other devices with ids of their own', () => {
    const [a, b] = [step(1), step(2, { device: 'Kitto Mini', after: [id(1)], requestId: id(5) })];
    const copies = copied([a, b], ['Oru Fold', 'Quill Deck']);
    expect(copies.map((one) => one.device)).toEqual(['Oru Fold', 'Quill Deck']);
    expect(copies[1]).toMatchObject({ after: [copies[0]!.id], requestId: null });
    expect(new Set([...copies, a, b].map((one) => one.id)).size).toBe(4);
    // one device for a template of two
    expect(copied([a, b], ['Oru Fold']).map((one) => one.device)).toEqual(['Oru Fold', 'Oru Fold']);
  });
  it('of a wish are wanted by how many asked', () =>
    expect(
      stepOf({
        id: id(5),
        title: 'Rook Tower',
        device: null,
        asked: 20,
        sources: [],
        answeredBy: null,
        onCard: null,
      }),
    ).toMatchObject({ title: 'Rook Tower', requestId: id(5), wanted: 25 }));
});

describe('the day’s rows', () => {
  const steps = [step(1), step(2, { device: 'Kitto Mini', repeats: 2 })];
  const of = { stepId: id(1), repeat: 1 };
  it('are planned, going on, or over, by their starts', () => {
    const before = planned(card(steps));
    expect(dayRows(before).map((row) => row.state)).toEqual(['open', 'open', 'open']);
    const first = dayRows(before).find((row) => row.step.id === id(1))!;
    const running = {
      ...before,
      events: [{ id: id(6), kind: 'started' as const, ...of, atMin: first.startMin + 7 }],
    };
    expect(nextRow(dayRows(running))).toMatchObject({
      taskId: first.taskId,
      state: 'running',
      startMin: first.startMin + 7,
      endMin: first.startMin + 27,
    });
    const crashed = {
      ...before,
      events: [
        ...running.events,
        { id: id(7), kind: 'ended' as const, ...of, atMin: first.startMin + 15, how: 'crashed' as const },
      ],
    };
    expect(dayRows(crashed).find((row) => row.taskId === first.taskId)).toMatchObject({
      state: 'crashed',
      endMin: first.startMin + 15,
    });
    expect(nextRow(dayRows(crashed))!.step.id).toBe(id(2));
    const skipped = { ...before, events: [{ ...crashed.events[1]!, how: 'skipped' as const }] } as Card;
    expect(dayRows(skipped).map((row) => row.step.id)).toEqual([id(2), id(2)]);
  });
  it('a run of several titles says which is on, and is laid out as one', () => {
    const then = [{ title: 'Hexgarden', minutes: 20 }];
    const day = planned(card([step(1, { minutes: 60, then })]));
    const [row] = dayRows(day);
    expect([row!.now, row!.endMin - row!.startMin]).toEqual([null, 60]);
    const of = { stepId: id(1), repeat: 1 };
    const events: Card['events'] = [
      { id: id(3), kind: 'started', ...of, atMin: 540 },
      { id: id(4), kind: 'title', ...of, atMin: 580, title: 'Hexgarden' },
      { id: id(5), kind: 'title', ...of, atMin: 570, title: 'Skiff 120' },
      { id: id(6), kind: 'title', ...of, repeat: 2, atMin: 590, title: 'Aurelune' },
    ];
    expect(dayRows({ ...day, events })[0]).toMatchObject({
      state: 'running',
      now: { title: 'Hexgarden', atMin: 580 },
    });
  });
  it('are called by title, device and repeat', () => {
    expect(dayRows(planned(card(steps))).map(nameOf)).toEqual(
      expect.arrayContaining(['Aurelune on Velm 5', 'Aurelune on Kitto Mini, 2 of 2']),
    );
    expect(stepOfTask(steps, `${id(2)}#2`)).toMatchObject({ repeat: 2 });
    expect(stepOfTask(steps, `${id(2)}#3`)).toBeNull();
  });
});

describe('what changed', () => {
  const of = card([step(1), step(2)]);
  const none = { finishByMin: 0, moved: [], dropped: [], back: [], reordered: false };
  const t = (n: number): string => `${id(n)}#1`;
  it('is said in a few lines', () => {
    expect(sayChanges(none, of)).toEqual(['The finish time is unchanged.']);
    expect(
      sayChanges(
        {
          ...none,
          finishByMin: 12,
          moved: [
            { taskId: t(1), byMin: 12, startMin: 600 },
            { taskId: t(2), byMin: 12, startMin: 700 },
          ],
        },
        of,
      ),
    ).toEqual(['The finish moves by 12 min later.', '2 runs start 12 min later.']);
    expect(
      sayChanges(
        {
          ...none,
          finishByMin: -5,
          moved: [
            { taskId: t(1), byMin: -5, startMin: 600 },
            { taskId: t(2), byMin: 3, startMin: 700 },
          ],
          dropped: [t(2)],
          reordered: true,
        },
        of,
      ),
    ).toEqual([
      'The finish moves by 5 min earlier.',
      'Aurelune on Velm 5 is now left out.',
      'The order has changed.',
      'Aurelune on Velm 5: 10:00, 5 min earlier.',
      'Aurelune on Velm 5: 11:40, 3 min later.',
    ]);
    const many = Array.from({ length: 5 }, (_, i) => ({ taskId: t(1), byMin: i + 1, startMin: 600 + i }));
    expect(sayChanges({ ...none, moved: many }, of).at(-1)).toBe('2 more runs moved; see the list below.');
    expect(sayChanges(null, of)).toEqual(['The day could not be replanned.']);
  });
});

describe('posing a day', () => {
  it('says what is wrong with it, and where', () => {
    expect(posed(card([step(1, { device: null })]), () => null)).toEqual({
      place: id(1),
      message: 'The step “Aurelune” has no device.',
      remedy: 'Choose a device for the step.',
    });
  });
  it('knows what earlier plans assumed of runs that are over', () => {
    const before = planned(card([step(1), step(2)]));
    const plan: DayPlan = {
      ...before.plan!,
      runs: before.plan!.runs.slice(1),
      past: [{ ...before.plan!.runs[0]!, startPercent: 71 }],
    };
    const first = before.plan!.runs[0]!;
    const day = posed(
      {
        ...before,
        plan,
        events: [
          {
            id: id(6),
            kind: 'started',
            stepId: first.taskId.split('#')[0]!,
            repeat: 1,
            atMin: first.startMin,
          },
          {
            id: id(7),
            kind: 'ended',
            stepId: first.taskId.split('#')[0]!,
            repeat: 1,
            atMin: first.endMin,
            how: 'done',
          },
        ],
      },
      () => 'medium',
    );
    expect('problem' in day && day.problem.devices[0]!.percent).toBeCloseTo(
      71 - (4.5 / 18 / 60) * 100 * 20,
      6,
    );
  });
});

it('preflight’s answers are said in its order', () =>
  expect(
    preflightAnswers(
      { firstPlay: true, roomC: 18, quiet: true, brightness: 70 },
      (celsius) => `${celsius} °C`,
    ),
  ).toEqual([
    { asks: 'Room temperature', says: '18 °C' },
    { asks: 'Brightness', says: '70 %' },
    { asks: 'Alerts', says: 'off' },
    { asks: 'First play', says: 'yes' },
  ]));
