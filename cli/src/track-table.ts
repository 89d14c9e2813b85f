import { readFile } from 'node:fs/promises';
import type { TrackBox, TrackedPoint } from '@hastig/core';
import { CommandFailed } from './fail';

const HEAD = 'frame,x,y,confidence';

/** Where something was in each frame, as lines of CSV: its middle in pixels of the picture as displayed. */
export const trackLines = (points: readonly TrackedPoint[]): string[] => [
  HEAD,
  ...points.map(({ x, y, confidence }, frame) => `${frame},${x.toFixed(3)},${y.toFixed(3)},${confidence.toFixed(3)}`),
];

/**
 * Reads such a table. Frames may be left out.
 *
 * @returns by frame
 * @throws CommandFailed, which names the file and the line
 */
export async function readTrack(path: string): Promise<Map<number, TrackedPoint>> {
  const text = await readFile(path, 'utf8').catch((error: NodeJS.ErrnoException) => {
    throw new CommandFailed(`${path}: ${error.code === 'ENOENT' ? 'file not found' : error.message}`);
  });
  const points = new Map<number, TrackedPoint>();
  text.split(/\r?\n/).forEach((line, index) => {
    if (line.trim() === '' || (index === 0 && /^\W*[a-z]/i.test(line))) return;
    const cells = line.split(',').map((cell) => (cell.trim() === '' ? NaN : Number(cell)));
    const [frame, x, y, confidence = 1] = cells as [number, number, number, number?];
    if (!Number.isInteger(frame) || frame < 0 || ![x, y, confidence].every(Number.isFinite))
      throw new CommandFailed(`${path}: line ${index + 1} isn’t ${HEAD}`);
    points.set(frame, { x, y, confidence });
  });
  if (points.size === 0) throw new CommandFailed(`${path}: no points`);
  return points;
}

/** A box as it is told on the command line: `X,Y,W,H`, in pixels. Throws an Error with what is wrong with it. */
export function boxOf(text: string): TrackBox {
  const cells = text.split(',').map((cell) => (cell.trim() === '' ? NaN : Number(cell)));
  if (cells.length !== 4 || !cells.every(Number.isFinite)) throw new Error('needs four numbers: X,Y,W,H');
  const [x, y, width, height] = cells as [number, number, number, number];
  if (!(width > 0 && height > 0)) throw new Error('needs a width and a height of more than 0');
  return { x, y, width, height };
}
