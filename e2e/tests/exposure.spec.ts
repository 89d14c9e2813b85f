import { createHash } from 'node:crypto';
import type { RetimeMap, SlowWay } from '@hastig/contract';
import { constantSpan, instant, makeRate } from '@hastig/core';
import { scenes } from '@hastig/demo';
import { settled } from '@hastig/headless';
import { accessFaults } from '../support/accessible';
import { expect, makeDemo, saved, test, typeReadout } from '../support/app';
import {
  codeBars,
  compareGraphics,
  demoClip,
  graphicsAddRight,
  likeness,
  loseGraphics,
  readBars,
  renderByCommand,
  renderMap,
  renderMapAs,
  structure,
} from '../support/files';
import { storedDocument } from '../support/timeline';

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

test('means by the graphics processor are those without it, within one step of a value', async () => {
  const spaces = [
    { matrix: 'bt709', fullRange: false },
    { matrix: 'bt601', fullRange: true },
  ] as const;
  for (const [width, height] of [
    [1, 1],
    [2, 3],
    [7, 5],
    [33, 17],
    [130, 74],
  ] as const)
    for (const space of spaces)
      for (const gain of [undefined, 1.4]) {
        const off = await compareGraphics(width, height, space, gain);
        // What draws here without hardware adds floats in the same order, and rounds some of them otherwise.
        expect({ width, height, ...off! }.most).toBeLessThanOrEqual(1);
        expect(off!.share).toBeLessThan(0.005);
      }
  expect(await graphicsAddRight()).toBe(true);
  expect(await loseGraphics()).toBe(true);
});

test('light that flickers is evened out on wish, in linear light', async () => {
  const flickering = Array.from({ length: 20 }, (_, frame) => (frame % 2 ? 0.8 : 1));
  const clip = await codeBars({ ...coded, dimmed: flickering });
  const map: RetimeMap = {
    ...{ sourceRate: rate, outputRate: rate, sourceFrames: flickering.length, start: 0 },
    spans: [constantSpan(1, flickering.length)],
  };
  const even = await renderByCommand(clip, map, '--even-light');
  const whites = async (file: string): Promise<number[]> => {
    const read: number[] = [];
    for (const frame of [8, 9, 10, 11]) read.push((await readBars(file, frame))[0]![0]!);
    return read;
  };
  const spread = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);
  const before = await whites(clip);
  expect(spread(before)).toBeGreaterThan(30);
  const evened = await whites(even);
  expect(spread(evened)).toBeLessThan(CODED);
  // Half of the frames around each are 0.8 as bright in their values.
  for (const value of evened)
    expect(Math.abs(value - meanLight([before[0]!, before[1]!], [0.5, 0.5]))).toBeLessThan(CODED);
});

test(
  'what a file repeats moves on where it is compensated: 24 pictures a second in a file of 30',
  { tag: '@long' },
  async () => {
    const drop = scenes.find(({ name }) => name === 'drop')!;
    const [film, file] = [makeRate(24), makeRate(30)];
    const repeated = await renderMapAs('repeated', demoClip('drop'), {
      ...{ sourceRate: film, outputRate: file, sourceFrames: drop.frames, start: 0 },
      spans: [constantSpan(1, 40)],
    });
    const half: RetimeMap = {
      ...{ sourceRate: file, outputRate: file, sourceFrames: 40, start: 0 },
      spans: [constantSpan(0.5, 78)],
    };
    const stands = async (slow: SlowWay): Promise<number> => {
      const made = await renderMapAs(slow, repeated, half, { exposure: { ...instant, slow }, sound: false });
      // Its frames 20 and 21, and 25 and 26, show one picture of the film.
      const pairs = [40, 41, 42, 50, 51, 52].map((n) => [n, n + 1] as const);
      // No number where nothing moves.
      return (await likeness(made, made, pairs, 1)).filter((ratio) => !(ratio < 40)).length;
    };
    expect(await stands('held')).toBeGreaterThan(2);
    expect(await stands('compensated')).toBe(0);
  },
);

