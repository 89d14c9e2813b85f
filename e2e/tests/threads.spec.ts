import type { Page } from '@playwright/test';
import { dragBy, expect, openDemoClip, readout, saved, test, typeReadout } from '../support/app';
import { applySheet, handles, paceAction, undo } from '../support/pace';

test.beforeEach(async ({ page, app }) => openDemoClip(page, app, 'The drop'));

const thread = (page: Page, key: number, end: 'output' | 'source frame') =>
  page.getByRole('slider', { name: `Thread of key ${key}, ${end}`, exact: true });

/** A place between the strips: `across` and `down` as shares of the threads' view. */
async function place(page: Page, across: number, down: number): Promise<{ x: number; y: number }> {
  const box = (await page.getByTestId('threads').boundingBox())!;
  return { x: box.x + box.width * across, y: box.y + box.height * down };
}

test('the lower end of a thread moves its frame in time, the upper end slips the content', async ({ page }) => {
  await dragBy(page, thread(page, 3, 'output'), 16, 0);
  await expect(page.getByRole('button', { name: 'Undo: move a frame in time' })).toBeEnabled();
  await expect(thread(page, 3, 'output')).not.toHaveAttribute('aria-valuenow', '40');
  await undo(page, 'move a frame in time');
  await expect(thread(page, 3, 'output')).toHaveAttribute('aria-valuenow', '40');
  const source = await thread(page, 3, 'source frame').getAttribute('aria-valuenow');
  await dragBy(page, thread(page, 3, 'source frame'), 12, 0);
  await expect(page.getByRole('button', { name: 'Undo: slip the content' })).toBeEnabled();
  await expect(thread(page, 3, 'output')).toHaveAttribute('aria-valuenow', '40');
  expect(Number(await thread(page, 3, 'source frame').getAttribute('aria-valuenow'))).toBeGreaterThan(Number(source));
});

test('any thread can be taken: a key is made where it is', async ({ page }) => {
  const { x, y } = await place(page, 0.9, 0.68);
  const count = (await handles(page)).length;
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 10, y, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: move a frame in time' })).toBeEnabled();
  expect((await handles(page)).length).toBeGreaterThan(count);
});

test('holding a thread pins its frame, later edits give way, and what contradicts is refused', async ({ page }) => {
  const { x, y } = await place(page, 0.8, 0.68);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await expect(page.getByText('release to pin')).toBeVisible();
  // Moved after all: it is dragged, not pinned, however late the move comes.
  await page.mouse.move(x - 12, y, { steps: 4 });
  await page.mouse.up();
  await undo(page, 'move a frame in time');
  await page.mouse.move(x, y);
  await page.mouse.down();
  await expect(page.getByText('release to pin')).toBeVisible();
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: pin a frame' })).toBeEnabled();
  const pinned = page
    .getByRole('slider', { name: /^Thread of key \d, output/ })
    .and(page.locator('[aria-valuetext*=pinned]'));
  const output = Number(await pinned.getAttribute('aria-valuenow'));
  await typeReadout(page, 'Output', `${output}f`);
  const source = (await readout(page, 'Source frame').textContent())!;
  await page.getByRole('button', { name: 'First frame' }).click();
  await applySheet(page, 'Freeze', { fill: { Duration: '10f' } });
  await typeReadout(page, 'Output', `${output}f`);
  await expect(readout(page, 'Source frame')).toHaveText(source);
  // All before the pin locked or frozen cannot be: the sheet says why, and nothing changes.
  await page.getByRole('button', { name: 'First frame' }).click();
  await paceAction(page, 'Freeze');
  const sheet = page.getByRole('dialog', { name: 'Freeze' });
  await sheet.getByRole('textbox', { name: 'Duration' }).fill(`${output}f`);
  await expect(sheet.getByRole('alert')).toContainText('nothing can change');
  await sheet.getByRole('button', { name: 'Discard' }).click();
  await saved(page);
  await page.reload();
  await expect(pinned).toHaveAttribute('aria-valuenow', String(output));
});

