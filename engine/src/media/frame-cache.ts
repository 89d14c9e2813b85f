import type { VideoSample } from 'mediabunny';
import type { Keeps, PictureBudget } from './picture-budget';

/** Frames behind the playhead are this many times less wanted than frames ahead of it. */
const BEHIND = 4;

/**
 * Decoded frames by index, within a budget that several share. Where there is no room, the frame farthest from the playhead
 * goes, distance against the direction of play counting more. The cache owns its frames and closes them.
 */
export class FrameCache implements Keeps {
  private readonly frames = new Map<number, VideoSample>();
  private kept = 0;
  private focus = 0;
  private direction: 1 | -1 = 1;

  /** @param budget of decoded pictures (one is always kept) */
  constructor(private readonly budget: PictureBudget) {}

  get bytes(): number {
    return this.kept;
  }

  dropOne(): boolean {
    if (this.frames.size <= 1) return false;
    this.drop(this.leastWanted());
    return true;
  }

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
    if (this.frames.size === 0) this.budget.join(this);
    this.frames.set(frame, sample);
    this.kept += sizeOf(sample);
    this.budget.makeRoom();
  }

  clear(): void {
    for (const frame of [...this.frames.keys()]) this.drop(frame);
    this.budget.leave(this);
  }

  private drop(frame: number): void {
    const sample = this.frames.get(frame)!;
    this.frames.delete(frame);
    this.kept -= sizeOf(sample);
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
  // Values a pixel: 4:2:0 unless the format says otherwise; of two bytes where there are 10 or 12 bits.
  const format = sample.format ?? 'RGBA';
  const values = /^(RGB|BGR)/.test(format) ? 4 : format.startsWith('I444') ? 3 : format.startsWith('I422') ? 2 : 1.5;
  return sample.codedWidth * sample.codedHeight * values * (/P1[02]$/.test(format) ? 2 : 1);
}
