import type { Page } from 'playwright-core';

/** Resolves when nothing on a page says that it is still being made: pictures that are decoded, small ones too. */
export async function settled(page: Page): Promise<void> {
  await page.locator('html:not(:has([aria-busy=true]))').waitFor({ state: 'attached' });
}
