import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { ROUTES } from '@pace-check/contract';
import { SECTION_KINDS } from '@pace-check/core';
import { unzipSync } from 'fflate';
import type { Page } from '@playwright/test';
import { expectAccessible } from './access';
import { ask } from './ask';
import { expect, test } from './test';

/** Reviews and runs of these journeys are taken away. */
const made: string[] = [];
test.afterEach(async ({ page }) => {
  for (const { id, name } of await ask(page, ROUTES.reviews, {}))
    if (/journey/.test(name)) await ask(page, ROUTES.deleteReview, { params: { id } });
  for (const id of made.splice(0)) await ask(page, ROUTES.deleteRun, { params: { id } });
});

/** A run of a device of its own, whose figures a journey may change. */
async function readOff(page: Page, device: string): Promise<string> {
  const { id } = await ask(page, ROUTES.newRun, {
    body: {
      name: `Harbour on ${device}`,
      facts: { device, title: 'Hexgarden', setup: null, target: null, refresh: null, roomC: 18 },
      entries: [
        { type: 'rate', atMs: 60_000, fps: 40, low: 39, high: 41, by: 'overlay' },
        { type: 'skin', atMs: 300_000, spot: 'back', c: 38.5, by: 'infrared' },
        { type: 'end', atMs: 1_200_000, reason: 'planned' },
      ],
    },
  });
  made.push(id);
  return id;
}

for (const [size, viewport] of [
  ['phone', { width: 390, height: 844 }],
  ['wide', { width: 1280, height: 800 }],
] as const)
  test.describe(size, () => {
    test.use({ viewport });
    test('from the runs to a published pack; a figure is accepted after its run changed', async ({
      page,
    }) => {
      const device = `Quill Deck ${size}`;
      const run = await readOff(page, device);
      await page.goto('/');
      await page.getByRole('link', { name: 'Reviews' }).click();
      await page.getByRole('button', { name: 'New review' }).click();
      await page.getByLabel('Name').fill(`A journey, ${size}`);
      await page.getByRole('checkbox', { name: new RegExp(`^${device} `) }).click();
      await page.getByRole('button', { name: 'Create review' }).click();

      await expect(page.getByRole('heading', { name: `A journey, ${size}` })).toBeVisible();
      const missing = page.getByRole('list', { name: 'To do before publishing' });
      await expect(missing.getByText('No run of 15 minutes or more with a heavy title.')).toBeVisible();
      await expect(missing.getByText('No verdict yet.')).toBeVisible();
      const verdict = page.getByRole('region', { name: 'Verdict' });
      // an @ asks for a figure
      await verdict.getByLabel('Text for Verdict').pressSequentially('It gets to @');
      await verdict.getByLabel('Search figures').fill('peak');
      await verdict.getByRole('button', { name: new RegExp(`^Harbour on ${device}, peak: 38\\.5`) }).click();
      await expect(verdict.getByText(/^It gets to 38\.5.°C$/)).toBeVisible();
      await page.getByRole('radio', { name: 'final' }).click();
      await page.getByRole('button', { name: 'Change the order of sections' }).click();
      // by keys alone: dragging is tried with the steps of a card
      const up = page.getByRole('button', { name: 'Move Warmth up' });
      await up.focus();
      // past the sections that usually stand between them
      const between = SECTION_KINDS.indexOf('warmth') - SECTION_KINDS.indexOf('titles');
      for (let i = 0; i < between; i++) await page.keyboard.press('Enter');
      await page.getByRole('button', { name: 'Close the order of sections' }).click();
      await page.getByRole('button', { name: 'Leave Handling out' }).click();
      await expect(page.getByText(/All changes saved/)).toBeVisible();
      await expect(missing.getByText('No verdict yet.')).toHaveCount(0);
      await page.getByRole('button', { name: 'Publish', exact: true }).click();
      await expect(page.getByText(/^Revision 1, .* Published revisions never change\.$/)).toBeVisible();

      await ask(page, ROUTES.addEntries, {
        params: { id: run },
        body: { entries: [{ type: 'skin', atMs: 900_000, spot: 'back', c: 41, by: 'infrared' }] },
      });
      await page.reload();
      const changed = page.getByRole('list', { name: 'Changed since' });
      await expect(changed.getByText(/, peak: 38\.5.°C → 41\.0.°C$/)).toBeVisible();
      await verdict.getByRole('button', { name: /^Accept Harbour/ }).click();
      await expect(verdict.getByText(/^It gets to 41\.0.°C$/)).toBeVisible();
      await expect(page.getByText(/All changes saved/)).toBeVisible();
      await page.getByRole('button', { name: 'Publish revision 2' }).click();
      await expect(page.getByText(/^Revision 2, .* Published revisions never change\.$/)).toBeVisible();

      const id = page.url().split('/').at(-1)!;
      const pack = unzipSync(await (await page.request.get(`/api/reviews/${id}/pack`)).body());
      const html = Buffer.from(pack['review.html']!).toString();
      expect(html).toContain('It gets to 41.0\u00a0°C');
      expect(html).toContain('38.5\u00a0°C → 41.0\u00a0°C');
      expect(html.indexOf('<h2>Warmth')).toBeLessThan(html.indexOf('<h2>Titles'));
      expect(html).not.toContain('Handling');
    });
  });

