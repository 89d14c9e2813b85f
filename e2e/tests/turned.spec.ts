import { expect, openDemoClip, startAction, test } from '../support/app';

const sizes = [
  { width: 844, height: 390 },
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
];

test('a device that is turned, or a window resized, keeps the place, what is typed, and goes on playing', async ({
  page,
  app,
}) => {
  await openDemoClip(page, app, 'The drop');
  await startAction(page, 'Pace', 'Speed');
  const sheet = page.getByRole('dialog', { name: 'Speed' });
  await sheet.getByRole('textbox', { name: 'Speed' }).fill('33%');
  await page.getByRole('button', { name: 'Loop' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const picture = await page.getByRole('img', { name: 'Picture of The drop' }).elementHandle();
  const address = page.url();
  for (const size of sizes) {
    await page.setViewportSize(size);
    await expect(sheet.getByRole('textbox', { name: 'Speed' })).toHaveValue('33%');
    await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
    // All of it in sight: nothing is pushed out of the window.
    for (const part of [sheet, page.getByRole('navigation', { name: 'Places' })]) {
      await expect(part).toBeInViewport({ ratio: 0.99 });
    }
    expect(page.url()).toBe(address);
    expect(await picture!.evaluate((canvas) => canvas.isConnected)).toBe(true);
  }
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('button', { name: 'Undo: set the speed' })).toBeEnabled();
});

test('the ledger goes beside the picture and back with what is being typed in it', async ({ page, app }) => {
  await openDemoClip(page, app, 'The drop');
  await page.getByRole('button', { name: 'Ledger' }).click();
  const row = page.getByRole('row', { name: /^Key 2 of/ });
  await row.getByRole('button', { name: /^Output:/ }).click();
  await row.getByRole('textbox', { name: 'Output' }).fill('30f');
  await page.setViewportSize({ width: 1280, height: 800 });
  await expect(row).toBeVisible();
  // Whether the entry went along or was left: what was typed is not lost.
  const entry = row.getByRole('textbox', { name: 'Output' });
  if (await entry.isVisible()) await entry.press('Enter');
  await expect(row.getByRole('button', { name: /^Output: .*01:06/ })).toBeVisible();
});
