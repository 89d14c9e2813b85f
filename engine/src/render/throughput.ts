/** Milliseconds of the past that the rate is averaged over. */
const WINDOW = 4000;

/** Frames per second of work, over the last few seconds. */
export class Throughput {
  private readonly marks: { at: number; done: number }[] = [];

  /** @param now milliseconds, of any clock that only rises */
  mark(done: number, now: number): number {
    this.marks.push({ at: now, done });
    while (this.marks.length > 2 && now - this.marks[0]!.at > WINDOW) this.marks.shift();
    const first = this.marks[0]!;
    return now > first.at ? ((done - first.done) * 1000) / (now - first.at) : 0;
  }
}
