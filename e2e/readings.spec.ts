import { lookFor } from './list';
import { expect, test } from './test';
import { choose, fileWith, fill } from './kit';

test('readings from the notebook: an unclear line is pointed at and corrected, and the fit is seen', async ({
  page,
}) => {
  await page.goto('/import');
  await page.getByRole('button', { name: 'Enter notes' }).click();
  const notes = page.getByLabel('Readings, one per line');
  await notes.fill(
    '0:10 back 20.5\n8:00 back 36.5\n13 min back 105.3 F\n18:00 back\n24:00 back 42.3\n100% 0:00\n24:00 90 %\n5:00 about 41 fps',
  );
  const understood = page.getByRole('list', { name: 'How each line is read' });
  await expect(understood).toContainText('13:00: 40.72 °C at back, infrared');
  await expect(understood).toContainText('Line “18:00 back” is not clear:');
  // it would be kept as a note, and keeps nothing else back
  await expect(page.getByText('1 of 8 lines is not clear and will be saved as a note')).toBeVisible();
  await notes.fill((await notes.inputValue()).replace('18:00 back', '18:00 back 41.9'));
  await expect(page.getByText('8 of 8 lines are clear.')).toBeVisible();
  await fill(page, { Device: 'Kitto Mini', Title: 'Pico Harbour' });
  await page.getByLabel('Room temperature, °C').fill('19');
  await page.getByRole('button', { name: 'Save run' }).click();

  await expect(page.getByRole('heading', { name: 'Pico Harbour on Kitto Mini' })).toBeVisible();
  await expect(page.getByText('fps, by eye', { exact: true })).toBeVisible();
  // a curve through five readings settles a little above the last
  await expect(page.getByText('levels off, back')).toBeVisible();
  await expect(page.getByText(/^4[23]\.\d\s°C ± \d\.\d$/)).toBeVisible();
  await expect(page.getByRole('list', { name: 'Caveats' })).toContainText('Rates were estimated by eye.');
  await expect(page.getByText('Entered by hand')).toBeVisible();
});

test('readings are added to a run, taken back one by one, and brought back', async ({ page }) => {
  await page.goto('/');
  await lookFor(page, 'skiff 120 brask');
  await page.getByRole('link', { name: /Skiff 120 on Brask Slate 11/ }).click();
  await expect(page.getByText(/^31\.9\s°C$/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Add readings from notes' }).click();
  await page.getByLabel('Readings, one per line').fill('# on the quay\n29:45 front corner 44.5');
  await page.getByRole('button', { name: 'Add readings', exact: true }).click();
  await expect(page.getByText(/44\.5\s°C at front corner;/)).toBeVisible();
  await expect(page.getByRole('note')).toContainText('Hold the device only briefly');
  await page.getByRole('button', { name: /^Remove 29:45/ }).click();
  await expect(page.getByText(/44\.5\s°C at front corner;/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/44\.5\s°C at front corner;/)).toBeVisible();
  await page.getByRole('button', { name: /^Remove 29:45/ }).click();
  await expect(page.getByRole('note')).toHaveCount(0);
});

test('a menu is left out by its times and by dragging, and the figures change', async ({ page }) => {
  // two minutes at 50, half a minute of menu at 100, two minutes at 50
  const rows = [
    ...Array<string>(6000).fill('20'),
    ...Array<string>(3000).fill('10'),
    ...Array<string>(6000).fill('20'),
  ];
  await choose(page, fileWith('menu.csv', `frame_time_ms\n${rows.join('\n')}\n`));
  await fill(page, { Device: 'Velm 5', Title: 'Rook Tower' });
  await page.getByRole('button', { name: 'Import run' }).click();
  await expect(page.getByRole('heading', { name: 'Rook Tower on Velm 5' })).toBeVisible();
  const average = (15_000 / 270).toFixed(1);
  await expect(page.getByText(`Averages ${average} fps`)).toBeVisible();

  await page.getByLabel('From, minutes and seconds').fill('2:30');
  await page.getByLabel('To, minutes and seconds').fill('2:00');
  await expect(page.getByText('The end must be later than the start.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Exclude', exact: true })).toBeDisabled();
  await page.getByLabel('From, minutes and seconds').fill('2:00');
  await page.getByLabel('To, minutes and seconds').fill('2:30');
  await page.getByRole('button', { name: 'Exclude', exact: true }).click();
  await expect(page.getByText('Averages 50 fps')).toBeVisible();
  await page.getByRole('button', { name: /^Remove .*menu/ }).click();
  await expect(page.getByText(`Averages ${average} fps`)).toBeVisible();

  // the same by dragging: the chart begins 36 px in and ends 4 px before its edge
  const chart = page.getByRole('img', { name: /^Pace over/ });
  await chart.scrollIntoViewIfNeeded();
  const box = (await chart.boundingBox())!;
  const x = (second: number): number => box.x + 36 + (second / 270) * (box.width - 40);
  const y = box.y + box.height / 2;
  await page.mouse.move(x(118), y);
  await page.mouse.down();
  await page.mouse.move(x(130), y, { steps: 4 });
  await page.mouse.move(x(152), y, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByLabel('From, minutes and seconds')).toHaveValue(/^1:5[5-9]$|^2:00$/);
  await expect(page.getByLabel('To, minutes and seconds')).toHaveValue(/^2:3\d$/);
  await page.getByRole('button', { name: 'Exclude', exact: true }).click();
  await expect(page.getByText('Averages 50 fps')).toBeVisible();
});

test('school and scale change what leads, everywhere and at once, and stay', async ({ page }) => {
  await page.goto('/settings');
  await page.getByRole('radio', { name: 'median and share near it' }).click();
  await page.getByRole('radio', { name: 'Fahrenheit' }).click();
  await page.getByRole('link', { name: 'Results' }).first().click();
  await lookFor(page, 'aurelune velm 4');
  const card = page.getByRole('link', { name: /Aurelune on Velm 4/ });
  await expect(card).toContainText('fps median');
  await expect(card).toContainText(/115\.5\s°F at back by the camera/);
  await card.click();
  await expect(page.getByText('fps, median')).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'median', exact: true })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: '°F' })).toBeVisible();
  await page.reload();
  await expect(page.getByText('fps, median')).toBeVisible();
});
