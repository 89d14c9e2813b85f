import type { PatchOperation, StoredProject } from '@hastig/contract';
import { constantSpan, rampSpan } from '@hastig/core';
import type { Punctuality } from '@hastig/engine';
import { launchBrowser } from '@hastig/headless';
import type { Page } from 'playwright-core';
import { startThrowaway } from '../scripts/throwaway';
import { watchDrag, type DragFigures } from './drag';
import { timeDrawings, type Drawings } from './drawings';

/** What one play-through came to, and what the machine gave at that time. */
interface PreviewFigures {
  played: Punctuality;
  /** The same of a worker in an empty page that plays nothing, just before: what the machine gives. */
  nothing: Punctuality;
  /** The curve, zoomed and then a bead of it dragged. */
  curve: Drawings;
  /** While a bead is dragged. */
  drag: DragFigures;
}

/** Output frames of the film, and the milliseconds that drawing one of 720p takes. */
const FRAMES = 161;
const DRAWING = 8;

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

// As text: a function would be sent with the helpers its translation refers to, which the page does not have. The worker does
// what a stage's does, but for the film: in each animation frame it looks whether another of 30 a second is due, and if so
// works for about as long as drawing one takes.
const playNothing = `new Promise((resolve) => {
  const source = \`
    const started = performance.now();
    const result = { shown: 0, skipped: 0, worstDelay: 0 };
    let last = -1;
    requestAnimationFrame(function tick() {
      const now = performance.now();
      const turn = Math.floor((now - started) * 0.03);
      if (turn >= ${FRAMES}) return postMessage(result);
      requestAnimationFrame(tick);
      if (turn === last) return;
      while (performance.now() - now < ${DRAWING});
      result.shown++;
      result.skipped += turn - last - 1;
      result.worstDelay = Math.max(result.worstDelay, now - started - turn / 0.03);
      last = turn;
    });
  \`;
  const worker = new Worker(URL.createObjectURL(new Blob([source])));
  worker.onmessage = ({ data }) => (worker.terminate(), resolve(data));
})`;

async function dragBead(page: Page): Promise<DragFigures> {
  const bead = (await page.getByRole('slider', { name: /^Ramp 2 of/ }).boundingBox())!;
  const [x, y] = [bead.x + bead.width / 2, bead.y + bead.height / 2];
  return watchDrag(page, x, y, 12);
}

async function play(page: Page, address: string): Promise<PreviewFigures> {
  await page.goto('about:blank');
  const nothing = await page.evaluate<Punctuality>(playNothing);
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
  const played = await page.evaluate(() => {
    const mark = performance.getEntriesByName('hastig:played').at(-1) as PerformanceMark;
    return mark.detail as Punctuality;
  });
  const drag = await dragBead(page);
  // On a page of its own, for timing costs time too.
  await page.reload();
  await page.getByRole('slider').first().waitFor();
  const box = (await page.getByTestId('curve').boundingBox())!;
  const curve = await timeDrawings(page, async () => {
    await page.mouse.move(box.x + 150, box.y + 90);
    for (let turn = 0; turn < 120; turn++) await page.mouse.wheel(0, turn % 2 ? 90 : -90);
    await page.keyboard.press('0');
    await dragBead(page);
  });
  return { played, nothing, drag, curve };
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
