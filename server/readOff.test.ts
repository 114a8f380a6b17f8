import { randomUUID } from 'node:crypto';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { importPath, startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

const json = { 'content-type': 'application/json' };
const send = (method: string, path: string, body: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, JSON.stringify(body), json);
const get = async (path: string): Promise<any> => (await harness.request('GET', path)).body; // eslint-disable-line @typescript-eslint/no-explicit-any -- answers are examined field by field

const facts = {
  device: 'Oru Fold',
  title: 'Rook Tower',
  setup: null,
  target: null,
  refresh: null,
  roomC: null,
};
const rate = { type: 'rate', low: 50, high: 55, by: 'overlay' };
const make = async (run: object = {}): Promise<string> => {
  const { status, body } = await send('POST', '/runs', { name: null, facts, entries: [rate], ...run });
  expect([status, body.message]).toEqual([201, undefined]);
  return body.id;
};
const codes = async (id: string): Promise<string[]> =>
  (await get(`/runs/${id}`)).caveats.map((one: { caveat: string }) => one.caveat);

describe('what the kit knows', () => {
  beforeAll(async () => {
    await send('POST', '/kit/device', {
      name: 'Oru Fold',
      facts: {
        batteryMah: 4300,
        batteryV: 3.86,
        firmware: 'pre-release',
        screens: [
          { name: 'inner', refreshHz: [60, 120] },
          { name: 'outer', refreshHz: [60] },
        ],
      },
    });
    await send('POST', '/kit/title', { name: 'Rook Tower', facts: { nativeFps: 30, need: 'action' } });
    await send('POST', '/kit/setup', {
      name: '2×',
      title: 'Rook Tower',
      facts: { pairs: [{ key: 'cap', value: '40', unit: 'fps' }] },
    });
  });

  it('reaches a run that was written down, is marked as from there, and stays what a person says', async () => {
    const id = await make();
    const run = await get(`/runs/${id}`);
    expect(run).toMatchObject({ native: 30, need: 'action', conditions: ['pre-release'], target: null });
    expect(run.batteryWh).toBeCloseTo(16.598, 3);
    // the form showed the target of the kit, and somebody emptied it
    expect(run.fromKit.sort()).toEqual([
      'batteryWh',
      'condition:pre-release',
      'native',
      'need',
      'none:target',
    ]);
    const { body } = await send('PATCH', `/runs/${id}`, { native: 60, conditions: [] });
    expect(body).toMatchObject({ native: 60, conditions: [] });
    expect(body.fromKit.sort()).toEqual(['batteryWh', 'need', 'none:target']);
  });

  it('reaches a run through what its setup is derived from; an outside screen has the last word', async () => {
    await send('POST', '/kit/setup', {
      name: '2×, fog',
      title: 'Rook Tower',
      facts: { from: '2×', pairs: [{ key: 'fog', value: '40', unit: 'm' }] },
    });
    const header = {
      type: 'run',
      version: 1,
      device: 'Oru Fold',
      title: 'Rook Tower',
      setup: '2×, fog',
      preflight: { screen: 'inner', outsidePixels: 8_294_400, outsideHz: 30 },
    };
    const { body } = await harness.request(
      'POST',
      importPath({ facts: null, fileName: 'docked.pace.ndjson' }),
      [header, { type: 'frames', atMs: 0, us: Array<number>(210).fill(25_000) }]
        .map((line) => JSON.stringify(line))
        .join('\n'),
    );
    // the inner screen goes up to 120 Hz
    expect(body).toMatchObject({ target: 40, refresh: 30, preflight: { outsidePixels: 8_294_400 } });
  });

  it('reaches a plain import of a run file that does not say', async () => {
    const lines = [
      {
        type: 'run',
        version: 1,
        device: 'Oru Fold',
        title: 'Rook Tower',
        setup: '2×',
        preflight: { screen: 'outer', mode: 'saving', hold: 'hands' },
      },
      { type: 'frames', atMs: 0, us: Array<number>(200).fill(25_000) },
    ];
    const { body } = await harness.request(
      'POST',
      importPath({ facts: null, fileName: 'a.pace.ndjson' }),
      lines.map((line) => JSON.stringify(line)).join('\n'),
    );
    expect(body).toMatchObject({
      target: 40,
      refresh: 60,
      native: 30,
      need: 'action',
      preflight: { screen: 'outer', performanceMode: 'saving', hold: 'in the hands' },
    });
    // the figures are those of what is known now
    expect(body.figures.cadence.kind).not.toBeNull();
    expect(body.figures.emulation.speed).toBeCloseTo(40 / 30, 6);
    // and the file that is written says it as it was read
    const file = await get(`/runs/${body.id}/file`);
    expect(JSON.parse(file.split('\n')[0])).toMatchObject({
      preflight: { screen: 'outer', mode: 'saving', hold: 'hands' },
    });
  });

  it('follows the screen of a foldable that was used', async () => {
    const id = await make();
    const inner = await send('PATCH', `/runs/${id}`, { preflight: { screen: 'inner' } });
    expect(inner.body).toMatchObject({ refresh: 120, preflight: { screen: 'inner' } });
    expect((await send('PATCH', `/runs/${id}`, { preflight: { screen: 'outer' } })).body).toMatchObject({
      refresh: 60,
    });
    // what a person has stated does not follow
    await send('PATCH', `/runs/${id}`, { refresh: 90 });
    expect((await send('PATCH', `/runs/${id}`, { preflight: { screen: 'inner' } })).body.refresh).toBe(90);
  });
});

describe('what the library knows', () => {
  it('raises single-run, and takes it back when another run of its kind comes, and again when it goes', async () => {
    const kind = { facts: { ...facts, device: 'Kitto Mini', title: 'Hexgarden' } };
    const first = await make(kind);
    expect(await codes(first)).toContain('single-run');
    const confidence = (await get('/runs?title=Hexgarden'))[0].confidence;
    const second = await make(kind);
    expect(await codes(first)).not.toContain('single-run');
    await make({ facts: { ...kind.facts, setup: 'Highest' } });
    await harness.request('DELETE', `/runs/${second}`);
    expect(await codes(first)).toContain('single-run');
    expect((await get(`/runs/${first}`)).confidence).toBe(confidence);
  });

  it('raises easy-scene where the title has a hard scene and the run none of it', async () => {
    const kind = { facts: { ...facts, device: 'Velm 5', title: 'Saltmarsh Drift' } };
    const easy = await make({ ...kind, scene: 'start area' });
    expect(await codes(easy)).not.toContain('easy-scene');
    await send('POST', '/kit/title', {
      name: 'Saltmarsh Drift',
      facts: {
        scenes: [
          { name: 'start area', weight: 'light' },
          { name: 'Hard track', weight: 'hard' },
        ],
      },
    });
    expect(await codes(easy)).toContain('easy-scene');
    const { body } = await send('PATCH', `/runs/${easy}`, { scene: 'hard track' });
    expect(body.caveats.map((one: { caveat: string }) => one.caveat)).not.toContain('easy-scene');
    expect(body.figures.scenes).toMatchObject([{ scene: 'hard track' }]);
  });
});

describe('corrections afterwards', () => {
  it('of conditions, preflight and need: what one says follows in the others', async () => {
    const id = await make();
    const { body } = await send('PATCH', `/runs/${id}`, {
      need: 'slow',
      preflight: { charging: 'plugged in', roomC: 19, humidity: 60, firstPlay: true },
    });
    expect(body).toMatchObject({ need: 'slow', roomC: 19, preflight: { humidity: 60 } });
    expect(body.conditions).toEqual(expect.arrayContaining(['plugged-in', 'first-play']));
    const back = await send('PATCH', `/runs/${id}`, { preflight: { charging: 'on battery' } });
    expect(back.body.roomC).toBeNull();
    expect(back.body.conditions).not.toContain('plugged-in');
    const refused = await send('PATCH', `/runs/${id}`, { conditions: ['haunted'] });
    expect(refused).toMatchObject({ status: 400, body: { field: 'conditions.0' } });
  });

  it('of a mark’s note, by a line of the same type', async () => {
    const id = await make({ entries: [rate, { type: 'mark', atMs: 1000, kind: 'stutter', note: 'gulls' }] });
    const before = await get(`/runs/${id}`);
    const mark = before.entries.find((entry: { line: { type: string } }) => entry.line.type === 'mark');
    const line = { type: 'mark', atMs: 2000, kind: 'freeze', note: 'a whole flock' };
    const { body } = await send('PUT', `/runs/${id}/entries/${mark.id}`, { line });
    expect(body.figures.marks).toEqual([{ atMs: 2000, kind: 'freeze', note: 'a whole flock' }]);
    expect((await send('PUT', `/runs/${id}/entries/${mark.id}`, { line: rate })).status).toBe(404);
  });

  it.each([
    [{ type: 'rate', low: 60, high: 50, by: 'overlay' }, 'entries.0.low'],
    [{ type: 'rate', by: 'overlay' }, 'entries.0.fps'],
    [{ type: 'battery', atMs: 0, percent: 120 }, 'entries.0.percent'],
    [{ type: 'summary', by: 'tool', average: 50, lowest: 60 }, 'entries.0.lowest'],
    [{ type: 'summary', by: 'tool', hold: 97 }, 'entries.0.hold'],
  ])('%j is refused at its place', async (line, field) =>
    expect(await send('POST', '/runs', { name: null, facts, entries: [line] })).toMatchObject({
      status: 400,
      body: { field },
    }),
  );

  it('a time past the end is refused at its place', async () =>
    expect(
      await send('POST', '/runs', {
        name: null,
        facts,
        entries: [
          { type: 'rate', atMs: 700_000, fps: 50, by: 'overlay' },
          { type: 'end', atMs: 600_000, reason: 'planned' },
        ],
      }),
    ).toMatchObject({ status: 400, body: { field: 'entries.0.atMs' } }));
});

describe('bars', () => {
  const bars = {
    reaction: { average: 57, low: 45 },
    action: { average: 50, low: 30 },
    story: { average: 29, low: 22 },
    slow: { average: 24, low: 15 },
  };
  it('are the reviewer’s; a run keeps those that it was judged by, says when they changed, and may be judged anew', async () => {
    const page = { type: 'summary', by: 'tool', average: 47, onePercent: 35, minutes: 10 };
    const id = await make({ entries: [page] });
    await send('PATCH', `/runs/${id}`, { need: 'action' });
    const judged = async (): Promise<object> => {
      const { figures, barNow } = await get(`/runs/${id}`);
      return { playable: figures.playable, bar: figures.bar, barNow };
    };
    const before = { playable: 'plays well', bar: { average: 45, low: 30 } };
    expect(await judged()).toEqual({ ...before, barNow: null });
    expect((await send('PUT', '/settings', { bars })).body).toEqual({ bars });
    expect(await judged()).toEqual({ ...before, barNow: bars.action });
    const anew = await send('PATCH', `/runs/${id}`, { barsOfNow: true });
    expect(anew.body).toMatchObject({ barNow: null, figures: { playable: 'rough', bar: bars.action } });
    const wrong = await send('PUT', '/settings', { bars: { ...bars, slow: { average: 10, low: 15 } } });
    expect(wrong).toMatchObject({ status: 400, body: { field: 'bars.slow.low' } });
    await send('PUT', '/settings', { bars: null });
  });
});

describe('pictures', () => {
  const noise = async (width: number, height: number): Promise<Buffer> =>
    sharp(Buffer.from(Array.from({ length: width * height * 3 }, (_, i) => (i * 2_654_435_761) >>> 24)), {
      raw: { width, height, channels: 3 },
    })
      .withExif({ IFD0: { Model: 'A camera' }, IFD3: { GPSLatitudeRef: 'N' } })
      .jpeg({ quality: 100 })
      .toBuffer();
  const attach = (id: string, picture: Buffer, change: object = {}): ReturnType<Harness['request']> =>
    send('POST', `/runs/${id}/changes`, {
      changes: [
        {
          id: randomUUID(),
          kind: 'picture',
          picture: picture.toString('base64'),
          entryId: null,
          note: '',
          ...change,
        },
      ],
    });
  const bytesOf = async (path: string): Promise<Buffer> =>
    Buffer.from(await (await fetch(`${harness.address}/api${path}`)).arrayBuffer());

  it('are made smaller, lose what they say of place and camera, and go with the run', async () => {
    const id = await make();
    const original = await noise(2000, 300);
    expect((await sharp(original).metadata()).exif).toBeDefined();
    const change = { id: randomUUID(), note: 'the counter' };
    expect((await attach(id, original, change)).body.refused).toEqual([]);
    // sent twice it is there once
    await attach(id, original, change);
    const { evidence, pictures } = await get(`/runs/${id}`);
    expect(pictures).toBe(1);
    expect(evidence).toMatchObject([{ width: 1600, height: 240, note: 'the counter', entryId: null }]);
    const kept = await bytesOf(`/runs/${id}/pictures/${evidence[0].id}`);
    const metadata = await sharp(kept).metadata();
    expect(metadata).toMatchObject({ format: 'jpeg', width: 1600 });
    expect([metadata.exif, metadata.icc, metadata.xmp]).toEqual([undefined, undefined, undefined]);
    expect(kept.length).toBeLessThanOrEqual(1024 * 1024);
    const thumbnail = await bytesOf(`/runs/${id}/pictures/${evidence[0].id}?size=small`);
    expect((await sharp(thumbnail).metadata()).width).toBe(240);
    const zip = unzipSync(new Uint8Array(await bytesOf(`/runs/${id}/bundle`)));
    expect(Object.keys(zip)).toEqual(['Rook-Tower-on-Oru-Fold.pace.ndjson', 'pictures/1.jpg']);
    expect(Buffer.from(zip['pictures/1.jpg']!).equals(kept)).toBe(true);
    const { body } = await harness.request('DELETE', `/runs/${id}/pictures/${evidence[0].id}`);
    expect(body.evidence).toEqual([]);
  });

  it('that are none, or too many pixels, are refused, and nothing is kept', async () => {
    const id = await make();
    const refusal = async (bytes: Buffer): Promise<string> =>
      (await attach(id, bytes)).body.refused[0].reason;
    expect(await refusal(Buffer.from('hello'))).toMatch(/cannot be read as a picture.*Choose a JPEG/);
    const whole = await noise(600, 600);
    expect(await refusal(whole.subarray(0, whole.length / 3))).toMatch(/damaged/);
    // some hundred bytes that would unpack to gigabytes
    const bomb = await sharp({
      create: { width: 12_000, height: 12_000, channels: 3, background: '#000' },
      limitInputPixels: false,
    })
      .toColourspace('b-w')
      .png({ compressionLevel: 9 })
      .toBuffer();
    expect(bomb.length).toBeLessThan(1024 * 1024);
    expect(await refusal(bomb)).toMatch(/12000 × 12000 pixels/);
    expect((await attach(id, Buffer.alloc(1_100_000))).body.refused[0].reason).toMatch(/larger than 1 MB/);
    expect((await get(`/runs/${id}`)).evidence).toEqual([]);
  });

  it('of a line stay with the run when the line is taken back', async () => {
    const id = await make();
    const [entry] = (await get(`/runs/${id}`)).entries;
    await attach(id, await noise(40, 40), { entryId: entry.id });
    expect((await get(`/runs/${id}`)).evidence).toMatchObject([{ entryId: entry.id }]);
    await send('POST', `/runs/${id}/entries`, { entries: [rate] });
    const { body } = await harness.request('DELETE', `/runs/${id}/entries/${entry.id}`);
    expect(body.evidence).toMatchObject([{ entryId: null }]);
  });
});

describe('a result that waited in an outbox', () => {
  it('is made once, under the id that its screen gave it, with its digits and ends', async () => {
    const id = randomUUID();
    const run = {
      name: null,
      facts: { ...facts, title: 'Skiff 120' },
      entries: [
        { type: 'rate', fps: 58, by: 'overlay', digits: { fps: 1 } },
        { type: 'end', atMs: 12_600_000, lowMs: 10_800_000, highMs: 14_400_000, reason: 'stopped' },
      ],
    };
    const changes = { changes: [{ id: randomUUID(), kind: 'make', run }] };
    const { body } = await send('POST', `/runs/${id}/changes`, changes);
    expect(body).toMatchObject({ refused: [] });
    await send('POST', `/runs/${id}/changes`, changes);
    const made = await get(`/runs/${id}`);
    expect(made.figures.pace.seen).toEqual({ low: 57.95, high: 58.05 });
    expect(made.figures.pace.interval).toMatchObject({ value: 58 });
    expect(made.entries).toHaveLength(2);
    expect(await get('/runs?q=Skiff')).toHaveLength(1);
    expect(
      (
        await send('POST', `/runs/${randomUUID()}/changes`, {
          changes: [{ id: randomUUID(), kind: 'make', run: { ...run, entries: [] } }],
        })
      ).body.refused[0].reason,
    ).toMatch(/“run.entries”: at least one reading/);
  });

  it('with two words is found by either', async () => {
    await make({
      facts: { ...facts, title: 'Night Ferry' },
      entries: [
        { type: 'rate', atMs: 0, fps: 60, by: 'overlay' },
        { type: 'rate', atMs: 1_700_000, fps: 51, by: 'overlay' },
        { type: 'end', atMs: 1_800_000, reason: 'planned' },
      ],
    });
    const found = async (stamina: string): Promise<string[]> =>
      (await get(`/runs?stamina=${stamina}`)).map((run: { title: string }) => run.title);
    expect(await found('eases')).toContain('Night Ferry');
    expect(await found('fades')).toContain('Night Ferry');
    expect(await found('holds')).not.toContain('Night Ferry');
  });
});
