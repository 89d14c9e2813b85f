import type { Page } from '@playwright/test';
import { expect, makeDemo, openDemoFootage, readout, test, typeReadout } from '../support/app';
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
    await expect(
      page.getByText(/The render of .* failed: (The render crashed|Making the sound crashed)/),
    ).toBeVisible();
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

/** In an engine's worker: tells of each worker it starts for making pictures, and ends one as a browser does that runs out of memory. */
function watchMakers(): void {
  const Native = self.Worker;
  const channel = new BroadcastChannel('makers');
  self.Worker = class extends Native {
    constructor(...init: ConstructorParameters<typeof Worker>) {
      super(...init);
      channel.addEventListener('message', ({ data }) => {
        if (data !== 'crash') return;
        this.terminate();
        this.dispatchEvent(new ErrorEvent('error'));
        channel.postMessage('crashed');
      });
    }
  };
}

test('what was made between two frames is made anew where its worker breaks down', async ({ page, app }) => {
  await page.route('**/engine/engine.worker.js', async (route) => {
    const response = await route.fetch();
    await route.fulfill({ response, body: `(${watchMakers.toString()})();\n${await response.text()}` });
  });
  const { id, document } = await makeDemo(app);
  const { id: clipId } = document.clips.find(({ name }) => name === 'The steps')!;
  await page.goto(`${app.address}/project/${id}/clip/${clipId}/picture`);
  await typeReadout(page, 'Output', '41f');
  await typeReadout(page, 'Speed', '5%');
  const crash = (): Promise<void> =>
    page.evaluate(
      () =>
        new Promise((resolve) => {
          const channel = new BroadcastChannel('makers');
          channel.onmessage = ({ data }) => data === 'crashed' && resolve();
          channel.postMessage('crash');
        }),
    );
  const took = page.getByText(/^This picture took \d+ ms on this device\.$/);
  await page.getByRole('radio', { name: 'Compensated' }).click();
  await expect(took).toBeVisible();
  // More often than any is started anew: from then on it is made without them.
  for (const frame of [43, 47, 53, 59, 61]) {
    await typeReadout(page, 'Output', `${frame}f`);
    if (frame < 59) await crash();
    await expect(page.getByRole('img', { name: /^Picture of/ })).toHaveAttribute('aria-busy', 'false');
    await expect(took).toBeVisible();
  }
  await expect(page.getByRole('alert')).toHaveCount(0);
});
