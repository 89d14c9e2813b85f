import type { Page } from '@playwright/test';
import { accessFaults } from '../support/accessible';
import { expect, makeDemo, openDemoClip, saved, startAction, test, typeReadout } from '../support/app';
import { applySheet } from '../support/pace';
import { storedDocument } from '../support/timeline';

const versions = (page: Page) => page.getByRole('list', { name: 'Versions', exact: true });
const row = (page: Page, name: string) => versions(page).getByRole('listitem', { name, exact: true });
const choose = (page: Page, group: string, option: string) =>
  page.getByRole('radiogroup', { name: group, exact: true }).getByRole('radio', { name: option, exact: true }).click();
const frame = (page: Page, side: 'A' | 'B') => page.getByLabel(`Frame of ${side}`);
const figures = (page: Page, line: string) =>
  page.getByRole('table', { name: 'Numbers of A and B' }).getByRole('row').filter({ hasText: line }).getByRole('cell');

test('a clip has versions: made, switched, compared, renamed, a part taken, removed; undo goes back through all', async ({
  page,
  app,
}) => {
  await openDemoClip(page, app, 'The drop');
  await startAction(page, 'Pace', 'Versions');
  await expect(page.getByText('None yet.', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'New version' }).click();
  await expect(row(page, 'Version 2').getByText('Current')).toBeVisible();
  await row(page, 'Version 2').getByRole('button', { name: 'More for Version 2' }).click();
  await row(page, 'Version 2').getByLabel('Name').fill('Slow');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Slow')).toBeVisible();
  expect(await accessFaults(page, 'guidelines')).toEqual([]);

  await page.getByRole('link', { name: 'Pace' }).click();
  await applySheet(page, 'Fit', { fill: { 'New duration': '20s' } });
  await saved(page);
  const slow = (await storedDocument(page, app)).clips[0]!;
  await page.keyboard.press('Shift+V');
  await row(page, 'Version 1').getByRole('button', { name: 'Compare with Version 1' }).click();
  const [a, b] = [figures(page, 'Frames').nth(0), figures(page, 'Frames').nth(1)];
  await expect(b).toHaveText('189');
  await expect(a).toHaveText('480');
  // The first frames stand side by side; by what they show, so do all.
  await page.getByRole('button', { name: 'Next frame' }).click();
  await expect(frame(page, 'A')).toContainText('A 0000');
  await expect(frame(page, 'B')).toContainText('B 0001');
  await choose(page, 'In step by', 'Source frame');
  await page.getByRole('button', { name: 'Next frame' }).click();
  await page.getByRole('button', { name: 'Next frame' }).click();
  await page.getByRole('button', { name: 'Next frame' }).click();
  await expect(frame(page, 'A')).toContainText('A 0001');
  await expect(frame(page, 'B')).toContainText('B 0001');

  await row(page, 'Version 1').getByRole('button', { name: 'Switch' }).click();
  await expect(row(page, 'Version 1').getByText('Current')).toBeVisible();
  await saved(page);
  const first = (await storedDocument(page, app)).clips[0]!;
  expect(first.timing).not.toEqual(slow.timing);
  await row(page, 'Slow').getByRole('button', { name: 'More for Slow' }).click();
  await row(page, 'Slow').getByRole('button', { name: 'Take timing' }).click();
  await saved(page);
  const taken = (await storedDocument(page, app)).clips[0]!;
  expect(taken.timing).toEqual(slow.timing);
  expect(taken.liveVersion).toBe(first.liveVersion);
  await row(page, 'Slow').getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText('None yet.', { exact: false })).toBeVisible();
  for (const step of ['remove Slow', 'take the timing of Slow', 'switch to Version 1'])
    await page.getByRole('button', { name: `Undo: ${step}` }).click();
  await saved(page);
  expect((await storedDocument(page, app)).clips[0]!).toEqual(slow);
});

