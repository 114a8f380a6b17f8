import {
  poseDay,
  runStates,
  taskId,
  type DayEvent,
  type PlanCard,
  type PlanDevice,
  type PlanStep,
} from './dayProblem';
import { planChanges } from './changes';
import { CLASS_HABITS, deviceHabits, taskHabits, type OwnFigures } from './habits';
import { planDay, type DayPlan } from './planDay';
import { PlanRefused, type DayTask } from './problem';

const NOTHING: OwnFigures = { coolTauMin: [], runs: [] };
const velm: PlanDevice = { name: 'Velm 5', kind: 'phone', batteryWh: 18.1, chargerW: 30, own: NOTHING };
const kitto: PlanDevice = { ...velm, name: 'Kitto Mini', batteryWh: 11.2 };
const step = (id: string, more: Partial<PlanStep> = {}): PlanStep => ({
  id,
  device: 'Velm 5',
  title: 'Aurelune',
  setup: null,
  minutes: 30,
  repeats: 1,
  attended: true,
  wanted: 5,
  after: [],
  pluggedIn: false,
  ...more,
});
const card = (steps: PlanStep[], day: Partial<PlanCard['day']> = {}): PlanCard => ({
  steps,
  rules: {
    startOverRoomC: 3,
    startPercent: 40,
    floorPercent: 15,
    chargeBelowC: 35,
    prepareMin: 3,
    restMin: 10,
    stretchMin: 90,
    handsRest: true,
  },
  day: {
    startMin: 540,
    finishByMin: null,
    hands: 1,
    parallel: true,
    order: 'light-to-heavy',
    roomC: 18,
    devices: [],
    ...day,
  },
});
const heavy = (): 'heavy' => 'heavy';
const plan = (steps: PlanStep[], events: DayEvent[] = [], planned: DayPlan | null = null): DayPlan => {
  let last: DayPlan | null = null;
  for (const found of planDay(poseDay(card(steps), [velm, kitto], heavy, events, planned?.runs).problem, {
    previous: planned?.order,
  }))
    last = found;
  return last!;
};

describe('habits', () => {
  const own: OwnFigures = {
    coolTauMin: [9, 14, 10],
    runs: [
      { title: 'Aurelune', demand: 'heavy', warmTauMin: 7, riseC: 23, percentPerHour: 24 },
      { title: 'Aurelune', demand: 'heavy', warmTauMin: null, riseC: null, percentPerHour: 30 },
      { title: 'Hexgarden', demand: 'medium', warmTauMin: 8, riseC: 15, percentPerHour: null },
    ],
  };
  it('come from a device’s own cool-downs, else its warm-ups, else its class', () => {
    expect(deviceHabits('phone', 18, 30, own)).toMatchObject({
      coolTauMin: 10,
      warmTauMin: 7.5,
      coolingFrom: 'own-cool-downs',
      coolingOf: 3,
    });
    expect(deviceHabits('phone', 18, 30, { ...own, coolTauMin: [] })).toMatchObject({
      coolTauMin: 7.5,
      coolingFrom: 'own-warm-ups',
      coolingOf: 2,
    });
    expect(deviceHabits('tablet', null, null, NOTHING)).toMatchObject({
      coolTauMin: CLASS_HABITS.tablet.coolTauMin,
      coolingFrom: 'class',
      batteryWh: CLASS_HABITS.tablet.batteryWh,
    });
  });
  it('of a title come from its own runs, else from those that ask as much, else from the class', () => {
    expect(taskHabits('phone', 18, { title: 'aurelune', demand: 'heavy' }, own)).toEqual({
      riseC: 23,
      percentPerMin: 27 / 60,
      riseFrom: 'own-title',
      drainFrom: 'own-title',
    });
    expect(taskHabits('phone', 18, { title: 'Iron Orchard', demand: 'heavy' }, own)).toMatchObject({
      riseC: 23,
      riseFrom: 'own-demand',
    });
    expect(taskHabits('phone', 18, { title: 'Pico Harbour', demand: 'medium' }, own)).toMatchObject({
      riseFrom: 'own-demand',
      drainFrom: 'class',
      percentPerMin: (CLASS_HABITS.phone.watts.medium / 18) * (100 / 60),
    });
  });
  it('charge by the charger’s watts and the battery’s watt-hours', () =>
    expect(deviceHabits('phone', 20, 30, NOTHING).chargePercentPerMin).toBeCloseTo(2, 10));
});

