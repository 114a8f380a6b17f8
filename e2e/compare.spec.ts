import { ROUTES } from '@pace-check/contract';
import type { Page } from '@playwright/test';
import { ask } from './ask';
import { lookFor } from './list';
import { expect, test } from './test';

/** Runs of these journeys are taken away: the list of the others stays as short as it was. */
const made: string[] = [];
test.afterEach(async ({ page }) => {
  for (const id of made.splice(0)) await ask(page, ROUTES.deleteRun, { params: { id } });
  for (const { id, name } of await ask(page, ROUTES.comparisons, {}))
    if (!DEMO.test(name)) await ask(page, ROUTES.deleteComparison, { params: { id } });
});
const DEMO = /^(The new one against|A win of one frame|On deck, in the sun|Three for the crossing)/;

/** A run that somebody read off, of a title of its own. */
async function readOff(
  page: Page,
  { device, fps, roomC, name }: { device: string; fps: number; roomC: number; name: string },
): Promise<string> {
  const { id } = await ask(page, ROUTES.newRun, {
    body: {
      name,
      facts: { device, title: 'Pico Harbour', setup: 'Lantern, native', target: 60, refresh: 120, roomC },
      entries: [
        { type: 'summary', by: 'tool', average: fps, minutes: 20 },
        { type: 'end', atMs: 1_200_000, reason: 'planned' },
      ],
    },
  });
  made.push(id);
  return id;
}

/** Opens a comparison of the demo by its name. */
async function openDemo(page: Page, name: string): Promise<void> {
  await page.goto('/compare');
  await page.getByRole('link', { name: new RegExp(`^${name}`) }).click();
  await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
}

for (const [size, viewport] of [
  ['phone', { width: 390, height: 844 }],
  ['wide', { width: 1280, height: 800 }],
] as const)
  test.describe(size, () => {
    test.use({ viewport });

    test('two runs are chosen, the answer is read, and a mismatch goes by choosing another run', async ({
      page,
    }) => {
      await readOff(page, { device: 'Velm 4', fps: 60, roomC: 18, name: 'Harbour, old phone' });
      await readOff(page, { device: 'Velm 5', fps: 45, roomC: 31, name: 'Harbour on deck' });
      await readOff(page, { device: 'Velm 5', fps: 50, roomC: 18.5, name: 'Harbour in the shed' });
      await page.goto('/');
      await page.getByRole('button', { name: 'Compare runs' }).click();
      await page.getByRole('checkbox', { name: 'Select Harbour, old phone' }).click();
      // by the keyboard as well as by a tap
      await page.getByRole('checkbox', { name: 'Select Harbour on deck' }).focus();
      await page.keyboard.press('Space');
      await expect(page.getByText('2 runs selected')).toBeVisible();
      await page.getByRole('button', { name: 'Compare', exact: true }).click();

      await expect(
        page.getByText(/^Velm 4 is faster: 60.fps against 45.fps\. But room temperature 18\.0/),
      ).toBeVisible();
      const mismatches = page.getByRole('list', { name: 'Different conditions' });
      await expect(mismatches.getByText(/^Room temperature 18\.0.°C against 31\.0.°C/)).toBeVisible();
      await expect(page.getByRole('img', { name: /^average: .*Velm 4 better/ })).toBeVisible();
      await expect(
        page.getByRole('list', { name: 'How to get a clear answer' }).getByText(/Repeat both at 18/),
      ).toBeVisible();

      await page.getByRole('button', { name: 'Change the runs of Velm 5' }).click();
      await page.getByRole('checkbox', { name: /Velm 5 · Pico Harbour.*room 31\.0/ }).click();
      await page.getByRole('checkbox', { name: /Velm 5 · Pico Harbour.*room 18\.5/ }).click();
      await page.getByRole('button', { name: 'Use selected runs' }).click();
      await expect(page.getByText(/^Velm 4 is faster: 60.fps against 50.fps\.$/)).toBeVisible();
      await expect(page.getByText(/^Room/)).toHaveCount(0);
    });

    test('weights are moved, and the order changes', async ({ page }) => {
      await openDemo(page, 'Three for the crossing');
      const order = page.getByRole('list', { name: 'Ranking of the devices' });
      await expect(order.getByRole('listitem')).toHaveCount(3);
      const first = await order.getByRole('heading').first().textContent();
      // drain alone: the order is another one
      for (const part of ['Pace', 'Evenness', 'Stamina', 'Warmth']) {
        const slider = page.getByRole('slider', { name: `Weight of ${part}` });
        await slider.focus();
        await page.keyboard.press('Home');
        await expect(slider).toHaveValue('0');
      }
      await expect(order.getByRole('heading').first()).not.toHaveText(first!);
      // the last that counts cannot be taken away
      await page.getByRole('slider', { name: 'Weight of Drain' }).focus();
      await page.keyboard.press('Home');
      await expect(page.getByRole('slider', { name: 'Weight of Drain' })).not.toHaveValue('0');
      await page.getByRole('button', { name: 'Default weights' }).click();
      await expect(order.getByRole('heading').first()).toHaveText(first!);
    });
  });

