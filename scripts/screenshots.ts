import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { launchBrowser, settled } from '@hastig/headless';
import type { Page } from 'playwright-core';
import { rootFolder } from './paths';
import { startThrowaway } from './throwaway';

/** Takes one picture of each main view, from the demo, for the README. */

const folder = join(rootFolder, 'docs/screenshots');
const sizes = { wide: { width: 1280, height: 800 }, phone: { width: 390, height: 844 } };

async function walk(page: Page, address: string, size: keyof typeof sizes, views: readonly string[]): Promise<void> {
  const shot = async (view: string): Promise<void> => {
    // What is drawn later says so.
    await page.waitForFunction(() => !document.querySelector('[aria-busy=true]'));
    await settled(page);
    if (views.includes(view)) await page.screenshot({ path: join(folder, `${size}-${view}.png`) });
  };
  await page.goto(address);
  await page.getByRole('link', { name: 'Open Marble film' }).first().waitFor();
  if (views.includes('beats')) {
    await page.getByRole('link', { name: 'Open Marbles on the beat' }).first().click();
    await page.getByRole('button', { name: 'Timeline', exact: true }).click();
    await page.getByRole('link', { name: 'Beats', exact: true }).click();
    await page
      .getByText(/64 markers, every 0.500 s/)
      .first()
      .waitFor();
    await shot('beats');
    await page.goto(address);
    await page.getByRole('link', { name: 'Open Marble film' }).first().waitFor();
  }
  await shot('projects');
  await page.getByRole('link', { name: 'Open Marble film' }).first().click();
  // Those that are in sight.
  const seen =
    size === 'wide' ? ['The drop', 'The bowl', 'The steps', 'The trough', 'Hand-held'] : ['The drop', 'The bowl'];
  for (const clip of seen) await page.getByRole('img', { name: `A frame of ${clip}.mp4` }).waitFor();
  await shot('footage');
  await page.getByRole('link', { name: 'Open The bowl.mp4' }).click();
  await page.getByTestId('contact-sheet').waitFor();
  await shot('source');
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await page.getByRole('button', { name: 'Timeline', exact: true }).click();
  await page.getByRole('button', { name: /: The bowl, from/ }).click();
  await page.getByTestId('lanes').waitFor();
  await shot('timeline');
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await page.getByRole('link', { name: 'Retime The drop' }).click();
  await page.getByRole('slider', { name: 'Part 3 of 5' }).focus();
  const readout = page.getByRole('group', { name: 'Readout' });
  await readout.getByRole('button', { name: /^Output:/ }).click();
  await page.getByRole('textbox', { name: 'Output' }).fill('62f');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Source frame: 0045' }).waitFor();
  await shot('pace');
  await page.getByRole('button', { name: 'Ramp', exact: true }).click();
  await shot('ramp');
  await page.getByRole('button', { name: 'Discard' }).click();
  if (size === 'phone') {
    await page.getByRole('button', { name: 'Ledger' }).click();
    await shot('ledger');
  }
  await page.getByRole('button', { name: 'Positions' }).click();
  await shot('positions');
  await page.getByRole('button', { name: 'Speed curve' }).click();
  await page.getByRole('button', { name: 'More' }).click();
  await shot('more');
  await page.getByRole('dialog').getByRole('button', { name: 'Cadence' }).click();
  await shot('guide');
  await page.getByRole('button', { name: 'Close' }).click();
  if (views.includes('sound')) {
    await page.getByRole('link', { name: 'Sound', exact: true }).click();
    await page.locator('[data-testid=sound-wave][aria-busy=false]').waitFor();
    await shot('sound');
  }
  if (views.includes('picture')) {
    await page.getByRole('link', { name: 'Picture', exact: true }).click();
    await page.getByRole('radio', { name: 'Compensated' }).click();
    await page.getByRole('radio', { name: '180°', exact: true }).click();
    await page.getByRole('button', { name: /^Slow parts compensated, shutter 180°/ }).waitFor();
    await page.getByRole('button', { name: 'Trail', exact: true }).click();
    await page.getByRole('radio', { name: 'All', exact: true }).click();
    await page.getByRole('button', { name: 'Apply' }).click();
    await page.getByRole('button', { name: /^Trail: 5 copies/ }).waitFor();
    await shot('picture');
  }
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  await page.getByRole('button', { name: 'Render', exact: true }).waitFor();
  await shot('output');
  if (views.includes('compare')) {
    await page.getByRole('button', { name: 'Versions and compare' }).click();
    await page.getByRole('button', { name: 'New version' }).click();
    await page.getByRole('list', { name: 'Versions' }).waitFor();
    await page
      .getByRole('radiogroup', { name: 'B', exact: true })
      .getByRole('radio', { name: 'All frames averaged' })
      .click();
    await shot('compare');
  }
}

await mkdir(folder, { recursive: true });
const app = await startThrowaway('shots');
const browser = await launchBrowser();
try {
  for (const [size, viewport] of Object.entries(sizes) as [keyof typeof sizes, (typeof sizes)['phone']][]) {
    const page = await browser.newPage({ viewport });
    await walk(
      page,
      app.address,
      size,
      size === 'phone'
        ? [
            'projects',
            'footage',
            'source',
            'sound',
            'timeline',
            'pace',
            'ramp',
            'ledger',
            'positions',
            'more',
            'guide',
            'output',
            'picture',
            'beats',
            'compare',
          ]
        : ['footage', 'timeline', 'pace', 'beats'],
    );
    await page.close();
  }
} finally {
  await browser.close();
  await app.stop();
}
