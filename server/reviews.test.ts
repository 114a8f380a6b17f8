import { createHash, randomUUID } from 'node:crypto';
import { unzipSync } from 'fflate';
import { importPath, startHarness, type Harness } from './testing/harness';

let harness: Harness;
let velm: string;
let kitto: string;
beforeAll(async () => {
  harness = await startHarness();
  await send('POST', '/kit/title', { name: 'Aurelune', facts: { demand: 'heavy' } });
  velm = await bring('Velm 5', 50);
  kitto = await bring('=cmd|Mini <b>', 40);
});
afterAll(() => harness.close());

const json = { 'content-type': 'application/json' };
const send = (method: string, path: string, body: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, JSON.stringify(body), json);
const get = async (path: string): Promise<any> => (await harness.request('GET', path)).body; // eslint-disable-line @typescript-eslint/no-explicit-any -- answers are examined field by field

async function bring(device: string, fps: number): Promise<string> {
  const content = [
    { type: 'run', version: 1, device, title: 'Aurelune', setup: 'Highest', target: 60, room: 18 },
    { type: 'frames', atMs: 0, us: Array<number>(fps * 1000).fill(Math.round(1e6 / fps)) },
    { type: 'skin', atMs: 500_000, spot: 'back', c: 40, by: 'infrared' },
  ];
  const { status, body } = await harness.request(
    'POST',
    importPath({ facts: null, fileName: 'a.pace.ndjson', again: true }),
    content.map((line) => JSON.stringify(line)).join('\n'),
  );
  expect([status, body.message]).toEqual([201, undefined]);
  return body.id;
}

const make = async (runs: string[], more: object = {}) =>
  send('POST', '/reviews', {
    id: randomUUID(),
    name: 'Small against large',
    template: 'full review',
    runs,
    ...more,
  });
describe('a review', () => {
  it('says what its evidence says, and what is missing', async () => {
    const { status, body } = await make([velm, kitto]);
    expect(status).toBe(201);
    expect(text(await pack(body.id), 'review.html')).toMatch(
      /The hottest that was read is 40\.0.°C at back \(infrared\)/,
    );
    expect(body.gaps.map((gap: { code: string }) => gap.code)).toEqual(['battery', 'repeats', 'verdict']);
    expect((await get('/reviews'))[0]).toMatchObject({
      name: 'Small against large',
      runs: 2,
      published: null,
    });
  });

  it('is made once, changed to the revision that was seen, deleted and restored', async () => {
    const body = { id: randomUUID(), name: 'Twice', template: 'quick look', runs: [velm] };
    await Promise.all([send('POST', '/reviews', body), send('POST', '/reviews', body)]);
    const { doc, revision } = await get(`/reviews/${body.id}`);
    const [first, second] = await Promise.all([
      send('PUT', `/reviews/${body.id}`, { revision, doc: { ...doc, name: 'Mine' } }),
      send('PUT', `/reviews/${body.id}`, { revision, doc: { ...doc, name: 'Yours' } }),
    ]);
    expect([first.status, second.status].sort()).toEqual([200, 409]);
    expect((await harness.request('DELETE', `/reviews/${body.id}`)).status).toBe(204);
    expect((await harness.request('GET', `/reviews/${body.id}`)).status).toBe(404);
    expect((await harness.request('POST', `/reviews/${body.id}/restore`)).status).toBe(204);
  });

  it.each<[string, object, RegExp]>([
    ['no run', { runs: [] }, /at least one run/],
    ['a run that is not there', { runs: ['00000000-0000-4000-8000-000000000000'] }, /not there/],
    ['an unknown template', { template: 'epic' }, /./],
    ['U+0000', { name: 'a\u0000' }, /./],
  ])('is refused with %s', async (_, more, message) => {
    const { status, body } = await make([velm], more);
    expect([400, 422]).toContain(status);
    expect(JSON.stringify(body)).toMatch(message);
  });

  it('refuses the same section twice', async () => {
    const { body } = await make([velm]);
    const sections = [...body.doc.sections, body.doc.sections[0]];
    expect(
      (await send('PUT', `/reviews/${body.id}`, { revision: 0, doc: { ...body.doc, sections } })).status,
    ).toBe(400);
  });
});

