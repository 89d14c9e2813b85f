import type { PictureSettings, ProjectDocument } from '@hastig/contract';
import {
  addTrack,
  constantSpan,
  duplicateClips,
  framesOf,
  groupClips,
  mapOf,
  moveClips,
  picturePlan,
  plainPicture,
  programOf,
  reverseRange,
  SEQUENCE,
  setPicture,
  slipClip,
  speedClip,
  trimClip,
  withTiming,
} from '@hastig/core';
import type { Locator, Page } from '@playwright/test';
import { expect, restingBox, saved, test, typeReadout, type TestApp } from '../support/app';
import { demoClip, fixture, readPlates } from '../support/files';
import { clip, openDemoTimeline, projectOf, renderDocument, storedDocument, timelineAction } from '../support/timeline';

/** Lays The steps above the row, from its first frame on, and opens its picture's sheet. */
async function openOverlay(page: Page, app: TestApp): Promise<Locator> {
  await openDemoTimeline(page, app);
  await timelineAction(page, 'Add');
  const adding = page.getByRole('dialog', { name: 'Add footage' });
  await adding.getByRole('radio', { name: 'Above, at playhead' }).click();
  await adding.getByRole('button', { name: 'Add The steps.mp4' }).click();
  await adding.getByRole('button', { name: 'Close' }).click();
  await clip(page, 'The steps').first().click();
  await timelineAction(page, 'Framing');
  return page.getByRole('dialog', { name: 'Framing of The steps' });
}

/** The settings of the clip that lies above. */
async function settingsOf(page: Page, app: TestApp): Promise<PictureSettings | undefined> {
  await saved(page);
  const document = await storedDocument(page, app);
  const [item] = document.sequence.tracks[1]!.items;
  return document.clips.find(({ id }) => item && 'clip' in item && id === item.clip)!.picture;
}

test('a picture is laid over another by numbers, places and by hand, and set back', async ({ page, app }) => {
  const sheet = await openOverlay(page, app);
  const field = (name: string): Locator => sheet.getByRole('textbox', { name, exact: true });
  await field('Scale').fill('25%');
  await sheet.getByRole('radio', { name: 'Top right' }).click();
  await expect(field('Position X')).toHaveValue('37.5%');
  await expect(field('Position Y')).toHaveValue('-37.5%');

  // By hand: half the picture to the left and a third down; near the middle it comes to rest there.
  const grip = page.getByRole('group', { name: /^Framing of The steps/ });
  const { x, y, width, height } = await restingBox(grip);
  await page.mouse.move(x + width * 0.9, y + height * 0.1);
  await page.mouse.down();
  await page.mouse.move(x + width * 0.6, y + height * 0.3, { steps: 4 });
  await page.mouse.move(x + width * 0.52, y + height * 0.45, { steps: 4 });
  await page.mouse.up();
  await expect(field('Position X')).toHaveValue('0%');
  await expect(field('Position Y')).toHaveValue(/^-[2-5](\.\d+)?%$/);
  // The keys are the place's after a drag; the grip has them once the keyboard has reached it.
  await page.keyboard.press('Tab');
  await page.keyboard.press('Shift+Tab');
  await grip.press('ArrowRight');
  await expect(field('Position X')).toHaveValue(/^[12](\.\d+)?%$/);
  await page.mouse.move(x + width / 2, y + height / 2);
  await page.mouse.wheel(0, -200);
  await expect(field('Scale')).toHaveValue('37.3%');

  await sheet.getByRole('radio', { name: 'Bottom left' }).click();
  await field('Scale').fill('50%');
  // What lies in a corner stays in it while its size changes.
  await expect(field('Position X')).toHaveValue('-25%');
  await expect(field('Position Y')).toHaveValue('25%');
  await field('Opacity').fill('80');
  await field('Rotation').fill('-90');
  await sheet.getByRole('radio', { name: 'Horizontal' }).click();
  await field('Crop left').fill('10');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  const laid = await settingsOf(page, app);
  expect(laid).toMatchObject({ fit: 'whole', scale: 0.5, turn: -90, mirror: 'across', opacity: 0.8 });
  expect(laid!.crop).toEqual({ left: 0.1, top: 0, right: 0, bottom: 0 });
  await expect(clip(page, 'The steps').first()).toHaveAccessibleName(/picture adjusted/);

  await timelineAction(page, 'Framing');
  await sheet.getByRole('button', { name: 'Reset' }).click();
  await sheet.getByRole('button', { name: 'Apply' }).click();
  expect(await settingsOf(page, app)).toBeUndefined();
  await page.getByRole('button', { name: 'Undo: change framing' }).click();
  await expect.poll(() => settingsOf(page, app)).toEqual(laid);
});

