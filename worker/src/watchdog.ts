/** Watches over something that is to be heard of now and then. */
export class Watchdog {
  private timer: NodeJS.Timeout | undefined;
  private expire!: (error: Error) => void;
  /** Rejects with the error once nothing was heard for too long; never resolves. */
  readonly expired: Promise<never>;

  /** @param most milliseconds between two resets */
  constructor(
    private readonly most: number,
    private readonly error: Error,
  ) {
    this.expired = new Promise((_, reject) => (this.expire = reject));
    // Nobody need be waiting for it.
    this.expired.catch(() => undefined);
    this.reset();
  }

  /** Something was heard, or is to go on. */
  reset(): void {
    this.stop();
    this.timer = setTimeout(() => this.expire(this.error), this.most);
  }

  /** It has ended, or is to say nothing until the next reset. */
  stop(): void {
    clearTimeout(this.timer);
  }
}
