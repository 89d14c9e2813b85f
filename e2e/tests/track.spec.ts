import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { constantSpan } from '@hastig/core';
import { scenes } from '@hastig/demo';
import { accessFaults } from '../support/accessible';
import { expect, makeDemo, saved, test, typeReadout } from '../support/app';
import { demoClip, hastig, renderByCommand, scratch } from '../support/files';
import { storedDocument } from '../support/timeline';

const { fps, frames, marbles, view } = scenes.find(({ name }) => name === 'drop')!;
const [width, height] = [1280, 720];
const scale = width / view.width;

/** Where the second marble of the drop truly is, in pixels. */
function truth(frame: number): { x: number; y: number } {
  const at = marbles[1]!.at(frame / fps);
  return { x: width / 2 + (at.x - view.x) * scale, y: height / 2 - (at.y - view.y) * scale };
}

interface Row {
  frame: number;
  x: number;
  y: number;
  confidence: number;
}

async function track(clip: string, frame: number, middle: { x: number; y: number }, radius: number): Promise<Row[]> {
  const box = [middle.x - radius, middle.y - radius, 2 * radius, 2 * radius].map((value) => value.toFixed(2)).join(',');
  const { stdout } = await hastig('track', clip, '--frame', String(frame), '--box', box);
  const [head, ...lines] = stdout.trim().split('\n');
  expect(head).toBe('frame,x,y,confidence');
  return lines.map((line) => {
    const [number, x, y, confidence] = line.split(',').map(Number) as [number, number, number, number];
    return { frame: number, x, y, confidence };
  });
}

const rms = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / values.length);

test(
  'a marble is tracked to within 0.2 pixels of where it truly is, and stands still where it is held',
  { tag: '@long' },
  async () => {
    const clip = demoClip('drop');
    const [start, radius] = [60, marbles[1]!.radius * scale];
    const rows = await track(clip, start, truth(start), radius);
    expect(rows.map(({ frame }) => frame)).toEqual(Array.from({ length: frames }, (_, n) => n));
    const inside = rows.filter(({ frame }) => {
      const { x, y } = truth(frame);
      return x > radius && y > radius && x < width - radius && y < height - radius;
    });
    const sure = inside.filter(({ confidence }) => confidence >= 0.6);
    expect(sure.length).toBeGreaterThan(0.95 * inside.length);
    const off = sure.map(({ frame, x, y }) => Math.hypot(x - truth(frame).x, y - truth(frame).y));
    expect(rms(off)).toBeLessThan(0.25);
    expect(Math.max(...off)).toBeLessThan(0.6);
    // Where it has left the picture it is in doubt.
    const gone = rows.filter(({ frame }) => truth(frame).x > width + radius);
    expect(gone.every(({ confidence }) => confidence < 0.6)).toBe(true);

    await test.step('held still in a rendered file, backwards and slowed', async () => {
      const table = join(await scratch(), 'track.csv');
      await writeFile(table, ['frame,x,y', ...sure.map(({ frame, x, y }) => `${frame},${x},${y}`)].join('\n'));
      const rate = { num: fps, den: 1 };
      const [from, to] = [sure[0]!.frame, sure.at(-1)!.frame];
      const map = {
        sourceRate: rate,
        outputRate: rate,
        sourceFrames: frames,
        start: to,
        spans: [constantSpan(-1, to - from)],
      };
      const out = await renderByCommand(clip, map, '--steady', table);
      const held = sure[0]!;
      const again = (await track(out, 0, held, radius)).filter(({ confidence }) => confidence >= 0.6);
      expect(again.length).toBeGreaterThan(0.9 * (to - from));
      for (const name of ['x', 'y'] as const) {
        const mean = again.reduce((sum, row) => sum + row[name], 0) / again.length;
        expect(rms(again.map((row) => row[name] - mean))).toBeLessThan(0.3);
        expect(Math.abs(mean - held[name])).toBeLessThan(1);
      }
    });
  },
);

test('a box that is not in the picture, and a table that is none, are told with what is wrong', async () => {
  const refused = async (...args: string[]): Promise<string> =>
    hastig(...args).then(
      () => 'taken',
      (error: { stderr: string }) => error.stderr,
    );
  const clip = demoClip('drop');
  expect(await refused('track', clip, '--frame', '900', '--box', '1,1,20,20')).toContain(
    'there is no frame 900; the last is 143',
  );
  expect(await refused('track', `${clip}x`, '--frame', '0', '--box', '1,1,20,20')).toContain('file not found');
});

test('a point is held still in Picture: tracked, seen, kept, cancelled and taken up again', async ({ page, app }) => {
  const { id, document } = await makeDemo(app);
  const { id: clipId } = document.clips.find(({ name }) => name === 'The drop')!;
  await page.goto(`${app.address}/project/${id}/clip/${clipId}/picture`);
  await page.getByRole('toolbar', { name: 'Picture actions' }).waitFor();
  await typeReadout(page, 'Source frame', '60');
  await page.getByRole('toolbar', { name: 'Picture actions' }).getByRole('button', { name: 'Steady' }).click();
  const sheet = page.getByRole('dialog', { name: 'Steady' });
  const grip = page.getByRole('group', { name: /^Box to track/ });
  await expect(grip).toBeVisible();
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  // From the middle of the picture to the marble, in hundredths of its width and height.
  const { x, y } = truth(60);
  await grip.focus();
  const press = async (key: string, times: number): Promise<void> => {
    for (let n = 0; n < times; n++) await page.keyboard.press(key);
  };
  await press(x < width / 2 ? 'ArrowLeft' : 'ArrowRight', Math.round(Math.abs(x / width - 0.5) / 0.01));
  await press(y < height / 2 ? 'ArrowUp' : 'ArrowDown', Math.round(Math.abs(y / height - 0.5) / 0.01));
  await sheet.getByRole('button', { name: 'Track', exact: true }).click();
  await sheet.getByRole('button', { name: 'Cancel tracking' }).click();
  await expect(sheet.getByRole('button', { name: 'Apply' })).toBeDisabled();
  await sheet.getByRole('button', { name: 'Track', exact: true }).click();
  await expect(sheet.getByRole('img', { name: /^Strays up to [\d.]+ px before/ })).toBeVisible({ timeout: 60_000 });
  await expect(grip).toBeHidden();
  // The marble rolls through all of the picture.
  const outcome = sheet
    .getByRole('status')
    .filter({ hasText: 'one point, mirrored edges. It moves too far to be scaled.' });
  await expect(outcome).toBeVisible();
  await sheet.getByRole('radio', { name: 'Mirrored edges' }).click();
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  const stored = await storedDocument(page, app);
  const clip = stored.clips.find((one) => one.id === clipId)!;
  const source = stored.sources.find((one) => one.id === clip.of.id)!;
  expect(clip.effects).toMatchObject([{ kind: 'steady', frame: 60, edges: 'mirror', tracks: [source.tracks![0]!.id] }]);
  expect(source.tracks![0]!.at).toHaveLength(3 * frames);
  await page.reload();
  await expect(page.getByRole('button', { name: /^Steady: one point, mirrored edges/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo: steady a clip' }).click();
  await saved(page);
  const undone = await storedDocument(page, app);
  expect(undone.sources.find((one) => one.id === source.id)!.tracks).toBeUndefined();
});
