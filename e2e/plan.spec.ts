import type { Page } from '@playwright/test';
import { expect, test } from './test';
import { fileWith, openOwnCard } from './kit';

/** The card's steps in their order. */
const stepNames = (page: Page): Promise<string[]> =>
  page
    .getByRole('list', { name: 'Steps' })
    .getByRole('button', { name: /^Step \d/ })
    .evaluateAll((rows) => rows.map((row) => row.getAttribute('aria-label')!.replace(/^Step \d+, /, '')));
const tab = (page: Page, name: 'Steps' | 'Schedule'): Promise<void> =>
  page.getByRole('radio', { name, exact: true }).click();

test('a day on the phone: a new device, a template on two, too little time, another order, a run that runs over', async ({
  page,
}) => {
  await page.goto('/cards');
  await page.getByRole('button', { name: 'New card' }).click();
  await page.getByRole('radio', { name: 'Standard' }).click();
  // a name is enough for a new device
  await page.getByLabel('New device').fill('Velm 6');
  await page.getByRole('button', { name: 'Add device' }).click();
  await expect(page.getByRole('checkbox', { name: 'Velm 6' })).toBeChecked();
  await page.getByRole('checkbox', { name: 'Velm 5' }).click();
  await page.getByLabel('Card name').fill('Ferry to the north');
  await page.getByRole('button', { name: 'Create card' }).click();
  await expect(page.getByRole('heading', { name: 'Ferry to the north' })).toBeVisible();
  await expect(page.getByRole('heading', { name: '8 runs, 2 h 30 of play' })).toBeVisible();

  // one order by hand, one with the keys
  const before = await stepNames(page);
  const handle = (n: number): ReturnType<Page['getByRole']> =>
    page.getByRole('button', { name: new RegExp(`^Move step ${n},`) });
  await handle(1).scrollIntoViewIfNeeded();
  const [from, to] = [(await handle(1).boundingBox())!, (await handle(2).boundingBox())!];
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 8 });
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2 + 12, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => stepNames(page)).toEqual([before[1], before[0], ...before.slice(2)]);
  await handle(1).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/(picked up from|is over) position 1 of 8/)).toBeAttached();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText(/is over position 2 of 8/)).toBeAttached();
  await page.keyboard.press('Space');
  await expect.poll(() => stepNames(page)).toEqual(before);

  // there is not enough time: what is wanted least goes
  await tab(page, 'Schedule');
  await page.getByLabel('Date').fill('2026-05-16');
  await page.getByLabel('Start', { exact: true }).fill('9:00');
  await page.getByLabel('Finish by').fill('11:30');
  await page.getByRole('button', { name: 'Plan the day' }).click();
  await expect(page.getByText(/^finish, /)).toBeVisible();
  const dropped = page.getByRole('list', { name: 'Left out' });
  await expect(dropped.getByRole('listitem').first()).toContainText(
    'the day is full and this run has lower priority (priority 5)',
  );
  await expect(dropped).not.toContainText('Aurelune');
  // where each device's cooling comes from
  await expect(
    page.getByText(/Velm 5 cools with a time constant of [\d.]+ min, measured in 1 cool-down of this device/),
  ).toBeVisible();
  await expect(page.getByText(/Velm 6 cools .* typical for this device type/)).toBeVisible();

  // it went otherwise
  const next = page.getByRole('group', { name: 'Next' });
  const first = await next.getByRole('heading').textContent();
  await next.getByLabel('Minutes').fill('12');
  await next.getByRole('button', { name: 'Ran over by 12 min' }).click();
  await expect(page.getByText('Ran over by 12 min.')).toBeVisible();
  await expect(page.getByText(/The finish (time is unchanged|moves)/)).toBeVisible();
  await expect(next.getByRole('heading')).not.toHaveText(first!);
  await expect(page.getByText('1 of')).toBeVisible();
  // taken back, it is next again
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(next.getByRole('heading')).toHaveText(first!);

  // and it is all still there
  await page.reload();
  await expect(next.getByRole('heading')).toHaveText(first!);
});