describe('a card poses its day', () => {
  it('with each repeat a task, in names that can be read', () => {
    const { problem } = poseDay(card([step('a', { repeats: 2, setup: 'Highest' })]), [velm], heavy);
    expect(problem.tasks.map((one) => [one.id, one.name])).toEqual([
      ['a#1', 'Aurelune, Highest on Velm 5 (1 of 2)'],
      ['a#2', 'Aurelune, Highest on Velm 5 (2 of 2)'],
    ]);
  });
  it('from the temperatures and percents that were read, and assumes what was not', () => {
    const posed = poseDay(
      card([step('a')], { devices: [{ device: 'velm 5', skinC: 26, percent: 71 }] }),
      [velm],
      heavy,
    );
    expect(posed.problem.devices[0]).toMatchObject({ overRoomC: 8, percent: 71, fromMin: 540 });
    const unknown = poseDay(card([step('a')], { roomC: null }), [velm], heavy);
    expect(unknown).toMatchObject({
      roomKnown: false,
      problem: { rules: { chargeOverRoomC: 15 }, devices: [{ overRoomC: 0, percent: 100 }] },
    });
  });
  it('keeps the battery and gets warmer where a step is plugged in', () => {
    const [free, plugged] = poseDay(card([step('a'), step('b', { pluggedIn: true })]), [velm], heavy).problem
      .tasks;
    expect(plugged).toMatchObject({ percentPerMin: 0, riseC: free!.riseC + 5 });
  });
  it('lays several titles that are played in a row out as one run, as warm as the warmest of them', () => {
    const pose = (then: { title: string; minutes: number }[]): DayTask =>
      poseDay(card([step('a', { minutes: 60, then })]), [velm], (title) =>
        title === 'Hexgarden' ? 'light' : 'heavy',
      ).problem.tasks[0]!;
    const [alone, light, both] = [
      pose([]),
      poseDay(card([step('a', { title: 'Hexgarden' })]), [velm], () => 'light').problem.tasks[0]!,
      pose([{ title: 'Hexgarden', minutes: 20 }]),
    ];
    expect(both).toMatchObject({ minutes: 60, riseC: alone.riseC, demand: 'heavy' });
    expect(both.name).toBe('Aurelune, then Hexgarden on Velm 5');
    // forty minutes of the one, twenty of the other
    expect(both.percentPerMin).toBeCloseTo((40 * alone.percentPerMin + 20 * light.percentPerMin) / 60, 9);
  });
  it('refuses a step without a device that it knows', () => {
    expect(() => poseDay(card([step('a', { device: null })]), [velm], heavy)).toThrow(
      new PlanRefused('a', 'The step “Aurelune” has no device.', ''),
    );
    expect(() => poseDay(card([step('a', { device: 'Oru Fold' })]), [velm], heavy)).toThrow(
      'There is no device “Oru Fold” in Kit.',
    );
  });
});

describe('keeping up', () => {
  const steps = [
    step('a', { minutes: 20 }),
    step('b', { device: 'Kitto Mini', minutes: 20 }),
    step('c', { minutes: 25 }),
  ];
  it('reads where each run stands', () => {
    const events: DayEvent[] = [
      { kind: 'started', stepId: 'a', repeat: 1, atMin: 545 },
      { kind: 'ended', stepId: 'a', repeat: 1, atMin: 553, how: 'crashed' },
      { kind: 'started', stepId: 'b', repeat: 1, atMin: 560 },
      { kind: 'ended', stepId: 'nobody', repeat: 1, atMin: 561, how: 'done' },
    ];
    expect(runStates(steps, events).map((one) => [one.taskId, one.state, one.startMin, one.endMin])).toEqual([
      ['a#1', 'crashed', 545, 553],
      ['b#1', 'running', 560, null],
      ['c#1', 'open', null, null],
    ]);
  });
  it('lays what is left out anew when a run ran over, and says what moved', () => {
    const before = plan(steps);
    const first = before.runs[0]!;
    const [stepId] = first.taskId.split('#') as [string];
    const events: DayEvent[] = [
      { kind: 'started', stepId, repeat: 1, atMin: first.startMin },
      { kind: 'ended', stepId, repeat: 1, atMin: first.endMin + 12, how: 'done' },
    ];
    const after = plan(steps, events, before);
    expect(after.runs.map((run) => run.taskId)).not.toContain(first.taskId);
    expect(after.fromMin).toBe(first.endMin + 12);
    const changes = planChanges(before, after);
    expect(changes.moved.length).toBeGreaterThan(0);
    expect(changes.moved.every((move) => move.byMin > 0)).toBe(true);
    expect(changes.finishByMin).toBeGreaterThan(0);
    expect(changes.dropped).toEqual([]);
  });
  it('waits for a device that is still warm', () => {
    const before = plan(steps);
    const cooling = before.runs.find((run) => run.taskId === taskId('c', 1))!;
    const events: DayEvent[] = before.runs
      .filter((run) => run !== cooling)
      .flatMap((run): DayEvent[] => {
        const [stepId] = run.taskId.split('#') as [string];
        return [
          { kind: 'started', stepId, repeat: 1, atMin: run.startMin },
          { kind: 'ended', stepId, repeat: 1, atMin: run.endMin, how: 'done' },
        ];
      });
    const lastEnd = Math.max(...events.map((event) => event.atMin));
    const cool = plan(steps, events, before);
    const warm = plan(
      steps,
      [...events, { kind: 'reading', device: 'Velm 5', atMin: lastEnd + 5, skinC: 33, percent: null }],
      before,
    );
    // 15 °C over the room falls to 3 in 11·ln 5 minutes
    expect(warm.runs[0]!.startMin).toBe(lastEnd + 5 + Math.ceil(11 * Math.log(5)));
    expect(warm.runs[0]!.startMin).toBeGreaterThan(cool.runs[0]!.startMin);
  });
  it('keeps the hands busy and the device warm while a run goes on', () => {
    const { problem } = poseDay(card(steps), [velm, kitto], heavy, [
      { kind: 'started', stepId: 'a', repeat: 1, atMin: 545 },
    ]);
    expect(problem.hands).toEqual([{ freeMin: 565, work: { sinceMin: 542, untilMin: 565 } }]);
    expect(problem.devices[0]).toMatchObject({ name: 'Velm 5', fromMin: 565 });
    expect(problem.devices[0]!.overRoomC).toBeGreaterThan(15);
  });
  it('forgets what a skipped run was waited for', () => {
    const chain = [step('a'), step('b', { after: ['a'] })];
    const { problem } = poseDay(card(chain), [velm], heavy, [
      { kind: 'ended', stepId: 'a', repeat: 1, atMin: 540, how: 'skipped' },
    ]);
    expect(problem.tasks).toMatchObject([{ id: 'b#1', after: [] }]);
    expect(problem.devices[0]).toMatchObject({ fromMin: 540, overRoomC: 0 });
  });
});
