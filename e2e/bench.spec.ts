import { ROUTES, type BenchState, type RunDetail, type SourceKind } from '@pace-check/contract';
import { ask } from './ask';
import type { EntryLine, RunLine } from '@pace-check/core';
import { roundRobin, SCENARIOS, standIn, type RoundRobin } from '@pace-check/rig';
import type { Page } from '@playwright/test';
import { expect, test } from './test';
import { expectAccessible, expectContrastAtNight } from './access';
import { openOwnCard } from './kit';
import { childrenOf, isAlive, Logger, OwnServer } from './server';

const SEED = 7;

/** In the browser: the lines of the one run that it keeps. */
const keptReadings = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const opening = indexedDB.open('pace-check-followed');
    opening.onerror = () => reject(opening.error);
    opening.onsuccess = () => {
      const all = opening.result.transaction('line').objectStore('line').count();
      all.onsuccess = () => (opening.result.close(), resolve(all.result));
    };
  });

/** Opens a run at the bench. */
async function openRun(
  page: Page,
  facts: { device: string; title: string; speed?: string; minutes?: string },
): Promise<string> {
  await page.goto('/bench');
  await page.getByRole('link', { name: 'Record live' }).click();
  for (const [label, value] of [
    ['Device', facts.device],
    ['Title', facts.title],
  ] as const) {
    await page.getByLabel(label, { exact: true }).fill(value);
    await page.getByLabel(label, { exact: true }).blur();
  }
  await page.getByLabel('Planned length, min').fill(facts.minutes ?? '30');
  await page.getByLabel(/^Clock speed/).fill(facts.speed ?? '1');
  await page.getByLabel('Room temperature, °C').fill('18.5');
  await page.getByRole('button', { name: 'Continue to the bench' }).click();
  await expect(page.getByRole('button', { name: 'Start recording' })).toBeVisible();
  return page.url().split('/').at(-1)!;
}

/** A word from the source may come in under the finger: it is tapped until it is on. */
const tab = (page: Page, name: string): Promise<void> =>
  expect(async () => {
    const one = page.getByRole('radio', { name, exact: true });
    await one.click();
    await expect(one).toBeChecked({ timeout: 2000 });
  }).toPass();

/** Taps digits and keeps them. */
async function tap(page: Page, digits: string): Promise<void> {
  for (const digit of digits)
    await page.getByRole('button', { name: digit === '.' ? 'Decimal point' : digit, exact: true }).click();
  await page.getByRole('button', { name: 'Save reading' }).click();
}

/** The same, whatever reading is due. */
async function tapSkin(page: Page, digits: string): Promise<void> {
  await page.getByRole('radio', { name: 'Skin temperature' }).click();
  await tap(page, digits);
}

