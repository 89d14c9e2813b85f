import type { Effect, Flash, RetimeMap, Trail } from '@hastig/contract';
import { constantSpan, instant } from '@hastig/core';
import { accessFaults } from '../support/accessible';
import { expect, makeDemo, saved, test, typeReadout } from '../support/app';
import { codeBars, readBars, renderByCommand, renderMap } from '../support/files';
import { storedDocument } from '../support/timeline';

/** Eight frames of colour bars of other brightness. */
const dimmed = [0.9, 0.3, 0.7, 0.5, 1, 0.15, 0.6, 0.4];
const rate = { num: 25, den: 1 };
const coded = {
  ...({ codec: 'avc', as: 'mp4', width: 320, height: 240, perSecond: 25, standard: 'bt601' } as const),
  ...{ fullRange: false, tagged: true, dimmed },
};

const mapAt = (start: number, speed: number, frames: number): RetimeMap => ({
  ...{ sourceRate: rate, outputRate: rate, sourceFrames: dimmed.length, start },
  spans: [constantSpan(speed, frames)],
});

// Light by values and back (ITU-R BT.1886: the 2.4th power), written here once more.
const lightOf = (value: number): number => (value / 255) ** 2.4;
const valueOf = (light: number): number => 255 * Math.min(1, light) ** (1 / 2.4);

/** What coding a picture anew costs it, of 255. */
const CODED = 6;

/** How far a rendered frame's bars are from what a formula makes of the light of the source's frames. */
async function off(
  file: string,
  frame: number,
  source: readonly number[][][],
  formula: (light: (frame: number) => number, channel: number) => number,
): Promise<number> {
  const read = await readBars(file, frame);
  return Math.max(
    ...read.flatMap((bar, n) =>
      bar.map((value, channel) =>
        Math.abs(value - valueOf(formula((one) => lightOf(source[one]![n]![channel]!), channel))),
      ),
    ),
  );
}

const trail: Trail = {
  ...{ id: 't', kind: 'trail', by: 'frames', apart: 1, copies: 2, decay: 0.8, combine: 'lightest' },
};
const flash: Flash = {
  ...{ id: 'f', kind: 'flash', way: 'light', strength: 1.5, colour: '#ffffff', curve: 'linear', peak: 1 },
  over: { by: 'output', from: 1, to: 4 },
};

/** The clip of bars, what each of its frames has of them, and what renders it with effects. */
async function barsWith() {
  const clip = await codeBars(coded);
  const source: number[][][] = [];
  for (const frame of dimmed.keys()) source.push(await readBars(clip, frame));
  const render = (map: RetimeMap, ...effects: readonly Effect[]): Promise<string> => renderMap(clip, map, { effects });
  return { clip, source, render };
}

test('trails of a file are those of their formulas, of each kind and under a ramp', { tag: '@long' }, async () => {
  const { clip, source, render } = await barsWith();
  await test.step('the lightest of five copies, by command', async () => {
    const out = await renderByCommand(clip, mapAt(0, 1, 8), '--trail', '0.04,5,0.8,lightest');
    for (const n of [0, 3, 5, 7])
      expect(
        await off(out, n, source, (light) =>
          Math.max(...[0, 1, 2, 3, 4, 5].filter((k) => k <= n).map((k) => 0.8 ** k * light(n - k))),
        ),
      ).toBeLessThan(CODED);
  });
  await test.step('later ones, sum, mean and over, each on a frame of its own', async () => {
    const one = (at: number, more: Partial<Trail>): Trail => ({
      ...{ ...trail, id: `t${at}`, copies: 1, decay: 0.5 },
      ...more,
      over: { by: 'output', from: at, to: at + 1 },
    });
    const out = await render(
      mapAt(0, 1, 8),
      one(1, { apart: -3, combine: 'sum' }),
      one(4, { combine: 'mean' }),
      one(5, { combine: 'sum' }),
      one(6, { combine: 'over', decay: 0.25 }),
    );
    expect(await off(out, 1, source, (light) => light(1) + 0.5 * light(4))).toBeLessThan(CODED);
    expect(await off(out, 4, source, (light) => (light(4) + 0.5 * light(3)) / 1.5)).toBeLessThan(CODED);
    expect(await off(out, 5, source, (light) => light(5) + 0.5 * light(4))).toBeLessThan(CODED);
    expect(await off(out, 6, source, (light) => 0.75 * light(6) + 0.25 * light(5))).toBeLessThan(CODED);
  });
  await test.step('under a ramp, of exposures', async () => {
    const ramp: RetimeMap = {
      ...mapAt(0, 1, 1),
      spans: [{ of: 'speed', frames: 5, x: [1 / 3, 2 / 3], y: [0.5, 0.9, 1.3, 1.7] }],
    };
    // Speed s(t) = 0.5 + 0.24·t: at frame 4 the position is 0.5·4 + 0.12·16 = 3.92, at frame 3 2.58.
    const out = await renderMap(clip, ramp, { effects: [{ ...trail, copies: 1, combine: 'sum', decay: 0.5 }] });
    expect(await off(out, 4, source, (light) => light(3) + 0.5 * light(2))).toBeLessThan(CODED);
    const open = await renderMap(clip, mapAt(0, 2, 4), {
      exposure: { ...instant, shutter: 360 },
      effects: [{ ...trail, copies: 1, combine: 'sum', decay: 0.5 }],
    });
    expect(
      await off(open, 2, source, (light) => (light(4) + light(5)) / 2 + (0.5 * (light(2) + light(3))) / 2),
    ).toBeLessThan(CODED);
  });
});

