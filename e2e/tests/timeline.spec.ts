import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { dragBy, expect, readout, saved, test, typeReadout, type TestApp } from '../support/app';
import { scratch } from '../support/files';
import { clip, clipNames, openDemoTimeline, storedDocument, storedRow, timelineAction } from '../support/timeline';

test.beforeEach(async ({ page, app }) => openDemoTimeline(page, app));

const ROW = 'The drop/189 The bowl/192 The steps/259';

/** Waits until the row of the first track is this one on the server. */
async function rowIs(page: Page, app: TestApp, row: string, track = 0): Promise<void> {
  await saved(page);
  await expect.poll(() => storedRow(page, app, track)).toBe(row);
}

test('clips lie in a row, are split, trimmed at the playhead, duplicated and removed', async ({ page, app }) => {
  await rowIs(page, app, ROW);
  await typeReadout(page, 'Output', '100f');
  await timelineAction(page, 'Split');
  await rowIs(page, app, 'The drop/100 The drop/89 The bowl/192 The steps/259');
  await typeReadout(page, 'Output', '120f');
  await timelineAction(page, 'Trim start');
  await rowIs(page, app, 'The drop/100 The drop/69 The bowl/192 The steps/259');
  await typeReadout(page, 'Output', '150f');
  await timelineAction(page, 'Trim end');
  await rowIs(page, app, 'The drop/100 The drop/50 The bowl/192 The steps/259');
  await timelineAction(page, 'Duplicate');
  await rowIs(page, app, 'The drop/100 The drop/50 The drop/50 The bowl/192 The steps/259');
  await timelineAction(page, 'Lift');
  await rowIs(page, app, 'The drop/100 The drop/50 (50) The bowl/192 The steps/259');
  await clip(page, 'The bowl').click();
  await timelineAction(page, 'Remove');
  await rowIs(page, app, 'The drop/100 The drop/50 (50) The steps/259');
  for (let step = 0; step < 6; step++) await page.getByRole('button', { name: /^Undo: / }).click();
  await rowIs(page, app, ROW);
});

test('a clip is dragged to another place, its edges trim or stretch', async ({ page, app }) => {
  // From its far end to before the first: the others move up.
  const box = (await clip(page, 'The steps').boundingBox())!;
  await dragBy(page, clip(page, 'The steps'), -box.x + 30, 0);
  await rowIs(page, app, 'The steps/259 The drop/189 The bowl/192');
  await page.getByRole('button', { name: 'Undo: move a clip' }).click();
  await clip(page, 'The bowl').click();
  await page.getByRole('button', { name: 'Snap' }).click();
  await dragBy(page, page.getByRole('slider', { name: 'End of The bowl' }), -20, 0);
  await expect(page.getByRole('button', { name: 'Undo: trim a clip' })).toBeEnabled();
  await saved(page);
  const trimmed = (await storedDocument(page, app)).clips.find(({ name }) => name === 'The bowl')!;
  expect(trimmed.shown.frames).toBeLessThan(192);
  await page.getByRole('button', { name: 'Edges change speed' }).click();
  const end = page.getByRole('slider', { name: 'End of The bowl' });
  await end.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByRole('button', { name: 'Undo: change a clip’s speed' })).toBeEnabled();
  await saved(page);
  const stretched = (await storedDocument(page, app)).clips.find(({ name }) => name === 'The bowl')!;
  expect(stretched.shown.frames).toBe(trimmed.shown.frames + 10);
  // What lies before and after it is as it was: only the shown part was stretched.
  expect(await clipNames(page)).toEqual(['The drop', 'The bowl', 'The steps']);
});

test('with a finger a clip is held to be picked up; a quick stroke pans', async ({ page, app }) => {
  const session = await page.context().newCDPSession(page);
  const box = (await clip(page, 'The steps').boundingBox())!;
  const at = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', x?: number) =>
    session.send('Input.dispatchTouchEvent', { type, touchPoints: x === undefined ? [] : [{ x, y: at.y }] });
  // All at once, so that a busy machine does not make a hold of it.
  await Promise.all([
    touch('touchStart', at.x),
    ...[30, 60, 90].map((x) => touch('touchMove', at.x - x)),
    touch('touchEnd'),
  ]);
  await rowIs(page, app, ROW);
  await touch('touchStart', at.x);
  await expect(page.getByText('picked up')).toBeVisible();
  for (let x = at.x; x > 55; x -= 20) await touch('touchMove', x);
  await touch('touchMove', 50);
  await touch('touchEnd');
  await expect(page.getByRole('button', { name: 'Undo: move a clip' })).toBeEnabled();
  await rowIs(page, app, 'The steps/259 The drop/189 The bowl/192');
});

