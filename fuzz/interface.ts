import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join, relative } from 'node:path';
import type { StoredProject } from '@hastig/contract';
import { launchBrowser } from '@hastig/headless';
import fc from 'fast-check';
import type { Page } from 'playwright-core';
import { dataFolder, rootFolder } from '../scripts/paths';
import { Report } from './report';

const texts = [
  '',
  '0',
  '-1',
  '40%',
  'x0.4',
  '2:17',
  '99999999',
  'soon',
  '00:00:02;17',
  '1e9',
  '½',
  '77f',
  '2.5s',
  '   ',
];
const keys = [
  'Space',
  'j',
  'k',
  'l',
  'ArrowLeft',
  'ArrowRight',
  'i',
  'o',
  'm',
  'Escape',
  'Enter',
  'Control+z',
  'Tab',
  'Delete',
];

const action = fc.oneof(
  { weight: 6, arbitrary: fc.record({ kind: fc.constant('press' as const), which: fc.nat(10_000) }) },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('type' as const),
      which: fc.nat(10_000),
      text: fc.constantFrom(...texts),
    }),
  },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('key' as const), key: fc.constantFrom(...keys) }) },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('drag' as const),
      from: fc.tuple(fc.nat(99), fc.nat(99)),
      to: fc.tuple(fc.nat(99), fc.nat(99)),
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('turn' as const) }) },
);
type Action = typeof action extends fc.Arbitrary<infer T> ? T : never;

/** What leads out of the project, or asks for a file. */
const left = /^(Back|Archive|Project file|Download|Bring in|WebVTT|CSV|OpenTimelineIO|Render|Cancel|Make a)/;

/** Does something. @returns the name of what it was done to, where that was a control */
async function act(page: Page, one: Action): Promise<string | void> {
  const { width, height } = page.viewportSize()!;
  if (one.kind === 'key') return page.keyboard.press(one.key);
  if (one.kind === 'turn') return page.setViewportSize({ width: height, height: width });
  if (one.kind === 'drag') {
    const [from, to] = [one.from, one.to].map(([x, y]) => [(x / 100) * width, (y / 100) * height] as const);
    await page.mouse.move(...from!);
    await page.mouse.down();
    await page.mouse.move(...to!, { steps: 4 });
    return page.mouse.up();
  }
  const things = page.locator(
    one.kind === 'type' ? 'input:visible' : '[role=button]:visible, [role=radio]:visible, [role=link]:visible',
  );
  const count = await things.count();
  if (count === 0) return;
  const thing = things.nth(one.which % count);
  if (one.kind === 'type') {
    await thing.fill(one.text, { timeout: 1000 });
    return page.keyboard.press('Enter');
  }
  const name =
    (await thing.getAttribute('aria-label', { timeout: 1000 })) ?? (await thing.textContent({ timeout: 1000 })) ?? '';
  if (left.test(name)) return `left alone: ${name}`;
  await thing.click({ timeout: 1000 });
  return name;
}

/** Uses the interface at random: nothing may throw, and what was done is saved in the end. */
export async function fuzzInterface(
  address: string,
  size: { width: number; height: number },
  count: number,
  seed: number,
): Promise<Report> {
  const report = new Report(`the interface at ${size.width}×${size.height} (seed ${seed})`);
  const browser = await launchBrowser();
  try {
    const made = await fetch(`${address}/api/demo`, { method: 'POST' });
    const { id } = (await made.json()) as StoredProject;
    const page = await browser.newPage({ viewport: size });
    let last = 'opening';
    // Kept as they were done, so that a seed can be followed by hand.
    const done: object[] = [];
    page.on('response', async (answer) => {
      if (answer.status() !== 422 || answer.request().method() !== 'PATCH') return;
      report.fault(`an edit was refused (422) after ${last}: ${await answer.text().catch(() => '')}`);
    });
    page.on('pageerror', (error) => report.fault(`${error.message}, after ${last}`));
    const home = `${address}/project/${id}/clip/clip-drop/pace`;
    await page.goto(home);
    await page.getByRole('slider').first().waitFor();
    for (const [n, one] of fc.sample(action, { numRuns: count, seed }).entries()) {
      last = JSON.stringify(one);
      // A thing that goes away or is covered while it is aimed at is none.
      const name = await act(page, one).catch(() => 'gone meanwhile');
      done.push({ n, ...one, ...(name && { name }), at: new URL(page.url()).pathname });
      report.tried(one.kind);
      if (await page.getByText('Something broke').count()) {
        report.fault(`the page broke after ${last}`);
        await page.goto(home);
      }
      if (n % 40 === 39) await page.goto(n % 80 === 79 ? home : `${address}/project/${id}/timeline`);
    }
    const status = page.getByRole('status', { name: 'Saving' });
    await status
      .filter({ hasText: /^saved$/ })
      .waitFor({ timeout: 20_000 })
      .catch(async () => {
        report.fault(`in the end it says “${await status.textContent()}”`);
      });
    const file = join(dataFolder, 'fuzz', `interface-${size.width}x${size.height}-${seed}.json`);
    await mkdir(dirname(file), { recursive: true });
    await writeFile(file, done.map((one) => JSON.stringify(one)).join('\n'));
    report.note(`what was done: ${relative(rootFolder, file)}`);
  } finally {
    await browser.close();
  }
  return report;
}
