import { dragBy, expect, openDemoClip, readout, test, typeReadout } from '../support/app';
import { applySheet, handles, openSheet, paceAction, toTheEnd, undo } from '../support/pace';

test.beforeEach(async ({ page, app }) => openDemoClip(page, app, 'The drop'));

const row = (page: Parameters<typeof readout>[0], key: number) =>
  page.getByRole('row', { name: new RegExp(`^Key ${key} of`) });

test('every number of a key is typed or stepped; locks, pins and joints are one tap', async ({ page }) => {
  await page.getByRole('button', { name: 'Ledger' }).click();
  await expect(row(page, 2)).toHaveAccessibleName(/output 28, source 28, speed 1/);
  await row(page, 2)
    .getByRole('button', { name: /^Output:/ })
    .click();
  await row(page, 2).getByRole('textbox', { name: 'Output' }).fill('30f');
  await page.keyboard.press('Enter');
  await expect(row(page, 2)).toHaveAccessibleName(/output 30, source 28/);
  await row(page, 2)
    .getByRole('button', { name: /^Output:/ })
    .focus();
  await page.keyboard.press('+');
  await expect(row(page, 2)).toHaveAccessibleName(/output 31,/);
  await page.keyboard.press('ArrowDown');
  await expect(row(page, 3).getByRole('button', { name: /^Output:/ })).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await expect(row(page, 3).getByRole('button', { name: /^Source:/ })).toBeFocused();
  for (const [text, reason] of [
    ['abc', /isn’t a time/],
    ['1e309', /isn’t a time|out of range/],
    ['', /is empty/],
  ] as const) {
    await row(page, 2)
      .getByRole('button', { name: /^Output:/ })
      .click();
    await row(page, 2).getByRole('textbox', { name: 'Output' }).fill(text);
    await page.keyboard.press('Enter');
    await expect(row(page, 2).getByRole('alert')).toContainText(reason);
    await page.keyboard.press('Escape');
  }
  await row(page, 2).getByRole('button', { name: 'Lock part after key 2' }).click();
  await row(page, 2)
    .getByRole('button', { name: /^Output:/ })
    .focus();
  await page.keyboard.press('+');
  await expect(page.getByRole('alert')).toContainText('This part is locked');
  await row(page, 2).getByRole('button', { name: 'Unlock part after key 2' }).click();
  await row(page, 2).getByRole('button', { name: 'Pin key 2' }).click();
  await expect(row(page, 2)).toHaveAccessibleName(/pinned/);
});

test('a key’s speeds are split and joined', async ({ page }) => {
  await page.getByRole('slider', { name: 'Part 3 of 5' }).focus();
  await page.keyboard.press('m');
  const sheet = page.getByRole('dialog', { name: 'Key 3 of 6' });
  await sheet.getByRole('radio', { name: 'Split' }).click();
  await sheet.getByRole('radio', { name: 'Duration' }).click();
  await sheet.getByRole('textbox', { name: 'Speed in' }).fill('70%');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  const half = page.getByRole('slider', { name: 'Key 3 of 6, speed in' });
  await expect(half).toHaveAttribute('aria-valuenow', '70');
  await dragBy(page, half, 0, 10);
  await expect(half).not.toHaveAttribute('aria-valuenow', '70');
  await page.getByRole('button', { name: 'Ledger' }).click();
  await row(page, 3).getByRole('button', { name: 'Join key 3' }).click();
  await expect(row(page, 3)).toHaveAccessibleName(/speed 0\.4\b/);
});

test('a table is copied out, and pasted in again', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.getByRole('button', { name: 'Ledger' }).click();
  await page.getByRole('button', { name: 'Copy table' }).click();
  await expect(page.getByText('6 keys as a table.')).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied.split('\n')).toHaveLength(7);
  expect(copied.split('\n')[0]).toBe('output\tsource\tspeed in\tspeed out\tease');
  await page.getByRole('button', { name: 'Speed curve' }).click();
  const before = await handles(page);
  await applySheet(page, 'Fit', { fill: { 'New duration': '3s' } });
  await page.getByRole('heading').first().click();
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('textbox', { name: 'Table' })).toHaveValue(copied);
  await page.getByRole('dialog').getByRole('button', { name: 'Apply' }).click();
  await expect.poll(() => handles(page)).toEqual(before);
});

