import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** What WCAG 2.2 AA asks of the page as it stands, as far as a program can tell. */
export async function expectAccessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(
    violations.map(
      (violation) =>
        `${violation.id}: ${violation.nodes.map((node) => `${node.html.replace(/ style="[^"]*"/g, '').slice(0, 160)} (${node.failureSummary?.slice(0, 200)})`).join(' | ')}`,
    ),
  ).toEqual([]);
}