test('what an exposure cannot be is refused with what it can be', async () => {
  const clip = await codeBars(coded);
  const refused = (...flags: string[]) => renderByCommand(clip, mapAt(1, 8), ...flags);
  await expect(refused('--shutter', '400')).rejects.toThrow('Degrees from 0 to 360');
  await expect(refused('--samples', '0')).rejects.toThrow('A whole number of at least 1');
  await expect(refused('--slow', 'guessed')).rejects.toThrow('held, blended');
});

test(
  'what is made between two frames is nearer to the true frame than blends and held ones',
  { tag: '@long' },
  async () => {
    // Every fourth frame of the steps, as a file of its own; what was left out is known.
    const true120 = demoClip('steps');
    const [fast, slow] = [makeRate(120), makeRate(30)];
    const part = { sourceRate: fast, sourceFrames: scenes.find(({ name }) => name === 'steps')!.frames };
    const few = await renderMapAs('few', true120, {
      ...{ ...part, outputRate: slow, start: 100 },
      spans: [constantSpan(1, 8)],
    });
    const made = async (slowWay: SlowWay): Promise<{ ratio: number; alike: number }> => {
      const map: RetimeMap = {
        sourceRate: slow,
        outputRate: slow,
        sourceFrames: 8,
        start: 0,
        spans: [constantSpan(0.25, 28)],
      };
      const file = await renderMapAs(slowWay, few, map, { exposure: { ...instant, slow: slowWay }, sound: false });
      const pairs = Array.from({ length: 28 }, (_, n) => [n, 100 + n] as const).filter(([n]) => n % 4 === 2);
      const all = await likeness(file, true120, pairs, 2);
      const ratio = all.reduce((sum, one) => sum + one, 0) / all.length;
      // Z. Wang et al., Image Quality Assessment: From Error Visibility to Structural Similarity, 2004; by the package `ssim.js`.
      return { ratio, alike: await structure(file, true120, pairs.slice(2, 6), 1280) };
    };
    const [held, blended, compensated] = [await made('held'), await made('blended'), await made('compensated')];
    console.log(
      `steps, every fourth frame: ${Object.entries({ held, blended, compensated })
        .map(([way, { ratio, alike }]) => `${way} ${ratio.toFixed(1)} dB, SSIM ${alike.toFixed(4)}`)
        .join('; ')}`,
    );
    expect(compensated.ratio).toBeGreaterThan(blended.ratio + 2);
    expect(compensated.ratio).toBeGreaterThan(held.ratio + 3);
    expect(compensated.alike).toBeGreaterThan(Math.max(blended.alike, held.alike));
  },
);

