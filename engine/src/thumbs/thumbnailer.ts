import { groupOf } from '@hastig/probe';
import type { MediaLocation } from '../media/open';
import { openSource, type OpenSource } from '../media/source';

/** A small picture that is wanted. */
export interface WantedThumb {
  frame: number;
  /** Frames by which another may stand in, if that one is quicker to decode. */
  tolerance: number;
}

/** Bytes of decoded pictures kept: neighbours of what was just decoded, no more. */
const BUDGET = 24 * 2 ** 20;

/**
 * The frame to decode for a wanted one: the start of its group of pictures where that is near enough, else itself.
 *
 * @param group first frame of its group and the first after it
 */
export function standIn(
  { frame, tolerance }: WantedThumb,
  group: { start: number; end: number },
  frames: number,
): number {
  if (frame - group.start <= tolerance) return group.start;
  if (group.end < frames && group.end - frame <= tolerance) return group.end;
  return frame;
}

/** Makes small pictures of one source in a worker. What was wanted before and is not any more is not made. */
export class Thumbnailer {
  private source: Promise<OpenSource> | undefined;
  private wanted: readonly WantedThumb[] = [];
  private running = false;

  constructor(
    private readonly location: MediaLocation,
    private readonly height: number,
    private readonly made: (frame: number, picture: ImageBitmap) => void,
  ) {}

  /** Replaces what is wanted, the most wanted first. */
  want(wanted: readonly WantedThumb[]): void {
    this.wanted = wanted;
    if (!this.running) void this.run();
  }

  private async run(): Promise<void> {
    this.running = true;
    try {
      this.source ??= openSource(this.location, BUDGET);
      const source = await this.source;
      for (let next = this.wanted[0]; next; next = this.wanted[0]) {
        this.wanted = this.wanted.slice(1);
        await this.make(source, next);
      }
    } catch {
      // A picture that cannot be made leaves its place empty; the stage tells why.
      this.wanted = [];
    } finally {
      this.running = false;
    }
  }

  private async make(source: OpenSource, wanted: WantedThumb): Promise<void> {
    const { frames, media } = source;
    const { width, height } = media.facts.video;
    const group = groupOf(media.index, wanted.frame);
    const sample = await frames.get(standIn(wanted, group, frames.frames));
    const canvas = new OffscreenCanvas(Math.max(1, Math.round((width * this.height) / height)), this.height);
    sample.draw(canvas.getContext('2d')!, 0, 0, canvas.width, canvas.height);
    sample.close();
    this.made(wanted.frame, canvas.transferToImageBitmap());
  }
}
