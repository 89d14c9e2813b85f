import { mapOfFrame, planeScaled, type PlaneMap, type Size, type SteadyPath } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import type { FrameTimes, SourceFrames } from '../media/source-frames';
import type { MakerPool } from '../picture/makers/maker-pool';
import { parcelOf, sampleOf } from '../picture/makers/parcel';

/** Frames that are kept once they are moved, and their pixels at most: an exposure or a trail asks for the same ones again. */
const KEPT = 6;
const KEPT_PIXELS = 8 * 2 ** 20;

/** A source's frames, moved so that something in them stands still: what is made of frames is made of these. */
export class SteadiedFrames implements SourceFrames {
  /** Milliseconds that moving frames has taken so far. */
  spent = 0;
  private closed = false;
  private readonly kept: { frame: number; sample: VideoSample }[] = [];

  constructor(
    readonly file: SourceFrames,
    readonly path: SteadyPath,
    private readonly makers: MakerPool,
  ) {}

  get frames(): number {
    return this.file.frames;
  }

  get identity(): string | undefined {
    return this.file.identity && `${this.file.identity} steady ${this.path.key}`;
  }

  get times(): FrameTimes | undefined {
    return this.file.times;
  }

  // None is there without being made.
  peek(): undefined {
    return undefined;
  }

  async get(frame: number, signal?: AbortSignal): Promise<VideoSample> {
    const sample = await this.file.get(frame, signal);
    try {
      const known = this.knownAs(frame, sample);
      if (known) return known.clone();
      const map = mapAt(this.path, frame, sample.displayWidth);
      const mirror = this.path.edges === 'mirror';
      const started = performance.now();
      const moved = sampleOf(await this.makers.with((makes) => makes.move(parcelOf(sample), map, mirror)));
      this.spent += performance.now() - started;
      // Whoever let go of it meanwhile would never give back what is kept now.
      if (this.closed) return moved;
      this.kept.unshift({ frame, sample: moved.clone() });
      const pixels = moved.displayWidth * moved.displayHeight;
      for (const old of this.kept.splice(Math.max(1, Math.min(KEPT, Math.floor(KEPT_PIXELS / pixels)))))
        old.sample.close();
      return moved;
    } finally {
      sample.close();
    }
  }

  // A stage that was resized gets its pictures in another size.
  private knownAs(frame: number, { displayWidth }: VideoSample): VideoSample | undefined {
    const at = this.kept.findIndex((one) => one.frame === frame && one.sample.displayWidth === displayWidth);
    if (at < 0) return undefined;
    const [one] = this.kept.splice(at, 1);
    this.kept.unshift(one!);
    return one!.sample;
  }

  prefetch(frames: readonly number[], direction: 1 | -1, passing?: boolean): void {
    this.file.prefetch(frames, direction, passing);
  }

  group(frame: number): { start: number; end: number } {
    return this.file.group(frame);
  }

  fitTo(fit: Size | null): void {
    this.file.fitTo(fit);
  }

  rest(): void {
    for (const old of this.kept.splice(0)) old.sample.close();
  }

  /** Lets go of what was made; the source's own frames stay open. */
  close(): Promise<void> {
    this.closed = true;
    this.rest();
    return Promise.resolve();
  }
}

/** A frame's map in pixels of pictures that may be smaller than the file's. */
const mapAt = (path: SteadyPath, frame: number, width: number): PlaneMap =>
  planeScaled(mapOfFrame(path, frame), width / path.size.width);