async function connect(page: Page, kind: string): Promise<void> {
  await page.getByRole('button', { name: 'Add simulated device' }).click();
  await page.getByRole('radio', { name: kind, exact: true }).click();
  await page.getByRole('button', { name: 'Connect', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Loggers' })).toContainText(
    new RegExp(`Simulated (power )?${kind === 'handset' ? 'phone' : kind}`),
  );
}

const benchOf = (page: Page, run: string): Promise<BenchState> =>
  ask(page, ROUTES.recording, { params: { id: run } });
const runOf = (page: Page, run: string): Promise<RunDetail> => ask(page, ROUTES.run, { params: { id: run } });
const typed = (state: BenchState): EntryLine[] =>
  state.entries.filter((entry) => entry.source === null && !entry.takenBack).map((entry) => entry.line);
const connection = (page: Page): ReturnType<Page['getByRole']> =>
  page.getByRole('status', { name: 'Connection' });
const lastEntry = (page: Page): ReturnType<Page['getByRole']> =>
  page.getByRole('status', { name: 'Last entry' });

test.describe('with three server processes behind a proxy', () => {
  let servers: OwnServer[];
  let proxy: RoundRobin;
  test.beforeEach(async ({ server }) => {
    const others = [new OwnServer(server.database), new OwnServer(server.database)];
    for (const other of others) await other.start();
    servers = [server, ...others];
    proxy = await roundRobin(() => servers.map(({ address }) => address));
  });
  test.afterEach(async () => {
    proxy.close();
    for (const server of servers) await server.stop();
  });

  test('two screens follow a run while each process is killed: what one types the other shows, and no frame is lost', async ({
    browser,
  }) => {
    const context = await browser.newContext({
      baseURL: proxy.address,
      viewport: { width: 390, height: 844 },
    });
    const page = await context.newPage();
    const run = await openRun(page, { device: 'Velm 5', title: 'Aurelune', speed: '60', minutes: '30' });
    const seen = await context.newPage();
    await seen.goto(`/bench/${run}`);
    let key = '';
    await expect(async () => {
      const body = { name: 'the handset', kind: 'handset' as const };
      ({ key } = await ask(page, ROUTES.addSource, { params: { id: run }, body }));
    }).toPass();
    const minutes = 20;
    const logger = new Logger(proxy.address, key, [
      'fades',
      '--minutes',
      String(minutes),
      '--seed',
      String(SEED),
    ]);
    try {
      await page.getByRole('button', { name: 'Start recording' }).click();
      for (const screen of [page, seen]) await expect(screen.getByLabel('Current pace')).toHaveText(/\d/);
      for (const [i, server] of servers.entries()) {
        await server.kill();
        await tapSkin(page, `30${i}`);
        await expect(lastEntry(page)).toContainText('saved on the server');
        await expect(seen.getByRole('list', { name: 'Latest readings' })).toContainText(`30.${i}°`);
        await server.start();
      }
      await expect(page.getByRole('alert').filter({ hasText: 'The logger has ended' })).toBeVisible();
    } finally {
      logger.stop();
    }
    await tab(page, 'Run');
    await page.getByRole('button', { name: 'End as planned' }).click();
    for (const screen of [page, seen])
      await expect(screen.getByRole('button', { name: 'Show figures' })).toBeEnabled();
    const scenario = { ...SCENARIOS.fades, seconds: minutes * 60 };
    const frames = [...standIn('handset', scenario, SEED, [])].reduce(
      (sum, { line }) => sum + (line.type === 'frames' ? line.us.length : 0),
      0,
    );
    expect((await runOf(page, run)).figures.frames.count).toBe(frames);
    await context.close();
  });
});

test.describe('with a server that is killed', () => {
  const loggers: Logger[] = [];
  test.afterEach(() => {
    for (const logger of loggers.splice(0)) logger.stop();
  });

  /** A logger with a key of the run, which may still be on its way to the server. */
  async function addLogger(page: Page, address: string, run: string, kind: SourceKind): Promise<void> {
    let key: string | undefined;
    await expect(async () => {
      const body = { name: `the ${kind}`, kind };
      ({ key } = await ask(page, ROUTES.addSource, { params: { id: run }, body }));
    }).toPass();
    loggers.push(
      new Logger(address, key!, ['fades', '--minutes', '16', '--seed', String(SEED), '--as', kind]),
    );
  }

  test('a whole run at sixty times the speed, the server killed in the middle: its figures are those of the same run imported as a file', async ({
    browser,
    server,
  }) => {
    const context = await browser.newContext({
      baseURL: server.address,
      viewport: { width: 390, height: 844 },
    });
    const page = await context.newPage();
    const run = await openRun(page, { device: 'Velm 5', title: 'Aurelune', speed: '60', minutes: '16' });
    await addLogger(page, server.address, run, 'handset');
    await addLogger(page, server.address, run, 'meter');
    // cold readings
    await tap(page, '198');
    await page.getByRole('button', { name: 'Start recording' }).click();
    await expect(page.getByLabel('Current pace')).toHaveText(/\d/);
    await tap(page, '312');
    await expect(lastEntry(page)).toContainText('31.2 °C');

    await tab(page, 'Markers');
    await page.getByRole('button', { name: 'Stutter' }).click();
    await page.getByRole('switch', { name: 'Menu' }).click();
    await expect(page.getByRole('switch', { name: 'Menu' })).toBeChecked();
    await page.getByRole('switch', { name: 'Menu' }).click();
    await expect(page.getByRole('switch', { name: 'Menu' })).not.toBeChecked();
    await page.getByRole('switch', { name: 'Charging' }).click();
    await expect(page.getByRole('switch', { name: 'Charging' })).toBeChecked();

    await server.kill();
    await expect(connection(page)).toContainText('Server not reached');
    await page.getByRole('switch', { name: 'Charging' }).click();
    await tab(page, 'Readings');
    await tap(page, '401');
    await expect(lastEntry(page)).toContainText('40.1 °C');
    await expect(lastEntry(page)).toContainText('saved on this device');
    await expect(connection(page)).toContainText(/\d waiting to send/);
    await server.start();
    await expect(connection(page)).toHaveText('All sent');
    await expect(lastEntry(page)).toContainText('saved on the server');

    await tap(page, '431');
    await expect(page.getByRole('alert').filter({ hasText: 'hold only briefly' })).toBeVisible();
    await expect(page.getByRole('alert').filter({ hasText: 'The logger has ended' })).toBeVisible();
    await tab(page, 'Run');
    await page.getByRole('button', { name: 'End as planned' }).click();
    await expect(page.getByRole('button', { name: 'Show figures' })).toBeEnabled();

    // the same, as a file: what the loggers tell, and what was typed
    const state = await benchOf(page, run);
    expect(
      typed(state)
        .map((line) => line.type)
        .sort(),
    ).toEqual(['end', 'mark', 'skin', 'skin', 'skin', 'skin', 'span', 'span']);
    const scenario = { ...SCENARIOS.fades, seconds: 16 * 60 };
    const told = (kind: 'handset' | 'meter'): RunLine[] =>
      [...standIn(kind, scenario, SEED, [])].map(({ line }) => line);
    const handset = told('handset');
    const recorded = await runOf(page, run);
    // what the kit knows of the title was taken over, too
    const lines = [
      ...handset
        .filter((line) => line.type !== 'end')
        .map((line) => (line.type === 'run' ? { ...line, conditions: recorded.conditions } : line)),
      ...told('meter'),
      ...typed(state),
    ];
    const details = {
      fileName: 'the-same.pace.ndjson',
      name: 'The same from a file',
      facts: null,
      reading: null,
      again: true,
    };
    const imported = (await (
      await page.request.post(`/api/imports?details=${encodeURIComponent(JSON.stringify(details))}`, {
        headers: { 'x-pace-check-upload': '1' },
        data: Buffer.from(lines.map((line) => JSON.stringify(line)).join('\n')),
      })
    ).json()) as RunDetail;
    expect(recorded.figures.frames.count).toBeGreaterThan(50_000);
    expect(recorded.figures).toEqual(imported.figures);
    expect(recorded.figures.caveats).toContain('charged-during');

    await page.getByRole('button', { name: 'Show figures' }).click();
    await expect(page.getByRole('region', { name: 'What the figures are based on' })).toContainText(
      'Frames: the handset.',
    );
    await expect(page.getByRole('region', { name: 'What the figures are based on' })).toContainText(
      'Power: the meter.',
    );
    await context.close();
  });

  test('a sitting of three titles at sixty times the speed, with a cooler, a charger and a killed server', async ({
    browser,
    server,
  }) => {
    const context = await browser.newContext({
      baseURL: server.address,
      viewport: { width: 390, height: 844 },
    });
    const page = await context.newPage();
    const run = await openRun(page, {
      device: 'Velm 5',
      title: 'Saltmarsh Drift',
      speed: '60',
      minutes: '180',
    });
    await addLogger(page, server.address, run, 'handset');
    await tap(page, '198');
    await page.getByRole('button', { name: 'Start recording' }).click();
    await expect(page.getByLabel('Current pace')).toHaveText(/\d/);
    await tap(page, '312');
    await expect(lastEntry(page)).toContainText('31.2 °C');

    await tab(page, 'Markers');
    await page.getByRole('button', { name: 'Changes and next title' }).click();
    const cooler = page.getByRole('switch', { name: 'Turn cooler on or off' });
    await cooler.click();
    await expect(cooler).toBeChecked();
    // another title, which loads first: tap and tap
    await page.getByLabel('Next title', { exact: true }).fill('Hexgarden');
    await page.getByRole('button', { name: 'Loads first' }).click();
    const loading = page.getByRole('switch', { name: 'Loading' });
    await expect(loading).toBeChecked();
    await loading.click();
    await expect(loading).not.toBeChecked();
    await expect(connection(page)).toHaveText('All sent');

    await server.kill();
    await expect(connection(page)).toContainText('Server not reached');
    await page.getByLabel('Next title', { exact: true }).fill('Skiff 120');
    await page.getByRole('button', { name: 'Starts now' }).click();
    await cooler.click();
    await expect(cooler).not.toBeChecked();
    const charging = page.getByRole('switch', { name: 'Charging' });
    await charging.click();
    await expect(charging).toBeChecked();
    await expect(connection(page)).toContainText(/\d waiting to send/);
    await server.start();
    await expect(connection(page)).toHaveText('All sent');
    await charging.click();
    await expect(charging).not.toBeChecked();
    await tab(page, 'Readings');
    await tap(page, '365');
    await expect(lastEntry(page)).toContainText('36.5 °C');
    await expect(lastEntry(page)).toContainText('saved on the server');
    await tab(page, 'Run');
    await page.getByRole('button', { name: 'End as planned' }).click();
    await expect(page.getByRole('button', { name: 'Show figures' })).toBeEnabled();
    expect(
      typed(await benchOf(page, run))
        .map((line) => (line.type === 'span' ? line.kind : line.type))
        .sort(),
    ).toEqual(['charging', 'cooler', 'end', 'loading', 'skin', 'skin', 'skin', 'title', 'title']);

    await page.getByRole('button', { name: 'Show figures' }).click();
    await expect(page.getByText(/^3 titles: Saltmarsh Drift/)).toBeVisible();
    await page.getByRole('link', { name: 'Session timeline' }).click();
    const titles = page.getByRole('list', { name: 'Titles in the session' });
    await expect(titles.getByRole('listitem')).toHaveCount(3);
    await expect(titles).toContainText(/Hexgarden.*loaded for \d+ s/);
    await expect(page.getByRole('slider', { name: 'cooler, off at' })).toBeVisible();
    await expect(page.getByRole('list', { name: 'Effect of each change' }).getByRole('listitem')).toHaveCount(
      2,
    );
    await expectAccessible(page);
    await titles.getByRole('link', { name: 'Open Skiff 120 as a single run' }).click();
    await expect(page.getByText(/it started warm from the titles before/)).toBeVisible();
    await context.close();
  });

  test('a stand-in plays for a run, and ends with its server, even one that is killed', async ({
    browser,
    server,
  }) => {
    const context = await browser.newContext({
      baseURL: server.address,
      viewport: { width: 390, height: 844 },
    });
    const page = await context.newPage();
    await openRun(page, { device: 'Velm 5', title: 'Skiff 120' });
    await tab(page, 'Run');
    await connect(page, 'handset');
    await connect(page, 'meter');
    await page.getByRole('button', { name: 'Start recording' }).click();
    await expect(page.getByLabel('Current pace')).toHaveText(/\d/);
    const playing = await childrenOf(server.pid);
    // all in one
    expect(playing).toHaveLength(1);
    await server.kill();
    await expect.poll(() => isAlive(playing[0]!)).toBe(false);
    await context.close();
  });

  test('nothing typed is lost: the page reloaded, the tab closed, no network, the clock set, the server killed', async ({
    browser,
    server,
  }) => {
    const context = await browser.newContext({
      baseURL: server.address,
      viewport: { width: 390, height: 844 },
    });
    let page = await context.newPage();
    const run = await openRun(page, { device: 'Oru Fold', title: 'Hexgarden' });
    await page.getByRole('button', { name: 'Start recording' }).click();
    await expect(connection(page)).toHaveText('All sent');
    await tapSkin(page, '301');
    // in the air
    await context.setOffline(true);
    await tapSkin(page, '302');
    await tapSkin(page, '303');
    await expect(connection(page)).toContainText('waiting to send');
    // somebody sets the clock
    await page.evaluate(() => {
      const real = Date.now;
      Date.now = () => real() + 3_600_000;
    });
    await tapSkin(page, '304');
    // it is shown when the browser has it: before that, nobody was told that it is kept
    await expect(lastEntry(page)).toContainText('30.4 °C');
    // the tab is closed, another one opened when the network is back
    await page.close();
    await context.setOffline(false);
    page = await context.newPage();
    await page.goto(`/bench/${run}`);
    await expect(connection(page)).toHaveText('All sent');
    await server.kill();
    await tapSkin(page, '305');
    await expect(lastEntry(page)).toContainText('saved on this device');
    await server.start();
    await expect(lastEntry(page)).toContainText('saved on the server');
    await page.reload();
    await expect(connection(page)).toHaveText('All sent');
    // killed in the middle of what is sent
    await Promise.all([tapSkin(page, '306'), server.kill()]);
    await server.start();
    await expect(connection(page)).toHaveText('All sent');
    await tab(page, 'Entries');
    await expect(page.getByRole('list', { name: 'Entries' }).getByRole('listitem')).toHaveCount(6);
    const readings = typed(await benchOf(page, run)).flatMap((line) =>
      line.type === 'skin' ? { c: line.c, atMs: line.atMs } : [],
    );
    expect(readings.map(({ c }) => c)).toEqual([30.1, 30.2, 30.3, 30.4, 30.5, 30.6]);
    const times = readings.map(({ atMs }) => atMs);
    expect(times).toEqual(times.toSorted((a, b) => a - b));
    // the hour that the clock was set by is not in them
    expect(times.at(-1)!).toBeLessThan(600_000);
    await context.close();
  });

  test('loaded anew while the server is away, the app opens, its run goes on, and another one is begun', async ({
    browser,
    server,
  }) => {
    const context = await browser.newContext({
      baseURL: server.address,
      viewport: { width: 390, height: 844 },
      serviceWorkers: 'allow',
    });
    let page = await context.newPage();
    await page.goto('/bench');
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    // lists are kept from when they were last asked for with the worker there
    await page.reload();
    await page.getByRole('link', { name: 'Record live' }).click();
    await expect(page.getByLabel('Device', { exact: true })).toBeVisible();
    await openOwnCard(page, 'Far from the server');
    const card = page.url();
    await page.getByRole('button', { name: 'Check and start' }).click();
    await expect(page.getByRole('button', { name: 'Continue to the bench' })).toBeVisible();
    const run = await openRun(page, { device: 'Kitto Mini', title: 'Pico Harbour' });
    await page.getByRole('button', { name: 'Start recording' }).click();
    await tapSkin(page, '301');
    await expect(lastEntry(page)).toContainText('saved on the server');
    await expect.poll(() => page.evaluate(keptReadings)).toBe(1);
    await server.kill();
    await tapSkin(page, '302');
    await expect(connection(page)).toContainText('waiting to send');
    await page.reload();
    // what the server had is there as well as what it has not
    await expect(connection(page)).toContainText('Server not reached: 1 waiting to send');
    await tapSkin(page, '303');
    await tab(page, 'Entries');
    await expect(page.getByRole('list', { name: 'Entries' }).getByRole('listitem')).toHaveCount(3);
    // from a page that was never open before
    await page.close();
    page = await context.newPage();
    await page.goto('/bench');
    await expect(page.getByText('Offline: showing the last known data.')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('link', { name: /^Pico Harbour on Kitto Mini/ }).click();
    await expect(connection(page)).toContainText('2 waiting to send');
    await expect(page.getByRole('list', { name: 'Latest readings' })).toContainText('30.3°');
    await page.goto('/bench/new');
    await page.getByLabel('Device', { exact: true }).fill('Quill Deck');
    await page.getByLabel('Title', { exact: true }).fill('Night Ferry');
    await page.getByLabel('Title', { exact: true }).blur();
    await page.getByRole('button', { name: 'Continue to the bench' }).click();
    await page.getByRole('button', { name: 'Record “would not start”' }).click();
    await expect(connection(page)).toContainText('waiting to send');
    // the day's next step too: its card and preflight were seen before
    await page.goto(card);
    await page.getByRole('button', { name: 'Check and start' }).click();
    await page.getByRole('radiogroup', { name: 'Case' }).getByRole('radio', { name: 'off' }).click();
    await page.getByRole('button', { name: 'Continue to the bench' }).click();
    await expect(page.getByText(/^For the card Far from the server/)).toBeVisible();
    await page.getByRole('button', { name: 'Continue to the bench' }).click();
    await page.getByRole('button', { name: 'Start recording' }).click();
    const ofCard = page.url().split('/').at(-1)!;
    await expect(connection(page)).toContainText('waiting to send');
    // what was never kept says so, and what to do
    await page.goto('/settings');
    await page.goto('/');
    await expect(page.getByRole('alert')).toContainText('Cannot reach the server');
    await server.start();
    await page.goto(`/bench/${run}`);
    await expect(connection(page)).toHaveText('All sent');
    const readings = typed(await benchOf(page, run)).flatMap((line) => (line.type === 'skin' ? [line] : []));
    expect(readings.map(({ c }) => c)).toEqual([30.1, 30.2, 30.3]);
    const times = readings.map(({ atMs }) => atMs);
    expect(times).toEqual(times.toSorted((a, b) => a - b));
    await page.goto(`/bench/${ofCard}`);
    await expect(connection(page)).toHaveText('All sent');
    const { onCard, preflight } = await runOf(page, ofCard);
    expect(onCard).toMatchObject({ cardName: 'Far from the server' });
    expect(preflight).toMatchObject({ case: 'off' });
    await page.goto('/bench');
    await expect(page.getByText('Offline: showing the last known data.')).toHaveCount(0);
    await context.close();
  });

  test('a day goes on while nobody answers: what happened is noted, the rest laid out anew, and all of it gets there', async ({
    browser,
    server,
  }) => {
    const context = await browser.newContext({
      baseURL: server.address,
      viewport: { width: 390, height: 844 },
      serviceWorkers: 'allow',
    });
    const page = await context.newPage();
    await page.goto('/bench');
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await openOwnCard(page, 'A day in the woods');
    const id = page.url().split('/').at(-1)!;
    const next = page.getByRole('group', { name: 'Next' });
    const name = (await next.getByRole('heading').textContent())!;
    await server.kill();
    await next.getByLabel('Minutes').fill('12');
    await next.getByRole('button', { name: 'Ran over by 12 min' }).click();
    await expect(page.getByText('Ran over by 12 min.')).toBeVisible();
    await expect(next.getByRole('heading')).not.toHaveText(name);
    // its start, its end, and the plan that follows from them
    await expect(
      page.getByText('3 changes of this day are saved on this device and waiting to send.'),
    ).toBeVisible();
    await expect(page.getByText('This plan does not include the latest events.')).toHaveCount(0);
    await page.reload();
    await expect(next.getByRole('heading')).not.toHaveText(name);
    await server.start();
    await expect(page.getByText(/waiting to send/)).toHaveCount(0);
    const { events, plan, planIsOld } = await ask(page, ROUTES.card, { params: { id } });
    expect(events.map(({ kind }) => kind)).toEqual(['started', 'ended']);
    expect(planIsOld).toBe(false);
    expect(plan!.past.map(({ taskId }) => taskId)).toHaveLength(1);
    await context.close();
  });

  test('a run begun and ended while nobody answers is there afterwards', async ({ browser, server }) => {
    const context = await browser.newContext({
      baseURL: server.address,
      viewport: { width: 390, height: 844 },
    });
    const page = await context.newPage();
    await page.goto('/bench');
    await expect(page.getByRole('link', { name: 'Record live' })).toBeVisible();
    await page.getByRole('link', { name: 'Record live' }).click();
    await expect(page.getByLabel('Device', { exact: true })).toBeVisible();
    await server.kill();
    await page.getByLabel('Device', { exact: true }).fill('Quill Deck');
    await page.getByLabel('Title', { exact: true }).fill('Night Ferry');
    await page.getByLabel('Title', { exact: true }).blur();
    await page.getByRole('button', { name: 'Continue to the bench' }).click();
    await page.getByRole('button', { name: 'Start recording' }).click();
    await tap(page, '333');
    await tab(page, 'Run');
    await page.getByRole('button', { name: 'crashed' }).click();
    await expect(connection(page)).toContainText('waiting to send');
    const run = page.url().split('/').at(-1)!;
    await server.start();
    await expect(connection(page)).toHaveText('All sent');
    await expect(page.getByRole('button', { name: 'Show figures' })).toBeEnabled();
    expect(await runOf(page, run)).toMatchObject({
      device: 'Quill Deck',
      figures: { end: { reason: 'crash' }, stamina: { word: 'DNF' }, warmth: { peakC: 33.3 } },
    });
    await context.close();
  });
});

test('a run by hand, with no logger at all: readings, a top-up, an estimate, and what was mistyped put right', async ({
  page,
}) => {
  const run = await openRun(page, { device: 'Kitto Mini', title: 'Pico Harbour' });
  await tap(page, '351');
  await expect(page.getByRole('status', { name: 'Reading due' })).toContainText(
    'back middle: reading before the start',
  );
  await page.getByRole('button', { name: 'Start recording' }).click();
  await expect(page.getByText('No frames yet')).toBeVisible();
  await tap(page, '355');
  await page.getByRole('radio', { name: 'Battery percent' }).click();
  await tap(page, '88');
  await page.getByRole('radio', { name: 'Rate estimated by eye' }).click();
  await tap(page, '40');
  await expect(lastEntry(page)).toContainText('about 40 fps, by eye');
  // the wrong number, taken back at once
  await page.getByRole('radio', { name: 'Battery percent' }).click();
  await tap(page, '8');
  await expect(lastEntry(page)).toContainText('battery 8 %');
  await page.getByRole('button', { name: 'Undo last entry' }).click();
  await expect(lastEntry(page)).toContainText('about 40 fps');
  await page.getByRole('radio', { name: 'Skin temperature' }).click();
  await tap(page, '481');
  await expect(page.getByRole('alert').filter({ hasText: 'stop and put the device down' })).toBeVisible();
  await expectAccessible(page);
  await expectContrastAtNight(page);
  // it was 38.1: corrected in the list
  await tab(page, 'Entries');
  await page.getByRole('button', { name: /^Edit 48\.1/ }).click();
  await page.getByLabel('Value').fill('38.1');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await tab(page, 'Markers');
  await page.getByRole('button', { name: 'Add note' }).click();
  await page.getByLabel('Note', { exact: true }).fill('gulls on the cable');
  await page.getByLabel('Note', { exact: true }).press('Enter');
  await page.getByRole('switch', { name: 'Charging' }).click();
  await page.getByRole('button', { name: 'Marker' }).click();
  await expectAccessible(page);
  await tab(page, 'Run');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'stopped early' }).click();
  await expect(page.getByRole('button', { name: 'Show figures' })).toBeEnabled();
  await page.getByRole('button', { name: 'Show figures' }).click();
  await expect(page.getByText('fps, by eye', { exact: true })).toBeVisible();
  const { figures, entries } = await runOf(page, run);
  expect(figures).toMatchObject({
    pace: { source: 'eye', average: 40 },
    warmth: { peakC: 38.1 },
    end: { reason: 'stopped' },
  });
  expect(figures.caveats).toEqual(expect.arrayContaining(['eye-estimate', 'charged-during']));
  expect(entries.filter(({ line }) => line.type === 'battery')).toHaveLength(1);
  expect(entries.find(({ line }) => line.type === 'span')!.line).toMatchObject({ kind: 'charging' });
});

