/** Waits for something that is to be heard of now and then, and loses patience where it is not. */
export class Patience {
  private timer: NodeJS.Timeout | undefined;
  private lose!: (error: Error) => void;
  /** Rejects with the error once patience is lost; never resolves. */
  readonly lost: Promise<never>;

  /** @param most milliseconds between two words of it */
  constructor(
    private readonly most: number,
    private readonly error: Error,
  ) {
    this.lost = new Promise((_, reject) => (this.lose = reject));
    // Nobody need be waiting for it.
    this.lost.catch(() => undefined);
    this.heard();
  }

  /** Something was heard, or is to go on. */
  heard(): void {
    this.end();
    this.timer = setTimeout(() => this.lose(this.error), this.most);
  }

  /** It has ended, or is to say nothing for a while. */
  end(): void {
    clearTimeout(this.timer);
  }
}
