import { accessFaults } from '../support/accessible';
import { expect, makeDemo, readout, saved, test } from '../support/app';
import { storedDocument } from '../support/timeline';

test('before a film goes out, what may be wrong is listed, gone to and mended, in picture and sound', async ({
  page,
  app,
}) => {
  const { id } = await makeDemo(app);
  await page.goto(`${app.address}/project/${id}/output`);
  const check = page.getByRole('group', { name: 'Check', exact: true });
  await expect(check.getByText('1 thing to look at.')).toBeVisible();
  const row = check.getByRole('listitem').filter({ hasText: 'The drop: Below the real-frame floor' });
  await row.getByRole('button', { name: /^Go to/ }).click();
  await expect(readout(page, 'Output')).toContainText('00:00:01:16');
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await row.getByRole('button', { name: 'Raise to the floor' }).click();
  await expect(check.getByText(/^Clean: /)).toBeVisible();
  await check.getByRole('radiogroup', { name: 'Loudness target' }).getByRole('radio', { name: '−23 LUFS' }).click();
  await check.getByRole('button', { name: 'Check sound' }).click();
  await expect(check.getByText(/LUFS, true peak/)).toBeVisible({ timeout: 60_000 });
  await check.getByRole('button', { name: 'Set the mix to −23 LUFS' }).click();
  await check.getByRole('button', { name: 'Check sound' }).click();
  await expect(check.getByText(/^−2[23]\.\d LUFS, true peak/)).toBeVisible({ timeout: 60_000 });
  await expect(check.getByText(/the target\.$/)).toBeHidden();
  await saved(page);
  expect((await storedDocument(page, app)).sequence.master).toMatchObject({ limit: -1 });
  await page.getByRole('button', { name: 'Undo: set the loudness' }).click();
  await page.getByRole('button', { name: 'Undo: raise to the floor' }).click();
  await expect(check.getByText('1 thing to look at.')).toBeVisible();
});
