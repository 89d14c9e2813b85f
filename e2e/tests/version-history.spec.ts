import { expect, openDemoClip, saved, test } from '../support/app';
import { applySheet } from '../support/pace';

test('a project is taken back to an earlier state, and undo brings back what it was', async ({ page, app }) => {
  await openDemoClip(page, app, 'The drop');
  await applySheet(page, 'Fit', { fill: { 'New duration': '2s' } });
  await saved(page);
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  const card = page.getByRole('listitem', { name: 'The drop.mp4' });
  await expect(card).toContainText('00:00:02:00');
  await page.getByRole('button', { name: 'Version history' }).click();
  const states = page.getByRole('list', { name: 'Version history' });
  await expect(states.getByRole('listitem')).toHaveCount(1);
  await states.getByRole('button', { name: 'Restore' }).click();
  // Of a long list only what is in sight is there: back to its beginning.
  await page.getByRole('button', { name: 'Search' }).scrollIntoViewIfNeeded();
  await expect(card).toContainText('00:00:07:21');
  await saved(page);
  await page.getByRole('button', { name: /^Undo: restore/ }).click();
  await expect(card).toContainText('00:00:02:00');
  await saved(page);
  await page.reload();
  await expect(card).toContainText('00:00:02:00');
});

test('a version is given a name, and is found by it later', async ({ page, app }) => {
  await openDemoClip(page, app, 'The drop');
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await page.getByRole('button', { name: 'Version history' }).click();
  const entry = page.getByRole('textbox', { name: 'Name of this version' });
  await entry.fill('As it came');
  await entry.press('Enter');
  await page.getByRole('button', { name: 'Add Title card.png to timeline' }).click();
  await saved(page);
  const version = page.getByRole('listitem').filter({ hasText: 'As it came' });
  await version.getByRole('button', { name: 'Rename As it came' }).click();
  await version.getByRole('textbox', { name: 'Name' }).fill('Before the cut');
  await version.getByRole('textbox', { name: 'Name' }).press('Enter');
  const renamed = page.getByRole('listitem').filter({ hasText: 'Before the cut' });
  await expect(renamed).toBeVisible();
  await renamed.getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByRole('button', { name: 'Undo: restore “Before the cut”' })).toBeVisible();
});
