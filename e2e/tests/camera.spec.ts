import { join } from 'node:path';
import { addTrack, constantSpan, moveClips, plainPicture, putTrack, SEQUENCE, setPicture } from '@hastig/core';
import { scenes } from '@hastig/demo';
import type { Page } from '@playwright/test';
import { accessFaults } from '../support/accessible';
import { expect, makeDemo, saved, startAction, test, typeReadout, type TestApp } from '../support/app';
import { demoClip, hastig, renderByCommand, scratch } from '../support/files';
import { storedDocument, storeDocument } from '../support/timeline';

const { fps, frames, view, held } = scenes.find(({ name }) => name === 'handheld')!;
const [width, height] = [1280, 720];
const scale = width / view.width;
// The right tip of the bowl, in pixels of a picture that is held still.
const tip = { x: width / 2 + (0.78 - view.x) * scale, y: height / 2 - (0.78 ** 2 / 2.1 - view.y) * scale };
const rate = { num: fps, den: 1 };
const plain = { sourceRate: rate, outputRate: rate, sourceFrames: frames, start: 0, spans: [constantSpan(1, frames)] };

// A peg of the wall that nothing passes.
const peg = { x: 662.9, y: 356.2 };

/** Where what stands still is in the picture that was taken, in pixels. */
function truth(frame: number, at = tip): { x: number; y: number } {
  const { right, down, turn } = held!(frame / fps);
  const [x, y] = [at.x - width / 2, at.y - height / 2];
  return {
    x: width / 2 + right * width + Math.cos(turn) * x - Math.sin(turn) * y,
    y: height / 2 + down * width + Math.sin(turn) * x + Math.cos(turn) * y,
  };
}

/** Where the tip is seen in a file, frame by frame. */
async function seenIn(file: string, at: { x: number; y: number }): Promise<{ x: number; y: number }[]> {
  const side = 40;
  const box = [at.x - side / 2, at.y - side / 2, side, side].map((value) => value.toFixed(2)).join(',');
  const { stdout } = await hastig('track', file, '--frame', '0', '--box', box);
  const rows = stdout.trim().split('\n').slice(1);
  return rows.map((line) => {
    const [, x, y, confidence] = line.split(',').map(Number);
    expect(confidence).toBeGreaterThan(0.6);
    return { x: x!, y: y! };
  });
}

/** How far places lie from where they should, in pixels, but for what all of them lie aside. */
function strays(places: readonly { x: number; y: number }[], wanted: (frame: number) => { x: number; y: number }) {
  const off = places.map(({ x, y }, n) => ({ x: x - wanted(n).x, y: y - wanted(n).y }));
  const mean = (name: 'x' | 'y'): number => off.reduce((sum, one) => sum + one[name], 0) / off.length;
  const [mx, my] = [mean('x'), mean('y')];
  return off.map(({ x, y }) => Math.hypot(x - mx, y - my));
}

test('a clip that is shaken stands within half a pixel in a rendered file', async () => {
  const part = { ...plain, spans: [constantSpan(1, 24)] };
  const stands = await seenIn(await renderByCommand(demoClip('handheld'), part, '--smooth', 'tripod'), truth(0));
  expect(stands).toHaveLength(24);
  expect(Math.max(...strays(stands, () => truth(0)))).toBeLessThan(0.5);
});

test('a clip that is shaken comes back to within half a pixel, and its pan stays', { tag: '@long' }, async () => {
  const all = Array.from({ length: frames }, (_, n) => n);
  const wanted = (n: number): { x: number; y: number } => ({ x: tip.x + held!(n / fps).meant * width, y: tip.y });
  expect(Math.max(...strays(all.map((n) => truth(n)), wanted))).toBeGreaterThan(10); // prettier-ignore
  const smooth = await renderByCommand(demoClip('handheld'), plain, '--smooth', '1', '--perspective');
  const off = strays(await seenIn(smooth, tip), wanted);
  expect(off).toHaveLength(frames);
  const half = fps / 2;
  expect(Math.max(...off.slice(half, -half))).toBeLessThan(0.5);
  // At its ends nothing tells what comes after.
  expect(Math.max(...off)).toBeLessThan(3);
});

