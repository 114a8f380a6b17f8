import { expect, test as base } from '@playwright/test';

/** Journeys in which the browser finds nothing that the server's policy forbids to run. */
export const test = base.extend<{ withinPolicy: void }>({
  withinPolicy: [
    async ({ page }, use) => {
      const refused: string[] = [];
      page.on('console', (message) => {
        if (/Content.Security.Policy/i.test(message.text())) refused.push(message.text());
      });
      await use();
      expect(refused).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };
