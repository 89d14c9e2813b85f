import type { PatchOperation, StoredProject } from '@hastig/contract';
import { constantSpan, rampSpan } from '@hastig/core';
import { launchBrowser } from '@hastig/headless';
import type { Page } from 'playwright-core';
import { startThrowaway } from '../scripts/throwaway';

/** What one play-through came to, and what the machine gave at that time. */
export interface PreviewFigures {
  shown: number;
  skipped: number;
  /** Milliseconds. */
  worstDelay: number;
  /** Animation frames of an empty page in one second just before: the reference, 60 on a machine that is free. */
  emptyPage: number;
  /** Milliseconds of the median and the slowest drawing of the curve. */
  curve: { median: number; slowest: number };
  /** While a bead is dragged: animation frames a second, and the longest task of the page in milliseconds (0: none over 50). */
  drag: { frames: number; longestTask: number };
}

const spans = [
  constantSpan(1, 20),
  rampSpan(1, 4, 15),
  constantSpan(4, 16),
  rampSpan(4, -2, 20),
  constantSpan(-2, 30),
  rampSpan(-2, 0.5, 20),
  constantSpan(0, 10),
  constantSpan(0.5, 30),
];

// As text: a function would be sent with the helpers its translation refers to, which the page does not have.
const countAnimationFrames = `new Promise((resolve) => {
  const started = performance.now();
  let frames = 0;
  requestAnimationFrame(function tick() {
    frames++;
    if (performance.now() - started < 1000) requestAnimationFrame(tick);
    else resolve(frames);
  });
})`;

async function animationFrames(page: Page): Promise<number> {
  await page.goto('about:blank');
  return page.evaluate<number>(countAnimationFrames);
}

// Watches the page while a bead is dragged. As text, like the other.
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

async function dragBead(page: Page): Promise<PreviewFigures['drag']> {
  const bead = (await page.getByRole('slider', { name: /^Ramp 2 of/ }).boundingBox())!;
  const [x, y] = [bead.x + bead.width / 2, bead.y + bead.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.evaluate(watchFrames);
  for (let step = 0; step < 150; step++) await page.mouse.move(x + 12 * Math.sin(step / 8), y);
  const figures = await page.evaluate<PreviewFigures['drag']>(watched);
  await page.mouse.up();
  return figures;
}

async function play(page: Page, address: string): Promise<PreviewFigures> {
  const emptyPage = await animationFrames(page);
  const made = (await (await fetch(`${address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
  const clip = made.document.clips.findIndex(({ id }) => id === 'clip-drop');
  const patch: PatchOperation[] = [
    { op: 'replace', path: '/sequence/rate', value: { num: 30, den: 1 } },
    { op: 'replace', path: `/clips/${clip}/timing`, value: { start: 0, spans } },
  ];
  const headers = { 'Content-Type': 'application/json' };
  await fetch(`${address}/api/projects/${made.id}`, {
    method: 'PATCH',
    headers,
    body: JSON.stringify({ revision: 1, patch }),
  });
  await page.goto(`${address}/project/${made.id}/clip/clip-drop/pace`);
  await page.getByRole('slider').first().waitFor();
  await page.getByRole('button', { name: 'Play' }).click();
  await page.getByRole('button', { name: 'Pause' }).waitFor();
  await page.getByRole('button', { name: 'Play' }).waitFor();
  const box = (await page.getByTestId('curve').boundingBox())!;
  await page.mouse.move(box.x + 150, box.y + 90);
  for (let turn = 0; turn < 40; turn++) await page.mouse.wheel(0, turn % 2 ? 90 : -90);
  const drag = await dragBead(page);
  return page.evaluate(
    ([reference, dragged]) => {
      const mark = performance.getEntriesByName('hastig:played').at(-1) as PerformanceMark;
      const times = performance.getEntriesByName('hastig:curve').map(({ duration }) => duration);
      times.sort((a, b) => a - b);
      const curve = { median: times[times.length >> 1]!, slowest: times.at(-1)! };
      const played = mark.detail as Pick<PreviewFigures, 'shown' | 'skipped' | 'worstDelay'>;
      return { ...played, emptyPage: reference, curve, drag: dragged };
    },
    [emptyPage, drag] as const,
  );
}

/** Plays a 720p clip at 30 fps through speeds from −2 to 4, some times over. */
export async function benchPreview(rounds: number): Promise<PreviewFigures[]> {
  const app = await startThrowaway('bench');
  const browser = await launchBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const figures: PreviewFigures[] = [];
    for (let round = 0; round < rounds; round++) figures.push(await play(page, app.address));
    return figures;
  } finally {
    await browser.close();
    await app.stop();
  }
}
