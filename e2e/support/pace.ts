import type { Locator, Page } from '@playwright/test';
import { expect, startAction } from './app';

/** Starts one of Pace's actions: from the bar, or from behind “More”. */
export const paceAction = (page: Page, label: string): Promise<void> => startAction(page, 'Pace', label);

/** What to fill in: texts by field, and options to choose. */
export interface Filled {
  fill?: Record<string, string>;
  choose?: string[];
}

/** Opens an action's sheet and fills it in. */
export async function openSheet(page: Page, label: string, { fill = {}, choose = [] }: Filled = {}): Promise<Locator> {
  await paceAction(page, label);
  const sheet = page.getByRole('dialog');
  for (const option of choose) await sheet.getByRole('radio', { name: option, exact: true }).first().click();
  for (const [field, text] of Object.entries(fill)) {
    await sheet.getByRole('textbox', { name: field, exact: true }).fill(text);
  }
  return sheet;
}

/** Opens an action's sheet, fills it in and applies it. */
export async function applySheet(page: Page, label: string, filled: Filled = {}): Promise<void> {
  const sheet = await openSheet(page, label, filled);
  await expect(sheet.getByRole('alert')).toHaveCount(0);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await expect(sheet).toBeHidden();
}

/** Waits until the text of the entry that has the keyboard is selected, so that typing replaces it. */
export async function allSelected(page: Page): Promise<void> {
  await expect.poll(() => page.evaluate(() => getSelection()?.toString())).not.toBe('');
}

/** Undoes the last step, which must be this one. */
export async function undo(page: Page, step: string): Promise<void> {
  await page.getByRole('button', { name: `Undo: ${step}`, exact: true }).click();
}

/** The values of all handles in the speed curve, from left to right. */
export function handles(page: Page): Promise<(string | null)[]> {
  return page
    .getByRole('group', { name: 'Speed curve' })
    .getByRole('slider')
    .evaluateAll((all) => all.map((one) => one.getAttribute('aria-valuetext')));
}

/** The picture frame that the clip ends on. */
export async function toTheEnd(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Last frame' }).click();
}