test('preflight asks only what is not known, and the run shows its conditions', async ({ page }) => {
  await openOwnCard(page, 'Asked once', true);
  const next = page.getByRole('group', { name: 'Next' });
  const name = (await next.getByRole('heading').textContent())!;
  const device = name.split(' on ')[1]!;
  await next.getByRole('button', { name: 'Check and start' }).click();
  await expect(page.getByRole('heading', { name: 'Checks before the run' })).toBeVisible();
  // the room stands in the day
  await expect(page.getByRole('button', { name: /Room temperature: 18.0\s°C/ })).toBeVisible();
  await page.getByRole('radiogroup', { name: 'Power' }).getByRole('radio', { name: 'plugged in' }).click();
  await expect(page.getByText('Charging during play adds about 5 °C')).toBeVisible();
  await page.getByRole('radiogroup', { name: 'Case' }).getByRole('radio', { name: 'off' }).click();
  await page.getByLabel('Brightness, %').fill('120');
  await expect(page.getByText('at most 100')).toBeVisible();
  await page.getByLabel('Brightness, %').fill('70');
  await page.getByRole('button', { name: /^Start at/ }).click();
  const going = page.getByRole('group', { name: 'Running now' });
  await expect(going.getByRole('heading')).toHaveText(name);
  await going.getByRole('button', { name: 'Done as planned' }).click();
  await expect(page.getByText(/ done\./)).toBeVisible();

  // the run that was made is brought in for the step, and carries the conditions
  await page.getByRole('button', { name: 'Import log' }).first().click();
  await expect(page.getByText(/Its conditions are copied to the run/)).toBeVisible();
  await page
    .getByLabel('Frame log or run file')
    .setInputFiles(
      fileWith(
        'step.csv',
        `frame_time_ms\n${Array.from({ length: 4000 }, (_, i) => (16 + (i % 7) / 3).toFixed(3)).join('\n')}\n`,
      ),
    );
  await expect(page.getByLabel('Device', { exact: true })).toHaveValue(device);
  await page.getByRole('button', { name: 'Import run' }).click();
  const conditions = page.getByRole('list', { name: 'Conditions' });
  await expect(conditions).toContainText('Power: plugged in');
  await expect(conditions).toContainText('Brightness: 70 %');
  await expect(page.getByRole('list', { name: 'Caveats' })).toContainText(/plugged in/i);
  await page.getByRole('link', { name: /For the card “Asked once”/ }).click();
  await expect(
    page.getByRole('list', { name: 'Schedule as a list' }).getByRole('link').first(),
  ).toBeVisible();

  // the next run on that device is asked next to nothing
  for (let i = 0; i < 10 && !((await next.getByRole('heading').textContent()) ?? '').includes(device); i++) {
    const now = (await next.getByRole('heading').textContent())!;
    await next.getByRole('button', { name: 'Done as planned' }).click();
    await expect(next.getByRole('heading')).not.toHaveText(now);
  }
  await next.getByRole('button', { name: 'Check and start' }).click();
  await expect(page.getByText(/From the last run on this device/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Brightness: 70 %' })).toBeVisible();
  await expect(page.getByRole('radiogroup', { name: 'Power' })).toHaveCount(0);
});

test('a day that makes no sense is refused with its reason, and nothing typed is lost', async ({ page }) => {
  await page.goto('/cards/new');
  await page.getByRole('radio', { name: 'Empty' }).click();
  await expect(page.getByText('Choose at least one device.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Create card' })).toBeDisabled();
  await page.getByRole('checkbox', { name: 'Quill Deck' }).click();
  await page.getByLabel('Card name').fill('Nonsense');
  await page.getByRole('button', { name: 'Create card' }).click();
  await tab(page, 'Schedule');
  await page.getByRole('button', { name: 'Plan the day' }).click();
  await expect(page.getByRole('alert')).toContainText('The card has no device.');
  await tab(page, 'Steps');

  for (const title of ['Hexgarden', 'Iron Orchard']) {
    await page.getByLabel('Title for a new step', { exact: true }).fill(title);
    await page.getByRole('button', { name: 'Add step' }).click();
  }
  const open = (n: number): Promise<void> =>
    page.getByRole('button', { name: new RegExp(`^Step ${n},`) }).click();
  await open(1);
  await page.getByLabel('Device', { exact: true }).fill('Quill Deck');
  // a step of zero minutes
  await page.getByLabel('Minutes').fill('0');
  await page.getByRole('button', { name: 'Save step' }).click();
  await expect(page.getByText('at least one minute')).toBeVisible();
  await page.getByLabel('Minutes').fill('25');
  // a circle
  await page.getByRole('checkbox', { name: '2 Iron Orchard' }).click();
  await page.getByRole('button', { name: 'Save step' }).click();
  await open(2);
  await page.getByLabel('Device', { exact: true }).fill('Quill Deck');
  await page.getByRole('checkbox', { name: '1 Hexgarden' }).click();
  await page.getByRole('button', { name: 'Save step' }).click();
  await tab(page, 'Schedule');
  await page.getByRole('button', { name: 'Plan the day' }).click();
  await expect(page.getByRole('alert')).toContainText('the order is circular');
  await page.getByRole('button', { name: /^Show step/ }).click();
  await open(2);
  await page.getByRole('checkbox', { name: '1 Hexgarden' }).click();
  await page.getByRole('button', { name: 'Save step' }).click();
  // an impossible day
  await tab(page, 'Schedule');
  await page.getByLabel('Start', { exact: true }).fill('0900');
  await page.getByLabel('Finish by').fill('9:10');
  await page.getByRole('button', { name: 'Plan the day' }).click();
  await expect(page.getByRole('alert')).toContainText('No step fits: 10 minutes are available, and');
  await page.getByLabel('Finish by').fill('8:00');
  await page.getByRole('button', { name: 'Plan the day' }).click();
  await expect(page.getByRole('alert')).toContainText('The day ends before it starts.');
  await page.getByLabel('Finish by').fill('soon');
  await page.getByRole('button', { name: 'Plan the day' }).click();
  await expect(page.getByText('enter a time')).toBeVisible();
  await expect(page.getByLabel('Finish by')).toHaveValue('soon');
  await page.getByLabel('Finish by').fill('');
  await page.getByRole('button', { name: 'Plan the day' }).click();
  await expect(page.getByText(/earliest possible finish/)).toBeVisible();
});

test('the kit: five hundred titles are found by typing; a battery of nothing is refused; a file updates', async ({
  page,
}) => {
  const titles = Array.from({ length: 500 }, (_, i) => ({
    name: `Ferry Game ${i + 1}`,
    kind: 'native',
    demand: i % 2 ? 'light' : 'heavy',
  }));
  await page.goto('/kit');
  await page.getByRole('button', { name: 'Import or export the kit' }).click();
  const file = page.getByLabel('Kit file');
  await file.setInputFiles(fileWith('kit.json', JSON.stringify({ format: 'pace-kit', version: 1, titles })));
  await expect(page.getByText('500 added, 0 updated, 0 unchanged.')).toBeVisible();
  await file.setInputFiles(
    fileWith('again.csv', 'record,name,demand\ntitle,Ferry Game 7,notorious\ntitle,Ferry Game 8,light\n'),
  );
  await expect(page.getByText('0 added, 1 updated, 1 unchanged.')).toBeVisible();
  await file.setInputFiles(fileWith('wrong.csv', 'record,name,demand\ntitle,Ferry Game 9,gigantic\n'));
  await expect(page.getByRole('alert')).toContainText('Line 2 (Ferry Game 9): demand:');
  await page.getByRole('button', { name: 'Import or export the kit' }).click();
  await page.getByRole('radio', { name: 'Titles' }).click();
  await page.getByLabel('Search by name, or add one by name').fill('game 437');
  await expect(page.getByRole('link', { name: /Ferry Game/ })).toHaveCount(1);
  await page.getByLabel('Search by name, or add one by name').fill('');

  await page.getByRole('radio', { name: 'Devices' }).click();
  await page.getByLabel('Search by name, or add one by name').fill('Velm 7');
  await page.getByRole('button', { name: 'Add “Velm 7”' }).click();
  await page.getByLabel('Battery, mAh').fill('0');
  await page.getByLabel('Chip', { exact: true }).fill('Tarn T5');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('above 0 mAh')).toBeVisible();
  await expect(page.getByLabel('Chip', { exact: true })).toHaveValue('Tarn T5');
  await page.getByLabel('Battery, mAh').fill('4800');
  await page.getByRole('button', { name: 'Add screen' }).click();
  await page.getByLabel('Refresh rates, Hz').fill('60, 120');
  await page.getByLabel('New skin spot').fill('back by the camera');
  await page.getByRole('button', { name: 'Add spot' }).click();
  await page.getByRole('button', { name: 'back by the camera is over the chip' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('“Velm 7” saved.')).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Battery, mAh')).toHaveValue('4800');
  await expect(page.getByLabel('Refresh rates, Hz')).toHaveValue('60, 120');
});

test.describe('wide', () => {
  test.use({ viewport: { width: 1280, height: 800 } });
  test('the day stands in lanes beside its steps, goes out as a calendar and fits on a page', async ({
    page,
  }) => {
    await page.goto('/');
    await page.getByRole('link', { name: 'Plan' }).waitFor();
    await page.keyboard.press('1');
    await page.getByRole('link', { name: /^Small against large/ }).click();
    const lanes = page.getByRole('group', { name: 'Timeline by device' });
    await expect(lanes.getByRole('img', { name: /^Velm 5: Saltmarsh Drift \d\d:\d\d to/ })).toBeVisible();
    await expect(lanes.getByRole('img', { name: /^Kitto Mini:/ })).toBeVisible();
    await expect(page.getByRole('list', { name: 'Steps' })).toBeVisible();
    const answer = await page.request.get(`/api${new URL(page.url()).pathname}/day.ics`);
    expect(await answer.text()).toContain('BEGIN:VCALENDAR');
    await page.getByRole('link', { name: 'Print' }).click();
    await expect(page.getByRole('table', { name: 'Schedule' }).getByRole('row')).not.toHaveCount(0);
    await expect(page.getByRole('navigation')).toHaveCount(0);
    const pdf = await page.pdf({ format: 'A4', preferCSSPageSize: true });
    // a page object for each page
    expect(pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g)).toHaveLength(1);
  });
});
