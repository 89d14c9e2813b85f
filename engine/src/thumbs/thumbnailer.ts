import { PixelSheets } from '../picture/pixels';
import { SourcePool, type SourceLocations } from '../media/source-pool';

/** A small picture that is wanted. */
export interface WantedThumb {
  sourceId: string;
  frame: number;
  /** Frames by which another may stand in, if that one is quicker to decode. */
  tolerance: number;
}

/** Bytes of decoded pictures kept: neighbours of what was just decoded, no more. */
const BUDGET = 24 * 2 ** 20;

/** Milliseconds of rest after each picture while something plays: its decoder needs the cores more. */
const REST_WHILE_PLAYING = 200;

/**
 * The frame to decode for a wanted one: the start of its group of pictures where that is near enough, else itself.
 *
 * @param group first frame of its group and the first after it
 */
export function standIn(
  { frame, tolerance }: Pick<WantedThumb, 'frame' | 'tolerance'>,
  group: { start: number; end: number },
  frames: number,
): number {
  if (frame - group.start <= tolerance) return group.start;
  if (group.end < frames && group.end - frame <= tolerance) return group.end;
  return frame;
}

/** Makes small pictures of sources in a worker. What was wanted before and is not any more is not made. */
export class Thumbnailer {
  private readonly pool = new SourcePool(BUDGET);
  private wanted: readonly WantedThumb[] = [];
  private running = false;
  private playing = false;
  private readonly sheets = new PixelSheets();

  constructor(
    private readonly height: number,
    private readonly made: (sourceId: string, frame: number, picture: ImageBitmap) => void,
  ) {
    // As wide as any picture of this height is.
    this.pool.fitTo(() => ({ width: 4 * height, height }));
  }

  locate(sources: SourceLocations): Promise<void> {
    return this.pool.locate(sources);
  }

  /** Replaces what is wanted, the most wanted first. */
  want(wanted: readonly WantedThumb[]): void {
    this.wanted = wanted;
    if (!this.running) void this.run();
  }

  /** While something plays, pictures are made one by one with rests between them. */
  whilePlaying(playing: boolean): void {
    this.playing = playing;
  }

  private async run(): Promise<void> {
    this.running = true;
    for (let next = this.wanted[0]; next; next = this.wanted[0]) {
      this.wanted = this.wanted.slice(1);
      const { sourceId } = next;
      // A picture that cannot be made leaves its place empty; the stage tells why.
      await this.make(next).catch(() => (this.wanted = this.wanted.filter((one) => one.sourceId !== sourceId)));
      if (this.playing) await new Promise((resolve) => setTimeout(resolve, REST_WHILE_PLAYING));
    }
    // Decoders hold memory, and hardware has few of them: nobody needs these until something is wanted again.
    this.pool.prefetch(new Map());
    this.running = false;
  }

  private async make(wanted: WantedThumb): Promise<void> {
    const { frames, size } = await this.pool.get(wanted.sourceId);
    if (!size) return;
    const { width, height } = size;
    const group = frames.group(wanted.frame);
    const sample = await frames.get(standIn(wanted, group, frames.frames));
    const canvas = new OffscreenCanvas(Math.max(1, Math.round((width * this.height) / height)), this.height);
    const pixels = await this.sheets.of(sample);
    sample.close();
    pixels.draw(canvas.getContext('2d')!, 0, 0, canvas.width, canvas.height);
    pixels.close();
    this.made(wanted.sourceId, wanted.frame, canvas.transferToImageBitmap());
  }
}
