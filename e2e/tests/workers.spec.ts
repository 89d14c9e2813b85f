import type { Page } from '@playwright/test';
import { expect, openDemoFootage, readout, test } from '../support/app';
import { openDemoTimeline } from '../support/timeline';

declare global {
  interface Window {
    /** Workers of the engine that were started, the earliest first. */
    engineWorkers: Worker[];
  }
}

test.beforeEach(async ({ page }) => {
  await page.addInitScript(() => {
    window.engineWorkers = [];
    const Native = Worker;
    window.Worker = class extends Native {
      constructor(...init: ConstructorParameters<typeof Worker>) {
        super(...init);
        window.engineWorkers.push(this);
      }
    };
  });
});

// As a browser does that runs out of memory: the worker is gone, and its page is told of an error.
async function crash(page: Page, which: (workers: number) => number): Promise<void> {
  const workers = await page.evaluate(() => window.engineWorkers.length);
  await page.evaluate((number) => {
    const worker = window.engineWorkers[number]!;
    worker.terminate();
    worker.dispatchEvent(new ErrorEvent('error'));
  }, which(workers));
}

test('a preview whose worker breaks down is told, started again, and shows and plays as before', async ({
  page,
  app,
}) => {
  await openDemoTimeline(page, app);
  const picture = page.getByRole('img', { name: /^Picture of/ });
  await expect(picture).toHaveAttribute('aria-busy', 'false');
  const before = await page.evaluate(() => window.engineWorkers.length);
  // The stage's two are the first to be started with the sheet of small pictures among them; each in turn.
  for (let number = 0; number < before; number++) await crash(page, () => number);
  await expect(page.getByRole('alert').first()).toContainText('crashed');
  await expect(picture).toHaveAttribute('aria-busy', 'false');
  const now = readout(page, 'Output');
  const at = await now.textContent();
  await page.getByRole('button', { name: 'Next frame' }).click();
  await expect(now).not.toHaveText(at!);
  await expect(picture).toHaveAttribute('aria-busy', 'false');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.getByRole('button', { name: 'Pause' }).click();
});

test('a render whose worker breaks down is told, and the next one is made', async ({ page, app }) => {
  await openDemoTimeline(page, app);
  await page.getByRole('link', { name: 'Output' }).click();
  const render = page.getByRole('button', { name: /^Render/ });
  for (const which of [1, 2]) {
    await render.click();
    await expect(page.getByRole('progressbar')).toBeVisible();
    // Its pictures' worker, and the one that makes its sound.
    await crash(page, (workers) => workers - which);
    await expect(page.getByText(/The render failed: (The render crashed|Making the sound crashed)/)).toBeVisible();
  }
  await render.click();
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.getByRole('button', { name: /^Cancel/ }).click();
  await expect(page.getByText('Render cancelled')).toBeVisible();
});

test('preparing a file that breaks down is told, and what comes after it in the background is made', async ({
  page,
  app,
}) => {
  await openDemoFootage(page, app);
  await page.getByRole('link', { name: 'Open The bowl.mp4' }).click();
  // Small pictures have workers of their own, which may start meanwhile: the next one is the proxy's.
  await expect(page.getByTestId('contact-sheet')).toBeVisible();
  const before = await page.evaluate(() => window.engineWorkers.length);
  await page.getByRole('button', { name: 'Make proxy' }).click();
  await expect(page.getByRole('progressbar')).toBeVisible();
  // Whichever of those that are started from here on it is.
  await expect(async () => {
    const now = await page.evaluate(() => window.engineWorkers.length);
    for (let number = before; number < now; number++) await crash(page, () => number);
    await expect(page.getByText(/crashed\. Try again/)).toBeVisible({ timeout: 1000 });
  }).toPass();
});
