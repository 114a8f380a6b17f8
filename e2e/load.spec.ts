import { expect, test } from './test';

/** What a first visit to the list may be sent, all told, bytes; the aim is 450 kB (`npm run bench -- load`). */
const MOST_BYTES = 500_000;

test('the first visit to Runs is light: the screens behind the list come later', async ({ page }) => {
  const sent: Promise<{ url: string; bytes: number }>[] = [];
  page.on('requestfinished', (request) =>
    sent.push(
      request.sizes().then(({ responseBodySize, responseHeadersSize }) => ({
        url: request.url(),
        bytes: responseBodySize + responseHeadersSize,
      })),
    ),
  );
  await page.goto('/');
  await expect(page.getByRole('link', { name: / on Velm / }).first()).toBeVisible();
  await page.evaluate(() => document.fonts.ready.then(() => undefined));
  const all = await Promise.all(sent);
  const bytes = all.reduce((sum, one) => sum + one.bytes, 0);
  expect(bytes).toBeLessThan(MOST_BYTES);
  expect(all.some(({ url }) => /\/entry-/.test(url))).toBe(true);
  expect(all.filter(({ url }) => /\/screens-/.test(url))).toEqual([]);
});