test('positions from a spreadsheet: 0→0, 50→25, 75→10, 150→143', async ({ page }) => {
  const sheet = await openSheet(page, 'Paste table', { choose: ['Linear'] });
  const table = sheet.getByRole('textbox', { name: 'Table' });
  for (const [text, reason] of [
    ['output\tspeed\n0\t1', 'The table has no column “source”. It has: output, speed.'],
    ['0\n50', 'has only one column'],
    ['0\t0\n50f\tabc', 'Row 2: source isn’t a frame number'],
    ['0\t0\n50\t1e309', 'Row 2: source'],
    ['5\t0\n50\t25', 'The first row must be output frame 0; it is 5.'],
    ['0\t0\n50\t25\n50\t30', 'Row 3: output frame 50 must be after the row above it.'],
  ] as const) {
    await table.fill(text);
    await expect(sheet.getByRole('alert')).toContainText(reason);
    await expect(sheet.getByRole('button', { name: 'Apply' })).toBeDisabled();
  }
  await table.fill('output,source\n0,0\n50,25\n75,10\n150,143');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await typeReadout(page, 'Output', '60f');
  await expect(readout(page, 'Speed')).toContainText('−×0.60');
  await expect(readout(page, 'Source frame')).toContainText('0019');
  await toTheEnd(page);
  await expect(readout(page, 'Output')).toContainText('00:00:06:05');
  await undo(page, 'paste a table');
});

test('times are counted in another way everywhere at once', async ({ page }) => {
  await typeReadout(page, 'Output', '28f');
  for (const [unit, output, source] of [
    ['timecode', '28f', '0028'],
    ['frames from 0', '29f', '0029'],
    ['frames from 1', '1.167s', '0028'],
  ] as const) {
    await page.getByRole('button', { name: `Times in ${unit}. Change unit` }).click();
    await expect(readout(page, 'Output')).toContainText(output);
    await expect(readout(page, 'Source frame')).toContainText(source);
  }
});

test('several keys are chosen with a box, moved, eased and removed together', async ({ page }) => {
  await paceAction(page, 'Select keys');
  const box = (await page.getByTestId('curve').boundingBox())!;
  await page.mouse.move(box.x + 50, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + 200, box.y + box.height - 40, { steps: 6 });
  await page.mouse.up();
  const bar = page.getByRole('toolbar', { name: 'Selected keys' });
  await expect(bar).toContainText('2 keys');
  await bar.getByRole('button', { name: '+ 1' }).click();
  await expect(page.getByRole('slider', { name: 'Thread of key 2, output' })).toHaveAttribute('aria-valuenow', '29');
  await bar.getByRole('button', { name: 'Ease' }).click();
  const sheet = page.getByRole('dialog', { name: 'Ease 2 keys' });
  await sheet.getByRole('radio', { name: 'linear' }).click();
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('button', { name: 'Undo: ease keys' })).toBeEnabled();
  await bar.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('slider', { name: /^Part 3 of 3/ })).toBeVisible();
});

test('the handles of a selected ramp are dragged, and one edge alone with Shift', async ({ page }) => {
  const ramp = page.getByRole('slider', { name: 'Ramp 2 of 5' });
  await dragBy(page, page.getByRole('button', { name: 'Width of ramp 2 of 5, left side' }), -10, 0);
  const left = (await page.getByRole('slider', { name: 'Thread of key 3, output' }).getAttribute('aria-valuenow'))!;
  await page.keyboard.down('Shift');
  await dragBy(page, page.getByRole('button', { name: 'Width of ramp 2 of 5, left side' }), -8, 0);
  await page.keyboard.up('Shift');
  await expect(page.getByRole('slider', { name: 'Thread of key 3, output' })).toHaveAttribute('aria-valuenow', left);
  await ramp.focus();
  await dragBy(page, page.getByRole('slider', { name: 'First handle of ramp 2' }), 6, 12);
  await expect(page.getByRole('button', { name: 'Undo: shape a ramp' })).toBeEnabled();
});

test('the map of keys tells them all, and they work', async ({ page }) => {
  await page.keyboard.press('?');
  const keys = page.getByRole('dialog', { name: 'Shortcuts' });
  await expect(keys.getByRole('listitem')).toHaveCount(48);
  await page.keyboard.press('Escape');
  await expect(keys).toBeHidden();
  await page.keyboard.press('.');
  await expect(readout(page, 'Source frame')).toContainText('0028');
  await page.keyboard.press('n');
  await page.keyboard.press('w');
  await expect(page.getByRole('button', { name: 'Snap' })).toHaveAttribute('aria-pressed', 'false');
  await page.keyboard.press('1');
  await expect(page.getByRole('dialog', { name: 'Floor and cadence' })).toBeVisible();
});
