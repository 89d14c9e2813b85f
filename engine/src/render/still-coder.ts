import type { RenderQuality } from '@hastig/contract';
import type { VideoSample } from 'mediabunny';
import type { RenderJob } from './job';

const qualities: Readonly<Record<RenderQuality, number>> = { low: 0.6, medium: 0.75, high: 0.9, 'very-high': 0.97 };

/** Codes pictures, each as a file of its own. */
export class StillCoder {
  private readonly context: OffscreenCanvasRenderingContext2D;

  constructor(private readonly job: Pick<RenderJob, 'format' | 'width' | 'height' | 'quality'>) {
    this.context = new OffscreenCanvas(job.width, job.height).getContext('2d', { alpha: false })!;
  }

  code(sample: VideoSample): Promise<Blob> {
    const { format, width, height, quality } = this.job;
    sample.draw(this.context, 0, 0, width, height);
    return this.context.canvas.convertToBlob({
      type: `image/${format}`,
      ...(format !== 'png' && { quality: qualities[quality] }),
    });
  }
}
