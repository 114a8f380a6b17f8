import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { buildCli, buildServer, buildWeb } from './build';
import { CHROMIUM, CHROMIUM_FLAGS, ensureChromium } from './chromium';
import { startDatabase } from './database';
import { loadDemoOnce } from './demo';
import { COMMAND, ROOT, WEB_DIST } from './paths';
import { fail } from './processes';
import { startServer } from './serve';
import { temporaryFolder } from './temporary';

interface Picture {
  name: string;
  width: number;
  height: number;
  night?: boolean;
  open: (page: Page) => Promise<void>;
}

const PHONE = { width: 390, height: 844 };
const WIDE = { width: 1280, height: 800 };

const runs = async (page: Page): Promise<void> => {
  await page.goto('/');
  await page.getByRole('img').first().waitFor();
};
const run = async (page: Page): Promise<void> => {
  await runs(page);
  await page.getByRole('link', { name: /Aurelune on Velm 4/ }).click();
  await page.getByRole('table', { name: 'Splits' }).waitFor();
};
const importing = async (page: Page): Promise<void> => {
  await page.goto('/import');
  const rows = Array.from({ length: 18_000 }, (_, i) => `${i},${(16.667 + Math.sin(i / 9) * 1.5).toFixed(3)},${(9 + Math.sin(i / 7)).toFixed(2)}`);
  await page.getByLabel('Frame log or run file').setInputFiles({ name: 'saltmarsh-morning.csv', mimeType: 'text/csv', buffer: Buffer.from(`# logged in the boat shed\nframe,frame time (ms),engine (ms)\n${rows.join('\n')}\n`) });
  await page.getByText('frames', { exact: true }).waitFor();
  await page.getByLabel('Device', { exact: true }).fill('Velm 5');
  await page.getByLabel('Title', { exact: true }).fill('Saltmarsh Drift');
  await page.getByLabel('Title', { exact: true }).blur();
  await page.getByRole('list').first().waitFor({ state: 'detached' });
  await page.getByRole('heading', { name: 'Import a run' }).scrollIntoViewIfNeeded();
};

const notebook = async (page: Page): Promise<void> => {
  await page.goto('/by-hand');
  await page.getByLabel('Readings, a line each').fill('0:10 back 20.5\n8:00 back 36.5 front 35\n13 min back 105.3 F\n18:00 back\n100% 0:00\n5:00 about 41 fps');
  await page.getByText('1 of 6 lines is unclear').waitFor();
};
const settings = async (page: Page): Promise<void> => {
  await page.goto('/settings');
  await page.getByRole('radio', { name: 'Celsius' }).waitFor();
};
const pictures = async (page: Page): Promise<void> => {
  await run(page);
  await page.getByRole('heading', { name: 'Warmth' }).evaluate((heading) => heading.scrollIntoView());
};

const cards = async (page: Page): Promise<void> => {
  await page.goto('/cards');
  await page.getByRole('link', { name: /^Small against large/ }).waitFor();
};
const day = async (page: Page): Promise<void> => {
  await cards(page);
  await page.getByRole('link', { name: /^Small against large/ }).click();
  await page.getByRole('group', { name: 'The day in lanes' }).waitFor();
};
const lanes = async (page: Page): Promise<void> => {
  await day(page);
  await page.getByRole('group', { name: 'The day in lanes' }).evaluate((lane) => lane.scrollIntoView());
};
const steps = async (page: Page): Promise<void> => {
  await day(page);
  await page.getByRole('radio', { name: 'Steps' }).click();
  await page.getByRole('list', { name: 'Steps' }).waitFor();
};
const preflight = async (page: Page): Promise<void> => {
  await day(page);
  await page.getByRole('button', { name: 'Preflight and start' }).click();
  await page.getByRole('button', { name: /^Start at/ }).waitFor();
};
const kit = async (page: Page): Promise<void> => {
  await page.goto('/kit');
  await page.getByRole('link', { name: /Velm 5/ }).waitFor();
};
const record = async (page: Page): Promise<void> => {
  await kit(page);
  await page.getByRole('link', { name: /Velm 5/ }).click();
  await page.getByLabel('Battery, mAh').waitFor();
};

/** One current picture of each main view, from the demo. */
const PICTURES: Picture[] = [
  { name: 'runs-phone', ...PHONE, open: runs },
  { name: 'runs-wide', ...WIDE, open: runs },
  { name: 'run-phone', ...PHONE, open: run },
  { name: 'run-wide', ...WIDE, open: run },
  { name: 'run-phone-night', ...PHONE, night: true, open: run },
  { name: 'import-wide', ...WIDE, open: importing },
  { name: 'import-phone', ...PHONE, open: importing },
  { name: 'notebook-phone', ...PHONE, open: notebook },
  { name: 'settings-phone', ...PHONE, open: settings },
  { name: 'run-pictures-phone', ...PHONE, open: pictures },
  { name: 'cards-phone', ...PHONE, open: cards },
  { name: 'day-phone', ...PHONE, open: day },
  { name: 'day-lanes-phone', ...PHONE, open: lanes },
  { name: 'day-wide', ...WIDE, open: day },
  { name: 'steps-phone', ...PHONE, open: steps },
  { name: 'preflight-phone', ...PHONE, open: preflight },
  { name: 'kit-phone', ...PHONE, open: kit },
  { name: 'record-phone', ...PHONE, open: record },
];

async function takePictures(): Promise<void> {
  const folder = await temporaryFolder('pace-check-pictures-');
  const stops: (() => Promise<void>)[] = [() => rm(folder, { recursive: true, force: true })];
  try {
    await ensureChromium();
    await Promise.all([buildServer(), buildCli()]);
    await buildWeb();
    const database = await startDatabase(join(folder, 'postgres'), true);
    stops.unshift(database.stop);
    const server = await startServer({ DATABASE_URL: database.url, PACE_WEB: WEB_DIST, PACE_COMMAND: COMMAND, PORT: '0' });
    stops.unshift(server.stop);
    await loadDemoOnce(server.address, database.url);
    const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_FLAGS });
    stops.unshift(() => browser.close());
    const only = process.argv[2];
    for (const { name, width, height, night, open } of PICTURES.filter((picture) => !only || picture.name.includes(only))) {
      const page = await browser.newPage({ baseURL: server.address, viewport: { width, height }, colorScheme: night ? 'dark' : 'light' });
      await open(page);
      await page.waitForLoadState('networkidle');
      await page.evaluate(() => document.fonts.ready);
      await page.screenshot({ path: join(ROOT, 'docs', 'screenshots', `${name}.png`), animations: 'disabled' });
      await page.close();
      console.log(`docs/screenshots/${name}.png`);
    }
  } finally {
    for (const stop of stops) await stop().catch(fail);
  }
}

takePictures().catch(fail);
