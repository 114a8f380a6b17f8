import { readFile } from 'node:fs/promises';
import { ROUTES } from '@pace-check/contract';
import { ask } from './ask';
import { lookFor } from './list';
import { expectAccessible } from './access';
import { expect, test } from './test';
import { rowCounts } from './kit';

test('the demo’s runs stand as lanes, and a run opens with its words, measures and splits', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Results', exact: true })).toBeVisible();
  await expect(page.getByRole('main').getByRole('link').first()).toBeVisible();
  await lookFor(page, 'night ferry oru fold');
  await expect(
    page.getByRole('link', { name: /Night Ferry on Oru Fold.*DNF: crashed at 8:12/ }),
  ).toBeVisible();
  await lookFor(page, 'iron orchard quill deck');
  await page.getByRole('link', { name: /Iron Orchard on Quill Deck/ }).click();

  await expect(page.getByRole('heading', { name: 'Iron Orchard on Quill Deck' })).toBeVisible();
  // a good average may not hide the freezes: they come first
  await expect(page.getByText(/^\d+ freezes, the longest \d\.\d\ss;/)).toBeVisible();
  const measures = page.getByRole('heading', { level: 2 });
  await expect(measures.filter({ hasText: /^(Pace|Evenness|Stamina|Warmth|Drain)$/ })).toHaveText([
    'Pace',
    'Evenness',
    'Stamina',
    'Warmth',
    'Drain',
  ]);
  await expect(page.getByRole('list', { name: 'Caveats' })).toContainText(
    'First play: shaders were compiled',
  );
  await expect(page.getByRole('table', { name: 'Splits' }).getByRole('row')).toHaveCount(7);
  await page.getByRole('button', { name: 'Evenness: definition' }).click();
  await expect(page.getByText(/at least 2.5 times the median of the frames around it/)).toBeVisible();
  // other splits, laid by the server
  await page.getByRole('radio', { name: '10', exact: true }).click();
  await expect(page.getByRole('table', { name: 'Splits' }).getByRole('row')).toHaveCount(4);
  await page.getByRole('radio', { name: '5', exact: true }).click();
  await expect(page.getByRole('table', { name: 'Splits' }).getByRole('row')).toHaveCount(7);
});

