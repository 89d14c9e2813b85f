import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { RetimeMap } from '@hastig/contract';
import { constantSpan, makeRate } from '@hastig/core';
import { expect, test } from '../support/app';
import { projectOf } from '../support/timeline';
import { fixture, hastig, renderMap, scratch, soundPeak } from '../support/files';

/** The clip with AC-3 sound, whose codec is said to be one that nothing here decodes (Matroska codec IDs, RFC 9559). */
async function deafClip(): Promise<string> {
  const bytes = await readFile(fixture('sound-ac3-5.1.mkv'));
  bytes.write('A_DTS', bytes.indexOf('A_AC3'), 'latin1');
  const file = join(await scratch(), 'recorder.mkv');
  await writeFile(file, bytes);
  return file;
}

test('sound that can’t be decoded is told where the clip comes in, in its facts, on the clip and in Sound', async ({
  page,
  app,
}) => {
  await projectOf(page, app, [await deafClip()]);
  const told = /The sound is DTS, which can’t be decoded: it’s silent\. Convert/;
  await expect(page.getByRole('alert').filter({ hasText: told })).toBeVisible();
  await page.getByRole('link', { name: 'Open recorder.mkv' }).click();
  await expect(page.getByRole('status').filter({ hasText: told })).toBeVisible();
  await expect(page.getByText('DTS, 6 channels, 48000 Hz, can’t be decoded: silent')).toBeVisible();
  await page.getByRole('button', { name: 'Add to timeline' }).click();
  const clip = page.getByRole('button', { name: /^Clip 1 of .*sound can’t be decoded/ });
  await expect(clip).toBeVisible();
  await clip.click();
  await page.getByRole('link', { name: 'Sound' }).click();
  await expect(page.getByText(told).last()).toBeVisible();
});

test('the command line tells it too, and renders the picture', { tag: '@long' }, async () => {
  const map: RetimeMap = {
    ...{ sourceRate: makeRate(24), outputRate: makeRate(24), sourceFrames: 144, start: 0 },
    spans: [constantSpan(1, 12)],
  };
  const folder = await scratch();
  const mapFile = join(folder, 'map.json');
  await writeFile(mapFile, JSON.stringify(map));
  const { stdout, stderr } = await hastig(
    ...['render', '--source', await deafClip(), '--map', mapFile, '--out', join(folder, 'out.mp4')],
  );
  expect(stderr).toContain('The sound is DTS, which can’t be decoded');
  expect(stdout).toContain('12 frames');
});

test('E-AC-3 is heard, as late as its encoder left it', async () => {
  const map: RetimeMap = {
    ...{ sourceRate: makeRate(24), outputRate: makeRate(24), sourceFrames: 144, start: 0 },
    spans: [constantSpan(1, 144)],
  };
  const out = await renderMap(fixture('sound-eac3.mkv'), map);
  for (const knock of [1, 2.5, 4]) {
    const { onset, level } = await soundPeak(out, knock - 0.1, knock + 0.1);
    // Its first 256 samples lead in (ETSI TS 102 366), and this file doesn’t say so.
    expect(onset - knock).toBeGreaterThan(-0.001);
    expect(onset - knock).toBeLessThan(0.008);
    expect(level).toBeGreaterThan(0.3);
  }
});
