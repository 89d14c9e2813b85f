import type { FitWay } from '@hastig/contract';
import {
  after,
  croppedPart,
  fitScale,
  identity,
  isLeaf,
  isSeenMix,
  leafFrames,
  leavesOf,
  lightSheet,
  pictureMap,
  plainPicture,
  singleLeaf,
  type Affine,
  type Program,
  type SeenLayer,
  type SeenLeaf,
  type SeenMix,
  type SeenPicture,
  type Size,
} from '@hastig/core';

/** What can be drawn: a decoded picture with the size it is shown at. */
export interface Drawable {
  displayWidth: number;
  displayHeight: number;
  draw(context: OffscreenCanvasRenderingContext2D, x: number, y: number, width: number, height: number): void;
  draw(
    context: OffscreenCanvasRenderingContext2D,
    ...part: [sx: number, sy: number, sw: number, sh: number, x: number, y: number, width: number, height: number]
  ): void;
}

type Context = OffscreenCanvasRenderingContext2D;

/**
 * Draws a picture on all of a canvas: its frame as large as it fits, in the middle, the rest black.
 *
 * @param sizes the frame's size and the sources', as the program has them
 * @param pictureOf what a source gives to it; it may be smaller than the source, as a proxy's is
 * @param fit how the frame lies in a canvas of another shape; not told where the canvas has its shape
 */
export function drawPicture(
  context: Context,
  picture: SeenPicture,
  sizes: Pick<Program, 'frame' | 'sizes'>,
  pictureOf: (leaf: SeenLeaf) => Drawable,
  fit?: FitWay,
): void {
  const single = singleLeaf(picture);
  if (single && !fit && !sizes.sizes[leafFrames(single)[0]!.sourceId]?.alpha)
    return drawWhole(context, pictureOf(single));
  const { width, height } = context.canvas;
  drawPictureIn(context, { x: 0, y: 0, width, height }, picture, sizes, pictureOf, fit);
}

/**
 * Draws a picture in a part of a canvas: its frame as large as it fits, in the middle, the rest black.
 *
 * @param box in the canvas' own pixels
 * @param fit or otherwise, where that is told
 */
export function drawPictureIn(
  context: Context,
  { x, y, width, height }: Box,
  picture: SeenPicture,
  sizes: Pick<Program, 'frame' | 'sizes'>,
  pictureOf: (leaf: SeenLeaf) => Drawable,
  fit: FitWay = 'fit',
): void {
  const frame = sizes.frame ?? { width, height };
  const scale = fitScale(fit, frame, { width, height });
  const [left, top] = [x + (width - frame.width * scale) / 2, y + (height - frame.height * scale) / 2];
  context.save();
  context.setTransform(...identity);
  context.fillStyle = '#000';
  context.fillRect(x, y, width, height);
  clipTo(context, identity, left, top, frame.width * scale, frame.height * scale);
  const layers = new LayerPainter(context, frame, sizes.sizes, pictureOf);
  for (const layer of picture) layers.paint(layer, [scale, 0, 0, scale, left, top], 1);
  context.restore();
}

/** Doublings of a difference, so that a little is seen. */
const DOUBLINGS = 2;

/** Leaves of what is on a canvas what differs from something else, in grey, four times as bright. */
export function drawDifference(context: Context, other: OffscreenCanvas): void {
  const { canvas } = context;
  context.save();
  context.globalCompositeOperation = 'difference';
  context.drawImage(other, 0, 0);
  context.globalCompositeOperation = 'saturation';
  context.fillStyle = '#808080';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.globalCompositeOperation = 'lighter';
  for (let time = 0; time < DOUBLINGS; time++) context.drawImage(canvas, 0, 0);
  context.restore();
}

/** Pixels of a canvas. */
interface Box extends Size {
  x: number;
  y: number;
}

/** Makes all of a canvas black. */
function drawBlack(context: Context): void {
  context.fillStyle = '#000';
  context.fillRect(0, 0, context.canvas.width, context.canvas.height);
}

// The way of nearly every picture: no map, whole pixels, nothing cleared that is drawn over.
function drawWhole(context: Context, drawable: Drawable): void {
  const { width, height } = context.canvas;
  const scale = Math.min(width / drawable.displayWidth, height / drawable.displayHeight);
  const [w, h] = [Math.round(drawable.displayWidth * scale), Math.round(drawable.displayHeight * scale)];
  if (w < width - 1 || h < height - 1) drawBlack(context);
  drawable.draw(context, (width - w) >> 1, (height - h) >> 1, w, h);
}

function clipTo(context: Context, map: Affine, x: number, y: number, width: number, height: number): void {
  context.setTransform(...map);
  context.beginPath();
  context.rect(x, y, width, height);
  context.clip();
}

