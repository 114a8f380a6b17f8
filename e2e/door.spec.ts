import { expectAccessible } from './access';
import { OwnServer } from './server';
import { expect, test } from './test';

test.describe('a server that others in the network reach', () => {
  const server = new OwnServer();
  test.beforeEach(() => server.start({ HOST: '0.0.0.0', PACE_CODE: 'BENCH-SHED7' }));
  test.afterEach(() => server.stop());

  test('asks a phone for its code once, and leads it where it wanted to go', async ({ browser }) => {
    const context = await browser.newContext({
      baseURL: server.address,
      viewport: { width: 390, height: 844 },
    });
    const page = await context.newPage();
    await page.goto('/cards');
    const code = page.getByLabel(/Type the code/);
    await expectAccessible(page);
    await code.fill('nonsense');
    await page.getByRole('button', { name: 'Open' }).click();
    await expect(page.getByRole('alert')).toContainText('That is not the code');
    await expectAccessible(page);
    await code.fill('bench shed7');
    await page.getByRole('button', { name: 'Open' }).click();
    await expect(page.getByRole('link', { name: /^Small against large/ })).toBeVisible();
    expect(new URL(page.url()).pathname).toBe('/cards');
    await page.goto('/');
    await expect(page.getByRole('heading', { name: 'Runs' })).toBeVisible();
    // a browser that has forgotten it is asked anew, where it is
    await context.clearCookies();
    await page.getByRole('link', { name: 'Kit' }).first().click();
    await expect(code).toBeVisible();
    await context.close();
  });
});