test('clips and cuts become chapters, moments and an overlay, at phone size', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const run = await readOff(page, 'Quill Deck video');
  const id = randomUUID();
  await ask(page, ROUTES.newReview, {
    body: { id, name: 'A journey, video', template: 'quick look', runs: [run] },
  });
  await page.goto(`/reviews/${id}`);
  await page.getByRole('link', { name: 'Clips, cuts and overlay' }).click();
  await page.getByRole('button', { name: 'Add clip' }).click();
  const form = page.getByRole('form', { name: 'New clip' });
  await form.getByRole('button', { name: 'Save clip' }).click();
  await expect(form.getByText('Enter a name.')).toBeVisible();
  await expect(form.getByText('Enter a time such as 1:02.5 or 62.5.').first()).toBeVisible();
  await form.getByLabel('Name of the clip').fill('deck');
  await form.getByLabel('Time in the clip').fill('0:05');
  await form.getByLabel('The run’s clock says').fill('0:00');
  await form.getByRole('button', { name: 'Save clip' }).click();
  await expect(page.getByText(/starts 0:05 before the run/)).toBeVisible();
  await page.getByLabel('Cut list').fill('deck 0:35 - 1:35\ndeck 4:05 - 6:05 x2\nnowhere 0:00 - 0:10');
  await expect(page.getByText(/^line 3: There is no clip named “nowhere”/)).toBeVisible();
  await page.getByLabel('Cut list').fill('deck 0:35 - 1:35\ndeck 4:05 - 6:05 x2');
  await expect(page.getByText('2 segments, 2:00 of video.')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Problems to fix' })).toHaveCount(0);
  // a minute of life, then two at double speed: the reading of 5:00 lies half a minute into them
  await expect(
    page.getByRole('list', { name: 'Moments' }).getByText('hottest: 38.5\u00a0°C at back'),
  ).toBeVisible();
  await expect(page.getByRole('list', { name: 'Moments' }).getByText('1:30', { exact: true })).toBeVisible();
  await expect(page.getByLabel('Chapters as text')).toHaveText('0:00 Harbour on Quill Deck video');
  const overlay = page.getByRole('img', { name: /^Overlay at/ });
  await expect
    .poll(() => overlay.evaluate((img) => (img as HTMLImageElement).naturalWidth))
    .toBeGreaterThan(100);
  await expectAccessible(page);

  // the pack, with the overlay's pictures, through the interface
  await page.getByRole('link', { name: 'The review' }).click();
  await page.getByRole('checkbox', { name: 'Include overlay images' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export package (.zip)' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('A-journey-video.zip');
  const pack = unzipSync(await readFile(await file.path()));
  expect(Object.keys(pack).filter((name) => name.startsWith('video/overlay/'))).toHaveLength(120);
  expect(Buffer.from(pack['video/chapters.txt']!).toString()).toBe('0:00 Harbour on Quill Deck video\n');
});

test('a review is written and published by keys alone', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  const run = await readOff(page, 'Quill Deck keys');
  const id = randomUUID();
  await ask(page, ROUTES.newReview, {
    body: { id, name: 'A journey, keys', template: 'quick look', runs: [run] },
  });
  await page.goto(`/reviews/${id}`);
  const verdict = page.getByRole('region', { name: 'Verdict' });
  await verdict.getByLabel('Text for Verdict').focus();
  await page.keyboard.type('It is at @');
  // the field for finding a figure has the focus; Enter takes the first that is found
  await expect(verdict.getByLabel('Search figures')).toBeFocused();
  await page.keyboard.type('peak');
  await page.keyboard.press('Enter');
  await expect(verdict.getByText(/^It is at 38\.5.°C$/)).toBeVisible();
  await page.getByRole('radio', { name: 'withheld' }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('radio', { name: 'final' })).toBeChecked();
  await page.getByRole('button', { name: 'Leave Handling out' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/All changes saved/)).toBeVisible();
  await page.getByRole('button', { name: 'Publish', exact: true }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Revision 1, /)).toBeVisible();
});

