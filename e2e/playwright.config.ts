import { defineConfig } from '@playwright/test';

/** Journeys through the real interface, on the server and the database of a real run. */
export default defineConfig({
  testDir: '.',
  // each journey has a server and a database of its own (test.ts)
  fullyParallel: true,
  // what a failed one leaves: its trace, the last picture, what its server said
  outputDir: process.env['PACE_E2E_FAILED'] ?? 'test-results',
  // one that fails is played again with a trace, which costs a sixth of the time; it has failed all the same (tools/test)
  retries: 1,
  // limits for what hangs, not for what is slow: machines are shared
  timeout: 240_000,
  expect: { timeout: 60_000 },
  reporter: [['list'], ['json', { outputFile: process.env['PACE_E2E_REPORT'] ?? 'test-results/e2e.json' }]],
  use: {
    // what never comes is told before the whole journey’s time is over
    actionTimeout: 60_000,
    screenshot: 'only-on-failure',
    trace: 'on-first-retry',
    viewport: { width: 390, height: 844 },
    colorScheme: 'light',
    // what is shown comes from the server, except where a journey takes it away
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
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
