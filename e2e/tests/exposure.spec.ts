import { expect, test } from '@playwright/test';
import type { RetimeMap } from '@hastig/contract';
import { constantSpan, instant } from '@hastig/core';
import { codeBars, readBars, renderByCommand, renderMap } from '../support/files';

/** Eight frames of colour bars, each darker than the one before, but for the last. */
const dimmed = [1, 0.9, 0.7, 0.5, 0.3, 0.15, 0.05, 1];
const bars = { codec: 'avc', as: 'mp4', width: 320, height: 240, perSecond: 25 } as const;
const rate = { num: 25, den: 1 };

const mapAt = (speed: number, frames: number): RetimeMap => ({
  ...{ sourceRate: rate, outputRate: rate, sourceFrames: dimmed.length, start: 0 },
  spans: [constantSpan(speed, frames)],
});

/** The value that stands for the mean light of some (ITU-R BT.1886: light is the 2.4th power), written here once more. */
function meanLight(values: readonly number[], weights: readonly number[]): number {
  const light = values.reduce((sum, value, n) => sum + weights[n]! * (value / 255) ** 2.4, 0);
  return 255 * light ** (1 / 2.4);
}

/** How far a rendered frame's bars are from the mean of some frames of the source, by their weights. */
async function off(
  file: string,
  frame: number,
  source: readonly number[][][],
  weights: Readonly<Record<number, number>>,
) {
  const read = await readBars(file, frame);
  const frames = Object.keys(weights).map(Number);
  const shares = frames.map((one) => weights[one]!);
  const wanted = read.map((bar, n) =>
    bar.map((_, channel) =>
      meanLight(
        frames.map((one) => source[one]![n]![channel]!),
        shares,
      ),
    ),
  );
  return Math.max(...read.flatMap((bar, n) => bar.map((value, channel) => Math.abs(value - wanted[n]![channel]!))));
}

/** What coding a picture anew costs it, of 255. */
const CODED = 6;

const coded = { ...bars, standard: 'bt601', fullRange: false, tagged: true, dimmed } as const;

test('a file’s pictures are exposed for as long as the shutter is open, in linear light', async () => {
  const clip = await codeBars(coded);
  const source: number[][][] = [];
  for (const frame of dimmed.keys()) source.push(await readBars(clip, frame));
  await test.step('all frames that pass, each by how long it stands', async () => {
    const whole = await renderByCommand(clip, mapAt(4, 2), '--shutter', '360');
    expect(await off(whole, 0, source, { 0: 0.25, 1: 0.25, 2: 0.25, 3: 0.25 })).toBeLessThan(CODED);
    expect(await off(whole, 1, source, { 4: 0.25, 5: 0.25, 6: 0.25, 7: 0.25 })).toBeLessThan(CODED);
  });
  await test.step('half of them where it is open half of the time', async () => {
    const half = await renderMap(clip, mapAt(4, 2), { exposure: { ...instant, shutter: 180 } });
    expect(await off(half, 0, source, { 0: 0.5, 1: 0.5 })).toBeLessThan(CODED);
  });
  await test.step('the neighbours by their share where it is slow', async () => {
    const slow = await renderMap(clip, mapAt(0.25, 32), { exposure: { ...instant, slow: 'blended' } });
    expect(await off(slow, 8, source, { 2: 1 })).toBeLessThan(CODED);
    expect(await off(slow, 9, source, { 2: 0.75, 3: 0.25 })).toBeLessThan(CODED);
    expect(await off(slow, 27, source, { 6: 0.25, 7: 0.75 })).toBeLessThan(CODED);
  });
});

test('what an exposure cannot be is refused with what it can be', async () => {
  const clip = await codeBars(coded);
  const refused = (...flags: string[]) => renderByCommand(clip, mapAt(1, 8), ...flags);
  await expect(refused('--shutter', '400')).rejects.toThrow('Degrees from 0 to 360');
  await expect(refused('--samples', '0')).rejects.toThrow('A whole number of at least 1');
  await expect(refused('--slow', 'guessed')).rejects.toThrow('held, blended');
});