test('two are seen in every way, by thumb and by keyboard, and measured; a rendered file and an earlier moment beside', async ({
  page,
  app,
}) => {
  const { id } = await makeDemo(app);
  await page.goto(`${app.address}/project/${id}/output`);
  await page.getByRole('button', { name: 'Render', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Rendered files' }).getByText('Marble film.mp4')).toBeVisible({ timeout: 90_000 }); // prettier-ignore
  await page.getByRole('button', { name: 'Versions and compare' }).click();
  await page.getByRole('button', { name: 'New version' }).click();
  await saved(page);
  await choose(page, 'A', 'Marble film.mp4');
  await choose(page, 'B', 'Version 2');
  const length = figures(page, 'Frames').nth(1);
  await expect(length).toHaveText(/^\d+$/);
  const total = await length.textContent();
  await expect(figures(page, 'Frames').nth(0)).toHaveText(total!);
  await expect(figures(page, 'Time to render').nth(0)).toHaveText(/^took \d/);

  await choose(page, 'Shown', 'Wipe');
  const line = page.getByRole('slider', { name: 'Wipe between A and B' });
  await expect(line).toHaveAttribute('aria-valuenow', '50');
  await line.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(line).toHaveAttribute('aria-valuenow', '60');
  await choose(page, 'Shown', 'Blink');
  await expect(page.getByText('A Marble film.mp4', { exact: true }).first()).toBeVisible();
  await expect(page.locator('span').getByText('B Version 2', { exact: true })).toBeVisible();
  await choose(page, 'Shown', 'Difference');
  await expect(page.getByText('difference ×4')).toBeVisible();
  await choose(page, 'Play at', '25%');
  await choose(page, 'Sound', 'Of B');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.keyboard.press('Space');

  await page.getByRole('button', { name: 'Earlier moments' }).click();
  const earlier = page.getByRole('list', { name: 'Earlier moments' });
  await earlier.getByRole('button', { name: /^Compare with/ }).first().click(); // prettier-ignore
  await expect(figures(page, 'Frames').nth(1)).toHaveText(total!);
  await earlier.getByRole('button', { name: 'Keep' }).first().click();
  await expect(versions(page).getByRole('listitem')).toHaveCount(3);
});

test(
  'what is made between frames moves more evenly than frames that are held',
  { tag: '@long' },
  async ({ page, app }) => {
    const { id } = await makeDemo(app);
    await page.goto(`${app.address}/project/${id}/clip/clip-drop/compare`);
    await page.getByRole('link', { name: 'Pace' }).click();
    await applySheet(page, 'Fit', { fill: { 'New duration': '20s' } });
    // Only a stretch of it is measured.
    await typeReadout(page, 'Output', '100f');
    await page.keyboard.press('i');
    await typeReadout(page, 'Output', '160f');
    await page.keyboard.press('o');
    await page.keyboard.press('Shift+V');
    await choose(page, 'A', 'Held');
    await choose(page, 'B', 'Compensated');
    await page.getByRole('button', { name: 'Measure motion and time' }).click();
    await expect(figures(page, 'Unevenness').nth(1)).toHaveText(/%$/, { timeout: 120_000 });
    const [held, made] = (await figures(page, 'Unevenness').allTextContents()).map(parseFloat);
    expect(made!).toBeLessThan(0.6 * held!);
    await expect(figures(page, 'Interpolated').nth(0)).toHaveText('0');
    await expect(figures(page, 'Interpolated').nth(1)).toHaveText(/^[1-9]\d+$/);
    await expect(figures(page, 'Size as MP4').nth(1)).toHaveText(/^about \d/);
  },
);

test('a file is rendered again as it was, whatever was edited since', async ({ page, app }) => {
  const { id } = await makeDemo(app);
  await page.goto(`${app.address}/project/${id}/clip/clip-drop/output`);
  const files = page.getByRole('list', { name: 'Rendered files' });
  await page.getByRole('button', { name: 'Render', exact: true }).click();
  await expect(files.getByText('The drop.mp4')).toBeVisible({ timeout: 90_000 });
  await expect(files.getByText(/ · 7\.88 s · /)).toHaveCount(1);
  await page.getByRole('link', { name: 'Pace' }).click();
  await applySheet(page, 'Fit', { fill: { 'New duration': '2s' } });
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  await files.getByRole('button', { name: 'Render The drop.mp4 again as it was' }).click();
  await expect(files.getByText(/ · 7\.88 s · /)).toHaveCount(2, { timeout: 90_000 });
  // Rendered anew it has the timing of now.
  await page.getByRole('button', { name: 'Render', exact: true }).click();
  await expect(files.getByText(/ · 2\.00 s · /)).toHaveCount(1, { timeout: 90_000 });
});
