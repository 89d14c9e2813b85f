import type { ProjectDocument, StoredProject } from '@hastig/contract';
import { findClip, mapOf, markersBeside, pinsOf, positionAt } from '@hastig/core';
import { pieces, scenes } from '@hastig/demo';
import type { Page } from '@playwright/test';
import { accessFaults } from '../support/accessible';
import { dragBy, expect, saved, startAction, test, type TestApp } from '../support/app';
import { demoClip, hastig } from '../support/files';

/** Makes the demo's second project. */
async function makeBeatDemo(app: TestApp): Promise<StoredProject> {
  const made = await fetch(`${app.address}/api/demo/beats`, { method: 'POST' });
  expect(made.status).toBe(201);
  return (await made.json()) as StoredProject;
}

async function documentOf(app: TestApp, id: string): Promise<ProjectDocument> {
  const answer = await fetch(`${app.address}/api/projects/${id}`);
  return ((await answer.json()) as StoredProject).document;
}

/** Opens Beats of a new demo, once its music has been listened to. */
async function openBeats(page: Page, app: TestApp): Promise<string> {
  const { id } = await makeBeatDemo(app);
  await page.goto(`${app.address}/project/${id}/beats`);
  await expect(page.getByText('Straight · 64 markers, every 0.500 s ± 0 ms')).toBeVisible({ timeout: 90_000 });
  return id;
}

const bar = (page: Page) => page.getByRole('toolbar', { name: 'Beats actions' });
const markersOfMusic = (document: ProjectDocument, set: string) =>
  document.sources.find(({ id }) => id === 'source-straight')!.markers!.filter((marker) => marker.set === set);

test('beats are found in music, lie where they are, and are adjusted and undone', async ({ page, app }) => {
  const id = await openBeats(page, app);
  await bar(page).getByRole('button', { name: 'Find beats' }).click();
  const sheet = page.getByRole('dialog', { name: 'Find beats' });
  await expect(sheet.getByRole('radio', { name: /^120 bpm, even, \d+%$/ })).toBeChecked();
  await sheet.getByRole('radio', { name: 'Double' }).click();
  await expect(sheet.getByRole('status')).toHaveText(/^1[12]\d markers, every 0\.25\d s/);
  await sheet.getByRole('radio', { name: 'As found' }).click();
  await sheet.getByRole('textbox', { name: 'Set' }).fill('Found');
  await expect(sheet.getByRole('status')).toHaveText(/^6\d markers, every 0\.500 s/);
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('button', { name: 'Set: Found. Choose a set' })).toBeVisible();
  await saved(page);
  const found = markersOfMusic(await documentOf(app, id), 'Found');
  const off = pieces.straight.beats.map((beat) => Math.min(...found.map(({ at }) => Math.abs(at / 48_000 - beat))));
  expect(Math.max(...off)).toBeLessThan(0.03);
  expect(found.filter(({ kind }) => kind === 'downbeat').length).toBe(16);

  await bar(page).getByRole('button', { name: 'Adjust' }).click();
  const adjust = page.getByRole('dialog', { name: 'Adjust markers' });
  await expect(adjust.getByRole('status')).toHaveText(/^3\d markers, every 1\.00\d s/);
  await adjust.getByRole('radio', { name: 'Double' }).click();
  await expect(adjust.getByRole('status')).toHaveText(/^12\d markers, every 0\.25\d s/);
  await adjust.getByRole('button', { name: 'Discard' }).click();
  await page.getByRole('button', { name: 'Undo: find beats' }).click();
  await saved(page);
  expect(markersOfMusic(await documentOf(app, id), 'Found')).toEqual([]);
});

