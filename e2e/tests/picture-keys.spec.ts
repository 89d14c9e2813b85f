import type { Keyed, ProjectDocument } from '@hastig/contract';
import { constantSpan, eases, frameCount, mapOf, plainPicture, positionAt, rampSpan, reverseRange } from '@hastig/core';
import { accessFaults } from '../support/accessible';
import { dragBy, expect, saved, test } from '../support/app';
import { fixture, readPlates } from '../support/files';
import { clip, openDemoTimeline, projectOf, renderDocument, storedDocument, timelineAction } from '../support/timeline';

const LINEAR: [number, number, number, number] = [...eases.linear];

/** A clip under a ramp, the end of it turned round, of whose picture a setting changes by keys. */
function changing(project: ProjectDocument, setting: 'scale' | 'y', by: Keyed['by'], to: number): ProjectDocument {
  const [one] = project.clips;
  const map = mapOf(project, one!);
  const ramped = { ...map, spans: [constantSpan(1, 30), rampSpan(1, 0.25, 20), constantSpan(0.25, 40)] };
  const { start, spans } = reverseRange(ramped, { from: 60, to: 90 });
  const keyed: Keyed = {
    by,
    keys: [
      { at: 10, value: plainPicture[setting], ease: LINEAR },
      { at: 40, value: to },
    ],
  };
  const shown = { from: 0, frames: 90 };
  return {
    ...project,
    clips: [{ ...one!, timing: { start, spans }, shown, picture: { ...plainPicture, keys: { [setting]: keyed } } }],
  };
}

/** How bright the frame is with the upper part of a picture in it: grey, with a lighter block from line 20 to 60. */
function upper(share: number): number {
  const lines = 180 * share;
  const block = 40 * Math.min(40, Math.max(0, lines - 20));
  return (90 * (320 * lines + block) + 16 * 320 * (180 - lines)) / (320 * 180);
}

// How bright a picture is on the whole says how much of the frame it takes: the rest is black, which is stored as 16.
test('keys on scale and place are rendered as their formula says, with the content and evenly, through ramp and reverse', async ({
  page,
  app,
}) => {
  const project = await projectOf(page, app, [fixture('plates-24.mp4')]);
  const { lumas: whole } = await readPlates(fixture('plates-24.mp4'));
  for (const [setting, by] of [
    ['scale', 'source'],
    ['scale', 'output'],
    ['y', 'source'],
  ] as const) {
    const film = changing(project, setting, by, 0.5);
    const map = mapOf(film, film.clips[0]!);
    const { lumas } = await readPlates(await renderDocument(page, app, film));
    expect(lumas).toHaveLength(frameCount(map));
    lumas.forEach((luma, frame) => {
      const position = positionAt(map, frame);
      const passed = by === 'source' ? position : frame;
      const halved = 1 - 0.5 * Math.min(1, Math.max(0, (passed - 10) / 30));
      // Half as large is a quarter of it; moved down by half, the lower half is out of the frame.
      const seen = setting === 'scale' ? 16 + (whole[Math.floor(position + 1e-6)]! - 16) * halved ** 2 : upper(halved);
      const expected = halved === 1 ? whole[Math.floor(position + 1e-6)]! : seen;
      // The plate at the foot is not the same in any two pictures.
      if (setting === 'y' && halved > 0.8 && halved < 1) return;
      // A pixel more or less at each edge, and what the encoder makes of it.
      expect(Math.abs(luma - expected)).toBeLessThan(1.5);
    });
  }
});

test('a push-in is made with keys in the picture’s sheet, moved beneath the curve, and taken back', async ({
  page,
  app,
}) => {
  await openDemoTimeline(page, app);
  await clip(page, 'The drop').click();
  await timelineAction(page, 'Framing');
  const sheet = page.getByRole('dialog', { name: 'Framing of The drop' });
  const keys = sheet.getByRole('group', { name: 'Keys' });
  await page.getByRole('button', { name: 'First frame' }).click();
  await keys.getByRole('checkbox', { name: 'Scale' }).click();
  await expect(keys.getByRole('button', { name: 'Remove key' })).toBeVisible();
  const readout = page.getByRole('group', { name: 'Readout' });
  await readout.getByRole('button', { name: /^Output:/ }).click();
  await page.getByRole('textbox', { name: 'Output', exact: true }).fill('00:00:02:00');
  await page.keyboard.press('Enter');
  const scale = sheet.getByRole('textbox', { name: 'Scale' });
  await scale.fill('150%');
  await expect(keys.getByRole('button', { name: 'Remove key' })).toBeVisible();
  await keys.getByRole('radio', { name: 'Clip time' }).click();
  // What is between is what its ease makes of it: halfway, half as much.
  await readout.getByRole('button', { name: /^Output:/ }).click();
  await page.getByRole('textbox', { name: 'Output', exact: true }).fill('00:00:01:00');
  await page.keyboard.press('Enter');
  await expect(scale).toHaveValue('125%');
  expect(await accessFaults(page, 'guidelines', '[role=dialog]')).toEqual([]);
  await keys.getByRole('button', { name: 'Previous key' }).click();
  await keys.getByRole('radio', { name: 'linear', exact: true }).click();
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const keyed = async () => (await storedDocument(page, app)).clips[0]!.picture?.keys?.scale;
  expect(await keyed()).toEqual({
    by: 'output',
    keys: [
      { at: 0, value: 1, ease: LINEAR },
      { at: 48, value: 1.5 },
    ],
  });

  await timelineAction(page, 'Pace');
  const strip = page.getByRole('group', { name: 'Framing keys' });
  const second = strip.getByRole('slider', { name: 'Framing key 2' });
  await second.focus();
  await second.press('Shift+ArrowRight');
  await expect(second).toHaveAttribute('aria-valuenow', '58');
  await dragBy(page, second, -40, 0);
  await saved(page);
  expect((await keyed())!.keys[1]!.at).toBeLessThan(58);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(second).toHaveAttribute('aria-valuenow', '58');
  // A freeze before it takes it along: it counts the clip's time, and that got longer there.
  await second.press('Delete');
  await expect(strip.getByRole('slider')).toHaveCount(1);
});
