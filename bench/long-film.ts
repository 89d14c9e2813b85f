import type { ProjectDocument, StoredProject } from '@hastig/contract';
import { appendClip, checkFilm, constantSpan, newVersion, SEQUENCE, wholeClip } from '@hastig/core';
import { launchBrowser } from '@hastig/headless';
import type { Locator, Page } from 'playwright-core';
import { startThrowaway } from '../scripts/throwaway';
import { emptied } from './emptied';
import { line } from './line';
import { TASK_MAY_TAKE, traceTasks } from './traced-tasks';

const CLIPS = 1000;
/** Frames of one: 90 minutes in all, at 24 a second. */
const LENGTH = 130;

/** A film of an hour and a half, of the demo's sources in turn, each a little slower or faster. */
function film(demo: ProjectDocument): ProjectDocument {
  let project = emptied(demo);
  const [source] = project.sources;
  const whole = wholeClip(project, 'c', source!);
  for (let n = 0; n < CLIPS; n++) {
    const timing = { ...whole.timing, spans: [constantSpan(0.5 + (n % 5) / 10, LENGTH)] };
    project = appendClip(project, SEQUENCE, { ...whole, id: `c${n}`, name: `Shot ${n + 1}`, timing });
  }
  return project;
}

const told = ({ longest, over }: { longest: number; over: number }): string =>
  `longest task ${longest.toFixed(1)} ms, ${over} over ${TASK_MAY_TAKE} ms`;

/** Milliseconds that a page is left to itself after something was done: asking it how far it is costs it time, too. */
const LEFT_ALONE = 2500;

/** Something that can be pressed, found before it is traced. */
async function pressing(found: Locator): Promise<() => Promise<void>> {
  const handle = (await found.elementHandle())!;
  return () => handle.evaluate((element) => (element as HTMLElement).click());
}

/** What is done with it before it goes out, and what that costs the interface. */
async function goOut(page: Page, address: string): Promise<void> {
  const button = (name: string) => page.getByRole('button', { name, exact: true });
  const choice = (group: string, name?: string) =>
    page.getByRole('radiogroup', { name: group, exact: true }).getByRole('radio', name ? { name } : {});
  const trace = (...acts: (() => Promise<void>)[]) =>
    traceTasks(page, async () => {
      for (const act of acts) {
        await act();
        await page.waitForTimeout(LEFT_ALONE);
      }
    });
  await page.goto(`${address}/timeline`);
  await page.getByRole('toolbar', { name: 'Timeline actions' }).waitFor();
  await page.waitForLoadState('networkidle');
  const output = page.getByRole('link', { name: 'Output', exact: true });
  line('the form opened, the film checked', told(await trace(await pressing(output))));
  await page.getByRole('group', { name: 'Check', exact: true }).getByText(/thing|Clean/).first().waitFor(); // prettier-ignore
  const name = (await page.getByRole('textbox', { name: 'File name' }).elementHandle())!;
  const formed = await trace(
    () => name.fill('{project} {size}'),
    await pressing(choice('Frame size').nth(2)),
    await pressing(choice('Settings', 'All')),
  );
  line('the form filled in', told(formed));
  line('a render started', told(await trace(await pressing(button('Render')))));
  await page
    .getByText(/\d+ of \d+ frames|^Rendered/)
    .first()
    .waitFor();
  if (await button('Cancel render').isVisible()) await button('Cancel render').click();
  await page
    .getByText(/^Render/)
    .first()
    .waitFor();
  line('Compare opened', told(await trace(await pressing(button('Versions and compare')))));
  await page.getByRole('radiogroup', { name: 'Shown', exact: true }).waitFor();
}

/** A film of 90 minutes in 1,000 clips: form, check, start of a render, Compare; beside the same of the demo. */
export async function benchLongFilm(): Promise<void> {
  const app = await startThrowaway('bench');
  try {
    const demo = (await (await fetch(`${app.address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
    let id = 0;
    const document = newVersion(film(demo.document), { container: SEQUENCE }, () => `v${id++}`);
    const started = performance.now();
    const findings = [...checkFilm(document)].length;
    line('all of it checked', `${(performance.now() - started).toFixed(0)} ms, ${findings} findings`);
    const made = (await (
      await fetch(`${app.address}/api/projects`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ document }),
      })
    ).json()) as StoredProject;
    for (const [name, id] of [
      ['the demo', demo.id],
      [`${CLIPS} clips, ${(CLIPS * LENGTH) / 24 / 60} minutes`, made.id],
    ] as const) {
      console.log(name);
      const browser = await launchBrowser();
      try {
        const page = await browser.newPage({ viewport: { width: 390, height: 844 }, hasTouch: true });
        await goOut(page, `${app.address}/project/${id}`);
      } finally {
        await browser.close();
      }
    }
  } finally {
    await app.stop();
  }
}
