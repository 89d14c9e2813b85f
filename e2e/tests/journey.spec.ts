import type { ProjectDocument, RetimeMap, StoredProject } from '@hastig/contract';
import { mapOf } from '@hastig/core';
import type { Page } from '@playwright/test';
import { devices } from '../support/devices';
import { expect, readout, saved, test, typeReadout, type TestApp } from '../support/app';
import { fixture, heldFrames, readPlates, scratch, soundPeak } from '../support/files';

async function storedMap(app: TestApp, page: Page): Promise<RetimeMap> {
  const id = /project\/([^/]+)/.exec(page.url())![1];
  const { document } = (await (await fetch(`${app.address}/api/projects/${id}`)).json()) as StoredProject & {
    document: ProjectDocument;
  };
  return mapOf(document, document.clips[0]!);
}

for (const device of ['phone', 'desk'] as const) {
  test.describe(device, () => {
    test.use(devices[device]);

    test('from a clip to a retimed file', { tag: device === 'desk' ? '@long' : [] }, async ({ page, app }) => {
      await page.goto(app.address);
      await page.getByRole('button', { name: 'New project' }).click();
      await page.getByRole('textbox', { name: 'Project name' }).fill('Proof');
      await page.getByRole('button', { name: 'Create' }).click();

      // Every picture of the file is to be one of the clip's own.
      await page.getByRole('button', { name: /^Settings/ }).click();
      const slow = page.getByRole('radiogroup', { name: 'Slow parts of new clips' });
      await expect(slow.getByRole('radio', { name: 'Compensated' })).toBeChecked();
      await slow.getByRole('radio', { name: 'Held' }).click();
      await page.getByRole('button', { name: /^Settings/ }).click();

      // Bring in a clip and look at its facts.
      await page
        .getByLabel('Files to import')
        .setInputFiles([fixture('plates-b-frames.mp4'), fixture('plates-60.mp4')]);
      const card = page.getByRole('listitem', { name: 'plates-b-frames.mp4' });
      await expect(card.getByRole('link', { name: 'Retime plates-b-frames' })).toBeVisible();
      await expect(page.getByRole('listitem', { name: 'plates-60.mp4' })).toBeVisible();
      await card.getByRole('button', { name: 'Details of' }).click();
      for (const fact of ['24 fps', '144', '320 × 180', '6.000 s', '48 frames', 'none'])
        await expect(card.getByText(fact, { exact: true })).toBeVisible();
      await saved(page);
      await page.reload();
      await card.getByRole('link', { name: 'Retime plates-b-frames' }).click();
      await expect(readout(page, 'Output')).toContainText('00:00:00:00');

      // Slow one part.
      await page.getByRole('button', { name: 'Speed', exact: true }).click();
      const speed = page.getByRole('dialog', { name: 'Speed' });
      await speed.getByRole('radio', { name: 'Range' }).click();
      await speed.getByRole('textbox', { name: 'From' }).fill('1:00');
      await speed.getByRole('textbox', { name: 'To' }).fill('72f');
      await speed.getByRole('textbox', { name: 'Speed' }).fill('40%');
      await expect(speed.getByRole('status')).toContainText('216 frames');
      await speed.getByRole('button', { name: 'Apply' }).click();
      await expect(page.getByRole('slider', { name: 'Part 2 of 3' })).toHaveAttribute(
        'aria-valuetext',
        /40% for 120 frames/,
      );

      // A ramp into the slow part.
      await typeReadout(page, 'Output', '24f');
      await page.getByRole('button', { name: 'Ramp', exact: true }).click();
      const ramp = page.getByRole('dialog', { name: /^Ramp at/ });
      await ramp.getByRole('textbox', { name: 'Speed after' }).fill('x0.4');
      await ramp.getByRole('textbox', { name: 'Duration' }).fill('16f');
      await ramp.getByRole('radio', { name: 'ease-in-out' }).click();
      await ramp.getByRole('button', { name: 'Apply' }).click();
      await expect(page.getByRole('slider', { name: 'Ramp 2 of 4' })).toHaveAttribute(
        'aria-valuetext',
        /×1\.00 to ×0\.40 over 16 frames/,
      );

      // A freeze, and a part turned round.
      await typeReadout(page, 'Output', '100f');
      await page.getByRole('button', { name: 'Freeze' }).click();
      const hold = page.getByRole('dialog', { name: /^Freeze/ });
      await hold.getByRole('textbox', { name: 'Duration' }).fill('0.5s');
      await hold.getByRole('button', { name: 'Apply' }).click();
      await page.getByRole('button', { name: 'Reverse' }).click();
      const back = page.getByRole('dialog', { name: 'Reverse' });
      await back.getByRole('radio', { name: 'Range' }).click();
      await back.getByRole('textbox', { name: 'From' }).fill('130f');
      await back.getByRole('textbox', { name: 'To' }).fill('160f');
      await back.getByRole('button', { name: 'Apply' }).click();
      await typeReadout(page, 'Output', '140f');
      await expect(readout(page, 'Speed')).toContainText('−×0.40');

      // Undo, reload, redo: history reaches past the reload.
      await page.getByRole('button', { name: 'Undo: reverse' }).click();
      await expect(readout(page, 'Speed')).toContainText('×0.40');
      await expect(readout(page, 'Speed')).not.toContainText('−');
      await saved(page);
      await page.reload();
      await page.getByRole('button', { name: 'Redo: reverse' }).click();
      await typeReadout(page, 'Output', '140f');
      await expect(readout(page, 'Speed')).toContainText('−×0.40');
      await saved(page);

      // The file: every frame of it is the one the document asks for.
      await page.getByRole('link', { name: 'Output', exact: true }).click();
      await page.getByRole('textbox', { name: 'File name' }).fill('proof');
      await page.getByRole('button', { name: 'Render', exact: true }).click();
      // It goes on, or stays done, while one works elsewhere.
      await page.getByRole('link', { name: 'Pace', exact: true }).click();
      await expect(page.getByRole('group', { name: 'Speed curve' })).toBeVisible();
      await page.getByRole('link', { name: 'Output', exact: true }).click();
      await expect(page.getByText(/proof\.mp4 is ready: 228 frames/)).toBeVisible({ timeout: 120_000 });
      const download = page.waitForEvent('download');
      await page.getByRole('button', { name: 'Download', exact: true }).click();
      const file = `${await scratch()}/proof.mp4`;
      await (await download).saveAs(file);
      const { plates } = await readPlates(file);
      expect(plates).toEqual(await heldFrames(await storedMap(app, page)));
      await page.getByRole('button', { name: 'Delete proof.mp4' }).click();
      await expect(page.getByRole('button', { name: 'Download proof.mp4' })).toBeHidden();
      await expect(page.getByRole('button', { name: 'Download', exact: true })).toBeHidden();
    });
  });
}