test('trails and flashes of a file are those of their formulas, backwards and fast', async () => {
  const { source, render } = await barsWith();
  await test.step('backwards it is of what was seen before, and dips as a whole; fast of what stood there before', async () => {
    const black: Flash = {
      ...flash,
      way: 'dip',
      strength: 1,
      colour: '#000000',
      over: { by: 'output', from: 5, to: 8 },
    };
    const back = await render(mapAt(7, -1, 8), trail, black);
    const before = (light: (frame: number) => number, n: number): number =>
      Math.max(light(7 - n), 0.8 * light(8 - n), 0.64 * light(9 - n));
    expect(await off(back, 3, source, (light) => before(light, 3))).toBeLessThan(CODED);
    expect(await off(back, 5, source, (light) => 0.5 * before(light, 5))).toBeLessThan(CODED);
    expect(await off(back, 6, source, () => 0)).toBeLessThan(CODED);
    const fast = await render(mapAt(0, 2, 4), trail);
    expect(await off(fast, 3, source, (light) => Math.max(light(6), 0.8 * light(4), 0.64 * light(2)))).toBeLessThan(
      CODED,
    );
  });
  await test.step('a flash is exposure in linear light, tinted; a dip the colour itself', async () => {
    // Three frames, its peak in the middle: half of 1.5 stops, then all, then half. Then two of a frame each.
    const at = (frame: number): Pick<Flash, 'id' | 'over' | 'peak'> => ({
      ...{ id: `f${frame}`, peak: 0 },
      over: { by: 'output', from: frame, to: frame + 1 },
    });
    const amber: Flash = { ...flash, ...at(5), colour: '#ff8000' };
    const white: Flash = { ...flash, ...at(6), way: 'dip', strength: 0.5 };
    const lit = await render(mapAt(0, 1, 8), flash, amber, white);
    for (const [n, course] of [0, 0.5, 1, 0.5, 0].entries())
      expect(await off(lit, n, source, (light) => 2 ** (1.5 * course) * light(n))).toBeLessThan(CODED);
    const tint = [1, lightOf(128), 0];
    expect(
      await off(lit, 5, source, (light, channel) => (1 + (2 ** 1.5 - 1) * tint[channel]!) * light(5)),
    ).toBeLessThan(CODED);
    expect(await off(lit, 6, source, (light) => 0.5 * light(6) + 0.5)).toBeLessThan(CODED);
  });
});

