import { ROUTES } from '@pace-check/contract';
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
      await page.getByRole('button', { name: 'Write it' }).click();

      await expect(page.getByRole('heading', { name: `A journey, ${size}` })).toBeVisible();
      const missing = page.getByRole('list', { name: 'What is missing' });
      await expect(missing.getByText('No sustained run of a heavy title.')).toBeVisible();
      await expect(missing.getByText('The verdict is withheld.')).toBeVisible();
      const verdict = page.getByRole('region', { name: 'Verdict' });
      // an @ asks for a figure
      await verdict.getByLabel('Words of Verdict').pressSequentially('It gets to @');
      await verdict.getByLabel('Find a figure').fill('peak');
      await verdict.getByRole('button', { name: new RegExp(`^Harbour on ${device}, peak: 38\\.5`) }).click();
      await expect(verdict.getByText(/^It gets to 38\.5.°C$/)).toBeVisible();
      await page.getByRole('radio', { name: 'final' }).click();
      await page.getByRole('button', { name: 'Move Warmth up' }).click();
      await page.getByRole('button', { name: 'Leave Handling out' }).click();
      await expect(page.getByText(/all is kept/)).toBeVisible();
      await expect(missing.getByText('The verdict is withheld.')).toHaveCount(0);
      await page.getByRole('button', { name: 'Publish', exact: true }).click();
      await expect(page.getByText(/^Revision 1, .* It stays as it is\.$/)).toBeVisible();

      await ask(page, ROUTES.addEntries, {
        params: { id: run },
        body: { entries: [{ type: 'skin', atMs: 900_000, spot: 'back', c: 41, by: 'infrared' }] },
      });
      await page.reload();
      const changed = page.getByRole('list', { name: 'Changed since' });
      await expect(changed.getByText(/, peak: 38\.5.°C → 41\.0.°C$/)).toBeVisible();
      await verdict.getByRole('button', { name: /^Accept Harbour/ }).click();
      await expect(verdict.getByText(/^It gets to 41\.0.°C$/)).toBeVisible();
      await expect(page.getByText(/all is kept/)).toBeVisible();
      await page.getByRole('button', { name: 'Publish revision 2' }).click();
      await expect(page.getByText(/^Revision 2, .* It stays as it is\.$/)).toBeVisible();

      const id = page.url().split('/').at(-1)!;
      const pack = unzipSync(await (await page.request.get(`/api/reviews/${id}/pack`)).body());
      const html = Buffer.from(pack['review.html']!).toString();
      expect(html).toContain('It gets to 41.0\u00a0°C');
      expect(html).toContain('38.5\u00a0°C → 41.0\u00a0°C');
      expect(html.indexOf('<h2>Warmth')).toBeLessThan(html.indexOf('<h2>Titles'));
      expect(html).not.toContain('Handling');
    });
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
  await expectAccessible(page);
  // on paper, too
  const pdf = (await page.pdf({ format: 'A4' })).toString('latin1');
  expect(pdf.match(/\/Type\s*\/Page\b/g)!.length).toBeGreaterThanOrEqual(1);
});
