import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { OutputFormat } from '@hastig/contract';
import { constantSpan, formatFacts, LoudnessMeter, makeRate } from '@hastig/core';
import type { Locator, Page } from '@playwright/test';
import { GifReader } from 'omggif';
import { accessFaults } from '../support/accessible';
import { expect, makeDemo, saved, startAction, test, typeReadout, type TestApp } from '../support/app';
import { demoClip, renderMapAs, scratch } from '../support/files';
import { discover, greyPictures, hasFramework, hasPython, soundOf } from '../support/framework';
import { storedDocument } from '../support/timeline';

const run = promisify(execFile);
const rate = makeRate(24);
const FRAMES = 24;
const map = { sourceRate: rate, outputRate: rate, sourceFrames: 144, start: 60, spans: [constantSpan(1, FRAMES)] };

/** Types of the boxes of an ISO base media file, at its top, in order (ISO/IEC 14496-12, 4.2). */
async function boxesOf(file: string): Promise<string[]> {
  const bytes = await readFile(file);
  const types: string[] = [];
  for (let at = 0; at + 8 <= bytes.length;) {
    const size = bytes.readUInt32BE(at);
    types.push(bytes.toString('latin1', at + 4, at + 8));
    at += size === 1 ? Number(bytes.readBigUInt64BE(at + 8)) : size || bytes.length;
  }
  return types;
}

const mean = (one: Buffer, other: Buffer): number =>
  one.reduce((sum, value, index) => sum + Math.abs(value - other[index]!), 0) / one.length;

/** A picture of a GIF in grey (ITU-R BT.709). */
function greyOf(gif: GifReader, n: number): Buffer {
  const rgba = new Uint8Array(4 * gif.width * gif.height);
  gif.decodeAndBlitFrameRGBA(n, rgba);
  return Buffer.from(
    Array.from({ length: rgba.length / 4 }, (_, at) =>
      Math.round(0.2126 * rgba[4 * at]! + 0.7152 * rgba[4 * at + 1]! + 0.0722 * rgba[4 * at + 2]!),
    ),
  );
}

const films: readonly [OutputFormat, container: RegExp, video: RegExp, audio: RegExp][] = [
  ['mp4', /ISO MP4/, /H.264/, /AAC/],
  ['mov', /Quicktime/, /H.264/, /AAC/],
  ['webm', /Matroska/, /VP9/, /Opus/],
  ['mkv', /Matroska/, /H.?264/, /AAC/],
];
const sounds: readonly [OutputFormat, audio: RegExp, slack: number][] = [
  ['wav', /24-bit PCM/, 0],
  ['flac', /FLAC/, 0],
  // These have frames of their own, and end with one.
  ['mp3', /Layer 3/, 0.1],
  ['m4a', /AAC/, 0.03],
  ['ogg', /Opus/, 0.03],
];

test('every form of a film is read by another reader: frames, rate, length, codecs, and its index in front', async () => {
  test.skip(!hasFramework, 'needs GStreamer');
  const [pictures, looked] = [new Map<OutputFormat, Buffer[]>(), [0, FRAMES - 1]];
  for (const [format, container, video, audio] of films) {
    const file = await renderMapAs(`film.${formatFacts[format].ending}`, demoClip('drop'), map);
    const found = await discover(file);
    expect(found.container, format).toMatch(container);
    expect(found.video, format).toMatchObject({ width: 1280, height: 720, rate: '24/1' });
    expect(found.video!.codec).toMatch(video);
    expect(found.audio, format).toMatchObject({ sampleRate: 48_000, channels: 2 });
    expect(found.audio!.codec).toMatch(audio);
    expect(Math.abs(found.seconds - FRAMES / 24), format).toBeLessThan(0.03);
    if (format === 'mp4' || format === 'mov') {
      const boxes = await boxesOf(file);
      expect(boxes.indexOf('moov'), boxes.join()).toBeLessThan(boxes.indexOf('mdat'));
    }
    const all = await greyPictures(file, 1280, 720);
    expect(all.length, format).toBe(FRAMES);
    pictures.set(format, looked.map((n) => all[n]!)); // prettier-ignore
  }
  const gif = new GifReader(await readFile(await renderMapAs('film.gif', demoClip('drop'), map)));
  expect([gif.width, gif.height, gif.numFrames(), gif.loopCount()]).toEqual([1280, 720, FRAMES, 0]);
  // Its times are hundredths of a second, so that only their sum is exact.
  const delays = Array.from({ length: FRAMES }, (_, n) => gif.frameInfo(n).delay);
  expect(delays.reduce((sum, delay) => sum + delay, 0)).toBe((100 * FRAMES) / 24);
  const drawn = Array.from({ length: FRAMES }, (_, n) => (looked.includes(n) ? greyOf(gif, n) : undefined));
  pictures.set('gif', drawn.flatMap((picture) => picture ?? [])); // prettier-ignore
  const reference = pictures.get('mkv')!;
  // The clip is of the full range, and this reader takes no notice of what `nclx` says of it: it stretches the limited one.
  for (const format of ['mp4', 'mov'] as const)
    pictures.set(format, pictures.get(format)!.map((picture) => Buffer.from(picture.map((value) => Math.round((value * 219) / 255 + 16))))); // prettier-ignore
  // The same frames in all, whatever their codings lose.
  for (const [format, some] of pictures)
    for (const [n, picture] of some.entries()) expect(mean(picture, reference[n]!), `${format} ${looked[n]}`).toBeLessThan(4); // prettier-ignore
});

