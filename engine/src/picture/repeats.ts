import type { SourceFrames } from '../media/source-frames';
import type { MakerPool } from './makers/maker-pool';
import { parcelOf } from './makers/parcel';

/** Which frames of sources show once more what the one before them shows; each is looked at once. */
export class Repeats {
  private known = new WeakMap<SourceFrames, Map<number, boolean>>();

  constructor(private readonly makers: MakerPool) {}

  /** Lets go of what is known: frames may show something else now. */
  forget(): void {
    this.known = new WeakMap();
  }

  /** @param frame 1 … frames − 1. @throws what the decoder throws */
  async isRepeated(frames: SourceFrames, frame: number, signal?: AbortSignal): Promise<boolean> {
    const known = this.known.get(frames) ?? new Map<number, boolean>();
    this.known.set(frames, known);
    const before = known.get(frame);
    if (before !== undefined) return before;
    const one = await frames.get(frame - 1, signal);
    try {
      const other = await frames.get(frame, signal);
      try {
        const same = await this.makers.with((makes) => makes.same(parcelOf(one), parcelOf(other)));
        known.set(frame, same);
        return same;
      } finally {
        other.close();
      }
    } finally {
      one.close();
    }
  }
}
