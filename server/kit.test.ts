import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { EARLIER_FACTS, KIT_KINDS, newRecord, setupFacts } from '@pace-check/contract';
import type * as z from 'zod';
import { fromCells, toCells } from './services/kitCells';
import { fileRecord } from './services/kitFile';
import { startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

const send = (method: string, path: string, body: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, typeof body === 'string' ? body : JSON.stringify(body), {
    'content-type': typeof body === 'string' ? 'text/plain' : 'application/json',
  });
interface Kept {
  name: string;
  id: string;
  facts: object;
  whole?: { key: string; value: string }[];
}
const kit = async (): Promise<Record<string, Kept[]>> => (await harness.request('GET', '/kit')).body;
const named = async (list: string, name: string): Promise<Kept> =>
  (await kit())[list]!.find((one) => one.name === name)!;

const FILE = {
  format: 'pace-kit',
  version: 1,
  devices: [
    {
      name: 'Velm 5',
      kind: 'phone',
      batteryMah: 4700,
      screens: [{ inches: 6.4, refreshHz: [60, 120] }],
      spots: [{ spot: 'back', side: 'back', x: 0.5, y: 0.5 }],
    },
  ],
  accessories: [{ name: 'Clip-on cooler', kind: 'cooler', contactSpot: 'back' }],
  titles: [{ name: 'Aurelune', kind: 'native', demand: 'heavy', capsFps: [30, 60], ownCounter: false }],
  setups: [{ title: 'Aurelune', name: 'Highest', tier: 'Highest', capFps: 60 }],
};

describe('records', () => {
  it('begin with a name, and are found again by it whatever its case', async () => {
    const { status, body } = await send('POST', '/kit/device', { name: 'Oru Fold' });
    expect(status).toBe(201);
    expect(
      (await send('POST', '/kit/device', { name: 'oru fold', facts: { kind: 'foldable' } })).body.id,
    ).toBe(body.id);
    expect(await named('devices', 'Oru Fold')).toMatchObject({ facts: { kind: 'foldable' } });
  });
  it('are filled in later, as a whole', async () => {
    const { id } = await named('devices', 'Oru Fold');
    expect(
      (
        await send('PUT', `/kit/device/${id}`, {
          name: 'Oru Fold',
          facts: { batteryMah: 4300 },
          spots: [{ spot: 'hinge', side: 'back', x: 0.1, y: 0.5 }],
        })
      ).status,
    ).toBe(200);
    expect(await named('devices', 'Oru Fold')).toMatchObject({
      facts: { batteryMah: 4300 },
      spots: [{ spot: 'hinge' }],
    });
  });
  it.each([
    [{ name: 'Oru Fold', facts: { batteryMah: 0 } }, 'facts.batteryMah', 'above 0 mAh'],
    [
      { name: 'Oru Fold', facts: { screens: [{ refreshHz: [-60] }] } },
      'facts.screens.0.refreshHz.0',
      'above 0 Hz',
    ],
    [{ name: ' ', facts: {} }, 'name', 'enter a name'],
  ])('that make no sense are refused with the field, and change nothing: %j', async (record, field, why) => {
    const before = await named('devices', 'Oru Fold');
    const answer = await send('PUT', `/kit/device/${before.id}`, record);
    expect(answer).toMatchObject({ status: 400, body: { field, message: expect.stringContaining(why) } });
    expect(await named('devices', 'Oru Fold')).toEqual(before);
  });
  it('keep their names apart', async () => {
    await send('POST', '/kit/device', { name: 'Velm 4' });
    const { id } = await named('devices', 'Velm 4');
    expect(await send('PUT', `/kit/device/${id}`, { name: 'ORU FOLD', facts: {} })).toMatchObject({
      status: 409,
      body: { code: 'name-taken', field: 'name' },
    });
  });
  it('are deleted only while nothing hangs on them', async () => {
    await send('POST', '/runs', {
      name: null,
      facts: { device: 'Velm 4', title: 'Hexgarden', setup: null, target: null, refresh: null, roomC: null },
      entries: [{ type: 'rate', atMs: 0, fps: 50, by: 'eye' }],
    });
    const { id } = await named('devices', 'Velm 4');
    expect(await harness.request('DELETE', `/kit/device/${id}`)).toMatchObject({
      status: 409,
      body: { code: 'in-use' },
    });
    const free = (await send('POST', '/kit/instrument', { name: 'Old thermometer' })).body.id;
    expect((await harness.request('DELETE', `/kit/instrument/${free}`)).status).toBe(204);
    expect((await harness.request('DELETE', `/kit/instrument/${free}`)).status).toBe(404);
    expect((await harness.request('DELETE', `/kit/nonsense/${free}`)).status).toBe(404);
  });
  it('may be refused by a device, once', async () => {
    const refusal = { device: 'Oru Fold', title: 'Hexgarden', setup: null, says: 'highest tier greyed out' };
    await send('POST', '/kit/refusals', refusal);
    const { body } = await send('POST', '/kit/refusals', { ...refusal, says: 'not for this screen' });
    expect(body).toMatchObject([{ ...refusal, says: 'not for this screen' }]);
    expect((await harness.request('DELETE', `/kit/refusals/${body[0].id}`)).status).toBe(204);
    expect((await kit())['refusals']).toEqual([]);
  });
});

describe('a setup that is derived from another', () => {
  const set = (key: string, value: string | null, unit = ''): object => ({ key, value, unit });
  const put = (name: string, facts: object): ReturnType<typeof send> =>
    send('POST', '/kit/setup', { name, title: 'Glass Canyon', facts });
  const whole = async (name: string): Promise<unknown> =>
    (await named('setups', name)).whole!.map(({ key, value }) => `${key} ${value}`);

  it('says what differs, and is read in full', async () => {
    await put('plain', {
      pairs: [set('emulator', 'Lantern'), set('backend', 'first'), set('fog', '40', 'm')],
    });
    await put('other backend', { from: 'plain', pairs: [set('Backend', 'second')] });
    await put('without fog', { from: 'other backend', pairs: [set('fog', null), set('cap', '30', 'fps')] });
    expect(await whole('without fog')).toEqual(['emulator Lantern', 'Backend second', 'cap 30']);
  });
  it('does not come back to itself, over others too', async () => {
    const { status, body } = await put('plain', { from: 'without fog' });
    expect([status, body.code, body.field]).toEqual([422, 'derivation', 'from']);
    expect(body.message).toBe('“plain” is based on itself, over “without fog”, “other backend”.');
    expect((await put('lost', { from: 'nowhere' })).body.message).toContain('not one of this title’s setups');
    // nothing of either is stored
    expect(await whole('plain')).toEqual(['emulator Lantern', 'backend first', 'fog 40']);
    expect(await named('setups', 'lost')).toBeUndefined();
  });
  it('follows the other’s new name, and outlives it', async () => {
    const { id } = await named('setups', 'other backend');
    const facts = { from: 'plain', pairs: [set('backend', 'second')] };
    await send('PUT', `/kit/setup/${id}`, { name: 'second backend', title: 'Glass Canyon', facts });
    expect(await whole('without fog')).toEqual(['emulator Lantern', 'backend second', 'cap 30']);
    await harness.request('DELETE', `/kit/setup/${id}`);
    expect(await whole('without fog')).toEqual(['emulator Lantern', 'backend second', 'cap 30']);
    expect((await named('setups', 'without fog')).facts).toMatchObject({ from: 'plain' });
  });
  it('stays whole when one is derived and the other deleted at once', async () => {
    for (let round = 0; round < 5; round++) {
      await put('base', { pairs: [set('backend', 'first')] });
      const { id } = await named('setups', 'base');
      await Promise.all([
        put('heir', { from: 'base', pairs: [set('cap', '30', 'fps')] }),
        harness.request('DELETE', `/kit/setup/${id}`),
      ]);
      // whichever was first: the kit is read, and nobody is derived from what is gone
      expect((await kit())['setups']!.some((one) => (one.facts as { from?: string }).from === 'base')).toBe(
        (await named('setups', 'base')) !== undefined,
      );
      const heir = await named('setups', 'heir');
      if (heir) await harness.request('DELETE', `/kit/setup/${heir.id}`);
      const base = await named('setups', 'base');
      if (base) await harness.request('DELETE', `/kit/setup/${base.id}`);
    }
  });
});

describe('setups of an earlier version', () => {
  it('are carried over whole, in the order in which they were asked for', async () => {
    const sql = await readFile(join(__dirname, 'migrations', '014_open_setups.sql'), 'utf8');
    const client = await harness.pool.connect();
    try {
      await client.query('begin');
      await client.query("update setup set facts = '{}'");
      const { rows } = await client.query<{ id: string }>('select id from setup limit 2');
      const [full, empty] = rows as [{ id: string }, { id: string }];
      await client.query('update setup set facts = $2 where id = $1', [
        full.id,
        JSON.stringify({
          capFps: 59.94,
          notes: 'as on deck',
          emulator: 'Lantern',
          internalResolution: 2,
          backend: 'Glim',
          bitRateMbps: 25,
        }),
      ]);
      await client.query(sql);
      const facts = async (id: string): Promise<object> =>
        (await client.query<{ facts: object }>('select facts from setup where id = $1', [id])).rows[0]!.facts;
      const carried = await facts(full.id);
      expect(carried).toEqual({
        notes: 'as on deck',
        pairs: [
          { key: 'emulator', value: 'Lantern', unit: '' },
          { key: 'backend', value: 'Glim', unit: '' },
          { key: 'internal resolution', value: '2', unit: '×' },
          { key: 'bit rate', value: '25', unit: 'Mbit/s' },
          { key: 'cap', value: '59.94', unit: 'fps' },
        ],
      });
      expect(setupFacts.safeParse(carried).success).toBe(true);
      expect(await facts(empty.id)).toEqual({});
    } finally {
      await client.query('rollback');
      client.release();
    }
  });
  it.each(Object.keys(EARLIER_FACTS))('knows %s in the migration as in the files', async (was) => {
    const sql = await readFile(join(__dirname, 'migrations', '014_open_setups.sql'), 'utf8');
    const { key, unit } = EARLIER_FACTS[was]!;
    expect(sql).toContain(`'${was}', '${key}', '${unit}')`);
  });
});

describe('a file of the kit', () => {
  it('adds what is new, brings up to date what is there, and doubles nothing', async () => {
    expect((await send('POST', '/kit/file', FILE)).body).toEqual({ added: 4, updated: 0, unchanged: 0 });
    expect((await send('POST', '/kit/file', FILE)).body).toEqual({ added: 0, updated: 0, unchanged: 4 });
    const newer = {
      ...FILE,
      devices: [{ name: 'velm 5', chip: 'Tarn T4', batteryMah: null }],
      titles: [],
      setups: [],
      accessories: [],
    };
    expect((await send('POST', '/kit/file', newer)).body).toEqual({ added: 0, updated: 1, unchanged: 0 });
    // what it says is new, what it says nothing of stays, null takes away
    expect((await named('devices', 'velm 5')).facts).toEqual({
      kind: 'phone',
      chip: 'Tarn T4',
      screens: [{ inches: 6.4, refreshHz: [60, 120] }],
    });
    expect((await kit())['setups']!.filter((one) => one.name === 'Highest')).toHaveLength(1);
  });
  it('of an earlier version has what a setup sets beside its name', async () => {
    expect((await named('setups', 'Highest')).whole).toEqual([
      { key: 'tier', value: 'Highest', unit: '' },
      { key: 'cap', value: '60', unit: 'fps' },
    ]);
  });
  it('goes out as JSON and comes back unchanged', async () => {
    const { body } = await harness.request('GET', '/kit/file');
    expect(body).toMatchObject({
      format: 'pace-kit',
      titles: expect.arrayContaining([expect.objectContaining({ name: 'Aurelune', capsFps: [30, 60] })]),
    });
    const { added, updated } = (await send('POST', '/kit/file', body)).body;
    expect({ added, updated }).toEqual({ added: 0, updated: 0 });
  });
  it.each(KIT_KINDS)('goes out as a table of each kind and comes back unchanged: %s', async (kind) => {
    const { body } = await harness.request('GET', `/kit/file?kind=${kind}`);
    expect(body.split('\n')[0]).toMatch(/^record,name/);
    const counts = (await send('POST', '/kit/file', body)).body;
    expect(counts).toMatchObject({ added: 0, updated: 0 });
  });
  it('of another program’s table is read by its columns', async () => {
    const answer = await send(
      'POST',
      '/kit/file',
      '\uFEFFrecord;name;kind;screens.1.inches;screens.1.refreshHz;batteryMah\ndevice;Kitto Mini;phone;5,3;60 | 90;2900\n',
    );
    expect(answer.body).toEqual({ added: 1, updated: 0, unchanged: 0 });
    expect((await named('devices', 'Kitto Mini')).facts).toEqual({
      kind: 'phone',
      batteryMah: 2900,
      screens: [{ inches: 5.3, refreshHz: [60, 90] }],
    });
  });
  it.each([
    [
      'record,name,batteryMah\ndevice,Brask,8400\ndevice,Velm 5,0\n',
      { line: 3, field: 'batteryMah', message: 'Line 3 (Velm 5): batteryMah: above 0 mAh.' },
    ],
    ['record,name,batteryMah\ndevice,Brask,large\n', { line: 2, field: 'batteryMah' }],
    [
      'record,name,colour\ndevice,Brask,red\n',
      { line: 2, field: 'colour', message: 'Line 2 (Brask): a device has no “colour”.' },
    ],
    ['record,name\nspoon,Brask\n', { line: 2, field: 'record' }],
    ['name,batteryMah\nBrask,8400\n', { line: 1 }],
    [
      JSON.stringify({ ...FILE, devices: [{ name: 'Brask' }, { name: '' }] }),
      { field: 'name', message: 'Devices[1] (): name: enter a name.' },
    ],
    [JSON.stringify({ ...FILE, spoons: [] }), { field: 'spoons' }],
    ['{"format":"other"}', { code: 'kit-file' }],
    ['{"format":', { code: 'kit-file' }],
  ])(
    'that is wrong somewhere is refused with its place, and nothing of it is stored: %s',
    async (text, problem) => {
      const before = await kit();
      const answer = await send('POST', '/kit/file', text);
      expect(answer).toMatchObject({ status: 422, body: { ...problem, remedy: expect.any(String) } });
      expect(await kit()).toEqual(before);
    },
  );
  it('is read in the words of every kind', () => {
    for (const kind of KIT_KINDS)
      expect(Object.keys(fileRecord(kind).shape)).toEqual(
        expect.arrayContaining(
          Object.keys((newRecord[kind].shape.facts as z.ZodDefault<z.ZodObject>).unwrap().shape),
        ),
      );
    const record = {
      name: 'V',
      kind: 'phone',
      screens: [{ inches: 6, refreshHz: [60, 120], adaptive: true }, { name: 'outer' }],
    };
    expect(fromCells(toCells(record), fileRecord('device'))).toEqual(record);
    // a version is no number
    expect(fromCells({ name: 'S', version: '2.10' }, fileRecord('setup'))).toEqual({
      name: 'S',
      version: '2.10',
    });
  });
});
