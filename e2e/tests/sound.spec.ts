import { readFileSync } from 'node:fs';
import type { ProjectDocument, StoredProject } from '@hastig/contract';
import {
  effectMoments,
  findClip,
  findSource,
  formatTime,
  makeRate,
  mapOf,
  placeOf,
  secondsPosition,
  SEQUENCE,
  speedPeaks,
  targetsIn,
  timesAt,
  waveBytes,
} from '@hastig/core';
import type { Page } from '@playwright/test';
import { accessFaults } from '../support/accessible';
import { expect, restingBox, saved, startAction, test, type TestApp } from '../support/app';
import { demoSound } from '../support/files';

async function documentOf(app: TestApp, id: string): Promise<ProjectDocument> {
  const answer = await fetch(`${app.address}/api/projects/${id}`);
  return ((await answer.json()) as StoredProject).document;
}

/** Opens Sound of the demo's drop, its waveform there. */
async function openSound(page: Page, app: TestApp): Promise<{ id: string; clipId: string }> {
  const { id, document } = (await (await fetch(`${app.address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
  const clipId = document.clips.find(({ name }) => name === 'The drop')!.id;
  await page.goto(`${app.address}/project/${id}/clip/${clipId}/pace`);
  await page.getByRole('link', { name: 'Sound' }).click();
  await expect(page.getByTestId('sound-wave')).toHaveAttribute('aria-busy', 'false', { timeout: 60_000 });
  return { id, clipId };
}

const bar = (page: Page) => page.getByRole('toolbar', { name: 'Sound actions' });

test('pitch is kept for a clip, follows for a part of it, and is heard so', async ({ page, app }) => {
  const { id, clipId } = await openSound(page, app);
  await bar(page).getByRole('button', { name: 'Pitch' }).click();
  const sheet = page.getByRole('dialog', { name: 'Pitch' });
  await sheet.getByRole('radio', { name: 'Is kept' }).click();
  await sheet.getByRole('textbox', { name: 'Semitones' }).fill('-3');
  await sheet.getByRole('radio', { name: 'Held tone' }).click();
  await expect(sheet.getByRole('status')).toHaveText('Pitch kept, −3 st');
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  const parts = page.getByRole('group', { name: 'Pitch of parts' });
  await expect(parts.getByRole('button', { name: /^Pitch kept, −3 st, frames 0 to/ })).toBeVisible();

  // A part by marks, with the keyboard.
  const position = page.getByRole('slider', { name: 'Position in The drop' });
  await position.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('i');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('o');
  await page.keyboard.press('p');
  await expect(sheet.getByRole('radio', { name: 'In to out' })).toBeChecked();
  await sheet.getByRole('radio', { name: 'Follows' }).click();
  await sheet.getByRole('textbox', { name: 'Semitones' }).fill('0');
  await expect(sheet.getByRole('status')).toHaveText('Pitch kept, −3 st; 1 part differs');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await expect(parts.getByRole('button')).toHaveCount(3);
  await saved(page);
  const { sound } = findClip(await documentOf(app, id), clipId)!;
  expect(sound).toMatchObject({ pitch: 'kept', cents: -300, freeze: 'held' });
  expect(sound!.parts).toMatchObject([{ pitch: 'follows', cents: 0 }]);

  // It plays, and the meter moves; what was made is heard and nothing is told to have failed.
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('meter', { name: 'Level' })).toHaveAttribute('aria-valuetext', /^-\d/);
  await page.getByRole('button', { name: 'Pause', exact: true }).click();

  await page.getByRole('button', { name: 'Undo: change pitch' }).click();
  await expect(parts.getByRole('button')).toHaveCount(1);

  // A length in numbers: each moves the others, and only what lies behind the playhead is stretched.
  await position.press('End');
  for (let step = 0; step < 3; step++) await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Escape');
  await bar(page).getByRole('button', { name: 'More' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Stretch', exact: true }).click();
  const stretch = page.getByRole('dialog', { name: 'Stretch' });
  await stretch.getByRole('radio', { name: 'Clip', exact: true }).click();
  const samples = stretch.getByRole('textbox', { name: 'Samples' });
  const before = Number(await samples.inputValue());
  await stretch.getByRole('textbox', { name: 'Times as long' }).fill('2');
  await expect(samples).toHaveValue(String(2 * before));
  await samples.fill(String(before / 2));
  await expect(stretch.getByRole('textbox', { name: 'Times as long' })).toHaveValue('0.5');
  await stretch.getByRole('button', { name: 'Discard' }).click();
});

test('level, fades, the mix and its loudness', async ({ page, app }) => {
  const { id, clipId } = await openSound(page, app);
  await bar(page).getByRole('button', { name: 'Level' }).click();
  const level = page.getByRole('dialog', { name: 'Level and fades' });
  await level.getByRole('textbox', { name: 'Gain (dB)' }).fill('-6');
  await level.getByRole('textbox', { name: 'Pan' }).fill('-50');
  await level.getByRole('textbox', { name: 'Fade in', exact: true }).fill('12f');
  await expect(level.getByRole('status')).toHaveText('−6.0 dB, 50% left');
  await level.getByRole('textbox', { name: 'Gain (dB)' }).fill('200');
  await expect(level.getByText('must be between -96 and 24')).toBeVisible();
  await level.getByRole('textbox', { name: 'Gain (dB)' }).fill('-6');
  await level.getByRole('button', { name: 'Apply' }).click();

  await bar(page).getByRole('button', { name: 'Mix' }).click();
  const mix = page.getByRole('dialog', { name: 'Mix' });
  await mix.getByRole('radio', { name: 'Whole mix' }).click();
  await mix.getByRole('textbox', { name: 'Gain (dB)' }).fill('3');
  await mix.getByRole('radio', { name: 'On' }).click();
  await mix.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const document = await documentOf(app, id);
  expect(findClip(document, clipId)!.sound).toMatchObject({
    gain: -6,
    pan: -0.5,
    fadeIn: { frames: 12, shape: 'smooth' },
  });
  expect(document.sequence.master).toEqual({ gain: 3, limit: -1 });

  // Its sound becomes a clip of its own under it, and its own again.
  const more = async (name: string): Promise<void> => {
    await bar(page).getByRole('button', { name: 'More' }).click();
    await page.getByRole('dialog').getByRole('button', { name, exact: true }).click();
  };
  await more('Detach');
  const detach = page.getByRole('dialog', { name: 'Detach sound' });
  await expect(detach.getByRole('status')).toHaveText('On Sound 1; the picture is muted');
  await detach.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const apart = await documentOf(app, id);
  const own = apart.clips.find(({ soundFrom }) => soundFrom === clipId)!;
  expect(own.sound).toMatchObject({ gain: -6 });
  expect(findClip(apart, clipId)).toMatchObject({ muted: true });
  await more('Detach');
  await page.getByRole('dialog', { name: 'Attach sound' }).getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  expect(findClip(await documentOf(app, id), clipId)!.muted).toBeUndefined();

  await bar(page).getByRole('button', { name: 'Loudness' }).click();
  const loudness = page.getByRole('dialog', { name: 'Loudness' });
  await loudness.getByRole('radio', { name: 'Timeline mix' }).click();
  await loudness.getByRole('button', { name: 'Measure', exact: true }).click();
  const values = page.getByRole('list', { name: 'Loudness values' });
  await expect(values.getByRole('listitem').filter({ hasText: 'Integrated' })).toContainText(/−\d+\.\d LUFS/);
  await expect(values.getByRole('listitem').filter({ hasText: 'True peak' })).toContainText(/−\d+\.\d dBTP/);
});

test('gain rises over time by two keys, which are moved and removed', async ({ page, app }) => {
  const { id, clipId } = await openSound(page, app);
  const position = page.getByRole('slider', { name: 'Position in The drop' });
  await position.press('Home');
  await page.keyboard.press('a');
  const sheet = page.getByRole('dialog', { name: 'Keys' });
  await sheet.getByRole('checkbox', { name: 'Gain' }).click();
  await sheet.getByRole('radio', { name: 'Clip time' }).click();
  await sheet.getByRole('textbox', { name: 'Gain (dB)' }).fill('-24');
  await position.press('Shift+ArrowRight');
  await position.press('Shift+ArrowRight');
  await sheet.getByRole('textbox', { name: 'Gain (dB)' }).fill('3');
  await expect(sheet.getByRole('status')).toHaveText('Here: +3.0 dB');
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('button', { name: 'Previous key' }).click();
  await expect(sheet.getByRole('textbox', { name: 'Gain (dB)' })).toHaveValue('-24');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  const gainKeys = async () => {
    await saved(page);
    return findClip(await documentOf(app, id), clipId)!.sound?.keys?.gain?.keys.map(({ at, value }) => [at, value]);
  };
  const second = Number(await page.getByRole('slider', { name: 'Sound key 2' }).getAttribute('aria-valuenow'));
  expect(await gainKeys()).toEqual([
    [0, -24],
    [second, 3],
  ]);
  await page.getByRole('slider', { name: 'Sound key 2' }).press('ArrowRight');
  await expect(page.getByRole('slider', { name: 'Sound key 2' })).toHaveAttribute('aria-valuenow', String(second + 1));
  // Level says where it is set now.
  await page.keyboard.press('g');
  const level = page.getByRole('dialog', { name: 'Level and fades' });
  await expect(level.getByRole('status')).toHaveText('Gain or pan has keys: edit it in Keys');
  await expect(level.getByRole('textbox', { name: 'Gain (dB)' })).toHaveCount(0);
  await level.getByRole('button', { name: 'Discard' }).click();
  await page.getByRole('slider', { name: 'Sound key 1' }).press('Delete');
  expect(await gainKeys()).toEqual([[second + 1, 3]]);
});

test('an effect is searched, heard, laid on the fastest frame and on every cut, and moved', async ({ page, app }) => {
  const { id, clipId } = await openSound(page, app);
  await bar(page).getByRole('button', { name: 'Effects' }).click();
  const sheet = page.getByRole('dialog', { name: 'Effects' });
  const effects = sheet.getByRole('list', { name: 'Effects' });
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('textbox', { name: 'Search' }).fill('long low');
  await expect(effects.getByRole('listitem')).toHaveCount(2);
  await effects.getByRole('button', { name: 'Play Deep boom' }).click();
  await expect(effects.getByRole('button', { name: 'Stop Deep boom' })).toBeVisible();
  await effects.getByRole('button', { name: 'Stop Deep boom' }).click();
  await expect(effects.getByRole('button', { name: 'Play Deep boom' })).toBeVisible();

  const laid = async (name: string) => {
    await saved(page);
    const document = await documentOf(app, id);
    return document.clips
      .filter((clip) => clip.name === name)
      .map((clip) => {
        const source = findSource(document, clip.of.id)!;
        const at = secondsPosition(source, effectMoments(source)!.loudest);
        const { from, track } = placeOf(document, clip.id)!;
        const [loudest] = timesAt(mapOf(document, clip), at);
        return { kind: track.kind, frame: from + loudest!.from - clip.shown.from };
      })
      .sort((a, b) => a.frame - b.frame);
  };

  // Its loudest moment is exactly on the frame at which The drop is fast again.
  await sheet.getByRole('textbox', { name: 'Search' }).fill('');
  await sheet.getByRole('button', { name: 'Add Swing past' }).click();
  await expect(page.getByRole('button', { name: 'Undo: add Swing past' })).toBeEnabled();
  const document = await documentOf(app, id);
  const clip = findClip(document, clipId)!;
  const [peak] = speedPeaks(mapOf(document, clip), clip.shown.from, clip.shown.from + clip.shown.frames);
  const [one] = await laid('Swing past');
  expect(one!.kind).toBe('sound');
  expect(one!.frame).toBeCloseTo(placeOf(document, clipId)!.from + peak!.frame - clip.shown.from, 6);

  // One made for the clip's own speed, on the same frame.
  await sheet.getByRole('button', { name: 'Add Whoosh for The drop' }).click();
  await expect(page.getByRole('button', { name: 'Undo: add Whoosh for The drop' })).toBeEnabled();
  expect((await laid('Whoosh for The drop'))[0]!.frame).toBeCloseTo(one!.frame, 6);

  // On every cut at once; the file is there once.
  await sheet.getByRole('button', { name: 'Fastest frame' }).click();
  await sheet.getByRole('radio', { name: 'Every cut' }).click();
  await sheet.getByRole('textbox', { name: 'Search' }).fill('thud');
  await sheet.getByRole('button', { name: 'Add Soft thud' }).click();
  await expect(page.getByRole('button', { name: 'Undo: add Soft thud' })).toBeEnabled();
  const cuts = targetsIn(await documentOf(app, id), SEQUENCE, 'cuts').map(({ frame }) => frame);
  const thuds = await laid('Soft thud');
  expect(thuds.map(({ frame }) => Math.round(1e5 * frame) / 1e5)).toEqual(cuts);
  expect((await documentOf(app, id)).sources.filter(({ name }) => name === 'Soft thud.wav')).toHaveLength(1);

  // From the timeline it is aligned with a cut.
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Timeline' }).click();
  await page
    .getByRole('button', { name: /: Swing past/ })
    .first()
    .click();
  await page.getByRole('toolbar', { name: 'Timeline actions' }).getByRole('button', { name: 'More' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Align', exact: true }).click();
  const put = page.getByRole('dialog', { name: 'Align sound' });
  await put.getByRole('radio', { name: 'Nearest cut' }).click();
  const nearest = cuts.reduce((best, cut) => (Math.abs(cut - one!.frame) < Math.abs(best - one!.frame) ? cut : best));
  await expect(put.getByRole('status')).toHaveText(`Loudest at ${formatTime(nearest, makeRate(24), 'timecode')}`);
  await put.getByRole('button', { name: 'Apply' }).click();
  expect((await laid('Swing past'))[0]!.frame).toBeCloseTo(nearest, 6);

  // One is dragged to a track: its loudest moment is where it was let go, on the playhead that is near.
  await page.getByRole('toolbar', { name: 'Timeline actions' }).getByRole('button', { name: 'More' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Sound effects', exact: true }).click();
  await sheet.getByRole('textbox', { name: 'Search' }).fill('wood');
  const grip = await restingBox(page.locator('[data-grip="Wood tick"]'));
  const tracks = await restingBox(page.getByRole('group', { name: 'Tracks' }));
  const at = await restingBox(page.getByRole('button', { name: /: Swing past/ }).first());
  await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + 30, tracks.y + 20, { steps: 4 });
  await expect(page.getByText(/^loudest at /)).toBeVisible();
  await page.mouse.move(at.x + 40, at.y + at.height / 2, { steps: 4 });
  const told = (await page.getByText(/^loudest at /).textContent())!;
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: add Wood tick' })).toBeEnabled();
  const [tick] = await laid('Wood tick');
  expect(told).toBe(`loudest at ${formatTime(Math.round(tick!.frame), makeRate(24), 'timecode')}`);
  expect(tick!.frame).toBeCloseTo(Math.round(tick!.frame), 6);
});

/** A second recording of the demo's chimes: from 1.25 s on, quieter, as one channel, with noise of its own. */
function recordedChimes(): Buffer {
  const chimes = readFileSync(demoSound('chimes.wav'));
  const from = chimes.indexOf('data') + 8;
  const first = 1.25 * 48_000;
  const count = 5 * 48_000;
  const samples = new Float32Array(count);
  let state = 7;
  for (let i = 0; i < count; i++) {
    state = (state * 16_807) % 2_147_483_647;
    const at = from + 4 * (first + i);
    const both = at + 4 <= chimes.length ? chimes.readInt16LE(at) + chimes.readInt16LE(at + 2) : 0;
    samples[i] = both / 131_072 + 0.002 * (state / 1_073_741_823.5 - 1);
  }
  return Buffer.from(waveBytes([samples], 48_000));
}

test('a second recording is laid in step by its sound, in the place of a clip’s own', async ({ page, app }) => {
  const { id } = (await (await fetch(`${app.address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
  await page.goto(`${app.address}/project/${id}`);
  const file = { name: 'Recorder.wav', mimeType: 'audio/wav', buffer: recordedChimes() };
  await page.getByLabel('Files to import').setInputFiles(file);
  await expect.poll(async () => (await documentOf(app, id)).clips.some(({ name }) => name === 'Recorder')).toBe(true);
  const recorder = (await documentOf(app, id)).clips.find(({ name }) => name === 'Recorder')!;
  await page.goto(`${app.address}/project/${id}/clip/${recorder.id}/sound`);
  await expect(page.getByTestId('sound-wave')).toHaveAttribute('aria-busy', 'false', { timeout: 60_000 });
  await startAction(page, 'Sound', 'Replace');
  const sheet = page.getByRole('dialog', { name: 'Replace sound' });
  await sheet.getByRole('radio', { name: 'Chimes.wav' }).click();
  await sheet.getByRole('button', { name: 'Sync by sound' }).click();
  await expect(sheet.getByRole('status')).toHaveText(/^Match found: \d+%$/, { timeout: 60_000 });
  await expect
    .poll(async () => Number(await sheet.getByRole('textbox', { name: 'Offset (s)' }).inputValue()))
    .toBeCloseTo(1.25, 4);
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const document = await documentOf(app, id);
  const replaced = findClip(document, recorder.id)!;
  expect(findSource(document, replaced.of.id)!.name).toBe('Chimes.wav');
  expect(replaced.timing.start).toBeCloseTo(1.25 * 48_000, -1);

  // What is something else is told to be.
  await startAction(page, 'Sound', 'Replace');
  await sheet.getByRole('radio', { name: 'Spoken line.wav' }).click();
  await sheet.getByRole('button', { name: 'Sync by sound' }).click();
  await expect(sheet.getByRole('status')).toHaveText('No match found. Enter the offset.', {
    timeout: 60_000,
  });
});
