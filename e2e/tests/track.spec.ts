import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { constantSpan } from '@hastig/core';
import { scenes } from '@hastig/demo';
import { expect, test } from '../support/app';
import { demoClip, hastig, renderByCommand, scratch } from '../support/files';

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

test('a marble is tracked to within 0.2 pixels of where it truly is, and stands still where it is held', async () => {
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
});

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
  expect(await refused('track', clip, '--frame', '0', '--box', '2000,1,20,20')).toContain('lies in the picture');
  expect(await refused('track', clip, '--frame', '0', '--box', '1,1,20')).toContain('needs four numbers');
  expect(await refused('track', `${clip}x`, '--frame', '0', '--box', '1,1,20,20')).toContain('file not found');
});