test('a render can be cancelled and leaves nothing', async ({ page, app }) => {
  await page.goto(app.address);
  await page.getByRole('button', { name: 'Open demo' }).click();
  await page.getByRole('link', { name: 'Retime The steps' }).click();
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  await page.getByRole('textbox', { name: 'File name' }).fill('a/b');
  await expect(page.getByRole('alert')).toContainText('must not contain');
  await expect(page.getByRole('button', { name: 'Render', exact: true })).toBeDisabled();
  await page.getByRole('textbox', { name: 'File name' }).fill('given up');
  await page.getByRole('button', { name: 'Render', exact: true }).click();
  await expect(page.getByText(/\d+ of \d+ frames/)).toBeVisible();
  await page.getByRole('button', { name: 'Cancel render' }).click();
  await expect(page.getByText('Render cancelled: given up.mp4. Nothing was saved.')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Rendered files' })).toBeHidden();
});

test('a clip becomes a file of open formats, or its sound alone', { tag: '@long' }, async ({ page, app }) => {
  await page.goto(app.address);
  await page.getByRole('button', { name: 'Open demo' }).click();
  await page.getByRole('link', { name: 'Retime The drop' }).click();
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  const rendered = async (format: string, name: string): Promise<string> => {
    await page.getByRole('radiogroup', { name: 'Format' }).getByRole('radio', { name: format, exact: true }).click();
    await expect(page.getByText(name, { exact: true })).toBeVisible();
    await page.getByRole('button', { name: 'Render', exact: true }).click();
    await expect(page.getByText(`${name} is ready`)).toBeVisible({ timeout: 120_000 });
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: `Download ${name}` }).click();
    const file = `${await scratch()}/${name}`;
    await (await download).saveAs(file);
    return file;
  };
  const webm = await rendered('WebM', 'The drop.webm');
  // Of sound alone nothing is asked about a picture.
  await page.getByRole('radio', { name: 'Sound', exact: true }).click();
  await expect(page.getByRole('radiogroup', { name: 'Frame rate' })).toBeHidden();
  await expect(page.getByText(/^WAV, PCM 24 bit: /)).toBeVisible();
  const wav = await rendered('WAV', 'The drop.wav');
  const map = await storedMap(app, page);
  const { plates } = await readPlates(webm, false);
  expect(plates).toEqual(await heldFrames(map));
  const [inVideo, alone] = [await soundPeak(webm, 0, 100), await soundPeak(wav, 0, 100)];
  expect(alone.seconds).toBeCloseTo(plates.length / 24, 3);
  expect(alone.level).toBeGreaterThan(0.1);
  expect(Math.abs(inVideo.onset - alone.onset)).toBeLessThan(0.001);
});