test('two fingers change a picture’s size', async ({ page, app }) => {
  const sheet = await openOverlay(page, app);
  const { x, y, width, height } = await restingBox(page.getByRole('group', { name: /^Framing of The steps/ }));
  const touch = await page.context().newCDPSession(page);
  const fingers = (apart: number) =>
    [-1, 1].map((side, id) => ({ x: x + width / 2 + (side * apart) / 2, y: y + height / 2, id }));
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(200) });
  for (const apart of [170, 140, 100]) {
    await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(apart) });
  }
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  const scale = sheet.getByRole('textbox', { name: 'Scale', exact: true });
  await expect(scale).toHaveValue(/^(4\d|5\d|6\d)(\.\d+)?%$/);
});

test('numbers that no picture can have are told at their field, and nothing changes', async ({ page, app }) => {
  const sheet = await openOverlay(page, app);
  const apply = sheet.getByRole('button', { name: 'Apply' });
  for (const [field, text, reason] of [
    ['Scale', '0', 'Scale must be more than 0'],
    ['Scale', 'abc', 'Scale isn’t valid'],
    ['Opacity', '120', 'Opacity must be between 0% and 100%'],
    ['Position X', '1e309', 'Position X'],
    ['Rotation', '400', 'Rotation must be between -360 and 360'],
    ['Crop top', '', 'Crop top isn’t a percentage'],
  ] as const) {
    const entry = sheet.getByRole('textbox', { name: field, exact: true });
    const before = await entry.inputValue();
    await entry.fill(text);
    await expect(sheet.getByRole('alert').first()).toContainText(reason);
    await expect(apply).toBeDisabled();
    await entry.fill(before);
  }
  await sheet.getByRole('textbox', { name: 'Crop left', exact: true }).fill('60');
  await sheet.getByRole('textbox', { name: 'Crop right', exact: true }).fill('40');
  await expect(sheet.getByRole('alert')).toContainText('Nothing would be left of the picture');
  await sheet.getByRole('button', { name: 'Discard' }).click();
  expect(await settingsOf(page, app)).toBeUndefined();
});

test('timing, picture and sound are copied from a clip; which of them is pasted is chosen', async ({ page, app }) => {
  const sheet = await openOverlay(page, app);
  await sheet.getByRole('textbox', { name: 'Opacity', exact: true }).fill('40');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await timelineAction(page, 'Clip');
  const numbers = page.getByRole('dialog', { name: 'The steps' });
  await numbers.getByRole('radio', { name: 'Muted' }).click();
  await numbers.getByRole('button', { name: 'Close' }).click();
  await timelineAction(page, 'Copy settings');
  await expect(page.getByText('Copied the settings of The steps')).toBeVisible();

  const pasteOn = async (name: string, ...what: string[]): Promise<void> => {
    await clip(page, name).first().click();
    await timelineAction(page, 'Paste settings');
    const paste = page.getByRole('dialog', { name: 'Paste from The steps' });
    for (const part of ['Timing', 'Framing', 'Exposure', 'Sound']) {
      await paste.getByRole('checkbox', { name: part }).setChecked(what.includes(part));
    }
    await paste.getByRole('button', { name: 'Apply' }).click();
    await expect(paste).toBeHidden();
  };
  const before = await storedDocument(page, app);
  await pasteOn('The drop', 'Framing');
  await pasteOn('The bowl', 'Sound', 'Timing');
  await saved(page);
  const after = await storedDocument(page, app);
  const [drop, bowl] = ['The drop', 'The bowl'].map((name) => {
    const [was, now] = [before, after].map(({ clips }) => clips.find((one) => one.name === name)!);
    return { was: was!, now: now! };
  });
  expect(drop!.now).toEqual({ ...drop!.was, picture: { ...plainPicture, opacity: 0.4 } });
  expect(bowl!.now.muted).toBe(true);
  expect(bowl!.now.picture).toBeUndefined();
  expect(bowl!.now.timing).not.toEqual(bowl!.was.timing);
});

const named = (project: ProjectDocument, name: string): string => project.clips.find((one) => one.name === name)!.id;

/**
 * Four clips in the quarters of a frame twice their size: one at real time, one at half speed, the same source once more
 * some frames later, and one in a group that runs backwards and stands on its head.
 */