test('two screens on one run see each other’s entries, and the last word on a line counts', async ({
  page,
  browser,
  server,
}) => {
  const run = await openRun(page, { device: 'Brask Slate 11', title: 'Glass Canyon' });
  await page.getByRole('button', { name: 'Start recording' }).click();
  const context = await browser.newContext({
    baseURL: server.address,
    viewport: { width: 1280, height: 800 },
  });
  const other = await context.newPage();
  await other.goto(`/bench/${run}`);
  await expect(connection(other)).toHaveText('All sent');
  await tap(page, '312');
  const noted = other.getByRole('list', { name: 'Entries' });
  await expect(noted).toContainText('31.2 °C at back by the camera, infrared');
  await expect(noted).toContainText('another screen');
  // by keys on the wide one
  await other.keyboard.type('327');
  await other.keyboard.press('Enter');
  await other.keyboard.press('t');
  await other.keyboard.press('h');
  await tab(page, 'Entries');
  const here = page.getByRole('list', { name: 'Entries' });
  await expect(here).toContainText('32.7 °C');
  await expect(here).toContainText('stutter');
  await expect(here).toContainText('charging on');
  await noted.getByRole('button', { name: /^Delete 31\.2/ }).click();
  await expect(here).not.toContainText('31.2 °C');
  // both at once
  await tab(page, 'Readings');
  await Promise.all([tap(page, '333'), other.keyboard.type('344').then(() => other.keyboard.press('Enter'))]);
  for (const list of [noted]) {
    await expect(list).toContainText('33.3 °C');
    await expect(list).toContainText('34.4 °C');
  }
  await other.keyboard.press('?');
  await expect(other.getByText('Save reading').last()).toBeVisible();
  await other.keyboard.press('Escape');
  await expectAccessible(other);
  await tab(page, 'Run');
  await page.getByRole('button', { name: 'End as planned' }).click();
  await expect(other.getByRole('button', { name: 'Show figures' })).toBeEnabled();
  await context.close();
});

