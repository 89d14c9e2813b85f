/** How far pictures were from the sound they belong to, in milliseconds; above 0 they came later. */
interface SoundOffset {
  median: number;
  /** The one furthest off, either way. */
  worst: number;
  pictures: number;
}

/** Pictures that are remembered: ten minutes at 60 a second. */
const MOST = 36_000;

/** Watches pictures come beside the sound they belong to. */
export class OffsetWatch {
  private offsets: number[] = [];

  begin(): void {
    this.offsets = [];
  }

  /** A picture came at a wall time, and its sound is heard at another (ms). */
  saw(came: number, heard: number): void {
    if (this.offsets.length < MOST) this.offsets.push(came - heard);
  }

  /** What was seen since the beginning; undefined of nothing. */
  figures(): SoundOffset | undefined {
    const { offsets } = this;
    if (offsets.length === 0) return undefined;
    const sorted = offsets.toSorted((a, b) => a - b);
    const [least, most] = [sorted[0]!, sorted.at(-1)!];
    return {
      median: sorted[sorted.length >> 1]!,
      worst: Math.abs(least) > Math.abs(most) ? least : most,
      pictures: sorted.length,
    };
  }
}