test('taps during playback become markers near where they were heard; they are listed and removed', async ({
  page,
  app,
}) => {
  const id = await openBeats(page, app);
  await bar(page).getByRole('button', { name: 'Tap', exact: true }).click();
  const pad = page.getByRole('group', { name: 'Tap along' });
  await pad.getByRole('button', { name: 'Snap taps to hits' }).click();
  await pad.getByRole('button', { name: 'Play music' }).click();
  await expect(pad.getByText('Tap on the beat')).toBeVisible();
  const output = page.getByRole('group', { name: 'Readout' }).getByRole('button', { name: /^Output:/ });
  const before = await output.textContent();
  for (let tap = 0; tap < 3; tap++) {
    const shown = await output.textContent();
    await expect(output).not.toHaveText(shown!);
    await pad.getByRole('button', { name: 'Tap', exact: true }).click();
  }
  await pad.getByRole('button', { name: 'Pause music' }).click();
  await expect(output).not.toHaveText(before!);
  await pad.getByRole('button', { name: 'Done' }).click();
  await saved(page);
  const tapped = markersOfMusic(await documentOf(app, id), 'Taps');
  expect(tapped.length).toBeGreaterThanOrEqual(2);
  expect(tapped.every(({ at, kind }) => at > 0 && at < 33 * 48_000 && kind === 'hand')).toBe(true);

  await page.getByRole('button', { name: 'Set: All markers. Choose a set' }).click();
  const list = page.getByRole('dialog', { name: 'Markers' });
  await list.getByRole('radio', { name: 'Taps' }).click();
  await expect(list.getByRole('listitem')).toHaveCount(tapped.length);
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await list
    .getByRole('button', { name: /^Remove marker at/ })
    .first()
    .click();
  await expect(list.getByRole('listitem')).toHaveCount(tapped.length - 1);
  await saved(page);
  expect(markersOfMusic(await documentOf(app, id), 'Taps')).toHaveLength(tapped.length - 1);
});

test('bursts on beats and moments landed on beats, dragged to another, are exact', async ({ page, app }) => {
  const { id } = await makeBeatDemo(app);
  await page.goto(`${app.address}/project/${id}/clip/clip-bowl/pace`);
  await startAction(page, 'Pace', 'Bursts');
  const bursts = page.getByRole('dialog', { name: 'Bursts on markers' });
  await bursts.getByRole('radio', { name: 'Whole clip' }).click();
  await bursts.getByRole('radio', { name: 'Duration', exact: true }).click();
  await expect(bursts.getByRole('button', { name: 'Apply' })).toBeEnabled();
  await bursts.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const burst = await documentOf(app, id);
  const bowl = mapOf(burst, findClip(burst, 'clip-bowl')!);
  const beats = markersBeside(burst, 'clip-bowl').filter(({ marker }) => marker.set === 'Beats');
  // 5 frames at 800% pass 40 frames at equal rates (common practice); the bowl has 60 a second on 24.
  for (const { at } of beats.slice(1, 4)) {
    expect(positionAt(bowl, at + 5) - positionAt(bowl, at)).toBeCloseTo((40 * 60) / 24, 6);
  }

  await page.goto(`${app.address}/project/${id}/clip/clip-drop/pace`);
  await startAction(page, 'Pace', 'Land on markers');
  const land = page.getByRole('dialog', { name: 'Land on markers' });
  await expect(land.getByRole('status')).toHaveText(/\d+ on markers, 0 frames off; speed \d/);
  const threads = land.getByRole('group', { name: 'Moments on markers' });
  const first = threads.getByRole('button').first();
  await first.scrollIntoViewIfNeeded();
  const name = (await first.getAttribute('aria-label'))!;
  await dragBy(page, first, 60, 80);
  await expect(first).not.toHaveAttribute('aria-label', name);
  await expect(land.getByRole('button', { name: 'Propose again' })).toBeVisible();
  await land.getByRole('button', { name: 'Propose again' }).click();
  await expect(first).toHaveAttribute('aria-label', name);
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await land.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const landed = await documentOf(app, id);
  const drop = mapOf(landed, findClip(landed, 'clip-drop')!);
  expect(pinsOf(drop).length).toBeGreaterThan(3);
  for (const { output, source } of pinsOf(drop)) {
    expect(Math.abs(positionAt(drop, output) - source)).toBeLessThan(1e-6);
  }
});

