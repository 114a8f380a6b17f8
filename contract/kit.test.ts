import { randomUUID } from 'node:crypto';
import { batteryWhOf, cardStep, dayEvents, newCoolDown, newRecord, preflight } from './index';

describe('energy of a battery', () => {
  it('is as stated, else capacity times nominal voltage', () => {
    expect(batteryWhOf({ batteryWh: 47.5, batteryMah: 1 })).toBe(47.5);
    expect(batteryWhOf({ batteryMah: 4700, batteryV: 3.85 })).toBeCloseTo(18.095, 9);
    expect(batteryWhOf({ batteryMah: 2900 })).toBeCloseTo(11.223, 9);
    expect(batteryWhOf({})).toBeNull();
  });
});

describe('records', () => {
  it('need a name and nothing else', () =>
    expect(newRecord.device.parse({ name: ' Velm 5 ' })).toEqual({ name: 'Velm 5', facts: {} }));
  it.each([
    ['device', { name: 'V', facts: { batteryMah: 0 } }, 'above 0 mAh'],
    ['device', { name: 'V', facts: { colour: 'red' } }, 'Unrecognized key'],
    ['title', { name: 'T', facts: { demand: 'gigantic' } }, 'Invalid option'],
    ['instrument', { name: 'I', facts: { emissivity: 1.2 } }, 'at most 1'],
    ['setup', { name: 'S', facts: {} }, 'expected string'],
  ] as const)('%s %j is refused', (kind, record, why) => {
    const result = newRecord[kind].safeParse(record);
    expect(result.success ? '' : result.error.message).toContain(why);
  });
  it('keep what a setup sets in its order and its units; a thing is set once', () => {
    const pairs = [
      { key: 'tier', value: 'High', unit: '' },
      { key: 'fog', value: '40', unit: 'm' },
    ];
    const kept = newRecord.setup.parse({ name: 'S', title: 'T', facts: { pairs } });
    expect(kept.facts.pairs).toEqual(pairs);
    const twice = newRecord.setup.safeParse({
      name: 'S',
      title: 'T',
      facts: { pairs: [...pairs, { key: 'Fog', value: '80' }] },
    });
    expect(twice.error?.issues).toMatchObject([
      { path: ['facts', 'pairs', 2, 'key'], message: '“Fog” is listed twice: remove one' },
    ]);
  });
});

describe('what is told of a day', () => {
  const step = {
    id: randomUUID(),
    device: null,
    title: 'T',
    setup: null,
    minutes: 15,
    repeats: 1,
    attended: true,
    wanted: 5,
    after: [],
    conditions: {},
    requestId: null,
    ladderId: null,
    note: '',
  };
  it.each([
    [{ minutes: 0 }, 'at least one minute'],
    [{ minutes: 1.5 }, 'enter whole minutes'],
    [{ repeats: 0 }, 'at least once'],
    [{ title: '' }, 'enter a name'],
  ])('a step with %j is refused', (wrong, why) => {
    expect(cardStep.safeParse(step).success).toBe(true);
    expect(cardStep.safeParse({ ...step, ...wrong }).error!.message).toContain(why);
  });
  it('has an id of its teller, and a kind that is known', () => {
    const event = { id: randomUUID(), kind: 'started', stepId: step.id, repeat: 1, atMin: 540 };
    expect(dayEvents.safeParse({ events: [event] }).success).toBe(true);
    for (const wrong of [
      { ...event, id: 'x' },
      { ...event, kind: 'paused' },
      { ...event, repeat: 0 },
      { ...event, atMin: -1 },
    ])
      expect(dayEvents.safeParse({ events: [wrong] }).success).toBe(false);
  });
  it('keeps preflight and cool-downs within what can be', () => {
    expect(preflight.safeParse({ brightness: 101 }).success).toBe(false);
    expect(
      newCoolDown.safeParse({
        device: 'V',
        spot: 'back',
        roomC: 18,
        startedAt: '2026-05-09T11:00:00+02:00',
        readings: [],
      }).success,
    ).toBe(false);
  });
});
