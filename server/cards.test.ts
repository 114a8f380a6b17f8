import { randomUUID } from 'node:crypto';
import { USUAL_RULES, type Card, type CardInput, type CardStep } from '@pace-check/contract';
import { planDay, poseDay, type DayPlan } from '@pace-check/core';
import ICAL from 'ical.js';
import { ANYBODY } from './services/author';
import { Cards } from './services/cards';
import { Runs } from './services/runs';
import { importPath, startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

const send = (method: string, path: string, body: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, JSON.stringify(body), { 'content-type': 'application/json' });
const step = (more: Partial<CardStep> = {}): CardStep => ({
  id: randomUUID(),
  device: 'Velm 5',
  title: 'Aurelune',
  setup: 'Highest',
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
  ...more,
});
const input = (steps: CardStep[], more: Partial<CardInput> = {}): CardInput => ({
  name: 'Crossing',
  policy: 'highest',
  template: false,
  rules: USUAL_RULES,
  steps,
  day: {
    date: '2026-05-16',
    startMin: 540,
    finishByMin: null,
    hands: 1,
    parallel: true,
    order: 'light-to-heavy',
    roomC: 18,
    devices: [],
  },
  ...more,
});
const create = async (steps: CardStep[], more: Partial<CardInput> = {}): Promise<Card> =>
  (await send('POST', '/cards', input(steps, more))).body;
const planOf = (card: Card): DayPlan =>
  [
    ...planDay(
      poseDay(
        { ...card, steps: card.steps.map((one) => ({ ...one, pluggedIn: false })) },
        card.known,
        () => 'heavy',
      ).problem,
    ),
  ].at(-1)!;
const LOG = `frame_time_ms\n${'16.667\n'.repeat(3600)}`;

describe('a card', () => {
  it('is kept with its steps in order, and adds the names it uses to the kit', async () => {
    const [a, b] = [step(), step({ device: 'Kitto Mini', title: 'Skiff 120', setup: null })];
    const card = await create([a, { ...b, after: [a.id] }]);
    expect(card).toMatchObject({ revision: 0, plan: null, events: [], steps: [a, { ...b, after: [a.id] }] });
    expect(card.known.map((device) => [device.name, device.kind, device.own.runs.length])).toEqual([
      ['Velm 5', 'phone', 0],
      ['Kitto Mini', 'phone', 0],
    ]);
    const reordered = (await send('PUT', `/cards/${card.id}`, { ...input([b, a]), revision: 0 })).body;
    expect(reordered).toMatchObject({ revision: 1, steps: [b, a] });
    expect((await harness.request('GET', '/cards')).body[0]).toMatchObject({
      name: 'Crossing',
      devices: ['Kitto Mini', 'Velm 5'],
      steps: 2,
      runs: 2,
      ended: 0,
    });
  });
  it('is not run over by someone who read it earlier', async () => {
    const card = await create([step()]);
    await send('PUT', `/cards/${card.id}`, { ...input(card.steps, { name: 'First' }), revision: 0 });
    expect(
      await send('PUT', `/cards/${card.id}`, { ...input(card.steps, { name: 'Second' }), revision: 0 }),
    ).toMatchObject({ status: 409, body: { code: 'changed-meanwhile' } });
    expect((await harness.request('GET', `/cards/${card.id}`)).body.name).toBe('First');
  });
  it.each([
    [[step({ minutes: 0 })], 'steps.0.minutes', 'at least one minute'],
    [
      [step(), step({ after: [randomUUID()] })],
      'steps.1.after',
      'Step 2 comes after a step that is not on this card',
    ],
    [[step({ wanted: -1 })], 'steps.0.wanted', 'at least 0'],
  ])('that makes no sense is refused with the field, and nothing is stored', async (steps, field, why) => {
    const before = (await harness.request('GET', '/cards')).body.length;
    expect(await send('POST', '/cards', input(steps))).toMatchObject({
      status: 400,
      body: { field, message: expect.stringContaining(why) },
    });
    expect((await harness.request('GET', '/cards')).body).toHaveLength(before);
  });
  it('takes no step from another card', async () => {
    const card = await create([step()]);
    expect(await send('POST', '/cards', input(card.steps))).toMatchObject({
      status: 409,
      body: { code: 'step-elsewhere' },
    });
  });
  it('is deleted and brought back', async () => {
    const card = await create([step()]);
    expect((await harness.request('DELETE', `/cards/${card.id}`)).status).toBe(204);
    expect((await harness.request('GET', `/cards/${card.id}`)).status).toBe(404);
    expect((await harness.request('POST', `/cards/${card.id}/restore`)).status).toBe(204);
    expect((await harness.request('GET', `/cards/${card.id}`)).body).toEqual(card);
  });
});

describe('the day', () => {
  it('keeps the plan of the card as it is, and says when the card has moved on', async () => {
    const card = await create([step(), step({ device: 'Kitto Mini' })]);
    const plan = planOf(card);
    expect((await send('PUT', `/cards/${card.id}/plan`, { plan, ofRevision: 0 })).body).toMatchObject({
      plan,
      planIsOld: false,
    });
    const moved = (
      await send('PUT', `/cards/${card.id}`, { ...input(card.steps, { name: 'Later' }), revision: 0 })
    ).body;
    expect(moved).toMatchObject({ plan, planIsOld: true });
    expect((await send('PUT', `/cards/${card.id}/plan`, { plan, ofRevision: 0 })).status).toBe(409);
    expect(
      (await send('PUT', `/cards/${card.id}/plan`, { plan: { runs: 'many' }, ofRevision: 1 })).status,
    ).toBe(400);
    // a device’s name stands in the plan
    const device = (await harness.request('GET', '/kit')).body.devices.find(
      (one: { name: string }) => one.name === 'Kitto Mini',
    );
    await send('PUT', `/cards/${card.id}/plan`, { plan, ofRevision: 1 });
    await send('PUT', `/kit/device/${device.id}`, { name: 'Kitto Mini 2', facts: {} });
    expect((await harness.request('GET', `/cards/${card.id}`)).body).toMatchObject({ planIsOld: true });
  });
  it('keeps its plan from a helper, who lays out the rest and takes none away', async () => {
    const card = await create([step()]);
    const plan = planOf(card);
    await send('PUT', `/cards/${card.id}/plan`, { plan, ofRevision: 0 });
    const cards = new Cards(harness.pool, new Runs(harness.pool, harness.analyses));
    const helper = { ...ANYBODY, mayAll: false };
    for (const none of [null, { ...plan, runs: [], past: [], dropped: [] }])
      await expect(cards.plan(card.id, { plan: none, ofRevision: 0 }, helper)).rejects.toMatchObject({
        status: 403,
        body: { code: 'not-yours' },
      });
    expect((await harness.request('GET', `/cards/${card.id}`)).body.plan).toEqual(plan);
    await expect(cards.plan(card.id, { plan, ofRevision: 0 }, helper)).resolves.toMatchObject({ plan });
  });
  it('keeps what happened once, however often it is sent, and takes it back', async () => {
    const [a] = [step()];
    const card = await create([a]);
    const started = { id: randomUUID(), kind: 'started', stepId: a.id, repeat: 1, atMin: 541 };
    const ended = { id: randomUUID(), kind: 'ended', stepId: a.id, repeat: 1, atMin: 583, how: 'done' };
    await send('POST', `/cards/${card.id}/events`, { events: [started] });
    expect(
      (await send('POST', `/cards/${card.id}/events`, { events: [started, ended] })).body.events,
    ).toEqual([started, ended]);
    expect(
      (await harness.request('GET', '/cards')).body.find((one: { id: string }) => one.id === card.id),
    ).toMatchObject({ ended: 1 });
    expect((await harness.request('DELETE', `/cards/${card.id}/events/${ended.id}`)).body.events).toEqual([
      started,
    ]);
    expect((await harness.request('DELETE', `/cards/${card.id}/events/${ended.id}`)).status).toBe(404);
  });
  it('links no run that is not there, and keeps nothing of what was told with it', async () => {
    const [a] = [step()];
    const card = await create([a]);
    const told = [
      { id: randomUUID(), kind: 'started', stepId: a.id, repeat: 1, atMin: 541 },
      { id: randomUUID(), kind: 'linked', stepId: a.id, repeat: 1, atMin: 600, runId: randomUUID() },
    ];
    expect(await send('POST', `/cards/${card.id}/events`, { events: told })).toMatchObject({
      status: 404,
      body: { code: 'not-found', message: 'This run does not exist.' },
    });
    expect((await harness.request('GET', `/cards/${card.id}`)).body.events).toEqual([]);
  });
  it('hears what waited at a desk: each once, by itself, in its order', async () => {
    const [a] = [step()];
    const card = await create([a]);
    const plan = planOf(card);
    const at = { stepId: a.id, repeat: 1, atMin: 541 };
    const started = { id: randomUUID(), kind: 'started', ...at };
    const wrong = { id: randomUUID(), kind: 'linked', ...at, runId: randomUUID() };
    const laid = { id: randomUUID(), kind: 'plan', plan, ofRevision: 0 };
    const tell = (...changes: object[]): ReturnType<typeof send> =>
      send('POST', `/cards/${card.id}/changes`, { changes });
    const first = await tell(started, wrong, { id: randomUUID(), kind: 'rained' }, laid);
    expect(first.body).toMatchObject({
      done: [started.id, laid.id],
      refused: [
        { id: wrong.id, reason: expect.stringContaining('This run does not exist.') },
        { reason: expect.stringContaining('kind') },
      ],
    });
    // the answer was lost
    expect((await tell(started, laid)).body).toMatchObject({ done: [started.id, laid.id], refused: [] });
    expect((await harness.request('GET', `/cards/${card.id}`)).body).toMatchObject({
      events: [started],
      plan,
      planIsOld: false,
    });
    const back = { id: randomUUID(), kind: 'take-back', event: started.id };
    for (const _ of [1, 2]) expect((await tell(back)).body).toMatchObject({ done: [back.id], refused: [] });
    expect((await harness.request('GET', `/cards/${card.id}`)).body.events).toEqual([]);
    // a card that was changed meanwhile
    await send('PUT', `/cards/${card.id}`, { ...input(card.steps, { name: 'Later' }), revision: 0 });
    expect((await tell(laid)).body.refused).toMatchObject([
      { reason: expect.stringContaining('The card was changed') },
    ]);
    expect(
      (await send('POST', `/cards/${randomUUID()}/changes`, { changes: [started] })).body.refused,
    ).toMatchObject([{ reason: expect.stringContaining('This card does not exist.') }]);
  });
  it('goes out as a calendar that a calendar library reads', async () => {
    const card = await create([step({ repeats: 2, note: 'by the window' })], { name: 'Tide, and time' });
    expect(await harness.request('GET', `/cards/${card.id}/day.ics`)).toMatchObject({
      status: 409,
      body: { code: 'no-plan' },
    });
    const plan = planOf(card);
    await send('PUT', `/cards/${card.id}/plan`, { plan, ofRevision: 0 });
    const { body } = await harness.request('GET', `/cards/${card.id}/day.ics`);
    const calendar = new ICAL.Component(ICAL.parse(body));
    const events = calendar.getAllSubcomponents('vevent').map((event) => new ICAL.Event(event));
    const runs = events.filter((event) => event.summary === 'Aurelune on Velm 5');
    const minutes = (time: ICAL.Time): number => time.hour * 60 + time.minute;
    expect(runs.map((event) => [minutes(event.startDate), minutes(event.endDate)])).toEqual(
      plan.runs.map((run) => [run.startMin - run.prepareMin, run.endMin]),
    );
    // the bench’s own clock: in no zone
    expect(runs[0]!.startDate).toMatchObject({ year: 2026, month: 5, day: 16, isDate: false });
    expect(runs[0]!.startDate.zone.tzid).toBe('floating');
    expect(runs[1]!.description).toContain('2 of 2');
    expect(runs[1]!.description).toContain('by the window');
  });
});

describe('a run that was made for a step', () => {
  it('takes over the step’s conditions and what the kit knows, and answers the request', async () => {
    await send('POST', '/kit/device', {
      name: 'Velm 5',
      facts: { batteryMah: 4700, batteryV: 3.85, firmware: 'pre-release' },
    });
    await send('POST', '/kit/title', {
      name: 'Rook Tower',
      facts: { kind: 'emulated', nativeFps: 30, need: 'story', updateStage: 'not-updated' },
    });
    await send('POST', '/requests', { title: 'Rook Tower', device: 'Velm 5', asked: 3, source: 'mail' });
    const [request] = (await harness.request('GET', '/requests')).body;
    const one = step({
      title: 'Rook Tower',
      setup: null,
      requestId: request.id,
      conditions: { cooler: 'without' },
    });
    const card = await create([one]);
    expect((await harness.request('GET', '/requests')).body[0]).toMatchObject({
      onCard: { id: card.id },
      answeredBy: null,
    });
    const run = (
      await harness.request(
        'POST',
        importPath({
          facts: { device: 'Velm 5', title: 'Rook Tower', setup: null, target: 30, refresh: null },
          reading: {
            layout: { delimiter: ',', decimalMark: '.', firstLine: 2 },
            choice: { column: 0, kind: 'frame-time', unit: 'ms' },
          },
        }),
        LOG,
      )
    ).body;
    const linked = { id: randomUUID(), kind: 'linked', stepId: one.id, repeat: 1, atMin: 600, runId: run.id };
    await send('POST', `/cards/${card.id}/events`, {
      events: [
        {
          id: randomUUID(),
          kind: 'preflight',
          stepId: one.id,
          repeat: 1,
          atMin: 541,
          preflight: { charging: 'plugged in', firstPlay: true, hold: 'on a stand' },
        },
        linked,
      ],
    });
    const after = (await harness.request('GET', `/runs/${run.id}`)).body;
    expect(after).toMatchObject({
      preflight: {
        charging: 'plugged in',
        firstPlay: true,
        hold: 'on a stand',
        cooler: 'without',
        roomC: 18,
      },
      onCard: { cardId: card.id, cardName: 'Crossing', stepId: one.id, repeat: 1 },
      roomC: 18,
      batteryWh: 18.095,
      native: 30,
      need: 'story',
    });
    expect(after.caveats.map((one: { caveat: string }) => one.caveat)).toEqual(
      expect.arrayContaining(['plugged-in', 'first-play', 'pre-release', 'title-not-updated']),
    );
    expect((await harness.request('GET', '/requests')).body[0]).toMatchObject({ answeredBy: { id: run.id } });
    await harness.request('DELETE', `/cards/${card.id}/events/${linked.id}`);
    expect((await harness.request('GET', '/requests')).body[0]).toMatchObject({ answeredBy: null });
    // the next preflight on this device asks only what is not known from that one
    const next = await create([step({ title: 'Rook Tower', conditions: { charging: 'on battery' } })], {
      day: { ...card.day, roomC: null },
    });
    expect(
      (await harness.request('GET', `/cards/${next.id}/preflight?step=${next.steps[0]!.id}`)).body,
    ).toEqual({
      known: { charging: 'on battery', firstPlay: false, hold: 'on a stand' },
      from: 'Rook Tower',
      seen: [],
    });
  });
  it('is what the planner knows the device by, with its cool-downs', async () => {
    await send('POST', '/runs', {
      name: null,
      facts: {
        device: 'Brask Slate 11',
        title: 'Aurelune',
        setup: null,
        target: null,
        refresh: null,
        roomC: 18,
      },
      entries: [
        [0, 19],
        [180, 29],
        [480, 37],
        [780, 40.6],
        [1080, 42],
        [1600, 42.8],
      ].map(([s, c]) => ({ type: 'skin', atMs: s! * 1000, spot: 'back', c, by: 'infrared' })),
    });
    expect(
      (
        await send('POST', '/cool-downs', {
          device: 'Brask Slate 11',
          spot: 'back',
          roomC: 18,
          startedAt: '2026-05-09T11:00:00+02:00',
          readings: [0, 300, 600, 900, 1200].map((atS) => ({ atS, c: 18 + 24 * Math.exp(-atS / 700) })),
        })
      ).body.tauS,
    ).toBeCloseTo(700, 1);
    const card = await create([step({ device: 'Brask Slate 11' })]);
    expect(card.known[0]!.own).toMatchObject({
      coolTauMin: [expect.closeTo(700 / 60, 3)],
      runs: [
        {
          title: 'Aurelune',
          riseC: expect.closeTo(25, 0),
          warmTauMin: expect.closeTo(5.8, 0),
          percentPerHour: null,
        },
      ],
    });
  });
});

describe('requests', () => {
  it('that are the same are one, ranked by how many asked', async () => {
    await send('POST', '/requests', { title: 'Hexgarden', device: null, asked: 4, source: 'comments' });
    await send('POST', '/requests', { title: 'hexgarden', device: null, asked: 5, source: 'mail' });
    const requests = (await harness.request('GET', '/requests')).body;
    expect(requests.map((one: { title: string; asked: number }) => [one.title, one.asked])).toEqual([
      ['Hexgarden', 9],
      ['Rook Tower', 3],
    ]);
    expect(requests[0].sources).toEqual([
      { source: 'comments', asked: 4 },
      { source: 'mail', asked: 5 },
    ]);
    expect((await harness.request('DELETE', `/requests/${requests[0].id}`)).status).toBe(204);
    expect((await send('POST', '/requests', { title: 'Hexgarden', device: null, asked: 0 })).status).toBe(
      400,
    );
  });
});

describe('titles in a row', () => {
  it('are kept with their step, which has to have minutes of its own', async () => {
    const then = [{ title: 'Hexgarden', minutes: 20 }];
    const made = await create([step({ minutes: 60, then })]);
    expect(made.steps[0]!.then).toEqual(then);
    const { id, steps } = made;
    const on = {
      id: randomUUID(),
      kind: 'title',
      stepId: steps[0]!.id,
      repeat: 1,
      atMin: 580,
      title: 'Hexgarden',
    };
    expect((await send('POST', `/cards/${id}/events`, { events: [on] })).body.events).toEqual([on]);
    const none = await send('POST', '/cards', input([step({ minutes: 20, then })]));
    expect([none.status, none.body.field]).toEqual([400, 'steps.0.then']);
  });
});
