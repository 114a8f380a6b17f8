import { lookFor } from './list';
import { ROUTES } from '@pace-check/contract';
import { expectAccessible } from './access';
import { ask } from './ask';
import { expect, test } from './test';

const MIN = 60_000;

test.describe('phone', () => {
  test.use({ viewport: { width: 390, height: 844 } });

  test('a sitting of two titles: a cooler is noted afterwards, and what it did is read', async ({ page }) => {
    // skin that warms towards 37 °C, and towards 33.5 while the cooler is on
    const entries = warming((minute) => (minute >= 20 && minute < 40 ? 33.5 : 37));
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
    await expect(page.getByText('Titles and changes')).toHaveCount(0);

    await page.getByRole('button', { name: 'Add a change during the run' }).click();
    const form = page.getByRole('form', { name: 'What was turned on' });
    await form.getByLabel('On at, minutes and seconds').fill('20:00');
    await form.getByLabel('Off at, minutes and seconds').fill('40:00');
    await form.getByRole('button', { name: 'Add change' }).click();
    const did = page.getByRole('list', { name: 'Effect of each change' });
    await expect(did.getByText(/^cooler: back 3\.\d.°C ± (less than )?\d\.\d cooler\.$/)).toBeVisible();

    // from the fortieth minute on something else was played
    await form.getByRole('radio', { name: 'another title' }).click();
    await form.getByLabel('Title from this time on').fill('Hexgarden');
    await form.getByLabel('On at, minutes and seconds').fill('40:00');
    await form.getByRole('button', { name: 'Add change' }).click();
    const titles = page.getByRole('list', { name: 'Titles in the session' });
    await expect(titles.getByRole('listitem')).toHaveCount(2);
    await expect(titles).toContainText('60 fps');
    await expect(titles).toContainText('30 fps');
    await page.getByRole('link', { name: /^Session timeline/ }).click();
    await expect(page.getByRole('list', { name: 'Where back levels off' })).toContainText(
      'Aurelune + cooler',
    );
    await expectAccessible(page);
    await ask(page, ROUTES.deleteRun, { params: { id } });
  });

  test('a switch is moved on the chart to when it really was, and what it did changes', async ({ page }) => {
    // cooled from minute 20 to 40; somebody noted it six minutes late
    const { id } = await ask(page, ROUTES.newRun, {
      body: {
        name: 'Noted late',
        facts: { device: 'Velm 5', title: 'Hexgarden', setup: null, target: 60, refresh: null, roomC: 18 },
        entries: [
          ...warming((minute) => (minute >= 20 && minute < 40 ? 33 : 37)),
          { type: 'span', fromMs: 26 * MIN, toMs: 46 * MIN, kind: 'cooler' },
          { type: 'end', atMs: 60 * MIN, reason: 'planned' },
        ] as never[],
      },
    });
    await page.goto(`/runs/${id}/sitting`);
    const did = page.getByRole('list', { name: 'Effect of each change' });
    await expect(did).toContainText('cooler');
    const before = await did.textContent();
    const drag = async (name: string, minutes: number): Promise<void> => {
      const handle = page.getByRole('slider', { name });
      await handle.scrollIntoViewIfNeeded();
      const box = (await handle.boundingBox())!;
      const chart = (await page.getByRole('img', { name: /^Warmth over the session/ }).boundingBox())!;
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
      await page.mouse.move(x, y);
      await page.mouse.down();
      await page.mouse.move(x + (minutes / 60) * chart.width * 0.5, y);
      await page.mouse.move(x + (minutes / 60) * chart.width, y);
      await page.mouse.up();
    };
    await drag('cooler, on from', -6);
    await expect(page.getByRole('slider', { name: 'cooler, on from' })).toHaveAttribute(
      'aria-valuetext',
      /^(19|20):\d\d$/,
    );
    await expect(page.getByText(/^cooler: on from (19|20):\d\d to 46:00\.$/)).toBeVisible();
    await drag('cooler, off at', -6);
    await expect(page.getByText(/^cooler: on from (19|20):\d\d to (39|40):\d\d\.$/)).toBeVisible();
    await expect(
      did.getByText(/^cooler: back (3\.[5-9]|4\.[0-5]).°C ± (less than )?\d\.\d cooler\.$/),
    ).toBeVisible();
    expect(await did.textContent()).not.toBe(before);
    // over the warmth a switch is noted by its times, right under what was dragged over
    const warmth = (await page.getByRole('img', { name: /^Warmth over the session/ }).boundingBox())!;
    const [left, y] = [warmth.x + 0.75 * warmth.width, warmth.y + 60];
    await page.mouse.move(left, y);
    await page.mouse.down();
    await page.mouse.move(left + 0.05 * warmth.width, y);
    await page.mouse.move(left + 0.1 * warmth.width, y);
    await page.mouse.up();
    const form = page.getByRole('form', { name: 'What was turned on' });
    await expect(form.getByLabel('On at, minutes and seconds')).toHaveValue(/^4[45]:\d\d$/);
    await expect(form.getByLabel('Off at, minutes and seconds')).toHaveValue(/^5[01]:\d\d$/);
    await ask(page, ROUTES.deleteRun, { params: { id } });
  });

  test('two imported runs are joined into a sitting, and it is taken apart again', async ({ page }) => {
    const imported = async (name: string, title: string, startedAt: string): Promise<string> => {
      const details = { fileName: `${name}.pace.ndjson`, name, facts: null, reading: null, again: true };
      const us = new Array<number>(600 * 30).fill(33_333);
      const lines = [
        { type: 'run', version: 1, device: 'Quill Deck', title, target: 30, startedAt },
        { type: 'frames', atMs: 0, us },
        { type: 'skin', atMs: 300_000, spot: 'left grip', c: 31, by: 'infrared' },
        { type: 'end', atMs: 600_000, reason: 'planned' },
      ];
      const answer = await page.request.post(
        `/api/imports?details=${encodeURIComponent(JSON.stringify(details))}`,
        {
          headers: { 'x-pace-check-upload': '1' },
          data: Buffer.from(lines.map((line) => JSON.stringify(line)).join('\n')),
        },
      );
      return ((await answer.json()) as { id: string }).id;
    };
    const ids = [
      await imported('Morning, one', 'Hexgarden', '2026-05-20T09:00:00Z'),
      await imported('Morning, two', 'Skiff 120', '2026-05-20T09:14:00Z'),
    ];
    await page.goto('/');
    await page.getByRole('button', { name: 'Compare runs' }).click();
    await lookFor(page, 'quill deck');
    for (const name of ['Morning, one', 'Morning, two'])
      await page.getByRole('checkbox', { name: `Select ${name}` }).click();
    await page.getByRole('button', { name: 'Join into one session' }).click();
    await expect(page.getByRole('heading', { name: '2 titles on Quill Deck' })).toBeVisible();
    const titles = page.getByRole('list', { name: 'Titles in the session' });
    await expect(titles.getByRole('listitem')).toHaveCount(2);
    await expect(titles).toContainText(/Skiff 120.*14:00 to 2[34]:/);
    await page.getByRole('button', { name: 'Split into runs' }).click();
    await lookFor(page, 'quill deck');
    await expect(page.getByRole('link', { name: /^Morning, two/ })).toBeVisible();
    await expect(page.getByRole('link', { name: /^2 titles on Quill Deck/ })).toHaveCount(0);
    for (const id of ids) await ask(page, ROUTES.deleteRun, { params: { id } });
  });
});

/** Readings of a back that moves towards a level, every two minutes for an hour. */
function warming(level: (minute: number) => number): object[] {
  const entries: object[] = [];
  let c = 30;
  for (let second = 0; second <= 3600; second++) {
    c += (level(second / 60) - c) / 240;
    if (second % 120 === 60)
      entries.push({
        type: 'skin',
        atMs: second * 1000,
        spot: 'back',
        c: Math.round(c * 10) / 10,
        by: 'infrared',
      });
  }
  return entries;
}