test('a clip’s pictures are chosen in Picture, seen at rest, and kept', async ({ page, app }) => {
  const { id, document } = await makeDemo(app);
  const { id: clipId } = document.clips.find(({ name }) => name === 'The drop')!;
  await page.goto(`${app.address}/project/${id}/clip/${clipId}/pace`);
  await page.getByRole('link', { name: 'Picture', exact: true }).click();
  const [mine, films] = ['Clip', 'Film'].map((name) => page.getByRole('group', { name: `Exposures: ${name}` }));
  const bar = page.getByRole('toolbar', { name: 'Picture actions' });
  const strip = page.getByRole('group', { name: 'Exposure of parts' });
  await page.getByRole('radio', { name: 'Blended' }).click();
  await page.getByRole('radio', { name: '180°' }).click();
  await expect(
    mine!.getByRole('button', { name: /^Slow parts blended, shutter 180°, all of the clip( · \d+ ms)?\. Edit$/ }),
  ).toBeVisible();
  await expect(strip.getByRole('button', { name: /^Blended · 180°/ }).first()).toBeVisible();

  await test.step('a part of it, between in and out', async () => {
    await typeReadout(page, 'Output', '20f');
    await page.keyboard.press('i');
    await typeReadout(page, 'Output', '60f');
    await page.keyboard.press('o');
    await bar.getByRole('button', { name: 'Exposure' }).click();
    const sheet = page.getByRole('dialog', { name: 'Add exposure' });
    await expect(sheet.getByRole('radio', { name: 'In to out' })).toBeChecked();
    await sheet.getByRole('radio', { name: 'Output time' }).click();
    await sheet.getByRole('radiogroup', { name: 'Slow parts' }).getByRole('radio', { name: 'Held' }).click();
    await sheet.getByRole('radio', { name: 'Closed' }).click();
    expect(await accessFaults(page, 'guidelines')).toEqual([]);
    await sheet.getByRole('button', { name: 'Apply' }).click();
    await expect(
      mine!.getByRole('button', { name: /shutter closed, output 20f to 61f( · \d+ ms)?\. Edit/ }),
    ).toBeVisible();
    await expect(strip.getByRole('button', { name: /^Held, frames 20 to 6[01]/ })).toBeVisible();
  });
  await test.step('of all of the film, where it is fast', async () => {
    await bar.getByRole('button', { name: 'Exposure' }).click();
    const sheet = page.getByRole('dialog', { name: 'Add exposure' });
    await sheet.getByRole('radio', { name: 'Film', exact: true }).click();
    await sheet.getByRole('radio', { name: 'All of it' }).click();
    await sheet.getByRole('radio', { name: 'Above' }).click();
    await sheet.getByRole('textbox', { name: 'Speed', exact: true }).fill('150%');
    await sheet.getByRole('button', { name: 'Apply' }).click();
    await expect(
      films!.getByRole('button', { name: /all of the film · only above 150%( · \d+ ms)?\. Edit/ }),
    ).toBeVisible();
  });
  await test.step('switched, moved, removed and undone', async () => {
    await mine!.getByRole('button', { name: 'Switch off: Slow parts held, shutter closed' }).click();
    await expect(strip.getByRole('button', { name: /^Held/ })).toBeHidden();
    await mine!.getByRole('button', { name: 'Reorder: Slow parts held, shutter closed' }).focus();
    const said = page
      .getByRole('status')
      .filter({ hasText: /^(Picked up|Now at|Put)/ })
      .first();
    await page.keyboard.press('Space');
    await expect(said).toHaveText('Now at 2 of 2.');
    await page.keyboard.press('ArrowUp');
    await expect(said).toHaveText('Now at 1 of 2.');
    await page.keyboard.press('Space');
    await expect(said).toHaveText('Put at 1 of 2.');
    await films!.getByRole('button', { name: /^Remove:/ }).click();
    await expect(films!.getByRole('button')).toHaveCount(0);
    await page.getByRole('button', { name: 'Undo: remove an exposure' }).click();
    await expect(films!.getByRole('button', { name: /only above 150%/ })).toBeVisible();
  });
  await saved(page);
  const stored = await storedDocument(page, app);
  expect(stored.clips.find((one) => one.id === clipId)!.exposures).toMatchObject([
    { slow: 'held', shutter: 0, off: true, over: { by: 'output', from: 20, to: 61 } },
    { slow: 'blended', shutter: 180 },
  ]);
  expect(stored.sequence.exposures).toMatchObject([{ only: { than: 'faster', speed: 1.5 } }]);
  await page.reload();
  await expect(mine!.getByRole('button', { name: /Edit$/ })).toHaveCount(2);
});

