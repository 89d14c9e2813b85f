/** How loud it is: the highest sample of left and right, as factors of full scale. */
export type Levels = readonly [left: number, right: number];

/** Seconds whose highest sample is told as one. */
const BLOCK = 0.02;
/** Seconds after which what was heard is forgotten. */
const KEPT = 1;

interface Block {
  at: number;
  until: number;
  levels: Levels;
}

const SILENT: Levels = [0, 0];

/** Remembers how loud what is played is, by the times of its clock. */
export class LevelWatch {
  private blocks: Block[] = [];

  /** @param at time of the clock at which the first sample is heard */
  add(at: number, channels: readonly Float32Array[], rate: number): void {
    const size = Math.max(1, Math.round(BLOCK * rate));
    const count = channels[0]?.length ?? 0;
    for (let from = 0; from < count; from += size) {
      const to = Math.min(count, from + size);
      const [left, right = left] = channels.map((samples) => peakOf(samples, from, to));
      this.blocks.push({ at: at + from / rate, until: at + to / rate, levels: [left ?? 0, right ?? 0] });
    }
    const old = at - KEPT;
    if (this.blocks[0] && this.blocks[0].until < old) this.blocks = this.blocks.filter(({ until }) => until >= old);
  }

  /** How loud it is at a time of the clock; silent where nothing is known. */
  at(time: number): Levels {
    return this.blocks.findLast(({ at, until }) => at <= time && time < until)?.levels ?? SILENT;
  }

  /** What was to be heard from a time on is not. */
  cut(time: number): void {
    this.blocks = this.blocks.filter(({ at }) => at < time);
  }
}

function peakOf(samples: Float32Array, from: number, to: number): number {
  let most = 0;
  for (let n = from; n < to; n++) most = Math.max(most, Math.abs(samples[n]!));
  return most;
}
