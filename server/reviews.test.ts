import { createHash, randomUUID } from 'node:crypto';
import { packFigures } from '@pace-check/contract';
import { unzipSync } from 'fflate';
import { HtmlValidate } from 'html-validate';
import sharp, { type Region, type Sharp, type Stats } from 'sharp';
import { WebVTTParser } from 'webvtt-parser';
import { LOOPBACK } from './index';
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
      /The highest reading is 40\.0.°C at back \(infrared\)/,
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
    ['a run that is not there', { runs: ['00000000-0000-4000-8000-000000000000'] }, /missing or deleted/],
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

const JSON_HEADERS = { 'content-type': 'application/json' };
/** Publishes what is there, or what a request says. */
async function publish(
  id: string,
  request?: { id: string; revision: number },
): ReturnType<Harness['request']> {
  const body = request ?? { id: randomUUID(), revision: (await get(`/reviews/${id}`)).revision };
  return harness.request('POST', `/reviews/${id}/publications`, JSON.stringify(body), JSON_HEADERS);
}

describe('what is published', () => {
  it('never changes; later changes are said in words, and go into the next revision', async () => {
    const { body } = await make([velm, kitto]);
    const first = (await publish(body.id)).body;
    expect(first.publications).toEqual([{ revision: 1, publishedAt: expect.any(String), corrections: [] }]);
    const page = async (): Promise<string> => text(await pack(body.id), 'review.html');
    const published = await page();
    // a menu is left out: the run's average is another one
    await send('POST', `/runs/${velm}/entries`, {
      entries: [{ type: 'skin', atMs: 600_000, spot: 'back', c: 44, by: 'infrared' }],
    });
    const changed = await get(`/reviews/${body.id}`);
    expect(changed.changes).toEqual([
      expect.stringMatching(/^Aurelune on Velm 5, rise above room temperature: 22\.0.°C → 26\.0.°C$/),
      expect.stringMatching(/^Aurelune on Velm 5, peak: 40\.0.°C → 44\.0.°C$/),
    ]);
    expect(await page()).toBe(published);
    const second = (await publish(body.id)).body;
    expect(second.publications[1]).toMatchObject({ revision: 2, corrections: changed.changes });
    expect(second.changes).toEqual([]);
    expect(await page()).toContain('revision 2');
    await harness.request('DELETE', `/runs/${kitto}`);
    expect((await get(`/reviews/${body.id}`)).changes).toEqual(['Aurelune on =cmd|Mini <b>: removed']);
    await harness.request('POST', `/runs/${kitto}/restore`);
  });

  it('is published once where its button was pressed twice', async () => {
    const { body } = await make([velm]);
    const request = { id: randomUUID(), revision: body.revision };
    const answers = await Promise.all([request, request, request].map((one) => publish(body.id, one)));
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201]);
    expect((await get(`/reviews/${body.id}`)).publications).toHaveLength(1);
  });
  it('is what was seen: what another screen saved since is told, and nothing published', async () => {
    const { body } = await make([velm]);
    const doc = {
      ...body.doc,
      sections: body.doc.sections.map((one: { kind: string }) =>
        one.kind === 'verdict' ? { ...one, text: 'Text for another screen.' } : one,
      ),
    };
    const change = await harness.request(
      'PUT',
      `/reviews/${body.id}`,
      JSON.stringify({ revision: body.revision, doc }),
      JSON_HEADERS,
    );
    expect(change.status).toBe(200);
    const refused = await publish(body.id, { id: randomUUID(), revision: body.revision });
    expect(refused).toMatchObject({
      status: 409,
      body: { code: 'changed-meanwhile', message: expect.stringContaining('Verdict') },
    });
    expect((await get(`/reviews/${body.id}`)).publications).toEqual([]);
    const seen = await publish(body.id, { id: randomUUID(), revision: change.body.revision });
    expect(seen.status).toBe(201);
  });
  it('is never other words than the answer shows, while somebody saves', async () => {
    const { body } = await make([velm]);
    for (let i = 0; i < 6; i++) {
      const { revision, doc } = await get(`/reviews/${body.id}`);
      const [published, saved] = await Promise.all([
        publish(body.id, { id: randomUUID(), revision }),
        harness.request(
          'PUT',
          `/reviews/${body.id}`,
          JSON.stringify({ revision, doc: { ...doc, name: `Saved meanwhile ${i}` } }),
          JSON_HEADERS,
        ),
      ]);
      expect(saved.status).toBe(200);
      if (published.status === 409) continue;
      expect(published.status).toBe(201);
      const { rows } = await harness.pool.query<{ name: string }>(
        "select written ->> 'name' as name from publication where review_id = $1 order by revision desc limit 1",
        [body.id],
      );
      expect(rows[0]!.name).toBe(doc.name);
    }
  });
  it('is published by two at once as two revisions', async () => {
    const { body } = await make([velm]);
    await Promise.all([1, 2].map(() => publish(body.id)));
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
    expect(Object.keys(files)).toEqual(
      expect.arrayContaining([
        'methods.html',
        'figures.schema.json',
        'tables/runs.csv',
        'charts/wide/titles.png',
      ]),
    );
    expect(text(files, 'lanes/1-Aurelune-on-Velm-5.svg')).toMatch(
      /^<svg xmlns=.*<title>Aurelune on Velm 5<\/title>/,
    );
    for (const { file, sha256 } of manifest.files)
      expect(createHash('sha256').update(files[file]!).digest('hex')).toBe(sha256);
    const again = await (await fetch(`${harness.address}/api/reviews/${body.id}/pack`)).arrayBuffer();
    const once = await (await fetch(`${harness.address}/api/reviews/${body.id}/pack`)).arrayBuffer();
    expect(Buffer.from(again).equals(Buffer.from(once))).toBe(true);
  });

  it('has pages that a validator takes, whatever the names are', async () => {
    const { body } = await make([velm, kitto], { name: '“A” & <b>B</b> \u202e🛶 =1+1' });
    const files = await pack(body.id);
    const validator = new HtmlValidate({
      extends: ['html-validate:recommended', 'html-validate:document'],
      // what the standard asks for, not one taste of writing it
      rules: {
        'void-style': 'off',
        'no-trailing-whitespace': 'off',
        'doctype-style': 'off',
        'long-title': 'off',
      },
    });
    for (const name of ['review.html', 'methods.html']) {
      const report = await validator.validateString(text(files, name));
      expect(
        report.results.flatMap(({ messages }) => messages.map((one) => `${one.ruleId}: ${one.message}`)),
      ).toEqual([]);
    }
    const broken = await validator.validateString(text(files, 'review.html').replace('<h1>', '<h1><p>'));
    expect(broken.valid).toBe(false);
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

/** What a part of a picture is made of: statistics are of what is read, so it is written first. */
const part = async (picture: Sharp, place: Region): Promise<Stats> =>
  sharp(await picture.clone().extract(place).png().toBuffer()).stats();

describe('what a pack shows', () => {
  it('has each picture in three sizes, as SVG with its fonts inside and as PNG', async () => {
    const { body } = await make([velm, kitto]);
    const files = await pack(body.id);
    for (const [size, width, height] of [
      ['wide', 1920, 1080],
      ['square', 1080, 1080],
      ['tall', 1080, 1920],
    ] as const)
      for (const chart of ['titles', 'lanes', 'warmth']) {
        const png = await sharp(files[`charts/${size}/${chart}.png`]!).metadata();
        expect([png.format, png.width, png.height]).toEqual(['png', width, height]);
        const svg = text(files, `charts/${size}/${chart}.svg`);
        expect(svg).toContain("@font-face{font-family:'Barlow Semi Condensed'");
        expect(svg).toContain(`width="${width}" height="${height}"`);
      }
    // letters were drawn: the title is darker than the paper
    const { channels } = await part(sharp(files['charts/square/titles.png']!), {
      left: 40,
      top: 50,
      width: 400,
      height: 60,
    });
    expect(channels[0]!.min).toBeLessThan(80);
    expect(channels[0]!.max).toBeGreaterThan(200);
  });

  it.each([
    ['Cyrillic', 'Паром', 'Пакет'],
    ['Greek', 'Ωμέγα', 'Σίγμα'],
    ['Han, both ways of writing it', '戏港', '戲语'],
    ['kana', 'げんや', 'カナタ'],
    ['Hangul', '수평', '지도'],
    ['Arabic', 'سفينة', 'مدينة'],
    ['Hebrew', 'ספינה', 'מפתח'],
    ['Thai', 'เรือ', 'ดาว'],
    ['Devanagari', 'पथ', 'तट'],
    ['pictographs', '🚢', '🎣'],
  ])('letters names in %s', async (_, one, other) => {
    const drawn = async (name: string): Promise<string> => {
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="160" height="50"><text x="10" y="36" font-family="Barlow Semi Condensed" font-weight="600" font-size="26">${name}</text></svg>`;
      const png = await harness.pictures.png(svg, null);
      return (await sharp(png).ensureAlpha().extractChannel('alpha').raw().toBuffer()).toString('base64');
    };
    // letters that no font has are the same empty boxes, whichever they are
    const boxes = await drawn('\ue000'.repeat([...one].length));
    const names = await Promise.all([one, other].map(drawn));
    expect(new Set([boxes, ...names]).size).toBe(3);
  });

  it('has figures that keep to the schema beside them', async () => {
    const { body } = await make([velm, kitto]);
    const files = await pack(body.id);
    const figures = JSON.parse(text(files, 'figures.json'));
    expect(packFigures.safeParse(figures)).toMatchObject({ success: true });
    expect(packFigures.safeParse({ ...figures, titles: [{}] }).success).toBe(false);
    expect(JSON.parse(text(files, 'figures.schema.json')).properties.titles.type).toBe('array');
  });

  it('has what a reviewer wrote of the handling, what the kit knows, and what was asked for', async () => {
    const { body } = await make([velm]);
    await send('POST', '/requests', { title: 'Skiff 120', device: 'Velm 5', asked: 3, source: 'comments' });
    const doc = {
      ...body.doc,
      handling: [{ topic: 'cramp', says: 'The thumb after half an hour', evidence: 'two of two people' }],
    };
    await send('PUT', `/reviews/${body.id}`, { revision: 0, doc });
    const html = text(await pack(body.id), 'review.html');
    expect(html).toContain('The thumb after half an hour (two of two people)');
    expect(html).toContain('Skiff 120 on Velm 5: asked for 3 times, not answered yet.');
    expect(html).toMatch(/<h2>Not tested<\/h2><p><bdi>Skiff 120 on Velm 5/);
  });
});

it('shows what was searched for and seen on its devices, and freezes it', async () => {
  const rungs = ['1×', '2×'].map((name) => ({ name }));
  const probes = [100, 100].map((percent) => ({ id: randomUUID(), rung: '2×', percent }));
  for (const device of ['Velm 5', 'Elsewhere'])
    await send('POST', '/ladders', {
      id: randomUUID(),
      doc: { device, title: 'Rook Tower', axis: 'internal resolution', rungs, probes },
    });
  const seen = {
    id: randomUUID(),
    device: 'Velm 5',
    title: '<i>Iron',
    status: 'crashes',
    date: '2026-05-01',
  };
  await send('POST', '/outcomes', { outcomes: [seen] });
  const { body } = await make([velm]);
  const live = text(await pack(body.id), 'review.html');
  expect(live).toMatch(/<h2>Settings that hold<\/h2>.*Rook Tower.*2×/s);
  expect(live).not.toContain('Elsewhere');
  expect(live).toContain('Velm 5: 1 of 2 (9 to 91\u00a0%) run.');
  expect(live).toContain('&lt;i&gt;Iron');
  await publish(body.id);
  await harness.request('DELETE', `/outcomes/${seen.id}`);
  expect(text(await pack(body.id), 'review.html')).toContain('&lt;i&gt;Iron');
  // the run is left, which counts as well
  const { outcomes } = (await get(`/reviews/${body.id}`)).searched as { outcomes: { title: string }[] };
  expect(outcomes.map(({ title }) => title)).toEqual(['Aurelune']);
});

describe('its video', () => {
  const video = {
    clips: [
      { name: 'deck', runId: '', lengthS: 1000, syncs: [{ clipS: 5, runS: 0 }] },
      { name: 'small', runId: '', lengthS: null, syncs: [{ clipS: 0, runS: 0 }] },
    ],
    cuts: 'deck 0:05 - 0:15\nsmall 0:10 - 0:30 x2\nnobody 0:00 - 1:00\ndeck 0:05 - 0:15',
    fps: null,
    overlay: { width: 640, height: 360, perSecond: 2 },
  };
  const withVideo = async (more: object = {}): Promise<string> => {
    const { body } = await make([velm, kitto]);
    const [deck, small] = video.clips;
    const { status, body: told } = await send('PUT', `/reviews/${body.id}`, {
      revision: 0,
      doc: {
        ...body.doc,
        video: {
          ...video,
          clips: [
            { ...deck, runId: velm },
            { ...small, runId: kitto },
          ],
          ...more,
        },
      },
    });
    expect([status, told.message]).toEqual([200, undefined]);
    return body.id;
  };

  it('gives chapters, moments and an overlay by hand-counted times; what is wrong is named', async () => {
    const files = await pack(await withVideo());
    // 10 s, then 20 s at double speed, then the first 10 s again
    expect(text(files, 'video/chapters.txt')).toBe(
      '0:00 Aurelune on Velm 5\n0:10 Aurelune on =cmd|Mini <b>\n0:20 Aurelune on Velm 5\n',
    );
    const cues = new WebVTTParser().parse(text(files, 'video/chapters.vtt'), 'metadata');
    expect(cues.errors).toEqual([]);
    expect(cues.cues.map((cue) => [cue.startTime, cue.endTime])).toEqual([
      [0, 10],
      [10, 20],
      [20, 30],
    ]);
    const overlay = new WebVTTParser().parse(text(files, 'video/overlay.vtt'), 'metadata');
    expect(overlay.errors).toEqual([]);
    expect(overlay.cues[0]!.text).toMatch(/^50 fps · 0:00, split 1/);
    expect(text(files, 'video/left-out.txt')).toBe('line 3: There is no clip named “nobody”\n');
    expect(Object.keys(files).some((name) => name.startsWith('video/overlay/'))).toBe(false);
  });

  it('has its overlay as transparent pictures, one for each half second, and tells how far it is', async () => {
    const id = await withVideo();
    const job = randomUUID();
    const answer = fetch(`${harness.address}/api/reviews/${id}/pack?overlay=yes&job=${job}`);
    const files = unzipSync(new Uint8Array(await (await answer).arrayBuffer()));
    const progress = await get(`/packs/${job}`);
    expect(progress).toMatchObject({ at: 'manifest', total: progress.done + 1 });
    const pictures = Object.keys(files).filter((name) => name.startsWith('video/overlay/'));
    expect(pictures).toHaveLength(60);
    const png = sharp(files[pictures[3]!]!);
    const { width, height, hasAlpha } = await png.metadata();
    expect([width, height, hasAlpha]).toEqual([640, 360, true]);
    // nothing above the band, something in it
    const alpha = async (top: number, tall: number): Promise<number> =>
      (await part(png, { left: 30, top, width: 580, height: tall })).channels[3]!.max;
    expect([await alpha(0, 200), (await alpha(300, 40)) > 200]).toEqual([0, true]);
    expect((await harness.request('GET', `/packs/${randomUUID()}`)).status).toBe(404);
  });

  it('stays as it was published, and is shown at any second', async () => {
    const id = await withVideo();
    await publish(id);
    const { doc, revision } = await get(`/reviews/${id}`);
    await send('PUT', `/reviews/${id}`, { revision, doc: { ...doc, video: { ...doc.video, cuts: '' } } });
    expect(text(await pack(id), 'video/chapters.txt')).toContain('0:20 Aurelune on Velm 5');
    const other = await withVideo();
    const svg = (await harness.request('GET', `/reviews/${other}/overlay?at=12`)).body;
    expect(svg).toContain('>40</text>');
    expect((await harness.request('GET', `/reviews/${other}/overlay?at=-1`)).status).toBe(400);
  });

  it.each<[string, object, RegExp]>([
    [
      'a name of two lines',
      { clips: [{ name: 'a\nb', runId: '00000000-0000-4000-8000-000000000000', syncs: [] }] },
      /one line|line/,
    ],
    ['a speed of NaN', { fps: 'NaN' }, /fps/],
    ['an overlay of a million pixels', { overlay: { width: 1e6, height: 100, perSecond: 1 } }, /overlay/],
    ['U+0000 in the cut list', { cuts: 'a\u0000' }, /cuts/],
  ])('is refused with %s', async (_, more, message) => {
    const { body } = await make([velm]);
    const { status, body: told } = await send('PUT', `/reviews/${body.id}`, {
      revision: 0,
      doc: { ...body.doc, video: { clips: [], cuts: '', ...more } },
    });
    expect(status).toBe(400);
    expect(JSON.stringify(told)).toMatch(message);
  });

  it('refuses an overlay of more pictures than anybody cuts with', async () => {
    const id = await withVideo({
      cuts: 'small 0:00 - 600:00',
      overlay: { width: 640, height: 360, perSecond: 60 },
    });
    const detail = await get(`/reviews/${id}`);
    expect(detail.doc.video.cuts).toBe('small 0:00 - 600:00');
    const { status, body } = await harness.request('GET', `/reviews/${id}/pack?overlay=yes`);
    expect([status, body.message]).toEqual([422, 'The overlay needs 2,160,000 images; the limit is 60,000.']);
  });
});

describe('a page for others', () => {
  const page = (path: string): Promise<Response> => fetch(`${harness.address}${path}`);
  it('is there only where somebody switched it on, of what was published, with no script', async () => {
    const { body } = await make([velm, kitto], { name: 'For all' });
    await send('PUT', `/reviews/${body.id}/shown`, { shown: true });
    expect((await page(`/r/${body.id}`)).status).toBe(404);
    await publish(body.id);
    const shown = await page(`/r/${body.id}`);
    expect(shown.status).toBe(200);
    expect(shown.headers.get('content-security-policy')).toContain("default-src 'none'");
    expect(shown.headers.get('cache-control')).toMatch(/^public/);
    expect(await shown.text()).toMatch(/<h1><bdi>For all<\/bdi><\/h1>/);
    const again = await fetch(`${harness.address}/r/${body.id}`, {
      headers: { 'if-none-match': shown.headers.get('etag')!, 'cache-control': 'max-age=0' },
    });
    expect(again.status).toBe(304);
    expect((await page(`/r/${body.id}/1`)).status).toBe(200);
    for (const path of ['/2', '/0', '/x']) expect((await page(`/r/${body.id}${path}`)).status).toBe(404);
    await send('PUT', `/reviews/${body.id}/shown`, { shown: false });
    expect((await page(`/r/${body.id}`)).status).toBe(404);
    expect((await page('/r/nobody')).status).toBe(404);
  });

  it('is reached by those whom the rest does not let in', async () => {
    const outside = await startHarness({ door: { ...LOOPBACK, closed: true } });
    try {
      const bare = (path: string): Promise<Response> =>
        fetch(`${outside.address}${path}`, { redirect: 'manual' });
      expect((await bare(`/r/${randomUUID()}`)).status).toBe(404);
      expect((await bare('/api/reviews')).status).toBe(401);
      expect((await bare('/reviews')).status).not.toBe(200);
    } finally {
      await outside.close();
    }
  });
});
