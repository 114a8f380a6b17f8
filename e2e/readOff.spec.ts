import { randomUUID } from 'node:crypto';
import { ROUTES } from '@pace-check/contract';
import type { Locator, Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { ask } from './ask';
import { expect, test } from './test';

/**
 * From a practitioner's own lines to a published table and picture, at phone
 * size: what is published is what was typed. Taps are counted; typing is none.
 */
let taps = 0;
test.beforeEach(() => {
  taps = 0;
});
async function tap(what: Locator): Promise<void> {
  await what.click();
  taps++;
}

/** Notes of one run, as they stand in the notebook. */
async function noteRun(
  page: Page,
  played: { title: string; device: string; setup?: string },
  notes: string,
): Promise<void> {
  await page.goto('/bench');
  await tap(page.getByRole('link', { name: 'Type or paste' }));
  await page.getByLabel('Readings, one per line').fill(notes);
  for (const [label, value] of [
    ['Title', played.title],
    ['Device', played.device],
    ['Setup (optional)', played.setup ?? ''],
  ] as const) {
    if (value === '') continue;
    await page.getByLabel(label, { exact: true }).fill(value);
    await page.getByLabel(label, { exact: true }).blur();
  }
}

const keepRun = async (page: Page, name: string): Promise<void> => {
  await tap(page.getByRole('button', { name: 'Save run' }));
  await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
};

/** Writes a review of what these devices have, publishes it, and gives what is in its pack, as text. */
async function published(page: Page, name: string, devices: string[]): Promise<Record<string, string>> {
  await page.goto('/reviews');
  await tap(page.getByRole('button', { name: 'New review' }));
  await page.getByLabel('Name').fill(name);
  for (const device of devices) await tap(page.getByRole('checkbox', { name: new RegExp(`^${device} `) }));
  await tap(page.getByRole('button', { name: 'Create review' }));
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await tap(page.getByRole('button', { name: 'Publish', exact: true }));
  await expect(page.getByText(/^Revision 1, .* Published revisions never change\.$/)).toBeVisible();
  const id = page.url().split('/').at(-1)!;
  const pack = unzipSync(await (await page.request.get(`/api/reviews/${id}/pack`)).body());
  return Object.fromEntries(
    Object.entries(pack)
      .filter(([file]) => /\.(html|md|csv|svg)$/.test(file))
      .map(([file, bytes]) => [file, Buffer.from(bytes).toString()]),
  );
}

const words = (markup: string): string =>
  markup
    .replace(/<style[\s\S]*?<\/style>/g, ' ')
    .replace(/<[^>]+>/g, ' ')
    .replace(/&nbsp;|\u00a0/g, ' ')
    .replace(/\s+/g, ' ');

/** Rates, speeds and temperatures that stand in a text, as they are written. */
const figuresIn = (text: string): string[] =>
  [...text.matchAll(/(\d+(?:\.\d+)?)(?: to (\d+(?:\.\d+)?))? ?(?:fps|% speed|°C)/g)].flatMap(
    ([, first, second]) => [first!, ...(second === undefined ? [] : [second])],
  );

/** Each figure that was published was typed, or is a bar that the page names. */
function expectTraced(files: Record<string, string>, typed: string[]): void {
  const seen = new Set(typed.map(Number));
  // the page, its text, every picture and every table; what explains the methods names bars of its own
  for (const [file, text] of Object.entries(files).filter(([name]) => name !== 'methods.html'))
    expect([file, figuresIn(words(text)).filter((figure) => !seen.has(Number(figure)))]).toEqual([file, []]);
}
/** Bars of a verdict, targets and lines of touch that pages may name beside what was read. */
const BARS = ['57', '45', '30', '29', '22', '24', '15', '60', '25', '36', '40', '43', '48'];

test.use({ viewport: { width: 390, height: 844 } });

test('a session read at minutes is published as what was read, with its stamina', async ({ page }) => {
  await noteRun(
    page,
    { title: 'Glass Canyon', device: 'Quill Deck minutes' },
    '51-55 at 5:00, 30 at 25:00, 20-30 at 28:00\nmax 41.7 back\nbarely warm at 5:00\nran into that again\nplayed 30 min',
  );
  await expect(page.getByText('1 of 5 lines is not clear and will be saved as a note.')).toBeVisible();
  await keepRun(page, 'Glass Canyon on Quill Deck minutes');
  await expect(page.getByText(/51 to 55.*at 5:00.*20 to 30.*at 28:00/).first()).toBeVisible();
  await expect(page.getByText('buckles').first()).toBeVisible();
  await expect(page.getByRole('list', { name: 'Markers and notes' })).toContainText(
    'note: ran into that again',
  );
  expect(taps).toBeLessThanOrEqual(2);
  const files = await published(page, 'Minutes', ['Quill Deck minutes']);
  expect(words(files['review.html']!)).toContain('51 to 55');
  expect(files['tables/titles.csv']).toContain('51 to 55');
  expectTraced(files, ['51', '55', '30', '20', '41.7', ...BARS]);
  expect(taps).toBeLessThanOrEqual(6);
});

test('two devices side by side without a room: tables with commas, one peak each', async ({ page }) => {
  for (const [device, rows] of [
    ['Quill Deck A', 'Aurelune, 52, 38, 41.7\nHexgarden, 50-55, 40, 40.2'],
    ['Quill Deck B', 'Aurelune, 44, 30, 44.9\nHexgarden, 41-46, 31, 43.8'],
  ] as const) {
    await page.goto('/bench');
    await tap(page.getByRole('link', { name: 'Type or paste' }));
    await page
      .getByLabel(/^(Readings, one per line|Table from a spreadsheet)$/)
      .fill(`Title, fps, 1% low, peak\n${rows}`);
    await expect(page.getByLabel('average, row 1', { exact: true })).toHaveValue(
      device.endsWith('A') ? '52' : '44',
    );
    await page.getByLabel('Device', { exact: true }).fill(device);
    await page.getByLabel('Device', { exact: true }).blur();
    await tap(page.getByRole('button', { name: 'Save 2 results' }));
    await expect(
      page.getByRole('link', { name: new RegExp(`Hexgarden on ${device}`) }).first(),
    ).toContainText('read from a counter');
  }
  expect(taps).toBe(4);
  const runs = await ask(page, ROUTES.runs, { query: { q: 'Quill Deck' } });
  const of = (device: string): string[] =>
    runs.filter((run) => run.device === device && run.title === 'Aurelune').map(({ id }) => id);
  const compared = await ask(page, ROUTES.newComparison, {
    body: {
      id: randomUUID(),
      kind: 'pair',
      sides: [of('Quill Deck A'), of('Quill Deck B')].map((ids) => ({ name: null, runs: ids })),
    },
  });
  await page.goto(`/compare/${compared.id}`);
  // nobody noted the room: the peaks are compared as they were read
  await expect(page.getByText(/41\.7/).first()).toBeVisible();
  await expect(page.getByText(/44\.9/).first()).toBeVisible();
  const files = await published(page, 'Side by side', ['Quill Deck A', 'Quill Deck B']);
  expect(files['tables/titles.csv']).toMatch(/Aurelune.*\b52\b/);
  expectTraced(files, [
    '52',
    '38',
    '41.7',
    '50',
    '55',
    '40',
    '40.2',
    '44',
    '30',
    '44.9',
    '41',
    '46',
    '31',
    '43.8',
    ...BARS,
  ]);
});

test('a table of ten titles is pasted, and pasted again: what is there is asked for, and survives a reload', async ({
  page,
}) => {
  const titles = Array.from({ length: 10 }, (_, i) => `Trial ${i + 1}`);
  const table = [
    'Title,Target,Need,At first,Later,After,Battery start,Battery end,Length',
    ...titles.map((title, i) => `${title},60,action,${58 + (i % 3)},${40 + i},20,100,${80 - i},25`),
  ].join('\n');
  await page.goto('/typed');
  await page.getByLabel('Readings, one per line').fill(table);
  await expect(page.getByRole('list', { name: 'Results' }).getByRole('listitem')).toHaveCount(10);
  await page.getByLabel('Device', { exact: true }).fill('Quill Deck ten');
  await page.getByLabel('Device', { exact: true }).blur();
  await page.getByLabel('later, row 10', { exact: true }).fill('48');
  await page.reload();
  await expect(page.getByLabel('later, row 10', { exact: true })).toHaveValue('48');
  await page.getByLabel('Table from a spreadsheet').fill(table);
  await expect(page.getByText('There are 10 results already.')).toBeVisible();
  await tap(page.getByRole('button', { name: 'Replace them' }));
  await expect(page.getByLabel('later, row 10', { exact: true })).toHaveValue('49');
  await tap(page.getByRole('button', { name: 'Save 10 results' }));
  await expect(page.getByText('Saved: 10 results on Quill Deck ten.')).toBeVisible();
  expect(taps).toBe(2);
  // the need and the target of a new title are the title's from now on
  // they are kept here first, and sent one by one
  await expect
    .poll(async () => (await ask(page, ROUTES.kit, {})).titles.find((one) => one.name === 'Trial 1')?.facts)
    .toMatchObject({ target: 60, need: 'action' });
  await page.goto('/typed');
  await expect(page.getByLabel('Title, row 1', { exact: true })).toHaveValue('');
});

test('an emulator by percent, with a choice of backend that one probe each decides', async ({ page }) => {
  await noteRun(
    page,
    { title: 'Glass Canyon', device: 'Quill Deck backend', setup: 'Lantern, Ember' },
    'speed 100%\nplayed 20 min\nmax 40 back\nsmooth',
  );
  await keepRun(page, 'Glass Canyon on Quill Deck backend');
  await page.goto('/ladders');
  await tap(page.getByRole('button', { name: 'New option search' }));
  const form = page.getByRole('form', { name: 'New option search' });
  await form.getByLabel('Device', { exact: true }).fill('Quill Deck backend');
  await form.getByLabel('Title', { exact: true }).fill('Glass Canyon');
  await form.getByLabel('Options').fill('Glim\nEmber');
  await tap(form.getByRole('button', { name: 'Start' }));
  for (const [option, percent] of [
    ['Glim', '93'],
    ['Ember', '100'],
  ] as const) {
    await tap(
      page.getByRole('list', { name: 'Options' }).getByRole('listitem', { name: new RegExp(`^${option}:`) }),
    );
    const pad = page.getByRole('group', { name: `Test of ${option}`, exact: true });
    await pad.getByLabel('Speed, %').fill(percent);
    await tap(pad.getByRole('button', { name: 'Save result' }));
  }
  await expect(page.getByRole('region', { name: 'Result so far' }).getByText(/^Choose Ember/)).toBeVisible();
  await expect(page.getByText(/All changes saved/)).toBeVisible();
  const files = await published(page, 'A backend', ['Quill Deck backend']);
  const said = words(files['review.html']!);
  expect(said).toMatch(/Glass Canyon on Quill Deck backend, backend Choose Ember/);
  expect(said).toContain('Ember (recommended)');
  expect(said).toContain('100 % speed');
  expectTraced(files, ['100', '93', '40', ...BARS]);
  expect(taps).toBeLessThanOrEqual(12);
});

test('an evening by percent, a charge in between, and a cooler half of the time', async ({ page }) => {
  await noteRun(
    page,
    { title: 'Rook Tower', device: 'Quill Deck speed', setup: 'Fork two, cap 30' },
    'speed 100% at the start, 78% at the end\n100% to 65%\n10:00 charging\ncharger off 14:00\n12:00 cooler on\n20:00 cooler off\n12:00 back 37\n19:00 back 33.5\nfroze twice\nstutters often\nplayed 30 min',
  );
  await expect(page.getByText('11 of 11 lines are clear.')).toBeVisible();
  await expect(page.getByText('from the kit: the cap of “Fork two, cap 30”', { exact: false })).toBeVisible();
  await keepRun(page, 'Rook Tower on Quill Deck speed');
  const run = await ask(page, ROUTES.run, { params: { id: page.url().split('/').at(-1)! } });
  expect(run.target).toBe(30);
  expect(run.figures.marks.filter((mark) => mark.kind === 'freeze')).toHaveLength(2);
  expect(run.figures.switched).toEqual(['cooler']);
  // it was charged in between: nothing is said of a drain that nobody saw
  expect(run.figures.drain).toBeNull();
  const files = await published(page, 'By percent', ['Quill Deck speed']);
  expect(words(files['review.html']!)).toContain('100 → 78 % speed');
  expectTraced(files, ['100', '78', '37', '33.5', ...BARS]);
  expect(taps).toBeLessThanOrEqual(6);
});

test('a title of a layer that crashes, with what was read after it from another counter', async ({
  page,
}) => {
  await ask(page, ROUTES.addRecord, {
    params: { kind: 'setup' },
    body: {
      title: 'Iron Orchard',
      name: 'Gangway, safe journey',
      facts: {
        pairs: [
          { key: 'layer', value: 'Gangway', unit: '' },
          { key: 'version', value: '3.1', unit: '' },
        ],
        steps: [
          { says: 'Sideload the package.', undo: 'Remove it.', source: 'its notes', dated: null, needs: [] },
        ],
      },
    },
  });
  // as it went with the next version, by thumb: a title that the kit has not heard of becomes known to it
  await page.goto('/outcomes');
  await tap(page.getByRole('button', { name: 'Add' }));
  const note = page.getByRole('form', { name: 'Add result' });
  for (const [title, where, status] of [
    ['Iron Orchard', 'leaves are squares', 'glitches'],
    ['Late Ferry', '', 'would not start'],
  ] as const) {
    await note.getByLabel('Device', { exact: true }).fill('Quill Deck layer');
    await note.getByLabel('Emulator or layer (optional)').fill('Gangway');
    await note.getByLabel('Version').fill('3.2');
    await note.getByLabel('Title', { exact: true }).fill(title);
    await note.getByLabel('Where it crashes, or what is wrong').fill(where);
    await tap(note.getByRole('button', { name: status, exact: true }));
    await expect(page.getByText(`${title} on Quill Deck layer: ${status}.`)).toBeVisible();
  }
  const { titles } = await ask(page, ROUTES.kit, {});
  expect(titles.map(({ name }) => name)).toContain('Late Ferry');
  await noteRun(
    page,
    { title: 'Iron Orchard', device: 'Quill Deck layer', setup: 'Gangway, safe journey' },
    '5:00 58 fps\ncrashed at 8 min in the mill\n12:00 own counter 50 fps\nloads in 12 s\nunplayable',
  );
  await keepRun(page, 'Iron Orchard on Quill Deck layer');
  await expect(page.getByText('DNF').first()).toBeVisible();
  await expect(page.getByRole('list', { name: 'Markers and notes' })).toContainText(
    'crashed at 8 min in the mill',
  );
  const files = await published(page, 'A layer', ['Quill Deck layer']);
  expect(files['tables/titles.csv']).toMatch(/Iron Orchard/);
  // run, outcome and recipe stand together, and the versions against each other
  const said = words(files['review.html']!);
  const recipe = said.slice(said.indexOf('How it was set up'));
  expect(recipe).toMatch(
    /^How it was set up Iron Orchard: Gangway, safe journey Run this way on Quill Deck layer: crashes/,
  );
  expect(recipe).toContain('Tested with Gangway 3.2 on Quill Deck layer: glitches, leaves are squares');
  expect(recipe).toMatch(/1 Sideload the package\. Remove it\./);
  expect(said).toContain('Of 1 title seen with both: 1 with fewer problems.');
  expect(said).toMatch(/Late Ferry Quill Deck layer would not start/);
  expectTraced(files, ['58', '50', ...BARS]);
  expect(taps).toBeLessThanOrEqual(9);
});

test('a title’s need is set in the kit: its stored runs have another verdict, and it says of how many', async ({
  page,
}) => {
  for (const device of ['Quill Deck one', 'Quill Deck two']) {
    await noteRun(page, { title: 'Pico Harbour', device }, 'average 46 fps, 1% low 32\nplayed 20 min');
    await keepRun(page, `Pico Harbour on ${device}`);
  }
  const run = page.url();
  const { id } = (await ask(page, ROUTES.kit, {})).titles.find((one) => one.name === 'Pico Harbour')!;
  await page.goto(`/kit/title/${id}`);
  await tap(page.getByRole('radiogroup', { name: 'Title type' }).getByRole('radio', { name: 'reaction' }));
  await tap(page.getByRole('button', { name: 'Save', exact: true }));
  await expect(page.getByText(/^“Pico Harbour” saved; \d+ runs follow it\.$/)).toBeVisible();
  await page.goto(run);
  await expect(page.getByText(/rough/).first()).toBeVisible();
});