test('a kept comparison is opened again after a run was corrected, and says what it said', async ({
  page,
}) => {
  const old = await readOff(page, { device: 'Velm 4', fps: 40, roomC: 18, name: 'Harbour, old phone' });
  await readOff(page, { device: 'Velm 5', fps: 55, roomC: 18, name: 'Harbour, new phone' });
  await page.goto(`/runs/${old}`);
  await page.getByRole('button', { name: 'Compare with other runs' }).click();
  await page.getByRole('button', { name: 'Compare with Velm 5, its successor' }).click();
  await expect(page.getByText(/^Velm 5 is faster: 55.fps against 40.fps\.$/)).toBeVisible();
  await page.getByRole('button', { name: 'Save comparison' }).click();
  await expect(page.getByRole('button', { name: 'Remove from saved' })).toBeVisible();
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('Name').fill('Old and new in the harbour');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Old and new in the harbour' })).toBeVisible();
  const address = page.url();

  await ask(page, ROUTES.correctRun, { params: { id: old }, body: { roomC: 24 } });
  await page.goto(address);
  await expect(page.getByText(/room temperature 24\.0.°C against 18\.0.°C favours Velm 5/)).toBeVisible();
  await expect(page.getByText(/Result when saved: “Velm 5 is faster/)).toBeVisible();

  // whoever deletes a run of it is told
  await page.goto(`/runs/${old}`);
  await expect(page.getByRole('button', { name: 'Delete' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(
    page.getByText(/One comparison no longer includes it: Old and new in the harbour/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(async () =>
    expect((await ask(page, ROUTES.comparison, { params: { id: address.split('/').at(-1)! } })).gone).toBe(0),
  ).toPass();
});

test('a matrix on a phone: two devices at a time, sorted by a tap; what was not measured stays apart', async ({
  page,
}) => {
  await openDemo(page, 'Three for the crossing');
  const pair = page.getByRole('table', { name: 'Velm 5 and Velm 4' });
  const titles = pair.getByRole('rowheader');
  await expect(titles).toHaveText([/^Aurelune/, /^Copperline/, /^Night Ferry/, /^Saltmarsh/]);
  await pair.getByRole('button', { name: 'Sort by Velm 4' }).click();
  await expect(titles.first()).toHaveText(/^Saltmarsh/);
  await expect(pair.getByText('not tested')).toHaveCount(3);
  await page.getByRole('table', { name: 'Velm 4 and Oru Fold' }).scrollIntoViewIfNeeded();
  await expect(page.getByRole('table', { name: 'Velm 4 and Oru Fold' }).getByText('DNF')).toBeVisible();

  await page.getByRole('button', { name: 'Add a value not measured here' }).click();
  await page.getByLabel('Device', { exact: true }).fill('Velm 4');
  await page.getByLabel('Value, fps').fill('39');
  await page.getByLabel('Article or person').fill('a reader');
  await page.getByLabel('Date, such as 2026-03-01').fill('soon');
  await page.getByRole('button', { name: 'Save value' }).click();
  await expect(page.getByRole('alert').getByText(/enter a date such as 2026-03-01/i)).toBeVisible();
  await page.getByLabel('Date, such as 2026-03-01').fill('2026-03-01');
  await page.getByRole('button', { name: 'Save value' }).click();
  await expect(page.getByText('memory, a reader, 1 Mar 2026')).toBeVisible();
  await expect(pair.getByText('36.2')).toBeVisible();
  await page.getByRole('button', { name: 'Remove Aurelune on Velm 4' }).click();
  await expect(page.getByText('memory, a reader, 1 Mar 2026')).toHaveCount(0);
});

test('not the same work is not compared until somebody asks, and a run says where it stands', async ({
  page,
}) => {
  await page.goto('/');
  await lookFor(page, 'aurelune velm 5');
  await page.getByRole('link', { name: /^Aurelune on Velm 5 Highest/ }).click();
  await expect(page.getByRole('heading', { name: 'Rank among comparable runs' })).toBeVisible();
  await expect(page.getByText(/of \d+ in pace/)).toBeVisible();
  await expect(page.getByRole('img', { name: /^average: this run 52\.1.fps/ })).toBeVisible();
  await page.getByRole('button', { name: 'Compare with other runs' }).click();
  await page.getByRole('button', { name: 'Choose other runs' }).click();
  // the half hour of the demo, wherever others' runs of that name have moved it
  await lookFor(page, 'saltmarsh velm 5 highest');
  await page
    .getByRole('checkbox', { name: 'Select Saltmarsh Drift on Velm 5', exact: true })
    .filter({ hasText: '30:00' })
    .click();
  await page.getByRole('button', { name: 'Compare', exact: true }).click();
  await expect(page.getByText('Not compared: the test conditions differ too much.')).toBeVisible();
  await page.getByRole('button', { name: 'Compare anyway' }).click();
  await expect(page.getByText(/^Test conditions differ \(title\)\./)).toBeVisible();
});
