import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import type { ProjectDocument, RetimeMap } from '@hastig/contract';
import { constantSpan, makeRate } from '@hastig/core';
import { test as inApp } from '../support/app';
import {
  codePlates,
  drawnColour,
  fixture,
  readPlates,
  renderByCommand,
  renderMap,
  scratch,
  soundPeak,
} from '../support/files';
import { remake, type Remade } from '../support/remade';
import { projectOf, renderDocument } from '../support/timeline';

// Files as cameras, recorders and phones write them. Each is made here of 48 pictures, the knock in the middle of the 24th.
const COUNT = 48;
const timesFrom = (start: number): number[] => Array.from({ length: COUNT }, (_, n) => start + n / 24);
const numbers = (count: number, first = 0): number[] => Array.from({ length: count }, (_, n) => first + n);

function whole(frames: number, speed = 1): RetimeMap {
  const map = { sourceRate: makeRate(24), outputRate: makeRate(24), sourceFrames: frames, start: 0 };
  return { ...map, spans: [constantSpan(speed, frames / speed)] };
}

const starts: readonly (readonly [string, Remade])[] = [
  [
    'sound that starts before the picture',
    { times: timesFrom(0.5), end: 2.5, sounds: [{ start: 0, end: 2.5, knocks: [1.5] }] },
  ],
  [
    'sound that starts after the picture',
    { times: timesFrom(0), end: 2, sounds: [{ start: 0.7, end: 2, knocks: [1] }] },
  ],
  ['a first time stamp that is not 0', { times: timesFrom(1), end: 3, sounds: [{ start: 1, end: 3, knocks: [2] }] }],
];

for (const [name, clip] of starts) {
  test(`a knock is heard with its picture: ${name}`, async () => {
    const source = await remake(clip);
    for (const speed of [1, 0.5]) {
      const out = await renderMap(source, whole(COUNT, speed));
      const { plates } = await readPlates(out);
      expect(plates).toEqual(numbers(COUNT / speed).map((n) => Math.floor(n * speed)));
      const { onset, level } = await soundPeak(out, 1 / speed - 0.1, 1 / speed + 0.1);
      expect(Math.abs(onset - 1 / speed)).toBeLessThan(0.001);
      expect(level).toBeGreaterThan(0.4);
    }
  });
}

/** A clip of 144 pictures of which an edit list (ISO/IEC 14496-12, 8.6.6) cuts off ten, in the midst of a group. */
async function cutClip(): Promise<string> {
  const bytes = await readFile(fixture('plates-24.mp4'));
  const list = bytes.indexOf('elst');
  // Units a second of the film and of its only track, in the version of their boxes that counts in 32 bits.
  const [film, track] = ['mvhd', 'mdhd'].map((box) => bytes.readUInt32BE(bytes.indexOf(box) + 16)) as [number, number];
  bytes.writeUInt32BE(Math.round((134 / 24) * film), list + 12);
  bytes.writeUInt32BE((10 * track) / 24, list + 16);
  const source = join(await scratch(), 'cut.mp4');
  await writeFile(source, bytes);
  return source;
}

test('what an edit list cuts off is not shown', async () => {
  const { plates } = await readPlates(await renderMap(await cutClip(), whole(134)));
  expect(plates).toEqual(numbers(134, 10));
});

inApp('a project that counts what is cut off, as an older version did, shows what it showed', async ({ page, app }) => {
  const document = await projectOf(page, app, [await cutClip()]);
  const [source, clip] = [document.sources[0]!, document.clips[0]!];
  expect(source.facts.video!.frames).toBe(134);
  const old: ProjectDocument = {
    ...document,
    sources: [{ ...source, facts: { ...source.facts, video: { ...source.facts.video!, frames: 144 } } }],
    clips: [{ ...clip, timing: { start: 0, spans: whole(144).spans }, shown: { from: 0, frames: 144 } }],
  };
  expect((await readPlates(await renderDocument(page, app, old))).plates).toEqual(numbers(144));
});

test('of several tracks of sound the one is heard that is chosen', async () => {
  const source = await remake({
    ...{ times: timesFrom(0), end: 2 },
    sounds: [
      { start: 0, end: 2, knocks: [0.5], name: 'Boom' },
      { start: 0, end: 2, knocks: [1.5], name: 'Clip-on' },
    ],
  });
  for (const [out, knock, other] of [
    [await renderMap(source, whole(COUNT)), 0.5, 1.5],
    [await renderByCommand(source, whole(COUNT), '--sound-track', '2'), 1.5, 0.5],
  ] as const) {
    expect((await soundPeak(out, knock - 0.1, knock + 0.1)).level).toBeGreaterThan(0.4);
    expect((await soundPeak(out, other - 0.1, other + 0.1)).level).toBeLessThan(0.01);
  }
  await expect(renderMap(source, whole(COUNT), { soundTrack: 2 })).rejects.toThrow(/has 2 sound tracks/);
});

for (const [rotation, width, height] of [
  [90, 180, 320],
  [180, 320, 180],
  [270, 180, 320],
] as const) {
  test(`a picture stored turned is shown upright, turned by ${rotation}°`, async () => {
    const out = await renderMap(await remake({ times: timesFrom(0), end: 2, rotation }), whole(COUNT));
    const { plates } = await readPlates(out, true, { x: 0, y: 0, width, height, turn: rotation });
    expect(plates).toEqual(numbers(COUNT));
  });
}

test('pixels twice as wide as high give a picture twice as wide', async () => {
  const out = await renderMap(await remake({ times: timesFrom(0), end: 2, displayWidth: 640 }), whole(COUNT));
  const { plates } = await readPlates(out, true, { x: 0, y: 0, width: 640, height: 180, stretch: 2 });
  expect(plates).toEqual(numbers(COUNT));
});

const usual = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709' };
const wide = (transfer: string) => ({ primaries: 'bt2020', transfer, matrix: 'bt2020-ncl' });

for (const [name, picture, width, height] of [
  ['an odd size loses one pixel at an edge', { width: 319, height: 179, bits: 8, colours: usual }, 318, 178],
  ['10 bit', { width: 320, height: 180, bits: 10, colours: usual }, 320, 180],
  ['10 bit, PQ', { width: 320, height: 180, bits: 10, colours: wide('pq') }, 320, 180],
  ['10 bit, HLG', { width: 320, height: 180, bits: 10, colours: wide('hlg') }, 320, 180],
] as const) {
  test(`a file has the pictures that the browser shows, as SDR: ${name}`, async () => {
    const source = await codePlates({ count: COUNT, ...picture });
    const out = await renderMap(source, whole(COUNT));
    const { plates } = await readPlates(out, true, { x: 0, y: 0, width, height });
    expect(plates).toEqual(numbers(COUNT));
    const [shown, rendered] = [await drawnColour(source, 160, 40), await drawnColour(out, 160, 40)];
    shown.forEach((value, channel) => expect(Math.abs(value - rendered[channel]!)).toBeLessThanOrEqual(4));
  });
}