test('a clip’s numbers are typed: place, length, percent, handles; a retime ripples or keeps its slot', async ({
  page,
  app,
}) => {
  await clip(page, 'The bowl').click();
  await timelineAction(page, 'Clip');
  const sheet = page.getByRole('dialog', { name: 'The bowl' });
  const type = async (label: string, text: string): Promise<void> => {
    await sheet.getByRole('button', { name: new RegExp(`^${label}:`) }).click();
    await sheet.getByRole('textbox', { name: label }).fill(text);
    await sheet.getByRole('textbox', { name: label }).press('Enter');
  };
  await type('Duration', '96f');
  await rowIs(page, app, 'The drop/189 The bowl/96 The steps/259');
  await expect(sheet.getByRole('button', { name: /^Percent: 90/ })).toBeVisible();
  await sheet.getByRole('radio', { name: 'Keep duration' }).click();
  await sheet.getByRole('button', { name: 'Close' }).click();
  // A retime in Pace: the slot stays, the excess is hidden.
  await page.getByRole('link', { name: 'Pace' }).click();
  await expect(page.getByRole('group', { name: 'Speed curve' })).toBeVisible();
  await page.getByRole('button', { name: 'Speed', exact: true }).click();
  const speed = page.getByRole('dialog', { name: 'Speed' });
  await speed.getByRole('radio', { name: 'Whole clip' }).click();
  await speed.getByRole('textbox', { name: 'Speed' }).fill('25%');
  await speed.getByRole('button', { name: 'Apply' }).click();
  await rowIs(page, app, 'The drop/189 The bowl/96 The steps/259');
  await page.getByRole('link', { name: 'Timeline' }).click();
  await timelineAction(page, 'Clip');
  await sheet.getByRole('radio', { name: 'Ripple' }).click();
  await type('Tail handle', '0');
  await saved(page);
  const { shown } = (await storedDocument(page, app)).clips.find(({ name }) => name === 'The bowl')!;
  expect(shown.frames).toBeGreaterThan(400);
  await sheet.getByRole('button', { name: /^Start:/ }).click();
  await sheet.getByRole('textbox', { name: 'Start' }).fill('soon');
  await sheet.getByRole('textbox', { name: 'Start' }).press('Enter');
  await expect(sheet.getByRole('alert')).toContainText('Start');
});

test('a gap is filled exactly, its speed told before', async ({ page, app }) => {
  await clip(page, 'The bowl').click();
  await timelineAction(page, 'Lift');
  await rowIs(page, app, 'The drop/189 (192) The steps/259');
  // Two gaps: the one that is pointed at is the one to fill.
  await typeReadout(page, 'Output', '100f');
  await timelineAction(page, 'Split');
  await typeReadout(page, 'Output', '120f');
  await clip(page, 'The drop').first().click();
  await timelineAction(page, 'Lift');
  await rowIs(page, app, '(100) The drop/89 (192) The steps/259');
  await clip(page, 'The steps').click();
  const gaps = page.getByRole('button', { name: /^Gap on/ });
  await expect(gaps).toHaveCount(2);
  await gaps.first().click();
  await expect(gaps.first()).toHaveAttribute('aria-pressed', 'true');
  await timelineAction(page, 'Fit to gap');
  const sheet = page.getByRole('dialog', { name: /to gap$/ });
  await expect(sheet.getByRole('status')).toContainText('259 frames into 100: ');
  await sheet.getByRole('radio', { name: /192 frames/ }).click();
  await expect(sheet.getByRole('status')).toContainText('259 frames into 192: ');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await rowIs(page, app, '(100) The drop/89 The steps/192');
});

