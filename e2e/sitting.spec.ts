import { ROUTES } from '@pace-check/contract';
import { expectAccessible } from './access';
import { ask } from './ask';
import { expect, test } from './test';

const MIN = 60_000;

test.describe('phone', () => {
  test.use({ viewport: { width: 390, height: 844 } });

  test('a sitting of two titles: a cooler is noted afterwards, and what it did is read', async ({ page }) => {
    // skin that warms towards 37 °C, and towards 33.5 while the cooler is on
    const entries: object[] = [];
    let c = 30;
    for (let second = 0; second <= 3600; second++) {
      const minute = second / 60;
      c += ((minute >= 20 && minute < 40 ? 33.5 : 37) - c) / 240;
      if (second % 120 === 60)
        entries.push({
          type: 'skin',
          atMs: second * 1000,
          spot: 'back',
          c: Math.round(c * 10) / 10,
          by: 'infrared',
        });
    }
    const { id } = await ask(page, ROUTES.newRun, {
      body: {
        name: 'A sitting on deck',
        facts: { device: 'Velm 5', title: 'Aurelune', setup: null, target: 60, refresh: null, roomC: 18 },
        entries: [
          ...entries,
          { type: 'rate', atMs: 5 * MIN, fps: 60, by: 'overlay' },
          { type: 'rate', atMs: 50 * MIN, fps: 30, by: 'overlay' },
          { type: 'end', atMs: 60 * MIN, reason: 'planned' },
        ] as never[],
      },
    });
    await page.goto(`/runs/${id}`);
    await expect(page.getByRole('heading', { name: 'A sitting on deck' })).toBeVisible();
    await expect(page.getByText('Titles and switches')).toHaveCount(0);

    await page.getByRole('button', { name: 'Something was switched' }).click();
    const form = page.getByRole('form', { name: 'What was switched' });
    await form.getByLabel('On from, minutes and seconds').fill('20:00');
    await form.getByLabel('Off at, minutes and seconds').fill('40:00');
    await form.getByRole('button', { name: 'Note it' }).click();
    const did = page.getByRole('list', { name: 'What each switch did' });
    await expect(did.getByText(/^cooler: back 3\.\d.°C ± (less than )?\d\.\d cooler\.$/)).toBeVisible();

    // from the fortieth minute on something else was played
    await form.getByRole('radio', { name: 'another title' }).click();
    await form.getByLabel('Title from then on').fill('Hexgarden');
    await form.getByLabel('On from, minutes and seconds').fill('40:00');
    await form.getByRole('button', { name: 'Note it' }).click();
    const titles = page.getByRole('list', { name: 'Titles of the sitting' });
    await expect(titles.getByRole('listitem')).toHaveCount(2);
    await expect(titles).toContainText('60 fps');
    await expect(titles).toContainText('30 fps');
    await expect(page.getByRole('list', { name: 'Where back would settle' })).toContainText(
      'Aurelune + cooler',
    );
    await expectAccessible(page);
    await ask(page, ROUTES.deleteRun, { params: { id } });
  });
});
