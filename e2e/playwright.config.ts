import { defineConfig } from '@playwright/test';

/** Journeys through the real interface, on the server and the database of a real run. */
export default defineConfig({
  testDir: '.',
  // a server and a database for each worker (test.ts); journeys of one file follow one another
  fullyParallel: false,
  retries: 0,
  // limits for what hangs, not for what is slow: machines are shared
  timeout: 240_000,
  expect: { timeout: 60_000 },
  reporter: [['list'], ['json', { outputFile: process.env['PACE_E2E_REPORT'] ?? 'test-results/e2e.json' }]],
  use: {
    // what never comes is told before the whole journey’s time is over
    actionTimeout: 60_000,
    viewport: { width: 390, height: 844 },
    colorScheme: 'light',
    // what is shown comes from the server, except where a journey takes it away
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