test('clips become a group, which is reversed, opened, edited inside and taken apart', async ({ page, app }) => {
  await page.getByRole('button', { name: 'Select several' }).click();
  await clip(page, 'The drop').click();
  await clip(page, 'The bowl').click();
  await expect(page.getByText('2 selected')).toBeVisible();
  await page.getByRole('button', { name: 'Select several' }).click();
  await timelineAction(page, 'Group');
  await rowIs(page, app, 'Group 1/381 The steps/259');
  await typeReadout(page, 'Output', '380f');
  const lastOfTheBowl = await readout(page, 'The bowl').textContent();
  // Pace works on the group as on any clip.
  await timelineAction(page, 'Pace');
  await expect(page.getByRole('group', { name: 'Speed curve' })).toBeVisible();
  await page.getByRole('button', { name: 'Reverse', exact: true }).click();
  const reverse = page.getByRole('dialog', { name: 'Reverse' });
  await reverse.getByRole('radio', { name: 'Whole clip' }).click();
  await reverse.getByRole('button', { name: 'Apply' }).click();
  await page.getByRole('link', { name: 'Timeline' }).click();
  await page.getByRole('button', { name: 'First frame' }).click();
  await expect(readout(page, 'The bowl')).toHaveText(lastOfTheBowl!);
  // Inside it, the clips lie as they lay; what is changed there changes the group.
  await timelineAction(page, 'Open group');
  await expect(page.getByRole('heading', { name: 'Marble film · Group 1' })).toBeVisible();
  // The playhead stays on the picture, which inside lies at the end.
  await expect(readout(page, 'The bowl')).toHaveText(lastOfTheBowl!);
  await clip(page, 'The drop').click();
  await timelineAction(page, 'Remove');
  await expect(clip(page, 'The drop')).toBeHidden();
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await rowIs(page, app, 'Group 1/192 The steps/259');
  await clip(page, 'Group 1').click();
  await timelineAction(page, 'Ungroup');
  await expect(page.getByRole('alert')).toContainText('can’t keep that timing');
});

test('two clips are joined across their cut', async ({ page, app }) => {
  await clip(page, 'The drop').click();
  await timelineAction(page, 'Join');
  const sheet = page.getByRole('dialog', { name: 'Join The drop and The bowl' });
  await sheet.getByRole('textbox', { name: 'Speed at cut' }).fill('500%');
  await expect(sheet.getByRole('status')).toContainText('Duration 189 →');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const { clips } = await storedDocument(page, app);
  expect(clips.find(({ name }) => name === 'The drop')!.timing.spans.at(-1)!.y[3]).toBe(5);
  expect(clips.find(({ name }) => name === 'The bowl')!.timing.spans[0]!.y[0]).toBe(5);
});

test('timing is copied from one clip and pasted on several', async ({ page, app }) => {
  await clip(page, 'The drop').click();
  await timelineAction(page, 'Copy settings');
  await page.keyboard.press('Control+a');
  await expect(page.getByText('3 selected')).toBeVisible();
  await timelineAction(page, 'Paste settings');
  const sheet = page.getByRole('dialog', { name: 'Paste from The drop' });
  await expect(sheet.getByRole('status')).toContainText('On 3 clips: timing');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await rowIs(page, app, ROW);
  const { clips } = await storedDocument(page, app);
  expect(new Set(clips.map(({ timing }) => timing.spans.length)).size).toBe(1);
});

