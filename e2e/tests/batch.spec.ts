import { createReadStream, existsSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { constantSpan, makeRate } from '@hastig/core';
import type { Page } from '@playwright/test';
import { expect, makeDemo, test, type TestApp } from '../support/app';
import { demoClip, fixture, hastig, readPlates, scratch } from '../support/files';
import { discover, greyPictures, hasFramework, soundOf } from '../support/framework';
import { storeDocument } from '../support/timeline';

/** How a command ended. */
const ended = (...args: string[]): Promise<{ code: number; stdout: string; stderr: string }> =>
  hastig(...args).then(
    (told) => ({ code: 0, ...told }),
    (failed: { code: number; stdout: string; stderr: string }) => failed,
  );

const small = { format: 'mkv', width: 640, height: 360, keyEvery: 1, soundCoding: 'flac' } as const;

/** The demo's film with a preset of its own, in the interface, and as an archive. */
async function demoArchive(page: Page, app: TestApp): Promise<string> {
  const { document } = await makeDemo(app);
  const id = await storeDocument(app, { ...document, presets: [{ id: 'small', name: 'Small', form: small }] });
  await page.goto(`${app.address}/project/${id}/output`);
  const answer = await fetch(`${app.address}/api/projects/${id}/archive`);
  const file = join(await scratch(), 'film.zip');
  await writeFile(file, Buffer.from(await answer.arrayBuffer()));
  return file;
}

const digest = async (file: string): Promise<string> => {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(file)) hash.update(piece as Buffer);
  return hash.digest('hex');
};

