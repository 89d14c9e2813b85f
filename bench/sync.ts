import type { StoredProject } from '@hastig/contract';
import { launchBrowser } from '@hastig/headless';
import type { Page } from 'playwright-core';
import { startThrowaway } from '../scripts/throwaway';
import { line } from './line';

/** What a play-through came to, as the stage leaves it in the browser's own timeline. */
interface Played {
  shown: number;
  skipped: number;
  sound?: { median: number; worst: number; pictures: number };
}

/** Milliseconds from the hand on the throttle to the next picture that has its speed. */
async function handToPicture(page: Page): Promise<number[]> {
  await page.getByRole('button', { name: 'First frame' }).click();
  await page.getByRole('button', { name: 'By hand' }).click();
  await page.getByRole('button', { name: 'Record' }).click();
  const throttle = page.getByRole('slider', { name: 'Throttle' });
  const box = (await throttle.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 20);
  await page.mouse.down();
  for (let step = 0; step < 60; step++) {
    await page.mouse.move(box.x + box.width * (0.5 + 0.3 * Math.sin(step / 12)), box.y + 20);
    await page.waitForTimeout(30);
  }
  await page.mouse.up();
  // Where the clip has ended meanwhile it has stopped by itself.
  const stop = page.getByRole('button', { name: 'Stop' });
  if (await stop.isVisible()) await stop.click();
  const [asked, seen] = await page.evaluate(() =>
    ['hastig:driven', 'hastig:driven-seen'].map((name) =>
      performance.getEntriesByName(name).map(({ startTime }) => startTime),
    ),
  );
  return asked!.flatMap((moved) => {
    const next = seen!.find((time) => time >= moved);
    return next === undefined ? [] : [next - moved];
  });
}

/** Pictures beside the sound they belong to over a minute of play with a click on each beat; and the hand beside the picture. */
export async function benchSync(): Promise<void> {
  const app = await startThrowaway('bench');
  const browser = await launchBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const made = (await (await fetch(`${app.address}/api/demo/beats`, { method: 'POST' })).json()) as StoredProject;
    await page.goto(`${app.address}/project/${made.id}/beats`);
    await page.getByText(/64 markers, every 0.500 s/).waitFor();
    await page.getByRole('button', { name: 'Click on markers' }).click();
    for (const round of [1, 2]) {
      await page.getByRole('button', { name: 'First frame' }).click();
      await page.getByRole('button', { name: 'Play', exact: true }).click();
      await page.getByRole('button', { name: 'Pause', exact: true }).waitFor();
      await page.getByRole('button', { name: 'Play', exact: true }).waitFor({ timeout: 90_000 });
      const { sound, shown, skipped } = await page.evaluate(
        () => (performance.getEntriesByName('hastig:played').at(-1) as PerformanceMark).detail as Played,
      );
      line(
        `33 s of music and picture, round ${round}`,
        sound
          ? `picture behind its sound: median ${sound.median.toFixed(1)} ms, worst ${sound.worst.toFixed(1)} (a frame lasts 41.7); ${shown} shown, ${skipped} skipped`
          : 'nothing was heard',
      );
    }
    const waits = (await handToPicture(page)).sort((a, b) => a - b);
    line(
      'hand to picture',
      `median ${waits[waits.length >> 1]!.toFixed(0)} ms, worst ${waits.at(-1)!.toFixed(0)} of ${waits.length} (speeds are shown every 60 ms)`,
    );
  } finally {
    await browser.close();
    await app.stop();
  }
}
