import { chromium } from '@playwright/test';
const list = await (await fetch('http://127.0.0.1:4377/api/runs?limit=100')).json();
const shed = list.find((r: any) => r.name.startsWith('Three titles')), deck = list.find((r: any) => r.name.startsWith('The crossing'));
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const shots: [string, string, number, number][] = [
  ['shed', `/runs/${shed.id}/sitting`, 390, 844], ['deck', `/runs/${deck.id}/sitting`, 390, 844], ['shed-wide', `/runs/${shed.id}/sitting`, 1280, 800], ['run', `/runs/${shed.id}`, 390, 844],
];
for (const [name, path, w, h] of shots) {
  const p = await b.newPage({ viewport: { width: w, height: h } });
  p.on('pageerror', (e) => console.log(name, e.message)); p.on('console', (m) => m.type() === 'error' && console.log(name, m.text()));
  await p.goto('http://127.0.0.1:4377' + path); await p.waitForTimeout(4000);
  const height = await p.evaluate(() => Math.max(...[...document.querySelectorAll('*')].map((e) => e.scrollHeight)));
  await p.setViewportSize({ width: w, height: Math.min(4200, Math.max(h, height + 120)) }); await p.waitForTimeout(700);
  await p.screenshot({ path: `/tmp/shots/${name}.png` }); await p.close();
}
await b.close();
