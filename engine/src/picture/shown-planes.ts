import { i420Bytes, rgbaToI420, type PlanarPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { isPlanar, planarOf } from './planar';

/** How planes of drawn pixels are written. */
export const drawnSpace = { matrix: 'bt709', fullRange: true } as const;

/** Gives pictures in planes as they are displayed: upright, their pixels square. */
export class ShownPlanes {
  private context: OffscreenCanvasRenderingContext2D | undefined;

  async of(sample: VideoSample): Promise<PlanarPicture> {
    const { displayWidth: width, displayHeight: height, rotation, visibleRect } = sample;
    const asStored = rotation === 0 && visibleRect.width === width && visibleRect.height === height;
    const planes = asStored && isPlanar(sample) ? await planarOf(sample) : undefined;
    if (planes) return planes;
    // Planes of drawn pixels are even.
    const size = { width: width + (width & 1), height: height + (height & 1) };
    const context = this.sheet(size.width, size.height);
    sample.draw(context, 0, 0, width, height);
    const data = new Uint8Array(i420Bytes(size.width, size.height));
    const { data: pixels } = context.getImageData(0, 0, size.width, size.height);
    rgbaToI420(pixels, size.width, size.height, drawnSpace, data);
    return { ...size, data };
  }

  private sheet(width: number, height: number): OffscreenCanvasRenderingContext2D {
    const known = this.context;
    if (known?.canvas.width === width && known.canvas.height === height) return known;
    return (this.context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!);
  }
}
