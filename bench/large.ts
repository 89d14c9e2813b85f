import type { StoredProject } from '@hastig/contract';
import { LARGE, largeProject } from '@hastig/demo/large';
import { launchBrowser, settled } from '@hastig/headless';
import { startThrowaway } from '../scripts/throwaway';
import type { Page } from 'playwright-core';
import { watchDrag, watchPaint, watchTasks } from './drag';
import { line } from './line';

/** Pixels over the tracks at which the ruler is met. */
const RULER = 18;
/** Milliseconds a page is given to get ready for its first edit: less than anybody needs to see what it shows. */
const READY = 1500;

/** Edits of a clip that is chosen, by their keys and the names they have in the history. */
const EDITS = [
  ['s', 'split'],
  ['d', 'duplicate'],
] as const;

/** Milliseconds from a key to the paint that shows its edit, or its undoing, four times each, and the longest task of the page meanwhile. */
async function timedEdits(page: Page): Promise<string> {
  // So near that clips are drawn by themselves, then inside one of them: the ruler lies over the tracks.
  while ((await page.locator('[data-crowd]').count()) > 0) await page.locator('[data-crowd]').first().click();
  const clip = page
    .getByTestId('decoders')
    .getByRole('button', { name: /^Clip \d+ of/ })
    .first();
  const [box, decoders] = [(await clip.boundingBox())!, (await page.getByTestId('decoders').boundingBox())!];
  await page.mouse.click(box.x + box.width / 2, decoders.y - RULER);
  await clip.click();
  // What came into sight is still being decoded.
  await settled(page);
  const told: string[] = [];
  for (const [key, label] of EDITS) {
    const undo = page.getByRole('button', { name: `Undo: ${label}` });
    const seen = async (press: string, state: 'visible' | 'hidden'): Promise<string> => {
      const painted = await watchPaint(page);
      await page.keyboard.press(press);
      await undo.waitFor({ state });
      return (await painted()).toFixed(0);
    };
    const longest = await watchTasks(page);
    const [made, undone]: [string[], string[]] = [[], []];
    for (let again = 0; again < 4; again++) {
      made.push(await seen(key, 'visible'));
      undone.push(await seen('ControlOrMeta+z', 'hidden'));
    }
    told.push(
      `${label} ${made.join(' ')}, undone ${undone.join(' ')} ms (longest task ${(await longest()).toFixed(0)})`,
    );
  }
  return told.join('; ');
}

/** The largest project that is expected to be worked on like a small one, beside the demo. */
export async function benchLarge(): Promise<void> {
  const app = await startThrowaway('bench');
  const browser = await launchBrowser();
  try {
    const demo = (await (await fetch(`${app.address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
    const made = await fetch(`${app.address}/api/projects`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ document: largeProject(demo.document, LARGE) }),
    });
    const large = (await made.json()) as StoredProject;
    const { sources, clips, markers } = LARGE;
    for (const [name, id] of [
      ['the demo', demo.id],
      [`${clips} clips, ${sources} sources, ${markers} markers`, large.id],
    ] as const) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      const timed = async (work: () => Promise<unknown>): Promise<string> => {
        const started = performance.now();
        await work();
        return `${(performance.now() - started).toFixed(0)} ms`;
      };
      const saved = page.getByRole('status', { name: 'Saving' }).filter({ hasText: /^saved$/ });
      const footage = await timed(async () => {
        await page.goto(`${app.address}/project/${id}`);
        await page.getByRole('listitem').first().waitFor();
      });
      const elements = (): Promise<number> => page.evaluate(() => document.querySelectorAll('*').length);
      line(`${name}: footage opened`, `${footage}, ${await elements()} elements`);
      const timeline = await timed(async () => {
        await page.goto(`${app.address}/project/${id}/timeline`);
        await page.getByTestId('decoders').waitFor();
      });
      line(`${name}: timeline opened`, `${timeline}, ${await elements()} elements`);
      await page.keyboard.press('ArrowRight');
      const undo = page.getByRole('button', { name: 'Undo: add a marker' });
      // What was just opened is still making its small pictures, and gets ready for an edit.
      await settled(page);
      await page.waitForTimeout(READY);
      const painted = await watchPaint(page);
      await page.keyboard.press('m');
      await undo.waitFor();
      line(`${name}: the first edit`, `${(await painted()).toFixed(0)} ms`);
      const times: string[] = [];
      for (let again = 0; again < 3; again++) {
        await page.keyboard.press('ControlOrMeta+z');
        await undo.waitFor({ state: 'hidden' });
        times.push(
          await timed(async () => {
            await page.keyboard.press('m');
            await undo.waitFor();
          }),
        );
      }
      line(
        `${name}: a marker`,
        `${times.join(', ')} until it is seen, ${await timed(() => saved.waitFor())} more until it is saved`,
      );
      line(`${name}: edits, each seen after`, await timedEdits(page));
      while ((await page.locator('[data-crowd]').count()) > 0) await page.locator('[data-crowd]').first().click();
      const box = (await page
        .getByRole('button', { name: /^Clip 2 of/ })
        .first()
        .boundingBox())!;
      const { frames, longestTask } = await watchDrag(page, box.x + box.width / 2, box.y + box.height / 2, 60);
      line(`${name}: a clip dragged`, `${frames.toFixed(0)} animation fps, longest task ${longestTask.toFixed(0)} ms`);
      await page.close();
    }
    const patch = [{ op: 'replace', path: '/clips/77/name', value: 'another' }];
    const { revision: last } = (await (await fetch(`${app.address}/api/projects/${large.id}`)).json()) as StoredProject;
    for (let revision = last; revision < last + 4; revision++) {
      const started = performance.now();
      const { status } = await fetch(`${app.address}/api/projects/${large.id}`, {
        method: 'PATCH',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ revision, patch }),
      });
      line('a change of it on the server', `${(performance.now() - started).toFixed(0)} ms (${status})`);
    }
  } finally {
    await browser.close();
    await app.stop();
  }
}
