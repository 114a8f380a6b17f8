import type { Browser } from '@playwright/test';
import type { Figure } from './attack';

const VISITS = 7;
/** Afterwards the browser fetches the rest in the background, so that the bench opens without a network; ms. */
const BACKGROUND_MS = 40_000;

/** A first visit to the list of runs, by a browser that has nothing of it: what is sent, and when something is seen. */
export async function measureLoad(
  browser: Browser,
  address: string,
  say: (figure: Figure) => void,
): Promise<void> {
  const visits = [];
  for (let i = 0; i < VISITS; i++) visits.push(await visit(browser, address));
  const { bytes, requests } = visits[0]!;
  say({
    what: 'the first visit to Runs, sent all told',
    figure: `${kb(bytes)} in ${requests} answers (aim: at most 450 kB)`,
  });
  say({
    what: '  first content, in the middle of its visits',
    figure: `${middle(visits.map((one) => one.contentMs))} (aim: at most 1,500 ms)`,
  });
  say({ what: '  the first run of the list', figure: middle(visits.map((one) => one.runMs)) });
  const later = await visit(browser, address, BACKGROUND_MS);
  say({
    what: '  later, in the background, for a bench that opens without a network',
    figure: `${kb(later.bytes - bytes)} more`,
  });
}

interface Visit {
  bytes: number;
  requests: number;
  contentMs: number;
  runMs: number;
}

async function visit(browser: Browser, address: string, stayMs = 0): Promise<Visit> {
  const context = await browser.newContext({ baseURL: address, viewport: { width: 390, height: 844 } });
  try {
    const page = await context.newPage();
    const network = await context.newCDPSession(page);
    await network.send('Network.enable');
    let bytes = 0;
    let requests = 0;
    network.on('Network.loadingFinished', ({ encodedDataLength }) => {
      bytes += encodedDataLength;
      requests++;
    });
    const started = performance.now();
    await page.goto('/');
    await page.getByRole('link', { name: / on / }).first().waitFor();
    const runMs = performance.now() - started;
    await page.evaluate(() => document.fonts.ready.then(() => undefined));
    const contentMs = await page.evaluate(
      () => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? NaN,
    );
    await page.waitForTimeout(stayMs);
    return { bytes, requests, contentMs, runMs };
  } finally {
    await context.close();
  }
}

const middle = (all: number[]): string => `${all.sort((a, b) => a - b)[all.length >> 1]!.toFixed(0)} ms`;
const kb = (bytes: number): string => `${(bytes / 1000).toFixed(0)} kB`;
