import type { RetimeMap } from '@hastig/contract';
import {
  compile,
  heldFrame,
  pinsOf,
  positionAt,
  positionBefore,
  sourceShortages,
  speedAt,
  type Peak,
} from '@hastig/core';
import { drawWave } from '../sound/draw-wave';
import { colour, speedColour } from '../ui/palette';
import { frameToX, xToFrame } from '../time-view/use-time-view';
import { sourceToX, stripCells, threadFrames, xToSource, type ThreadsView } from './threads-view';

/** Small pictures as the drawing needs them. */
export interface ThumbSource {
  /** The picture of a frame, or of one not further away than `reach` while it is being made. */
  get(frame: number, reach: number): ImageBitmap | undefined;
  /** Width over height. */
  aspect: number;
  /** Of sound alone, in place of pictures: its peak between two positions. */
  peak?: (from: number, to: number) => Peak | undefined;
  /** How loud it is made at an output frame, as a factor; then the output is drawn as it will sound, coloured by its speed. */
  gainAt?: (frame: number) => number;
}

/** A wish for a small picture, as the engine takes it. */
export interface ThumbWish {
  frame: number;
  tolerance: number;
}

/**
 * Draws both strips and the threads between them.
 *
 * @returns the small pictures it would like to have, the ones in the middle first
 */
export function drawThreads(
  context: OffscreenCanvasRenderingContext2D,
  map: RetimeMap,
  view: ThreadsView,
  thumbs: ThumbSource,
): ThumbWish[] {
  const { time, strip, height } = view;
  const { length } = compile(map);
  const picture = strip * thumbs.aspect;
  const wishes: ThumbWish[] = [];
  const stripAt = (y: number, cells: { frame: number; x: number }[], step: number, width: number): void => {
    context.fillStyle = colour('raised');
    context.fillRect(0, y, time.width, strip);
    if (thumbs.peak) return;
    for (const { frame, x } of cells) {
      const held = Math.min(map.sourceFrames - 1, Math.max(0, frame));
      wishes.push({ frame: held, tolerance: Math.floor(step / 4) });
      const bitmap = thumbs.get(held, 2 * step);
      const wide = Math.min(picture, width);
      if (bitmap) context.drawImage(bitmap, x, y, wide, strip);
      else {
        context.fillStyle = colour('line', 0.6);
        context.fillRect(x + 1, y + 1, wide - 2, strip - 2);
      }
    }
  };

  const source = { ...view.source, width: time.width };
  const above = stripCells(source, picture, map.sourceFrames);
  stripAt(0, above.cells, above.step, (above.step / (source.to - source.from)) * time.width);
  const below = stripCells(time, picture, length);
  const output = below.cells.map(({ at, frame, x }) => ({ at, x, frame: heldFrame(map, frame) }));
  stripAt(height - strip, output, below.step, (below.step / (time.to - time.from)) * time.width);
  if (thumbs.peak) drawWaves(context, map, view, thumbs.peak, thumbs.gainAt);
  drawLines(context, map, view);
  drawShortage(context, map, view);
  // From the middle outwards: there the eye is.
  const middle = wishes.length / 2;
  return wishes
    .map((wish, index) => ({ wish, far: Math.abs((index % Math.ceil(middle || 1)) - middle / 2) }))
    .sort((a, b) => a.far - b.far)
    .map(({ wish }) => wish);
}

function drawWaves(
  context: OffscreenCanvasRenderingContext2D,
  map: RetimeMap,
  view: ThreadsView,
  peak: (from: number, to: number) => Peak | undefined,
  gainAt: ThumbSource['gainAt'],
): void {
  const { time, strip, height } = view;
  const ready = compile(map);
  const sourceAtX = (x: number): number =>
    positionBefore(ready, Math.min(ready.length, Math.max(0, xToFrame(time, x))));
  context.fillStyle = colour('quiet');
  const source = { x: sourceToX(view, 0), width: sourceToX(view, map.sourceFrames) - sourceToX(view, 0) };
  drawWave(context, { ...source, top: 1, height: strip - 2 }, time.width, (x) =>
    peak(xToSource(view, x), xToSource(view, x + 1)),
  );
  const output = { x: frameToX(time, 0), width: frameToX(time, ready.length) - frameToX(time, 0) };
  const heardAt = (x: number): Peak | undefined => {
    const found = peak(sourceAtX(x), sourceAtX(x + 1));
    const gain = found && gainAt ? gainAt(xToFrame(time, x)) : 1;
    return found && gain !== 1 ? { low: found.low * gain, high: found.high * gain } : found;
  };
  const toneAt = gainAt && ((x: number) => speedColour(speedAt(ready, xToFrame(time, x))));
  drawWave(context, { ...output, top: height - strip + 1, height: strip - 2 }, time.width, heardAt, toneAt);
}

function drawLines(context: OffscreenCanvasRenderingContext2D, map: RetimeMap, view: ThreadsView): void {
  const ready = compile(map);
  const [top, bottom] = [view.strip, view.height - view.strip];
  context.lineWidth = 1.25;
  let tone = '';
  const thread = (n: number): void => {
    const [x0, x1] = [sourceToX(view, positionAt(ready, n)), frameToX(view.time, n)];
    const next = speedColour(speedAt(ready, n));
    if (next !== tone) {
      if (tone) context.stroke();
      context.beginPath();
      context.strokeStyle = next;
      tone = next;
    }
    context.moveTo(x0, top);
    context.lineTo(x1, bottom);
  };
  context.globalAlpha = 0.75;
  for (const n of threadFrames(view.time, ready.length)) thread(n);
  context.stroke();
  context.globalAlpha = 1;
  context.lineWidth = 3;
  context.strokeStyle = colour('bone');
  context.beginPath();
  for (const { output, source } of pinsOf(map)) {
    context.moveTo(sourceToX(view, source), top);
    context.lineTo(frameToX(view.time, output), bottom);
  }
  context.stroke();
  context.lineWidth = 1;
}

function drawShortage(context: OffscreenCanvasRenderingContext2D, map: RetimeMap, view: ThreadsView): void {
  context.fillStyle = colour('wrong', 0.4);
  for (const { from, frames } of sourceShortages(map)) {
    const x = frameToX(view.time, from);
    context.fillRect(x, view.height - view.strip, Math.max(2, frameToX(view.time, from + frames) - x), view.strip);
  }
}
