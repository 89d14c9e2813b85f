import { leavesOf, samePicture, type PicturePlan, type Program, type Size } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { fileColours } from '../picture/file-colours';
import { parcelOf, sampleOf } from '../picture/makers/parcel';
import { PictureSamples, type Studio } from '../picture/samples';
import type { LoopRange } from './look-ahead';
import { ReadyPictures, type ReadyRange } from './ready-pictures';

/** Milliseconds between two words about what is ready. */
const TELL_EVERY = 200;

/** What is made ahead. */
interface AheadOrder {
  program: Program;
  /** What is shown at rest, and what while playing: only where they differ there is something to make. */
  plan: PicturePlan;
  moving: PicturePlan;
  /** Pixels of the canvas. */
  size: Size;
  /** The frame from which play would go on, and what it goes round in. */
  from: number;
  loop: LoopRange | null;
}

/** Makes pictures while nothing else is to be done, in the order in which they would be played, until there is no more room. */
export class FillAhead {
  private readonly ready: ReadyPictures;
  private running: AbortController | undefined;
  private told = 0;
  private last = '[]';

  /** @param tell told of what is ready */
  constructor(
    private readonly studio: Studio,
    room: number,
    private readonly tell: (ranges: readonly ReadyRange[]) => void,
  ) {
    this.ready = new ReadyPictures(room);
  }

  // While something is dragged, a program comes with every animation frame, and mostly nothing is ready: that is not news.
  private tellReady(): void {
    const ranges = this.ready.ranges();
    const text = JSON.stringify(ranges);
    if (text === this.last) return;
    this.last = text;
    this.tell(ranges);
  }

  /** A picture that was made ahead, lent; undefined where there is none. */
  get(frame: number): VideoSample | undefined {
    return this.ready.get(frame);
  }

  /** Lets go of what is not as it was made any more. */
  keepFor(plan: PicturePlan): void {
    this.stop();
    this.ready.keepFor(plan);
    this.tellReady();
  }

  clear(): void {
    this.stop();
    this.ready.clear();
    this.tellReady();
  }

  stop(): void {
    this.running?.abort();
    this.running = undefined;
  }

  /** Goes on until all is ready, room is up or it is stopped. What cannot be made is left out: why is told where it is looked at. */
  begin(order: AheadOrder): void {
    this.stop();
    const stop = new AbortController();
    this.running = stop;
    void this.run(order, stop.signal).catch(() => undefined);
  }

  private async run(order: AheadOrder, signal: AbortSignal): Promise<void> {
    const { plan, moving, from, loop } = order;
    const range = loop && from >= loop.from && from < loop.to ? loop : { from: 0, to: plan.count };
    const length = range.to - range.from;
    const far = (frame: number): number =>
      frame < range.from || frame >= range.to ? Infinity : (frame - from + length) % length;
    for (let step = 0; step < length && !signal.aborted; step++) {
      const frame = range.from + ((from - range.from + step) % length);
      const picture = plan.at(frame);
      if (this.ready.get(frame) || samePicture(picture, moving.at(frame))) {
        // A long way without anything to make must not keep the stage from what comes.
        if (step % 256 === 255) await new Promise((resolve) => setTimeout(resolve));
        continue;
      }
      const sample = await this.make(order, frame, signal);
      if (signal.aborted) return sample.close();
      if (!this.ready.put(frame, picture, sample, far)) break;
      const now = performance.now();
      if (now - this.told < TELL_EVERY) continue;
      this.told = now;
      this.tellReady();
    }
    if (!signal.aborted) this.tellReady();
  }

  private async make({ plan, program, size }: AheadOrder, frame: number, signal: AbortSignal): Promise<VideoSample> {
    const { studio } = this;
    const picture = plan.at(frame);
    const samples = await PictureSamples.of(studio, picture, 'frames', signal);
    const { frame: outer, sizes } = program;
    // Planes of half the size need even ones.
    const even = { width: Math.max(2, size.width & ~1), height: Math.max(2, size.height & ~1) };
    const order = {
      picture,
      sizes: { sizes, ...(outer && { frame: outer }) },
      size: even,
      colours: fileColours(undefined),
    };
    try {
      const parcels = () => leavesOf(picture).map((leaf) => parcelOf(samples.get(leaf)));
      return sampleOf(await studio.makers.with((makes) => makes.draw(order, parcels())));
    } finally {
      samples.close();
    }
  }
}
