import type { Page } from 'playwright-core';

/** What a drag came to: animation frames a second, and the longest task of the page in milliseconds (0: none over 50). */
export interface DragFigures {
  frames: number;
  longestTask: number;
}

// As text: a function would be sent with the helpers its translation refers to, which the page does not have.
const watchFrames = `(() => {
  const watch = (window.hastigWatch = { started: performance.now(), frames: 0, longest: 0 });
  new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) watch.longest = Math.max(watch.longest, duration);
  }).observe({ type: 'longtask' });
  requestAnimationFrame(function tick() {
    watch.frames++;
    requestAnimationFrame(tick);
  });
})()`;
const watched = `({
  frames: (window.hastigWatch.frames * 1000) / (performance.now() - window.hastigWatch.started),
  longestTask: window.hastigWatch.longest,
})`;

/** Watches the page's tasks. @returns milliseconds of the longest since, when asked (0: none over 50) */
export async function watchTasks(page: Page): Promise<() => Promise<number>> {
  await page.evaluate(watchFrames);
  return async () => (await page.evaluate<DragFigures>(watched)).longestTask;
}

/** Drags what lies at a place to and fro by so many pixels, and watches the page meanwhile. */
export async function watchDrag(page: Page, x: number, y: number, reach: number): Promise<DragFigures> {
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.evaluate(watchFrames);
  for (let step = 0; step < 150; step++) await page.mouse.move(x + reach * Math.sin(step / 8), y);
  const figures = await page.evaluate<DragFigures>(watched);
  await page.mouse.up();
  return figures;
}

/**
 * Watches a page for the next key that is pressed.
 *
 * @returns what waits for the milliseconds from the key to the next paint, as the browser tells them (W3C Event Timing), in eights; 0
 *   for less than 16, of which it tells nothing
 */
export async function watchPaint(page: Page): Promise<() => Promise<number>> {
  await page.evaluate(() => {
    const kept = globalThis as { painted?: Promise<number> };
    const since = performance.now();
    kept.painted = new Promise((resolve) => {
      new PerformanceObserver((list, observer) => {
        const [key] = list.getEntriesByName('keydown').filter(({ startTime }) => startTime >= since);
        if (!key) return;
        observer.disconnect();
        resolve(key.duration);
      }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
      setTimeout(() => resolve(0), 3000);
    });
  });
  return () => page.evaluate(() => (globalThis as { painted?: Promise<number> }).painted!);
}
