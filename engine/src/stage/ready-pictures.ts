import { pictureKey, type PicturePlan, type SeenPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';

/** Output frames, `to` not included. */
export interface ReadyRange {
  from: number;
  to: number;
}

interface Kept {
  /** Of what it shows, see `pictureKey`. */
  key: string;
  sample: VideoSample;
  bytes: number;
}

/** Pictures that were made ahead, by their output frames, so that play shows them as they will be rendered. */
export class ReadyPictures {
  private readonly kept = new Map<number, Kept>();
  private bytes = 0;

  /** @param room bytes of pictures that are kept */
  constructor(private readonly room: number) {}

  /** A picture that was made, lent; undefined where there is none. */
  get(frame: number): VideoSample | undefined {
    return this.kept.get(frame)?.sample;
  }

  /**
   * Keeps a picture, in place of those that are played later than it.
   *
   * @param far how many frames after now a frame is played
   * @returns whether there was room for it; it is closed where there was not
   */
  put(frame: number, picture: SeenPicture, sample: VideoSample, far: (frame: number) => number): boolean {
    const bytes = sample.allocationSize();
    this.drop(frame);
    const later = [...this.kept.keys()].filter((other) => far(other) > far(frame)).sort((a, b) => far(b) - far(a));
    while (this.bytes + bytes > this.room && later.length > 0) this.drop(later.shift()!);
    if (this.bytes + bytes > this.room) {
      sample.close();
      return false;
    }
    this.kept.set(frame, { key: pictureKey(picture), sample, bytes });
    this.bytes += bytes;
    return true;
  }

  /** Lets go of what a plan shows otherwise. */
  keepFor(plan: PicturePlan): void {
    for (const [frame, { key }] of this.kept)
      if (frame >= plan.count || pictureKey(plan.at(frame)) !== key) this.drop(frame);
  }

  clear(): void {
    for (const frame of [...this.kept.keys()]) this.drop(frame);
  }

  /** The frames that are there, in order, those beside each other together. */
  ranges(): ReadyRange[] {
    const ranges: ReadyRange[] = [];
    for (const frame of [...this.kept.keys()].sort((a, b) => a - b)) {
      const last = ranges.at(-1);
      if (last?.to === frame) last.to++;
      else ranges.push({ from: frame, to: frame + 1 });
    }
    return ranges;
  }

  private drop(frame: number): void {
    const kept = this.kept.get(frame);
    if (!kept) return;
    kept.sample.close();
    this.bytes -= kept.bytes;
    this.kept.delete(frame);
  }
}