test('sound alone is read by another reader, and lies where the film has it', async () => {
  test.skip(!hasFramework, 'needs GStreamer');
  const heard = new Map<OutputFormat, Float32Array>();
  for (const [format, audio, slack] of sounds) {
    const file = await renderMapAs(`sound.${formatFacts[format].ending}`, demoClip('drop'), map);
    const found = await discover(file);
    expect(found.video, format).toBeUndefined();
    expect(found.audio!.codec, format).toMatch(audio);
    expect(found.audio, format).toMatchObject({ sampleRate: 48_000, channels: 2 });
    expect(Math.abs(found.seconds - FRAMES / 24), format).toBeLessThanOrEqual(slack + 1e-6);
    heard.set(format, (await soundOf(file, 48_000, 1))[0]!);
  }
  const [wav, flac] = [heard.get('wav')!, heard.get('flac')!];
  // Of FLAC nothing is lost (RFC 9639); to 24 bits the two round each by itself.
  expect(flac.length).toBe(wav.length);
  expect(Math.max(...wav.map((value, n) => Math.abs(value - flac[n]!)))).toBeLessThanOrEqual(2 ** -23);
  for (const format of ['m4a', 'ogg'] as const) expect(latest(heard.get(format)!, wav), format).toBe(0);
  // Encoders of MP3 are late by 1105 samples, and the reader takes none of them off: 528 + 1 of the decoder and 576 of the encoder.
  expect(latest(heard.get('mp3')!, wav)).toBe(1105);
});

/** Samples by which a sound is later than another, by where they are most alike. */
function latest(sound: Float32Array, reference: Float32Array): number {
  const loudest = reference.reduce((best, value, n) => (Math.abs(value) > Math.abs(reference[best]!) ? n : best), 0);
  const [from, count] = [Math.max(0, loudest - 500), 2000];
  let [best, most] = [0, -Infinity];
  for (let shift = -1500; shift <= 1500; shift++) {
    let sum = 0;
    for (let n = from; n < from + count; n++) sum += (reference[n] ?? 0) * (sound[n + shift] ?? 0);
    if (sum > most) [best, most] = [shift, sum];
  }
  return best;
}

async function openOutput(page: Page, app: TestApp): Promise<string> {
  const { id } = await makeDemo(app);
  await page.goto(`${app.address}/project/${id}/output`);
  await expect(page.getByRole('button', { name: 'Render', exact: true })).toBeEnabled();
  return id;
}

const choose = (page: Page, group: string, option: string): Promise<void> =>
  page.getByRole('radiogroup', { name: group, exact: true }).getByRole('radio', { name: option, exact: true }).click();

async function render(page: Page, name: string): Promise<string> {
  await page.getByRole('button', { name: 'Render', exact: true }).click();
  await expect(page.getByText(`${name} is ready`)).toBeVisible({ timeout: 120_000 });
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: `Download ${name}` }).click();
  const file = join(await scratch(), name);
  await (await download).saveAs(file);
  return file;
}

/** Marks a stretch of the timeline. */
async function mark(page: Page, app: TestApp, id: string, from: string, to: string): Promise<void> {
  await page.goto(`${app.address}/project/${id}/timeline`);
  await typeReadout(page, 'Output', from);
  await page.getByRole('button', { name: 'Mark in' }).click();
  await typeReadout(page, 'Output', to);
  await page.getByRole('button', { name: 'Mark out' }).click();
  await page.getByRole('link', { name: 'Output', exact: true }).click();
}

