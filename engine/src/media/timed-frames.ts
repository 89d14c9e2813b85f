import type { Size } from '@hastig/core';
import type { FrameGrid, FrameIndex } from '@hastig/probe';
import type { VideoSample } from 'mediabunny';
import type { FrameTimes, SourceFrames } from './source-frames';

/** A source whose frames come at irregular times, counted at an even rate along them. */
export class TimedFrames implements SourceFrames {
  readonly frames: number;
  readonly times: FrameTimes;

  /**
   * @param file the file's own frames, one after the other
   * @param grid which of them each position shows
   */
  constructor(
    private readonly file: SourceFrames,
    private readonly index: FrameIndex,
    private readonly grid: FrameGrid,
  ) {
    this.frames = grid.positions;
    this.times = {
      frameAt: (position) => grid.frameAt(position),
      placeAt: (position) => grid.placeOf(grid.frameAt(position)),
    };
  }

  get identity(): string | undefined {
    const { file, grid } = this;
    // Its positions show other frames than the file's own, one by one.
    return file.identity && `${file.identity} at ${grid.kind} ${grid.rate.num}/${grid.rate.den}`;
  }

  peek(position: number): VideoSample | undefined {
    return this.file.peek(this.grid.frameAt(position));
  }

  async get(position: number, signal?: AbortSignal): Promise<VideoSample> {
    if (!(position >= 0 && position < this.frames)) throw new RangeError(`there is no frame ${position}`);
    return this.file.get(this.grid.frameAt(position), signal);
  }

  prefetch(positions: readonly number[], direction: 1 | -1, passing = false): void {
    const frames = new Set(positions.map((position) => this.grid.frameAt(position)));
    this.file.prefetch([...frames], direction, passing);
  }

  group(position: number): { start: number; end: number } {
    const { start, end } = this.file.group(this.grid.frameAt(position));
    const first = (frame: number): number =>
      frame < this.index.timestamps.length ? Math.min(this.frames, this.grid.positionOf(frame)) : this.frames;
    return { start: first(start), end: first(end) };
  }

  fitTo(fit: Size | null): void {
    this.file.fitTo(fit);
  }

  rest(): void {
    this.file.rest();
  }

  close(): Promise<void> {
    return this.file.close();
  }
}