function quarters(document: ProjectDocument): ProjectDocument {
  const names = ['plates-b-frames', 'plates-24', 'plates-group-250'];
  const [a, b, c] = names.map((name) => named(document, name)) as [string, string, string];
  let project: ProjectDocument = { ...document, sequence: { ...document.sequence, width: 640, height: 360 } };
  for (const [index, id] of [a, b, c].entries()) {
    project = trimClip(project, id, 'end', 30 - project.clips.find((one) => one.id === id)!.shown.frames, 'close');
    if (index === 0) continue;
    project = addTrack(project, SEQUENCE, 'picture', `upper-${index}`);
    project = moveClips(project, [id], `upper-${index}`, 0, 'close');
  }
  project = speedClip(project, b, 0.5);
  project = groupClips(project, [c], { groupId: 'g', clipId: 'back', name: 'back' });
  const map = mapOf(
    project,
    project.clips.find(({ id }) => id === 'back')!,
  );
  project = withTiming(project, 'back', reverseRange(map, { from: 0, to: 30 }));
  project = addTrack(duplicateClips(project, [b], ['again']), SEQUENCE, 'picture', 'upper-again');
  project = slipClip(moveClips(project, ['again'], 'upper-again', 0, 'close'), 'again', 40, 'timing');
  const quarter = (x: number, y: number, turn = 0): PictureSettings => ({ ...plainPicture, scale: 0.5, x, y, turn });
  project = setPicture(project, [a], quarter(-0.25, -0.25));
  project = setPicture(project, [b], quarter(0.25, -0.25));
  project = setPicture(project, ['again'], quarter(0.25, 0.25));
  return setPicture(project, ['back'], quarter(-0.25, 0.25, 180));
}

test('every layer of every rendered picture is the right frame in its place', async ({ page, app }) => {
  const files = ['plates-b-frames.mp4', 'plates-24.mp4', 'plates-group-250.mp4'];
  const document = quarters(await projectOf(page, app, files.map(fixture)));
  const file = await renderDocument(page, app, document);
  const plan = picturePlan(programOf(document, SEQUENCE));
  const size = { width: 320, height: 180 };
  const ids = [named(document, 'plates-b-frames'), named(document, 'plates-24'), 'back', 'again'];
  const parts = [
    { x: 0, y: 0, ...size },
    { x: 320, y: 0, ...size },
    { x: 0, y: 180, ...size, turn: 180 as const },
    { x: 320, y: 180, ...size },
  ];
  for (const [index, part] of parts.entries()) {
    const { plates } = await readPlates(file, true, part);
    expect(plates.length).toBe(plan.count);
    expect(plates).toEqual(
      Array.from(
        { length: plan.count },
        (_, n) => framesOf(plan.at(n)).find(({ clipId }) => clipId === ids[index])?.frame ?? -1,
      ),
    );
  }
  // By hand: real time, half speed, and 25 a second on 24 backwards: ⌊29 · 25/24⌋ and so on.
  const upper = await readPlates(file, true, parts[1]);
  expect(upper.plates.slice(0, 6)).toEqual([0, 0, 1, 1, 2, 2]);
  expect((await readPlates(file, true, parts[2])).plates.slice(0, 3)).toEqual([30, 29, 28]);
  expect((await readPlates(file, true, parts[3])).plates.slice(0, 4)).toEqual([20, 20, 21, 21]);
});

test('drawn pictures have the colours of those that need no drawing', async ({ page, app }) => {
  // The same source frame all the time; from frame 12 on a small picture lies in a corner.
  let document = await projectOf(page, app, [demoClip('drop'), fixture('plates-24.mp4')]);
  const [drop, plates] = ['drop', 'plates-24'].map((name) => named(document, name)) as [string, string];
  const map = mapOf(
    document,
    document.clips.find(({ id }) => id === drop)!,
  );
  document = withTiming(document, drop, { ...map, start: 60, spans: [constantSpan(0, 24)] });
  document = addTrack(document, SEQUENCE, 'picture', 'upper');
  document = moveClips(document, [plates], 'upper', 12, 'close');
  document = trimClip(
    document,
    plates,
    'end',
    12 - document.clips.find(({ id }) => id === plates)!.shown.frames,
    'close',
  );
  document = setPicture(document, [plates], { ...plainPicture, scale: 0.1, x: 0.45, y: -0.45 });
  const file = await renderDocument(page, app, document);
  const { lumas } = await readPlates(file, false, { x: 0, y: 200, width: 1280, height: 400 });
  expect(lumas).toHaveLength(24);
  // What the encoder makes of the same picture differs by less than half a step of brightness; a wrong range by six.
  expect(Math.max(...lumas) - Math.min(...lumas)).toBeLessThan(0.5);
  await page.goto(page.url().replace('/output', '/timeline'));
  await typeReadout(page, 'Output', '12f');
  await expect(page.getByRole('alert')).toHaveCount(0);
});
