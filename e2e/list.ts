import type { Page } from '@playwright/test';

/** Narrows the list of runs to what is looked for: other journeys add runs, and its first page holds thirty. */
export async function lookFor(page: Page, words: string): Promise<void> {
  await page.getByRole('searchbox').or(page.getByLabel('Search runs by device or title')).first().fill(words);
}
