import type { VideoSample } from 'mediabunny';
import type { RenderProgress } from './job';
import { Throughput } from './throughput';

/** Milliseconds between two words of progress, and between two small pictures. */
const PROGRESS_EVERY = 200;
const PICTURE_EVERY = 1000;
/** Pixels of a small picture's longer side. */
const SMALL = 160;

/** Thrown when a render was cancelled. */
export class RenderCancelled extends Error {
  override readonly name = 'RenderCancelled';

  constructor() {
    super('The render was cancelled.');
  }
}

/** Lets work go on or wait. */
export class Gate {
  private open: (() => void) | undefined;
  private closed: Promise<void> | undefined;

  /** Has who passes wait from now on, or lets them go on. */
  pause(paused: boolean): void {
    if (!paused) {
      this.open?.();
      this.open = this.closed = undefined;
    } else this.closed ??= new Promise((resolve) => (this.open = resolve));
  }

  /** Waits while it is paused; until the signal, too. */
  async pass(signal: AbortSignal): Promise<boolean> {
    if (!this.closed) return false;
    const aborted = new Promise<void>((resolve) => signal.addEventListener('abort', () => resolve(), { once: true }));
    await Promise.race([this.closed, aborted]);
    return true;
  }
}

interface Work {
  total: number;
  /** Bytes written so far. */
  bytes(): number;
  onProgress(progress: RenderProgress): void;
  signal: AbortSignal;
  gate: Gate;
}

/** Says how far a render is, now and then; waits while it is paused, and ends it where it is called off. */
export class Told {
  private speed = new Throughput();
  private reported = 0;
  private pictured = 0;
  /** Milliseconds for which it was paused. */
  waited = 0;

  constructor(private readonly work: Work) {}

  /**
   * So many frames are done.
   *
   * @param sample what was made last, which stays the caller's
   * @throws RenderCancelled
   */
  async done(done: number, sample?: VideoSample): Promise<void> {
    const { signal, gate, total, onProgress, bytes } = this.work;
    if (signal.aborted) throw new RenderCancelled();
    const now = performance.now();
    if (now - this.reported >= PROGRESS_EVERY) {
      this.reported = now;
      const framesPerSecond = this.speed.mark(done, now);
      const picture = sample && now - this.pictured >= PICTURE_EVERY ? await smallPicture(sample) : undefined;
      if (picture) this.pictured = now;
      onProgress({
        ...{ done, total, framesPerSecond, bytes: bytes() },
        secondsLeft: framesPerSecond > 0 ? (total - done) / framesPerSecond : Infinity,
        ...(picture && { picture }),
      });
    }
    const before = performance.now();
    if (await gate.pass(signal)) {
      // The time that was waited is no work.
      this.waited += performance.now() - before;
      this.speed = new Throughput();
      if (signal.aborted) throw new RenderCancelled();
    }
  }

  all(): void {
    const { total, onProgress, bytes } = this.work;
    const framesPerSecond = this.speed.mark(total, performance.now());
    onProgress({ done: total, total, framesPerSecond, secondsLeft: 0, bytes: bytes() });
  }
}

function smallPicture(sample: VideoSample): Promise<Blob> {
  const scale = SMALL / Math.max(sample.displayWidth, sample.displayHeight);
  const [width, height] = [sample.displayWidth, sample.displayHeight].map((side) =>
    Math.max(1, Math.round(side * scale)),
  );
  const sheet = new OffscreenCanvas(width!, height!);
  sample.draw(sheet.getContext('2d', { alpha: false })!, 0, 0, width!, height!);
  return sheet.convertToBlob({ type: 'image/jpeg', quality: 0.7 });
}