test('what is made is compared with what was, and plays as it is made once it is ready', async ({ page, app }) => {
  const { id, document } = await makeDemo(app);
  const { id: clipId } = document.clips.find(({ name }) => name === 'The steps')!;
  await page.goto(`${app.address}/project/${id}/clip/${clipId}/picture`);
  const picture = page.getByRole('img', { name: /^Picture of/ });
  const seen = async (): Promise<string> => {
    await settled(page);
    return createHash('sha256')
      .update(await picture.screenshot())
      .digest('hex');
  };
  // A worker's canvas is on the screen a moment after it was drawn.
  const rest = async (last = ''): Promise<string> => {
    const now = await seen();
    return now === last ? now : rest(now);
  };
  await typeReadout(page, 'Output', '41f');
  await typeReadout(page, 'Speed', '5%');
  await typeReadout(page, 'Output', '43f');
  const held = await rest();
  await page.getByRole('radio', { name: 'Compensated' }).click();
  await expect(page.getByText(/^This picture took \d+ ms on this device\.$/)).toBeVisible();
  const made = await rest();
  expect(made).not.toBe(held);

  await test.step('what moved is kept on the device, and makes the same picture after a reload', async () => {
    const gone = 'f'.repeat(64);
    const kept = (): Promise<string[]> =>
      page.evaluate(async (file) => {
        const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('flows', { create: true });
        const names: string[] = [];
        for await (const [name, handle] of folder.entries())
          if ((await (handle as FileSystemFileHandle).getFile()).size > 1000) names.push(name);
        await folder.getFileHandle(`${file}-${'0'.repeat(32)}`, { create: true });
        return names.sort();
      }, gone);
    await expect.poll(async () => (await kept()).length).toBeGreaterThan(0);
    const names = await kept();
    await saved(page);
    await page.reload();
    await typeReadout(page, 'Output', '43f');
    await expect(page.getByText(/^This picture took \d+ ms on this device\.$/)).toBeVisible();
    expect(await rest()).toBe(made);
    // Of a file that the server does not have nothing is left.
    const there = await page.evaluate(async () => {
      const all: string[] = [];
      for await (const name of (await (await navigator.storage.getDirectory()).getDirectoryHandle('flows')).keys())
        all.push(name);
      return all;
    });
    expect(there).toEqual(expect.arrayContaining(names));
    expect(there.filter((name) => name.startsWith(gone))).toEqual([]);
  });
  await test.step('held before, wiped, and what differs', async () => {
    const box = (await page.getByRole('button', { name: 'Hold to show before' }).boundingBox())!;
    await page.mouse.move(box.x + 20, box.y + 20);
    await page.mouse.down();
    await expect(page.getByRole('status').filter({ hasText: /^Before$/ })).toBeVisible();
    await expect.poll(() => rest()).not.toBe(made);
    await page.mouse.up();
    await expect.poll(() => rest()).toBe(made);
    await page.keyboard.press('v');
    const line = page.getByRole('slider', { name: 'Wipe between before and made' });
    await expect(line).toHaveAttribute('aria-valuenow', '50');
    await line.focus();
    await page.keyboard.press('Shift+ArrowLeft');
    await expect(line).toHaveAttribute('aria-valuenow', '40');
    expect(await accessFaults(page, 'guidelines')).toEqual([]);
    await page.getByRole('button', { name: 'Difference' }).click();
    await expect(line).toBeHidden();
    await page.getByRole('button', { name: 'Movement' }).click();
    await expect(page.getByRole('status').filter({ hasText: 'Movement to the next frame' })).toBeVisible();
    await page.keyboard.press('m');
    await expect.poll(() => rest()).toBe(made);
  });
  await test.step('what is ready plays as it is made, the rest as a draft', async () => {
    const ready = page.getByRole('img', { name: /^Ready: \d+ pictures$/ });
    await expect(ready).toBeVisible();
    await expect
      .poll(async () => Number(/\d+/.exec((await ready.getAttribute('aria-label'))!)![0]), { timeout: 60_000 })
      .toBeGreaterThan(10);
    const draft = page.getByRole('status').filter({ hasText: /^Draft$/ });
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
    // It runs out of what is ready at some moment.
    await expect(draft).toBeVisible();
    await page.keyboard.press('Space');
    await expect(draft).toBeHidden();
  });
  await test.step('how long a render takes is estimated before', async () => {
    await page.getByRole('link', { name: 'Output' }).click();
    await page.getByRole('button', { name: 'Estimate' }).click();
    await expect(
      page.getByText(/^It takes (less than|about) [\d.]+ (s|min) on this device, about [\d.]+ (kB|MB)\.$/),
    ).toBeVisible();
    // What was found of another file is not told of this one.
    await page.getByRole('radio', { name: '640 × 360' }).click();
    await expect(page.getByText(/^It takes/)).toBeHidden();
  });
});