test('a run is found by typing, renamed and corrected, deleted, and brought back', async ({
  page,
  server,
}) => {
  await page.goto('/');
  await lookFor(page, 'kitto aurelune');
  await expect(page.getByRole('main').getByRole('link', { name: / on / })).toHaveCount(1);
  await page.getByRole('link', { name: /Kitto Mini/ }).click();

  await page.getByRole('button', { name: 'Edit run' }).click();
  await page.getByLabel('Run name').fill('');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('enter a name')).toBeVisible();
  await page.getByLabel('Run name').fill('Saw on the ferry');
  await page.getByLabel('Target rate, fps').fill('45');
  await page.getByRole('button', { name: /^Room temperature: 19/ }).click();
  await page.getByLabel('Room temperature, °C').fill('21,5');
  await page.getByRole('radio', { name: 'reaction' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Saw on the ferry' })).toBeVisible();
  await expect(page.getByText('target 45', { exact: true })).toBeVisible();
  await expect(page.getByText(/^for reaction/)).toBeVisible();
  // the hottest reading, 40.7 °C, over the room that was forgotten
  await expect(page.getByText(/^19\.2\s°C$/)).toBeVisible();

  const before = await rowCounts(server);
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('“Saw on the ferry” deleted.')).toBeVisible();
  await expect(page.getByRole('link', { name: /Saw on the ferry/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await lookFor(page, 'kitto aurelune');
  await expect(page.getByRole('link', { name: /Saw on the ferry/ })).toBeVisible();
  expect(await rowCounts(server)).toEqual(before);
});

test('a spot is dragged to its place, and lies there on every run of the device', async ({ page }) => {
  await page.goto('/');
  await lookFor(page, 'saltmarsh velm 5');
  // another journey may have brought in a newer one
  await page
    .getByRole('link', { name: /Saltmarsh Drift on Velm 5/ })
    .last()
    .click();
  const spot = page.getByRole('button', { name: /^back middle, / });
  await spot.scrollIntoViewIfNeeded();
  const before = (await spot.boundingBox())!;
  const saved = page.waitForResponse((response) => response.url().endsWith('/spots') && response.ok());
  await page.mouse.move(before.x + 22, before.y + 22);
  await page.mouse.down();
  await page.mouse.move(before.x + 30, before.y + 60, { steps: 5 });
  await page.mouse.move(before.x + 42, before.y + 92, { steps: 5 });
  await page.mouse.up();
  await saved;
  const other = (await ask(page, ROUTES.runs, {})).find((run) => run.name === 'Aurelune on Velm 5')!;
  const { places } = await ask(page, ROUTES.run, { params: { id: other.id } });
  const moved = places.find((one) => one.spot === 'back middle')!;
  expect(moved).toMatchObject({ side: 'back' });
  // 20 to the right of the middle of 132, 70 below the middle of 246
  expect(moved.x).toBeCloseTo(0.5 + 20 / 132, 1);
  expect(moved.y).toBeCloseTo(0.5 + 70 / 246, 1);
});

test('a run that is not there says so and leads back', async ({ page }) => {
  await page.goto('/runs/00000000-0000-4000-8000-000000000000');
  await expect(page.getByText(/This run does not exist/)).toBeVisible();
  await page.getByRole('link', { name: 'Results' }).first().click();
  await expect(page.getByRole('heading', { name: 'Results', exact: true })).toBeVisible();
});

test('everything is saved as open files, and brought in again adds nothing', async ({ page }) => {
  await page.goto('/settings');
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export all data' }).click(),
  ]);
  expect(saved.suggestedFilename()).toMatch(/^pace-check-\d{4}-\d\d-\d\d\.zip$/);
  const file = {
    name: 'everything.zip',
    mimeType: 'application/zip',
    buffer: await readFile((await saved.path())!),
  };
  const choose = page.getByLabel('Export file of another Pace Check');
  await choose.setInputFiles(file);
  await expect(page.getByText('Nothing new in this file.')).toBeVisible();
  await expect(page.getByText(/^\d+ records already existed/)).toBeVisible();
  await expectAccessible(page);
  // half of it
  await choose.setInputFiles({ ...file, buffer: file.buffer.subarray(0, file.buffer.length >> 1) });
  await expect(page.getByRole('alert')).toContainText('Nothing was imported.');
});

test('a server that does not answer is said plainly, and trying again helps', async ({ page }) => {
  let down = true;
  await page.route('**/api/runs', (route) => (down ? route.abort() : route.continue()));
  await page.goto('/');
  await expect(page.getByText('Cannot reach the server')).toBeVisible();
  down = false;
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('link', { name: / on Velm / }).first()).toBeVisible();
});

test.describe('on a wide screen', () => {
  test.use({ viewport: { width: 1280, height: 800 } });

  test('keys lead through the app, and ? shows them', async ({ page }) => {
    await page.goto('/');
    await expect(page.getByText('average fps')).toBeVisible();
    await page.keyboard.press('4');
    await expect(page.getByRole('heading', { name: 'Compare', exact: true })).toBeVisible();
    await page.keyboard.press('?');
    await expect(page.getByText('Go to Results')).toBeVisible();
    await page.getByRole('button', { name: 'Close' }).click();
    await page.keyboard.press('3');
    await expect(page.getByRole('heading', { name: 'Results', exact: true })).toBeVisible();
    await page.keyboard.press('l');
    await expect(page.getByRole('button', { name: 'Light theme' })).toBeVisible();
    await page.reload();
    await expect(page.getByRole('button', { name: 'Light theme' })).toBeVisible();
  });
});
