import { chromium } from '@playwright/test';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const base = 'http://127.0.0.1:4377';
const which = process.argv.slice(2);
const sizes = { phone: { width: 390, height: 844 }, wide: { width: 1280, height: 800 } };
const steps: Record<string, (p: any) => Promise<void>> = {
  runs: async (p) => { await p.goto(base + '/'); await p.getByRole('link', { name: /Night Ferry on Quill/ }).first().waitFor(); await p.waitForTimeout(600); },
  fold: async (p) => { await p.goto(base + '/runs/5f0e8a10-0002-4c1a-9b1e-000000000002'); await p.getByText('Evidence').waitFor(); await p.waitForTimeout(900); },
  ferry: async (p) => { await p.goto(base + '/runs/5f0e8a10-0006-4c1a-9b1e-000000000006'); await p.getByText('Evidence').waitFor(); await p.waitForTimeout(900); },
  drift: async (p) => { await p.goto(base + '/runs/5f0e8a10-0005-4c1a-9b1e-000000000005'); await p.getByText('Evidence').waitFor(); await p.waitForTimeout(900); },
  page: async (p) => { await p.goto(base + '/runs/5f0e8a10-0003-4c1a-9b1e-000000000003'); await p.getByText('Evidence').waitFor(); await p.waitForTimeout(900); },
  tower: async (p) => { await p.goto(base + '/runs/5f0e8a10-0004-4c1a-9b1e-000000000004'); await p.getByText('Evidence').waitFor(); await p.waitForTimeout(900); },
  correct: async (p) => { await p.goto(base + '/runs/5f0e8a10-0002-4c1a-9b1e-000000000002'); await p.getByText('Evidence').waitFor(); await p.getByRole('button', { name: 'Rename or correct' }).click(); await p.waitForTimeout(900); },
  quick1: async (p) => { await p.goto(base + '/quick'); await p.getByRole('group', { name: 'Played last' }).waitFor(); await p.waitForTimeout(400); },
  quick2: async (p) => { await p.goto(base + '/quick'); await p.getByRole('button', { name: /Aurelune on Oru Fold/ }).click(); for (const k of ['5', '2']) await p.getByRole('button', { name: k, exact: true }).click(); await p.waitForTimeout(400); },
  sitting: async (p) => { await p.goto(base + '/sitting'); await p.getByLabel('Table from a spreadsheet').fill('title\tsetup\tfps\t1% low\tpeak\tmood\nAurelune\tHighest\t50–55\t38\t42.8\tgood\nHexgarden\t\t25 ± 3\t\t\t\nSkiff 120\t\t118\t130\t39\t'); await p.waitForTimeout(500); },
  notebook: async (p) => { await p.goto(base + '/by-hand'); await p.getByLabel('Readings, a line each').fill('10 min about 40 ± 8 fps\n8:00 10.5 W\n50–55 fps in the town\nspeed 98 %\n8:00 58\n18:00 back 41.7\nstutters now and then'); await p.waitForTimeout(500); },
  settings: async (p) => { await p.goto(base + '/settings'); await p.getByRole('button', { name: 'Keep the bars' }).waitFor(); },
  bench: async (p) => { await p.goto(base + '/bench'); await p.waitForTimeout(900); },
  doing: async (p) => { await p.goto(base + '/'); await p.getByRole('link', { name: /Aurelune on Velm 4/ }).first().click(); await p.getByText('What it was doing').waitFor(); await p.waitForTimeout(900); },
  title: async (p) => { await p.goto(base + '/kit'); await p.getByRole('link', { name: /Saltmarsh Drift/ }).or(p.getByText('Saltmarsh Drift')).first().click(); await p.getByText('Scenes').waitFor(); await p.waitForTimeout(400); },
};
for (const one of which) {
  const [name, size, full] = one.split(':');
  const page = await b.newPage({ viewport: sizes[size as 'phone'] });
  page.on('pageerror', (e: Error) => console.log('ERR', name, e.message));
  try {
    await steps[name!]!(page);
    if (full) {
      // the page scrolls inside: make it as tall as it is
      const h = await page.evaluate(() => Math.max(...[...document.querySelectorAll('div')].map((d) => d.scrollHeight)));
      await page.setViewportSize({ width: sizes[size as 'phone'].width, height: Math.min(h + 130, 3400) });
      await page.waitForTimeout(500);
    }
  } catch (e) { console.log('FAIL', name, String(e).slice(0, 300)); }
  await page.screenshot({ path: `/tmp/shots/${name}-${size}.png` });
  await page.close();
}
await b.close();
