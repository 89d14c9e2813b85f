import { clickAt } from './clicks';
import { heardAt } from './heard-at';

/** Seconds from one click to the next, and before the first. */
const PERIOD = 0.6;
const BEFORE = 0.6;

/** A row of even clicks that somebody taps along with, to learn how late taps arrive. */
export class ClickRun {
  private readonly context = new AudioContext({ latencyHint: 'interactive' });
  private begin = 0;

  constructor(private readonly count: number) {}

  /** Starts them; is kept when the last one has been heard. */
  async start(): Promise<void> {
    const { context, count } = this;
    if (context.state === 'suspended') await context.resume();
    const buffer = context.createBuffer(1, Math.ceil(count * PERIOD * context.sampleRate), context.sampleRate);
    const samples = buffer.getChannelData(0);
    for (let index = 0; index < samples.length; index++) {
      const seconds = index / context.sampleRate;
      samples[index] = 0.6 * clickAt(seconds % PERIOD, Math.floor(seconds / PERIOD) % 4 === 0);
    }
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    this.begin = context.currentTime + BEFORE;
    source.start(this.begin);
    await new Promise<void>((resolve) => (source.onended = () => resolve()));
  }

  /** Wall times (ms) at which the clicks are heard; none before they are started. */
  heard(): number[] {
    if (this.begin === 0) return [];
    return Array.from({ length: this.count }, (_, i) => heardAt(this.context, this.begin + i * PERIOD));
  }

  async stop(): Promise<void> {
    if (this.context.state !== 'closed') await this.context.close();
  }
}