describe('what is published', () => {
  it('never changes; later changes are said in words, and go into the next revision', async () => {
    const { body } = await make([velm, kitto]);
    const first = (await harness.request('POST', `/reviews/${body.id}/publications`)).body;
    expect(first.publications).toEqual([{ revision: 1, publishedAt: expect.any(String), corrections: [] }]);
    const page = async (): Promise<string> => text(await pack(body.id), 'review.html');
    const published = await page();
    // a menu is left out: the run's average is another one
    await send('POST', `/runs/${velm}/entries`, {
      entries: [{ type: 'skin', atMs: 600_000, spot: 'back', c: 44, by: 'infrared' }],
    });
    const changed = await get(`/reviews/${body.id}`);
    expect(changed.changes).toEqual([
      expect.stringMatching(/^Aurelune on Velm 5, rise over the room: 22\.0.°C → 26\.0.°C$/),
      expect.stringMatching(/^Aurelune on Velm 5, peak: 40\.0.°C → 44\.0.°C$/),
    ]);
    expect(await page()).toBe(published);
    const second = (await harness.request('POST', `/reviews/${body.id}/publications`)).body;
    expect(second.publications[1]).toMatchObject({ revision: 2, corrections: changed.changes });
    expect(second.changes).toEqual([]);
    expect(await page()).toContain('revision 2');
    await harness.request('DELETE', `/runs/${kitto}`);
    expect((await get(`/reviews/${body.id}`)).changes).toEqual([
      'Aurelune on =cmd|Mini <b>: no longer in it',
    ]);
    await harness.request('POST', `/runs/${kitto}/restore`);
  });

  it('is published by two at once as two revisions', async () => {
    const { body } = await make([velm]);
    await Promise.all([1, 2].map(() => harness.request('POST', `/reviews/${body.id}/publications`)));
    expect(
      (await get(`/reviews/${body.id}`)).publications.map((one: { revision: number }) => one.revision),
    ).toEqual([1, 2]);
  });
});

const pack = async (id: string): Promise<Record<string, Uint8Array>> =>
  unzipSync(new Uint8Array(await (await fetch(`${harness.address}/api/reviews/${id}/pack`)).arrayBuffer()));
const text = (files: Record<string, Uint8Array>, name: string): string =>
  Buffer.from(files[name]!).toString();

describe('the pack', () => {
  it('holds page, Markdown, tables, figures and run files, each with its checksum, the same bytes each time', async () => {
    const { body } = await make([velm, kitto]);
    const files = await pack(body.id);
    const manifest = JSON.parse(text(files, 'manifest.json'));
    expect(Object.keys(files).sort()).toEqual(
      ['manifest.json', ...manifest.files.map((one: { file: string }) => one.file)].sort(),
    );
    expect(manifest.files).toHaveLength(8);
    expect(text(files, 'lanes/1-Aurelune-on-Velm-5.svg')).toMatch(
      /^<svg xmlns=.*<title>Aurelune on Velm 5<\/title>/,
    );
    for (const { file, sha256 } of manifest.files)
      expect(createHash('sha256').update(files[file]!).digest('hex')).toBe(sha256);
    const again = await (await fetch(`${harness.address}/api/reviews/${body.id}/pack`)).arrayBuffer();
    const once = await (await fetch(`${harness.address}/api/reviews/${body.id}/pack`)).arrayBuffer();
    expect(Buffer.from(again).equals(Buffer.from(once))).toBe(true);
  });

  it('makes names harmless: no markup in the page, no formula in the table', async () => {
    const { body } = await make([kitto], { name: '<script>alert(1)</script> \u202e🛶' });
    const files = await pack(body.id);
    const html = text(files, 'review.html');
    expect(html).not.toContain('<script');
    expect(html).toContain('&lt;script&gt;alert(1)&lt;/script&gt;');
    expect(html).toContain('<bdi>=cmd|Mini &lt;b&gt;</bdi>');
    expect(text(files, 'tables/titles.csv').split('\r\n')[1]).toMatch(
      /^'=cmd\|Mini <b>,Aurelune,Highest,40,/,
    );
    expect(text(files, 'review.md')).toContain('=cmd\\|Mini \\<b\\>');
  });
});