/** Puts the clip that was held by hand on the timeline, and opens it in Picture. */
async function openHandheld(page: Page, app: TestApp): Promise<string> {
  const { id } = await makeDemo(app);
  await page.goto(`${app.address}/project/${id}/source/source-handheld`);
  await page.getByRole('button', { name: 'Add to timeline' }).click();
  await saved(page);
  const stored = await storedDocument(page, app);
  const clip = stored.clips.find(({ of }) => of.id === 'source-handheld')!;
  await page.goto(`${app.address}/project/${id}/clip/${clip.id}/picture`);
  await page.getByRole('toolbar', { name: 'Picture actions' }).waitFor();
  return clip.id;
}

test('the shake is taken out in Picture: analysed, cancelled, seen before and after, kept and undone', async ({
  page,
  app,
}) => {
  const clipId = await openHandheld(page, app);
  await startAction(page, 'Picture', 'Steady');
  const sheet = page.getByRole('dialog', { name: 'Steady' });
  await sheet.getByRole('radio', { name: 'The camera' }).click();
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('button', { name: 'Analyse' }).click();
  await sheet.getByRole('button', { name: 'Cancel analysis' }).click();
  await expect(sheet.getByRole('button', { name: 'Apply' })).toBeDisabled();
  await sheet.getByRole('button', { name: 'Analyse' }).click();
  const graph = sheet.getByRole('img', { name: /^The camera’s way across/ });
  await expect(graph).toBeVisible({ timeout: 60_000 });
  const shakes = async (): Promise<[before: number, after: number]> => {
    const [, before, after] = /Shakes by ([\d.]+) px a frame before, ([\d.]+) px after/.exec(
      (await graph.getAttribute('aria-label'))!,
    )!;
    return [Number(before), Number(after)];
  };
  const [before, after] = await shakes();
  expect(after).toBeLessThan(before / 20);
  await expect(sheet.getByRole('status').filter({ hasText: /camera smoothed over 1 s, scaled to 10\d/ })).toBeVisible();
  const seconds = sheet.getByRole('textbox', { name: 'Smoothed over, seconds' });
  await seconds.fill('90');
  await expect(sheet.getByText('0.1 to 20 seconds.')).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Apply' })).toBeDisabled();
  await seconds.fill('0.5');
  await sheet.getByRole('radio', { name: 'Tripod' }).click();
  await expect(sheet.getByRole('status').filter({ hasText: /camera as on a tripod, scaled to/ })).toBeVisible();
  expect((await shakes())[1]).toBe(0);
  await sheet.getByRole('radio', { name: 'Smooth', exact: true }).click();
  await sheet.getByRole('radio', { name: 'Perspective too' }).click();
  await sheet.getByRole('radio', { name: 'Scaled as needed' }).click();
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const stored = await storedDocument(page, app);
  const source = stored.sources.find(({ id }) => id === 'source-handheld')!;
  expect(source.cameras).toHaveLength(1);
  expect(source.cameras![0]!.moves).toHaveLength(9 * frames);
  const steadied = { kind: 'smooth', seconds: 0.5, model: 'perspective', edges: 'follow' };
  expect(stored.clips.find(({ id }) => id === clipId)!.effects).toMatchObject([steadied]);
  await page.reload();
  // What was analysed is there, and is not analysed again.
  await page.getByRole('button', { name: /^Steady: camera smoothed over 0.5 s/ }).click();
  await expect(graph).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Analyse' })).toBeHidden();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo: steady a clip' }).click();
  await saved(page);
  const undone = await storedDocument(page, app);
  expect(undone.sources.find(({ id }) => id === 'source-handheld')!.cameras).toBeUndefined();
  expect(undone.clips.find(({ id }) => id === clipId)!.effects).toBeUndefined();
});

