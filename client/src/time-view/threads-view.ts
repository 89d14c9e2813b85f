import type { RetimeMap } from '@hastig/contract';
import { compile, positionAt } from '@hastig/core';
import { frameToX, type TimeView } from '../time-view/use-time-view';

/** Where strips and threads lie, in pixels: source strip, threads, output strip, from top to bottom. */
export interface ThreadsView {
  time: TimeView;
  /** Source positions at the left and right edge. */
  source: { from: number; to: number };
  strip: number;
  height: number;
}

/** Pixels between two threads at least. */
const THREAD_ROOM = 7;

/**
 * The stretch of source over a stretch of output. It is as wide as the clip's whole content, as much closer as the time
 * is zoomed, and has in its middle what stands in the middle of the output.
 */
export function sourceInSight(map: RetimeMap, time: TimeView): { from: number; to: number } {
  const { positions, ends, length } = compile(map);
  let [low, high] = [Infinity, -Infinity];
  for (const values of [positions, ends]) {
    for (const value of values) {
      if (value < low) low = value;
      if (value > high) high = value;
    }
  }
  // A frozen clip still has a frame to show.
  if (high - low < 1) high = low + 1;
  const seen = (time.to - time.from) / Math.max(1e-9, length);
  const width = (high - low) * seen;
  const [start, end] = [Math.max(0, time.from), Math.min(length, time.to)];
  const middle = (time.from + time.to) / 2;
  // All of it in sight: laid out like the output. Zoomed in: around what is in the middle.
  if (time.from <= 0 && time.to >= length) {
    const per = (high - low) / Math.max(1e-9, end - start);
    return { from: low + time.from * per, to: low + time.to * per };
  }
  const centre = positionAt(map, Math.min(Math.max(middle, 0), length));
  const from = Math.min(
    Math.max(centre - width / 2, low - width * 0.1),
    Math.max(low - width * 0.1, high - width * 0.9),
  );
  return { from, to: from + width };
}

export function sourceToX(view: ThreadsView, position: number): number {
  const { from, to } = view.source;
  return ((position - from) / (to - from)) * view.time.width;
}

export function xToSource(view: ThreadsView, x: number): number {
  const { from, to } = view.source;
  return from + (x / view.time.width) * (to - from);
}

/** The smallest power of two of frames that takes at least so many pixels. */
export function stepFor(framesPerPixel: number, pixels: number): number {
  return Math.max(1, 2 ** Math.ceil(Math.log2(Math.max(1e-9, framesPerPixel * pixels)) - 1e-9));
}

/** A cell of a strip: the frames from `at` on, and the one whose picture stands for them. */
interface StripCell {
  at: number;
  frame: number;
  x: number;
}

/**
 * The cells of a strip. They lie on a grid of whole powers of two of frames, so that panning asks for nothing new and
 * zooming for little.
 *
 * @param picture width of a picture in pixels
 * @param length frames of the strip: none beyond
 */
export function stripCells(
  view: { from: number; to: number; width: number },
  picture: number,
  length: number,
): { cells: StripCell[]; step: number } {
  const perPixel = (view.to - view.from) / view.width;
  const step = stepFor(perPixel, picture);
  const cells: StripCell[] = [];
  for (let at = Math.max(0, Math.floor(view.from / step) * step); at < Math.min(length, view.to); at += step) {
    const frame = Math.min(Math.floor(at + step / 2), Math.ceil(length) - 1);
    cells.push({ at, frame, x: frameToX({ ...view }, at) });
  }
  return { cells, step };
}

/** The output frames whose threads are drawn, as far apart as can be told. */
export function threadFrames(time: TimeView, length: number): number[] {
  const step = stepFor((time.to - time.from) / time.width, THREAD_ROOM);
  const frames: number[] = [];
  for (let n = Math.max(0, Math.ceil(time.from / step) * step); n < Math.min(length, time.to); n += step)
    frames.push(n);
  return frames;
}