test('a clip is driven by hand while it plays, and what the hand did becomes a few keys', async ({ page, app }) => {
  const { id } = await makeBeatDemo(app);
  await page.goto(`${app.address}/project/${id}/beats`);
  await bar(page).getByRole('button', { name: 'More' }).click();
  await page.getByRole('dialog', { name: 'More' }).getByRole('button', { name: 'By hand' }).click();
  const panel = page.getByRole('group', { name: 'By hand' });
  const throttle = panel.getByRole('slider', { name: 'Throttle' });
  await throttle.focus();
  await panel.getByRole('button', { name: 'Record' }).click();
  await expect(panel.getByText('Driving The steps')).toBeVisible();
  const output = page.getByRole('group', { name: 'Readout' }).getByRole('button', { name: /^Output:/ });
  await throttle.focus();
  for (let step = 0; step < 6; step++) {
    const shown = await output.textContent();
    await expect(output).not.toHaveText(shown!);
    await page.keyboard.press('ArrowDown');
  }
  await expect(throttle).toHaveAttribute('aria-valuetext', '40%');
  await panel.getByRole('button', { name: 'Stop' }).click();
  await expect(panel.getByRole('status')).toHaveText(/^\d+ frames, \d+ keys$/);
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('button', { name: 'Undo: drive by hand' })).toBeVisible();
  await saved(page);
  const document = await documentOf(app, id);
  const speeds = mapOf(document, findClip(document, 'clip-steps')!).spans.flatMap(({ y }) => [...y]);
  expect(Math.max(...speeds)).toBeGreaterThan(0.9);
  expect(Math.min(...speeds)).toBeLessThan(0.6);
});

test('beats move along with the music, and pins on them too', async ({ page, app }) => {
  const id = await openBeats(page, app);
  const before = await documentOf(app, id);
  const pinsBefore = pinsOf(mapOf(before, findClip(before, 'clip-steps')!)).map(({ output }) => output);
  await bar(page).getByRole('button', { name: 'Adjust' }).click();
  const adjust = page.getByRole('dialog', { name: 'Adjust markers' });
  await adjust.getByRole('radio', { name: 'Nudge' }).click();
  await adjust.getByRole('textbox', { name: 'Nudge by (ms)' }).fill('25');
  await adjust.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const after = await documentOf(app, id);
  const pinsAfter = pinsOf(mapOf(after, findClip(after, 'clip-steps')!)).map(({ output }) => output);
  pinsAfter.forEach((output, index) => expect(output - pinsBefore[index]!).toBeCloseTo(0.025 * 24, 6));
});

test('every bounce of a clip is among the moments, with at most one false one a second', { tag: '@long' }, async () => {
  for (const name of ['drop', 'steps']) {
    const scene = scenes.find((one) => one.name === name)!;
    const { stdout } = await hastig('moments', demoClip(name));
    const rows = stdout.trim().split('\n').slice(1);
    const moments = rows.map((row) => row.split(',')).filter(([, , strength]) => Number(strength) >= 0.35);
    const frames = moments.map(([frame]) => Number(frame));
    const bounces = scene.marbles
      .flatMap(({ impacts }) => impacts)
      .map(({ time }) => time * scene.fps)
      .filter((frame) => frame < scene.frames);
    expect(bounces.length).toBeGreaterThan(10);
    for (const bounce of bounces) expect(Math.min(...frames.map((at) => Math.abs(at - bounce)))).toBeLessThanOrEqual(1);
    const wrong = frames.filter((at) => bounces.every((bounce) => Math.abs(at - bounce) > 1));
    expect(wrong.length).toBeLessThanOrEqual(scene.frames / scene.fps);
  }
});