test(
  'the cameras of a stretch of the film are smoothed at once, and what was analysed when it is called off is kept',
  { tag: '@long' },
  async ({ page, app }) => {
    const clipId = await openHandheld(page, app);
    const id = /project\/([^/]+)/.exec(page.url())![1]!;
    await page.goto(`${app.address}/project/${id}/timeline`);
    // From the middle of one clip to the middle of the next.
    for (const [name, at] of [
      ['Mark in', '00:00:04:00'],
      ['Mark out', '00:00:10:00'],
    ] as const) {
      await typeReadout(page, 'Output', at);
      await page.getByRole('button', { name }).click();
    }
    await startAction(page, 'Timeline', 'Steady');
    const sheet = page.getByRole('dialog', { name: 'Steady' });
    await expect(sheet.getByText(/^0 of 2 clips analysed/)).toBeVisible();
    await expect(sheet.getByRole('button', { name: 'Apply' })).toBeDisabled();
    expect(await accessFaults(page, 'guidelines')).toEqual([]);
    await sheet.getByRole('button', { name: 'Analyse' }).click();
    await expect(sheet.getByText(/^1 of 2 clips analysed/)).toBeVisible({ timeout: 60_000 });
    await sheet.getByRole('button', { name: 'Cancel analysis' }).click();
    await expect(sheet.getByRole('status').filter({ hasText: '1 clip: camera smoothed over 1 s' })).toBeVisible();
    await sheet.getByRole('radio', { name: 'All of it' }).click();
    await expect(sheet.getByText(/^1 of 4 clips analysed/)).toBeVisible();
    await sheet.getByRole('radio', { name: 'In to out' }).click();
    await sheet.getByRole('button', { name: 'Apply' }).click();
    await saved(page);
    const stored = await storedDocument(page, app);
    expect(stored.sources.filter(({ cameras }) => cameras)).toHaveLength(1);
    expect(stored.sequence.effects).toMatchObject([{ kind: 'smooth', seconds: 1, over: { by: 'output' } }]);
    // In Picture of a clip that it reaches: it is opened there, and gone on with.
    await page.goto(`${app.address}/project/${id}/clip/${clipId}/picture`);
    await page.getByRole('button', { name: /^Steady: camera smoothed over 1 s/ }).click();
    await sheet.getByRole('radio', { name: 'All of it' }).click();
    await sheet.getByRole('button', { name: 'Analyse' }).click();
    await expect(sheet.getByText('The cameras of all 4 clips are analysed.')).toBeVisible({ timeout: 60_000 });
    await sheet.getByRole('radio', { name: 'Tripod' }).click();
    await expect(sheet.getByRole('status').filter({ hasText: '4 clips: camera as on a tripod' })).toBeVisible();
    await sheet.getByRole('button', { name: 'Apply' }).click();
    await saved(page);
    const [effect] = (await storedDocument(page, app)).sequence.effects!;
    expect(effect).toMatchObject({ kind: 'smooth', frame: 0 });
    expect(effect!.over).toBeUndefined();
    await page.getByRole('button', { name: 'Undo: steady the film' }).click();
    await saved(page);
    expect((await storedDocument(page, app)).sequence.effects).toMatchObject([{ seconds: 1 }]);
  },
);

