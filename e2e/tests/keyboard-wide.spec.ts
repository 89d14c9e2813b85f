import { expect, openDemoClip, readout, test, typeReadout } from '../support/app';
import { devices } from '../support/devices';
import { allSelected } from '../support/pace';

// At the desk, the hand stays on the keyboard.
test.use(devices.desk);
test.beforeEach(async ({ page, app }) => openDemoClip(page, app, 'The drop'));

test('a sheet opened by keyboard takes the keyboard, and gives it back', async ({ page }) => {
  const level = page.getByRole('slider', { name: /^Part 1 of/ });
  await page.keyboard.press('s');
  const sheet = page.getByRole('dialog', { name: 'Speed' });
  const speed = sheet.getByRole('textbox', { name: 'Speed' });
  await expect(speed).toBeFocused();
  await allSelected(page);
  await page.keyboard.type('50');
  await expect(sheet.getByText('×50.00 · 5000%. For ×0.50 type 50%.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
  await expect(level).toHaveAttribute('aria-valuetext', /^100%/);
  await page.keyboard.press('s');
  await allSelected(page);
  await page.keyboard.type('50%');
  await page.keyboard.press('Enter');
  await expect(sheet).toBeHidden();
  await expect(level).toHaveAttribute('aria-valuetext', /^50%/);
  // The place has its keys again.
  await page.keyboard.press('Control+z');
  await expect(level).toHaveAttribute('aria-valuetext', /^100%/);
  const fit = page.getByRole('button', { name: 'Fit', exact: true });
  await fit.focus();
  await fit.press('Enter');
  await expect(page.getByRole('dialog').getByRole('textbox').first()).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(fit).toBeFocused();
});

test('a number begun with the keyboard goes on with it; one that was tapped leaves the keys to the place', async ({
  page,
}) => {
  const output = readout(page, 'Output');
  await output.focus();
  await page.keyboard.press('Enter');
  await allSelected(page);
  await page.keyboard.type('48f');
  await page.keyboard.press('Enter');
  await expect(output).toBeFocused();
  await expect(output).toContainText('00:00:02:00');
  await typeReadout(page, 'Output', '24f');
  await expect(output).toContainText('00:00:01:00');
  await page.keyboard.press('ArrowRight');
  await expect(output).toContainText('00:00:01:01');
});

test('a sheet that is no form leaves the place its keys', async ({ page }) => {
  await page.getByRole('link', { name: 'Timeline', exact: true }).click();
  await page.getByRole('button', { name: /^Clip 1 of 3/ }).click();
  await page.keyboard.press('e');
  const sheet = page.getByRole('dialog', { name: 'The drop' });
  await expect(sheet).toBeFocused();
  // Nothing is typed into its name: the playhead moves.
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await expect(readout(page, 'Output')).toContainText('00:00:00:01');
  await expect(sheet.getByRole('textbox', { name: 'Name' })).toHaveValue('The drop');
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
});