test('sources: a key that works as pasted, nonsense that is told, text from a shell, and a key revoked', async ({
  page,
}) => {
  const run = await openRun(page, { device: 'Velm 4', title: 'Saltmarsh Drift', speed: '60' });
  await tab(page, 'Run');
  await page.getByRole('button', { name: 'Add logger' }).click();
  await page.getByLabel('Name').fill('probe');
  await page.getByRole('button', { name: 'Create key' }).click();
  const key = (await page.getByLabel('Key', { exact: true }).textContent())!;
  await page.getByRole('button', { name: 'Start recording' }).click();
  const send = async (seq: number, data: string): Promise<number> =>
    (
      await page.request.post(`/api/live?seq=${seq}`, { data, headers: { authorization: `Bearer ${key}` } })
    ).status();
  // the start may still be on its way: the same batch is sent until it is taken
  await expect
    .poll(() =>
      send(0, '{"type":"skin","atMs":1000,"spot":"back middle","c":31.5,"by":"contact probe"}\nfever!'),
    )
    .toBe(200);
  const sources = page.getByRole('list', { name: 'Loggers' });
  await expect(sources).toContainText('probe');
  await sources.getByRole('button', { name: /1 line rejected/ }).click();
  await expect(sources).toContainText('Batch 0, line 2: it is not a JSON object.');
  await page.getByRole('button', { name: 'Paste shell text' }).click();
  await page
    .getByRole('textbox', { name: 'Shell output' })
    .fill('level: 64\nstatus: 3\ncurrent_now: -1100000\nvoltage_now: 4000000\nhello');
  await expect(page.getByText('Found: battery 64 %, 4.4 W. 1 line ignored.')).toBeVisible();
  await page.getByRole('button', { name: 'Add readings' }).click();
  await expect(sources).toContainText('Shell output');
  const readings = page.getByRole('list', { name: 'Latest readings' });
  const battery = page.getByRole('list', { name: 'Battery and power' });
  await expect(battery).toContainText('64 %');
  await expect(battery).toContainText('4.4 W');
  await expect(readings).toContainText('31.5°');
  await page.getByRole('button', { name: 'Revoke the key of probe' }).click();
  await expect(sources).toContainText('key revoked');
  expect(await send(1, '')).toBe(403);
  await page.getByRole('button', { name: 'would not start' }).click();
  await expect(page.getByRole('button', { name: 'Show figures' })).toBeEnabled();
  expect((await runOf(page, run)).figures.stamina.word).toBe('DNS');
});