test('ends answer to keys, the wheel zooms and the source strip pans', async ({ page }) => {
  await thread(page, 4, 'output').focus();
  await page.keyboard.press('ArrowRight');
  await expect(thread(page, 4, 'output')).toHaveAttribute('aria-valuenow', '101');
  await page.keyboard.press('p');
  await expect(thread(page, 4, 'output')).toHaveAttribute('aria-valuetext', /pinned/);
  const gap = async (): Promise<number> =>
    (await thread(page, 4, 'output').boundingBox())!.x - (await thread(page, 3, 'output').boundingBox())!.x;
  const before = await gap();
  const { x, y } = await place(page, 0.4, 0.5);
  await page.mouse.move(x, y);
  await page.mouse.wheel(0, -200);
  await expect.poll(gap).toBeGreaterThan(before * 1.5);
  const at = (await thread(page, 4, 'output').boundingBox())!.x;
  const strip = await place(page, 0.6, 0.1);
  await page.mouse.move(strip.x, strip.y);
  await page.mouse.down();
  await page.mouse.move(strip.x - 40, strip.y, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => (await thread(page, 4, 'output').boundingBox())!.x).toBeLessThan(at - 20);
  await page.getByRole('button', { name: 'Zoom to fit' }).click();
  await expect.poll(gap).toBeLessThan(before * 1.1);
});

test('two fingers zoom, on threads and curve alike', async ({ page, context }) => {
  const gap = async (): Promise<number> =>
    (await thread(page, 4, 'output').boundingBox())!.x - (await thread(page, 3, 'output').boundingBox())!.x;
  const touch = await context.newCDPSession(page);
  for (const view of ['threads', 'curve']) {
    await page.getByRole('button', { name: 'Zoom to fit' }).click();
    const before = await gap();
    const box = (await page.getByTestId(view).boundingBox())!;
    const fingers = (apart: number) =>
      [-1, 1].map((side, id) => ({ id, x: box.x + box.width * 0.45 + side * apart, y: box.y + box.height - 60 }));
    await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(30) });
    for (const apart of [34, 38, 42, 46, 50]) {
      await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(apart) });
    }
    await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
    await expect.poll(gap).toBeGreaterThan(before * 1.5);
  }
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});

test('the output strip scrubs, the position view moves keys in time and in the source', async ({ page }) => {
  const { x, y } = await place(page, 0.5, 0.9);
  await page.mouse.click(x, y);
  await expect(readout(page, 'Source frame')).not.toContainText('0000');
  await page.getByRole('button', { name: 'Positions', exact: true }).click();
  const key = page.getByRole('slider', { name: 'Key 4 of 6', exact: true });
  await expect(key).toHaveAttribute('aria-valuetext', /output 100/);
  await dragBy(page, key, 14, 1);
  await expect(key).not.toHaveAttribute('aria-valuetext', /output 100,/);
  await undo(page, 'move a key');
  await dragBy(page, key, 1, -12);
  await expect(key).toHaveAttribute('aria-valuetext', /output 100, source (6[1-9]|7\d)/);
});

test('positions have handles once the clip is described by them, and what that loses is told', async ({ page }) => {
  await paceAction(page, 'Convert to positions');
  const sheet = page.getByRole('dialog', { name: 'Convert to positions' });
  await expect(sheet).toContainText(/by at most 0\.\d+ source frames/);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await page.getByRole('button', { name: 'Positions', exact: true }).click();
  await page.getByRole('slider', { name: /^Key 2 of/ }).focus();
  const handle = page.getByRole('slider', { name: /^First handle of part/ });
  await dragBy(page, handle, 4, -10);
  await expect(page.getByRole('button', { name: 'Undo: shape a curve' })).toBeEnabled();
  await applySheet(page, 'Interpolation', { choose: ['Hold'] });
  await paceAction(page, 'Convert to speeds');
  await page.getByRole('dialog').getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('button', { name: 'Undo: convert to speeds' })).toBeEnabled();
});
