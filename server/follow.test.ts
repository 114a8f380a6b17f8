import type { Kit, NewRun, RunDetail } from '@pace-check/contract';
import { startHarness, type Harness } from './testing/harness';

/** What a title asks for, and what it usually runs at, is known from the kit: stored runs follow it. */
let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

const send = (method: string, path: string, body?: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, body === undefined ? undefined : JSON.stringify(body), {
    'content-type': 'application/json',
  });
const make = async (
  title: string,
  {
    target = null,
    setup = null,
    ...more
  }: { target?: number | null; setup?: string | null } & Partial<NewRun> = {},
): Promise<string> => {
  const { status, body } = await send('POST', '/runs', {
    name: null,
    facts: { device: 'Velm 5', title, setup, target, refresh: null, roomC: null },
    fromKit: true,
    entries: [{ type: 'summary', by: 'tool', average: 46, onePercent: 32, minutes: 20 }],
    ...more,
  });
  expect([status, body.message]).toEqual([201, undefined]);
  return body.id as string;
};
const run = async (id: string): Promise<RunDetail> => (await harness.request('GET', `/runs/${id}`)).body;
const kit = async (): Promise<Kit> => (await harness.request('GET', '/kit')).body;
const setTitle = async (name: string, facts: object): Promise<number> => {
  const title = (await kit()).titles.find((one) => one.name === name)!;
  const { status, body } = await send('PUT', `/kit/title/${title.id}`, {
    name,
    facts: { ...title.facts, ...facts },
  });
  expect(status).toBe(200);
  return body.followed as number;
};

describe('what a title asks for', () => {
  it('changes the verdict of its stored runs, as far as nobody has set it on the run, and says of how many', async () => {
    const [follows, own] = [await make('Hexgarden'), await make('Hexgarden')];
    await make('Skiff 120');
    expect((await run(follows)).figures.playable).toBeNull();
    await send('PATCH', `/runs/${own}`, { need: 'reaction' });
    expect(await setTitle('Hexgarden', { need: 'action', target: 60 })).toBe(2);
    expect(await run(follows)).toMatchObject({
      need: 'action',
      target: 60,
      fromKit: expect.arrayContaining(['need', 'target']),
    });
    expect((await run(follows)).figures.playable).toBe('plays well');
    expect(await run(own)).toMatchObject({ need: 'reaction', target: 60 });
    // the same again changes nothing
    expect(await setTitle('Hexgarden', { need: 'action', target: 60 })).toBe(0);
    expect(await setTitle('Hexgarden', { need: 'story' })).toBe(1);
    expect((await run(follows)).need).toBe('story');
  });
  it('is learned from the first run that says it, and holds for those before', async () => {
    const before = await make('Aurelune');
    const says = await make('Aurelune', { target: 40, need: 'story' });
    expect((await kit()).titles.find((one) => one.name === 'Aurelune')!.facts).toMatchObject({
      target: 40,
      need: 'story',
    });
    for (const id of [before, says])
      expect(await run(id)).toMatchObject({
        target: 40,
        need: 'story',
        fromKit: expect.arrayContaining(['target', 'need']),
      });
    // another one of this run alone
    const other = await make('Aurelune', { target: 60 });
    expect(await run(other)).toMatchObject({ target: 60, need: 'story' });
    expect((await run(before)).target).toBe(40);
  });
  it('is none where somebody says so, whatever the kit says later', async () => {
    const none = await make('Aurelune', { none: ['target'] });
    expect(await run(none)).toMatchObject({ target: null, need: 'story' });
    const cleared = await make('Aurelune');
    await send('PATCH', `/runs/${cleared}`, { target: null });
    await setTitle('Aurelune', { target: 90 });
    expect([(await run(none)).target, (await run(cleared)).target]).toEqual([null, null]);
    expect((await run(await make('Aurelune'))).target).toBe(90);
    // and one again where it is said
    await send('PATCH', `/runs/${cleared}`, { target: 30 });
    expect((await run(cleared)).target).toBe(30);
  });
});

describe('a setup', () => {
  it('whose name tells a cap has it, and it leads the title’s target', async () => {
    const id = await make('Hexgarden', { setup: 'High, cap 30' });
    expect((await kit()).setups.find((one) => one.name === 'High, cap 30')!.facts).toEqual({
      pairs: [{ key: 'cap', value: '30', unit: 'fps' }],
    });
    expect((await run(id)).target).toBe(30);
    // one that is there keeps what is set in it
    expect((await run(await make('Hexgarden', { setup: 'Highest' }))).target).toBe(60);
  });
  it('changes the target of its runs, and of those of setups derived from it', async () => {
    const base = (await kit()).setups.find((one) => one.name === 'High, cap 30')!;
    await send('POST', '/kit/setup', {
      title: 'Hexgarden',
      name: 'Derived',
      facts: { from: 'High, cap 30' },
    });
    const id = await make('Hexgarden', { setup: 'Derived' });
    expect((await run(id)).target).toBe(30);
    const { body } = await send('PUT', `/kit/setup/${base.id}`, {
      title: 'Hexgarden',
      name: base.name,
      facts: { pairs: [{ key: 'cap', value: '45', unit: 'fps' }] },
    });
    expect(body).toEqual({ followed: 2 });
    expect((await run(id)).target).toBe(45);
  });
  it('a device’s panel is followed too', async () => {
    const id = await make('Hexgarden');
    const device = (await kit()).devices.find((one) => one.name === 'Velm 5')!;
    const { body } = await send('PUT', `/kit/device/${device.id}`, {
      name: 'Velm 5',
      facts: { screens: [{ refreshHz: [60, 120] }] },
    });
    expect(body.followed).toBeGreaterThan(3);
    expect((await run(id)).refresh).toBe(120);
  });
});

it('a run’s own name follows what is corrected; one that somebody gave stays', async () => {
  const id = await make('Rook Tower');
  expect((await run(id)).name).toBe('Rook Tower on Velm 5');
  await send('PATCH', `/runs/${id}`, { device: 'Velm 4' });
  expect((await run(id)).name).toBe('Rook Tower on Velm 4');
  await send('PATCH', `/runs/${id}`, { name: 'The long one' });
  await send('PATCH', `/runs/${id}`, { device: 'Velm 5' });
  expect((await run(id)).name).toBe('The long one');
});

it('a run that was put away follows once it is back', async () => {
  const id = await make('Rook Tower');
  await send('DELETE', `/runs/${id}`);
  await setTitle('Rook Tower', { need: 'slow' });
  await send('POST', `/runs/${id}/restore`);
  expect((await run(id)).need).toBe('slow');
});
