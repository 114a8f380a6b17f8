import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** @throws where the checks found something, with the elements it is about */
async function expectNothing(checks: AxeBuilder): Promise<void> {
  // no page of ours has frames: one question is enough, on the page itself
  const { violations } = await checks.setLegacyMode().analyze();
  expect(
    violations.map(
      (violation) =>
        `${violation.id}: ${violation.nodes.map((node) => `${node.html.replace(/ style="[^"]*"/g, '').slice(0, 160)} (${node.failureSummary?.slice(0, 200)})`).join(' | ')}`,
    ),
  ).toEqual([]);
}

/** What WCAG 2.2 AA asks of the page as it stands, as far as a program can tell. */
export const expectAccessible = (page: Page): Promise<void> =>
  expectNothing(new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']));

/** In the browser: the colour on which the main part of the page stands. */
function paper(): string {
  const CLEAR = 'rgba(0, 0, 0, 0)';
  let element = document.querySelector('[role="main"], main');
  while (element && getComputedStyle(element).backgroundColor === CLEAR) element = element.parentElement;
  return element ? getComputedStyle(element).backgroundColor : CLEAR;
}

/** That the page’s words stand out in both themes; all else is the same in them. It is left as it was. */
export async function expectContrastAtNight(page: Page): Promise<void> {
  const day = await page.evaluate(paper);
  await page.emulateMedia({ colorScheme: 'dark' });
  await expect.poll(() => page.evaluate(paper)).not.toBe(day);
  await expectNothing(new AxeBuilder({ page }).withRules(['color-contrast']));
  await page.emulateMedia({ colorScheme: 'light' });
  await expect.poll(() => page.evaluate(paper)).toBe(day);
}