// What is rendered by parts is compared each time (`jobs.spec.ts`, `stretches.spec.ts`), by the same page.
test(
  'an archive is rendered by its preset as the interface renders it: the same pictures, the same sound',
  { tag: '@long' },
  async ({ page, app }) => {
    test.skip(!hasFramework, 'needs GStreamer');
    const archive = await demoArchive(page, app);
    await page.getByRole('radiogroup', { name: 'Preset' }).getByRole('radio', { name: 'Small' }).click();
    await page.getByRole('button', { name: 'Render', exact: true }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Download Marble film.mkv' }).click({ timeout: 120_000 });
    const [here, folder] = [join(await scratch(), 'here.mkv'), await scratch()];
    await (await download).saveAs(here);
    const { stdout } = await hastig('project', 'render', archive, '--preset', 'small', '--out', folder);
    expect(stdout).toContain('Marble film.mkv: 640 frames');
    const there = join(folder, 'Marble film.mkv');
    expect(await readdir(folder)).toEqual(['Marble film.mkv']);
    if ((await digest(here)) === (await digest(there))) return;
    // Encoders that share their work may cut it otherwise; what is seen and heard is the same.
    const [one, other] = [await greyPictures(here, 640, 360), await greyPictures(there, 640, 360)];
    expect(other.length).toBe(one.length);
    expect(one.findIndex((picture, n) => !picture.equals(other[n]!))).toBe(-1);
    const [heard, again] = [await soundOf(here, 48_000, 2), await soundOf(there, 48_000, 2)];
    expect(again[0]!.length).toBe(heard[0]!.length);
    expect(heard[0]!.findIndex((value, n) => value !== again[0]![n])).toBe(-1);
  },
);

test('a project is checked and exported without a server, and says by its status how it ended', async ({
  page,
  app,
}) => {
  const archive = await demoArchive(page, app);
  const checked = await ended('project', 'check', archive);
  expect(checked.code).toBe(2);
  expect(checked.stdout).toBe('00:00:01:16\tThe drop\tBelow the real-frame floor: 48 frames to interpolate\n');
  const out = join(await scratch(), 'film.otio');
  const exported = await ended('project', 'export', archive, '--out', out);
  expect([exported.code, exported.stdout]).toEqual([0, `${out}\n`]);
  expect((JSON.parse(await readFile(out, 'utf8')) as { OTIO_SCHEMA: string }).OTIO_SCHEMA).toBe('Timeline.1');
  const folder = await scratch();
  for (const [args, words] of [
    [['project', 'export', archive, '--out', join(folder, 'x.txt')], 'choose what'],
    [['project', 'check', fixture('plates-24.mp4')], 'isn’t a project file'],
    [['project', 'render', archive, '--preset', 'none', '--out', folder], 'there are Post upright'],
    [['project', 'render', archive, '--preset', 'Screen', '--range', 'markers', '--out', folder], 'no markers'],
  ] as const) {
    const { code, stderr } = await ended(...args);
    expect([code, stderr.includes(words)], stderr).toEqual([1, true]);
  }
  // What is damaged on its way is told, and nothing is made of it.
  const bytes = await readFile(archive);
  bytes.fill(0, bytes.length >> 1, (bytes.length >> 1) + 5000);
  const damaged = join(folder, 'damaged.zip');
  await writeFile(damaged, bytes);
  const { code, stderr } = await ended('project', 'render', damaged, '--preset', 'Sound only', '--out', folder);
  expect([code, /damaged|not what it was/.test(stderr)], stderr).toEqual([1, true]);
  expect(await readdir(folder)).toEqual(['damaged.zip']);
});

test('one timing is put on many clips, as it is or scaled to each; what can’t be read is told, the others are made', async () => {
  const folder = await scratch();
  const map = join(folder, 'map.json');
  const rate = makeRate(24);
  const timing = { sourceRate: rate, outputRate: rate, sourceFrames: 144, start: 12, spans: [constantSpan(2, 24)] };
  await writeFile(map, JSON.stringify(timing));
  const [as, scaled] = [join(folder, 'as'), join(folder, 'scaled')];
  const done = await ended('apply', '--map', map, '--out', as, '--as', 'webm', fixture('plates-24.mp4'), map, fixture('plates-b-frames.mp4')); // prettier-ignore
  expect(done.code).toBe(1);
  expect(done.stderr).toContain('1 of 3 clips failed');
  for (const name of ['plates-24', 'plates-b-frames']) {
    const { plates } = await readPlates(join(as, `${name}.webm`));
    expect(plates).toEqual(Array.from({ length: 24 }, (_, n) => 12 + 2 * n));
  }
  expect(existsSync(join(as, 'map.webm'))).toBe(false);
  // Its shape in the length of what is 6 seconds at 24: all of it once, at real time, for it has one speed.
  expect((await ended('apply', '--map', map, '--out', scaled, '--scaled', fixture('plates-24.mp4'))).code).toBe(0);
  const { plates } = await readPlates(join(scaled, 'plates-24.mp4'));
  expect(plates).toEqual(Array.from({ length: 144 }, (_, n) => n));
});

test('a film is rendered with its pitch kept, as sound alone is', { tag: '@long' }, async () => {
  test.skip(!hasFramework, 'needs GStreamer');
  const folder = await scratch();
  const map = join(folder, 'map.json');
  const rate = makeRate(24);
  const timing = { sourceRate: rate, outputRate: rate, sourceFrames: 144, start: 0, spans: [constantSpan(0.5, 96)] };
  await writeFile(map, JSON.stringify(timing));
  const voice = ['--pitch', 'kept', '--shift', '300', '--focus', 'speech'];
  const made = async (command: 'render' | 'sound', out: string): Promise<Float32Array> => {
    await hastig(command, '--source', demoClip('drop'), '--map', map, '--out', join(folder, out), ...voice);
    return (await soundOf(join(folder, out), 48_000, 1))[0]!;
  };
  const [film, alone] = [await made('render', 'film.flac'), await made('sound', 'alone.wav')];
  expect((await discover(join(folder, 'film.flac'))).seconds).toBeCloseTo(4, 3);
  const furthest = film.reduce((most, value, n) => Math.max(most, Math.abs(value - alone[n]!)), 0);
  // FLAC has 24 bits, the other 32 of a real number.
  expect(furthest).toBeLessThan(2 ** -20);
});
