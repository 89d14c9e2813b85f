import { applySheet, openSheet, paceAction } from '../support/pace';
import { dragBy, expect, openDemoClip, readout, saved, test, typeReadout } from '../support/app';

test.beforeEach(async ({ page, app }) => openDemoClip(page, app, 'The drop'));

test('a level is dragged up and down, its ramps following', async ({ page }) => {
  const level = page.getByRole('slider', { name: 'Part 3 of 5' });
  await expect(level).toHaveAttribute('aria-valuetext', /^40%/);
  await dragBy(page, level, 0, 40);
  await expect(level).toHaveAttribute('aria-valuetext', /^(1\d|2\d)(\.\d+)?%/);
  const value = Number(await level.getAttribute('aria-valuenow')) / 100;
  await expect(page.getByRole('slider', { name: 'Ramp 2 of 5' })).toHaveAttribute(
    'aria-valuetext',
    new RegExp(`to ×${value.toFixed(2)}`),
  );
  await page.getByRole('button', { name: 'Undo: drag the speed' }).click();
  await expect(level).toHaveAttribute('aria-valuetext', /^40%/);
});

test('a ramp is moved by its bead and widened by its edge', async ({ page }) => {
  const ramp = page.getByRole('slider', { name: 'Ramp 2 of 5' });
  await expect(ramp).toHaveAttribute('aria-valuetext', /over 12 frames/);
  await dragBy(page, page.getByRole('button', { name: 'Width of ramp 2 of 5, right side' }), 12, 0);
  const wider = await ramp.getAttribute('aria-valuetext');
  expect(Number(/over ([\d.]+) frames/.exec(wider!)![1])).toBeGreaterThan(14);
  await dragBy(page, ramp, 14, 0);
  await expect(page.getByRole('button', { name: 'Undo: move a ramp' })).toBeEnabled();
  expect(Number(/from output ([\d.]+)/.exec((await ramp.getAttribute('aria-valuetext'))!)![1])).toBeGreaterThan(
    Number(/from output ([\d.]+)/.exec(wider!)![1]),
  );
});

test('a ramp is widened by numbers, on both sides or one, and by the steppers', async ({ page }) => {
  const ramp = page.getByRole('slider', { name: 'Ramp 2 of 5' });
  await ramp.focus();
  const before = (await ramp.getAttribute('aria-valuetext'))!;
  const from = /from output ([\d.]+)/.exec(before)![1]!;
  const sheet = await openSheet(page, 'Ramp width', { fill: { Duration: '15f' }, choose: ['End'] });
  await sheet.getByRole('button', { name: 'Duration: more' }).click();
  await expect(sheet.getByRole('textbox', { name: 'Duration' })).toHaveValue('00:00:00:16');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await expect(ramp).toHaveAttribute('aria-valuetext', /over 16 frames/);
  await expect(ramp).toHaveAttribute('aria-valuetext', new RegExp(`from output ${from.replace('.', '\\.')}`));
  await applySheet(page, 'Ramp width', { fill: { Duration: '20f' }, choose: ['Both ends'] });
  await expect(ramp).toHaveAttribute('aria-valuetext', /over 20 frames/);
  expect(await ramp.getAttribute('aria-valuetext')).not.toContain(`from output ${from} `);
});

test('keys are added at the playhead, moved, pulled into ramps and removed', async ({ page }) => {
  await typeReadout(page, 'Output', '150f');
  await page.getByRole('button', { name: 'Add key', exact: true }).click();
  const key = page.getByRole('slider', { name: 'Key 6 of 7' });
  await expect(key).toHaveAttribute('aria-valuetext', /output 150/);
  await dragBy(page, page.getByRole('slider', { name: 'Part 6 of 6' }), 0, -30);
  await dragBy(page, key, 10, 0);
  await expect(key).not.toHaveAttribute('aria-valuetext', /output 150,/);
  await dragBy(page, page.getByRole('button', { name: 'Pull a ramp out of key 6 of 7, left side' }), -8, 0);
  await expect(page.getByRole('slider', { name: 'Ramp 6 of 7' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo: widen a ramp' }).click();
  await key.focus();
  await paceAction(page, 'Remove key');
  await expect(page.getByRole('slider', { name: 'Key 6 of 7' })).toBeHidden();
});

test('the playhead is dragged in the curve and the picture follows', async ({ page }) => {
  const curve = (await page.getByTestId('curve').boundingBox())!;
  await page.mouse.move(curve.x + 60, curve.y + curve.height - 60);
  await page.mouse.down();
  await page.mouse.move(curve.x + 200, curve.y + curve.height - 60, { steps: 6 });
  await page.mouse.up();
  await expect(readout(page, 'Source frame')).not.toContainText('0000');
  await expect(readout(page, 'Speed')).toContainText('×0.40');
});

test('speeds are drawn by hand', async ({ page }) => {
  await paceAction(page, 'Draw');
  const curve = (await page.getByTestId('curve').boundingBox())!;
  const y = curve.y + curve.height * 0.3;
  await page.mouse.move(curve.x + 120, y);
  await page.mouse.down();
  for (let step = 1; step <= 20; step++) await page.mouse.move(curve.x + 120 + step * 6, y + Math.sin(step / 4) * 40);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: draw the speed' })).toBeEnabled();
  expect(await page.getByRole('slider').count()).toBeGreaterThan(6);
});

test('everything answers to keys', async ({ page }) => {
  const level = page.getByRole('slider', { name: 'Part 3 of 5' });
  await level.focus();
  await page.keyboard.press('ArrowUp');
  await expect(level).toHaveAttribute('aria-valuetext', /^45%/);
  await page.keyboard.press('Shift+ArrowDown');
  await expect(level).toHaveAttribute('aria-valuetext', /^44%/);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(level).toHaveAttribute('aria-valuetext', /^40%/);
  await page.getByRole('heading').first().click();
  await page.keyboard.press('End');
  await expect(readout(page, 'Source frame')).toContainText('0143');
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await expect(readout(page, 'Output')).toContainText('00:00:00:01');
});

test('what cannot be done is said at the field, and nothing changes', async ({ page }) => {
  await page.getByRole('button', { name: 'Speed', exact: true }).click();
  const sheet = page.getByRole('dialog', { name: 'Speed' });
  const speed = sheet.getByRole('textbox', { name: 'Speed' });
  for (const [text, reason] of [
    ['abc', /Speed isn’t valid/],
    ['', /Speed is empty/],
    ['1e309', /Speed isn’t valid/],
    ['0%', /At 0% the content never ends/],
  ] as const) {
    await speed.fill(text);
    await expect(sheet.getByRole('alert')).toHaveText(reason);
    await expect(sheet.getByRole('button', { name: 'Apply' })).toBeDisabled();
  }
  await sheet.getByRole('button', { name: 'Discard' }).click();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();

  await typeReadout(page, 'Source frame', '9999');
  await expect(page.getByRole('alert')).toContainText('9999 isn’t shown in this clip');
  await page.keyboard.press('Escape');
});

test('fit gives the length asked for, and trim the frames', async ({ page }) => {
  await applySheet(page, 'Fit', { fill: { 'New duration': '5s' } });
  await page.keyboard.press('End');
  await expect(readout(page, 'Output')).toContainText('00:00:04:23');
  await applySheet(page, 'Trim', { fill: { 'First source frame': '20' } });
  await page.getByRole('button', { name: 'First frame' }).click();
  await expect(readout(page, 'Source frame')).toContainText('0020');
  await saved(page);
});
