import { expectAccessible } from './access';
import { startedRun } from './around';
import { expect, test } from './test';

test.describe('the five places', () => {
  test('two phones are compared by their names: the titles they share are taken by themselves', async ({
    page,
  }) => {
    await page.goto('/');
    let taps = 0;
    const tap = async (target: ReturnType<typeof page.getByRole>): Promise<void> => {
      taps++;
      await target.click();
    };
    await tap(page.getByRole('link', { name: 'Compare', exact: true }).first());
    for (const name of ['Velm 4', 'Velm 5']) {
      await page.getByRole('combobox').fill(name);
      await tap(page.getByRole('option', { name, exact: true }));
      await expect(page.getByRole('button', { name: `Remove ${name}` })).toBeVisible();
    }
    await expect(page.getByText(/^\d+ titles in common/)).toBeVisible();
    await expectAccessible(page);
    await tap(page.getByRole('button', { name: 'Compare', exact: true }));
    await expect(page).toHaveURL(/\/compare\/[\w-]{36}$/);
    await expect(page.getByRole('heading', { level: 1 })).toContainText(/Velm/);
    expect(taps).toBeLessThanOrEqual(4);
  });

  test('a device has a page with its titles, each with its latest run, and a title one with its devices', async ({
    page,
  }) => {
    await page.goto('/');
    await page.getByRole('link', { name: 'Devices' }).click();
    await page.getByRole('link', { name: /^Velm 5/ }).click();
    await expect(page.getByRole('heading', { name: 'Velm 5', exact: true })).toBeVisible();
    const aurelune = page.getByRole('list', { name: 'Titles' }).getByRole('listitem', { name: 'Aurelune' });
    await expect(aurelune).toContainText(/fps/);
    await expectAccessible(page);
    await aurelune.getByRole('link', { name: 'Aurelune: open the latest run' }).click();
    await expect(page.getByRole('heading', { name: /^Aurelune on Velm 5/ })).toBeVisible();
    await page.goto('/titles');
    await page.getByRole('link', { name: /^Aurelune/ }).click();
    await expect(
      page.getByRole('list', { name: 'Devices' }).getByRole('listitem', { name: 'Velm 5' }),
    ).toBeVisible();
  });

  test('a run that is being recorded shows on every place and leads back; old addresses and all ways to add lead on', async ({
    page,
  }) => {
    const run = await startedRun(page, 'Aurelune', 'Velm 5');
    for (const place of ['/', '/cards', '/compare', '/reviews', '/kit', '/settings']) {
      await page.goto(place);
      await expect(page.getByRole('link', { name: /^Recording Aurelune on Velm 5/ })).toBeVisible();
    }
    await page.getByRole('link', { name: /^Recording Aurelune on Velm 5/ }).click();
    await expect(page).toHaveURL(new RegExp(`/bench/${run}$`));
    for (const [tile, there] of [
      ['Quick result', 'Quick result'],
      ['Type or paste', 'Type or paste'],
      ['Import log', 'Import log'],
      ['Record live', 'Record run'],
      ['Try a setting', 'Results'],
      ['Does it run?', 'Results'],
    ] as const) {
      await page.goto('/bench');
      await page.getByRole('group', { name: 'Add a result' }).getByRole('link', { name: tile }).click();
      await expect(page.getByRole('heading', { name: there, level: 1 })).toBeVisible();
    }
    await expect(page.getByRole('form', { name: 'Add result' })).toBeVisible();
  });

  test('an address that leads nowhere says so, and leads on', async ({ page }) => {
    await page.goto('/nowhere/at/all');
    await expect(page.getByText('Page not found')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Go to Results' }).click();
    await expect(page.getByRole('heading', { name: 'Results', exact: true })).toBeVisible();
  });
});
