import type { ProjectDocument, StoredProject } from '@hastig/contract';
import { appendClip, constantSpan, newVersion, SEQUENCE, wholeClip } from '@hastig/core';
import { launchBrowser } from '@hastig/headless';
import type { Page } from 'playwright-core';
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

/** What is done with it before it goes out, and what that costs the interface. */
async function goOut(page: Page, address: string): Promise<void> {
  const button = (name: string) => page.getByRole('button', { name, exact: true });
  await page.goto(`${address}/timeline`);
  await page.getByRole('toolbar', { name: 'Timeline actions' }).waitFor();
  await page.waitForLoadState('networkidle');
  const check = page.getByRole('group', { name: 'Check', exact: true });
  const started = performance.now();
  let checked = 0;
  const opened = await traceTasks(page, async () => {
    await page.getByRole('link', { name: 'Output', exact: true }).click();
    await check.getByText(/thing|Clean/).first().waitFor(); // prettier-ignore
    checked = performance.now() - started;
  });
  line('the form opened, the film checked', `${told(opened)}; ${checked.toFixed(0)} ms until all of it is checked`);
  const formed = await traceTasks(page, async () => {
    await page.getByRole('textbox', { name: 'File name' }).fill('{project} {size}');
    await page.getByRole('radiogroup', { name: 'Frame size', exact: true }).getByRole('radio').nth(2).click();
    await page.getByRole('radiogroup', { name: 'Settings', exact: true }).getByRole('radio', { name: 'All' }).click();
  });
  line('the form filled in', told(formed));
  const rendered = await traceTasks(page, async () => {
    await button('Render').click();
    await page.getByText(/\d+ of \d+ frames/).waitFor();
  });
  line('a render started', told(rendered));
  await button('Cancel render').click();
  await page.getByText(/^Render cancelled/).waitFor();
  const compared = await traceTasks(page, async () => {
    await page.getByRole('button', { name: 'Versions and compare' }).click();
    await page.getByRole('radiogroup', { name: 'Shown', exact: true }).waitFor();
  });
  line('Compare opened', told(compared));
}

/** A film of 90 minutes in 1,000 clips: form, check, start of a render, Compare; beside the same of the demo. */
export async function benchLongFilm(): Promise<void> {
  const app = await startThrowaway('bench');
  try {
    const demo = (await (await fetch(`${app.address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
    let id = 0;
    const document = newVersion(film(demo.document), { container: SEQUENCE }, () => `v${id++}`);
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