test('a film goes out by own settings: a part, another size and shape, rate, levels, mono, to a loudness', async ({
  page,
  app,
}) => {
  test.skip(!hasFramework, 'needs GStreamer');
  const id = await openOutput(page, app);
  await mark(page, app, id, '00:00:04:00', '00:00:10:00');
  await choose(page, 'Range', 'In to out');
  await page.getByRole('textbox', { name: 'File name' }).fill('{project} {range} {size} {bogus}');
  await expect(page.getByRole('alert').filter({ hasText: '{bogus}' })).toBeVisible();
  await page.getByRole('textbox', { name: 'File name' }).fill('{name} {range} {size}');
  await choose(page, 'Settings', 'All');
  await choose(page, 'Frame size', 'Own');
  await page.getByRole('textbox', { name: 'Width' }).fill('405');
  await expect(page.getByText('Becomes 406.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Height' }).fill('720');
  await choose(page, 'Scaling', 'Fill, cropped');
  await choose(page, 'Frame rate', 'Own');
  await page.getByRole('textbox', { name: 'Frames per second' }).fill('fast');
  await expect(page.getByRole('button', { name: 'Render', exact: true })).toBeDisabled();
  await page.getByRole('textbox', { name: 'Frames per second' }).fill('30000/1001');
  await choose(page, 'Rate control', 'Bit rate');
  await page.getByRole('textbox', { name: 'Picture, kbit/s' }).fill('1500');
  await choose(page, 'Levels', 'Full');
  await choose(page, 'Sample rate', '44.1 kHz');
  await choose(page, 'Channels', 'Mono');
  await choose(page, 'Loudness', '−16 LUFS');
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  // What a choice excludes says why.
  await expect(page.getByRole('radiogroup', { name: 'Sound codec' }).getByRole('radio', { name: 'PCM 16 bit' })).toBeDisabled(); // prettier-ignore
  await expect(page.getByText('MP4 takes AAC, Opus, MP3, FLAC.')).toBeVisible();
  const name = 'Marble film 96-240 406x720.mp4';
  await expect(page.getByText(name, { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Estimate' }).click();
  const told = await page.getByText(/^It takes/).textContent();
  const file = await render(page, name);
  const found = await discover(file);
  expect(found.video).toMatchObject({ width: 406, height: 720, rate: '30000/1001' });
  expect(found.audio).toMatchObject({ sampleRate: 44_100, channels: 1 });
  // Its colours are of the full range: the last bit of what `nclx` tells (ISO/IEC 14496-12, 12.1.5).
  const bytes = await readFile(file);
  expect(bytes[bytes.indexOf('colrnclx') + 14]! & 0x80).toBe(0x80);
  const pictures = await greyPictures(file, 406, 720);
  // 145 frames at 24: out is the last frame that is in.
  expect(pictures.length).toBe(Math.ceil((145 * 30_000) / (24 * 1001)));
  // The frame covers all of it: no bar above or below.
  for (const row of [1, 718]) expect(Math.max(...pictures[20]!.subarray(row * 406, (row + 1) * 406))).toBeGreaterThan(40); // prettier-ignore
  // To a loudness, by the meter that is checked against the signals of EBU Tech 3341.
  const meter = new LoudnessMeter(48_000, 1);
  meter.add(await soundOf(file, 48_000, 1));
  expect(meter.loudness.integrated).toBeGreaterThan(-17);
  expect(meter.loudness.integrated).toBeLessThan(-15);
  const [, size, unit] = /about ([\d.]+) (kB|MB)/.exec(told!)!;
  expect(Number(size) * (unit === 'MB' ? 1e6 : 1e3)).toBeGreaterThan(0.5 * bytes.length);
  // What it was made by is kept with it, and put back into the form.
  await page.reload();
  await page.getByRole('button', { name: `Use the settings of ${name}` }).click();
  await expect(page.getByRole('textbox', { name: 'Width' })).toHaveValue('405');
  await expect(page.getByRole('textbox', { name: 'Picture, kbit/s' })).toHaveValue('1500');
});

test('stills come as a ZIP of numbered pictures, each the frame it should be', async ({ page, app }) => {
  test.skip(!hasFramework || !hasPython, 'needs GStreamer and Python');
  const id = await openOutput(page, app);
  await mark(page, app, id, '00:00:02:00', '00:00:02:12');
  await choose(page, 'Range', 'In to out');
  await choose(page, 'Make', 'Stills');
  await choose(page, 'Frame size', '640 × 360');
  await page.getByRole('textbox', { name: 'File name' }).fill('shots');
  const file = await render(page, 'shots.zip');
  const folder = await scratch();
  // Reads it, and checks each sum.
  await run('python3', ['-m', 'zipfile', '-t', file]);
  await run('python3', ['-m', 'zipfile', '-e', file, folder]);
  for (const n of [0, 12]) {
    const [picture] = await greyPictures(join(folder, `shots 000${String(n).padStart(2, '0')}.png`), 640, 360);
    expect(picture!.length).toBe(640 * 360);
  }
  await expect(readFile(join(folder, 'shots 00013.png'))).rejects.toThrow('no such file');
});

test('stills are written into a folder that is chosen, as files of their own', async ({ page, app }) => {
  // In place of the dialogue, which nobody can answer here: a folder of the browser's own.
  await page.addInitScript(() =>
    Object.assign(globalThis, {
      showDirectoryPicker: async () =>
        (await navigator.storage.getDirectory()).getDirectoryHandle('shoot', { create: true }),
    }),
  );
  const id = await openOutput(page, app);
  await mark(page, app, id, '00:00:02:00', '00:00:02:05');
  await choose(page, 'Range', 'In to out');
  await choose(page, 'Make', 'Stills');
  await choose(page, 'Format', 'JPEG');
  await choose(page, 'Save as', 'Files in a folder');
  await choose(page, 'Frame size', '640 × 360');
  await page.getByRole('textbox', { name: 'File name' }).fill('shots');
  for (const name of ['shots', 'shots 2']) {
    await page.getByRole('button', { name: 'Render', exact: true }).click();
    await expect(page.getByText(`shoot/${name} is ready: 6 frames`)).toBeVisible({ timeout: 60_000 });
    const files = await page.evaluate(async (folder) => {
      const shoot = await (await navigator.storage.getDirectory()).getDirectoryHandle('shoot');
      const names: string[] = [];
      for await (const file of (await shoot.getDirectoryHandle(folder)).keys()) names.push(file);
      return names.sort();
    }, name);
    expect(files).toEqual(Array.from({ length: 6 }, (_, n) => `${name} 0000${n}.jpg`.replace(name, 'shots')));
  }
});

test('presets fill the form, own ones are kept with the project; several wait, are paused, left out, called off', async ({
  page,
  app,
}) => {
  const id = await openOutput(page, app);
  await choose(page, 'Preset', 'Post upright');
  await expect(page.getByRole('textbox', { name: 'Width' })).toHaveValue('1080');
  await expect(page.getByRole('radiogroup', { name: 'Loudness', exact: true }).getByRole('radio', { name: '−14 LUFS' })).toBeChecked(); // prettier-ignore
  await choose(page, 'Make', 'GIF');
  await expect(page.getByText(/A GIF is for short pieces|frames, /)).toBeVisible();
  await choose(page, 'Preset', 'Edit further');
  await choose(page, 'Frame size', '640 × 360');
  await page.getByRole('button', { name: 'Save preset' }).click();
  const name = page.getByRole('textbox', { name: 'Preset name' });
  await name.fill('Archive');
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toBeDisabled();
  await name.fill('Small cut');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await saved(page);
  expect((await storedDocument(page, app)).presets).toMatchObject([{ name: 'Small cut', form: { format: 'mov', width: 640, soundCoding: 'pcm-s24' } }]); // prettier-ignore
  // The page is loaded anew for it.
  await mark(page, app, id, '00:00:04:00', '00:00:08:00');
  await choose(page, 'Preset', 'Small cut');
  await choose(page, 'Range', 'In to out');
  await page.getByRole('textbox', { name: 'File name' }).fill('first');
  const button = (label: string): Locator => page.getByRole('button', { name: label, exact: true });
  await button('Render').click();
  await button('Pause render').click();
  for (const next of ['second', 'third']) {
    await page.getByRole('textbox', { name: 'File name' }).fill(next);
    await button('Add to queue').click();
  }
  await expect(page.getByRole('list', { name: 'Waiting' }).getByRole('listitem')).toHaveCount(2);
  await expect(page.getByText(/paused$|^Opening clip/)).toBeVisible();
  await button('Don’t render second.mov').click();
  await button('Resume render').click();
  await expect(page.getByText(/^first\.mov is ready/)).toBeVisible({ timeout: 120_000 });
  await button('Cancel render').click();
  await expect(page.getByText('Render cancelled: third.mov. Nothing was saved.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Download first.mov' })).toBeVisible();
  await button('Remove preset Small cut').click();
  await saved(page);
  expect((await storedDocument(page, app)).presets).toBeUndefined();
});

test('each stretch from marker to marker becomes a file of its name', async ({ page, app }) => {
  const id = await openOutput(page, app);
  await page.goto(`${app.address}/project/${id}/timeline`);
  for (const at of ['00:00:01:00', '00:00:25:12']) {
    await typeReadout(page, 'Output', at);
    await startAction(page, 'Timeline', 'Add marker');
  }
  await saved(page);
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  await choose(page, 'Range', 'Marker to marker');
  await choose(page, 'Make', 'Sound');
  await page.getByRole('textbox', { name: 'File name' }).fill('part {number}');
  await expect(page.getByText(/^2 files: WAV/)).toBeVisible();
  await page.getByRole('button', { name: 'Render', exact: true }).click();
  await expect(page.getByText(/^part 02\.wav is ready/)).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/^part 01\.wav is ready: 588 frames, 24\.50 s/)).toBeVisible();
});
