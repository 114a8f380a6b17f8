import { rm } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { STAND_INS, USUAL_BENCH_PLAN } from '@pace-check/contract';
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
const sitting =
  (name: RegExp) =>
  async (page: Page): Promise<void> => {
    await runs(page);
    await page.getByRole('link', { name }).click();
    await page.getByRole('link', { name: 'Session timeline' }).click();
    await page.getByRole('img', { name: /^Warmth over the session/ }).waitFor();
  };
const importing = async (page: Page): Promise<void> => {
  await page.goto('/import');
  const rows = Array.from(
    { length: 18_000 },
    (_, i) => `${i},${(16.667 + Math.sin(i / 9) * 1.5).toFixed(3)},${(9 + Math.sin(i / 7)).toFixed(2)}`,
  );
  await page.getByLabel('Frame log or run file').setInputFiles({
    name: 'saltmarsh-morning.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`# logged in the boat shed\nframe,frame time (ms),engine (ms)\n${rows.join('\n')}\n`),
  });
  await page.getByText('frames', { exact: true }).waitFor();
  await page.getByLabel('Device', { exact: true }).fill('Velm 5');
  await page.getByLabel('Title', { exact: true }).fill('Saltmarsh Drift');
  await page.getByLabel('Title', { exact: true }).blur();
  await page.getByRole('list').first().waitFor({ state: 'detached' });
  await page.getByRole('heading', { name: 'Import log' }).scrollIntoViewIfNeeded();
};

const cards = async (page: Page): Promise<void> => {
  await page.goto('/cards');
  await page.getByRole('link', { name: /^Small against large/ }).waitFor();
};
const day = async (page: Page): Promise<void> => {
  await cards(page);
  await page.getByRole('link', { name: /^Small against large/ }).click();
  await page.getByRole('group', { name: 'Timeline by device' }).waitFor();
};
const preflight = async (page: Page): Promise<void> => {
  await day(page);
  await page.getByRole('button', { name: 'Check and start' }).click();
  await page.getByRole('button', { name: /^Start at/ }).waitFor();
};
const kit = async (page: Page): Promise<void> => {
  await page.goto('/kit');
  await page.getByRole('link', { name: /Velm 5/ }).waitFor();
};

/** A comparison of the demo. */
const comparison =
  (name: RegExp) =>
  async (page: Page): Promise<void> => {
    await page.goto('/compare');
    await page.getByRole('link', { name }).click();
    await page.getByRole('heading', { name, level: 1 }).waitFor();
  };
const matrix = async (page: Page): Promise<void> => {
  await comparison(/^Three for the crossing/)(page);
  await page.getByRole('list', { name: 'Ranking of the devices' }).waitFor();
};

const review = async (page: Page): Promise<void> => {
  await page.goto('/reviews');
  await page.getByRole('link', { name: /^Small against large on the night boat/ }).click();
  await page.getByRole('region', { name: 'Verdict' }).waitFor();
};

const video = async (page: Page): Promise<void> => {
  await review(page);
  await page.getByRole('link', { name: 'Clips, cuts and overlay' }).click();
  await page.getByRole('list', { name: 'Moments' }).waitFor();
  await page.getByRole('heading', { name: 'Cut list' }).scrollIntoViewIfNeeded();
};

const ladder = async (page: Page): Promise<void> => {
  await page.goto('/ladders');
  await page.getByRole('link', { name: /^Pico Harbour on Kitto Mini/ }).click();
  await page.getByRole('list', { name: 'Settings in this ladder' }).waitFor();
};

const settings = async (page: Page): Promise<void> => {
  await page.goto('/settings');
  await page.getByRole('button', { name: 'Back up now' }).click();
  await page.getByRole('list', { name: 'Backups' }).waitFor();
  await page.getByText('Access', { exact: true }).evaluate((heading) => heading.scrollIntoView());
};