test('from the card to the bench, and after it to the cool-down watch', async ({ page }) => {
  await openOwnCard(page, 'From card to bench');
  await page.getByRole('button', { name: 'Check and start' }).click();
  await page.getByRole('button', { name: 'Continue to the bench' }).click();
  await expect(page.getByText(/^For the card From card to bench/)).toBeVisible();
  const device = await page.getByLabel('Device', { exact: true }).inputValue();
  await page.getByRole('button', { name: 'Continue to the bench' }).click();
  await page.getByRole('button', { name: 'Start recording' }).click();
  const run = page.url().split('/').at(-1)!;
  await tap(page, '365');
  await tab(page, 'Run');
  await page.getByRole('button', { name: 'End as planned' }).click();
  await expect(page.getByRole('button', { name: 'Show figures' })).toBeEnabled();
  expect((await runOf(page, run)).onCard).toMatchObject({ cardName: 'From card to bench' });
  await page.getByRole('button', { name: 'Track cool-down' }).click();
  const watch = page.getByRole('group', { name: `${device}: cool-down` });
  await expect(watch).toContainText('Last reading 36.5 °C');
  // what it cooled like before tells when
  await expect(watch).toContainText(/\d\d:\d\d/);
  await watch.getByLabel(/^Skin temperature now/).fill('33.2');
  await watch.getByRole('button', { name: /^Save the reading/ }).click();
  await expect(watch).toContainText('2 readings');
  await watch.getByLabel(/^Skin temperature now/).fill('20.5');
  await watch.getByRole('button', { name: /^Save the reading/ }).click();
  await expect(watch).toContainText('target reached');
  await expectAccessible(page);
  // another one beside it
  await page.getByRole('button', { name: 'Track a device' }).click();
  await page.getByRole('combobox', { name: 'Device' }).fill('Oru Fold');
  await page.getByRole('combobox', { name: 'Device' }).blur();
  await page.getByRole('button', { name: 'Start tracking', exact: true }).click();
  await expect(page.getByRole('group', { name: 'Oru Fold: cool-down' })).toContainText('No readings yet');
  for (const name of [device, 'Oru Fold'])
    await page.getByRole('button', { name: `Stop tracking ${name}` }).click();
  await expect(page.getByText('No device is being tracked.')).toBeVisible();
  // the day of the card goes on
  await page.goto(`/bench/${run}`);
  await page.getByRole('link', { name: 'Next step of the card' }).click();
  await expect(page.getByRole('group', { name: 'Next' })).toBeVisible();
});
