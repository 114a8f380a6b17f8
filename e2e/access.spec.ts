import type { Page } from '@playwright/test';
import { expectAccessible, expectContrastAtNight } from './access';
import { openOwnCard } from './kit';
import { lookFor } from './list';
import { expect, test } from './test';

/** Screens to look over: what is opened, and where on the way `check` looks. */
const TOURS: Record<string, (page: Page, check: () => Promise<void>) => Promise<void>> = {
  'runs and comparisons': async (page, check) => {
    await page.goto('/');
    await expect(page.getByRole('main').getByRole('link').first()).toBeVisible();
    await check();
    await lookFor(page, 'aurelune velm 4');
    await page.getByRole('link', { name: /Aurelune on Velm 4/ }).click();
    await expect(page.getByRole('table', { name: 'Splits' })).toBeVisible();
    await check();
    await page.goto('/compare');
    await page.getByRole('link', { name: /^Three for the crossing/ }).click();
    await expect(page.getByRole('list', { name: 'Ranking of the devices' })).toBeVisible();
    await check();
    await page.getByRole('link', { name: 'Compare' }).first().click();
    await expect(page.getByRole('link', { name: /^The new one against/ })).toBeVisible();
    await check();
    await page.getByRole('link', { name: /^The new one against/ }).click();
    await expect(page.getByRole('table', { name: 'Splits side by side' })).toBeVisible();
    await check();
  },
  'reviews, and ways to add a run': async (page, check) => {
    await page.goto('/reviews');
    await page.getByRole('link', { name: /^Small against large on the night boat/ }).click();
    await expect(page.getByRole('region', { name: 'Verdict' })).toBeVisible();
    await page.getByRole('button', { name: 'Insert a figure into Verdict' }).click();
    await check();
    await page.goto('/?choose=1');
    await page.getByRole('checkbox', { name: /Aurelune on Velm 4/ }).click();
    await check();
    await page.goto('/import');
    await expect(page.getByRole('button', { name: 'Choose a file' })).toBeVisible();
    await check();
    await page.goto('/typed');
    await page.getByLabel('Readings, one per line').fill('8:00 back 36.5\n9:00 back');
    await expect(page.getByText('1 of 2 lines is not clear')).toBeVisible();
    await check();
  },
  'settings and kit': async (page, check) => {
    await page.goto('/settings');
    await expect(page.getByRole('radio', { name: 'Celsius' })).toBeVisible();
    await check();
    await page.goto('/kit');
    await expect(page.getByRole('link', { name: /Velm 5/ })).toBeVisible();
    await check();
    await page.getByRole('link', { name: /Velm 5/ }).click();
    await expect(page.getByLabel('Battery, mAh')).toBeVisible();
    await check();
  },
  cards: async (page, check) => {
    await page.goto('/cards/new');
    await expect(page.getByRole('radio', { name: 'Standard' })).toBeVisible();
    await check();
    await page.goto('/cards');
    await expect(page.getByRole('link', { name: /^Small against large/ })).toBeVisible();
    await check();
    await openOwnCard(page, 'All screens');
    await expect(page.getByRole('group', { name: 'Timeline by device' })).toBeVisible();
    await check();
    await page.getByRole('radio', { name: 'Steps' }).click();
    await page.getByRole('button', { name: /^Step 1,/ }).click();
    await expect(page.getByRole('button', { name: 'Save step' })).toBeVisible();
    await check();
    await page.getByRole('radio', { name: 'Schedule' }).click();
    await page.getByRole('button', { name: 'Check and start' }).click();
    await expect(page.getByRole('button', { name: /^Start at/ })).toBeVisible();
    await check();
    await page.goto(page.url().replace(/preflight.*/, 'print'));
    await expect(page.getByRole('table', { name: 'Schedule' })).toBeVisible();
    // for paper: by day and by night the same
    await expectAccessible(page);
  },
};

for (const [tour, walk] of Object.entries(TOURS))
  test(`${tour} keep to WCAG 2.2 AA where a machine can tell, and to its contrasts at night`, async ({
    page,
  }) => {
    await walk(page, async () => {
      await expectAccessible(page);
      await expectContrastAtNight(page);
    });
  });