test('effects are added in Picture, ordered, copied to another clip, and kept', async ({ page, app }) => {
  const { id, document } = await makeDemo(app);
  const { id: clipId } = document.clips.find(({ name }) => name === 'The drop')!;
  await page.goto(`${app.address}/project/${id}/clip/${clipId}/picture`);
  const list = page.getByRole('group', { name: 'Effects: Clip' });
  const bar = page.getByRole('toolbar', { name: 'Picture actions' });
  const sheet = page.getByRole('dialog');
  const apply = (): Promise<void> => sheet.getByRole('button', { name: 'Apply' }).click();

  await test.step('a trail that is there in the burst', async () => {
    await bar.getByRole('button', { name: 'Trail' }).click();
    await sheet.getByRole('textbox', { name: 'Copies' }).fill('40');
    await expect(sheet.getByRole('alert')).toHaveText(/must be between 1 and 32/);
    await sheet.getByRole('textbox', { name: 'Copies' }).fill('4');
    await sheet.getByRole('textbox', { name: 'Speed', exact: true }).fill('150%');
    expect(await accessFaults(page, 'guidelines')).toEqual([]);
    await apply();
    await expect(
      list.getByRole('button', {
        name: 'Trail: 4 copies, 1 frame earlier, 80%, lightest, all of the clip · only above 150%. Edit',
      }),
    ).toBeVisible();
  });
  await test.step('a flash at the playhead, moved by keys', async () => {
    await typeReadout(page, 'Output', '40f');
    await bar.getByRole('button', { name: 'Flash' }).click();
    await sheet.getByRole('radio', { name: 'Black' }).click();
    await expect(sheet.getByRole('alert')).toHaveText(/Choose another colour, or a dip/);
    await sheet.getByRole('radio', { name: 'Dip to colour' }).click();
    expect(await accessFaults(page, 'guidelines')).toEqual([]);
    await apply();
    const flashBar = page
      .getByRole('group', { name: 'Effects of parts' })
      .getByRole('button', { name: /^Dip to black: 100%, frames 37 to 45/ });
    await flashBar.focus();
    await page.keyboard.press('Alt+ArrowRight');
    await expect(list.getByRole('button', { name: /^Dip to black: 100%, output 38f to 46f\. Edit/ })).toBeVisible();
  });
  await test.step('a reframe, its boxes moved on the stage', async () => {
    await bar.getByRole('button', { name: 'Reframe' }).click();
    await sheet.getByRole('radio', { name: '9:16' }).click();
    await sheet.getByRole('radio', { name: 'End' }).click();
    const grip = page.getByRole('group', { name: /^End box/ });
    await grip.focus();
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('+');
    await expect(sheet.getByRole('textbox', { name: 'End: across' })).toHaveValue('60%');
    await expect(sheet.getByRole('textbox', { name: 'End: size' })).toHaveValue('63%');
    await sheet.getByRole('radio', { name: 'Result' }).click();
    await expect(grip).toBeHidden();
    expect(await accessFaults(page, 'guidelines')).toEqual([]);
    await sheet.getByRole('radio', { name: 'Boxes' }).click();
    await apply();
    await expect(list.getByRole('button', { name: /^Reframe: 9:16, 100% to 63%/ })).toBeVisible();
  });
  await test.step('ordered, and undone', async () => {
    // Where the whole list is in sight.
    await page.setViewportSize({ width: 1280, height: 1200 });
    await list.getByRole('button', { name: /^Reorder: Reframe/ }).focus();
    const said = page
      .getByRole('status')
      .filter({ hasText: /^(Picked up|Now at|Put)/ })
      .first();
    await page.keyboard.press('Space');
    await expect(said).toHaveText('Now at 3 of 3.');
    await page.keyboard.press('ArrowUp');
    await expect(said).toHaveText('Now at 2 of 3.');
    await page.keyboard.press('Space');
    await expect(said).toHaveText('Put at 2 of 3.');
    await saved(page);
    const kinds = async (): Promise<string[]> =>
      (await storedDocument(page, app)).clips.find((one) => one.id === clipId)!.effects!.map(({ kind }) => kind);
    expect(await kinds()).toEqual(['trail', 'reframe', 'flash']);
    await page.getByRole('button', { name: 'Undo: reorder effects' }).click();
    await saved(page);
    expect(await kinds()).toEqual(['trail', 'flash', 'reframe']);
  });
  await test.step('copied to other clips, those that are chosen', async () => {
    await page.getByRole('link', { name: 'Timeline', exact: true }).click();
    await page.getByRole('button', { name: /: The drop, from/ }).click();
    await page.keyboard.press('c');
    await page.getByRole('button', { name: /: The bowl, from/ }).click();
    await page.keyboard.press('Shift+C');
    await sheet.getByRole('checkbox', { name: 'Timing' }).click();
    await sheet.getByRole('checkbox', { name: 'Effects' }).click();
    await sheet.getByRole('checkbox', { name: 'Flashes' }).click();
    await sheet.getByRole('checkbox', { name: 'Reframes' }).click();
    await apply();
    await saved(page);
    const bowl = (await storedDocument(page, app)).clips.find(({ name }) => name === 'The bowl')!;
    expect(bowl.effects).toMatchObject([{ kind: 'trail', copies: 4 }]);
  });
});

test('flashes are put on all cuts of the film, moved, thinned out, and seen', async ({ page, app }) => {
  const { id } = await makeDemo(app);
  await page.goto(`${app.address}/project/${id}/timeline`);
  const sheet = page.getByRole('dialog');
  const bars = page.getByRole('group', { name: 'Effects of the film' });
  await page.getByRole('group', { name: 'Time', exact: true }).waitFor();
  await page.keyboard.press('v');
  await sheet.getByRole('radio', { name: /^Cuts \(\d+\)$/ }).click();
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const { effects } = (await storedDocument(page, app)).sequence;
  const cuts = effects!.length;
  expect(cuts).toBeGreaterThan(1);
  for (const one of effects!) expect(one.over!.to - one.over!.from).toBe(8);
  const first = bars.getByRole('button').first();
  await expect(first).toHaveAccessibleName(/^Flash: 3 stops, frames/);
  await first.focus();
  await page.keyboard.press('Alt+Shift+ArrowRight');
  await saved(page);
  expect((await storedDocument(page, app)).sequence.effects![0]!.over!.from).toBe(effects![0]!.over!.from + 10);
  await bars.getByRole('button').first().click();
  await sheet.getByRole('radio', { name: 'Copy to playhead' }).click();
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  expect((await storedDocument(page, app)).sequence.effects).toHaveLength(cuts + 1);
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('button', { name: 'Thin out flashes' }).click();
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  await page.reload();
  await expect(bars.getByRole('button')).toHaveCount(Math.ceil((cuts + 1) / 2));
});
