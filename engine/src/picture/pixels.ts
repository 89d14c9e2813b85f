import { leavesOf, type SeenLeaf, type SeenPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import type { Drawable } from './draw';
import { copyRgba, givesRgba } from './rgba';

/** A surface with the memory its pixels come from. */
interface Sheet {
  context: OffscreenCanvasRenderingContext2D;
  image: ImageData;
}

/** What a sheet says of the picture on it. */
type Turned = Pick<
  VideoSample,
  'displayWidth' | 'displayHeight' | 'rotation' | 'squarePixelWidth' | 'squarePixelHeight'
>;

/** Surfaces kept for the next picture. */
const MOST_SHEETS = 3;

/**
 * Brings decoded frames to pixels before they are drawn. A browser that draws without graphics hardware keeps what it makes of
 * each frame it draws, up to hundreds of megabytes, and takes several times as long; the values are the same.
 */
export class PixelSheets {
  private readonly free: Sheet[] = [];

  /** @returns what draws the frame, until it is closed; it may be the frame itself */
  async of(sample: VideoSample): Promise<Drawable & { close(): void }> {
    const frame = sample.clone();
    try {
      if (!givesRgba(frame)) return frame;
      const { width, height } = frame.visibleRect;
      const sheet = this.take(width, height);
      await copyRgba(frame, sheet.image.data);
      sheet.context.putImageData(sheet.image, 0, 0);
      const { displayWidth, displayHeight, rotation, squarePixelWidth, squarePixelHeight } = frame;
      frame.close();
      const shown = { displayWidth, displayHeight, rotation, squarePixelWidth, squarePixelHeight };
      return drawableOf(sheet, shown, () => this.give(sheet));
    } catch {
      // A frame that the browser draws and does not hand out.
      return frame;
    }
  }

  private take(width: number, height: number): Sheet {
    const at = this.free.findIndex(({ image }) => image.width === width && image.height === height);
    if (at >= 0) return this.free.splice(at, 1)[0]!;
    const canvas = new OffscreenCanvas(width, height);
    return {
      context: canvas.getContext('2d', { alpha: false, willReadFrequently: true })!,
      image: new ImageData(width, height),
    };
  }

  private give(sheet: Sheet): void {
    this.free.unshift(sheet);
    this.free.splice(MOST_SHEETS);
  }
}

function drawableOf({ context: { canvas } }: Sheet, shown: Turned, close: () => void): Drawable & { close(): void } {
  const { displayWidth, displayHeight } = shown;
  return {
    displayWidth,
    displayHeight,
    close,
    draw: (context: OffscreenCanvasRenderingContext2D, ...box: number[]) => {
      const [sx, sy, sw, sh] = box.length > 4 ? box : [0, 0, displayWidth, displayHeight];
      const [x, y, width, height] = box.slice(-4) as [number, number, number, number];
      const part = storedPart(shown, { x: sx!, y: sy!, width: sw!, height: sh! });
      const [across, down] = [canvas.width / shown.squarePixelWidth, canvas.height / shown.squarePixelHeight];
      const stored = [part.x * across, part.y * down, part.width * across, part.height * down] as const;
      if (shown.rotation === 0) return context.drawImage(canvas, ...stored, x, y, width, height);
      const [w, h] = shown.rotation === 180 ? [width, height] : [height, width];
      context.save();
      context.translate(x + width / 2, y + height / 2);
      context.rotate((shown.rotation * Math.PI) / 180);
      context.drawImage(canvas, ...stored, -w / 2, -h / 2, w, h);
      context.restore();
    },
  };
}

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Where a part of a picture as it is shown lies in the picture as it is stored, before it is turned clockwise. */
function storedPart({ rotation, displayWidth, displayHeight }: Turned, { x, y, width, height }: Box): Box {
  if (rotation === 90) return { x: y, y: displayWidth - x - width, width: height, height: width };
  if (rotation === 180) return { x: displayWidth - x - width, y: displayHeight - y - height, width, height };
  if (rotation === 270) return { x: displayHeight - y - height, y: x, width: height, height: width };
  return { x, y, width, height };
}

/** What sources give to one picture as what draws it; whoever has it closes it. */
interface PicturePixels {
  get(leaf: SeenLeaf): Drawable;
  close(): void;
}

/** @param sampleOf what a leaf of the very picture shows; it may be closed once this has begun */
export async function pixelsOf(
  sheets: PixelSheets,
  picture: SeenPicture,
  sampleOf: (leaf: SeenLeaf) => VideoSample,
): Promise<PicturePixels> {
  const leaves = leavesOf(picture);
  const made = await Promise.all(leaves.map((leaf) => sheets.of(sampleOf(leaf))));
  return {
    get: (leaf) => made[leaves.indexOf(leaf)]!,
    close: () => made.forEach((drawable) => drawable.close()),
  };
}
