/** How well a preview kept to its clock. */
export interface Punctuality {
  /** Output frames drawn. */
  shown: number;
  /** Output frames whose turn passed before they could be drawn. */
  skipped: number;
  /** The most that a drawn frame came after its moment, in milliseconds. */
  worstDelay: number;
}

/** Counts, frame by frame, how well a preview keeps to its clock. */
export class PunctualityCount {
  private last: number;
  private readonly count: Punctuality = { shown: 0, skipped: 0, worstDelay: 0 };

  /** @param first output frame that play begins with: one that comes before the first that is drawn was skipped */
  constructor(
    first = 0,
    private readonly way: 1 | -1 = 1,
  ) {
    this.last = first - way;
  }

  /**
   * @param turn running number of the output frame, not turned back by a loop
   * @param delay milliseconds since its moment
   */
  drawn(turn: number, delay: number): void {
    this.count.skipped += Math.max(0, (turn - this.last) * this.way - 1);
    this.last = turn;
    this.count.shown++;
    this.count.worstDelay = Math.max(this.count.worstDelay, delay);
  }

  get result(): Punctuality {
    return { ...this.count };
  }
}