test('what is published is read by others where it is switched on, and nothing else', async ({
  page,
  browser,
}) => {
  const run = await readOff(page, 'Quill Deck page');
  const id = randomUUID();
  await ask(page, ROUTES.newReview, {
    body: { id, name: 'A journey, shown', template: 'quick look', runs: [run] },
  });
  const { revision } = await ask(page, ROUTES.review, { params: { id } });
  await ask(page, ROUTES.publishReview, { params: { id }, body: { id: randomUUID(), revision } });
  await page.goto(`/reviews/${id}`);
  const other = await (await browser.newContext({ javaScriptEnabled: false })).newPage();
  expect((await other.goto(new URL(`/r/${id}`, page.url()).href))!.status()).toBe(404);
  await page.getByRole('checkbox', { name: 'Share published revision by link' }).click();
  await expect(
    page.getByText(`Anyone who can reach this server can read the published revision at /r/${id}`),
  ).toBeVisible();
  await other.goto(new URL(`/r/${id}`, page.url()).href);
  await expect(other.getByRole('heading', { name: 'A journey, shown' })).toBeVisible();
  await expect(other.getByText(/^Published .* revision 1$/)).toBeVisible();
  await page.getByRole('checkbox', { name: 'Share published revision by link' }).click();
  await expect(page.getByText(/^Anyone who can reach this server/)).toHaveCount(0);
  expect((await other.goto(new URL(`/r/${id}`, page.url()).href))!.status()).toBe(404);
  await other.context().close();
});

test('the demo’s review: its pack opens, its page keeps to WCAG and holds no script', async ({ page }) => {
  await page.goto('/reviews');
  await page.getByRole('link', { name: /^Small against large on the night boat/ }).click();
  await expect(page.getByText(/^Revision 2, /)).toBeVisible();
  const id = page.url().split('/').at(-1)!;
  const pack = unzipSync(await (await page.request.get(`/api/reviews/${id}/pack`)).body());
  expect(Object.keys(pack)).toContain('tables/titles.csv');
  const html = Buffer.from(pack['review.html']!).toString();
  expect(html).not.toContain('<script');
  await page.setContent(html);
  await expect(page.getByRole('heading', { name: 'Corrections' })).toBeVisible();
  await expect(page.getByText(/^Aurelune on Kitto Mini, average: /)).toBeVisible();
  await expect(page.getByText(/^The small one tires the left thumb .*both of us/)).toBeVisible();
  expect(Buffer.from(pack['video/chapters.txt']!).toString()).toBe(
    '0:00 Aurelune on Velm 5\n1:00 Aurelune on Kitto Mini\n2:00 Aurelune on Velm 5\n4:30 Aurelune on Kitto Mini\n',
  );
  await expectAccessible(page);
  // on paper, too
  const pdf = (await page.pdf({ format: 'A4' })).toString('latin1');
  const pages = pdf.match(/\/Type\s*\/Page\b/g)!.length;
  expect(pages).toBeGreaterThanOrEqual(3);
  expect(pages).toBeLessThanOrEqual(12);
});
