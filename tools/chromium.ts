import { ensureDebianPackage, exists } from './packages';

/** Debian's browser without a window, for the journeys and the pictures: it opens a page with half the work of the one with windows. */
export const CHROMIUM = '/usr/bin/chromium-headless-shell';

/** The same as in e2e/playwright.config.ts, which may not import from here. */
export const CHROMIUM_FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

export const ensureChromium = (): Promise<void> =>
  ensureDebianPackage('chromium-headless-shell', () => exists(CHROMIUM));
