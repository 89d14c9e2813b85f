import type { Punctuality } from '@hastig/engine';
import { settled } from '@hastig/headless';
import type { Page } from 'playwright-core';

/** Resolves when an open timeline has all that is seen of it. */
export async function timelineStands(page: Page): Promise<void> {
  await page.getByRole('group', { name: 'Tracks' }).getByRole('button').first().waitFor();
  await settled(page);
}

/** Plays what lies on an open timeline to its end. */
export async function playThrough(page: Page): Promise<Punctuality> {
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.getByRole('button', { name: 'Pause', exact: true }).waitFor();
  await page.getByRole('button', { name: 'Play', exact: true }).waitFor({ timeout: 120_000 });
  return page.evaluate(() => {
    const mark = performance.getEntriesByName('hastig:played').at(-1) as PerformanceMark;
    return mark.detail as Punctuality;
  });
}

/** How much of what was played came in time. */
export function told({ shown, skipped, worstDelay }: Punctuality): string {
  const inTime = (100 * shown) / (shown + skipped);
  return `${shown} shown, ${skipped} skipped (${inTime.toFixed(1)} % in time), worst delay ${worstDelay.toFixed(0)} ms`;
}

export const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(0)} MB`;
