import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import type { AxeResults, RunOptions } from 'axe-core';

const axe = readFile(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** The Web Content Accessibility Guidelines up to 2.2, levels A and AA, and what is good practice besides. */
const guidelines: RunOptions = {
  runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
  // Still an experiment of its makers: it wants the words in sight in the order in which they lie, and a number lies above
  // what it is called.
  rules: { 'label-content-name-mismatch': { enabled: false } },
};

/** What another theme may break. */
const contrast: RunOptions = { runOnly: { type: 'rule', values: ['color-contrast'] } };

/**
 * What of a page, or of the parts of it that a selector finds, breaks the guidelines, each with the element it is about; by `axe-core`.
 *
 * Grips of keys, threads and moments may lie closer together than 24 pixels: success criterion 2.5.8 excepts targets whose work can
 * be done by another control, and every grip's can in the ledger and the sheets.
 */
export async function accessFaults(page: Page, of: 'guidelines' | 'contrast', part?: string): Promise<string[]> {
  await page.evaluate(await axe);
  const options = { ...(of === 'contrast' ? contrast : guidelines), resultTypes: ['violations'] };
  const where = part ? `{ include: [${JSON.stringify(part)}] }` : 'document';
  const { violations } = await page.evaluate<AxeResults>(`axe.run(${where}, ${JSON.stringify(options)})`);
  return violations.flatMap(({ id, nodes }) =>
    nodes
      .filter(({ html }) => id !== 'target-size' || !/data-(grab|thread|moment)=/.test(html))
      .map(({ html }) => `${id}: ${html.slice(0, 160)}`),
  );
}