test('markers are set while it plays, named, moved, listed, exported and brought in', async ({ page, app }) => {
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(readout(page, 'Output')).not.toContainText('00:00:00:00');
  await page.keyboard.press('m');
  await page.getByRole('button', { name: 'Pause' }).click();
  await typeReadout(page, 'Output', '240f');
  await page.getByRole('button', { name: 'Add marker', exact: true }).click();
  await timelineAction(page, 'Markers');
  const sheet = page.getByRole('dialog', { name: 'Markers' });
  await expect(sheet.getByRole('listitem')).toHaveCount(2);
  const name = sheet.getByRole('textbox', { name: 'Name of marker at 00:00:10:00' });
  await name.fill('Lands, softly');
  await name.press('Enter');
  await sheet
    .getByRole('button', { name: /^Colour: oak/ })
    .last()
    .click();
  await expect(page.getByRole('button', { name: 'Marker Lands, softly at 00:00:10:00' })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    sheet.getByRole('button', { name: 'CSV' }).click(),
  ]);
  const csv = await readFile((await download.path())!, 'utf8');
  expect(csv).toContain('240,00:00:10:00,"Lands, softly",moss');
  const [vtt] = await Promise.all([
    page.waitForEvent('download'),
    sheet.getByRole('button', { name: 'WebVTT' }).click(),
  ]);
  expect(await readFile((await vtt.path())!, 'utf8')).toContain(
    '00:00:10.000 --> 00:00:10.042\n<c.moss>Lands, softly</c>',
  );
  const broken = join(await scratch(), 'broken.csv');
  await writeFile(broken, 'frame,name\n12,ok\nx,no\n');
  await sheet.getByLabel('Marker file').setInputFiles(broken);
  await expect(page.getByRole('alert')).toContainText('broken.csv: row 3');
  // The marker set while it played may lie anywhere, also where the next one comes.
  await sheet
    .getByRole('button', { name: /^Remove marker/ })
    .first()
    .click();
  const good = join(await scratch(), 'good.csv');
  await writeFile(good, 'frame,name\n12,first\n36,second\n');
  await sheet.getByLabel('Marker file').setInputFiles(good);
  await expect(sheet.getByRole('listitem')).toHaveCount(3);
  await sheet.getByRole('button', { name: 'Close' }).click();
  await typeReadout(page, 'Output', '11f');
  await expect(readout(page, 'Output')).toContainText('00:00:00:11');
  await page.keyboard.press('.');
  await expect(readout(page, 'Output')).toContainText('00:00:00:12');
  const marker = page.getByRole('button', { name: 'Marker second at 00:00:01:12' });
  await marker.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await rowIs(page, app, ROW);
  expect((await storedDocument(page, app)).sequence.markers.map(({ at }) => at)).toContain(46);
});

test('footage is added at the playhead, above and as sound; tracks go on and off', async ({ page, app }) => {
  await typeReadout(page, 'Output', '100f');
  await timelineAction(page, 'Add');
  const sheet = page.getByRole('dialog', { name: 'Add footage' });
  await sheet.getByRole('radio', { name: 'Above, at playhead' }).click();
  await sheet.getByRole('button', { name: 'Add The steps.mp4' }).click();
  await rowIs(page, app, '(100) The steps/72', 1);
  await expect(readout(page, 'The steps')).toContainText('0000');
  await sheet.getByRole('radio', { name: 'At playhead', exact: true }).click();
  await sheet.getByRole('button', { name: 'Add The bowl.mp4' }).click();
  await rowIs(page, app, 'The drop/100 The bowl/120 The drop/89 The bowl/192 The steps/259');
  await sheet.getByRole('radio', { name: 'Sound only' }).click();
  await sheet.getByRole('button', { name: 'Add The drop.mp4' }).click();
  await rowIs(page, app, '(100) The drop/144', 2);
  await sheet.getByRole('button', { name: 'Close' }).click();
  await timelineAction(page, 'Tracks');
  const tracks = page.getByRole('dialog', { name: 'Tracks' });
  await tracks.getByRole('button', { name: 'Picture 2: on' }).click();
  await expect(readout(page, 'The bowl')).toContainText('0000');
  await expect(tracks.getByRole('button', { name: 'Remove Picture 2' })).toBeDisabled();
});

test('the sequence’s rate, size and timecode are set, and the playhead goes over the same picture to Pace and back', async ({
  page,
  app,
}) => {
  await timelineAction(page, 'Sequence');
  const sheet = page.getByRole('dialog', { name: 'Sequence' });
  await sheet.getByRole('button', { name: /^Start timecode:/ }).click();
  await sheet.getByRole('textbox', { name: 'Start timecode' }).fill('10:00:00:00');
  await sheet.getByRole('textbox', { name: 'Start timecode' }).press('Enter');
  await expect(readout(page, 'Output')).toContainText('10:00:00:00');
  await sheet.getByRole('radio', { name: '25', exact: true }).click();
  await saved(page);
  expect((await storedDocument(page, app)).sequence).toMatchObject({ rate: { num: 25, den: 1 }, startFrame: 900_000 });
  await page.getByRole('button', { name: 'Undo: change the rate' }).click();
  await sheet.getByRole('button', { name: 'Close' }).click();
  await clip(page, 'The bowl').click();
  await typeReadout(page, 'Output', '10:00:12:00');
  const frame = /\d{4}/.exec((await readout(page, 'The bowl').textContent())!)![0];
  await page.getByRole('link', { name: 'Pace' }).click();
  await expect(readout(page, 'Source frame')).toContainText(frame);
  await page.getByRole('link', { name: 'Timeline' }).click();
  await expect(readout(page, 'Output')).toContainText('10:00:12:00');
});
