/** Turns of the event loop that something takes. */
export const turns = async (count: number): Promise<void> => {
  for (let turn = 0; turn < count; turn++) await new Promise((resolve) => setImmediate(resolve));
};

export interface Habits {
  /** Frames of its own that it has; while none is left it stands still. */
  pool: number;
  /** Pictures it holds back to bring them into order. */
  reorders: number;
  /** Pictures that it gives at once, after a pause, as hardware may. */
  burst: number;
  pause: number;
}

/** What the stand-ins have on loan, now and at most. */
export const lent = { now: 0, most: 0 };

/** Makes a frame that tells when it is given back. */
type MakeFrame = (timestamp: number, close: () => void) => VideoFrame;

const bareFrame: MakeFrame = (timestamp, close) => ({ timestamp, close }) as unknown as VideoFrame;

/** Stands for a hardware decoder: a pool of frames, pictures held back, given late and in bursts. */
export function standIn(habits: Habits, makeFrame = bareFrame): typeof VideoDecoder {
  class StandIn extends EventTarget {
    static isConfigSupported = (config: VideoDecoderConfig) => Promise.resolve({ supported: true, config });

    state: CodecState = 'unconfigured';
    decodeQueueSize = 0;
    private readonly queue: number[] = [];
    private readonly inside: number[] = [];
    private readonly due: number[] = [];
    private own = 0;
    private waiting: (() => void)[] = [];
    private running: Promise<void> = Promise.resolve();

    constructor(private readonly init: VideoDecoderInit) {
      super();
    }

    configure(): void {
      this.state = 'configured';
    }

    decode(chunk: EncodedVideoChunk): void {
      this.queue.push(chunk.timestamp);
      this.decodeQueueSize++;
      this.running = this.running.then(async () => {
        await turns(1);
        const next = this.queue.shift();
        if (next === undefined) return;
        this.decodeQueueSize--;
        this.dispatchEvent(new Event('dequeue'));
        this.inside.push(next);
        this.inside.sort((a, b) => a - b);
        if (this.inside.length > habits.reorders) this.due.push(this.inside.shift()!);
        if (this.due.length >= habits.burst) await this.give();
      });
    }

    async flush(): Promise<void> {
      await this.running;
      this.due.push(...this.inside.splice(0));
      await this.give();
    }

    close(): void {
      this.state = 'closed';
      this.queue.length = 0;
    }

    private async give(): Promise<void> {
      await turns(habits.pause);
      while (this.due.length > 0 && this.state === 'configured') {
        // Stands still until a frame comes back.
        while (this.own >= habits.pool) await new Promise<void>((resolve) => this.waiting.push(resolve));
        this.own++;
        lent.most = Math.max(lent.most, ++lent.now);
        const timestamp = this.due.shift()!;
        let closed = false;
        const close = (): void => {
          if (closed) throw new Error('closed twice');
          closed = true;
          this.own--;
          lent.now--;
          this.waiting.splice(0).forEach((resolve) => resolve());
        };
        this.init.output(makeFrame(timestamp, close));
      }
    }
  }
  return StandIn as unknown as typeof VideoDecoder;
}

/** Kinds of hardware decoders, by what is hard about them. */
export const hardware: readonly (readonly [string, Habits])[] = [
  ['one that has five frames in all', { pool: 5, reorders: 2, burst: 1, pause: 0 }],
  ['one that has two', { pool: 2, reorders: 1, burst: 1, pause: 0 }],
  ['one that gives late and three at once', { pool: 5, reorders: 1, burst: 3, pause: 6 }],
  ['one that brings nothing into order', { pool: 5, reorders: 1, burst: 1, pause: 3 }],
];