test(
  'a point is tracked for a reframe that follows it, and for a picture that is attached to it',
  { tag: '@long' },
  async ({ page, app }) => {
    const clipId = await openHandheld(page, app);
    await startAction(page, 'Picture', 'Points');
    const points = page.getByRole('dialog', { name: 'Points' });
    const grip = page.getByRole('group', { name: /^Box to track/ });
    // What lies under a finger is shown beside it.
    const { x, y, width: wide, height: high } = (await grip.boundingBox())!;
    await page.mouse.move(x + wide / 2, y + high / 2);
    await page.mouse.down();
    const target = truth(0, peg);
    await page.mouse.move(x + (wide * target.x) / width, y + (high * target.y) / height, { steps: 4 });
    await expect(page.getByRole('img', { name: 'What lies in the box, larger' })).toBeVisible();
    await page.mouse.up();
    await expect(page.getByRole('img', { name: 'What lies in the box, larger' })).toBeHidden();
    await points.getByRole('radio', { name: 'Brightness' }).click();
    await points.getByRole('radio', { name: 'Renewed as it changes' }).click();
    await points.getByRole('button', { name: 'Track', exact: true }).click();
    await expect(points.getByRole('img', { name: /^Moves up to [\d.]+ px\. Found in every frame/ })).toBeVisible({
      timeout: 60_000,
    });
    await points.getByRole('textbox', { name: 'Name of Point 0' }).fill('Peg');
    expect(await accessFaults(page, 'guidelines')).toEqual([]);
    await points.getByRole('button', { name: 'Apply' }).click();
    await saved(page);
    await startAction(page, 'Picture', 'Reframe');
    const reframe = page.getByRole('dialog', { name: 'Add reframe' });
    await reframe.getByRole('radio', { name: 'Peg' }).click();
    await reframe.getByRole('textbox', { name: 'Evened out, seconds' }).fill('0.5');
    await reframe.getByRole('button', { name: 'Apply' }).click();
    await saved(page);
    await expect(page.getByRole('button', { name: /^Reframe: .*follows a point/ })).toBeVisible();
    const stored = await storedDocument(page, app);
    const [tracked] = stored.sources.find(({ id }) => id === 'source-handheld')!.tracks!;
    expect(tracked).toMatchObject({ name: 'Peg', frame: 0 });
    // It goes as the wall goes, wherever on it the box was put.
    const gone = (n: number): [x: number, y: number] => [
      tracked!.at[3 * n]! - tracked!.at[0]! - (truth(n, peg).x - truth(0, peg).x),
      tracked!.at[3 * n + 1]! - tracked!.at[1]! - (truth(n, peg).y - truth(0, peg).y),
    ];
    for (const n of [10, 70, 130]) expect(Math.hypot(...gone(n))).toBeLessThan(2);
    expect(stored.clips.find(({ id }) => id === clipId)!.effects).toMatchObject([
      { kind: 'reframe', follow: { track: tracked!.id, seconds: 0.5 } },
    ]);
    // What is in use is not removed.
    await startAction(page, 'Picture', 'Points');
    await expect(points.getByText('In use.')).toBeVisible();
    await expect(points.getByRole('button', { name: 'Remove Peg' })).toBeHidden();
    await page.keyboard.press('Escape');
    // Nothing lies above or beneath it yet.
    await startAction(page, 'Picture', 'Attach to point');
    const attach = page.getByRole('dialog', { name: 'Attach to point' });
    await expect(attach.getByRole('button', { name: 'Apply' })).toBeDisabled();
    await expect(attach.getByText(/track a point there with Points first/)).toBeVisible();
  },
);

test('a picture is attached to a point of the clip beneath it, seen there, copied and kept', async ({ page, app }) => {
  const { document } = await makeDemo(app);
  const [drop, bowl] = ['clip-drop', 'clip-bowl'];
  const marble = scenes.find(({ name }) => name === 'drop')!;
  const across = width / marble.view.width;
  const at = Array.from({ length: marble.frames }, (_, n) => {
    const { x, y } = marble.marbles[0]!.at(n / marble.fps);
    return [width / 2 + (x - marble.view.x) * across, height / 2 - (y - marble.view.y) * across, 1];
  }).flat();
  const box = { x: 0, y: 0, width: 50, height: 50 };
  const tracked = putTrack(document, 'source-drop', { id: 'marble', name: 'Marble', frame: 0, box, at });
  const stacked = moveClips(addTrack(tracked, SEQUENCE, 'picture', 'upper'), [bowl], 'upper', 0, 'leave');
  const small = setPicture(stacked, [bowl], { ...plainPicture, scale: 0.2 });
  const id = await storeDocument(app, small);
  await page.goto(`${app.address}/project/${id}/clip/${bowl}/picture`);
  await page.getByRole('toolbar', { name: 'Picture actions' }).waitFor();
  await startAction(page, 'Picture', 'Attach to point');
  const sheet = page.getByRole('dialog', { name: 'Attach to point' });
  await expect(sheet.getByRole('radio', { name: 'The drop: Marble' })).toBeChecked();
  await expect(sheet.getByRole('status').filter({ hasText: 'Goes with Marble of The drop' })).toBeVisible();
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  await expect(page.getByRole('button', { name: /^Attached to a point/ })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: /^Attached to a point/ })).toBeVisible();
  const stored = await storedDocument(page, app);
  const carry = { kind: 'carry', clip: drop, track: 'marble' };
  expect(stored.clips.find((clip) => clip.id === bowl)!.effects).toMatchObject([carry]);
  // A project's file has the track, and what goes with it.
  await page.goto(`${app.address}/project/${id}/output`);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Project', exact: true }).click(),
  ]);
  const file = join(await scratch(), 'film.json');
  await download.saveAs(file);
  await page.goto(app.address);
  await page.getByLabel('Project file').setInputFiles(file);
  await expect(page.getByRole('heading', { name: 'Marble film' })).toBeVisible();
  expect(await storedDocument(page, app)).toEqual(stored);
});
