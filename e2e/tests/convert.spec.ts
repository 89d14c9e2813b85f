import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { constantSpan, makeRate } from '@hastig/core';
import { takeClip } from '../../cli/src/source-facts';
import { codedBy, converted, pictures } from '../support/coded';
import { demoClip, fixture, hastig, readPlates, renderMap, scratch, soundPeak, structure } from '../support/files';
import { hasFramework } from '../support/framework';
import { remake } from '../support/remade';

const numbers = (count: number): number[] => Array.from({ length: count }, (_, n) => n);

test.skip(!hasFramework, 'needs GStreamer');

for (const [name, ending, ...steps] of [
  [
    'HEVC of 10 bits',
    'mp4',
    pictures,
    'video/x-raw,format=I420_10LE ! x265enc speed-preset=ultrafast ! h265parse ! mp4mux',
  ],
  ['ProRes', 'mov', pictures, 'video/x-raw,format=I422_10LE ! avenc_prores_ks ! qtmux'],
  ['Motion JPEG in AVI', 'avi', pictures, 'jpegenc quality=95 ! avimux'],
] as const)
  test(`${name} becomes a file with every frame at its own time`, async () => {
    const { plates, times } = await readPlates(
      await converted(await codedBy(ending, fixture('plates-24.mp4'), ...steps)),
    );
    expect(plates).toEqual(numbers(144));
    times.forEach((time, n) => expect(Math.abs(time - times[0]! - n / 24)).toBeLessThan(1 / 120_000));
  });

test('frames at irregular times stay at theirs, and knocks with their picture', async () => {
  const gaps = numbers(60).map((n) => (n % 7 === 3 ? 0.08 : 1 / 30 + (n % 3) * 0.004));
  const times = gaps.map((_, n) => gaps.slice(0, n).reduce((sum, gap) => sum + gap, 0));
  const end = times.at(-1)! + gaps.at(-1)!;
  const source = await remake({
    times,
    end,
    sounds: [{ start: 0, end, knocks: [times[20]!, times[45]!] }],
  });
  const out = await converted(source);
  const [was, is] = [await readPlates(source), await readPlates(out)];
  expect(is.plates).toEqual(was.plates);
  expect(is.times.length).toBe(times.length);
  // Within a tick of the container, of either.
  is.times.forEach((time, n) => expect(Math.abs(time - was.times[n]!)).toBeLessThan(1 / 10_000));
  for (const at of [times[20]!, times[45]!]) {
    const heard = await soundPeak(out, at - 0.05, at + 0.1);
    expect(Math.abs(heard.onset - at)).toBeLessThan(0.001);
  }
});

test('turned pictures are turned as the browser turns them, and those of other than square pixels keep their shape', async () => {
  const times = numbers(24).map((n) => n / 24);
  for (const rotation of [90, 180, 270] as const) {
    const source = await remake({ times, end: 1, rotation });
    const out = await converted(source);
    const { video } = (await takeClip(out)).facts;
    expect([video!.width, video!.height, video!.rotation]).toEqual(rotation === 180 ? [320, 180, 0] : [180, 320, 0]);
    const rate = makeRate(24);
    const map = { sourceRate: rate, outputRate: rate, sourceFrames: 24, start: 0, spans: [constantSpan(1, 24)] };
    const shown = await renderMap(source, map, { quality: 'very-high' });
    // Z. Wang et al., Image Quality Assessment, 2004: 1 is the same; a picture turned otherwise is far from it.
    expect(await structure(out, shown, [[0, 0], [12, 12]], video!.width)).toBeGreaterThan(0.95); // prettier-ignore
  }
  const wide = (await takeClip(await converted(await remake({ times, end: 1, displayWidth: 426 })))).facts.video!;
  expect(wide.width).toBe(426);
});

test('sound that was coded is heard where it was', async () => {
  const sound = 'd. ! queue ! audioconvert ! avenc_aac ! mux. mp4mux name=mux';
  const source = await codedBy(
    'mp4',
    demoClip('drop'),
    pictures,
    'x265enc speed-preset=ultrafast ! h265parse ! mux.',
    sound,
  );
  const [was, is] = [await soundPeak(source, 0, 6), await soundPeak(await converted(source), 0, 6)];
  expect(Math.abs(is.time - was.time)).toBeLessThan(0.001);
});

test('by command: many files, and what is none is told', async () => {
  const folder = await scratch();
  const failed = (await hastig('convert', fixture('hevc.mp4'), fixture('damaged-inside.zip'), '--out', folder).then(
    () => undefined,
    (error: unknown) => error,
  )) as { code: number; stdout: string; stderr: string };
  expect([failed.code, failed.stdout]).toEqual([1, `${join(folder, 'hevc.mov')}: from H.265 / HEVC\n`]);
  expect(failed.stderr).toContain('Nothing in it can be decoded.');
  expect((await readPlates(join(folder, 'hevc.mov'))).plates).toEqual(numbers(24));
});