class LayerPainter {
  constructor(
    private readonly context: Context,
    private readonly frame: Size,
    private readonly sizes: Program['sizes'],
    private readonly pictureOf: (leaf: SeenLeaf) => Drawable,
  ) {}

  /** @param base from the frame the layer lies in to the canvas */
  paint(layer: SeenLayer, base: Affine, opacity: number): void {
    const { of } = layer;
    if (layer.differing) this.paintDifference(layer, base, opacity);
    else if (isLeaf(of)) this.paintLeaf(layer, of, base, opacity);
    else if (isSeenMix(of)) this.paintMix(of, base, opacity);
    else this.paintGroup(layer, of, base, opacity);
  }

  // Each is put together by itself, and what comes of all is laid down.
  private paintMix(mix: SeenMix, base: Affine, opacity: number): void {
    const { context } = this;
    const { width, height } = context.canvas;
    const sheet = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    const { moments } = mix;
    const mean = lightSheet(width * height, mix, moments.map(({ weight }) => weight)); // prettier-ignore
    const painter = new LayerPainter(sheet, this.frame, this.sizes, this.pictureOf);
    for (const { layers, weight } of moments) {
      sheet.setTransform(...identity);
      if (mix.opaque) drawBlack(sheet);
      else sheet.clearRect(0, 0, width, height);
      for (const layer of layers) painter.paint(layer, base, 1);
      mean.add(sheet.getImageData(0, 0, width, height).data, weight, mix.opaque);
    }
    const made = new ImageData(width, height);
    mean.write(made.data);
    sheet.putImageData(made, 0, 0);
    context.save();
    context.setTransform(...identity);
    context.globalAlpha = opacity;
    context.drawImage(sheet.canvas, 0, 0);
    context.restore();
  }

  private paintLeaf({ settings = plainPicture }: SeenLayer, leaf: SeenLeaf, base: Affine, opacity: number): void {
    const drawable = this.pictureOf(leaf);
    const { displayWidth, displayHeight } = drawable;
    const size = this.sizes[leafFrames(leaf)[0]!.sourceId] ?? { width: displayWidth, height: displayHeight };
    const part = croppedPart(settings, size);
    if (!part) return;
    const { context } = this;
    const [across, down] = [displayWidth / size.width, displayHeight / size.height];
    context.save();
    context.setTransform(...after(base, pictureMap(settings, size, this.frame)));
    context.globalAlpha = opacity * settings.opacity;
    const from = [part.x * across, part.y * down, part.width * across, part.height * down] as const;
    drawable.draw(context, ...from, part.x, part.y, part.width, part.height);
    context.restore();
  }

  private paintGroup(
    { settings = plainPicture, frame: inner = this.frame, covering }: SeenLayer,
    layers: readonly SeenLayer[],
    base: Affine,
    opacity: number,
  ): void {
    const { context, frame } = this;
    const part = croppedPart(settings, inner);
    if (!part) return;
    const map = after(base, pictureMap(settings, inner, frame));
    const seenThrough = opacity * settings.opacity;
    const within = inner === frame ? this : new LayerPainter(context, inner, this.sizes, this.pictureOf);
    context.save();
    clipTo(context, map, part.x, part.y, part.width, part.height);
    if (covering) {
      context.fillStyle = '#000';
      context.fillRect(part.x, part.y, part.width, part.height);
    }
    // Layers that lie over each other are put together first: each seen through alone, the lower would show.
    if (seenThrough < 1 && leavesOf(layers).length > 1) within.paintTogether(layers, map, seenThrough);
    else for (const layer of layers) within.paint(layer, map, seenThrough);
    context.restore();
  }

  private paintDifference({ differing: _differing, ...layer }: SeenLayer, base: Affine, opacity: number): void {
    const { width, height } = this.context.canvas;
    const sheet = new OffscreenCanvas(width, height).getContext('2d', { alpha: false })!;
    new LayerPainter(sheet, this.frame, this.sizes, this.pictureOf).paint(layer, base, opacity);
    this.context.save();
    this.context.setTransform(...identity);
    drawDifference(this.context, sheet.canvas);
    this.context.restore();
  }

  private paintTogether(layers: readonly SeenLayer[], map: Affine, opacity: number): void {
    const { context } = this;
    const sheet = new OffscreenCanvas(context.canvas.width, context.canvas.height);
    const painter = new LayerPainter(sheet.getContext('2d')!, this.frame, this.sizes, this.pictureOf);
    for (const layer of layers) painter.paint(layer, map, 1);
    context.setTransform(...identity);
    context.globalAlpha = opacity;
    context.drawImage(sheet, 0, 0);
  }
}
