import type { VideoSample } from 'mediabunny';

/** Frames behind the playhead are this many times less wanted than frames ahead of it. */
const BEHIND = 4;

/**
 * Decoded frames by index, bounded by bytes. When it is full, the frame farthest from the playhead goes, distance
 * against the direction of play counting more. The cache owns its frames and closes them.
 */
export class FrameCache {
  private readonly frames = new Map<number, VideoSample>();
  private bytes = 0;
  private focus = 0;
  private direction: 1 | -1 = 1;

  /** @param budget bytes of decoded pictures to keep at most (one is always kept) */
  constructor(private readonly budget: number) {}

  /** Says where the playhead is in the source and which way it moves. */
  aim(focus: number, direction: 1 | -1): void {
    this.focus = focus;
    this.direction = direction;
  }

  /** The frame, lent until the next insertion; undefined when it is not here. */
  get(frame: number): VideoSample | undefined {
    return this.frames.get(frame);
  }

  has(frame: number): boolean {
    return this.frames.has(frame);
  }

  /** Takes a frame over and closes those that no longer fit, perhaps this very one. */
  put(frame: number, sample: VideoSample): void {
    if (this.frames.has(frame)) {
      sample.close();
      return;
    }
    this.frames.set(frame, sample);
    this.bytes += sizeOf(sample);
    while (this.bytes > this.budget && this.frames.size > 1) this.drop(this.leastWanted());
  }

  clear(): void {
    for (const frame of [...this.frames.keys()]) this.drop(frame);
  }

  private drop(frame: number): void {
    const sample = this.frames.get(frame)!;
    this.frames.delete(frame);
    this.bytes -= sizeOf(sample);
    sample.close();
  }

  private leastWanted(): number {
    let worst = -1;
    let worstDistance = -1;
    for (const frame of this.frames.keys()) {
      const ahead = (frame - this.focus) * this.direction;
      const distance = ahead >= 0 ? ahead : -ahead * BEHIND;
      if (distance > worstDistance) [worst, worstDistance] = [frame, distance];
    }
    return worst;
  }
}

function sizeOf(sample: VideoSample): number {
  // 4:2:0, the format every decoder here gives: one and a half values a pixel, of two bytes where there are 10 or 12 bits.
  const bytes = /P1[02]$/.test(sample.format ?? '') ? 2 : 1;
  return sample.codedWidth * sample.codedHeight * 1.5 * bytes;
}
