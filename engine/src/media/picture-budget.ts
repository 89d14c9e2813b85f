/** Something that keeps pictures and can let one go. */
export interface Keeps {
  readonly bytes: number;
  /** Lets go of what it wants least; false where it keeps no more than one. */
  dropOne(): boolean;
}

const MEGABYTE = 2 ** 20;
/** Bytes of pictures for each gigabyte of the device's memory, and what is too little and enough for any. */
const PER_GIGABYTE = 12 * MEGABYTE;
const LEAST = 32 * MEGABYTE;
const MOST = 96 * MEGABYTE;
/** Gigabytes of a device that does not tell. */
const UNTOLD = 4;

/**
 * Bytes of decoded pictures that a stage may keep on this device.
 *
 * @param gigabytes of memory, as browsers tell them (W3C, Device Memory: rounded, 8 at the most)
 */
export function bytesForDevice(
  gigabytes = (globalThis.navigator as { deviceMemory?: number } | undefined)?.deviceMemory ?? UNTOLD,
): number {
  return Math.min(MOST, Math.max(LEAST, gigabytes * PER_GIGABYTE));
}

/** Room for decoded pictures that several sources share: where it is full, the one that keeps most lets go first. */
export class PictureBudget {
  private readonly keepers = new Set<Keeps>();

  /** @param bytes at most, but for one picture of each source in use */
  constructor(private readonly bytes: number) {}

  join(keeper: Keeps): void {
    this.keepers.add(keeper);
  }

  leave(keeper: Keeps): void {
    this.keepers.delete(keeper);
  }

  /** Called after a picture was added. */
  makeRoom(): void {
    let total = 0;
    for (const { bytes } of this.keepers) total += bytes;
    while (total > this.bytes) {
      const [largest] = [...this.keepers].sort((a, b) => b.bytes - a.bytes);
      const before = largest?.bytes ?? 0;
      if (!largest?.dropOne()) {
        // One picture is more than its share: the others need not make up for it, unless they keep several.
        const other = [...this.keepers].find((keeper) => keeper !== largest && keeper.dropOne());
        if (!other) return;
        total = [...this.keepers].reduce((sum, { bytes }) => sum + bytes, 0);
        continue;
      }
      total -= before - largest.bytes;
    }
  }
}
