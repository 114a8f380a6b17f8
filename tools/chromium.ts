import { ensureDebianPackage, exists } from './packages';

/** Debian's browser, for the journeys and the pictures. */
export const CHROMIUM = '/usr/bin/chromium';

/** The same as in e2e/playwright.config.ts, which may not import from here. */
export const CHROMIUM_FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

export const ensureChromium = (): Promise<void> => ensureDebianPackage('chromium', () => exists(CHROMIUM));