const outcomes = async (page: Page): Promise<void> => {
  await page.goto('/outcomes');
  await page.getByRole('button', { name: /^Rook Tower:/ }).click();
  await page.getByLabel('Search titles').evaluate((field) => field.scrollIntoView());
};

/** A run that goes on: a stand-in sends at sixty times the speed, a thermometer is read. */
const bench = async (page: Page): Promise<void> => {
  const run = randomUUID();
  const change = (one: object): Promise<unknown> =>
    page.request.post(`/api/bench/${run}/changes`, { data: { changes: [{ id: randomUUID(), ...one }] } });
  await change({
    kind: 'open',
    facts: { device: 'Velm 4', title: 'Aurelune', setup: 'Highest, cap 60', target: 60, refresh: 120 },
    preflight: { roomC: 18.5 },
    plan: { ...USUAL_BENCH_PLAN, everyMin: 6 },
    speed: 60,
    step: null,
  });
  for (const kind of STAND_INS.slice(0, 3))
    await page.request.post(`/api/bench/${run}/stand-ins`, {
      data: { kind, scenario: 'buckles', minutes: null, seed: 7, misbehave: [] },
    });
  await change({ kind: 'start', at: 0 });
  await page.goto(`/bench/${run}`);
  await page
    .getByRole('timer')
    .filter({ hasText: /^1[1-9]:/ })
    .waitFor();
};
/** One current picture of each main view, from the demo. */
const PICTURES: Picture[] = [
  { name: 'runs-phone', ...PHONE, open: runs },
  { name: 'runs-wide', ...WIDE, open: runs },
  { name: 'run-phone', ...PHONE, open: run },
  { name: 'sitting-phone', ...PHONE, open: sitting(/^Three titles in the shed/) },
  { name: 'sitting-wide', ...WIDE, open: sitting(/^The crossing on deck/) },
  { name: 'outcomes-wide', ...WIDE, open: outcomes },
  { name: 'settings-phone', ...PHONE, open: settings },
  { name: 'import-wide', ...WIDE, open: importing },
  { name: 'ladder-phone', ...PHONE, open: ladder },
  { name: 'video-phone', ...PHONE, open: video },
  { name: 'cards-phone', ...PHONE, open: cards },
  { name: 'day-phone', ...PHONE, open: day },
  { name: 'day-wide', ...WIDE, open: day },
  { name: 'preflight-phone', ...PHONE, open: preflight },
  { name: 'bench-phone', ...PHONE, open: bench },
  { name: 'pair-phone', ...PHONE, open: comparison(/^The new one against/) },
  { name: 'matrix-wide', ...WIDE, open: matrix },
  { name: 'review-phone', ...PHONE, open: review },
  { name: 'kit-phone', ...PHONE, open: kit },
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
    const server = await startServer({
      DATABASE_URL: database.url,
      PACE_WEB: WEB_DIST,
      PACE_COMMAND: COMMAND,
      PACE_BACKUPS: join(folder, 'backups'),
      PORT: '0',
    });
    stops.unshift(server.stop);
    await loadDemoOnce(server.address, database.url);
    const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_FLAGS });
    stops.unshift(() => browser.close());
    const only = process.argv[2];
    for (const { name, width, height, open } of PICTURES.filter(
      (picture) => !only || picture.name.includes(only),
    )) {
      const page = await browser.newPage({
        baseURL: server.address,
        viewport: { width, height },
        colorScheme: 'light',
      });
      await open(page);
      // a screen that follows a run never falls silent
      if (!page.url().includes('/bench')) await page.waitForLoadState('networkidle');
      await page.evaluate(() => document.fonts.ready);
      await page.screenshot({
        path: join(ROOT, 'docs', 'screenshots', `${name}.png`),
        animations: 'disabled',
      });
      await page.close();
      console.log(`docs/screenshots/${name}.png`);
    }
  } finally {
    for (const stop of stops) await stop().catch(fail);
  }
}

takePictures().catch(fail);
